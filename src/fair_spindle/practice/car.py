"""A car nobody knows: drawn from a seed, with what is wrong by its exercise, and what its record believes of it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import cast

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import AXLES, WHEELS
from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.exercises import Exercise
from fair_spindle.practice.linkage import Upright

Vector = NDArray[np.float64]
DEGREE = np.pi / 180
TRACK, UNSPRUNG, PITCH, END_TURNS = 1500.0, 400.0, 1.5, 22.5
RATIO = {"front": 0.95, "rear": 0.8}
OLD, NEW = (32.0, 380.0), (48.0, 316.0)
BAR = {"front": 12.0, "rear": 6.0}
RUBBER = 2.5
WANTED = {"toe": 0.1, "camber": -1.2}
# How the record's numbers were got, one standard deviation: points by tape [mm], rates [share], free lengths [mm].
TAPE, RATE_SPREAD, FREE_SPREAD, RATIO_SPREAD = 1.15, 0.02, 1.0, 0.01

TYPICAL: dict[str, dict[str, tuple[float, float, float]]] = {
    "double_wishbone": {
        "upper_front": (120, 396, 496),
        "upper_rear": (-154, 397, 503),
        "upper_ball": (-30, 647, 543),
        "lower_front": (167, 338, 195),
        "lower_rear": (-224, 355, 181),
        "lower_ball": (16, 735, 195),
        "tie_inner": (-114, 349, 217),
        "tie_outer": (-120, 706, 215),
        "wheel_center": (-2, 760, 320),
    },
    "strut": {
        "strut_top": (-20, 571, 865),
        "strut_low": (4, 622, 420),
        "lower_front": (14, 382, 200),
        "lower_rear": (-289, 374, 206),
        "lower_ball": (20, 695, 169),
        "tie_inner": (-127, 337, 263),
        "tie_outer": (-133, 674, 253),
        "wheel_center": (-3, 741, 320),
    },
    "trailing_lateral": {
        "trailing_body": (430, 590, 330),
        "lateral_front_inner": (60, 330, 225),
        "lateral_front_outer": (50, 690, 215),
        "lateral_rear_inner": (-120, 300, 235),
        "lateral_rear_outer": (-110, 695, 225),
        "upper_inner": (-30, 400, 440),
        "upper_outer": (-20, 660, 455),
        "wheel_center": (0, 745, 310),
    },
    "semi_trailing": {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)},
    "five_link": {
        "upper_front_inner": (110, 398, 498),
        "upper_front_outer": (-10, 648, 541),
        "upper_rear_inner": (-160, 400, 503),
        "upper_rear_outer": (-45, 645, 546),
        "lower_front_inner": (165, 340, 195),
        "lower_front_outer": (25, 732, 195),
        "lower_rear_inner": (-225, 355, 184),
        "lower_rear_outer": (-12, 738, 192),
        "tie_inner": (-114, 349, 217),
        "tie_outer": (-120, 706, 215),
        "wheel_center": (-2, 760, 320),
    },
}
# What is on a thread, by layout: the field of the link that holds the toe, then of the adjuster beside it.
THREADS = {
    "strut": ("tie",),
    "double_wishbone": ("tie", "upper"),
    "five_link": ("tie", "upper_front"),
    "trailing_lateral": ("lateral_front", "upper"),
    "semi_trailing": ("arm",),
}
# Axles whose wheels do not steer.
REAR_ONLY = ("trailing_lateral", "semi_trailing")
TOE_LINKS = ("Tie rod", "Toe link", "Front lateral link")


@dataclass(frozen=True)
class Corner:
    """One wheel and its leg as they truly are: loads [N], springs [N/mm, mm], height of the arch [mm]."""

    wheel: Upright
    sprung: float
    old: tuple[float, float]
    new: tuple[float, float]
    ratio: float
    arch: float
    end_turns: float


@dataclass(frozen=True)
class TrueCar:
    """The whole truth of an exercise, and what the record believes, as entries."""

    corners: dict[str, Corner]
    bar_gap: dict[str, float]
    clamped_at: dict[str, float]
    friction: float
    floor: float
    camber_bias: float
    new_end: float
    record: tuple[Entered, ...]

    def rod_step(self, wheel: str, adjuster: str) -> tuple[str, float]:
        """Which length an adjuster of a name changes, and by how much a step. [mm]"""
        if adjuster in TOE_LINKS:
            return "rod", PITCH / 6
        return "other", 0.5 if self.corners[wheel].wheel.layout == "strut" else PITCH / 6


def draw_car(exercise: Exercise, seed: int, layouts: dict[str, str] | None = None) -> TrueCar:
    """Draw the car of an exercise; the same seed gives the same car to the last digit."""
    rng = np.random.default_rng([seed, sum(exercise.key.encode())])
    told = {"front": "strut", "rear": "double_wishbone", **exercise.layouts, **(layouts or {})}
    record: list[Entered] = [*_of_axles(told)]
    corners: dict[str, Corner] = {}
    loads = {}
    for axle in AXLES:
        shape = {name: np.array(point) + rng.normal(0, 8, 3) for name, point in TYPICAL[told[axle]].items()}
        ratio = RATIO[axle] * exercise.ratio_share.get(axle, 1.0) + RATIO_SPREAD * rng.normal()
        for side, sign in (("left", 1), ("right", -1)):
            key = f"{axle}.{side}"
            points = {
                name: cast(Vector, (point + rng.normal(0, 0.7, 3)) * np.array([1, sign, 1]))
                for name, point in shape.items()
            }
            toe, camber = rng.normal([0.1, -0.9], [0.05, 0.2]) * DEGREE
            shift = exercise.front_shift_deg if axle == "front" else exercise.rear_shift_deg
            wheel = Upright(told[axle], sign, points, toe + sign * shift * DEGREE, camber)
            if exercise.lowered_mm:
                wheel = _sunk(wheel, exercise.lowered_mm)
            weight = rng.normal(3400 if axle == "front" else 2700, 60)
            loads[key] = weight
            old, new = (
                (rate * (1 + RATE_SPREAD * rng.normal()), free + FREE_SPREAD * rng.normal())
                for rate, free in (OLD, NEW)
            )
            arch = 360 + rng.normal(0, 3)
            turns = round(6 * (END_TURNS + rng.normal(0, 1))) / 6
            corners[key] = Corner(wheel, weight - UNSPRUNG, old, new, ratio, arch, turns)
            record += _of_wheel(key, told[axle], points, rng)
    weighed = {key.number: Typed(f"{loads[key] * (1 + 0.004 * rng.normal()):.0f}", "n") for key in WHEELS}
    record += [Entered("car.loads", "four_scales", weighed), enter("car.wheelbase", 2600)]
    return TrueCar(
        corners,
        dict(exercise.bar_gap_mm),
        dict(exercise.clamped_at_mm),
        exercise.friction_mm,
        exercise.floor_deg * DEGREE,
        exercise.camber_bias_deg * DEGREE,
        exercise.new_end_mm,
        tuple(record),
    )


def _sunk(wheel: Upright, by: float) -> Upright:
    """The wheel as it stands with the body lowered: its angles there become those it has in place."""
    toe, camber = wheel.angles(by) - wheel.angles(0.0)
    return Upright(wheel.layout, wheel.side, wheel.points, wheel.toe + float(toe), wheel.camber + float(camber))


def enter(key: str, value: float, unit: str = "mm", part: str = "value", method: str = "typed") -> Entered:
    """A field as a tuner types it."""
    return Entered(key, method, {part: Typed(f"{value:.4f}".rstrip("0").rstrip("."), unit)})


def _of_axles(layouts: dict[str, str]) -> Iterator[Entered]:
    for axle in AXLES:
        yield Entered(f"{axle}.layout", choice=layouts[axle])
        if axle == "front":
            yield Entered("front.steer", choice="behind")
        yield enter(f"{axle}.track", TRACK)
        yield enter(f"{axle}.unsprung", UNSPRUNG, "n")
        yield enter(f"{axle}.motion_ratio", RATIO[axle], "spring_per_wheel")
        yield from springs_of(axle, "spring", OLD)
        yield from springs_of(axle, "new_spring", NEW)


def springs_of(axle: str, kind: str, printed: tuple[float, float]) -> Iterator[Entered]:
    """A spring as its sheet prints it: rate [N/mm] and free length [mm]."""
    yield enter(f"{axle}.{kind}.rate", printed[0], "n_per_mm")
    yield enter(f"{axle}.{kind}.free", printed[1])
    if kind == "new_spring":
        yield Entered(f"{axle}.new_spring.fit", choice="coil")


def _of_wheel(key: str, layout: str, points: dict[str, Vector], rng: np.random.Generator) -> Iterator[Entered]:
    for name, point in points.items():
        read = point + rng.normal(0, TAPE, 3)
        xyz = {axis: Typed(f"{value:.1f}", "mm") for axis, value in zip("xyz", read, strict=True)}
        yield Entered(f"{key}.point.{name}", "point", xyz)
    yield from threads_and_targets(key, layout)


def threads_and_targets(key: str, layout: str) -> Iterator[Entered]:
    """What can be turned on a wheel of the bay, and what is wanted there."""
    for arm in THREADS[layout]:
        yield Entered(f"{key}.{arm}.adjust", choice="one_thread")
        yield enter(f"{key}.{arm}.pitch", PITCH, "pitch_mm")
    if layout == "strut":
        yield enter(f"{key}.top_plate", 14)
    for name, value in WANTED.items():
        if name == "toe" or layout != "semi_trailing":
            yield enter(f"{key}.target.{name}", value, "deg")
