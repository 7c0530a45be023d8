"""Perches of a job: where they go on the bench, and which turns bring heights and cross weight afterwards."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field, replace
from math import hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.predict.sprung_car import SprungCar
from fair_spindle.core.springs.loads import USUAL_UNSPRUNG_SHARE
from fair_spindle.core.springs.perches import (
    PerchGoals,
    PerchPlace,
    PerchTurns,
    perch_place,
    perch_turns,
    turns_uncertainty,
)
from fair_spindle.core.springs.springs import Coil

Array = NDArray[np.float64]
# Of a ring with notches; common practice, no published source.
STEP = 0.25
OPEN_THREAD = 40.0
UNYIELDING = 1e6
# Standard uncertainty of a wheel scale as a share of its load; the product's own.
WEIGHED = 0.005


@value_object
class Bench:
    """One perch before assembly: its place, or what is missing for it.

    ``by_thumb`` is where mid-thread, the rule of thumb, puts it over the lower eye, ``left`` the thread left,
    ``plus_minus`` what the place leaves open (coverage 2). [mm]
    """

    key: str
    place: PerchPlace | None
    by_thumb: float | None
    left: float | None
    lacks: tuple[str, ...]
    problem: str = ""
    plus_minus: float = 0.0


@value_object
class Correction:
    """The turns at all four perches, from heights and loads as they stand; or why there are none.

    ``plus_minus`` of the exact turns, coverage 2, shape (4,). [turn]
    """

    turns: PerchTurns | None
    heights: Array
    loads: Array
    measured: bool
    problem: str = ""
    plus_minus: Array = field(default_factory=lambda: np.zeros(4))


def bench_places(readings: Readings, sitting: Sitting) -> list[Bench]:
    """Where each ring goes before the unit is put together.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]
    sitting : Sitting
        Gives the sprung load; the height wanted is the target, or as it was. [mm, N]

    Returns
    -------
    list of Bench
        One for each corner with a threaded seat.

    Raises
    ------
    Nothing.

    Notes
    -----
    The damper's length at ride height before is read on the car; a wanted height moves it by the motion ratio.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> bench_places(readings_now(JobState(), WORK), Sitting())
    []
    """
    return [
        _bench(key, readings, sitting)
        for key in WHEELS
        if readings.words.get(f"{key.split('.')[0]}.spring.kind") == "coilover"
    ]


def _bench(key: str, readings: Readings, sitting: Sitting) -> Bench:
    axle = key.split(".")[0]
    told = readings.quantities
    spring = "new_spring" if readings.words.get(f"{axle}.new_spring.fit", "as_before") != "as_before" else "spring"
    needed = [f"{axle}.{name}" for name in ("motion_ratio", "perch.upper", "perch.lowest", "spring.perch_pitch")]
    needed += [f"{axle}.{spring}.rate", f"{axle}.{spring}.free", f"{key}.damper_length", f"{key}.height"]
    lacks = tuple(name for name in needed if name not in told)
    wheel = next((one for one in sitting.wheels if one.key == key), None)
    if lacks or wheel is None:
        return Bench(key, None, None, None, lacks, sitting.problem)

    names = {
        "ratio": f"{axle}.motion_ratio",
        "damper": f"{key}.damper_length",
        "spacer": f"{axle}.new_top.spacer",
        "target": f"{key}.target.height",
        "height": f"{key}.height",
        "upper": f"{axle}.perch.upper",
        "lowest": f"{axle}.perch.lowest",
        "gas": f"{axle}.new_damper.gas" if f"{axle}.new_damper.gas" in told else f"{axle}.damper.gas",
        "unsprung": f"{axle}.unsprung",
        **{name: f"{axle}.{spring}.{name}" for name in ("rate", "free", "solid")},
        **{name: f"{axle}.new_spring.{name}" for name in ("helper_rate", "helper_free", "helper_solid", "ring")},
    }
    read = {name: told[at] for name, at in names.items() if at in told}
    read["load"] = Quantity(wheel.load_before, wheel.load_plus_minus / COVERAGE)
    stacked = readings.words.get(f"{axle}.new_spring.fit") == "stack"
    pitch, thread = told[f"{axle}.spring.perch_pitch"].value, told.get(f"{axle}.perch.thread")
    lowest = told[f"{axle}.perch.lowest"].value

    def place_of(values: Mapping[str, float]) -> PerchPlace:
        springs = [Coil(values["rate"], values["free"], values.get("solid", 0.0))]
        if stacked:
            springs.append(Coil(values["helper_rate"], values["helper_free"], values.get("helper_solid", 0.0)))
            springs += [Coil(UNYIELDING, values["ring"])] if values.get("ring") else []
        sprung = values["load"] - values.get("unsprung", USUAL_UNSPRUNG_SHARE * values["load"])
        return perch_place(
            values["ratio"],
            sprung,
            values.get("gas", 0.0),
            # A spacer over the unit lowers its upper eye by as much at the same height of the body.
            values["damper"] - values.get("spacer", 0.0),
            values.get("target", values["height"]) - values["height"],
            values["upper"],
            springs,
            pitch,
            lowest,
        )

    best = {name: one.value for name, one in read.items()}
    try:
        place = place_of(best)
        moves = [
            place_of({**best, name: one.value + one.uncertainty}).from_lower_eye - place.from_lower_eye
            for name, one in read.items()
            if one.uncertainty and name != "lowest"
        ]
    except InputError as error:
        return Bench(key, None, None, None, (), error.message)
    left = lowest + thread.value - place.from_lower_eye if thread else None
    problem = ""
    if place.turns_up < 0:
        problem = "The ring would have to go below its thread: a shorter spring or a softer one is needed."
    elif left is not None and left < 0:
        problem = "The ring would leave its thread at the top: a longer spring or a stiffer one is needed."
    by_thumb = lowest + thread.value / 2 if thread else None
    return Bench(key, place, by_thumb, left, (), problem, COVERAGE * hypot(*moves))


def correct_perches(
    readings: Readings,
    car: SprungCar,
    sitting: Sitting,
    measured: Mapping[str, Quantity],
    scales: Mapping[str, float],
) -> Correction | None:
    """Turns at the four perches from where the car stands now.

    Parameters
    ----------
    readings : Readings
        Targets and perch threads. [-]
    car : SprungCar
        Says what a turn does. [-]
    sitting : Sitting
        Where the car stands by the prediction. [mm, N]
    measured : mapping of Quantity
        Heights read after settling, by wheel; stand instead of the prediction where all four are there. [mm]
    scales : mapping
        Wheel loads as weighed after settling, by wheel. [N]

    Returns
    -------
    Correction or None
        None where nothing is wanted.

    Raises
    ------
    Nothing.

    Notes
    -----
    What turns change is taken from the springs, where the car stands from what was measured.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> correct_perches(readings_now(JobState(), WORK), SprungCar({}, lambda v: None), Sitting(), {}, {}) is None
    True
    """
    told = readings.quantities
    goals = np.array([told[key].value if (key := f"{one}.target.height") in told else np.nan for one in WHEELS])
    cross = told["car.target_cross"].value if "car.target_cross" in told else None
    if np.all(np.isnan(goals)) and cross is None:
        return None
    none = np.full(4, np.nan)
    if len(sitting.wheels) < len(WHEELS):
        return Correction(None, none, none, False, sitting.problem or "Where the car sits is not known yet.")
    known = len(measured) == len(WHEELS) and all(one in measured for one in WHEELS)
    stands = [measured[wheel.key].value if known else wheel.predicted for wheel in sitting.wheels]
    if any(stand is None for stand in stands):
        return Correction(None, none, none, False, "Read the heights of all four wheels first.")
    heights = np.array([float(stand) for stand in stands if stand is not None])
    weighed = len(scales) == len(WHEELS)
    loads = np.array([scales[wheel.key] if weighed else wheel.load for wheel in sitting.wheels])
    pitches = np.array([_pitch(readings, one) for one in WHEELS])
    wanted, (low, high) = PerchGoals(goals, cross), _thread(readings, pitches)
    try:
        turns = perch_turns(_turning(car, heights, loads, pitches), wanted, low, high, STEP)
    except (InputError, NoSolution) as error:
        return Correction(None, heights, loads, known, error.message)
    unsure = [
        measured[wheel.key].uncertainty if known else wheel.predicted_plus_minus / COVERAGE
        for wheel in sitting.wheels
    ]
    weight = [
        WEIGHED * scales[wheel.key] if weighed else wheel.load_plus_minus / COVERAGE for wheel in sitting.wheels
    ]
    spread = COVERAGE * turns_uncertainty(turns, wanted, low, high, np.array(unsure), np.array(weight))
    return Correction(turns, heights, loads, known, plus_minus=spread)


def _pitch(readings: Readings, key: str) -> float:
    axle = key.split(".")[0]
    if readings.words.get(f"{axle}.spring.kind") != "coilover":
        return 0.0
    pitch = readings.quantities.get(f"{axle}.spring.perch_pitch")
    return pitch.value if pitch else 0.0


def _thread(readings: Readings, pitches: Array) -> tuple[Array, Array]:
    """Turns down and up that each perch has left, by its reading and its thread."""
    low, high = np.zeros(4), np.zeros(4)
    for place, key in enumerate(WHEELS):
        if not pitches[place]:
            continue
        thread = readings.quantities.get(f"{key.split('.')[0]}.perch.thread")
        ring = readings.quantities.get(f"{key}.perch")
        below = ring.value if ring else OPEN_THREAD
        above = thread.value - below if thread and ring else OPEN_THREAD
        low[place], high[place] = -max(below, 0.0) / pitches[place], max(above, 0.0) / pitches[place]
    return low, high


def _turning(car: SprungCar, heights: Array, loads: Array, pitches: Array):  # type: ignore[no-untyped-def]
    """From perch turns to heights and loads, about where the car stands."""
    held = car.build({})
    base = held.settle()

    def turned(turns: Array) -> tuple[Array, Array]:
        legs = [
            replace(leg, length=leg.length - pitches[place] * turns[:, place]) for place, leg in enumerate(held.legs)
        ]
        found = replace(held, legs=tuple(legs)).settle()
        return heights + found.height_change - base.height_change, loads + found.loads - base.loads

    return turned
