"""A car through its jobs, two of its set-ups side by side, and a new job from an old one."""

from __future__ import annotations

from collections.abc import Iterator
from math import degrees
from uuid import uuid4

from fair_spindle.core.basics.errors import NotAllowed, NotFound
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.fields.field import Field
from fair_spindle.core.joblog.log import Act, Drawn, Event
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.review.history import Moment, differences, moments_of
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book import now_utc, see_job, standing, start_job
from fair_spindle.jobs.book_models import Title, View
from fair_spindle.jobs.models import JobCreate, JobView
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_field, say_quantity, signed
from fair_spindle.records.books import append, jobs_of, load_log
from fair_spindle.records.database import Database

MOST_JOBS = 40


class ValueView(View):
    """A field at one moment, as it is said and as a number to draw."""

    said: str
    value: float | None
    unit: str


class MomentView(View):
    """How the car stood before or after one job."""

    key: str
    job_id: str
    title: str
    phase: str
    at: str
    notes: list[str]
    values: dict[str, ValueView]


class HistoryView(View):
    """A car's moments, oldest first, and the fields there are."""

    rows: dict[str, str]
    moments: list[MomentView]


class ComparedRow(View):
    """One field of two set-ups; ``differs`` beyond the ± of both."""

    key: str
    label: str
    first: str
    then: str
    change: str
    differs: bool


class ComparedView(View):
    """Two set-ups side by side."""

    first: str
    then: str
    rows: list[ComparedRow]


class JobFrom(View):
    """A new job from an old one."""

    id: Identity
    title: Title


def see_history(database: Database, car_id: str) -> HistoryView:
    """A car through its jobs."""
    rows: dict[str, str] = {}
    moments = []
    for now, moment in _moments(database, car_id):
        labels = {name: say_field(key, now.sheet) for name, key in moment.fields.items()}
        rows |= {name: label for name, label in labels.items() if name not in rows}
        moments.append(
            MomentView(
                key=_key(now, moment),
                job_id=now.book.id,
                title=now.book.title,
                phase=moment.phase,
                at=moment.at,
                notes=[act.text for _, act in now.state.notes] if moment.phase == "after" else [],
                values={name: _value(name, moment, now) for name in moment.fields},
            )
        )
    return HistoryView(rows=dict(sorted(rows.items(), key=lambda row: _place(row[0]))), moments=moments)


def compare(database: Database, car_id: str, first: str, then: str) -> ComparedView:
    """Two of a car's set-ups side by side."""
    found = {_key(now, moment): (now, moment) for now, moment in _moments(database, car_id)}
    for key in (first, then):
        if key not in found:
            raise NotFound("This car has no such moment.", field="first" if key == first else "then")
    (old, one), (new, two) = found[first], found[then]
    rows = []
    for difference in sorted(differences(one, two), key=lambda each: _place(each.key)):
        name = difference.key
        at, moment = (new, two) if name in two.fields else (old, one)
        asked = at.sheet.fields[moment.fields[name]]
        change = ""
        if difference.change is not None:
            change = signed(say_quantity(asked, Quantity(difference.change, difference.plus_minus / COVERAGE)))
        rows.append(
            ComparedRow(
                key=name,
                label=say_field(asked.key, at.sheet),
                first=_value(name, one, old).said if name in one.fields else "",
                then=_value(name, two, new).said if name in two.fields else "",
                change=change,
                differs=difference.differs,
            )
        )
    return ComparedView(first=_said(old, one), then=_said(new, two), rows=rows)


def start_from(database: Database, job_id: str, wanted: JobFrom) -> JobView:
    """A new job of the same kind on the same car: its plan and the maps of its fasteners, with their values."""
    old = standing(database, job_id)
    if old.book.practice:
        raise NotAllowed("A practice job begins no real one.")
    start_job(
        database,
        JobCreate(
            id=wanted.id,
            title=wanted.title,
            car=old.book.car,
            car_id=old.book.car_id,
        ),
    )
    acts: list[Act] = [Drawn(joint) for joint in old.state.joints.values()]
    if old.state.plan:
        acts.append(old.state.plan)
    with database.writing() as session:
        begun = load_log(session, wanted.id)
        there = [event.act for event in begun]
        fresh = [act for act in acts if act not in there]
        events = [Event(str(uuid4()), n, now_utc(), act) for n, act in enumerate(fresh, start=len(begun) + 1)]
        append(session, wanted.id, events)
    return see_job(database, wanted.id)


def _moments(database: Database, car_id: str) -> Iterator[tuple[Standing, Moment]]:
    standing(database, car_id, car=True)
    with database.reading() as session:
        books = list(jobs_of(session, car_id, MOST_JOBS))
        logs = [load_log(session, book.id) for book in books]
        session.expunge_all()
    found = [(now, moment) for now in map(Standing, books, logs) for moment in moments_of(now.state, now.readings)]
    yield from sorted(found, key=lambda pair: (pair[1].at, pair[1].phase == "after"))


def _key(now: Standing, moment: Moment) -> str:
    return f"{now.book.id}:{moment.phase}"


def _said(now: Standing, moment: Moment) -> str:
    return f"{now.book.title}, {moment.phase}, {moment.at[:10]}"


def _place(name: str) -> tuple[int, str]:
    order = ("height", "toe", "camber", "caster", "loads")
    last = name.rpartition(".")[2]
    return (order.index(last) if last in order else len(order), name)


def _value(name: str, moment: Moment, now: Standing) -> ValueView:
    asked = now.sheet.fields[moment.fields[name]]
    read = moment.quantities.get(name)
    if read is None:
        word = moment.words.get(name, "")
        return ValueView(said=dict(asked.choices).get(word, word), value=None, unit="")
    value, unit = _number(asked, read.value)
    return ValueView(said=say_quantity(asked, read), value=None if read.parts else value, unit=unit)


def _number(asked: Field, value: float) -> tuple[float, str]:
    """A value in the unit it is drawn in."""
    if asked.key.endswith("toe"):
        return degrees(value) * 60, "'"
    if asked.key.endswith(("camber", "caster")):
        return degrees(value), "°"
    return value, "mm" if asked.key.endswith(("height", "perch", "perch_up", "new_seat")) else ""
