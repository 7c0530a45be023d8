"""Books in the database: jobs and cars, each a head and an append-only log."""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from sqlalchemy import func
from sqlmodel import Session, col, select

from fair_spindle.core.errors import NotFound
from fair_spindle.core.floor.log import Event
from fair_spindle.core.floor.plain import act_of, plain
from fair_spindle.core.planning.kinds import CAR
from fair_spindle.records.tables import BookRow, EventRow


@dataclass(frozen=True)
class BookSummary:
    """A job or car as it stands in the list."""

    book: BookRow
    entries: int
    last_at: str
    signed: bool


def load_book(session: Session, book_id: str, *, car: bool) -> BookRow:
    """The head of a job, or of a car; NotFound where there is none of that kind."""
    row = session.get(BookRow, book_id)
    if row is None or (row.template == CAR.key) != car:
        raise NotFound(f"There is no such {'car' if car else 'job'} here.", field="car_id" if car else "job_id")
    return row


def load_log(session: Session, book_id: str) -> list[Event]:
    """The whole log of a book, in order."""
    columns = (EventRow.id, EventRow.seq, EventRow.at, EventRow.act)
    rows = session.exec(select(*columns).where(EventRow.book_id == book_id).order_by(col(EventRow.seq)))
    return [Event(id_, seq, at, act_of(json.loads(act))) for id_, seq, at, act in rows]


def log_length(session: Session, book_id: str) -> int:
    """Number of lines in a book's log."""
    return session.exec(select(func.count()).where(EventRow.book_id == book_id)).one()


def append(session: Session, book_id: str, events: Iterable[Event]) -> None:
    """Add lines at the end of a book's log."""
    session.add_all(
        EventRow(
            book_id=book_id,
            seq=event.seq,
            id=event.id,
            at=event.at,
            kind=event.act.kind,
            act=json.dumps(plain(event.act), ensure_ascii=False),
        )
        for event in events
    )


def list_books(session: Session, limit: int, *, cars: bool) -> list[BookSummary]:
    """The jobs or cars last worked on, newest first."""
    newest = func.coalesce(func.max(EventRow.at), BookRow.created_at)
    seal = func.max(col(EventRow.seq)).filter(col(EventRow.kind) == "signed")
    opened = func.max(col(EventRow.seq)).filter(col(EventRow.kind) == "reopened")
    kind = col(BookRow.template) == CAR.key
    rows = session.exec(
        select(BookRow, func.count(col(EventRow.seq)), newest, seal, opened)  # type: ignore[call-overload]
        .join(EventRow, isouter=True)
        .where(kind if cars else ~kind)
        .group_by(BookRow.id)
        .order_by(newest.desc())
        .limit(limit)
    )
    return [
        BookSummary(book, count, at, bool(sealed and sealed > (reopened or 0)))
        for book, count, at, sealed, reopened in rows
    ]


def jobs_of(session: Session, car_id: str, limit: int = 12) -> Sequence[BookRow]:
    """The jobs on a car, last worked on first."""
    newest = func.coalesce(func.max(EventRow.at), BookRow.created_at)
    query = select(BookRow).join(EventRow, isouter=True).where(BookRow.car_id == car_id)
    return session.exec(query.group_by(col(BookRow.id)).order_by(newest.desc()).limit(limit)).all()
