"""How far a wheel can go, and what stops it first."""

from __future__ import annotations

from collections.abc import Iterable
from math import asin, sin

from fair_spindle.core.basics.errors import Inconsistent, require
from fair_spindle.core.basics.value_object import value_object


@value_object
class Budget:
    """Wheel travel left from ride height: droop, bump until the stop touches, bump until metal. [mm]"""

    droop: float
    bump_to_stop: float
    bump_to_metal: float


@value_object
class Limit:
    """Something that ends the travel: what, at how much wheel travel from ride height [mm], and what helps.

    ``droop`` tells which way it ends it; one that is passed already at ride height has a travel of the other sign.
    ``plus_minus`` is with coverage 2. [mm]
    """

    name: str
    travel: float
    remedy: str = ""
    droop: bool = False
    plus_minus: float = 0.0


def travel_budget(
    damper_open: float, damper_closed: float, damper_at_ride: float, ratio: float, bump_stop: float
) -> Budget:
    """Travel that a damper leaves at ride height.

    Parameters
    ----------
    damper_open, damper_closed, damper_at_ride : float
        Eye to eye, > 0. [mm]
    ratio : float
        Damper travel per wheel travel, > 0. [-]
    bump_stop : float
        Free height of the stop on its rod, >= 0. [mm]

    Returns
    -------
    Budget
        Each at the wheel.

    Raises
    ------
    OutOfRange
        A length or ratio that is not above zero.
    Inconsistent
        A ride length outside the damper's own.

    Notes
    -----
    Lengths over ratio, taken constant.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> travel_budget(500.0, 340.0, 420.0, 0.8, 30.0)
    Budget(droop=100.0, bump_to_stop=62.5, bump_to_metal=100.0)
    """
    require(damper_closed > 0, "damper_closed_mm", "The closed damper must be longer than 0 mm", damper_closed)
    require(ratio > 0, "motion_ratio", "The motion ratio must be above 0", ratio)
    require(bump_stop >= 0, "bump_stop_mm", "The bump stop cannot be shorter than nothing", bump_stop)
    require(
        damper_closed < damper_open,
        "damper_open_mm",
        f"The open damper must be longer than the closed {damper_closed:g} mm",
        f"{damper_open:g} mm",
        kind=Inconsistent,
    )
    require(
        damper_closed <= damper_at_ride <= damper_open,
        "damper_length_at_ride_mm",
        f"At ride height a damper lies between {damper_closed:g} and {damper_open:g} mm",
        f"{damper_at_ride:g} mm",
        kind=Inconsistent,
    )
    return Budget(
        (damper_open - damper_at_ride) / ratio,
        (damper_at_ride - damper_closed - bump_stop) / ratio,
        (damper_at_ride - damper_closed) / ratio,
    )


def joint_travel(length: float, rise: float, angle_limit: float, up: bool) -> float:
    """Wheel travel at which an arm's or shaft's joint reaches its angle.

    Parameters
    ----------
    length, rise : float
        Of the arm or shaft, outer end above the inner at ride height. [mm]
    angle_limit : float
        Most it may stand from level, within a right angle. [rad]
    up : bool
        Bump, or droop. [-]

    Returns
    -------
    float
        Travel from ride height, bump positive; of the other sign where the joint is already past it. [mm]

    Raises
    ------
    OutOfRange
        An arm shorter than its rise.

    Notes
    -----
    The outer end moves with the wheel: travel = ± length · sin(limit) − rise.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(joint_travel(350.0, -20.0, 0.4, True), 1)
    156.3
    """
    require(length > abs(rise), "length_mm", "An arm must be longer than it rises", f"{length:g} mm")
    reach = length * sin(min(abs(angle_limit), asin(1.0)))
    return (reach if up else -reach) - rise


def first_limits(limits: Iterable[Limit]) -> tuple[tuple[Limit, ...], tuple[Limit, ...]]:
    """Sort limits of a wheel into bump and droop, the first to end the travel first.

    Parameters
    ----------
    limits : iterable of Limit
        Bump positive, droop negative. [mm]

    Returns
    -------
    tuple
        Of bump, and of droop.

    Raises
    ------
    Nothing.

    Notes
    -----
    A limit that is passed already at ride height comes first.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> limits = [Limit("damper", 80.0), Limit("hose", -60.0, droop=True), Limit("damper", -90.0, droop=True)]
    >>> bump, droop = first_limits(limits)
    >>> bump[0].name, droop[0].name
    ('damper', 'hose')
    """
    known = list(limits)
    bump = sorted((one for one in known if not one.droop), key=lambda one: one.travel)
    droop = sorted((one for one in known if one.droop), key=lambda one: -one.travel)
    return tuple(bump), tuple(droop)
