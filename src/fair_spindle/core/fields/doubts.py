"""Readings that are out of line: against what the layout allows, the other side, the last baseline."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import degrees

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.units import UNITS, from_core, to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import other_side
from fair_spindle.core.fields.field import Field, Sheet

INCH = to_core(1, "in")


@value_object
class Read:
    """What is known of one read field [core unit], and when it was read among the others."""

    value: float
    uncertainty: float
    spread: float
    count: int
    order: int = 0


@value_object
class Doubt:
    """Why a reading is out of line; ``answered`` once a second reading bore it out."""

    key: str
    message: str
    answered: bool


def doubt_readings(readings: Mapping[str, Read], before: Mapping[str, Read], sheet: Sheet) -> list[Doubt]:
    """Find readings that call for a second one.

    Parameters
    ----------
    readings, before : mapping
        This baseline and the car's last one, by field key. [core unit]
    sheet : Sheet
        The fields asked, with what is usual and how far sides may differ. [-]

    Returns
    -------
    list of Doubt
        At most one for each reading, in the order of the sheet.

    Raises
    ------
    Nothing.

    Notes
    -----
    Nothing is rejected.  A reading is borne out by a repeat within the field's own ± or half
    its side difference, whichever is more.  The limits are the product's own.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.fields.field import placed, sheet_of
    >>> from fair_spindle.core.fields.walk import wheel_field
    >>> from fair_spindle.core.geometry.layouts import find_layout
    >>> sheet = sheet_of([placed(wheel_field("camber", find_layout("strut")), "front", "left")])
    >>> doubt_readings({"front.left.camber": Read(0.04, 0.001, 0.0, 1)}, {}, sheet)[0].answered
    False
    """
    found = []
    for key, asked in sheet.judged.items():
        if key in readings and (message := next(_reasons(asked, readings, before), "")):
            found.append(Doubt(key, message, _borne_out(asked, readings[key])))
    return found


def _borne_out(asked: Field, read: Read) -> bool:
    return read.count > 1 and read.spread <= _allowed(asked, read)


def _allowed(asked: Field, read: Read) -> float:
    """How far two readings of one thing may lie apart and still bear each other out."""
    return max(2 * COVERAGE * read.uncertainty, asked.half_width * 2, asked.sides / 2)


def _reasons(asked: Field, readings: Mapping[str, Read], before: Mapping[str, Read]) -> Iterator[str]:
    read = readings[asked.key]
    value = read.value
    if read.count > 1 and read.spread > _allowed(asked, read):
        apart = _say(asked, read.spread)
        yield f"Its {read.count} readings lie {apart} apart, more than their ± allows: read it again."
    if asked.usual and not asked.usual[0] <= value <= asked.usual[1]:
        low, high = (_say(asked, limit) for limit in asked.usual)
        hint = _other_unit(asked, value)
        yield f"{_say(asked, value)} is outside what cars usually show, {low} to {high}.{hint}"
    if asked.sides:
        other, way = _other_side(asked)
        twin = readings.get(other)
        if twin and abs(value - twin.value) > asked.sides and _later(asked, readings, twin):
            yield f"{_say(asked, value - twin.value, sign=True)} against the {way}."
        if (last := before.get(asked.key)) and abs(value - last.value) > asked.sides:
            yield f"{_say(asked, value - last.value, sign=True)} against the last baseline."


# How far past what is usual an angle lies before it is asked whether another unit was meant.
UNLIKELY = 3


def _other_unit(asked: Field, value: float) -> str:
    """What was meant where another unit of the trade makes a usual number of it."""
    low, high = asked.usual or (0.0, 0.0)
    unit = UNITS[asked.methods[0].unit]
    if unit.quantity == "angle" and low <= value / 60 <= high and abs(value) > UNLIKELY * max(abs(low), abs(high)):
        return f" Were {degrees(value):.0f} minutes meant?".replace("-", "−")
    if unit.quantity == "length" and low <= value / INCH <= high:
        return f" Were {value / INCH:.1f} mm meant, not inches?"
    return ""


def _other_side(asked: Field) -> tuple[str, str]:
    way = other_side(asked.side)
    return asked.key.replace(f".{asked.side}.", f".{way}.") if asked.side else "", way


def _later(asked: Field, readings: Mapping[str, Read], twin: Read) -> bool:
    """Of two sides that differ, the one read last is asked for again."""
    own = readings[asked.key].order
    return own > twin.order or (own == twin.order and asked.side == "right")


def _say(asked: Field, value: float, sign: bool = False) -> str:
    unit = UNITS[asked.methods[0].unit]
    way = "+" if sign else ""
    words = f"{degrees(value):{way}.2f}°" if unit.quantity == "angle" else ""
    words = words or f"{from_core(value, unit.key):{way}.1f} {unit.label}"
    return words.replace("-", "−")
