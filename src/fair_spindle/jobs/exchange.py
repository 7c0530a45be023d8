"""Job files out and in."""

from __future__ import annotations

from typing import Literal

from fair_spindle.core.errors import Conflict, InputError, SpindleError
from fair_spindle.core.floor.log import Event, Signed
from fair_spindle.core.floor.replay import replay
from fair_spindle.core.planning.front_strut import TEMPLATES
from fair_spindle.formats.job_file import JobFile, JobHead, digest, read_job_file, write_job_file
from fair_spindle.formats.record_pdf import write_record
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.models import ImportView
from fair_spindle.jobs.views import show_job
from fair_spindle.records.database import Database
from fair_spindle.records.jobs import append, load_job, load_log
from fair_spindle.records.tables import JobRow


def export_job(database: Database, job_id: str) -> bytes:
    """A job as a job file."""
    now = standing(database, job_id)
    return write_job_file(_head(now.job), now.log)


def print_record(database: Database, job_id: str) -> bytes:
    """A job's record as PDF."""
    return write_record(show_job(standing(database, job_id)).model_dump())


def import_job(database: Database, content: bytes, apply: bool) -> ImportView:
    """Read a job file and, where `apply`, add the job; nothing changes where anything is wrong."""
    read = read_job_file(content)
    events = read.events()
    _holds(read, events)
    with database.writing() as session:
        found = session.get(JobRow, read.job.id)
        if found is not None:
            here = write_job_file(_head(load_job(session, found.id)), load_log(session, found.id))
            if here != write_job_file(read.job, events):
                raise Conflict(
                    f"A different version of “{found.title}” is here already. Nothing was changed.", field="job/id"
                )
            return _told(read, "same", False)
        if apply:
            session.add(JobRow(**read.job.model_dump()))
            session.flush()
            append(session, read.job.id, events)
    return _told(read, "new", apply)


def _head(job: JobRow) -> JobHead:
    return JobHead(id=job.id, template=job.template, title=job.title, car=job.car, created_at=job.created_at)


def _holds(read: JobFile, events: list[Event]) -> None:
    """The log must be one that this product could have accepted, with its seals unbroken."""
    template = TEMPLATES.get(read.job.template)
    if template is None:
        raise InputError(f"Unknown kind of job {read.job.template!r}.", field="job/template")
    try:
        replay(events, template)
    except SpindleError as error:
        line = error.details.get("event", "?")
        raise InputError(f"Line {line} of the log does not hold: {error.message}", field=f"log/{line}") from error
    for event in events:
        if isinstance(event.act, Signed) and digest(events[: event.seq - 1]) != event.act.digest:
            raise InputError(
                f"The signature at line {event.seq} does not match the log before it: the file was changed after "
                "it was signed.",
                field=f"log/{event.seq}",
            )


def _told(read: JobFile, outcome: Literal["new", "same"], applied: bool) -> ImportView:
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
        said=said,
    )
