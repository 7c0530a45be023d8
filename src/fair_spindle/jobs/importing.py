"""Job files in: looked at, asked about where the car is here already, then added."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal
from uuid import uuid4

from sqlmodel import Session, col, select

from fair_spindle.core.basics.errors import Conflict, InputError, SpindleError
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.log import Event, Signed
from fair_spindle.core.joblog.replay import replay
from fair_spindle.core.predict.known_adjusters import hold_turns
from fair_spindle.formats.job_file import BookHead, CarPart, JobFile, digest, read_job_file
from fair_spindle.formats.job_kinds import kinds
from fair_spindle.formats.job_zip import is_zip, read_job_zip
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import append, load_log
from fair_spindle.records.database import Database
from fair_spindle.records.pictures import keep_picture, picture_folder
from fair_spindle.records.tables import BookRow

NEW, UPDATE, LEAVE, SECOND, OTHER = "new", "update", "leave", "second", "car:"


class CarAnswerView(View):
    """One answer to the question which car a job file's car is."""

    value: str
    label: str


class ImportView(View):
    """What an import did or would do; ``answers`` where the car has to be asked about, the usual one first."""

    job_id: str
    title: str
    car: str
    entries: int
    outcome: Literal["new", "same"]
    applied: bool
    said: str
    answers: list[CarAnswerView]


@value_object
class _Met:
    """How a file's car meets those here: what is said, and what may be answered, the usual answer first."""

    said: str
    answers: tuple[tuple[str, str], ...]
    newer: tuple[Event, ...] = ()


def import_job(database: Database, content: bytes, apply: bool, answer: str = "") -> ImportView:
    """Read a job file and, where `apply`, add the job to the car answered; nothing changes where it is wrong."""
    content, pictures = read_job_zip(content) if is_zip(content) else (content, {})
    read = read_job_file(content)
    events = check_job_file(read)
    with database.writing() as session:
        met = _meet(session, read.car) if read.car else _Met("", ((NEW, ""),))
        found = session.get(BookRow, read.job.id)
        if found is not None:
            if _without_car(found) != _without_car(read.job) or load_log(session, found.id)[: len(events)] != events:
                raise Conflict(
                    f"A different version of “{found.title}” is here already. Nothing was changed.", field="job/id"
                )
            if apply and met.newer:
                _take_car(session, read.car, met, answer)
            return _told(read, "same", apply and bool(met.newer), met if met.newer else _Met(met.said, ()))
        if apply:
            car_id = _take_car(session, read.car, met, answer)
            session.add(BookRow(**{**read.job.model_dump(), "car_id": car_id}))
            session.flush()
            append(session, read.job.id, events)
    if apply:
        for name, data in pictures.items():
            keep_picture(picture_folder(database.path), data, name)
    return _told(read, "new", apply, met)


def check_job_file(read: JobFile) -> list[Event]:
    """Hold a job file against the rules its lines were written by; the job's lines."""
    events = read.events()
    _holds(read.job, events, "log")
    if read.car:
        _holds(read.car.head, read.car.events(), "car/log")
    return events


def _meet(session: Session, car: CarPart) -> _Met:
    """Look for the file's car among those here, by its id and then by its name."""
    found, events, name = session.get(BookRow, car.head.id), car.events(), car.head.car
    if found is None:
        named = session.exec(select(BookRow).where(BookRow.template == CAR.key, col(BookRow.car) == name)).all()
        others = [(f"{OTHER}{one.id}", f"It is “{one.car}” that is here: {one.title}") for one in named]
        if not others:
            return _Met(f"“{name}” comes with it as a new car.", ((NEW, ""),))
        said = f"A car named “{name}” is here already, with a record of its own. Is it the same car?"
        return _Met(said, ((NEW, "Another car, which comes with its own record"), *others))
    if found.template != CAR.key:
        raise Conflict("The car in this file has the id of a job that is here already.", field="car/head/id")
    here = load_log(session, found.id)
    second = (SECOND, "Take the file's record as a second car")
    if events == here:
        return _Met(f"“{found.car}” is here already.", ((LEAVE, "It is this car"), second))
    if events[: len(here)] == here:
        newer = events[len(here) :]
        said = f"“{found.car}” is here already; the file knows {len(newer)} newer entries of its record."
        update = (UPDATE, f"It is this car; add its {len(newer)} newer entries")
        return _Met(said, (update, (LEAVE, "It is this car; leave its record as it is"), second), tuple(newer))
    if here[: len(events)] == events:
        said = f"“{found.car}” is here already, with newer entries; they stay."
        return _Met(said, ((LEAVE, "It is this car"), second))
    said = f"“{found.car}” is here with another record, which stays as it is. Which one does the job belong to?"
    return _Met(said, ((LEAVE, "The record that is here"), second))


def _take_car(session: Session, car: CarPart | None, met: _Met, answer: str) -> str | None:
    """Do what was answered about the car; the id of the car that the job belongs to from now on."""
    if car is None:
        return None
    allowed = [value for value, _ in met.answers]
    answer = answer or allowed[0]
    if answer not in allowed:
        raise InputError(f"Which car it is can be answered by {', '.join(allowed)}; got {answer!r}.", field="car")
    if answer.startswith(OTHER):
        return answer.removeprefix(OTHER)
    if answer in (NEW, SECOND):
        head = car.head
        if answer == SECOND:
            head = head.model_copy(update={"id": str(uuid4()), "car": f"{head.car[:100]}, second record"})
        session.add(BookRow(**head.model_dump()))
        session.flush()
        append(session, head.id, car.events())
        return head.id
    if answer == UPDATE:
        append(session, car.head.id, met.newer)
        row = session.get_one(BookRow, car.head.id)
        row.title = car.head.title
        session.add(row)
    return car.head.id


def _without_car(head: BookRow | BookHead) -> tuple[str, ...]:
    """What a job is called; which car it was filed under may differ from one workshop to the next."""
    return head.id, head.template, head.title, head.car, head.created_at


def _holds(head: BookHead, events: Sequence[Event], where: str) -> None:
    """The log must be one that this product could have accepted, with its seals unbroken."""
    template = kinds().get(head.template)
    if template is None or (head.template == CAR.key) != (where == "car/log"):
        raise InputError(f"Unknown kind of job {head.template!r}.", field="job/template")
    try:
        replay(events, template, hold_turns)
    except SpindleError as error:
        line = error.details.get("event", "?")
        raise InputError(f"Line {line} of the log does not hold: {error.message}", field=f"{where}/{line}") from error
    for event in events:
        if isinstance(event.act, Signed):
            _sealed(event.act, head, events[: event.seq - 1], f"{where}/{event.seq}")


def _sealed(act: Signed, head: BookHead, before: Sequence[Event], where: str) -> None:
    """A signature must match what it was set under, and what is signed by the rules of today must obey them."""
    if digest(head, before, act.over) != act.digest:
        raise InputError(
            f"The signature of {act.name} does not match what stands before it: the file was changed after "
            "it was signed.",
            field=where,
        )
    if act.over == "job" and (blocking := Standing(BookRow(**head.model_dump()), before).blocking):
        raise InputError(f"It was not to be signed as it stood: {blocking[0]}", field=where)


def _told(read: JobFile, outcome: Literal["new", "same"], applied: bool, met: _Met) -> ImportView:
    said = {
        ("new", True): "The job was added.",
        ("new", False): "The job would be added.",
        ("same", True): "This very job is here already.",
        ("same", False): f"This very job is here already{'' if met.newer else '; nothing to do'}.",
    }[(outcome, applied)]
    ask = len(met.answers) > 1 and not applied
    return ImportView(
        job_id=read.job.id,
        title=read.job.title,
        car=read.job.car,
        entries=len(read.log),
        outcome=outcome,
        applied=applied,
        said=f"{said} {met.said}".strip(),
        answers=[CarAnswerView(value=value, label=label) for value, label in met.answers] if ask else [],
    )
