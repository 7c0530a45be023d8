"""Rods, ends, pitches, turns, flats and engagement."""

from __future__ import annotations

import math
from typing import Any

from fair_spindle.core.basics.errors import require
from fair_spindle.core.basics.value_object import value_object

FLAT = 1 / 6


@value_object
class RodEnd:
    """A rod and the end screwed on it.

    ``end_length`` runs from the thread mouth to the stud centre, ``rod_length`` from the inner
    joint to the thread tip, ``pitch`` is the thread's; each may be an array. [mm]
    """

    pitch: Any
    end_length: Any
    rod_length: Any = 0.0


@value_object
class Transfer:
    """Turns that carry a length over to a new end, exact and on the nearest step."""

    turns_on: float
    set_turns: float
    length_error: float
    engagement: float
    engagement_ok: bool


@value_object
class Tally:
    """A turn count as it is chalked: whole turns and the flats left over."""

    turns: int
    flats: int
    back: bool = False


def joint_to_stud(rod: RodEnd, turns: Any) -> Any:
    """Length from inner joint to stud with the end screwed on a number of turns.

    Parameters
    ----------
    rod : RodEnd
        Rod and end. [mm]
    turns : float or ndarray
        Turns of engagement, any shape. [turn]

    Returns
    -------
    float or ndarray
        Joint-to-stud length, shape of `turns`. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    length = rod + end − turns · pitch: more turns on, shorter.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> joint_to_stud(RodEnd(1.5, 80.0, 200.0), 20)
    250.0
    """
    return rod.rod_length + rod.end_length - turns * rod.pitch


def nearest_step(turns: float, step: float) -> float:
    """Nearest allowed setting; halves go up.

    Parameters
    ----------
    turns : float
        Exact turns. [turn]
    step : float
        Smallest step that can be set, > 0; a flat is 1/6. [turn]

    Returns
    -------
    float
        A whole number of steps. [turn]

    Raises
    ------
    OutOfRange
        The step is not above zero.

    Notes
    -----
    floor(turns / step + 1/2) · step.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> nearest_step(20.3, 0.5)
    20.5
    """
    require(step > 0, "step_turns", "The step must be above 0 turns", step)
    return math.floor(turns / step + 0.5) * step


def tally(turns: float) -> Tally:
    """Split turns into whole turns and flats, rounded to the nearest flat.

    Parameters
    ----------
    turns : float
        Turns, either sign. [turn]

    Returns
    -------
    Tally
        Whole turns and 0 to 5 flats, ``back`` where the count is negative.

    Raises
    ------
    Nothing.

    Notes
    -----
    A flat is a sixth of a turn.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> tally(21.34)
    Tally(turns=21, flats=2, back=False)
    """
    flats = math.floor(abs(turns) * 6 + 0.5)
    return Tally(flats // 6, flats % 6, back=turns < 0 and flats > 0)


def transfer_turns(old: RodEnd, turns_off: float, new: RodEnd, min_engagement: float, step: float = FLAT) -> Transfer:
    """Turns to put the new end on so that joint-to-stud length comes out as it was.

    Parameters
    ----------
    old, new : RodEnd
        What came off and what goes on. [mm]
    turns_off : float
        Turns counted as the old end came off, >= 0. [turn]
    min_engagement : float
        Least thread engagement, >= 0. [mm]
    step : float
        Smallest step that can be set. [turn]

    Returns
    -------
    Transfer
        Exact and set turns [turn], length error achieved − old and engagement [mm].

    Raises
    ------
    OutOfRange
        A pitch or step that is not above zero, a negative count, or a new end so short that
        it cannot reach the old length.

    Notes
    -----
    rod + end − turns · pitch is held; engagement = set turns · pitch.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> transfer_turns(RodEnd(1.5, 80.0), 20, RodEnd(1.5, 83.0), 15.0).turns_on
    22.0
    """
    require(old.pitch > 0, "old.pitch_mm", "The thread pitch must be above 0 mm", old.pitch)
    require(new.pitch > 0, "new.pitch_mm", "The thread pitch must be above 0 mm", new.pitch)
    require(turns_off >= 0, "old.turns_off", "Turns counted off cannot be negative", turns_off)
    length = float(joint_to_stud(old, turns_off))
    turns_on = (new.rod_length + new.end_length - length) / new.pitch
    require(
        turns_on >= 0,
        "new.end_length_mm",
        "The new end must be long enough to reach the old length",
        f"{-turns_on:.2f} turns short of the thread",
        "Check both end lengths, or fit a longer end.",
    )
    set_turns = nearest_step(turns_on, step)
    engagement = set_turns * new.pitch
    return Transfer(
        turns_on,
        set_turns,
        float(joint_to_stud(new, set_turns)) - length,
        engagement,
        engagement >= min_engagement,
    )
