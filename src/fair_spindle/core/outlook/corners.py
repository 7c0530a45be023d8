"""From the state of a job to the two corners that are computed, and to their clamp windows."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.loading import Windows
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.floor.state import JobState
from fair_spindle.core.front_axle import Corner, CornerPlan, plan_corner
from fair_spindle.core.planning.template import SIDES, Side
from fair_spindle.core.threads import FLAT

T = TypeVar("T")


def corners_of(state: JobState, readings: Readings) -> dict[Side, Corner]:
    """Read the inputs of both front corners out of a job.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    readings : Readings
        Everything read in it. [-]

    Returns
    -------
    dict
        A corner by side, in core units.

    Raises
    ------
    Nothing.

    Notes
    -----
    Fields of the axle belong to both sides.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> corners_of(JobState(), readings_now(JobState(), FRONT_STRUT))["left"].flats_on
    0
    """
    return {side: _corner(side, state, readings) for side in SIDES}


def plans_of(corners: Mapping[Side, Corner]) -> dict[Side, CornerPlan]:
    """Plan both corners.

    Parameters
    ----------
    corners : dict
        A corner by side. [-]

    Returns
    -------
    dict
        A plan by side.

    Raises
    ------
    Nothing.

    Notes
    -----
    Each corner stands alone here; the axle is not coupled.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.front_axle import Corner
    >>> plans_of({"left": Corner({}, {})})["left"].window is None
    True
    """
    return {side: plan_corner(corner) for side, corner in corners.items()}


def windows_of(plans: Mapping[Side, CornerPlan]) -> Windows:
    """Clamp windows of the sides where they are known.

    Parameters
    ----------
    plans : dict
        A plan by side. [-]

    Returns
    -------
    mapping
        Lowest and highest hub-to-arch height by side. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    A side whose window is not known is left out, which keeps its bonded bolts closed.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> windows_of({})
    {}
    """
    return {side: (plan.window.low, plan.window.high) for side, plan in plans.items() if plan.window}


def _corner(side: Side, state: JobState, readings: Readings) -> Corner:
    reading = state.entries.get(f"front.{side}.check_toe")
    read_at = reading.event.seq if reading else 0
    since = state.flats(side, "correct", after=read_at)
    own = {**_for_side(side, readings.quantities), **_counted_off(side, state)}
    if "total_toe" in own:
        own.setdefault("toe", _half(own["total_toe"]))
    return Corner(
        own,
        _for_side(side, readings.words),
        state.flats(side, "on"),
        state.flats(side, "correct") - since,
        since,
    )


def _half(total: Quantity) -> Quantity:
    """Toe of one wheel where only both together were read; the wheels are taken to toe alike."""
    return Quantity(total.value / 2, total.uncertainty / 2)


def _counted_off(side: Side, state: JobState) -> dict[str, Quantity]:
    """Flats counted on the floor outrank turns typed in the baseline; half a flat is left open."""
    flats = state.flats(side, "off")
    return {"tie.turns_off": Quantity(flats * FLAT, FLAT / 2 / 3**0.5)} if flats else {}


def _for_side(side: Side, by_key: Mapping[str, T]) -> dict[str, T]:
    other = "front.right." if side == "left" else "front.left."
    own = ("front.", f"front.{side}.")
    return {
        key.removeprefix(f"front.{side}.").removeprefix("front."): value
        for key, value in by_key.items()
        if key.startswith(own) and not key.startswith(other)
    }
