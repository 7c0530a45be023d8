"""The robot at tie-rod ends of another length: what the told count leaves of the toe, and what others would leave.

It reads what came off, measures both ends with a caliper, and puts on what the step says.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from fair_spindle.core.basics.wheels import wheels_at
from fair_spindle.examiner.followed import Desk, FollowedJob
from fair_spindle.practice.car import DEGREE, PITCH
from fair_spindle.practice.drawn import draw_car
from fair_spindle.practice.exercises import find_exercise

EXERCISE = "rod_end"
# Standard uncertainty of a caliper at an end, and of a tape from joint to joint; the old end's own length. [mm]
CALIPER, TAPE, OLD_END = 0.2, 1.0, 84.0
TOLD = re.compile(r"Put on (?:(\d+) turns?)? ?(?:(\d+) flats?)? ?± ([\d.]+) flats")
WAYS = {
    "told": "by the count told",
    "plain": "by plain counting",
    "length": "as long as the old, by tape",
    "flat": "half a flat alone",
}


@dataclass
class Changed:
    """How far each wheel's toe is from where it was, by way of counting [°], and whether the told ± held."""

    toe: dict[str, list[float]] = field(default_factory=lambda: {way: [] for way in WAYS})
    held: list[bool] = field(default_factory=list)


def change_ends(desk: Desk, seed: int, found: Changed) -> None:
    """Let the robot renew both ends of one car."""
    rng = np.random.default_rng([seed, 5])
    job, car = FollowedJob(desk, f"blind-ends-{seed:05}", EXERCISE, seed), draw_car(find_exercise(EXERCISE), seed)
    for wheel in wheels_at("front"):
        job.read_at(f"{wheel}.tie.turns_off")
        for key, long in ((f"{wheel}.tie.end", OLD_END), (f"{wheel}.new_end.length", OLD_END + car.new_end)):
            typed = {"value": {"text": f"{long + CALIPER * rng.normal():.1f}", "unit": "mm"}}
            job.send(kind="entered", key=key, method="typed", typed=typed)
    steps = {step["key"]: step["told"] for step in desk.get(job.path)["steps"]}
    for wheel in wheels_at("front"):
        said = TOLD.search(" ".join(steps[f"tie_rods.count_on@{wheel}"]))
        if said is None:
            raise RuntimeError(f"no count is told for {wheel}")
        corner = car.corners[wheel]
        on = int(said[1] or 0) + int(said[2] or 0) / 6
        needed = corner.end_turns + car.new_end / PITCH
        found.held.append(abs(on - needed) <= float(said[3]) / 6 + 1 / 12)
        longer = {
            "told": (needed - on) * PITCH,
            "plain": car.new_end,
            "length": TAPE * rng.normal(),
            "flat": PITCH / 6 * rng.uniform(-0.5, 0.5),
        }
        was = corner.wheel.angles(0.0)[0]
        for way, by in longer.items():
            found.toe[way].append(float(replace(corner.wheel, rod=by).angles(0.0)[0] - was) / DEGREE)


def examine_ends(desk: Desk, count: int, first: int = 1) -> Mapping[str, float]:
    """95th percentiles of what each way leaves of the toe [°], and how often the told ± held."""
    found = Changed()
    for seed in range(first, first + count):
        change_ends(desk, seed, found)
    left = {way: float(np.quantile(np.abs(toes), 0.95)) for way, toes in found.toe.items()}
    return {**left, "held": float(np.mean(found.held))}
