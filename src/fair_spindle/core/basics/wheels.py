"""The four wheels of a car: one name and one order, wherever there are four of anything."""

from __future__ import annotations

from enum import StrEnum
from typing import Literal, cast

Axle = Literal["front", "rear"]
Side = Literal["left", "right"]
# A wheel as JSON has it.
WheelKey = Literal["front.left", "front.right", "rear.left", "rear.right"]
AXLES: tuple[Axle, ...] = ("front", "rear")
SIDES: tuple[Side, ...] = ("left", "right")
# Which way is out, along y.
OUT: dict[str, int] = {"left": 1, "right": -1}


class Wheel(StrEnum):
    """A wheel, written as field keys begin; its place in the enumeration is its place in every array of four.

    Examples
    --------
    >>> Wheel.REAR_LEFT.axle, Wheel.REAR_LEFT.side, Wheel.REAR_LEFT.label, WHEELS.index(Wheel.REAR_LEFT)
    ('rear', 'left', 'Rear left', 2)
    >>> Wheel.FRONT_RIGHT.number, Wheel.FRONT_RIGHT.letters, f"{Wheel.FRONT_RIGHT}.toe"
    ('front_right', 'FR', 'front.right.toe')
    >>> WheelKey.__args__ == WHEELS
    True
    """

    FRONT_LEFT = "front.left"
    FRONT_RIGHT = "front.right"
    REAR_LEFT = "rear.left"
    REAR_RIGHT = "rear.right"

    @property
    def axle(self) -> Axle:
        """Axle it belongs to."""
        return cast(Axle, self.partition(".")[0])

    @property
    def side(self) -> Side:
        """Side of the car."""
        return cast(Side, self.partition(".")[2])

    @property
    def out(self) -> int:
        """Which way is out, along y."""
        return OUT[self.side]

    @property
    def label(self) -> str:
        """Axle and side in words."""
        return self.replace(".", " ").capitalize()

    @property
    def number(self) -> str:
        """What its number is called in a reading of all four."""
        return self.replace(".", "_")

    @property
    def letters(self) -> str:
        """How the published calculations call it."""
        return f"{self.axle[0]}{self.side[0]}".upper()


WHEELS = tuple(Wheel)


def other_side(side: str) -> Side:
    """The side across the car."""
    return "left" if side == "right" else "right"


def wheels_at(axle: str) -> tuple[Wheel, ...]:
    """Both wheels of an axle, left first."""
    return tuple(one for one in WHEELS if one.axle == axle)
