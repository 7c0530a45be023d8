"""Clamp windows of the rubber pivots on a job's maps: where the car will live, and how far the rubber may twist."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import degrees

from fair_spindle.core.errors import InputError
from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.bolt_needs import waits_for_load
from fair_spindle.core.floor.bolt_state import BoltState, bolt_key
from fair_spindle.core.floor.log import Joint
from fair_spindle.core.floor.state import JobState
from fair_spindle.core.rubber import DEFAULT_TWIST_LIMIT, Arm, bushing_twist, clamp_window, wind_up_force
from fair_spindle.core.units import to_core


@dataclass(frozen=True)
class Pivot:
    """A rubber pivot's corner: ride height it will live at, its arm there, its clamp window. [mm, hub to arch]"""

    ride: float
    arm: Arm
    window: tuple[float, float]


@dataclass(frozen=True)
class WoundUp:
    """A bolt that was clamped off height: twist at ride height [rad], lift of the car [mm] where rates are known."""

    joint: str
    number: int
    height: float
    twist: float
    lift: float | None


def pivots_of(
    state: JobState, readings: Readings, changes: Mapping[str, float] | None = None
) -> tuple[dict[str, Pivot], dict[str, str]]:
    """Work out the clamp window of every joint that waits for load.

    Parameters
    ----------
    state : JobState
        Its joints. [-]
    readings : Readings
        Heights, arm lengths and rises. [mm]
    changes : mapping, optional
        Height change by wheel where springs are changed. [mm]

    Returns
    -------
    tuple of dict
        Pivots by joint, and for the others what is missing, in words.

    Raises
    ------
    Nothing.

    Notes
    -----
    The car lives at the height read after settling, or before that at the height read before plus the change that is
    planned.  The arm's rise was read at the height before; it falls by as much as the body rises.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.planning.align import ALIGN
    >>> pivots_of(JobState(), readings_now(JobState(), ALIGN))
    ({}, {})
    """
    found: dict[str, Pivot] = {}
    missing: dict[str, str] = {}
    for joint in state.joints.values():
        if not waits_for_load(joint):
            continue
        try:
            pivot = _pivot(joint, readings, changes or {})
        except InputError as error:
            missing[joint.key] = error.message
            continue
        if isinstance(pivot, str):
            missing[joint.key] = pivot
        else:
            found[joint.key] = pivot
    return found, missing


def _pivot(joint: Joint, readings: Readings, changes: Mapping[str, float]) -> Pivot | str:
    wheel, told = f"{joint.axle}.{joint.side}", readings.quantities
    before, after = told.get(f"{wheel}.height"), told.get(f"{wheel}.check_height")
    length, rise = (told.get(f"{wheel}.{joint.arm}.{name}") for name in ("length", "rise"))
    if before is None:
        return f"the ride height of the {joint.axle} {joint.side} wheel"
    if length is None or rise is None:
        return f"length and rise of the arm ({joint.arm or 'not named'}) at the {joint.axle} {joint.side}"
    planned = told.get(f"{joint.axle}.height_change")
    change = changes.get(wheel, planned.value if planned else 0.0)
    ride = after.value if after else before.value + change
    arm = Arm(length.value, rise.value - (ride - before.value))
    limit = told.get("front.twist_limit")
    low, high = clamp_window(arm, limit.value if limit else DEFAULT_TWIST_LIMIT)
    return Pivot(ride, arm, (ride - high, ride - low))


def windows_of_joints(pivots: Mapping[str, Pivot]) -> dict[str, tuple[float, float]]:
    """Clamp windows as the rules take them.

    Parameters
    ----------
    pivots : mapping of Pivot
        By joint. [mm]

    Returns
    -------
    dict
        Lowest and highest hub-to-arch height, by ``"joint "`` and the joint's key. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Kept apart from the windows by side of the strut job.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> windows_of_joints({"a": Pivot(360.0, Arm(330.0, 0.0), (350.0, 370.0))})
    {'joint a': (350.0, 370.0)}
    """
    return {f"joint {key}": one.window for key, one in pivots.items()}


def wound_up(
    state: JobState, readings: Readings, pivots: Mapping[str, Pivot], limit: float = DEFAULT_TWIST_LIMIT
) -> list[WoundUp]:
    """Bolts whose rubber is wound up more than it should be, now that the height is known.

    Parameters
    ----------
    state : JobState
        What was clamped, and at what height. [-]
    readings : Readings
        Spring rate and motion ratio of the axle. [N/mm]
    pivots : mapping of Pivot
        By joint. [mm]
    limit : float, optional
        Twist that is still allowed. [rad]

    Returns
    -------
    list of WoundUp
        The worst first.

    Raises
    ------
    Nothing.

    Notes
    -----
    Lift = wind-up force at the wheel over the wheel rate of the spring, where the bushing's rate was told.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.planning.align import ALIGN
    >>> wound_up(JobState(), readings_now(JobState(), ALIGN), {})
    []
    """
    found = []
    for key, pivot in pivots.items():
        joint = state.joints[key]
        for bolt in joint.bolts:
            now = state.bolts.get(bolt_key(key, bolt.number), BoltState())
            if now.at_height is None or now.stage in (None, "loose", "hand", "snug"):
                continue
            try:
                twist = float(bushing_twist(pivot.arm, pivot.ride - now.at_height))
            except InputError:
                continue
            if abs(twist) > limit + 1e-9:
                lift = _lift(joint, pivot, twist, readings)
                found.append(WoundUp(key, bolt.number, now.at_height, twist, lift))
    return sorted(found, key=lambda one: -abs(one.twist))


def _lift(joint: Joint, pivot: Pivot, twist: float, readings: Readings) -> float | None:
    rate = readings.quantities.get(f"{joint.axle}.spring.rate")
    ratio = readings.quantities.get(f"{joint.axle}.motion_ratio")
    if not joint.bush_rate_nm_per_deg or rate is None or ratio is None:
        return None
    torque = to_core(joint.bush_rate_nm_per_deg * degrees(twist), "nm")
    return float(wind_up_force(pivot.arm, torque)) / (rate.value * ratio.value**2)
