"""A fact of the car, entered anywhere, is the car's: its record knows it, and its open jobs; signed ones stay."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from uuid import uuid4

from sqlmodel import Session

from fair_spindle.core.basics.errors import SpindleError
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.fields.shape import CORNERS
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.log import Act, Drawn, Entered, Event, Filled
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


def share_fact(session: Session, row: BookRow, act: Act, at: str, sheet: Sheet) -> None:
    """Carry a field that was filled in on to the car's record and its other open jobs."""
    if not isinstance(act, Entered):
        return
    if row.template == CAR.key:
        _to_open_jobs(session, row.id, act, at, except_for="")
        return
    of_car = act.key in sheet.fields and sheet.fields[act.key].phase == "car"
    if row.car_id and of_car and _to_record(session, row.car_id, [act], at):
        _to_open_jobs(session, row.car_id, act, at, except_for=row.id)


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
    pairs = [(f"{axle}.{new}", f"{axle}.{own}") for axle in ("front", "rear") for new, own in NOW_ON_THE_CAR.items()]
    pairs += [(f"{wheel}.{new}", f"{wheel}.{own}") for wheel in CORNERS for new, own in AT_A_WHEEL.items()]
    entries = [
        replace(taken.act, key=own)
        for new, own in pairs
        if (taken := now.state.entries.get(new)) and own in record.sheet.fields
    ]
    entries = [one for one in entries if not _same(one, record.state)]
    joints = [joint for joint in now.state.joints.values() if any(bolt.spec for bolt in joint.bolts)]
    return entries, [joint for joint in joints if record.state.joints.get(joint.key) != joint]


def _same(entry: Entered, state: JobState) -> bool:
    taken = state.entries.get(entry.key)
    return taken is not None and (taken.act.typed, taken.act.choice) == (entry.typed, entry.choice)


def _to_record(session: Session, car_id: str, acts: Sequence[Act], at: str) -> bool:
    """Add lines to the car's record; what it does not take, or knows already, is left out."""
    log = load_log(session, car_id)
    record = Standing(BookRow(template=CAR.key, id=car_id, title="", car="", created_at=at), log)
    fresh = list(_accepted(acts, record, at))
    append(session, car_id, fresh)
    return bool(fresh)


def _accepted(acts: Sequence[Act], now: Standing, at: str) -> Iterator[Event]:
    for act in acts:
        if isinstance(act, Entered) and _same(act, now.state):
            continue
        try:
            accepted = permit(act, now.state, now.kind, {})
        except SpindleError:
            continue
        event = Event(str(uuid4()), now.version + 1, at, accepted)
        now = now.then(event)
        yield event


def _to_open_jobs(session: Session, car_id: str, act: Entered, at: str, except_for: str) -> None:
    for job in jobs_of(session, car_id, MOST_JOBS):
        if job.id == except_for:
            continue
        now = Standing(job, load_log(session, job.id))
        taken = now.state.entries.get(act.key)
        own = taken is not None and taken.source != FROM_RECORD
        if now.state.signature or own or act.key not in now.sheet.fields or _same(act, now.state):
            continue
        append(session, job.id, list(_accepted([Filled((act,), FROM_RECORD)], now, at)))
