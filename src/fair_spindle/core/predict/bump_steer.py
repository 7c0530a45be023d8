"""Bump steer of a wheel: what all that was read of its linkage says together, and how sure that is."""

from __future__ import annotations

from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.predict.linkage_fit import spread_of

TIE = "tie"


def bump_steer(wheel: Wheel) -> Quantity | None:
    """Toe per travel of a wheel at ride height, toe-in in bump positive [rad/mm]; None where no tie rod steers it.

    Raises NoSolution where the linkage locks at ride height.

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> from fair_spindle.core.joblog.required_fields import Readings
    >>> from fair_spindle.core.predict.geometry import wheels_of
    >>> told = Readings(Sheet(), {}, {"front.layout": "strut"})
    >>> bump_steer(wheels_of(told, {"front.left.bump_slope": Quantity(2e-5, 1e-6)})["front.left"]).value.__round__(6)
    2e-05
    """
    corner, cloud = wheel.corner, wheel.doubtful.cloud
    if corner is None or cloud is None or not any(link.name == TIE for link in corner.links):
        return None
    return Quantity(*spread_of(corner, cloud, "toe_slope"))


def lever_of(wheel: Wheel) -> Quantity | None:
    """Lever that a wheel's tie rod steers it by [mm]; None where none does.  Raises NoSolution as above."""
    corner, cloud = wheel.corner, wheel.doubtful.cloud
    if corner is None or cloud is None or not any(link.name == TIE for link in corner.links):
        return None
    return Quantity(*spread_of(corner, cloud, f"{TIE}.lever"))
