"""Toe in its spellings, thrust, steering wheel, and what a tie rod does to it."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import InputError, require
from fair_spindle.core.basics.value_object import value_object

Steer = Literal["ahead", "behind"]


@value_object
class AxleToe:
    """Toe of an axle, from its two wheels. [rad]"""

    total: float
    split: float
    thrust: float
    steering_wheel: float | None


def rim_toe_angle(offset: float, across: float) -> float:
    """Toe angle of one wheel from a toe length at a stated diameter.

    Parameters
    ----------
    offset : float
        Toe of one wheel as a length, at most `across` either way. [mm]
    across : float
        Length it was measured across, > 0. [mm]

    Returns
    -------
    float
        Toe, positive toe-in. [rad]

    Raises
    ------
    OutOfRange
        The toe is longer than what it was measured across.

    Notes
    -----
    offset = across · sin toe.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(rim_toe_angle(5.0, 600.0), 6)
    0.008333
    """
    require(across > 0, "measured_across_mm", "The length measured across must be above 0 mm", across)
    require(
        abs(offset) <= across,
        "toe_mm",
        f"Toe as a length cannot exceed the {across:g} mm it was measured across",
        f"{offset:g} mm",
    )
    return float(np.arcsin(offset / across))


def toe_at_rim(toe: float, across: float) -> float:
    """Toe length of one wheel at a stated diameter, the inverse of :func:`rim_toe_angle`.

    Parameters
    ----------
    toe : float
        Toe of one wheel, within a right angle. [rad]
    across : float
        Length to state it across, > 0. [mm]

    Returns
    -------
    float
        Toe length. [mm]

    Raises
    ------
    OutOfRange
        A toe beyond a right angle, or nothing to measure across.

    Notes
    -----
    offset = across · sin toe.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(toe_at_rim(0.01, 600.0), 3)
    6.0
    """
    require(across > 0, "measured_across_mm", "The length measured across must be above 0 mm", across)
    require(abs(toe) <= np.pi / 2, "toe_deg", "Toe must lie within 90°", f"{np.degrees(toe):g}°")
    return float(across * np.sin(toe))


def string_toe(front_gap: float, rear_gap: float, across: float) -> float:
    """Toe of one wheel from two gaps to a string outside the car, parallel to its centre line.

    Parameters
    ----------
    front_gap, rear_gap : float
        Rim to string at the front and at the rear of the wheel, >= 0. [mm]
    across : float
        Distance between the two places, > 0. [mm]

    Returns
    -------
    float
        Toe, positive toe-in. [rad]

    Raises
    ------
    OutOfRange
        A negative gap, or gaps further apart than `across`.

    Notes
    -----
    asin((front − rear) / across): a front edge further from the string leans in.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(string_toe(52.0, 50.0, 500.0), 6)
    0.004
    """
    require(front_gap >= 0, "front_gap_mm", "A gap cannot be negative", front_gap)
    require(rear_gap >= 0, "rear_gap_mm", "A gap cannot be negative", rear_gap)
    return rim_toe_angle(front_gap - rear_gap, across)


def axle_toe(left: float, right: float, steering_ratio: float | None = None, rear_thrust: float = 0.0) -> AxleToe:
    """Total, split, thrust and steering wheel angle of an axle.

    Parameters
    ----------
    left, right : float
        Toe of each wheel, positive toe-in. [rad]
    steering_ratio : float, optional
        Steering wheel turn per road wheel turn, > 0. [-]
    rear_thrust : float
        Thrust direction of the rear axle, positive to the right. [rad]

    Returns
    -------
    AxleToe
        Split is left − right; thrust half of it, positive to the right; steering wheel
        positive clockwise, None without a ratio. [rad]

    Raises
    ------
    OutOfRange
        The steering ratio is not above zero.

    Notes
    -----
    A car running straight follows its rear thrust line; the wheel then sits at
    −ratio · (front thrust − rear thrust).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(axle_toe(0.002, 0.001).thrust, 6)
    0.0005
    """
    split = left - right
    wheel = None
    if steering_ratio is not None:
        require(steering_ratio > 0, "steering_ratio", "The steering ratio must be above 0", steering_ratio)
        wheel = -steering_ratio * (split / 2 - rear_thrust)
    return AxleToe(left + right, split, split / 2, wheel)


def rod_change_for_toe(toe_change: ArrayLike, lever: ArrayLike, steer: Steer) -> NDArray[np.float64] | np.float64:
    """How much longer a tie rod must be for a wanted change of toe.

    Parameters
    ----------
    toe_change : array_like
        Wanted change, positive toe-in, any shape. [rad]
    lever : array_like
        Steering axis to tie-rod stud, seen from above, > 0. [mm]
    steer : {"ahead", "behind"}
        Where the tie rod is, seen from the axle. [-]

    Returns
    -------
    ndarray or float
        Change of rod length, positive longer, broadcast shape. [mm]

    Raises
    ------
    InputError
        `steer` is neither word.
    OutOfRange
        The lever is not above zero.

    Notes
    -----
    lever · Δtoe: a longer rod toes in when it is behind the axle and out when ahead.  First
    order in the angle; within 0.1 % up to 4° about a lever square to the rod.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(rod_change_for_toe(0.01, 120.0, "behind"))
    1.2
    """
    return _lever(lever) * np.asarray(toe_change, dtype=float)[()] * steer_sign(steer)


def toe_for_rod_change(length_change: ArrayLike, lever: ArrayLike, steer: Steer) -> NDArray[np.float64] | np.float64:
    """Toe that a change of tie-rod length gives, the inverse of :func:`rod_change_for_toe`.

    Parameters
    ----------
    length_change : array_like
        Change of rod length, positive longer, any shape. [mm]
    lever : array_like
        Steering axis to tie-rod stud, seen from above, > 0. [mm]
    steer : {"ahead", "behind"}
        Where the tie rod is, seen from the axle. [-]

    Returns
    -------
    ndarray or float
        Change of toe, positive toe-in, broadcast shape. [rad]

    Raises
    ------
    InputError
        `steer` is neither word.
    OutOfRange
        The lever is not above zero.

    Notes
    -----
    Δlength / lever, with the sign of :func:`rod_change_for_toe`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(toe_for_rod_change(1.2, 120.0, "ahead"))
    -0.01
    """
    return np.asarray(length_change, dtype=float)[()] * steer_sign(steer) / _lever(lever)


def steer_sign(steer: str) -> int:
    """Sign of toe-in for a longer rod: +1 behind the axle, −1 ahead of it.

    Parameters
    ----------
    steer : {"ahead", "behind"}
        Where the tie rod is. [-]

    Returns
    -------
    int
        +1 or −1.

    Raises
    ------
    InputError
        Any other word.

    Notes
    -----
    A rod behind the axle that grows pushes the rear of the wheel out, so its front in.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> steer_sign("ahead")
    -1
    """
    if steer not in ("ahead", "behind"):
        raise InputError(f"steer must be 'ahead' or 'behind'; got {steer!r}.", field="steer")
    return 1 if steer == "behind" else -1


def _lever(lever: ArrayLike) -> NDArray[np.float64] | np.float64:
    arm = np.asarray(lever, dtype=float)[()]
    require(np.all(arm > 0), "lever_mm", "The lever must be above 0 mm", lever)
    return arm
