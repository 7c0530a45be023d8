"""The workshop's jobs: list them, start one, look at one."""

from __future__ import annotations

from datetime import UTC, datetime

from fair_spindle.core.errors import Conflict
from fair_spindle.jobs.models import JobCreate, JobLine, JobView, LogLineView, VersionView
from fair_spindle.jobs.views import Standing, show_job, show_log, stand
from fair_spindle.records.database import Database
from fair_spindle.records.jobs import list_jobs, load_job, load_log, log_length
from fair_spindle.records.tables import JobRow


def now_utc() -> str:
    """The time now, as it is written in logs."""
    return datetime.now(UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")


def all_jobs(database: Database, limit: int) -> list[JobLine]:
    """Jobs last worked on, newest first."""
    with database.reading() as session:
        return [
            JobLine(
                id=line.job.id,
                title=line.job.title,
                car=line.job.car,
                created_at=line.job.created_at,
                last_at=line.last_at,
                entries=line.entries,
                signed=line.signed,
            )
            for line in list_jobs(session, limit)
        ]


def start_job(database: Database, wanted: JobCreate) -> JobView:
    """Start a job; the same request again gives the same job."""
    with database.writing() as session:
        found = session.get(JobRow, wanted.id)
        if found is None:
            session.add(JobRow(created_at=now_utc(), **wanted.model_dump()))
        elif (found.title, found.car, found.template) != (wanted.title, wanted.car, wanted.template):
            raise Conflict("Another job has this id already.", field="id")
    return see_job(database, wanted.id)


def standing(database: Database, job_id: str) -> Standing:
    """How a job stands now."""
    with database.reading() as session:
        row, log = load_job(session, job_id), load_log(session, job_id)
        session.expunge_all()
    return stand(row, log)


def see_job(database: Database, job_id: str) -> JobView:
    """Everything about a job."""
    return show_job(standing(database, job_id))


def see_version(database: Database, job_id: str) -> VersionView:
    """How long a job's log is."""
    with database.reading() as session:
        load_job(session, job_id)
        return VersionView(version=log_length(session, job_id))


def see_log(database: Database, job_id: str) -> list[LogLineView]:
    """A job's log in words."""
    return show_log(standing(database, job_id))
