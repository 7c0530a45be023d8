"""What is entered on a page: an act as it is, or a step finished in one go, by whoever was picked."""

from __future__ import annotations

from fair_spindle.core.basics.errors import Conflict, NotAllowed
from fair_spindle.core.joblog.log import Act, Stepped
from fair_spindle.core.joblog.plain import act_of
from fair_spindle.core.joblog.step_blockers import say_unread, step_hindrance
from fair_spindle.core.joblog.together import acts_together, together
from fair_spindle.core.joblog.wrong_parts import say_wrong_part
from fair_spindle.jobs.append import fingerprint, made_by, not_too_soon, part_of, write_act, write_acts
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.models import EventCreate, Finished
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import said_before
from fair_spindle.records.database import Database

NONE = frozenset[str]()


def write_entry(
    database: Database, book_id: str, wanted: EventCreate, *, car: bool = False, mine: frozenset[str] = NONE
) -> Standing:
    """Write what was entered; lines that are ``mine`` are no conflict."""
    theirs = made_by(database, wanted.by)
    if isinstance(wanted.act, Finished):
        return _finish(theirs, book_id, wanted, wanted.act, mine)
    act = act_of(wanted.act.model_dump())
    return write_act(theirs, book_id, wanted.id, wanted.seen, act, car=car, mine=mine)


def _finish(database: Database, job_id: str, wanted: EventCreate, act: Finished, mine: frozenset[str]) -> Standing:
    """Bring every fastener of a step to where it wants it, and say the step is done."""
    now, key = standing(database, job_id), act.step
    first = part_of(wanted.id, 0)
    if (written_before := said_before(database, job_id, first)) is not None:
        if written_before != fingerprint(key):
            raise Conflict("Another step was finished under this id already.", field="id")
        return now
    step = now.template.step(key)
    if not together(step, now.state):
        raise NotAllowed(step_hindrance(step, now.state, now.template) or "This step has nothing to bring together.")
    done = Stepped(step.key, reason=act.reason)
    not_too_soon(done, now, now_utc())
    if unread := say_unread(step, now.state, now.template):
        raise NotAllowed(unread, step=step.key)
    if not act.reason.strip() and (wrong := say_wrong_part(step, now.state)):
        raise NotAllowed(wrong, rule="wrong_part")
    acts: tuple[Act, ...] = (*acts_together(step, now.state), done)
    return write_acts(database, job_id, wanted.id, wanted.seen, acts, mine=mine, asked=key)
