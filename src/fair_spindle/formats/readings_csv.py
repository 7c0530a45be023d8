"""Readings as CSV, out of a job and into one; the columns stand in docs/csv.md."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import units_of
from fair_spindle.core.fields.field import Field, Method, Sheet
from fair_spindle.core.joblog.log import Entered, Gauge
from fair_spindle.formats.csv_rows import read_rows, write_rows

COLUMNS = ("reading", "method", "part", "value", "unit", "gauge")


@dataclass
class ReadLine:
    """Rows of one reading: what they say, or why they cannot be taken."""

    line: int
    key: str
    entry: Entered | None = None
    problem: str = ""
    rows: list[dict[str, Typed]] = field(default_factory=list)


def write_readings(entries: Mapping[str, Entered], sheet: Sheet) -> bytes:
    """Every reading of a job, a row for each number; repeats follow each other."""
    return write_rows(COLUMNS, _rows(entries, sheet))


def read_readings(content: bytes, sheet: Sheet) -> list[ReadLine]:
    """Readings from CSV: one for each field, with its repeats, or with what is wrong."""
    found: dict[str, ReadLine] = {}
    for line, row in read_rows(content, ("reading", "value"), COLUMNS):
        key = row["reading"].lower()
        one = found.setdefault(key, ReadLine(line, key))
        try:
            _take(one, row, sheet.find(key))
        except InputError as error:
            one.problem = one.problem or f"Line {line}: {error.message}"
    for one in found.values():
        if one.problem or one.entry is None:
            one.entry = None
            continue
        kept = one.entry
        if not kept.choice:
            one.entry = Entered(one.key, kept.method, one.rows[0], again=tuple(one.rows[1:]), gauge=kept.gauge)
    return list(found.values())


def _rows(entries: Mapping[str, Entered], sheet: Sheet) -> Iterator[dict[str, object]]:
    for key, act in entries.items():
        if key not in sheet.fields:
            continue
        common = {"reading": key, "method": act.method, "gauge": act.gauge.name if act.gauge else ""}
        if act.choice:
            yield {**common, "value": act.choice}
        for typed in (act.typed, *act.again):
            for part, number in typed.items():
                yield {**common, "part": part, "value": number.text, "unit": number.unit}


def _take(one: ReadLine, row: Mapping[str, str], asked: Field) -> None:
    if asked.choices:
        one.entry = Entered(one.key, choice=row["value"])
        return
    method = _method(asked, row.get("method", ""))
    if one.entry and one.entry.method != method.name:
        raise InputError(f"one reading cannot be taken by {one.entry.method} and {method.name}.", field="method")
    part = row.get("part", "") or method.parts[0].name
    number = next((each for each in method.parts if each.name == part), None)
    if number is None:
        names = ", ".join(each.name for each in method.parts)
        raise InputError(f"{method.label} has no part {part!r}; it has {names}.", field="part")
    typed = Typed(row["value"], _unit(row.get("unit", ""), number.quantity, number.unit))
    if not one.rows or part in one.rows[-1]:
        one.rows.append({})
    one.rows[-1][part] = typed
    one.entry = Entered(one.key, method.name, gauge=Gauge(row["gauge"]) if row.get("gauge") else None)


def _method(asked: Field, name: str) -> Method:
    if not name:
        return next((method for method in asked.methods if len(method.parts) == 1), asked.methods[0])
    for one in asked.methods:
        if one.name == name.lower():
            return one
    raise InputError(
        f"{asked.label} can be taken by {', '.join(method.name for method in asked.methods)}.", field="method"
    )


def _unit(wanted: str, quantity: str, usual: str) -> str:
    if not wanted:
        return usual
    for unit in units_of(quantity):
        if wanted.lower() in (unit.key, unit.label.lower(), *unit.spellings):
            return unit.key
    raise InputError(f"{wanted!r} is no unit for this.", field="unit")
