"""The toe of each wheel through a job: as it was before, and at every reading since, with what moved it between."""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot

import numpy as np

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.log import Entered, Event
from fair_spindle.core.joblog.readings import Quantity, read_entry
from fair_spindle.core.joblog.reducer import effective
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import steps_turned
from fair_spindle.core.predict.bump_steer import TIE, bump_steer, lever_of
from fair_spindle.core.predict.geometry import Wheel, wheels_of
from fair_spindle.core.turns.adjuster import changes_by_link


@value_object
class Occasion:
    """A reading of one wheel after the work: the walk it belongs to, its place in the log, toe [rad], height [mm]."""

    walk: int
    seq: int
    toe: Quantity
    height: Quantity


@value_object
class ToeRead:
    """A toe reading after the work, and what was expected of it since the baseline.

    ``toe`` as read, ``expected`` the whole change and ``by_rod`` the steering rod's part of it [rad]; ``travel`` of
    the wheel, bump positive, and its standard uncertainty [mm].
    """

    walk: int
    toe: Quantity
    travel: float
    travel_open: float
    expected: float
    by_rod: float


@value_object
class ToeStory:
    """One wheel's toe through the job, and what was believed about it.

    ``start`` toe of the baseline [rad], ``slope`` bump steer [rad/mm], ``lever`` steering lever [mm] where the
    expectations rest on one, ``fit`` what new parts leave open in the rod, as toe [rad].
    """

    key: str
    start: Quantity
    slope: Quantity
    lever: Quantity | None
    fit: float
    reads: tuple[ToeRead, ...]


def occasions(log: Sequence[Event], sheet: Sheet) -> dict[str, list[Occasion]]:
    """Every toe reading after the work, by wheel, with the height it was read at.

    A new walk begins where a wheel is read that was read in this one already.
    """
    found: dict[str, list[Occasion]] = {}
    heights: dict[str, Quantity] = {}
    walk, seen = 0, set[str]()
    for event in effective(log):
        act = event.act
        if not isinstance(act, Entered) or act.key not in sheet.fields:
            continue
        wheel, _, name = act.key.rpartition(".")
        if name not in ("check_height", "check_toe"):
            continue
        try:
            read = read_entry(act, sheet.fields[act.key])
        except InputError:
            continue
        if not isinstance(read, Quantity):
            continue
        if name == "check_height":
            heights[wheel] = read
        elif wheel in heights:
            if wheel in seen:
                walk, seen = walk + 1, set()
            seen.add(wheel)
            found.setdefault(wheel, []).append(Occasion(walk, event.seq, read, heights[wheel]))
    return found


def story_by_geometry(wheel: Wheel, state: JobState, readings: Readings, read: Sequence[Occasion]) -> ToeStory | None:
    """A wheel's toe through a job whose expectations come from its geometry.

    Where points are known the rod's effect follows from them, and no lever is believed.
    """
    told, key = readings.quantities, wheel.key
    before = told.get(f"{key}.height")
    if wheel.corner is None or "toe" not in wheel.read or before is None or not read:
        return None
    try:
        slope = bump_steer(wheel)
        if slope is None:
            return None
        reads = tuple(_expected(wheel, state, one, before) for one in read)
        fit = _fit(wheel)
    except NoSolution:
        return None
    lever = None if wheel.depth == "points" else lever_of(wheel)
    start = Quantity(wheel.read["toe"], wheel.doubtful.toe)
    return ToeStory(key, start, slope, lever, fit, reads)


def toe_stories(
    log: Sequence[Event],
    state: JobState,
    readings: Readings,
) -> dict[str, list[ToeStory]]:
    """The stories of all wheels that have one, by axle.

    Wheels of an axle stay together, since the steering wheel turns both.
    """
    read = occasions(log, readings.sheet)
    if not read:
        return {}
    wheels = wheels_of(readings, readings.quantities)
    own = [story_by_geometry(wheel, state, readings, read.get(key, ())) for key, wheel in wheels.items()]
    found: dict[str, list[ToeStory]] = {}
    for story in own:
        if story:
            found.setdefault(story.key.split(".")[0], []).append(story)
    return found


def _expected(wheel: Wheel, state: JobState, one: Occasion, before: Quantity) -> ToeRead:
    assert wheel.corner is not None
    turned = [steps_turned(state, wheel.key, each) for each in wheel.adjusters]
    since = [steps_turned(state, wheel.key, each, one.seq) for each in wheel.adjusters]
    set_to = [each.changed(t - s) for each, t, s in zip(wheel.adjusters, turned, since, strict=True)]
    no_rod = [0.0 if each.moves(TIE) else by for each, by in zip(wheel.adjusters, set_to, strict=True)]
    travel = before.value - one.height.value
    changes = changes_by_link(wheel.adjusters, np.array([set_to, no_rod, np.zeros(len(set_to))]))
    toe = angles_at(wheel.corner, [travel, travel, 0.0], changes).toe
    open_ = hypot(before.uncertainty, one.height.uncertainty)
    return ToeRead(one.walk, one.toe, travel, open_, float(toe[0] - toe[2]), float(toe[0] - toe[1]))


def _fit(wheel: Wheel) -> float:
    """What new rods leave open, as toe."""
    assert wheel.corner is not None
    doubt = hypot(*(adjuster.doubt for adjuster in wheel.adjusters if adjuster.moves(TIE)))
    if not doubt:
        return 0.0
    toe = angles_at(wheel.corner, [0.0, 0.0], {TIE: np.array([0.5, -0.5])}).toe
    return float(abs(toe[0] - toe[1]) * doubt)
