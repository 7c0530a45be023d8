"""Job files out and in."""

from __future__ import annotations

from typing import Literal

from sqlmodel import Session

from fair_spindle.core.errors import Conflict, InputError, SpindleError
from fair_spindle.core.floor.log import Event, Signed
from fair_spindle.core.floor.replay import replay
from fair_spindle.core.floor.wording import label_wheel
from fair_spindle.core.planning.cautions import CAUTIONS
from fair_spindle.core.planning.kinds import CAR, KINDS
from fair_spindle.formats.job_file import BookHead, CarPart, JobFile, digest, read_job_file, write_job_file
from fair_spindle.formats.job_zip import FOLDER, JOB, is_zip, read_job_zip, write_zip
from fair_spindle.formats.record_pdf import write_record
from fair_spindle.formats.tightenings_csv import write_tightenings
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.geometry import curve_of
from fair_spindle.jobs.joints import see_joints
from fair_spindle.jobs.models import ImportView
from fair_spindle.jobs.planning import fitted
from fair_spindle.jobs.springs import see_sits
from fair_spindle.jobs.views import show_job
from fair_spindle.records.books import append, delete_book, load_book, load_log, log_length
from fair_spindle.records.database import Database
from fair_spindle.records.pictures import keep_picture, load_picture, picture_folder
from fair_spindle.records.tables import BookRow


def export_job(database: Database, job_id: str) -> bytes:
    """A job as a job file, with its car's record."""
    now = standing(database, job_id)
    with database.reading() as session:
        return write_job_file(_head(now.book), now.log, _car_of(session, now.book.car_id))


def tightenings_csv(database: Database, job_id: str) -> bytes:
    """Every tightening of a job as CSV."""
    now = standing(database, job_id)
    return write_tightenings(now.state, now.log)


def export_zip(database: Database, job_id: str) -> bytes:
    """A job as a job file in a zip, its pictures beside it."""
    files = {JOB: export_job(database, job_id)}
    folder = picture_folder(database.path)
    for _, act in standing(database, job_id).state.attached:
        ending = act.media.partition("/")[2]
        files[f"{FOLDER}{act.sha256}.{ending}"] = load_picture(folder, act.sha256)
    return write_zip(files)


def delete_job(database: Database, job_id: str, seen: int) -> None:
    """Take a job away; Conflict where somebody wrote in it since line ``seen``."""
    with database.writing() as session:
        row = load_book(session, job_id, car=False)
        if log_length(session, job_id) != seen:
            raise Conflict(f"Somebody wrote in “{row.title}” meanwhile. Look at it again before taking it away.")
        delete_book(session, job_id)


def print_record(database: Database, job_id: str) -> bytes:
    """A job's record as PDF."""
    now = standing(database, job_id)
    shown = show_job(now).model_dump()
    joints = see_joints(database, job_id)
    shown["joints"] = [one.model_dump() for one in joints.joints]
    shown["rechecks"] = joints.recheck
    shown["fitted"] = fitted(now)
    shown["cautions"] = sorted(
        {words for step in now.template.steps for key in step.cautions if (words := CAUTIONS[key])}
    )
    shown["curves"] = [
        {"label": label_wheel(key), **curve_of(corner, {}).model_dump()} for key, corner in now.corner_points.items()
    ]
    shown["sits"] = [one.model_dump() for one in see_sits(now)]
    return write_record(shown)


def import_job(database: Database, content: bytes, apply: bool) -> ImportView:
    """Read a job file and, where `apply`, add the job; nothing changes where anything is wrong."""
    content, pictures = read_job_zip(content) if is_zip(content) else (content, {})
    read = read_job_file(content)
    events = read.events()
    _holds(read.job.template, events, "log")
    if read.car:
        _holds(CAR.key, read.car.events(), "car/log")
    with database.writing() as session:
        about_car = _take_car(session, read.car, apply) if read.car else ""
        found = session.get(BookRow, read.job.id)
        if found is not None:
            here = write_job_file(_head(found), load_log(session, found.id), None)
            if here != write_job_file(read.job, events, None):
                raise Conflict(
                    f"A different version of “{found.title}” is here already. Nothing was changed.", field="job/id"
                )
            return _told(read, "same", False, about_car)
        if apply:
            session.add(BookRow(**read.job.model_dump()))
            session.flush()
            append(session, read.job.id, events)
    if apply:
        for data in pictures.values():
            keep_picture(picture_folder(database.path), data)
    return _told(read, "new", apply, about_car)


def _head(book: BookRow) -> BookHead:
    return BookHead(
        id=book.id,
        template=book.template,
        title=book.title,
        car=book.car,
        created_at=book.created_at,
        car_id=book.car_id,
    )


def _car_of(session: Session, car_id: str | None) -> tuple[BookHead, list[Event]] | None:
    if car_id is None:
        return None
    return _head(load_book(session, car_id, car=True)), load_log(session, car_id)


def _take_car(session: Session, car: CarPart, apply: bool) -> str:
    """Add the car that a job file carries, or bring the one that is here up to it."""
    found = session.get(BookRow, car.head.id)
    events = car.events()
    if found is None:
        if apply:
            session.add(BookRow(**car.head.model_dump()))
            session.flush()
            append(session, car.head.id, events)
        return f"“{car.head.car}” comes with it as a new car."
    if found.template != CAR.key:
        raise Conflict("The car in this file has the id of a job that is here already.", field="car/head/id")
    here = load_log(session, found.id)
    if events[: len(here)] == here:
        if apply and len(events) > len(here):
            append(session, found.id, events[len(here) :])
            found.title = car.head.title
            session.add(found)
        newer = len(events) - len(here)
        return f"The car is here already{f'; {newer} newer entries are added to it' if newer else ''}."
    if here[: len(events)] == events:
        return "The car is here already, with newer entries; they stay."
    return f"“{found.car}” is here with another record, which stays as it is."


def _holds(kind: str, events: list[Event], where: str) -> None:
    """The log must be one that this product could have accepted, with its seals unbroken."""
    template = KINDS.get(kind)
    if template is None or (kind == CAR.key) != (where == "car/log"):
        raise InputError(f"Unknown kind of job {kind!r}.", field="job/template")
    try:
        replay(events, template)
    except SpindleError as error:
        line = error.details.get("event", "?")
        raise InputError(f"Line {line} of the log does not hold: {error.message}", field=f"{where}/{line}") from error
    for event in events:
        if isinstance(event.act, Signed) and digest(events[: event.seq - 1]) != event.act.digest:
            raise InputError(
                f"The signature at line {event.seq} does not match the log before it: the file was changed after "
                "it was signed.",
                field=f"{where}/{event.seq}",
            )


def _told(read: JobFile, outcome: Literal["new", "same"], applied: bool, about_car: str) -> ImportView:
    said = {
        ("new", True): "The job was added.",
        ("new", False): "The job would be added.",
        ("same", False): "This very job is here already; nothing to do.",
    }[(outcome, applied)]
    return ImportView(
        job_id=read.job.id,
        title=read.job.title,
        car=read.job.car,
        entries=len(read.log),
        outcome=outcome,
        applied=applied,
        said=f"{said} {about_car}".strip(),
    )
