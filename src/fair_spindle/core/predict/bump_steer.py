"""Bump steer of a wheel: what its geometry gives together with what was read, and how sure that is."""

from __future__ import annotations

from dataclasses import replace

from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.slopes import Geometry, Slopes, angles_at
from fair_spindle.core.joblog.readings import Quantity

TIE, INNER = "tie", "tie_inner"
NEAR = 1.0


def bump_steer(geometry: Geometry, doubt: float, read: Quantity | None = None) -> Quantity | None:
    """Toe per travel of a wheel at ride height, as its geometry gives it together with what was read.

    Parameters
    ----------
    geometry : Corner or Slopes
        The wheel. [mm, rad]
    doubt : float
        Standard uncertainty of one of its points, >= 0. [mm]
    read : Quantity, optional
        Bump steer as read. [rad/mm]

    Returns
    -------
    Quantity or None
        Toe-in in bump positive [rad/mm]; None for a corner that no tie rod steers.

    Raises
    ------
    NoSolution
        The linkage locks at ride height.

    Notes
    -----
    Of all points the heights of the tie rod's two ends matter most; their doubt is carried through.  A reading surer
    than the drawing stands for it, as what was learned does, which holds the drawing already; one less sure is taken
    together with it, each by its weight 1/u².

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> found = bump_steer(Slopes(1, 0.0, 0.0, 2e-5, 0.0, 4e-6), 3.0)
    >>> found.value, found.uncertainty
    (2e-05, 4e-06)
    """
    if isinstance(geometry, Slopes):
        return Quantity(geometry.toe_slope, geometry.toe_slope_uncertainty)
    if not _steered(geometry):
        return None
    drawn = _slope(geometry)
    per_mm = (_slope(_moved(geometry, NEAR)) - drawn) / NEAR
    return _together(Quantity(drawn, 2**0.5 * abs(per_mm) * doubt), read)


def _together(drawn: Quantity, read: Quantity | None) -> Quantity:
    if read is None or not drawn.uncertainty:
        return drawn
    if read.uncertainty <= drawn.uncertainty:
        return read
    first, second = drawn.uncertainty**-2, read.uncertainty**-2
    return Quantity((first * drawn.value + second * read.value) / (first + second), (first + second) ** -0.5)


def _steered(corner: Corner) -> bool:
    return INNER in corner.points and any(link.name == TIE for link in corner.links)


def _slope(corner: Corner) -> float:
    return float(angles_at(corner, [0.0]).toe_slope[0])


def _moved(corner: Corner, up: float) -> Corner:
    """The corner with the tie rod's inner end higher; the rod is as long as it then has to be."""
    x, y, z = corner.points[INNER]
    inner = (x, y, z + up)
    links = tuple(replace(link, inner=inner) if link.name == TIE else link for link in corner.links)
    return replace(corner, points={**corner.points, INNER: inner}, links=links)
