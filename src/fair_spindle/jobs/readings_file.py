"""Readings of a job in a file: out, and in with a preview."""

from __future__ import annotations

from dataclasses import replace

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.joblog.log import Entered, Filled, Gauge
from fair_spindle.core.joblog.readings import read_entry
from fair_spindle.formats.readings_csv import ReadLine, read_readings, write_readings
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.instruments import gauges_by_name
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_entry, say_field
from fair_spindle.records.database import Database


class ReadLineView(View):
    """One reading of a file: how it would be taken, what it would replace, or why it cannot be."""

    line: int
    key: str
    label: str
    understood: str
    replaces: str
    problem: str


class ReadingsPreview(View):
    """What a file of readings holds; nothing is taken while any of it cannot be."""

    readings: list[ReadLineView]
    problems: int
    applied: bool


def readings_csv(database: Database, job_id: str) -> bytes:
    """Every reading of a job as CSV."""
    now = standing(database, job_id)
    asked = {key: taken.act for key, taken in now.state.entries.items() if _is_reading(now, key)}
    return write_readings(asked, now.sheet)


def take_readings(
    database: Database, job_id: str, key: str, seen: int, content: bytes, apply: bool
) -> ReadingsPreview:
    """Say what a file of readings would do; with ``apply``, do it as one entry."""
    now = standing(database, job_id)
    gauges = gauges_by_name(database)
    read = [_with_gauge(reading, gauges) for reading in read_readings(content, now.sheet)]
    shown = [_shown(one, now) for one in read]
    problems = sum(bool(one.problem) for one in shown)
    if apply:
        if problems:
            first = next(one.problem for one in shown if one.problem)
            raise InputError(f"Nothing was taken. {first}", field="file")
        entries = tuple(one.entry for one in read if one.entry)
        write_act(database, job_id, key, seen, Filled(entries, "a file of readings", "file"))
    return ReadingsPreview(readings=shown, problems=problems, applied=apply)


def _is_reading(now: Standing, key: str) -> bool:
    return key in now.sheet.fields and now.sheet.fields[key].phase != "car"


def _with_gauge(one: ReadLine, gauges: dict[str, Gauge]) -> ReadLine:
    """A gauge named in the file brings what its record says about it."""
    if one.entry and one.entry.gauge:
        known = gauges.get(one.entry.gauge.name, one.entry.gauge)
        one.entry = replace(one.entry, gauge=known)
    return one


def _shown(one: ReadLine, now: Standing) -> ReadLineView:
    problem, understood = one.problem, ""
    if one.entry and not problem:
        try:
            read_entry(one.entry, now.sheet.find(one.key))
            understood = say_entry(one.entry, now.sheet)
        except InputError as error:
            problem = f"Line {one.line}: {error.message}"
    return ReadLineView(
        line=one.line,
        key=one.key,
        label=say_field(one.key, now.sheet),
        understood=understood,
        replaces=_replaced(one.key, now),
        problem=problem,
    )


def _replaced(key: str, now: Standing) -> str:
    taken = now.state.entries.get(key)
    return say_entry(taken.act, now.sheet) if taken and isinstance(taken.act, Entered) else ""
