"""Places, positions and fields in the words said at the car."""

from __future__ import annotations

from functools import cache

from fair_spindle.core.basics.wheels import Side
from fair_spindle.core.fields.field import Field
from fair_spindle.core.planning.template import POSITION_NAMES, Position


def label_wheel(key: str) -> str:
    """Name a wheel the way it is said at the car.

    Axle first.

    Common practice, no published source.
    """
    return key.replace(".", " ").capitalize()


@cache
def position_words(where: Position, corner: Side | None, axle: str) -> str:
    """Say a position of the car in words.

    A corner is named with its axle.

    Examples
    --------
    >>> position_words("corner_carried", "left", "front")
    'carried at front left'
    """
    return f"carried at {axle} {corner}" if corner else POSITION_NAMES[where]


def label_field(asked: Field) -> str:
    """Name a field with its place on the car.

    Fields of an arm carry the arm's name.

    Examples
    --------
    >>> label_field(Field("toe", "Toe", "At the wheel", axle="rear", side="left"))
    'Rear left toe'
    >>> label_field(Field("lower.rise", "Rise", "Lower arm", part_of="Lower arm", axle="front", side="left"))
    'Front left lower arm, rise'
    """
    where = " ".join(part for part in (asked.axle, asked.side) if part)
    name = f"{asked.part_of}, {_lower(asked.label)}" if asked.part_of else asked.label
    words = f"{where} {_lower(name)}" if where else name
    after = ", settled" if asked.phase == "check" else ""
    return f"{words[0].upper()}{words[1:]}{after}"


def _lower(text: str) -> str:
    return text[0].lower() + text[1:]
