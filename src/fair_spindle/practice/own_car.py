"""A copy of a car of the workshop, with a truth of its own drawn inside the ± of what its record says."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.wheels import AXLES, WHEELS, Wheel, other_side, wheels_at
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.practice.car import (
    DEGREE,
    END_TURNS,
    FREE_SPREAD,
    NEW,
    OLD,
    RATE_SPREAD,
    STEERING_RATIO,
    UNSPRUNG,
    WANTED,
    Corner,
    TrueCar,
    wrench_of,
)
from fair_spindle.practice.layouts import REAR_ONLY, THREADS, TYPICAL, ratio_of, steered_solid
from fair_spindle.practice.linkage import Upright
from fair_spindle.practice.record import read_steering, springs_of, threads_and_targets
from fair_spindle.practice.steered import Steering, SteeringParts

Vector = NDArray[np.float64]
Record = Mapping[str, Quantity]
WEIGHT = {"front": 3400.0, "rear": 2700.0}
# How far an unread point lies from the usual one of its layout, and today's angles from what is wanted. [mm, °]
UNREAD, APART = 8.0, {"toe": 0.15, "camber": 0.3}
FRICTION = 2.0


def copy_car(entries: Sequence[Entered], record: Record, words: Mapping[str, str], seed: int) -> TrueCar:
    """Draw what is true of a copy; the same seed and record give the same car.

    Its record goes with it as it stands, but for what can be turned: these are the threads of the practice bay.

    Raises InputError: An axle of a layout that the bay cannot hold, or of none.
    """
    layouts: dict[str, str] = {axle: words.get(f"{axle}.layout", "") for axle in AXLES}
    for axle, layout in layouts.items():
        can = [one for one in THREADS if axle == "rear" or one not in REAR_ONLY]
        if layout not in can:
            held, found = ", ".join(map(_said, can)), _said(layout) or "not told yet"
            said = f"At the {axle} the practice bay holds {held}; this car's {axle} axle is {found}."
            raise InputError(said, field="car")
    rng = np.random.default_rng(seed)
    corners = dict(_corners(record, layouts, rng))
    kept = [act for act in entries if not act.key.endswith((".adjust", ".pitch", ".pitch_2", ".top_plate"))]
    told = {act.key for act in kept}
    added = [act for wheel in WHEELS for act in threads_and_targets(wheel, layouts[wheel.axle])]
    added += [act for axle in AXLES for act in springs_of(axle, "new_spring", NEW)]
    steering = None
    if steered_solid("front", layouts["front"]):
        parts = _steering(record, words, rng)
        left, right = (corners[wheel].wheel.points for wheel in wheels_at("front"))
        steering = Steering.at((left["wheel_center"], right["wheel_center"]), parts)
        added += read_steering(parts, (left, right), rng)
    record_of_copy = (*kept, *(act for act in added if act.key not in told))
    told_ratio = record.get("car.steering_ratio")
    return TrueCar(
        corners,
        record_of_copy,
        friction=FRICTION,
        wrench=wrench_of(seed),
        steering=steering,
        steering_ratio=float(rng.normal(told_ratio.value, told_ratio.uncertainty)) if told_ratio else STEERING_RATIO,
    )


def _steering(record: Record, words: Mapping[str, str], rng: np.random.Generator) -> SteeringParts:
    """Tie rod and drag link of a copy, each size by its ±; what is not told is usual."""
    usual = SteeringParts()

    def drawn(key: str, size: float) -> float:
        told = record.get(f"front.{key}")
        return float(rng.normal(told.value, told.uncertainty)) if told else size

    return SteeringParts(
        drawn("tie.lever", usual.tie_lever),
        words.get("front.steer", "behind") == "behind",
        drawn("drag.length", usual.length),
        drawn("drag.rise", usual.rise),
        drawn("drag.lever", usual.lever),
        words.get("front.drag.longer", usual.longer),
        words.get("front.drag.body", words.get("front.panhard_body", usual.gear)),
    )


def _said(layout: str) -> str:
    return layout.replace("_", " ")


def _corners(record: Record, layouts: Mapping[str, str], rng: np.random.Generator) -> Iterator[tuple[str, Corner]]:
    def drawn(key: str, usual: float, spread: float = 0.0) -> float:
        read = record.get(key)
        return float(rng.normal(*((read.value, read.uncertainty) if read else (usual, spread))))

    ratios = {axle: drawn(f"{axle}.motion_ratio", ratio_of(axle, layouts[axle])) for axle in AXLES}
    for wheel in WHEELS:
        axle, layout = wheel.axle, layouts[wheel.axle]
        angles = {name: drawn(f"{wheel}.target.{name}", value * DEGREE) for name, value in WANTED.items()}
        toe, camber = (rng.normal(angles[name], APART[name] * DEGREE) for name in ("toe", "camber"))
        upright = Upright(layout, wheel.out, _points(wheel, layout, record, rng), toe, camber)
        old, new = (
            (drawn(f"{axle}.{kind}.rate", rate, RATE_SPREAD * rate), drawn(f"{axle}.{kind}.free", free, FREE_SPREAD))
            for kind, (rate, free) in (("spring", OLD), ("new_spring", NEW))
        )
        way = upright.spring_way()
        ratio = ratios[axle] if way.ratio is None or f"{axle}.motion_ratio" in record else way.ratio
        yield (
            wheel,
            Corner(
                upright,
                _load(wheel, record.get("car.loads"), rng) - drawn(f"{axle}.unsprung", UNSPRUNG),
                old,
                new,
                ratio,
                360 + rng.normal(0, 3),
                round(6 * (END_TURNS + rng.normal(0, 1))) / 6,
                bends=way.bends,
            ),
        )


def _load(wheel: Wheel, weighed: Quantity | None, rng: np.random.Generator) -> float:
    """What stands on a wheel, however the car was weighed, by the ± of that; else what is usual. [N]"""
    if weighed is None:
        return float(rng.normal(WEIGHT[wheel.axle], 60))
    parts = weighed.parts
    share = parts.get("share", 0.0) if wheel.axle == "front" else 1 - parts.get("share", 0.0)
    alone = parts.get(wheel.number, parts.get(wheel.axle, share * parts.get("total", 0.0)) / 2)
    return float(rng.normal(alone, alone * weighed.uncertainty / weighed.value))


def _points(wheel: Wheel, layout: str, record: Record, rng: np.random.Generator) -> dict[str, Vector]:
    """Each point as read, by its ±; where a wheel was not read at all, the other side's; else what is usual."""
    for key, mirror in ((wheel, 1), (f"{wheel.axle}.{other_side(wheel.side)}", -1)):
        read = {name: record.get(f"{key}.point.{name}") for name in TYPICAL[layout]}
        if all(read.values()):
            return {
                name: np.array([one.parts[axis] for axis in "xyz"]) * [1, mirror, 1]
                + rng.normal(0, one.uncertainty, 3)
                for name, one in read.items()
                if one
            }
    return {
        name: (np.array(at) + rng.normal(0, UNREAD, 3)) * [1, wheel.out, 1] for name, at in TYPICAL[layout].items()
    }
