"""What can be turned on a wheel, from a car's record: lengths per turn, steps, stops."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Literal

import numpy as np

from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.turns.adjuster import Adjuster, on
from fair_spindle.core.turns.threads import FLAT

# How far is searched where nobody told the stops, threads and slots, and cams: far beyond what a part has. [mm]
UNKNOWN_REACH, UNKNOWN_THROW = 40.0, 20.0
USUAL_THROW = 5.0
USUAL_SWING = 80.0
# Thread of an end whose pitch nobody told, and how far it varies: 1.25 to 2 mm are in use.  Common practice. [mm]
USUAL_PITCH, PITCH_OPEN = 1.5, 0.15
Unit = Literal["turn", "mm", "shim"]
STEPS = {"flat": FLAT, "half_turn": 0.5, "full_turn": 1.0, "free": FLAT / 2}


def adjusters_of(record: Readings, axle: str, side: str, layout: str, corner: Corner) -> Iterator[Adjuster]:
    """What can be turned on one wheel, by the car's record.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    axle, side : str
        Which wheel. [-]
    layout : str
        Layout of the axle. [-]
    corner : Corner
        The wheel. [mm, rad]

    Yields
    ------
    Adjuster
        In the order of the layout's arms.

    Returns
    -------
    iterator of Adjuster
        As yielded.

    Raises
    ------
    NotFound
        A layout that does not exist.

    Notes
    -----
    Stops come from the shortest and longest setting told, or a cam's throw; where nobody told them the turns are
    planned freely, and it is said that the part has to have them. A thread
    is not turned out past its least engagement: each end of a sleeve gives its own pitch per turn, so the coarser
    end is taken as the one that runs out, both ways where the two ends are of the same hand.  A new part (the job's
    ``swap``) starts from its own length, and ends where its thread does.  The toe of a front wheel is set on its tie
    rod, told or not; a thread whose pitch nobody told is a usual one, and leaves open what a turn does.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import CAR
    >>> empty = readings_now(JobState(), CAR)
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> [(one.name, one.per_turn) for one in adjusters_of(empty, "front", "left", "strut", usual_corner("strut"))]
    [('Tie rod', 1.5)]
    """
    links = {link.name for link in corner.links}
    for arm in find_layout(layout).arms:
        for where in (f"{axle}.{side}.{arm.key}", f"{axle}.{arm.key}"):
            own = where.count(".") == 2
            way = _way(record, where, "one_thread" if own and axle == "front" and arm.steers else "fixed")
            if way == "fixed":
                continue
            size, told = _sizes(record, where, way)
            legs = [leg for leg in (f"{arm.key}_front", f"{arm.key}_rear") if leg in links]
            if way == "legs" and legs:
                for leg in legs:
                    half = leg.removeprefix(f"{arm.key}_")
                    yield Adjuster(f"{arm.label}, {half} leg", on(leg), *size, part=where, stops_told=told)
            elif arm.key == "arm":
                yield Adjuster("Outer pivot of the arm, ahead", on("arm"), *size, part=where, stops_told=told)
            elif arm.key in links:
                name = arm.label if axle == "front" else _rear_name(arm.key, arm.label)
                rod = Adjuster(
                    name, on(arm.key), *size, part=where, turn_open=_turn_open(record, where, way), stops_told=told
                )
                yield _swapped(record, rod)
            elif legs:
                yield _swapped(record, Adjuster(arm.label, _along(corner, legs), *size, part=where, stops_told=told))
    plate = record.quantities.get(f"{axle}.{side}.top_plate")
    if find_layout(layout).movable == "strut_top" and plate and plate.value > 0:
        yield Adjuster("Strut top, inboard", on("strut_top"), 1.0, 0.5, -plate.value, plate.value, "mm")


def shared_adjuster(record: Readings, axle: str, arm: str, name: str) -> Adjuster | None:
    """A rod that both sides of an axle share, where it can be turned.

    As :func:`adjusters_of`.

    Common practice, no published source.
    """
    where = f"{axle}.{arm}"
    way = _way(record, where, "sleeve" if arm == "tie" else "fixed")
    if way == "fixed":
        return None
    size, told = _sizes(record, where, way)
    return _swapped(record, Adjuster(name, on(arm), *size, part=where, stops_told=told))


def _way(record: Readings, where: str, otherwise: str = "fixed") -> str:
    """How a part is adjusted; one whose pitch was told has a thread."""
    threaded = "one_thread" if f"{where}.pitch" in record.quantities else otherwise
    return record.words.get(f"{where}.adjust", threaded)


def _turn_open(record: Readings, where: str, way: str) -> float:
    """Standard uncertainty of what a turn does to a length, where the pitch was not told. [mm]"""
    if way not in ("one_thread", "sleeve") or f"{where}.pitch" in record.quantities:
        return 0.0
    return PITCH_OPEN if way == "one_thread" else 2 * PITCH_OPEN


def _swapped(record: Readings, old: Adjuster) -> Adjuster:
    """The adjuster with a new part in the old one's place, where the job tells of one."""
    new = record.quantities.get(f"{old.part}.swap")
    if new is None:
        return old
    per_turn, engaged, least = (
        record.quantities.get(f"{old.part}.{name}") for name in ("swap_per_turn", "swap_engaged", "engagement")
    )
    counted = bool(new.parts and "turns" in new.parts)
    high = new.value + USUAL_SWING
    if counted or engaged:
        # A thread gives at most its own pitch per turn: what is left of it, in length, is on the safe side.
        high = new.value + (0.0 if counted else engaged.value if engaged else 0.0) - (least.value if least else 0.0)
    return replace(
        old,
        per_turn=per_turn.value if per_turn else old.per_turn,
        low=new.value - USUAL_SWING,
        high=high,
        start=new.value,
        doubt=new.uncertainty,
        from_no_thread=counted,
    )


def _rear_name(key: str, label: str) -> str:
    return "Toe link" if key == "tie" else label


def _along(corner: Corner, legs: list[str]) -> tuple[tuple[str, float], ...]:
    """A ball joint moved straight out from the pivot axis: each leg grows by the cosine between them."""
    by_name = {link.name: link for link in corner.links}
    first, second = (by_name[leg] for leg in legs)
    axis = np.subtract(first.inner, second.inner)
    axis = axis / np.linalg.norm(axis)
    reach = np.subtract(first.outer, first.inner)
    out = reach - (reach @ axis) * axis
    out = out / np.linalg.norm(out)
    lengths = {link.name: np.subtract(link.outer, link.inner) for link in (first, second)}
    return tuple((name, float(out @ leg / np.linalg.norm(leg))) for name, leg in lengths.items())


def _sizes(record: Readings, where: str, way: str) -> tuple[tuple[float, float, float, float, Unit], bool]:
    """Length per turn, smallest step, both stops, what a turn is called; and whether its stops were told."""

    def number(name: str, otherwise: float) -> float:
        found = record.quantities.get(f"{where}.{name}")
        return found.value if found else otherwise

    ends = ("cam",) if way == "cam" else ("shortest", "longest")
    known = all(f"{where}.{name}" in record.quantities for name in ends)
    length = number("length", 0.0)
    reach = number("cam", UNKNOWN_THROW) if way == "cam" else UNKNOWN_REACH
    low = min(number("shortest", length - reach) - length, 0.0) if length else -reach
    high = max(number("longest", length + reach) - length, 0.0) if length else reach
    if way == "cam":
        marks = max(number("cam_marks", 10.0), 1.0)
        step = 2 * number("cam", USUAL_THROW) / marks
        return (1.0, step, max(low, -reach), min(high, reach), "mm"), known
    if way == "shims":
        return (number("shim", 1.0), 1.0, low, high, "shim"), known
    if way == "slot":
        return (1.0, 0.5, low, high, "mm"), known
    pitch = per_turn = number("pitch", USUAL_PITCH)
    deepest, same = pitch, False
    if way == "sleeve":
        same = record.words.get(f"{where}.hand", "right") == record.words.get(f"{where}.hand_2", "left")
        other = number("pitch_2", pitch)
        per_turn = max(abs(pitch - other), 1e-3) if same else pitch + other
        deepest = max(pitch, other)
    engaged = f"{where}.engaged" in record.quantities
    room = max(number("engaged", np.inf) - number("engagement", 0.0), 0.0) * per_turn / deepest
    low = max(low, -room) if same else low
    step = STEPS[record.words.get(f"{where}.step", "flat")]
    return (per_turn, step, low, min(high, room), "turn"), known or engaged
