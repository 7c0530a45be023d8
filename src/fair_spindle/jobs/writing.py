"""Write one line in a job's log: once, in order, by the rules, never over somebody else's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from fair_spindle.core.errors import Conflict, NotAllowed
from fair_spindle.core.floor.corners import corners_of, plans_of, windows_of
from fair_spindle.core.floor.findings import look
from fair_spindle.core.floor.log import (
    Act,
    Entered,
    Event,
    Moved,
    Reopened,
    Signed,
    Specified,
    Stepped,
    Tightened,
    Undone,
)
from fair_spindle.core.floor.plain import act_of
from fair_spindle.core.floor.replay import undoing
from fair_spindle.core.floor.rules import permit
from fair_spindle.core.floor.state import JobState, derive
from fair_spindle.core.planning.front_strut import TEMPLATES
from fair_spindle.core.planning.template import JobTemplate
from fair_spindle.formats.job_file import digest
from fair_spindle.jobs.book import now_utc
from fair_spindle.jobs.models import EventCreate, JobView, UnderstoodView
from fair_spindle.jobs.saying import say_act, say_entry
from fair_spindle.jobs.views import show_job, stand
from fair_spindle.records.database import Database
from fair_spindle.records.jobs import append, load_job, load_log


def write_event(database: Database, job_id: str, wanted: EventCreate) -> JobView:
    """Add a line to a job's log and show the job as it then stands.

    The same id again changes nothing.  Where the same thing was changed after ``seen``,
    Conflict carries both versions.
    """
    act = act_of(wanted.act.model_dump())
    with database.writing() as session:
        row, log = load_job(session, job_id), load_log(session, job_id)
        session.expunge(row)
        written = next((event for event in log if event.id == wanted.id), None)
        if written:
            if written.act.kind != act.kind:
                raise Conflict("Another entry has this id already.", field="id")
            return show_job(stand(row, log))
        template = TEMPLATES[row.template]
        _not_over_another(act, wanted.seen, log, template)
        event = Event(wanted.id, len(log) + 1, now_utc(), accept(act, derive(log, template), log, template))
        append(session, job_id, [event])
    return show_job(stand(row, [*log, event]))


def accept(act: Act, state: JobState, log: Sequence[Event], template: JobTemplate) -> Act:
    """Hold an act against the rules; the act as it is to be written, with its evidence or seal."""
    if isinstance(act, Undone):
        undoing(act.event, log, template)
    windows = windows_of(plans_of(corners_of(state))) if isinstance(act, Tightened) else {}
    act = permit(act, state, template, windows)
    return _sealed(act, state, log, template) if isinstance(act, Signed) else act


def understand(act: Act) -> UnderstoodView:
    """Say how a field would be taken, without writing it."""
    if not isinstance(act, Entered):
        raise NotAllowed("Only a filled-in field can be understood ahead.")
    return UnderstoodView(understood=say_entry(act))


def _sealed(act: Signed, state: JobState, log: Sequence[Event], template: JobTemplate) -> Signed:
    corners = corners_of(state)
    findings = look(state, corners, plans_of(corners), template)
    blocking = [finding.message for finding in findings if finding.severity == "blocks"]
    if blocking:
        raise NotAllowed(f"Not to be signed yet. {blocking[0]}", items=blocking)
    listed = tuple(finding.message for finding in findings if finding.severity in ("open", "question"))
    return replace(act, listed=listed, digest=digest(log))


def _not_over_another(act: Act, seen: int, log: Sequence[Event], template: JobTemplate) -> None:
    mine = _subjects(act, log)
    for event in reversed(log):
        if event.seq <= seen:
            return
        if mine & _subjects(event.act, log):
            theirs, yours = say_act(event.act, template), say_act(act, template)
            raise Conflict(
                f"Somebody else changed this at {event.at[11:16]} UTC. Theirs: {theirs}. Yours: {yours}. "
                "Look at theirs, then enter yours again if it still holds.",
                theirs=theirs,
                yours=yours,
            )


def _subjects(act: Act, log: Sequence[Event]) -> frozenset[str]:
    """What an act changes in such a way that a second change would hide the first."""
    match act:
        case Entered():
            return frozenset({f"field {act.key}"})
        case Specified():
            return frozenset({f"spec {act.group}"})
        case Stepped():
            return frozenset({f"step {act.step}"})
        case Tightened():
            return frozenset(f"place {place}" for place in act.places)
        case Moved():
            return frozenset({"position"})
        case Signed() | Reopened():
            return frozenset({"signature"})
        case Undone():
            target = next((event for event in log if event.id == act.event), None)
            return _subjects(target.act, log) if target else frozenset()
    return frozenset()
