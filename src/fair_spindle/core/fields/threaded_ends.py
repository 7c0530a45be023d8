"""What is asked of an end on a thread that is turned off and on by count, at any wheel."""

from __future__ import annotations

from dataclasses import replace

from fair_spindle.core.basics.wheels import Axle
from fair_spindle.core.fields.field import Field, FieldSide, placed, typed

GROUP = "Threaded ends, by count"
COUNT_HINT = "Whole turns and flats: 24, 23 4/6 or 23.5."


def _length(name: str, label: str, low: float, high: float, hint: str = "") -> Field:
    return Field(name, label, GROUP, methods=typed("length", "mm", low, high), half_width=0.3, hint=hint)


def _count(name: str, label: str) -> Field:
    return Field(name, label, GROUP, methods=typed("count", "turn", 0, 80), half_width=1 / 12, hint=COUNT_HINT)


_FIELDS = (
    Field("tie.pitch", "Thread pitch", GROUP, methods=typed("pitch", "pitch_mm", 0.5, 4)),
    _length("tie.end", "Old end, thread mouth to stud centre", 20, 300),
    _length("new_end.length", "New end, thread mouth to stud centre", 20, 300),
    Field("new_end.pitch", "New thread pitch", GROUP, methods=typed("pitch", "pitch_mm", 0.5, 4), hint="As the old."),
    _length("tie.engagement", "Least thread engagement", 5, 80, "By its maker; 1.5 diameters is usual."),
    _count("tie.turns_off", "Turns off"),
    _count("tie.turns_on", "Turns on"),
    _length("tie.centres_before", "Centre to centre, before", 50, 2500),
    _length("tie.centres_after", "Centre to centre, after", 50, 2500),
    _length("tie.thread_before", "Thread showing, before", 0, 200),
    _length("tie.thread_after", "Thread showing, after", 0, 200),
)


def threaded_end_fields(axle: Axle, side: FieldSide) -> tuple[Field, ...]:
    """Fields of the threaded end at one wheel, all optional."""
    return tuple(replace(placed(one, axle, side), phase="floor", required=False) for one in _FIELDS)
