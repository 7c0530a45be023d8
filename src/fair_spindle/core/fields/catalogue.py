"""The sheet of a job or of a car's record, made once for each shape of car and each plan."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache

from fair_spindle.core.basics.units import UNITS
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.fields.car import car_fields
from fair_spindle.core.fields.field import Field, Method, Part, Sheet, placed, sheet_of, typed
from fair_spindle.core.fields.new_parts import new_part_fields
from fair_spindle.core.fields.shape import Shape
from fair_spindle.core.fields.springs import job_fields, scales_after
from fair_spindle.core.fields.threaded_ends import threaded_end_fields
from fair_spindle.core.fields.usual import with_usual
from fair_spindle.core.fields.walk import baseline_fields, check_fields
from fair_spindle.core.planning.template import Reading

# What the car keeps of a threaded end.
OF_THE_CAR = ("tie.pitch", "tie.end")
READ_AT_WORK = "Read at work"


@lru_cache(maxsize=512)
def sheet_for(kind: str, shape: Shape, reads: tuple[Reading, ...] = ()) -> Sheet:
    """Give the fields of a job or of a car's record.

    A job holds the record too, so that its readings can be read against it. Bump steer is read in a job and kept in
    the record, where the next job takes it from. What a step asks for and the record knows already is one field.

    Raises NotFound: A layout that does not exist.
    """
    record = tuple(with_usual(field) for field in car_fields(shape))
    if kind == "car":
        slopes = (field for field in baseline_fields(shape) if field.name == "bump_slope")
        learned = (replace(slope, phase="car", group="Steering", settled=False) for slope in slopes)
        known = {one.key for one in record}
        ends = (end for end in _ends() if end.name in OF_THE_CAR and end.key not in known)
        return sheet_of((*record, *learned, *(replace(end, phase="car", group="Steering") for end in ends)))
    parts = (*new_part_fields(shape), *job_fields(shape), *_ALWAYS)
    asked = (*_ends(), *baseline_fields(shape), *parts)
    fields = (*(with_usual(field) for field in asked), *record, *check_fields(shape), scales_after())
    known = {field.key for field in fields}
    return sheet_of((*fields, *(reading_field(read) for read in reads if read.key not in known)))


def _ends() -> Iterator[Field]:
    return (field for wheel in WHEELS for field in threaded_end_fields(wheel.axle, wheel.side))


def reading_field(reading: Reading) -> Field:
    """The field of a number that a step asks for."""
    if reading.choices:
        asked = Field(
            reading.name, reading.label, READ_AT_WORK, choices=tuple((choice, choice) for choice in reading.choices)
        )
    elif reading.quantity == "words":
        asked = Field(reading.name, reading.label, READ_AT_WORK, methods=typed("words", "", 0, 400))
    else:
        part = Part("value", reading.label, reading.quantity, reading.unit, reading.low, reading.high)
        asked = Field(reading.name, reading.label, READ_AT_WORK, methods=(Method("typed", "Typed", (part,)),))
    half_width = reading.half_width * abs(UNITS[reading.unit].factor) if reading.unit in UNITS else 0.0
    asked = replace(asked, phase="floor", required=reading.required, hint=reading.hint, half_width=half_width)
    return placed(asked, reading.axle, reading.side)


def _always() -> Iterator[Field]:
    """What any job may be told, whatever its plan."""
    load = Field(
        "sprung_load",
        "Sprung load",
        "Seats and perches",
        methods=typed("force", "n", 500, 20000),
        relative=0.03,
        hint="Load of the body on this wheel: wheel load less wheel, brake and upright.",
    )
    twist = Field(
        "twist_limit",
        "Bushing twist limit",
        "What ends the travel",
        methods=typed("angle", "deg", 0.2, 10),
        hint="Left empty: 2°, this product's own value. No published limit was found.",
    )
    for one in (*(placed(load, wheel.axle, wheel.side) for wheel in WHEELS), placed(twist, "")):
        yield replace(one, phase="plan", required=False)


_ALWAYS = tuple(_always())
