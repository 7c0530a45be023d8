"""The drag link of a solid front axle: what body height does to the steering wheel, and how long the link must be."""

from __future__ import annotations

import math

from fair_spindle.core.basics.errors import NoSolution, require
from fair_spindle.core.basics.value_object import value_object


@value_object
class DragLink:
    """A drag link at ride height: length, rise of its axle end over its body end, lever at the knuckle. [mm]

    ``longer`` is +1 where a longer link steers the wheels to the right, −1 where to the left.
    """

    length: float
    rise: float
    lever: float
    longer: int


def rod_shift(length: float, rise: float, height_change: float) -> float:
    """How far a Panhard rod moves its axle away from the rod's body end when the body moves.

    Parameters
    ----------
    length, rise : float
        Of the rod, its axle end above its body end. [mm]
    height_change : float
        Of the body, up positive. [mm]

    Returns
    -------
    float
        Away from the body end, positive. [mm]

    Raises
    ------
    OutOfRange
        A rod that is shorter than it rises.
    NoSolution
        The rod would stand upright before that.

    Notes
    -----
    √(L² − (r − h)²) − √(L² − r²).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(rod_shift(900.0, -60.0, 50.0), 2)
    -4.75
    """
    require(length > abs(rise), "panhard.length", "A rod must be longer than it rises", f"{length:g} mm")
    if abs(rise - height_change) >= length:
        raise NoSolution("The Panhard rod would stand upright before that.")
    return math.sqrt(length**2 - (rise - height_change) ** 2) - math.sqrt(length**2 - rise**2)


def steered_by_height(link: DragLink, height_change: float, shift: float = 0.0) -> float:
    """Angle the wheels are steered by when the body moves and nothing is turned.

    Parameters
    ----------
    link : DragLink
        The link. [mm]
    height_change : float
        Of the body, up positive. [mm]
    shift : float, optional
        How far the axle itself moves away from the link's body end. [mm]

    Returns
    -------
    float
        Right positive. [rad]

    Raises
    ------
    OutOfRange
        A link that is shorter than its rise, or no lever.
    NoSolution
        The link would stand upright before that.

    Notes
    -----
    The link keeps its length while its body end moves with the body: its level reach changes from √(L² − r²) to
    √(L² − (r − h)²), and the knuckle follows; where the axle goes the same way, only by the difference.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(math.degrees(steered_by_height(DragLink(780.0, -90.0, 160.0, 1), 50.0)), 2)
    -2.67
    """
    _checked(link)
    new_rise = link.rise - height_change
    if abs(new_rise) >= link.length:
        raise NoSolution("The drag link would stand upright before that.")
    grown = math.sqrt(link.length**2 - new_rise**2) - math.sqrt(link.length**2 - link.rise**2)
    return link.longer * (grown - shift) / link.lever


def length_to_steer(link: DragLink, height_change: float, steer: float, shift: float = 0.0) -> float:
    """Change of length that steers the wheels by an angle, at a new body height.

    Parameters
    ----------
    link : DragLink
        The link. [mm]
    height_change : float
        Of the body, up positive. [mm]
    steer : float
        Wanted against where the wheels stand now, right positive. [rad]
    shift : float, optional
        How far the axle itself moves away from the link's body end. [mm]

    Returns
    -------
    float
        Longer positive. [mm]

    Raises
    ------
    OutOfRange
        A link that is shorter than its rise, or no lever.

    Notes
    -----
    L' = √((√(L² − r²) + shift + lever · steer)² + (r − h)²).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> link = DragLink(780.0, -90.0, 160.0, 1)
    >>> round(length_to_steer(link, 50.0, 0.0), 2)
    7.34
    """
    _checked(link)
    reach = math.sqrt(link.length**2 - link.rise**2) + shift + link.longer * link.lever * steer
    return math.hypot(reach, link.rise - height_change) - link.length


def _checked(link: DragLink) -> None:
    require(link.lever > 0, "lever", "The lever must be above 0 mm", link.lever)
    require(link.length > abs(link.rise), "length", "A drag link must be longer than it rises", f"{link.length:g} mm")
