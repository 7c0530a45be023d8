"""Bonded-rubber bushings: how far a clamped arm winds them up, and where it may be clamped."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.errors import require

Array = NDArray[np.float64]

DEFAULT_TWIST_LIMIT = float(np.radians(2.0))
BONDED_KINDS = frozenset({"bonded_rubber", "fluid_filled_rubber"})
BUSHING_KINDS = {
    "bonded_rubber": "Bonded rubber",
    "fluid_filled_rubber": "Fluid-filled rubber",
    "greased_poly": "Greased polyurethane",
    "spherical": "Spherical or lined metal",
    "rolling_element": "Rolling-element bearing",
}


@dataclass(frozen=True)
class Arm:
    """A swinging arm at ride height.

    ``length`` from pivot axis to outer joint and ``rise`` of the outer joint above it [mm];
    ``joint_ratio`` outer joint travel per wheel travel [-].
    """

    length: float
    rise: float
    joint_ratio: float = 1.0


def arm_angle(arm: Arm, travel: ArrayLike) -> Array:
    """Angle of an arm above level at a wheel travel.

    Parameters
    ----------
    arm : Arm
        The arm at ride height. [mm]
    travel : array_like
        Wheel travel from ride height, bump positive, any shape. [mm]

    Returns
    -------
    ndarray
        Angle, shape of `travel`. [rad]

    Raises
    ------
    OutOfRange
        The arm is not longer than its rise, or cannot reach that travel.

    Notes
    -----
    asin((rise + ratio · travel) / length).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(arm_angle(Arm(300.0, 0.0), 0.0))
    0.0
    """
    require(arm.length > 0, "arm_length_mm", "The arm length must be above 0 mm", arm.length)
    require(
        abs(arm.rise) < arm.length,
        "outer_above_inner_mm",
        f"The rise must be less than the arm's length of {arm.length:g} mm",
        f"{arm.rise:g} mm",
    )
    require(arm.joint_ratio > 0, "joint_travel_ratio", "The joint's travel ratio must be above 0", arm.joint_ratio)
    reach = (arm.rise + arm.joint_ratio * np.asarray(travel, dtype=float)) / arm.length
    require(
        np.all(np.abs(reach) <= 1),
        "travel_at_clamp_mm",
        f"An arm of {arm.length:g} mm must be able to reach the travel",
        f"{float(np.ravel(travel)[0]):g} mm",
        "Check arm length, rise and height.",
    )
    return np.asarray(np.arcsin(reach))


def bushing_twist(arm: Arm, travel_at_clamp: ArrayLike) -> Array:
    """Wind-up that stays in a bushing at ride height when its bolt was clamped elsewhere.

    Parameters
    ----------
    arm : Arm
        The arm at ride height. [mm]
    travel_at_clamp : array_like
        Wheel travel at which the bolt was clamped, droop negative, any shape. [mm]

    Returns
    -------
    ndarray
        Twist, positive holds the body up, shape of the travel. [rad]

    Raises
    ------
    OutOfRange
        As :func:`arm_angle`.

    Notes
    -----
    angle(0) − angle(clamp).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(float(np.degrees(bushing_twist(Arm(300.0, 0.0), -80.0))), 2)
    15.47
    """
    return np.asarray(arm_angle(arm, 0.0) - arm_angle(arm, travel_at_clamp))


def clamp_window(arm: Arm, twist_limit: float = DEFAULT_TWIST_LIMIT) -> tuple[float, float]:
    """Wheel travels between which a bonded bushing may be clamped.

    Parameters
    ----------
    arm : Arm
        The arm at ride height. [mm]
    twist_limit : float
        Largest wind-up allowed at ride height, > 0 and below a right angle. [rad]

    Returns
    -------
    tuple of float
        Lowest and highest travel, droop negative. [mm]

    Raises
    ------
    OutOfRange
        As :func:`arm_angle`, or a limit out of range.

    Notes
    -----
    The travels at which the twist meets the limit, cut where the arm stands upright.  The 2°
    default is the product's own: no published limit was found.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> low, high = clamp_window(Arm(300.0, 0.0))
    >>> round(low, 2), round(high, 2)
    (-10.47, 10.47)
    """
    require(
        0 < twist_limit < np.pi / 2,
        "twist_limit_deg",
        "The twist limit must lie between 0° and 90°",
        f"{np.degrees(twist_limit):g}°",
    )
    level = float(arm_angle(arm, 0.0))
    edges = np.clip([level - twist_limit, level + twist_limit], -np.pi / 2, np.pi / 2)
    low, high = (arm.length * np.sin(edges) - arm.rise) / arm.joint_ratio
    return float(low), float(high)


def wind_up_force(arm: Arm, torque: ArrayLike) -> Array:
    """Force at the wheel of a wound-up bushing, at ride height.

    Parameters
    ----------
    arm : Arm
        The arm at ride height. [mm]
    torque : array_like
        Torque of the bushing, any shape. [N·mm]

    Returns
    -------
    ndarray
        Force at the wheel, sign of the torque. [N]

    Raises
    ------
    OutOfRange
        As :func:`arm_angle`.

    Notes
    -----
    torque · d angle / d travel = torque · ratio / √(length² − rise²), by virtual work.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(wind_up_force(Arm(300.0, 0.0), 30000.0))
    100.0
    """
    arm_angle(arm, 0.0)
    return np.asarray(np.asarray(torque, dtype=float) * arm.joint_ratio / np.sqrt(arm.length**2 - arm.rise**2))
