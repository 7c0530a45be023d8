"""Job files, archives and tables out; a job taken away."""

from __future__ import annotations

from sqlmodel import Session

from fair_spindle.core.basics.errors import Conflict, NotAllowed
from fair_spindle.core.joblog.log import Event
from fair_spindle.formats.job_file import BookHead, write_job_file
from fair_spindle.formats.job_zip import JOB, picture_file, write_zip
from fair_spindle.formats.pictures import without_notes
from fair_spindle.formats.tightenings_csv import write_tightenings
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.snapshot import head_of
from fair_spindle.records.books import delete_book, load_book, load_log, log_length
from fair_spindle.records.database import Database
from fair_spindle.records.pictures import load_picture, picture_folder


def export_job(database: Database, job_id: str) -> bytes:
    """A job as a job file, with its car's record; NotAllowed for practice, which would come in as real."""
    now = standing(database, job_id)
    if now.book.practice:
        raise NotAllowed("A practice job stays in its bay. Hand on its exercise and the number of its car.")
    with database.reading() as session:
        return write_job_file(head_of(now.book), now.log, _car_of(session, now.book.car_id))


def tightenings_csv(database: Database, job_id: str) -> bytes:
    """Every tightening of a job as CSV."""
    now = standing(database, job_id)
    return write_tightenings(now.state, now.log)


def export_zip(database: Database, job_id: str) -> bytes:
    """A job as a job file in a zip, its pictures beside it without what a camera noted in them."""
    files = {JOB: export_job(database, job_id)}
    folder = picture_folder(database.path)
    for _, act in standing(database, job_id).state.attached:
        files |= picture_file(act.sha256, *without_notes(load_picture(folder, act.sha256)))
    return write_zip(files)


def delete_job(database: Database, job_id: str, seen: int) -> None:
    """Take a job away; Conflict where somebody wrote in it since line ``seen``."""
    with database.writing() as session:
        row = load_book(session, job_id, car=False)
        if log_length(session, job_id) != seen:
            raise Conflict(f"Somebody wrote in “{row.title}” meanwhile. Look at it again before taking it away.")
        delete_book(session, job_id)


def _car_of(session: Session, car_id: str | None) -> tuple[BookHead, list[Event]] | None:
    if car_id is None:
        return None
    return head_of(load_book(session, car_id, car=True)), load_log(session, car_id)
