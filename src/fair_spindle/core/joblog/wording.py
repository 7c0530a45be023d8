"""Places, positions and fields in the words said at the car."""

from __future__ import annotations

from functools import cache

from fair_spindle.core.basics.wheels import Side
from fair_spindle.core.fields.field import Field
from fair_spindle.core.planning.template import POSITION_NAMES, Position


def label_wheel(key: str) -> str:
    """Name a wheel the way it is said at the car.

    Parameters
    ----------
    key : str
        Axle and side. [-]

    Returns
    -------
    str
        Its name, at the beginning of a sentence.

    Raises
    ------
    Nothing.

    Notes
    -----
    Axle first.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> label_wheel("front.left")
    'Front left'
    """
    return key.replace(".", " ").capitalize()


@cache
def position_words(where: Position, corner: Side | None, axle: str) -> str:
    """Say a position of the car in words.

    Parameters
    ----------
    where : {"on_wheels", "hanging", "corner_carried"}
        Position. [-]
    corner : {"left", "right"}, optional
        The corner that is carried. [-]
    axle : {"front", "rear"}
        Of the corner. [-]

    Returns
    -------
    str
        For example ``"carried at the front left corner"``.

    Raises
    ------
    Nothing.

    Notes
    -----
    A corner is named with its axle.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> position_words("corner_carried", "left", "front")
    'carried at the front left corner'
    """
    return f"carried at the {axle} {corner} corner" if corner else POSITION_NAMES[where]


def label_field(asked: Field) -> str:
    """Name a field with its place on the car.

    Parameters
    ----------
    asked : Field
        The field. [-]

    Returns
    -------
    str
        For example ``"Rear left camber"``.

    Raises
    ------
    Nothing.

    Notes
    -----
    Fields of an arm carry the arm's name.

    Source
    ------
    derived, see Notes

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
