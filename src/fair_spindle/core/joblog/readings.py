"""From what was typed in a field to a quantity with its uncertainty."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import field
from math import sqrt

from fair_spindle.core.basics.errors import Inconsistent, InputError, OutOfRange, require
from fair_spindle.core.basics.gauging import COVERAGE, combine_repeats, expand, instrument_uncertainty, slope_from_two
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.spelling import read_number, read_table
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import UNITS, from_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.fields.field import Field, Method, Part, Sheet
from fair_spindle.core.geometry.toe import rim_toe_angle, string_toe
from fair_spindle.core.geometry.wheel_angles import caster_from_sweep, plates_total_toe, plumb_camber
from fair_spindle.core.joblog.log import Entered, Gauge
from fair_spindle.core.springs.heights import ratio_from_two
from fair_spindle.core.springs.springs import coil_rate, leaf_rate, table_curve, torsion_bar_rate

Values = Mapping[str, float]
MOST_READINGS = 12


@value_object
class Quantity:
    """A read value in core units, its standard uncertainty, and the repeats behind it.

    ``parts`` are the numbers of the first reading where it has several.
    """

    value: float
    uncertainty: float = 0.0
    spread: float = 0.0
    count: int = 1
    repeats: tuple[float, ...] = ()
    parts: Mapping[str, float] = field(default_factory=dict)


@by_identity()
def read_entry(act: Entered, asked: Field) -> Quantity | str:
    """Understand one filled-in field, or say at which part it cannot be taken.

    Parameters
    ----------
    act : Entered
        Method and what was typed, with repeats and the instrument. [-]
    asked : Field
        The field it fills in. [-]

    Returns
    -------
    Quantity or str
        A value in core units with its standard uncertainty, the chosen word, or the words typed.

    Raises
    ------
    InputError
        Unknown method or choice, a missing part, or no number.
    OutOfRange
        Outside the field's limits, or too many repeats.

    Notes
    -----
    Repeats are combined with what the instrument leaves open, few of them by Student's factor; a ± typed by the
    user stands instead of both and is taken with coverage factor 2.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> from fair_spindle.core.fields.field import placed, typed
    >>> pitch = placed(Field("pitch", "Pitch", "Rod", methods=typed("pitch", "pitch_mm", 0.5, 4)), "front", "left")
    >>> read_entry(Entered(pitch.key, "typed", {"value": Typed("1,5", "pitch_mm")}), pitch).value
    1.5
    """
    if asked.choices:
        return _choice(asked, act)
    if asked.words:
        return _words(asked, act)
    method = _method(asked, act)
    require(
        len(act.again) < MOST_READINGS,
        act.key,
        f"At most {MOST_READINGS} readings of one thing are kept",
        len(act.again) + 1,
    )
    rows = [_row(method, typed, act.key) for typed in (act.typed, *act.again)]
    values = [_value(method, row, act.key) for row in rows]
    type_b = _type_b(asked, method, rows[0], act)
    reading = combine_repeats(values, type_b)
    # Two or three repeats show their spread badly: Student's factor stands in the uncertainty from here on.  Repeats
    # that agree within what the instrument leaves open anyway say nothing against it.
    agree = reading.spread <= COVERAGE * sqrt(2) * type_b
    uncertainty = type_b if agree else expand(reading, type_b).plus_minus / COVERAGE
    return Quantity(
        reading.mean,
        _stated(act, method, uncertainty),
        reading.spread,
        reading.count,
        tuple(values) if len(values) > 1 else (),
        _parts(method, rows[0], asked),
    )


def read_part(part: Part, typed: Typed, name: str) -> float:
    """Understand one number of a measurement and hold it against its limits.

    Limits stop slips of the finger, they do not judge the car.

    Raises InputError: No number, or a unit of another kind. Raises OutOfRange: Outside the limits.

    Common practice, no published source.

    Examples
    --------
    >>> round(read_part(Part("gap", "Gap", "length", "mm", 0, 500), Typed("2 in", "mm"), "gap"), 1)
    50.8
    """
    if UNITS.get(typed.unit) is None or UNITS[typed.unit].quantity != part.quantity:
        raise InputError(f"{part.label} cannot be in {typed.unit!r}.", field=name)
    number = read_number(typed.text, part.quantity, typed.unit, name)
    inside = from_core(number.value, part.unit) if number.value else 0.0
    if not part.low <= inside <= part.high:
        raise OutOfRange(
            f"{part.label} must lie between {part.low:g} and {part.high:g} {UNITS[part.unit].label}; got "
            f"{number.number:g} {UNITS[number.unit].label}. Check the number and the unit.",
            field=name,
        )
    return number.value


def read_all(entries: Mapping[str, Entered], sheet: Sheet) -> tuple[dict[str, Quantity], dict[str, str]]:
    """Understand every filled-in field that the sheet still asks for.

    Nothing is combined across fields here.

    Examples
    --------
    >>> from fair_spindle.core.fields.field import sheet_of
    >>> sheet = sheet_of([Field("steer", "Tie rods", "Axle", axle="front", choices=(("ahead", "Ahead"),))])
    >>> read_all({"front.steer": Entered("front.steer", choice="ahead")}, sheet)
    ({}, {'front.steer': 'ahead'})
    """
    quantities: dict[str, Quantity] = {}
    words: dict[str, str] = {}
    for key, act in entries.items():
        if key not in sheet.fields:
            continue
        try:
            read = read_entry(act, sheet.fields[key])
        except InputError:
            continue
        if isinstance(read, Quantity):
            quantities[key] = read
        else:
            words[key] = read
    return quantities, words


def _choice(asked: Field, act: Entered) -> str:
    words = [word for word, _ in asked.choices]
    if act.choice not in words:
        raise InputError(f"{asked.label}: choose one of {', '.join(words)}.", field=act.key)
    return act.choice


def _words(asked: Field, act: Entered) -> str:
    part = asked.methods[0].parts[0]
    text = act.typed[part.name].text.strip() if part.name in act.typed else ""
    require(text, act.key, f"{asked.label} is empty", "nothing", "Write a few words.", kind=InputError)
    if part.quantity == "table":
        pairs = read_table(text, act.key)
        table_curve([length for length, _ in pairs], [force for _, force in pairs])
    require(len(text) <= part.high, act.key, f"{asked.label} takes {part.high:g} letters", len(text), kind=InputError)
    return text


def _method(asked: Field, act: Entered) -> Method:
    for method in asked.methods:
        if method.name == act.method:
            return method
    names = ", ".join(method.name for method in asked.methods)
    raise InputError(f"{asked.label} can be taken by {names}; got {act.method!r}.", field=act.key)


def _row(method: Method, typed: Mapping[str, Typed], key: str) -> dict[str, float]:
    return {
        part.name: read_part(part, typed[part.name], f"{key}.{part.name}")
        for part in method.parts
        if _given(part, typed, key)
    }


def _parts(method: Method, row: Values, asked: Field) -> Values:
    """The numbers of a reading that has several; of a point those of the car's frame, however it was read."""
    if method.name in _OUT:
        side = -1 if asked.side == "right" else 1
        return {"x": row["ahead"], "y": side * _OUT[method.name](row), "z": row["up"]}
    return row if len(method.parts) > 1 else {}


def _given(part: Part, typed: Mapping[str, Typed], key: str) -> bool:
    found = typed.get(part.name)
    if found is not None and found.text.strip():
        return True
    if part.optional:
        return False
    raise InputError(f"{part.label} is empty. Type a number, then Enter.", field=f"{key}.{part.name}")


def _first(row: Values) -> float:
    return next(iter(row.values()))


_RULES: dict[str, Callable[[Values], float]] = {
    "settled_twice": lambda v: (v["from_above"] + v["from_below"]) / 2,
    "ground_to_arch": lambda v: v["arch"] - v["hub"],
    "rim": lambda v: rim_toe_angle(v["toe"], v["across"]),
    "strings": lambda v: string_toe(v["front"], v["rear"], v["across"]),
    "strings_turned": lambda v: (
        (string_toe(v["front"], v["rear"], v["across"]) + string_toe(v["front_again"], v["rear_again"], v["across"]))
        / 2
    ),
    "plates": lambda v: plates_total_toe(v["front"], v["rear"], v["across"]),
    "bar": lambda v: plates_total_toe(0.0, v["difference"], v["across"]),
    "level_and_floor": lambda v: v["value"] + v["floor"],
    "plumb": lambda v: plumb_camber(v["top"], v["bottom"], v["span"]),
    "sweep": lambda v: caster_from_sweep(v["out"], v["in"], v["steer"]),
    "two_heights": lambda v: slope_from_two(v["height_1"], v["toe_1"], v["height_2"], v["toe_2"]),
    "exposed_thread": lambda v: v["inner"] + v["outer"],
    "lengths": lambda v: v["new"] - v["old"],
    "counted": lambda v: (
        v["new_end"] + v.get("new_rod", 0.0) - v["old_end"] - v.get("old_rod", 0.0) + v["turns"] * v["pitch"]
    ),
    "pressed": lambda v: (v["force_2"] - v["force_1"]) / (v["length_1"] - v["length_2"]),
    "joint_to_joint": lambda v: math.sqrt(max(v["distance"] ** 2 - v["aside"] ** 2 - v["above"] ** 2, 0.0)),
    "wire": lambda v: coil_rate(v["wire"], v["mean"], v["coils"]),
    "leaves": lambda v: leaf_rate(v["width"], v["thickness"], round(v["leaves"]), round(v["full"]), v["span"]),
    "torsion": lambda v: torsion_bar_rate(v["diameter"], v["length"], v["arm"]),
    "bushings": lambda v: v["count"] * v["torsion"] / v["arm"] ** 2,
    "two_pairs": lambda v: ratio_from_two(v["damper_1"], v["height_1"], v["damper_2"], v["height_2"]),
    "tape": lambda v: v["spring"] / v["joint"] * math.cos(v["lean"]),
    "gaps": lambda v: (v["left"] - v["right"]) / 2,
    "four_scales": lambda v: sum(v.values()),
    "learned": lambda v: sum(v.values()),
    "two_axles": lambda v: v["front"] + v["rear"],
    "total_and_share": lambda v: v["total"],
    "point": lambda v: math.hypot(v["x"], v["y"], v["z"]),
    "from_centre": lambda v: math.hypot(v["ahead"], v["aside"], v["up"]),
    "from_string": lambda v: math.hypot(v["ahead"], v["string"] - v["gap"], v["up"]),
}
# How far out of the car's middle a point lies that was read from a datum, whichever side it is on.
_OUT: dict[str, Callable[[Values], float]] = {
    "from_centre": lambda v: v["aside"],
    "from_string": lambda v: v["string"] - v["gap"],
}


def _value(method: Method, row: Values, key: str) -> float:
    """One reading's value; where the method has no rule of its own, its first number."""
    if method.name == "two_heights" and abs(row["height_1"] - row["height_2"]) < 5:
        raise Inconsistent(
            f"The two heights must be at least 5 mm apart; got {abs(row['height_1'] - row['height_2']):g} mm. "
            "Pull the body down or raise it further for the second reading.",
            field=key,
        )
    if method.name == "pressed" and (v := row["length_1"] - row["length_2"]) * (row["force_2"] - row["force_1"]) <= 0:
        raise Inconsistent(
            f"The shorter length must carry more; got {abs(v):g} mm between the two and less force.", field=key
        )
    try:
        return _RULES.get(method.name, _first)(row)
    except InputError as error:
        error.field = f"{key}.{error.field}" if error.field in row else key
        raise


def _type_b(asked: Field, method: Method, row: Values, act: Entered) -> float:
    """What the instruments leave open in one reading, carried through the method's rule."""
    parts = {part.name: _open(part, act.gauge, act.key) for part in method.parts if part.name in row}
    if method.set_up:
        first = method.parts[0].name
        parts[first] = math.hypot(parts[first], instrument_uncertainty(half_width=method.set_up))
    if not any(parts.values()):
        return instrument_uncertainty(
            half_width=asked.half_width + asked.relative * abs(_value(method, row, act.key))
        )
    rule = _RULES.get(method.name, _first)
    effects = [
        (rule({**row, name: row[name] + size}) - rule({**row, name: row[name] - size})) / 2
        for name, size in parts.items()
    ]
    return math.hypot(*effects)


def _open(part: Part, gauge: Gauge | None, key: str) -> float:
    known = (gauge.resolution or gauge.uncertainty) if gauge else None
    if gauge is None or known is None or UNITS[known.unit].quantity != part.quantity:
        return instrument_uncertainty(half_width=part.half_width)
    size = {
        name: read_number(typed.text, part.quantity, typed.unit, f"{key}.gauge").value if typed else 0.0
        for name, typed in (("resolution", gauge.resolution), ("expanded", gauge.uncertainty))
    }
    return instrument_uncertainty(resolution=size["resolution"], expanded=size["expanded"], coverage=COVERAGE)


def _stated(act: Entered, method: Method, found: float) -> float:
    if act.plus_minus is None or not act.plus_minus.text.strip():
        return found
    name = f"{act.key}.plus_minus"
    part = Part("plus_minus", "±", UNITS[method.unit].quantity, method.unit, -math.inf, math.inf)
    stated = read_part(part, act.plus_minus, name)
    if stated < 0:
        raise OutOfRange("± cannot be negative.", field=name)
    return stated / COVERAGE
