"""Bonded rubber waits for load: whether a bolt may be clamped now."""

from __future__ import annotations

from collections.abc import Mapping

from fair_spindle.core.floor.log import Clamp
from fair_spindle.core.floor.state import JobState
from fair_spindle.core.planning.template import FastenerGroup, Side
from fair_spindle.core.rubber import BONDED_KINDS

Windows = Mapping[Side, tuple[float, float]]


def clamp_gate(side: Side, state: JobState, windows: Windows) -> tuple[Clamp | None, str]:
    """Whether bonded bolts of one side may be finally torqued now, with the reason.

    Parameters
    ----------
    side : {"left", "right"}
        Side of the car. [-]
    state : JobState
        What is true now. [-]
    windows : mapping
        Clamp windows in hub-to-arch height. [mm]

    Returns
    -------
    tuple
        Evidence and an empty reason, or None and what has to happen first.

    Raises
    ------
    Nothing.

    Notes
    -----
    The corner must be carried or on its wheels, and a height read since the car last moved
    must lie in the window.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> clamp_gate("left", JobState(), {})[0] is None
    True
    """
    if side not in windows:
        return None, "The clamp window is not known yet: enter arm, springs and height in the baseline."
    low, high = windows[side]
    wanted = f"between {low:.0f} and {high:.0f} mm hub to arch"
    if state.position == "hanging" or (state.position == "corner_carried" and state.corner != side):
        return None, f"The {side} corner is hanging. Load it first: {wanted}."
    height = state.loaded_heights.get(side)
    if height is None:
        return (
            None,
            f"No height has been read since the car was last moved. Read the {side} corner: {wanted}.",
        )
    if not low <= height <= high:
        way = "up" if height > high else "down"
        return None, (
            f"{height:.1f} mm is outside the clamp window. The wheel has to go {way} by "
            f"{max(low - height, height - high):.0f} mm or more: {wanted}."
        )
    return Clamp(height, low, high), ""


def needs_load(group: FastenerGroup, side: Side, state: JobState) -> bool:
    """Whether a group's final torque waits for load: bonded rubber, or rubber of unknown kind.

    Parameters
    ----------
    group : FastenerGroup
        The fasteners. [-]
    side : {"left", "right"}
        Side of the car. [-]
    state : JobState
        What is true now; holds the bushing kinds. [-]

    Returns
    -------
    bool
        True for a rubber pivot unless its bushing was said to turn freely.

    Raises
    ------
    Nothing.

    Notes
    -----
    Greased, spherical and rolling pivots may be tightened at any height.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> needs_load(FRONT_STRUT.group("arm_front"), "left", JobState())
    True
    """
    if group.role != "rubber_pivot":
        return False
    taken = state.entries.get(f"front.{side}.{group.bushing}")
    return taken is None or taken.act.choice in BONDED_KINDS
