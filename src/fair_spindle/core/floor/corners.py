"""From the state of a job to the two corners that are computed, and to their clamp windows."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

from fair_spindle.core.floor.loading import Windows
from fair_spindle.core.floor.readings import Quantity, read_all
from fair_spindle.core.floor.state import JobState
from fair_spindle.core.front_axle import Corner, CornerPlan, plan_corner
from fair_spindle.core.planning.template import SIDES, Side
from fair_spindle.core.threads import FLAT

T = TypeVar("T")


def corners_of(state: JobState) -> dict[Side, Corner]:
    """Read the inputs of both corners out of a job.

    Parameters
    ----------
    state : JobState
        What is true now. [-]

    Returns
    -------
    dict
        A corner by side, in core units.

    Raises
    ------
    InputError
        An entry that cannot be read; accepted ones always can.

    Notes
    -----
    Fields of the axle belong to both sides.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> corners_of(JobState())["left"].flats_on
    0
    """
    quantities, choices = read_all({key: act for key, (_, act) in state.entries.items()})
    return {side: _corner(side, state, quantities, choices) for side in SIDES}


def plans_of(corners: dict[Side, Corner]) -> dict[Side, CornerPlan]:
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
    >>> plans_of(corners_of(JobState()))["left"].window is None
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


def _corner(side: Side, state: JobState, quantities: dict[str, Quantity], choices: dict[str, str]) -> Corner:
    reading = state.entries.get(f"{side}.check_toe")
    read_at = reading[0].seq if reading else 0
    since = state.flats(side, "correct", after=read_at)
    return Corner(
        {**_for_side(side, quantities), **_counted_off(side, state)},
        _for_side(side, choices),
        state.flats(side, "on"),
        state.flats(side, "correct") - since,
        since,
    )


def _counted_off(side: Side, state: JobState) -> dict[str, Quantity]:
    """Flats counted on the floor outrank turns typed in the baseline; half a flat is left open."""
    flats = state.flats(side, "off")
    return {"turns_off": Quantity(flats * FLAT, FLAT / 2 / 3**0.5)} if flats else {}


def _for_side(side: Side, by_key: dict[str, T]) -> dict[str, T]:
    return {
        name: value
        for owner in ("axle", side)
        for key, value in by_key.items()
        if (name := key.partition(".")[2]) and key.startswith(f"{owner}.")
    }
