"""Bonded rubber waits for load: whether a bolt may be clamped now."""

from __future__ import annotations

from collections.abc import Mapping
from math import ceil, floor

from fair_spindle.core.joblog.log import Clamp
from fair_spindle.core.joblog.state import JobState

Windows = Mapping[str, tuple[float, float]]


def say_window(window: tuple[float, float]) -> str:
    """A window in whole millimetres, none of which lies outside it."""
    low, high = ceil(window[0]), floor(window[1])
    return f"{low} and {high}" if low <= high else f"{window[0]:.1f} and {window[1]:.1f}"


def height_gate(
    axle: str, side: str, state: JobState, window: tuple[float, float] | None, missing: str = ""
) -> tuple[Clamp | None, str]:
    """Whether bonded bolts of one corner may be finally torqued now, with the reason.

    Parameters
    ----------
    axle, side : str
        Which corner. [-]
    state : JobState
        What is true now. [-]
    window : tuple of float, optional
        Its clamp window in hub-to-arch height; None where it is not known. [mm]
    missing : str, optional
        What a window would need, in words. [-]

    Returns
    -------
    tuple
        Evidence and an empty reason, or None and what has to happen first.

    Raises
    ------
    Nothing.

    Notes
    -----
    The corner must be carried or on its wheels, and a height read since the car last moved must lie in the window.
    Settled on its wheels the car stands at its ride height: that is its own evidence, without window or arm data.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> height_gate("rear", "left", JobState(loaded_heights={"rear.left": 350.0}), (340.0, 360.0))[0]
    Clamp(height_mm=350.0, low_mm=340.0, high_mm=360.0, on_wheels=False)
    """
    name = f"{axle} {side}".strip()
    height = state.loaded_heights.get(f"{axle}.{side}")
    if state.position == "on_wheels" and state.settled:
        low, high = window or (height or 0.0, height or 0.0)
        return Clamp(height or 0.0, min(low, height or low), max(high, height or high), on_wheels=True), ""
    if window is None:
        needs = missing or "arm, springs and height in the baseline"
        return None, (
            f"The clamp window needs {needs.rstrip('.')}. On its wheels and settled it may be torqued without one."
        )
    low, high = window
    wanted = f"between {say_window(window)} mm hub to arch"
    carried = state.corner == side and state.carried_axle == axle
    if state.position == "hanging" or (state.position == "corner_carried" and not carried):
        return None, f"The {name} corner is hanging. Load it first: {wanted}."
    if height is None:
        return (
            None,
            f"No height has been read since the car was last moved. Read the {name} corner: {wanted}.",
        )
    if not low <= height <= high:
        way = "up" if height > high else "down"
        return None, (
            f"{height:.1f} mm is outside the clamp window. The wheel has to go {way} by "
            f"{max(low - height, height - high):.0f} mm or more: {wanted}."
        )
    return Clamp(height, low, high), ""
