"""A fact of the car, entered anywhere, is the car's: its record knows it, and its open jobs; signed ones stay."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from uuid import NAMESPACE_OID, uuid4, uuid5

from sqlmodel import Session

from fair_spindle.core.basics.errors import SpindleError
from fair_spindle.core.basics.wheels import AXLES, WHEELS
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.log import Act, Drawn, Entered, Event, Filled, Signed, Undone
from fair_spindle.core.joblog.replay import undoing
from fair_spindle.core.joblog.rules import permit
from fair_spindle.core.joblog.state import JobState
from fair_spindle.jobs.book_models import FROM_RECORD
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import append, jobs_of, load_log
from fair_spindle.records.tables import BookRow

MOST_JOBS = 50
NOW_ON_THE_CAR = {
    "new_spring.rate": "spring.rate",
    "new_spring.free": "spring.free",
    "new_spring.solid": "spring.solid",
    "new_damper.gas": "damper.gas",
    "new_damper.open": "damper.open",
    "new_damper.closed": "damper.closed",
    "new_damper.stop": "damper.stop",
    "new_bar.hole": "bar.hole",
    "new_bar.diameter": "bar.diameter",
    "new_bar.bore": "bar.bore",
}
AT_A_WHEEL = {"new_end.length": "tie.end", "new_end.pitch": "tie.pitch"}


def concerns_car(row: BookRow, act: Act, sheet: Sheet) -> bool:
    """Whether an act says something of the car itself, which its record and its other open jobs are to know."""
    if not (row.car_id or row.template == CAR.key):
        return False
    if isinstance(act, Entered):
        of_car = act.key in sheet.fields and sheet.fields[act.key].phase == "car"
        return of_car or row.template == CAR.key
    return isinstance(act, Undone | Signed)


def share_fact(session: Session, row: BookRow, event: Event, sheet: Sheet) -> None:
    """Carry a field that was filled in on to the car's record and its other open jobs, and its undoing too."""
    if not concerns_car(row, event.act, sheet):
        return
    car_id = row.car_id or row.id
    if isinstance(event.act, Undone):
        _undo_shared(session, car_id, event, event.act.event, row.id)
    elif isinstance(event.act, Entered) and (
        row.id == car_id or _to_record(session, car_id, [event.act], event.at, event.id)
    ):
        _to_open_jobs(session, car_id, event.act, event, except_for=row.id)


def shared_id(event_id: str, book_id: str) -> str:
    """Id of the line that an event of one book has in another: the same wherever it is asked for."""
    return str(uuid5(NAMESPACE_OID, f"{event_id}/{book_id}"))


def _undo_shared(session: Session, car_id: str, event: Event, target: str, own: str) -> None:
    """Undo what an undone line had carried to the car's record and its open jobs."""
    books = (session.get_one(BookRow, car_id), *jobs_of(session, car_id, MOST_JOBS))
    for book in books:
        log = load_log(session, book.id)
        gone = shared_id(target, book.id)
        if book.id == own or all(one.id != gone for one in log):
            continue
        now = Standing(book, log)
        try:
            undoing(gone, log, now.kind)
            undone = permit(Undone(gone), now.state, now.kind, {})
        except SpindleError:
            continue
        append(session, book.id, [Event(shared_id(event.id, book.id), now.version + 1, event.at, undone)])


def keep_fitted(session: Session, now: Standing, at: str) -> None:
    """Write what a job fitted, and the values of its fasteners, into its car's record, now that it is signed."""
    if not now.book.car_id:
        return
    log = load_log(session, now.book.car_id)
    record = Standing(BookRow(template=CAR.key, id=now.book.car_id, title="", car="", created_at=at), log)
    entries, joints = fitted_facts(now, record)
    acts: list[Act] = [Filled(tuple(entries), f"{now.book.title}, fitted", "part")] if entries else []
    _to_record(session, now.book.car_id, [*acts, *(Drawn(joint) for joint in joints)], at)


def fitted_facts(now: Standing, record: Standing) -> tuple[list[Entered], list[Joint]]:
    """What a job fitted, as entries of the car's record, and the fasteners whose values the record does not know."""
    pairs = [(f"{axle}.{new}", f"{axle}.{own}") for axle in AXLES for new, own in NOW_ON_THE_CAR.items()]
    pairs += [(f"{wheel}.{new}", f"{wheel}.{own}") for wheel in WHEELS for new, own in AT_A_WHEEL.items()]
    entries = [
        replace(taken.act, key=own)
        for new, own in pairs
        if (taken := now.state.entries.get(new)) and own in record.sheet.fields
    ]
    entries = [entry for entry in entries if not _same(entry, record.state)]
    joints = [joint for joint in now.state.joints.values() if any(bolt.spec for bolt in joint.bolts)]
    return entries, [joint for joint in joints if record.state.joints.get(joint.key) != joint]


def _same(entry: Entered, state: JobState) -> bool:
    taken = state.entries.get(entry.key)
    return taken is not None and (taken.act.typed, taken.act.choice) == (entry.typed, entry.choice)


def _to_record(session: Session, car_id: str, acts: Sequence[Act], at: str, of: str = "") -> bool:
    """Add lines to the car's record; what it does not take, or knows already, is left out."""
    log = load_log(session, car_id)
    record = Standing(BookRow(template=CAR.key, id=car_id, title="", car="", created_at=at), log)
    fresh = list(_accepted(acts, record, at, of))
    append(session, car_id, fresh)
    return bool(fresh)


def _accepted(acts: Sequence[Act], now: Standing, at: str, of: str = "") -> Iterator[Event]:
    """Lines that a book takes; known by the line ``of`` another book, where one act is carried over from it."""
    for act in acts:
        if isinstance(act, Entered) and _same(act, now.state):
            continue
        try:
            accepted = permit(act, now.state, now.kind, {})
        except SpindleError:
            continue
        event = Event(shared_id(of, now.book.id) if of else str(uuid4()), now.version + 1, at, accepted)
        now = now.then(event)
        yield event


def _to_open_jobs(session: Session, car_id: str, act: Entered, event: Event, except_for: str) -> None:
    for job in jobs_of(session, car_id, MOST_JOBS):
        if job.id == except_for:
            continue
        now = Standing(job, load_log(session, job.id))
        taken = now.state.entries.get(act.key)
        own = taken is not None and taken.source != FROM_RECORD
        if now.state.signature or own or act.key not in now.sheet.fields or _same(act, now.state):
            continue
        append(session, job.id, list(_accepted([Filled((act,), FROM_RECORD)], now, event.at, event.id)))
