"""How far left and right of an axle may stand apart, and how far they do."""

from __future__ import annotations

from collections.abc import Mapping

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, SIDES
from fair_spindle.core.joblog.readings import Quantity

ANGLES = ("toe", "camber", "caster")


@value_object
class SidesApart:
    """Left minus right of one angle, and how much it may be. [rad]"""

    axle: str
    name: str
    difference: float
    limit: float

    @property
    def inside(self) -> bool:
        """Whether the two sides are near enough."""
        return abs(self.difference) <= self.limit + 1e-12


def sides_apart(record: Mapping[str, Quantity], angles: Mapping[str, Mapping[str, float]]) -> list[SidesApart]:
    """Hold left against right, for every angle whose limit is told.

    Parameters
    ----------
    record : mapping of Quantity
        The car's record; limits are its `apart` fields. [rad]
    angles : mapping
        Angles by name, by wheel. [rad]

    Returns
    -------
    list of SidesApart
        Where both sides are known, the front axle first.

    Raises
    ------
    Nothing.

    Notes
    -----
    Two wheels can each be inside their own tolerance and still pull, because they differ.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> told = {"front.apart.camber": Quantity(0.01)}
    >>> [one.inside for one in sides_apart(told, {"front.left": {"camber": 0.0}, "front.right": {"camber": -0.02}})]
    [False]
    """
    found = []
    for axle in AXLES:
        left, right = (angles.get(f"{axle}.{side}", {}) for side in SIDES)
        for name in ANGLES:
            limit = record.get(f"{axle}.apart.{name}")
            if limit and name in left and name in right:
                found.append(SidesApart(axle, name, left[name] - right[name], limit.value))
    return found
