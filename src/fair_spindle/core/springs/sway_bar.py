"""A sway bar: its rate hole by hole, and what a link that was forced on does to the car."""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot, sqrt

from fair_spindle.core.basics.errors import InputError, NoSolution, require
from fair_spindle.core.springs.springs import SHEAR_MODULUS, polar_moment


def bar_rates(
    diameter: float,
    length: float,
    arms: Sequence[float],
    bore: float = 0.0,
    shear_modulus: float = SHEAR_MODULUS,
) -> tuple[float, ...]:
    """Rate of a bar at each of its holes.

    Parameters
    ----------
    diameter, length : float
        Outside diameter and twisting length, > 0. [mm]
    arms : sequence of float
        Lever from the bar's axis to each hole, > 0. [mm]
    bore : float, optional
        Of a hollow bar. [mm]
    shear_modulus : float, optional
        Of the bar, > 0. [MPa]

    Returns
    -------
    tuple of float
        Force at each end per mm that both ends move apart from level, δ up and δ down. [N/mm]

    Raises
    ------
    InputError
        No hole.
    OutOfRange
        A number that is not above zero, a bore as wide as the bar.

    Notes
    -----
    Ends moved ± δ twist the bar by 2 δ/arm: force per δ = 2 G J /(arm² · length), the arms rigid.

    Source
    ------
    shigley

    Examples
    --------
    >>> [round(rate, 1) for rate in bar_rates(24.0, 900.0, [250.0, 220.0])]
    [91.8, 118.6]
    """
    require(arms, "arm_lengths_mm", "At least one hole is needed", "none", kind=InputError)
    require(length > 0, "bar_length_mm", "The twisting length must be above 0 mm", length)
    require(shear_modulus > 0, "shear_modulus_mpa", "The shear modulus must be above 0 MPa", shear_modulus)
    stiff = 2 * shear_modulus * polar_moment(diameter, bore) / length
    for place, arm in enumerate(arms):
        require(arm > 0, f"arm_lengths_mm.{place}", "An arm must be longer than 0 mm", arm)
    return tuple(stiff / arm**2 for arm in arms)


def wheel_rate(rate: float, link_ratio: float) -> float:
    """Force at each wheel per mm of left-right travel difference, from a bar's rate at its ends.

    Parameters
    ----------
    rate : float
        At the ends, as :func:`bar_rates`. [N/mm]
    link_ratio : float
        Bar-end travel per wheel travel, > 0. [-]

    Returns
    -------
    float
        Rate for the difference of both wheels' travels. [N/mm]

    Raises
    ------
    OutOfRange
        A ratio that is not above zero.

    Notes
    -----
    A travel difference Δ moves the ends ± ratio · Δ/2 from level; force at the wheel = ratio · force at the end.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> wheel_rate(100.0, 0.5)
    12.5
    """
    require(link_ratio > 0, "link_ratio", "The link ratio must be above 0", link_ratio)
    return rate * link_ratio**2 / 2


def preload(rate: float, gap: float) -> float:
    """Force in both links when the second one was forced on over a gap.

    Parameters
    ----------
    rate : float
        Of the bar at its ends, > 0. [N/mm]
    gap : float
        By how much the free end missed its hole; positive where the bar's end stood above it. [mm]

    Returns
    -------
    float
        Force on each end; positive presses that wheel's side of the body down. [N]

    Raises
    ------
    OutOfRange
        A rate that is not above zero.

    Notes
    -----
    One end is moved by the gap while the other is held: half of it either way about level.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> preload(90.0, 6.0)
    270.0
    """
    require(rate > 0, "rate_n_per_mm", "The bar's rate must be above 0 N/mm", rate)
    return rate * gap / 2


def link_for_no_preload(length: float, gap: float, lean: float = 0.0) -> float:
    """Length of the second link that goes on free.

    Parameters
    ----------
    length : float
        Its length now, or the primary link's, > 0. [mm]
    gap : float
        By how much the bar's end stands above the link's hole with the link held to its mount. [mm]
    lean : float, optional
        How far the link stands from upright, measured sideways at its upper end. [mm]

    Returns
    -------
    float
        Length to set, centre to centre. [mm]

    Raises
    ------
    OutOfRange
        A length that is not above zero, or shorter than it leans.
    NoSolution
        The link would have to be nothing.

    Notes
    -----
    The upright part of the link grows by the gap, its lean stays.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> link_for_no_preload(120.0, 4.0)
    124.0
    """
    require(length > abs(lean), "length_mm", "A link must be longer than it leans", f"{length:g} mm")
    upright = sqrt(length**2 - lean**2) + gap
    if upright <= 0:
        raise NoSolution("The bar's end lies beyond the link's mount: turn the bar over, or move the hole.")
    return hypot(upright, lean)


def sideways_shift(left_gap: float, right_gap: float) -> float:
    """How far a bar must be moved to sit in the middle.

    Parameters
    ----------
    left_gap, right_gap : float
        From the bar's bend to the same face at both sides. [mm]

    Returns
    -------
    float
        To the left, positive. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Half the difference.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> sideways_shift(14.0, 8.0)
    3.0
    """
    return (left_gap - right_gap) / 2
