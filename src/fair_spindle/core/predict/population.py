"""Cars nobody has measured: where the points of a wheel may lie when no more is known than what it hangs on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import OUT
from fair_spindle.core.geometry.corner import Corner, Link, make_corner
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.geometry.layouts.layout import CAR_TO_CAR, SIDE_TO_SIDE
from fair_spindle.core.geometry.measures import measures_of
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.linkage_fit import Row, fit_linkage, points_of, prior_cloud, spread_of
from fair_spindle.core.turns.monte_carlo import Cloud

Array = NDArray[np.float64]
STEERED = ("tie_inner", "tie_outer")
IN_CARS = "what cars of its kind leave open"


@value_object
class Middling:
    """A middling left corner of a layout, and how its points vary from car to car: (3 m, k). [mm]"""

    corner: Corner
    points: tuple[str, ...]
    varies: Array


def drawn_corner(layout: str, side: str, angles: tuple[float, float], at: Mapping[str, Array]) -> Corner:
    """A corner of a layout by its points, camber and toe [mm, rad].  Raises InputError where they cannot be right."""
    kind = find_layout(layout)
    points = {name: (float(x), float(y), float(z)) for name, (x, y, z) in at.items()}
    if not kind.told_links:
        return make_corner(layout, side, *angles, points)
    links = tuple(Link(arm.key, *(points[end] for end in kind.ends_of(arm.key))) for arm in kind.arms)
    return make_corner(layout, side, *angles, {name: points[name] for name in kind.needed}, links)


@cache
def middling(layout: str, ahead: bool = False) -> Middling | None:
    """What is believed of a layout's wheels before anything was read; None where they move together.

    Every coordinate of every point varies by 25 mm from car to car, and then the whole is held to what those who
    build cars keep: little bump steer, a camber gain, caster and a steering lever near the middling ones.  The
    product's own.
    """
    kind = find_layout(layout)
    usual = usual_corner(layout)
    if usual is None or not kind.independent:
        return None
    at = {name: np.array(place, dtype=float) for name, place in kind.usual.items()}
    if ahead and set(STEERED) <= at.keys():
        middle = at.get("lower_ball", at["wheel_center"])[0]
        at |= {name: np.array([2 * middle - at[name][0], *at[name][1:]]) for name in STEERED}
    corner = drawn_corner(layout, "left", (0.0, 0.0), at)
    points = points_of(corner)
    loose = prior_cloud(points, [CAR_TO_CAR] * len(points), 0.0, 0.0)
    kept = [Row(what, what, 0.0, spread_of(corner, loose, what)[0], size) for what, size in kind.kept]
    return Middling(corner, points, fit_linkage(corner, loose, kept).cloud.matrix[:-2])


# An arm of a car whose axle nobody described, by the name of the arm: length and rise, each with how far it varies.
# The product's own, common practice, no published source. [mm]
USUAL_ARMS: Mapping[str, tuple[Quantity, Quantity]] = {
    "": (Quantity(350.0, 50.0), Quantity(-5.0, 35.0)),
    "upper": (Quantity(270.0, 50.0), Quantity(20.0, 35.0)),
    "trailing": (Quantity(450.0, 60.0), Quantity(10.0, 40.0)),
    "beam": (Quantity(420.0, 60.0), Quantity(10.0, 40.0)),
    "arm": (Quantity(440.0, 60.0), Quantity(40.0, 50.0)),
    "link": (Quantity(520.0, 80.0), Quantity(-20.0, 50.0)),
}


@cache
def usual_arm(layout: str, arm: str) -> tuple[Quantity, Quantity]:
    """Length and rise of an arm as cars of a layout have it; of an arm like it where the layout has none. [mm]"""
    usual = middling(layout) if layout else None
    if usual is not None and f"{arm}.length" in measures_of(usual.corner.kind):
        still = np.zeros((2, usual.varies.shape[1]))
        cloud = Cloud(usual.points, ((IN_CARS, usual.varies.shape[1]),), np.concatenate([usual.varies, still]))
        length, rise = (Quantity(*spread_of(usual.corner, cloud, f"{arm}.{name}")) for name in ("length", "rise"))
        return length, rise
    named = (name for name in USUAL_ARMS if name and name in arm)
    return USUAL_ARMS[next(named, "")]


def population_wheel(
    layout: str, side: str, ahead: bool, angles: tuple[float, float], unsure: tuple[float, float]
) -> tuple[Corner, Cloud] | None:
    """A wheel of which no more is known than its layout and its angles.

    ``angles`` are camber and toe, ``unsure`` the standard uncertainties of toe and camber [rad].  What varies from
    car to car is the same at both sides, in a mirror.
    """
    usual = middling(layout, ahead)
    if usual is None:
        return None
    corner = usual.corner
    flip = np.array([1.0, OUT[side], 1.0])
    every = {
        **corner.points,
        **{
            end: place
            for link in corner.links
            for end, place in zip(corner.kind.ends_of(link.name), (link.inner, link.outer), strict=True)
        },
    }
    mirrored = drawn_corner(layout, side, angles, {name: np.array(place) * flip for name, place in every.items()})
    varies = usual.varies * np.tile(flip, len(usual.points))[:, None]
    return mirrored, side_cloud(side, usual.points, ((IN_CARS, varies),), [SIDE_TO_SIDE] * len(usual.points), unsure)


def side_cloud(
    side: str,
    points: Sequence[str],
    shared: Sequence[tuple[str, Array]],
    own: Sequence[float],
    unsure: tuple[float, float],
) -> Cloud:
    """A wheel's cloud: what it shares with the other side by source (3 m, k), its own spread of each point [mm], and
    the standard uncertainties of toe and camber. [rad]"""
    height = 3 * len(points)
    width = sum(part.shape[1] for _, part in shared)
    matrix = np.zeros((height + 2, width + height + 2))
    if shared:
        matrix[:height, :width] = np.concatenate([part for _, part in shared], axis=1)
    matrix[:height, width:-2] = np.diag(np.repeat(np.asarray(own, dtype=float), 3))
    matrix[-2, -2], matrix[-1, -1] = unsure
    sources = (
        *((name, part.shape[1]) for name, part in shared),
        *((f"{side} point {name}", 3) for name in points),
        (f"{side} toe", 1),
        (f"{side} camber", 1),
    )
    return Cloud(tuple(points), sources, matrix)
