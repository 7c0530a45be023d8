"""A solid axle that steers: knuckles on kingpins, a tie rod between their levers, a drag link from the gear."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.practice.rigid import newton, rotation

Vector = NDArray[np.float64]
Carry = Callable[[Vector], Vector]
# How far inboard of its wheel's centre a kingpin stands [mm], and how far its top leans back and in [°].
INBOARD, BACK, IN = 125.0, 5.0, 8.0
KNUCKLE_STEP = 1e-7


@value_object
class SteeringParts:
    """Tie rod's lever, behind the axle or ahead of it, and the drag link: its length, rise of its axle end over the
    end on the gear, lever, which way it steers made longer, and the side its gear stands at. [mm]"""

    tie_lever: float = 150.0
    behind: bool = True
    length: float = 940.0
    rise: float = -60.0
    lever: float = 150.0
    longer: str = "right"
    gear: str = "left"


@value_object
class Knuckle:
    """A kingpin's place and axis, and the tie rod's end on the lever. [mm]"""

    pin: Vector
    axis: Vector
    end: Vector

    @property
    def caster(self) -> float:
        """How far the kingpin leans back in place. [rad]"""
        return float(np.arctan2(-self.axis[0], self.axis[2]))

    def turned(self, point: Vector, by: float) -> Vector:
        """A point of the knuckle, turned about the kingpin to the left [rad]."""
        return np.asarray(self.pin + rotation(self.axis * by) @ (point - self.pin))


@value_object
class Steering:
    """Both knuckles, left and right, the drag link's ends on the gear and on the knuckle it turns, 0 left 1 right.
    [mm]"""

    knuckles: tuple[Knuckle, Knuckle]
    gear: Vector
    ball: Vector
    turns: int

    @classmethod
    def at(cls, centres: tuple[Vector, Vector], parts: SteeringParts) -> Steering:
        """The steering of an axle whose wheels stand so, straight ahead."""
        knuckles = []
        for side, centre in zip((1, -1), centres, strict=True):
            axis = np.array([-np.tan(np.radians(BACK)), -side * np.tan(np.radians(IN)), 1.0])
            pin = centre - np.array([0.0, side * INBOARD, 0.0])
            end = pin - np.array([parts.tie_lever if parts.behind else -parts.tie_lever, 0.0, 0.0])
            knuckles.append(Knuckle(pin, axis / np.linalg.norm(axis), end))
        # The link lies across, to the far knuckle: longer, it pushes that ball away from the gear.
        turns, away = (1, "right") if parts.gear == "left" else (0, "left")
        ahead = parts.lever if parts.longer == away else -parts.lever
        ball = knuckles[turns].pin + np.array([ahead, 0.0, 0.0])
        across = float(np.sqrt(parts.length**2 - parts.rise**2))
        gear = ball + np.array([0.0, across if turns else -across, -parts.rise])
        return cls((knuckles[0], knuckles[1]), gear, ball, turns)

    def headings(self, carry: Carry, tie: float, drag: float) -> Vector:
        """How far each knuckle is turned to the left on an axle carried so, with tie rod and drag link so much
        longer [mm]; shape (2,). [rad]"""
        left, right = self.knuckles
        link = np.linalg.norm(self.ball - self.gear) + drag
        rod = np.linalg.norm(left.end - right.end) + tie

        def miss(by: Vector) -> Vector:
            apart = left.turned(left.end, by[0]) - right.turned(right.end, by[1])
            reach = carry(self.knuckles[self.turns].turned(self.ball, by[self.turns])) - self.gear
            return np.array([np.linalg.norm(apart) - rod, np.linalg.norm(reach) - link])

        return newton(miss, np.zeros(2), np.full(2, KNUCKLE_STEP))

    def turn(self, side: int, by: float) -> Vector:
        """Rotation of a knuckle, 0 left 1 right, turned so far to the left [rad]."""
        return rotation(self.knuckles[side].axis * by)


def rise_between(points: tuple[Mapping[str, Vector], Mapping[str, Vector]]) -> tuple[float, float]:
    """Length of a Panhard rod that the body holds on the left, and its rise towards the axle's end. [mm]"""
    body, end = (at["panhard_end"] for at in points)
    return float(np.linalg.norm(end - body)), float(end[2] - body[2])


def sizes_of(
    parts: SteeringParts, points: tuple[Mapping[str, Vector], Mapping[str, Vector]]
) -> Iterator[tuple[str, float]]:
    """What tape and level read of a steering, by field key. [mm]"""
    yield "front.tie.lever", parts.tie_lever
    yield "front.drag.length", parts.length
    yield "front.drag.rise", parts.rise
    yield "front.drag.lever", parts.lever
    if "panhard_end" in points[0]:
        yield from zip(("front.panhard.length", "front.panhard.rise"), rise_between(points), strict=True)
