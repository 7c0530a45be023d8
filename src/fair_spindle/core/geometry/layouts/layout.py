"""What a type of axle is: its arms and pivots, its points and links, how they hold the wheel, what can be adjusted.

Names of points and links are those of the published geometry calculations.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Literal

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, Axle

Point = tuple[float, float, float]
# What holds the upright beside its links: nothing more, a strut that it slides along, one axis that its arm swings
# about, an arm it is rigid with and that turns in one joint; half of a beam; or it is one piece with the other wheel.
Guide = Literal["links", "strut", "swing", "trailing", "beam", "axle"]

FRONT_REAR = (("front", "front bushing"), ("rear", "rear bushing"))
ENDS = (("inner", "inner end"), ("outer", "outer end"))
WHEEL = ("wheel_center", "Wheel centre")
# How far one coordinate of a point varies from car to car, and from one side of a car to the other.  The product's
# own, wide on purpose. [mm]
CAR_TO_CAR, SIDE_TO_SIDE = 25.0, 1.0
# Points drawn each for itself make wheels that nobody would build: whoever lays a car out keeps these near the
# middling corner's. What is kept, and how far it still varies; the product's own. [rad/mm, mm]
BUMP_STEER_KEPT = ("toe_slope", to_core(12, "min_per_10mm"))
LEVER_KEPT = ("tie.lever", 18.0)
# Spring travel per wheel travel, and how far it varies.  The product's own, common practice. [-]
USUAL_RATIO = (0.8, 0.13)
CAMBER_GAIN_KEPT = ("camber_slope", to_core(6, "min_per_10mm"))


@value_object
class PlanMeasure:
    """What a tape reads of an arm seen from above: name, label, limits. [mm]"""

    name: str
    label: str
    low: float
    high: float


@value_object
class ArmKind:
    """An arm or link of a layout: key, name, its pivots, whether one serves both sides.

    ``steers`` tells that it holds the toe of the wheel, ``ball`` that a ball joint which is none of its pivots holds
    the upright, ``sprung`` that a spring stands on it, ``leaf`` that it is the spring, ``own_work`` that swapping it
    is a kind of work with a file of its own.  ``plan`` is what places its joint by tape beside length and rise.
    """

    key: str
    label: str
    pivots: tuple[tuple[str, str], ...]
    shared: bool = False
    steers: bool = False
    ball: bool = False
    sprung: bool = False
    leaf: bool = False
    own_work: bool = False
    plan: tuple[PlanMeasure, ...] = ()


@value_object
class Layout:
    """A type of axle.  A new one is a file like its neighbours, and its line in ``layouts``.

    ``steering_axis`` are the points between which its wheels steer, lower one first.  ``links`` are (name, inner
    point, outer point), ``told_links`` that a corner's links are told with it, ``guide_points`` what the guide rests
    on, ``movable`` the part of it that an adjuster moves.  Of an axle whose wheels move together ``axle_points`` are
    needed of both sides; ``axle_links`` are (name, body, axle), ``leaves`` (front eye, seat, rear eye), ``across``
    the ends of its rod at both sides.  ``camber_usual`` is what cars show [°], ``joint_inboard`` how far the upper
    joint leans in by its height, ``usual`` a middling left corner at ride height, x forward, y left, z up [mm]; the
    product's own, common practice, no published source.  ``kept`` is what its wheels are kept to from car to car,
    and the standard deviation that is left [rad, rad/mm, mm]; ``ratio`` spring travel per wheel travel and how far it
    varies. [-]
    """

    key: str
    label: str
    arms: tuple[ArmKind, ...]
    points: tuple[tuple[str, str], ...]
    camber_usual: tuple[float, float]
    guide: Guide = "links"
    axles: tuple[Axle, ...] = AXLES
    links: tuple[tuple[str, str, str], ...] = ()
    told_links: bool = False
    guide_points: tuple[str, ...] = ()
    steering_axis: tuple[str, str] | None = None
    movable: str = ""
    spring_points: tuple[tuple[str, str], ...] = ()
    axle_points: tuple[str, ...] = ()
    axle_links: tuple[tuple[str, str, str], ...] = ()
    leaves: tuple[tuple[str, str, str], ...] = ()
    across: str = ""
    joint_inboard: float = 0.0
    usual: Mapping[str, Point] = field(default_factory=dict)
    kept: tuple[tuple[str, float], ...] = (BUMP_STEER_KEPT, CAMBER_GAIN_KEPT)
    ratio: tuple[float, float] = USUAL_RATIO

    @property
    def independent(self) -> bool:
        """Whether its wheels move each for itself."""
        return self.guide not in ("beam", "axle")

    @property
    def kingpin(self) -> bool:
        """Whether its wheels have a steering axis of their own."""
        return self.steering_axis is not None or self.guide == "axle"

    @property
    def taped(self) -> tuple[ArmKind, ...]:
        """Arms that a tape can place."""
        return tuple(arm for arm in self.arms if arm.plan and not arm.steers)

    @property
    def needed(self) -> tuple[str, ...]:
        """Points that a corner cannot do without; links that are told carry their own."""
        ends = [end for _, *pair in self.links for end in pair]
        return tuple(dict.fromkeys((WHEEL[0], *self.guide_points, *ends)))

    def ends_of(self, link: str) -> tuple[str, str]:
        """Names of the two points of a link."""
        own = {name: (inner, outer) for name, inner, outer in self.links}
        return own.get(link, (f"{link}_inner", f"{link}_outer"))


def ends_of_arms(arms: tuple[ArmKind, ...]) -> tuple[tuple[str, str], ...]:
    """Both joints of every link, as points."""
    return tuple((f"{arm.key}_{end}", f"{arm.label}, {end} joint") for arm in arms for end in ("inner", "outer"))
