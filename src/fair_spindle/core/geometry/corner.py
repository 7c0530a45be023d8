"""A wheel's suspension as points and links: what holds the upright, in the frame of ISO 8855.

x forward, y left, z up; a right corner has negative y.  Link and point names are those of the
published geometry calculations.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import InputError, require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import OUT
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout

Array = NDArray[np.float64]


@value_object
class Link:
    """A link of constant length between a point on the body and one on the upright. [mm]"""

    name: str
    inner: tuple[float, float, float]
    outer: tuple[float, float, float]


@value_object
class Corner:
    """One corner by its points at ride height, with the wheel angles measured there. [mm, rad]

    ``side`` is +1 left, −1 right; ``links`` are the layout's own, in order; ``pitch`` by how much the body stands
    nose down against the height its points were read at. [rad]
    """

    layout: str
    side: int
    camber: float
    toe: float
    points: Mapping[str, tuple[float, float, float]]
    links: tuple[Link, ...]
    pitch: float = 0.0

    @property
    def kind(self) -> Layout:
        """What holds it."""
        return LAYOUTS[self.layout]

    @property
    def steering_axis(self) -> tuple[str, str] | None:
        """Points between which it steers, lower one first."""
        return self.kind.steering_axis

    def point(self, name: str) -> Array:
        """A point at ride height."""
        return np.array(self.points[name], dtype=float)

    @property
    def wheel(self) -> Array:
        """Wheel centre at ride height."""
        return self.point("wheel_center")

    @property
    def spindle(self) -> Array:
        """Unit vector out of the wheel's outer face, from camber and toe as measured."""
        return spindle_of(self.side, self.camber, self.toe)


def make_corner(
    layout: str,
    side: str,
    camber: float,
    toe: float,
    points: Mapping[str, tuple[float, float, float]],
    links: tuple[Link, ...] = (),
) -> Corner:
    """Put a corner together and hold its points against what can be built.

    Parameters
    ----------
    layout : str
        Key of a layout whose wheels move each for itself, or of a twist beam. [-]
    side : {"left", "right"}
        Side of the car. [-]
    camber, toe : float
        Wheel angles as measured at ride height. [rad]
    points : mapping
        Points at ride height by name, each (x, y, z). [mm]
    links : tuple of Link, optional
        The five links of a five-link corner. [mm]

    Returns
    -------
    Corner
        The corner, with its links.

    Raises
    ------
    InputError
        A missing point or link; a point on the wrong side or one that cannot be right, named.

    Notes
    -----
    Links shorter than 20 mm or longer than 2 m, a degenerate pivot axis and a lower ball joint above
    the upper one are refused.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> arm = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> make_corner("semi_trailing", "left", 0.0, 0.0, arm).links
    ()
    """
    kind = LAYOUTS.get(layout)
    if kind is None or kind.guide == "axle":
        raise InputError(f"Unknown layout; got {layout}.", field="layout")
    sign = OUT[side]
    for name in kind.needed:
        if name not in points:
            raise InputError(
                f"The {layout.replace('_', ' ')} corner lacks its point {name!r}.", field=f"points.{name}"
            )
    for name, at in points.items():
        require(np.all(np.isfinite(at)), f"points.{name}", "A point needs three finite numbers", at, kind=InputError)
    if kind.told_links:
        require(len(links) == 5, "links", "A five-link corner has five links", len(links), kind=InputError)
        require(
            len({link.name for link in links}) == 5, "links", "Each link needs a name of its own", "the same twice",
            kind=InputError,
        )  # fmt: skip
        own = links
    else:
        own = tuple(Link(name, points[inner], points[outer]) for name, inner, outer in kind.links)
    corner = Corner(layout, sign, camber, toe, dict(points), own)
    for told in suspicions(corner):
        raise InputError(told.message, field=told.field)
    return corner


def spindle_of(side: int, camber: ArrayLike, toe: ArrayLike) -> Array:
    """Unit vector out of a wheel's outer face.

    Parameters
    ----------
    side : int
        +1 left, −1 right. [-]
    camber, toe : array_like
        Wheel angles, same shape. [rad]

    Returns
    -------
    array
        Shape of `camber` with a last axis of 3. [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    Camber negative leans the top in, toe-in positive.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> spindle_of(-1, 0.0, 0.0).tolist()
    [0.0, -1.0, -0.0]
    """
    flat = np.cos(camber)
    return np.stack([flat * np.sin(toe), side * flat * np.cos(toe), -np.sin(camber)], axis=-1)


@value_object
class Suspicion:
    """A point or link that cannot be right, and why."""

    field: str
    message: str


def suspicions(corner: Corner) -> list[Suspicion]:
    """Name points that cannot be right, so that a wrong sign or a swapped point is seen.

    Parameters
    ----------
    corner : Corner
        The corner. [mm]

    Returns
    -------
    list of Suspicion
        Each with the field to look at.

    Raises
    ------
    Nothing.

    Notes
    -----
    Limits are wide enough for any road car; the product's own.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> points = {"arm_inner": (0, 200, 0), "arm_outer": (0, 200, 4), "wheel_center": (-400, 700, 0)}
    >>> suspicions(Corner("semi_trailing", 1, 0.0, 0.0, points, ()))[0].field
    'points.arm_outer'
    """
    found = []
    if corner.wheel[1] * corner.side <= 0:
        side = "left" if corner.side > 0 else "right"
        wanted = "positive" if corner.side > 0 else "negative"
        found.append(Suspicion("points.wheel_center", f"The wheel centre of a {side} corner has {wanted} y."))
    for link in corner.links:
        length = float(np.linalg.norm(np.subtract(link.outer, link.inner)))
        if not 20 <= length <= 2000:
            found.append(
                Suspicion(
                    f"links.{link.name}", f"Link {link.name!r} would be {length:.1f} mm long; is a point swapped?"
                )
            )
        if abs(link.inner[1]) > abs(link.outer[1]) + 50 and corner.kind.guide != "trailing":
            found.append(
                Suspicion(f"links.{link.name}", f"Link {link.name!r} points inward; are its two ends swapped?")
            )
    for first, second in (("arm_inner", "arm_outer"), ("strut_low", "strut_top")):
        if first in corner.points and second in corner.points:
            apart = float(np.linalg.norm(corner.point(second) - corner.point(first)))
            if apart < 30:
                found.append(
                    Suspicion(
                        f"points.{second}", f"{first} and {second} are {apart:.1f} mm apart: no axis is to be had."
                    )
                )
    axis = corner.steering_axis
    if axis and corner.point(axis[1])[2] <= corner.point(axis[0])[2] + 20:
        found.append(Suspicion(f"points.{axis[0]}", f"{axis[0]} lies above {axis[1]}; are they swapped?"))
    return found
