"""The tables: a job, and the events of its log."""

from __future__ import annotations

from sqlmodel import Field, SQLModel, UniqueConstraint


class JobRow(SQLModel, table=True):
    """A job's head; everything else about it is in its log."""

    __tablename__ = "job"

    id: str = Field(primary_key=True)
    template: str
    title: str
    car: str
    created_at: str = Field(index=True)


class EventRow(SQLModel, table=True):
    """One line of a job's append-only log; ``act`` is JSON."""

    __tablename__ = "event"
    __table_args__ = (UniqueConstraint("job_id", "id"),)

    job_id: str = Field(primary_key=True, foreign_key="job.id")
    seq: int = Field(primary_key=True)
    id: str
    at: str
    kind: str
    act: str
