"""Books in the database: jobs and cars, each a head and an append-only log."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

from sqlalchemy import ColumnElement, func, or_, text
from sqlmodel import Session, col, delete, select

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.log import Act, Event
from fair_spindle.core.joblog.plain import act_of, plain
from fair_spindle.records.database import Database
from fair_spindle.records.tables import BookRow, EventRow


@value_object
class BookSummary:
    """A job or car as it stands in the list."""

    book: BookRow
    entries: int
    last_at: str
    signed: bool
    planned: bool


def load_book(session: Session, book_id: str, *, car: bool) -> BookRow:
    """The head of a job, or of a car; NotFound where there is none of that kind."""
    return _of_kind(session.get(BookRow, book_id), car=car)


def _of_kind(row: BookRow | None, *, car: bool) -> BookRow:
    if row is None or (row.template == CAR.key) != car:
        raise NotFound(f"There is no such {'car' if car else 'job'} here.", field="car_id" if car else "job_id")
    return row


Line = tuple[str, int, str, str, str]
# Asked with every entry: written out, so that nothing is put together for it each time.
_HEAD = ", ".join(BookRow.model_fields)
_LOOK = f"SELECT {_HEAD}, (SELECT max(seq) FROM event WHERE book_id = book.id) FROM book WHERE id = :book"
_LENGTH = "SELECT max(seq) FROM event WHERE book_id = :book"
_SAID = "SELECT said FROM event WHERE book_id = :book AND id = :key"
_LINES = "SELECT id, seq, at, act, made_by FROM event WHERE book_id = :book AND seq > :after ORDER BY seq"
_ADD = (
    "INSERT INTO event (book_id, seq, id, at, kind, act, made_by, said) "
    "VALUES (:book, :seq, :id, :at, :kind, :act, :by, :said)"
)


def look_up(database: Database, book_id: str, *, car: bool) -> tuple[BookRow, int]:
    """The head of a job or a car, not to be written, and the length of its log; NotFound as :func:`load_book`."""
    found = database.ask(_LOOK, book=book_id)
    row = _head(found[0][:-1]) if found else None
    return _of_kind(row, car=car), (found[0][-1] or 0)


@lru_cache(maxsize=256)
def _head(told: tuple[str, ...]) -> BookRow:
    return BookRow(**dict(zip(BookRow.model_fields, told, strict=True)))


def lines_of(database: Database, book_id: str, after: int = 0) -> tuple[Line, ...]:
    """The log of a book in order, as it is written, after a line: id, seq, at, act, who made it."""
    return tuple(database.ask(_LINES, book=book_id, after=after))


def _load_lines(session: Session, book_id: str) -> Iterable[Line]:
    found = session.connection().execute(text(_LINES), {"book": book_id, "after": 0})
    return ((id_, seq, at, act, by) for id_, seq, at, act, by in found)


def read_lines(lines: Iterable[Line]) -> list[Event]:
    """Lines of a log as the core takes them."""
    return [Event(id_, seq, at, act_of(json.loads(act)), by, act) for id_, seq, at, act, by in lines]


def load_log(session: Session, book_id: str) -> list[Event]:
    """The whole log of a book, in order."""
    return read_lines(_load_lines(session, book_id))


def delete_book(session: Session, book_id: str) -> None:
    """Take a book and its whole log away."""
    session.exec(delete(EventRow).where(col(EventRow.book_id) == book_id))
    session.exec(delete(BookRow).where(col(BookRow.id) == book_id))


def log_length(session: Session, book_id: str) -> int:
    """Number of lines in a book's log, which has no gaps."""
    return session.connection().execute(text(_LENGTH), {"book": book_id}).scalar() or 0


def said_before(database: Database, book_id: str, key: str) -> str | None:
    """The fingerprint of the request that wrote a line; empty where it was not kept, None where there is no line."""
    found = database.ask(_SAID, book=book_id, key=key)
    return str(found[0][0]) if found else None


def append(session: Session, book_id: str, events: Iterable[Event], said: str = "") -> None:
    """Add lines at the end of a book's log; ``said`` is the fingerprint of the request they come from."""
    lines = [_row(book_id, event, said) for event in events]
    session.flush()
    if lines:
        session.connection().execute(text(_ADD), lines)


def add_line(database: Database, book_id: str, event: Event, said: str) -> bool:
    """Add a line that takes nothing else with it, where the log still ends right before it; whether it did."""
    with database.adding() as at_driver:
        ((length,),) = at_driver.execute(_LENGTH, {"book": book_id})
        if follows := (length or 0) == event.seq - 1:
            at_driver.execute(_ADD, _row(book_id, event, said))
    return follows


def _row(book_id: str, event: Event, said: str) -> dict[str, object]:
    id_, seq, at, act, by = line_of(event)
    return {
        "book": book_id, "seq": seq, "id": id_, "at": at, "kind": event.act.kind, "act": act, "by": by, "said": said
    }  # fmt: skip


def line_of(event: Event) -> Line:
    """A line as it is written."""
    return event.id, event.seq, event.at, event.written or _json(event.act), event.by


def written(event: Event) -> Event:
    """A line that knows how it is written."""
    return replace(event, written=_json(event.act))


def _json(act: Act) -> str:
    return json.dumps(plain(act), ensure_ascii=False)


def list_books(
    session: Session, limit: int, *, cars: bool, words: Sequence[str] = (), car: str = ""
) -> list[BookSummary]:
    """The jobs or cars last worked on, newest first; those whose title or car hold every word, or of one car."""
    last = select(EventRow.at).where(EventRow.book_id == BookRow.id).order_by(col(EventRow.seq).desc()).limit(1)
    newest = func.coalesce(last.scalar_subquery(), BookRow.created_at).label("newest")
    kind = col(BookRow.template) == CAR.key
    held = [*map(_holding, words), *([col(BookRow.car_id) == car] if car else [])]
    listed = (
        select(BookRow.id, newest)
        .where(kind if cars else ~kind, col(BookRow.practice) == "", *held)
        .order_by(newest.desc())
        .limit(limit)
        .subquery()
    )
    length = select(func.max(EventRow.seq)).where(EventRow.book_id == BookRow.id)
    rows = session.exec(
        select(BookRow, func.coalesce(length.scalar_subquery(), 0), listed.c.newest)
        .join(listed, listed.c.id == BookRow.id)
        .order_by(listed.c.newest.desc())
    ).all()
    last_of = _last_of_kinds(session, [book.id for book, _, _ in rows])
    return [_summary(book, entries, at, last_of.get(book.id, {})) for book, entries, at in rows]


def _summary(book: BookRow, entries: int, at: str, last: Mapping[str, int]) -> BookSummary:
    return BookSummary(book, entries, at, last.get("signed", 0) > last.get("reopened", 0), "planned" in last)


def list_practice(session: Session, limit: int) -> Sequence[BookRow]:
    """Practice jobs, the newest first."""
    wanted = select(BookRow).where(col(BookRow.practice) != "").order_by(col(BookRow.created_at).desc()).limit(limit)
    return session.exec(wanted).all()


def _last_of_kinds(session: Session, ids: Sequence[str]) -> dict[str, dict[str, int]]:
    """Where in the log of each book its last plan, signature and opening again stand."""
    found: dict[str, dict[str, int]] = {}
    told = col(EventRow.book_id).in_(ids), col(EventRow.kind).in_(("planned", "signed", "reopened"))
    lines = select(EventRow.book_id, EventRow.kind, func.max(EventRow.seq)).where(*told)
    for book, kind, seq in session.exec(lines.group_by(EventRow.book_id, EventRow.kind)):
        found.setdefault(book, {})[kind] = seq
    return found


def _holding(word: str) -> ColumnElement[bool]:
    return or_(col(BookRow.title).icontains(word, autoescape=True), col(BookRow.car).icontains(word, autoescape=True))


def jobs_of(session: Session, car_id: str, limit: int = 12) -> Sequence[BookRow]:
    """The jobs on a car, last worked on first."""
    newest = func.coalesce(func.max(EventRow.at), BookRow.created_at)
    query = select(BookRow).join(EventRow, isouter=True).where(BookRow.car_id == car_id)
    return session.exec(query.group_by(col(BookRow.id)).order_by(newest.desc()).limit(limit)).all()
