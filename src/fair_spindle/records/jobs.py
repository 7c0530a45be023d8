"""Jobs and their logs in the database."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import func
from sqlmodel import Session, col, select

from fair_spindle.core.errors import NotFound
from fair_spindle.core.floor.log import Event
from fair_spindle.core.floor.plain import act_of, plain
from fair_spindle.records.tables import EventRow, JobRow


@dataclass(frozen=True)
class JobSummary:
    """A job as it stands in the list."""

    job: JobRow
    entries: int
    last_at: str
    signed: bool


def load_job(session: Session, job_id: str) -> JobRow:
    """The job's head; NotFound where there is none."""
    row = session.get(JobRow, job_id)
    if row is None:
        raise NotFound("There is no such job here.", field="job_id")
    return row


def load_log(session: Session, job_id: str) -> list[Event]:
    """The whole log of a job, in order."""
    columns = (EventRow.id, EventRow.seq, EventRow.at, EventRow.act)
    rows = session.exec(select(*columns).where(EventRow.job_id == job_id).order_by(col(EventRow.seq)))
    return [Event(id_, seq, at, act_of(json.loads(act))) for id_, seq, at, act in rows]


def log_length(session: Session, job_id: str) -> int:
    """Number of lines in a job's log."""
    return session.exec(select(func.count()).where(EventRow.job_id == job_id)).one()


def append(session: Session, job_id: str, events: Iterable[Event]) -> None:
    """Add lines at the end of a job's log."""
    session.add_all(
        EventRow(
            job_id=job_id,
            seq=event.seq,
            id=event.id,
            at=event.at,
            kind=event.act.kind,
            act=json.dumps(plain(event.act), ensure_ascii=False),
        )
        for event in events
    )


def list_jobs(session: Session, limit: int) -> list[JobSummary]:
    """The jobs last worked on, newest first."""
    newest = func.coalesce(func.max(EventRow.at), JobRow.created_at)
    seal = func.max(col(EventRow.seq)).filter(col(EventRow.kind) == "signed")
    opened = func.max(col(EventRow.seq)).filter(col(EventRow.kind) == "reopened")
    rows = session.exec(
        select(JobRow, func.count(col(EventRow.seq)), newest, seal, opened)  # type: ignore[call-overload]
        .join(EventRow, isouter=True)
        .group_by(JobRow.id)
        .order_by(newest.desc())
        .limit(limit)
    )
    return [
        JobSummary(job, count, at, bool(sealed and sealed > (reopened or 0)))
        for job, count, at, sealed, reopened in rows
    ]
