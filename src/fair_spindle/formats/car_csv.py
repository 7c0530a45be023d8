"""Points and fasteners of a car as CSV; the columns stand in docs/csv.md."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from pydantic import ValidationError

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import from_core, units_of
from fair_spindle.core.fields.field import Field, Sheet
from fair_spindle.core.joblog.log import Entered, Fastener
from fair_spindle.core.joblog.readings import Quantity, read_entry, read_part
from fair_spindle.formats.acts import model_of
from fair_spindle.formats.csv_rows import read_rows, write_rows

_AXES = ("x_mm", "y_mm", "z_mm")
POINT_COLUMNS = ("axle", "side", "point", *_AXES)
FASTENER_COLUMNS = (
    "key",
    "group",
    "place",
    "axle",
    "side",
    "diameter_mm",
    "pitch_mm",
    "length_mm",
    "property_class",
    "drive",
    "torque",
    "torque_unit",
    "condition",
    "single_use",
    "source",
)
_NUMBERS = ("diameter_mm", "pitch_mm", "length_mm")


def write_points(entries: Mapping[str, Entered], sheet: Sheet) -> bytes:
    """Every point of a car; those not measured yet have empty cells."""
    rows = []
    for key, asked in sheet.fields.items():
        if not asked.name.startswith("point."):
            continue
        row: dict[str, object] = {"axle": asked.axle, "side": asked.side, "point": asked.name.removeprefix("point.")}
        if key in entries:
            row |= _in_frame(entries[key], asked)
        rows.append(row)
    return write_rows(POINT_COLUMNS, rows)


def read_points(content: bytes, sheet: Sheet) -> tuple[Entered, ...]:
    """Points of a car from CSV; rows without numbers are passed over."""
    entries: dict[str, Entered] = {}
    for line, row in read_rows(content, POINT_COLUMNS, POINT_COLUMNS):
        cells = {axis[0]: row[axis] for axis in _AXES}
        if not any(cells.values()):
            continue
        key = f"{row['axle'].lower()}.{row['side'].lower()}.point.{row['point'].lower()}"
        if key not in sheet.fields:
            raise InputError(
                f"Line {line}: this car has no point {row['point']!r} at its {row['axle']} axle, {row['side']}. "
                "Check the layout, and the names in an exported file.",
                field=f"line {line}, point",
            )
        if key in entries:
            raise InputError(f"Line {line}: {row['point']!r} stands twice.", field=f"line {line}, point")
        typed = {axis: Typed(text, "mm") for axis, text in cells.items()}
        for part in sheet.fields[key].methods[0].parts:
            read_part(part, typed[part.name], f"line {line}, {part.name}_mm")
        entries[key] = Entered(key, "point", typed)
    return tuple(entries.values())


def _in_frame(entry: Entered, asked: Field) -> dict[str, str]:
    """A point's cells: as typed where it was typed in the car's frame, worked out where it was read from a datum."""
    if entry.method == "point":
        told = [(part, entry.typed[part.name]) for part in asked.methods[0].parts]
        return {f"{part.name}_mm": _in_mm(typed, read_part(part, typed, part.name)) for part, typed in told}
    read = read_entry(entry, asked)
    return {axis: f"{read.parts[axis[0]]:.12g}" for axis in _AXES} if isinstance(read, Quantity) else {}


def write_fasteners(fasteners: Iterable[Fastener]) -> bytes:
    """The list of fasteners."""
    return write_rows(FASTENER_COLUMNS, (_fastener_row(fastener) for fastener in fasteners))


def read_fasteners(content: bytes) -> tuple[Fastener, ...]:
    """A list of fasteners from CSV."""
    found: dict[str, Fastener] = {}
    for line, row in read_rows(content, ("key", "group"), FASTENER_COLUMNS):
        if row["key"] in found:
            raise InputError(f"Line {line}: the key {row['key']!r} stands twice.", field=f"line {line}, key")
        found[row["key"]] = _fastener(line, row)
    return tuple(found.values())


def _in_mm(typed: Typed, value: float) -> str:
    plain = typed.unit == "mm" and not any(letter.isalpha() or letter in "/\"'″′" for letter in typed.text)
    return typed.text if plain else repr(from_core(value, "mm"))


def _fastener_row(one: Fastener) -> dict[str, object]:
    row: dict[str, object] = {name: getattr(one, name) for name in FASTENER_COLUMNS if hasattr(one, name)}
    for name in _NUMBERS:
        row[name] = f"{getattr(one, name):.12g}" if getattr(one, name) else ""
    row["single_use"] = "yes" if one.single_use else "no"
    row["torque"] = one.torque.text if one.torque else ""
    row["torque_unit"] = one.torque.unit if one.torque else ""
    return row


def _fastener(line: int, row: Mapping[str, str]) -> Fastener:
    torque = row.get("torque", "")
    unit = row.get("torque_unit", "").lower()
    if torque and unit not in {unit.key for unit in units_of("torque")}:
        choices = ", ".join(unit.key for unit in units_of("torque"))
        raise InputError(f"Line {line}: torque_unit must be one of {choices}.", field=f"line {line}, torque_unit")
    data: dict[str, object] = {
        "key": row["key"],
        "group": row["group"],
        "place": int(_number(line, row, "place") or 1),
        "single_use": row.get("single_use", "").lower() in ("yes", "true", "1", "x"),
        "torque": {"text": torque, "unit": unit} if torque else None,
        **{name: _number(line, row, name) for name in _NUMBERS},
        **{name: row.get(name, "") for name in ("axle", "side", "property_class", "drive", "condition", "source")},
    }
    try:
        checked = model_of(Fastener).model_validate(data)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        column = str(first["loc"][0])
        raise InputError(f"Line {line}, {column}: {first['msg']}.", field=f"line {line}, {column}") from None
    plain = checked.model_dump()
    typed = Typed(**plain.pop("torque")) if torque else None
    return Fastener(**{**plain, "torque": typed})


def _number(line: int, row: Mapping[str, str], name: str) -> float:
    text = row.get(name, "").replace(",", ".")
    try:
        return float(text) if text else 0.0
    except ValueError:
        raise InputError(
            f"Line {line}: {name} must be a number; got {text!r}.", field=f"line {line}, {name}"
        ) from None
