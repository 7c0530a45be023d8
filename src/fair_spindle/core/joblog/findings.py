"""What a look at the job finds: what blocks the signature, what stays open on it, what to ask."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Literal

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.fields.doubts import Doubt, Read, doubt_readings
from fair_spindle.core.fields.field import MEASURING, Field, Sheet
from fair_spindle.core.joblog.kinds import KEPT, JobTemplate
from fair_spindle.core.joblog.log import Event, Stepped
from fair_spindle.core.joblog.readings import read_all
from fair_spindle.core.joblog.required_fields import Readings, missing_fields
from fair_spindle.core.joblog.state import JobState, Taken
from fair_spindle.core.joblog.wording import label_field, label_wheel, position_words
from fair_spindle.core.planning.template import POSITION_NAMES, Step

Severity = Literal["blocks", "open", "question", "note"]
GRAVITY: Mapping[Severity, int] = {"blocks": 0, "open": 1, "question": 2, "note": 3}
HEIGHT_SPREAD = 4.0


@value_object
class Finding:
    """One thing found: how grave, in words, where, and on what ground."""

    code: str
    severity: Severity
    message: str
    subject: str
    ground: str = "common practice, no published source"


def look(state: JobState, readings: Readings, template: JobTemplate) -> list[Finding]:
    """Look a job over and say everything that is wrong, open or doubtful.

    The limit of 4 mm spread is the product's own.

    Common practice, no published source.
    """
    found = [
        *_position(state),
        *_steps(state.steps, template.steps),
        *_missing(state, readings.sheet, template),
        *_taken(state, readings),
        *_spread(readings),
    ]
    return sorted(found, key=_gravity)


def _gravity(finding: Finding) -> int:
    return GRAVITY[finding.severity]


def _position(state: JobState) -> Iterator[Finding]:
    if state.position != "on_wheels":
        where = position_words(state.position, state.corner, state.carried_axle)
        yield Finding("not_on_wheels", "blocks", f"The car is {where}.", "position")


@by_identity(most=KEPT)
def _steps(done: Mapping[str, tuple[Event, Stepped]], steps: Sequence[Step]) -> list[Finding]:
    found = []
    for step in steps:
        if step.key not in done:
            found.append(Finding("step_open", "open", f"Step not done: {step.title}.", step.key))
        elif (act := done[step.key][1]).outcome == "skipped":
            found.append(Finding("step_skipped", "open", f"Step skipped: {step.title} ({act.reason}).", step.key))
        elif act.reason:
            message = f"Done all the same: {step.title} ({act.reason})."
            found.append(Finding("all_the_same", "open", message, step.key))
    return found


def _missing(state: JobState, sheet: Sheet, template: JobTemplate) -> Iterator[Finding]:
    for phase in MEASURING:
        for key in missing_fields(state, template, phase):
            yield _not_read(sheet.find(key))


@by_identity()
def _not_read(asked: Field) -> Finding:
    message = f"Not read in the {asked.phase}: {label_field(asked).lower()}."
    return Finding(f"{asked.phase}_missing", "open", message, asked.key)


@by_identity(most=KEPT)
def doubts_now(state: JobState, readings: Readings) -> list[Doubt]:
    """Find readings of a job that are out of line.

    The car's last baseline is the one that was taken into the log when the job began.
    """
    sheet, entries, read = readings.sheet, state.entries, readings.quantities
    before, _ = read_all(state.before, sheet)
    return doubt_readings(
        {
            key: Read(q.value, q.uncertainty, q.spread, q.count, entries[key].event.seq)
            for key in sheet.judged
            if key in entries and (q := read.get(key))
        },
        {key: Read(q.value, q.uncertainty, q.spread, q.count) for key, q in before.items()},
        sheet,
    )


def unsettled(taken: Taken) -> str:
    """What was wrong with how the car stood when a reading was taken.

    Asked only of readings that depend on it.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.joblog.log import Entered, Event
    >>> unsettled(Taken(Event("", 1, "", Entered("front.left.toe")), Entered("front.left.toe"), "hanging", False))
    'read hanging on stands'
    """
    if taken.position != "on_wheels":
        return f"read {POSITION_NAMES[taken.position]}"
    return "" if taken.settled else "read before the car was settled"


def overdue(taken: Taken) -> str:
    """Since when the calibration of the instrument behind a reading had run out.

    Dates are compared as written, year first.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.joblog.log import Entered, Event, Gauge
    >>> act = Entered("front.left.camber", gauge=Gauge("Level", due="2026-01-31"))
    >>> overdue(Taken(Event("", 1, "2026-02-01T08:00:00.000Z", act), act, "on_wheels", True))
    '2026-01-31'
    """
    gauge = taken.act.gauge
    return gauge.due if gauge and gauge.due and gauge.due < taken.event.at[:10] else ""


def _taken(state: JobState, readings: Readings) -> Iterator[Finding]:
    sheet = readings.sheet
    loose = {key: words for key, taken in state.entries.items() if (words := unsettled(taken))}
    asked = [key for key in loose if key in sheet.fields and sheet.fields[key].settled]
    if asked:
        names = ", ".join(label_field(sheet.find(key)).lower() for key in asked)
        yield Finding("unsettled", "open", f"The car was not settled on its wheels for: {names}.", asked[0])
    for key, taken in state.entries.items():
        if (day := overdue(taken)) and key in sheet.fields and taken.act.gauge:
            name, gauge = label_field(sheet.fields[key]), taken.act.gauge.name
            yield Finding("overdue", "open", f"{name}: calibration of “{gauge}” ran out on {day}.", key)
    for doubt in doubts_now(state, readings):
        name = label_field(sheet.fields[doubt.key])
        if doubt.answered:
            yield Finding("out_of_line", "note", f"{name}: {doubt.message} Read again, and it stands.", doubt.key)
        else:
            yield Finding("out_of_line", "question", f"{name}: {doubt.message} Read it a second time.", doubt.key)


def _spread(readings: Readings) -> Iterator[Finding]:
    for wheel in WHEELS:
        height = readings.quantities.get(f"{wheel}.height")
        if height and height.spread > HEIGHT_SPREAD:
            message = f"{label_wheel(wheel)} heights spread over {height.spread:.0f} mm. Settle, read again."
            yield Finding("spread", "note", message, f"{wheel}.height")
