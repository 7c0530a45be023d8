"""Numbers, threads and rows as they were typed in a form, understood before they go into a line of the log."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.spelling import read_number, read_rows, read_thread
from fair_spindle.core.basics.units import UNITS, from_core
from fair_spindle.formats.acts import Strict
from fair_spindle.jobs.book_models import View

Text = Annotated[str, Field(max_length=60)]
Name = Annotated[str, Field(min_length=1, max_length=40)]


class TypedText(Strict):
    """A number as typed, with the unit meant where none is."""

    text: Text
    unit: Annotated[str, Field(max_length=20)]


class TypedForm(Strict):
    """What a form holds, by field: numbers, threads, and places as rows."""

    numbers: Annotated[dict[Name, TypedText], Field(max_length=40)] = Field(default_factory=dict)
    threads: Annotated[dict[Name, Text], Field(max_length=80)] = Field(default_factory=dict)
    rows: Annotated[str, Field(max_length=8000)] = ""


class ThreadView(View):
    """A thread. [mm]"""

    diameter_mm: float
    pitch_mm: float


class RowView(View):
    """A place [mm], with its own thread, torque and note where the row has them."""

    x_mm: float
    y_mm: float
    thread: ThreadView | None
    torque: str
    note: str


class TypedFormView(View):
    """What a form was understood as; numbers in the unit asked for, those left empty left out."""

    numbers: dict[str, float]
    threads: dict[str, ThreadView]
    rows: list[RowView]


def read_form(form: TypedForm) -> TypedFormView:
    """Understand everything a form holds, or name the field that is none."""
    return TypedFormView(
        numbers={name: _number(name, number) for name, number in form.numbers.items() if number.text.strip()},
        threads={name: _thread(text, name) for name, text in form.threads.items()},
        rows=[_row(number, *row) for number, row in enumerate(read_rows(form.rows, "rows"), 1)],
    )


def _number(name: str, typed: TypedText) -> float:
    unit = UNITS.get(typed.unit)
    if unit is None:
        raise InputError(f"There is no unit {typed.unit!r}.", field=name)
    read = read_number(typed.text, unit.quantity, typed.unit, name)
    return from_core(read.value, typed.unit) if read.unit != typed.unit else read.number


def _thread(text: str, name: str) -> ThreadView:
    diameter, pitch = read_thread(text, name)
    return ThreadView(diameter_mm=diameter, pitch_mm=pitch)


def _row(number: int, x: float, y: float, more: tuple[str, ...]) -> RowView:
    thread, torque, note = (*more, "", "", "")[:3]
    own = _thread(thread, f"rows.{number}") if thread else None
    return RowView(x_mm=x, y_mm=y, thread=own, torque=torque, note=note)
