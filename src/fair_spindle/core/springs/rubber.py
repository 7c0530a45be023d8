"""Bonded-rubber bushings: how far a clamped arm winds them up, and where it may be clamped."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import OutOfRange, require
from fair_spindle.core.basics.value_object import value_object

Array = NDArray[np.float64]

FARTHEST = 80.0
DEFAULT_TWIST_LIMIT = float(np.radians(2.0))
BONDED_KINDS = frozenset({"bonded_rubber", "fluid_filled_rubber"})
BUSHING_KINDS = {
    "bonded_rubber": "Bonded rubber",
    "fluid_filled_rubber": "Fluid-filled rubber",
    "greased_poly": "Greased polyurethane",
    "spherical": "Spherical or lined metal",
    "rolling_element": "Rolling-element bearing",
}


@value_object
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


@value_object
class Shackle:
    """A leaf spring's shackle at ride height, or the eye at its foot.

    ``length`` of the shackle, pivot to pivot; ``lean`` its foot away from the spring's middle [rad]; ``span`` of
    the leaf, eye to eye along it, and its ``arch``, the eyes above the axle seat [mm].  ``half``, where given, is the
    leaf from the axle seat to the eye whose bushing is meant; without it the upper pivot's is. [mm]
    """

    length: float
    lean: float
    span: float
    arch: float
    half: float = 0.0


def shackle_angle(shackle: Shackle, travel: ArrayLike) -> Array:
    """How far a bushing of a shackle is turned at a wheel travel.

    Parameters
    ----------
    shackle : Shackle
        The shackle at ride height. [mm, rad]
    travel : array_like
        Wheel travel from ride height, bump positive, any shape. [mm]

    Returns
    -------
    ndarray
        Angle against ride height, shape of `travel`. [rad]

    Raises
    ------
    OutOfRange
        No shackle or leaf length, or a travel the shackle cannot follow.

    Notes
    -----
    A leaf as a flat arc is shorter between its eyes by 8 a²/(3 L) for its arch a; the arch falls by the travel, and
    the shackle's foot follows: l sin θ = l sin θ₀ + 8 (a² − (a − t)²)/(3 L).  At the foot the leaf's own end turns
    too, as a link of three quarters of its half would (the three-quarter link), and the sum of both is taken: on the
    safe side, whichever way they turn.

    Source
    ------
    leaf-springs

    Examples
    --------
    >>> level = shackle_angle(Shackle(100.0, 0.2, 1300.0, 60.0), [-20.0, 0.0, 20.0])
    >>> (np.degrees(level).round(2) + 0.0).tolist()
    [-3.34, 0.0, 2.41]
    """
    require(shackle.length > 0, "shackle.length", "The shackle must be longer than 0 mm", shackle.length)
    require(shackle.span > 0, "leaf.front_half", "The leaf must be longer than 0 mm", shackle.span)
    moved = np.asarray(travel, dtype=float)
    grown = 8 * (shackle.arch**2 - (shackle.arch - moved) ** 2) / (3 * shackle.span)
    reach = np.sin(shackle.lean) + grown / shackle.length
    require(
        np.all(np.abs(reach) <= 1),
        "travel_at_clamp_mm",
        "A shackle must be able to follow the travel",
        f"{float(np.ravel(moved)[0]):g} mm",
        "Check the shackle's length and lean, and the leaf's arch.",
    )
    turned = np.arcsin(reach) - shackle.lean
    if not shackle.half:
        return np.asarray(turned)
    return np.asarray(np.sign(moved) * np.abs(turned) + moved / (0.75 * shackle.half))


Swing = Arm | Shackle


def swing_angle(swing: Swing, travel: ArrayLike) -> Array:
    """Angle of whatever turns in a bushing, at a wheel travel.

    Parameters
    ----------
    swing : Arm or Shackle
        What turns, at ride height. [mm]
    travel : array_like
        Wheel travel from ride height, any shape. [mm]

    Returns
    -------
    ndarray
        Angle, shape of `travel`. [rad]

    Raises
    ------
    OutOfRange
        As :func:`arm_angle` and :func:`shackle_angle`.

    Notes
    -----
    Only differences of it mean something.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(swing_angle(Arm(300.0, 0.0), 0.0))
    0.0
    """
    return arm_angle(swing, travel) if isinstance(swing, Arm) else shackle_angle(swing, travel)


def swing_window(swing: Swing, twist_limit: float = DEFAULT_TWIST_LIMIT) -> tuple[float, float]:
    """Wheel travels between which a bonded bushing may be clamped, whatever turns in it.

    Parameters
    ----------
    swing : Arm or Shackle
        What turns, at ride height. [mm]
    twist_limit : float
        Largest wind-up allowed at ride height, > 0. [rad]

    Returns
    -------
    tuple of float
        Lowest and highest travel, droop negative. [mm]

    Raises
    ------
    OutOfRange
        As :func:`clamp_window` and :func:`shackle_angle`.

    Notes
    -----
    An arm in closed form; a shackle by the nearest travels, either way within 80 mm, at which the twist meets the
    limit, on a grid of a tenth of a millimetre.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> [round(edge, 1) for edge in swing_window(Shackle(100.0, 0.2, 1300.0, 60.0))]
    [-12.6, 15.9]
    """
    if isinstance(swing, Arm):
        return clamp_window(swing, twist_limit)
    edges = []
    for way in (-1.0, 1.0):
        edge = 0.0
        for travel in way * np.arange(0.1, FARTHEST, 0.1):
            try:
                if abs(float(shackle_angle(swing, travel))) > twist_limit:
                    break
            except OutOfRange:
                break
            edge = float(travel)
        edges.append(edge)
    return edges[0], edges[1]


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
