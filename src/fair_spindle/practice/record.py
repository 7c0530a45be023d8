"""What the record of a practice car believes: layouts, sheets, points by tape, threads and targets, as entries."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import AXLES, wheels_at
from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.car import (
    CROSS,
    NEW,
    OLD,
    PITCH,
    RING,
    STEERING_RATIO,
    TAPE,
    TRACK,
    UNSPRUNG,
    WANTED,
    Corner,
)
from fair_spindle.practice.exercises import Exercise
from fair_spindle.practice.layouts import THREADS, wanted_at
from fair_spindle.practice.steered import SteeringParts, sizes_of

Vector = NDArray[np.float64]
Sides = tuple[Mapping[str, Vector], Mapping[str, Vector]]


def enter(key: str, value: float, unit: str = "mm", part: str = "value", method: str = "typed") -> Entered:
    """A field as a tuner types it."""
    return Entered(key, method, {part: Typed(f"{value:.4f}".rstrip("0").rstrip("."), unit)})


def axle_entries(layouts: Mapping[str, str], exercise: Exercise) -> Iterator[Entered]:
    """Layouts, tracks and what stands on the sheets of the springs."""
    for axle in AXLES:
        yield Entered(f"{axle}.layout", choice=layouts[axle])
        if axle == "front":
            yield Entered("front.steer", choice="behind")
        yield enter(f"{axle}.track", TRACK)
        yield enter(f"{axle}.unsprung", UNSPRUNG, "n")
        yield from springs_of(axle, "spring", OLD)
        if {"procedure": "springs", "axle": axle} in exercise.fittings:
            yield from springs_of(axle, "new_spring", NEW)
        if axle in exercise.rings:
            yield Entered(f"{axle}.spring.kind", choice="coilover")
            yield enter(f"{axle}.spring.perch_pitch", RING, "pitch_mm")
        stack = exercise.stack.get(axle, {})
        if stack:
            yield Entered(f"{axle}.new_spring.fit", choice="stack")
            for name, value in stack.items():
                if not name.endswith("truly_solid"):
                    yield enter(f"{axle}.new_spring.{name}", value, "n_per_mm" if name.endswith("rate") else "mm")


def springs_of(axle: str, kind: str, printed: tuple[float, float]) -> Iterator[Entered]:
    """A spring as its sheet prints it: rate [N/mm] and free length [mm]."""
    yield enter(f"{axle}.{kind}.rate", printed[0], "n_per_mm")
    yield enter(f"{axle}.{kind}.free", printed[1])
    if kind == "new_spring":
        yield Entered(f"{axle}.new_spring.fit", choice="coil")


def read_steering(parts: SteeringParts, points: Sides, rng: np.random.Generator) -> Iterator[Entered]:
    """The steering of a solid front axle as it is told and read with a tape; both rods are threaded at one end."""
    yield Entered("front.linkage", choice="drag_link")
    yield Entered("front.steer", choice="behind" if parts.behind else "ahead")
    yield Entered("front.drag.longer", choice=parts.longer)
    yield Entered("front.drag.body", choice=parts.gear)
    yield enter("car.steering_ratio", STEERING_RATIO, "ratio")
    for key, size in sizes_of(parts, points):
        yield enter(key, size + TAPE * rng.normal())
    for rod in ("tie", "drag"):
        yield Entered(f"front.{rod}.adjust", choice="one_thread")
        yield enter(f"front.{rod}.pitch", PITCH, "pitch_mm")


def wheel_entries(key: str, layout: str, points: Mapping[str, Vector], rng: np.random.Generator) -> Iterator[Entered]:
    """A wheel's points as a tape reads them, its threads and targets."""
    for name, point in points.items():
        read = point + rng.normal(0, TAPE, 3)
        xyz = {axis: Typed(f"{value:.1f}", "mm") for axis, value in zip("xyz", read, strict=True)}
        yield Entered(f"{key}.point.{name}", "point", xyz)
    yield from threads_and_targets(key, layout)


def threads_and_targets(key: str, layout: str) -> Iterator[Entered]:
    """What can be turned on a wheel of the bay, and what is wanted there."""
    axle = key.partition(".")[0]
    for arm in THREADS[layout]:
        yield Entered(f"{key}.{arm}.adjust", choice="one_thread")
        yield enter(f"{key}.{arm}.pitch", PITCH, "pitch_mm")
    if layout == "strut":
        yield enter(f"{key}.top_plate", 14)
    for name in wanted_at(axle, layout):
        yield enter(f"{key}.target.{name}", WANTED[name], "deg")


def goals_of(exercise: Exercise, corners: Mapping[str, Corner]) -> Iterator[tuple[str, float]]:
    """Heights [mm] and cross weight [%] that are wanted, by field key."""
    for axle, lower in exercise.lower_to_mm.items():
        for wheel in wheels_at(axle):
            yield f"{wheel}.target.height", round(corners[wheel].arch - lower)
    if exercise.cross_shift_n:
        yield CROSS, 50.0
