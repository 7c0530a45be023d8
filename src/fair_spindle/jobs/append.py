"""Write one line in a log: once, in order, by the rules, never over somebody else's."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Sequence
from dataclasses import replace

from sqlmodel import Session

from fair_spindle.core.basics.errors import Conflict, NotAllowed, SpindleError
from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.joblog.bolt_rules import doubt_reading
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.loading import Windows
from fair_spindle.core.joblog.log import (
    Act,
    Cleared,
    Drawn,
    Entered,
    Erased,
    Event,
    Filled,
    HeightRead,
    Listed,
    Moved,
    Planned,
    Reopened,
    Settled,
    Signed,
    Stepped,
    Struck,
    Tightened,
    Undone,
    Worked,
)
from fair_spindle.core.joblog.plain import plain
from fair_spindle.core.joblog.replay import undoing
from fair_spindle.core.joblog.required_fields import shape_now
from fair_spindle.core.joblog.rules import (
    permit,
)
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.waits import say_too_soon
from fair_spindle.core.predict.known_adjusters import hold_turns
from fair_spindle.formats.job_file import digest
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.book_models import UnderstoodView
from fair_spindle.jobs.car_facts import concerns_car, keep_fitted, share_fact
from fair_spindle.jobs.people import name_of
from fair_spindle.jobs.snapshot import Standing, head_of
from fair_spindle.jobs.snapshot_cache import keep_after
from fair_spindle.jobs.wording import say_act, say_entry
from fair_spindle.records.books import add_line, append, line_of, load_book, log_length, said_before, written
from fair_spindle.records.database import Database
from fair_spindle.records.tables import BookRow

MOST_TRIES = 40
# Letters that a line of several, made by one entry, has after the entry's id.
PART, LONGEST = len("-000"), 60


def made_by(database: Database, person_id: str) -> Database:
    """The database for entries of the person that was picked; of nobody where none was."""
    return database.used_by(name_of(database, person_id)) if person_id else database


def write_act(
    database: Database,
    book_id: str,
    key: str,
    seen: int,
    act: Act,
    *,
    car: bool = False,
    mine: frozenset[str] = frozenset(),
    asked: object = None,
) -> Standing:
    """Add an act to a log.

    The same key again changes nothing where the same was ``asked``: the act, unless told otherwise.  Where the same
    thing was changed after line ``seen`` by a line that is not ``mine``, Conflict carries both versions.  What
    follows from the log is worked out before the file's write lock is taken, and worked out again where another
    device came between.
    """
    said = fingerprint(plain(act) if asked is None else asked)
    for _ in range(MOST_TRIES):
        written_before = said_before(database, book_id, key)
        # Mostly the page that writes has just been shown: what was worked out for it is not worked out again.
        before = standing(database, book_id, car=car)
        if written_before is not None:
            if written_before not in (said, ""):
                raise Conflict("Another entry has this id already.", field="id")
            return before
        _not_beyond(seen, before)
        _not_over_another(act, seen, before, mine)
        at = now_utc()
        if not is_bare(before.book):
            not_too_soon(act, before, at)
        event = written(Event(key, before.version + 1, at, accept(act, before), by=database.made_by))
        after = _write(database, event, before.then(event), said)
        if after is not None:
            keep_after(before, after, line_of(event))
            return after
    raise Conflict("Many devices write in this at once. Look at it again, then enter yours once more.")


def _write(database: Database, event: Event, after: Standing, said: str) -> Standing | None:
    """Write a line, and what it takes with it; None where another came between."""
    book = after.book
    if book.template != CAR.key and not concerns_car(book, event.act, after.sheet):
        return after if add_line(database, book.id, event, said) else None
    with database.writing() as session:
        if log_length(session, book.id) != event.seq - 1:
            return None
        return _with_its_car(session, event, after, said)


def _with_its_car(session: Session, event: Event, after: Standing, said: str) -> Standing:
    """Write a line and what it takes with it: shared facts, what a signed job fitted, a car's title."""
    append(session, after.book.id, [event], said)
    share_fact(session, after.book, event, after.sheet)
    if isinstance(event.act, Signed):
        keep_fitted(session, after, event.at)
    if after.book.template == CAR.key:
        row = load_book(session, after.book.id, car=True)
        row.title = describe_axles(after.state)
        session.add(row)
        after = after.titled(row.title)
    return after


def fingerprint(asked: object) -> str:
    """What a request is known by when it comes again."""
    return hashlib.blake2b(json.dumps(asked, sort_keys=True).encode(), digest_size=8).hexdigest()


def write_acts(
    database: Database,
    book_id: str,
    key: str,
    seen: int,
    acts: Iterable[Act],
    *,
    mine: frozenset[str] = frozenset(),
    asked: object,
) -> Standing:
    """Add the lines that one request makes, each under an id of its own; its own lines are no conflict to it."""
    now, own = standing(database, book_id), mine | {key, key[: LONGEST - PART]}
    for place, act in enumerate(acts):
        now = write_act(database, book_id, part_of(key, place), seen, act, mine=own, asked=asked)
    return now


def part_of(key: str, place: int) -> str:
    """The id of one line of several that one request makes."""
    return f"{key[: LONGEST - PART]}-{place:03}"


def not_too_soon(act: Act, now: Standing, at: str) -> None:
    """Refuse a step as done while what it relies on still works by itself, unless it says why."""
    if not isinstance(act, Stepped) or act.outcome != "done" or act.reason.strip():
        return
    if said := say_too_soon(now.template.step(act.step), now.state, now.template, at):
        raise NotAllowed(said, rule="still_working")


def _not_beyond(seen: int, before: Standing) -> None:
    if seen > before.version:
        raise Conflict(
            f"This page knows {seen} entries and the workshop has {before.version}: it was put back to an "
            "older state. Load the page again, look at what is there, then enter yours if it still holds.",
            field="seen",
        )


def describe_axles(car: JobState) -> str:
    """What axles a car has, in words."""
    shape = shape_now(car)
    layouts = ((axle, shape.layout(axle)) for axle in AXLES)
    return ", ".join(f"{layout.label.lower()} {axle}" for axle, layout in layouts if layout).capitalize()


def accept(act: Act, now: Standing) -> Act:
    """Hold an act against the rules; the act as it is to be written, with its evidence or seal.

    Where a practice job is bare the rules only watch: what they would refuse is written as it is.
    """
    try:
        return _accept(act, now)
    except NotAllowed:
        if is_bare(now.book) and not isinstance(act, Undone | Signed):
            return act
        raise


def is_bare(book: BookRow) -> bool:
    """Whether a practice job lets its rules only watch."""
    return bool(book.practice) and json.loads(book.practice)["bare"] is True


def _accept(act: Act, now: Standing) -> Act:
    if isinstance(act, Undone):
        if _cannot_stand(now) and act.event == now.log[-1].id:
            return act
        undoing(act.event, now.log, now.kind, hold_turns)
    torqued = isinstance(act, Worked | Tightened) and act.to in ("torqued", "angled")
    windows: Windows = now.windows if torqued else {}
    act = permit(act, now.state, now.kind, windows)
    hold_turns(act, now.state, now.kind)
    if isinstance(act, Worked) and not act.kept.strip() and (doubt := doubt_reading(act, now.state)):
        raise NotAllowed(f"{doubt} Read it again, or keep it with the reason.", rule="reading_off")
    return _sealed(act, now) if isinstance(act, Signed) else act


def _cannot_stand(now: Standing) -> bool:
    """Whether a log leads nowhere with its last line in it; that line may always be undone."""
    try:
        return now.state is None
    except SpindleError:
        return True


def understand(now: Standing, act: Act) -> UnderstoodView:
    """Say how a field would be taken, without writing it."""
    if not isinstance(act, Entered):
        raise NotAllowed("Only a filled-in field can be understood ahead.")
    now.sheet.find(act.key)
    return UnderstoodView(understood=say_entry(act, now.sheet))


def _sealed(act: Signed, now: Standing) -> Signed:
    if blocking := now.blocking:
        raise NotAllowed(f"Not to be signed yet. {blocking[0]}", items=blocking)
    listed = tuple(finding.message for finding in now.findings if finding.severity in ("open", "question"))
    return replace(act, listed=listed, digest=digest(head_of(now.book), now.log), over="job")


def _not_over_another(act: Act, seen: int, before: Standing, mine: frozenset[str]) -> None:
    log = before.log
    since = [event for event in log[seen:] if event.id not in mine and event.id[:-PART] not in mine]
    if isinstance(act, HeightRead | Settled) and any(isinstance(event.act, Moved) for event in since):
        raise Conflict(
            "The car was moved after this was read: it belongs to where the car stood then. Read it again as it "
            "stands now.",
            theirs=before.template.title,
            yours=say_act(act, before.template, before.sheet),
        )
    subjects = _subjects(act, log)
    for event in reversed(since):
        if subjects & _subjects(event.act, log):
            theirs, yours = (say_act(one, before.template, before.sheet, before.names) for one in (event.act, act))
            raise Conflict(
                f"Somebody else changed this at {event.at[11:16]} UTC. Theirs: {theirs}. Yours: {yours}. "
                "Look at theirs, then enter yours again if it still holds.",
                theirs=theirs,
                yours=yours,
            )


def _subjects(act: Act, log: Sequence[Event]) -> frozenset[str]:  # noqa: C901  one case per kind of act
    """What an act changes in such a way that a second change would hide the first."""
    match act:
        case Entered() | Cleared():
            return frozenset({f"field {act.key}"})
        case Filled():
            return frozenset(f"field {entry.key}" for entry in act.entries)
        case Listed():
            return frozenset(f"fastener {fastener.key}" for fastener in act.fasteners)
        case Struck():
            return frozenset({f"fastener {act.key}"})
        case Stepped():
            return frozenset({f"step {act.step}"})
        case Drawn():
            return frozenset({f"joint {act.joint.key}"})
        case Erased():
            return frozenset({f"joint {act.joint}"})
        case Worked():
            return frozenset(f"bolt {act.joint}:{number}" for number in act.places)
        case Moved():
            return frozenset({"position"})
        case Planned():
            return frozenset({"plan"})
        case Signed() | Reopened():
            return frozenset({"signature"})
        case Undone():
            target = next((event for event in log if event.id == act.event), None)
            return _subjects(target.act, log) if target else frozenset()
    return frozenset()
