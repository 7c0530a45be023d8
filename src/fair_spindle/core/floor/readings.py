"""From what was typed in a field to a quantity with its uncertainty."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fair_spindle.core.baseline import FIELDS, Field, Method, Part
from fair_spindle.core.errors import InputError, OutOfRange
from fair_spindle.core.floor.log import Entered, Typed
from fair_spindle.core.gauging import COVERAGE, combine_repeats, slope_from_two
from fair_spindle.core.spelling import read_number
from fair_spindle.core.toe import rim_toe_angle, string_toe
from fair_spindle.core.units import UNITS, from_core, to_core

HEIGHT_UNCERTAINTY = 0.6
TOE_UNCERTAINTY = to_core(2, "min")


@dataclass(frozen=True)
class Quantity:
    """A read value in core units, its standard uncertainty, and the repeats behind it."""

    value: float
    uncertainty: float = 0.0
    spread: float = 0.0
    count: int = 1
    repeats: tuple[float, ...] = ()


def read_entry(act: Entered) -> Quantity | str:
    """Understand one filled-in field, or say at which part it cannot be taken.

    Parameters
    ----------
    act : Entered
        Field, method and what was typed. [-]

    Returns
    -------
    Quantity or str
        A value in core units with its standard uncertainty, or the chosen word.

    Raises
    ------
    InputError
        Unknown field, method or choice, a missing part, or no number.
    OutOfRange
        Outside the field's limits.

    Notes
    -----
    A typed ± is taken with coverage factor 2; otherwise the field's own half-width stands.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> pitch = Entered("left.pitch", "typed", {"value": Typed("1,5", "pitch_mm")})
    >>> read_entry(pitch).value
    1.5
    """
    field = _field(act.key)
    if field.choices:
        return _choice(field, act)
    method = _method(field, act)
    values = {
        part.name: read_part(part, act.typed[part.name], f"{act.key}.{part.name}")
        for part in method.parts
        if _given(part, act)
    }
    quantity = _combine(field, method, values)
    if act.plus_minus is None or not act.plus_minus.text.strip():
        return quantity
    stated = read_number(act.plus_minus.text, method.parts[0].quantity, act.plus_minus.unit, f"{act.key}.plus_minus")
    if stated.value < 0:
        raise OutOfRange("± cannot be negative.", field=f"{act.key}.plus_minus")
    return Quantity(quantity.value, stated.value / COVERAGE, quantity.spread, quantity.count, quantity.repeats)


def read_part(part: Part, typed: Typed, field: str) -> float:
    """Understand one number of a measurement and hold it against its limits.

    Parameters
    ----------
    part : Part
        What is measured and between which limits. [-]
    typed : Typed
        Text and unit. [-]
    field : str
        Name for the error. [-]

    Returns
    -------
    float
        Value in core units.

    Raises
    ------
    InputError
        No number, or a unit of another kind.
    OutOfRange
        Outside the limits.

    Notes
    -----
    Limits stop slips of the finger, they do not judge the car.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> part = Part("value", "Pitch", "pitch", "pitch_mm", 0.5, 4)
    >>> round(read_part(part, Typed("20 tpi", "pitch_mm"), "pitch"), 4)
    1.27
    """
    if typed.unit not in UNITS or UNITS[typed.unit].quantity != part.quantity:
        raise InputError(f"{typed.unit!r} is no unit for {part.label.lower()}.", field=field)
    number = read_number(typed.text, part.quantity, typed.unit, field)
    size = from_core(number.value, part.unit)
    slack = 1e-9 * max(1.0, abs(part.low), abs(part.high))
    if not part.low - slack <= size <= part.high + slack:
        unit = UNITS[part.unit].label
        raise OutOfRange(
            f"{part.label} must lie between {part.low:g} and {part.high:g} {unit}; got "
            f"{number.number:g} {UNITS[number.unit].label}. Check the number and the unit.",
            field=field,
        )
    return number.value


def read_all(entries: Mapping[str, Entered]) -> tuple[dict[str, Quantity], dict[str, str]]:
    """Understand every filled-in field of a job.

    Parameters
    ----------
    entries : mapping
        By field key; all accepted before. [-]

    Returns
    -------
    tuple of dict
        Quantities and choices by field key.

    Raises
    ------
    InputError
        As :func:`read_entry`.

    Notes
    -----
    Nothing is combined across fields here.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> read_all({"axle.steer": Entered("axle.steer", choice="ahead")})
    ({}, {'axle.steer': 'ahead'})
    """
    read = {key: read_entry(act) for key, act in entries.items()}
    quantities = {key: value for key, value in read.items() if isinstance(value, Quantity)}
    return quantities, {key: value for key, value in read.items() if isinstance(value, str)}


def _field(key: str) -> Field:
    if key not in FIELDS:
        raise InputError(f"There is no field {key!r}.", field="key")
    return FIELDS[key]


def _choice(field: Field, act: Entered) -> str:
    words = [word for word, _ in field.choices]
    if act.choice not in words:
        raise InputError(f"{field.label}: choose one of {', '.join(words)}.", field=act.key)
    return act.choice


def _method(field: Field, act: Entered) -> Method:
    for method in field.methods:
        if method.name == act.method:
            return method
    names = ", ".join(method.name for method in field.methods)
    raise InputError(f"{field.label} can be taken by {names}; got {act.method!r}.", field=act.key)


def _given(part: Part, act: Entered) -> bool:
    typed = act.typed.get(part.name)
    if typed is not None and typed.text.strip():
        return True
    if part.optional:
        return False
    raise InputError(f"{part.label} is empty. Type a number, then Enter.", field=f"{act.key}.{part.name}")


def _combine(field: Field, method: Method, values: Mapping[str, float]) -> Quantity:
    if method.name == "hub_to_arch":
        heights = tuple(values.values())
        reading = combine_repeats(heights, field.half_width)
        return Quantity(reading.mean, reading.uncertainty, reading.spread, reading.count, heights)
    if method.name == "two_heights":
        slope, uncertainty = slope_from_two(
            values["height_1"],
            values["toe_1"],
            values["height_2"],
            values["toe_2"],
            HEIGHT_UNCERTAINTY,
            TOE_UNCERTAINTY,
        )
        return Quantity(slope, uncertainty)
    value = _single_value(method, values)
    half_width = field.half_width + field.relative * abs(value)
    return Quantity(value, combine_repeats([value], half_width).uncertainty)


def _single_value(method: Method, values: Mapping[str, float]) -> float:
    if method.name == "rim":
        return rim_toe_angle(values["toe"], values["across"])
    if method.name == "strings":
        return string_toe(values["front"], values["rear"], values["across"])
    return next(iter(values.values()))
