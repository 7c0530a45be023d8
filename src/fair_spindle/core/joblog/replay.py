"""A whole log held against the rules, and what may be undone in it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence

from fair_spindle.core.basics.errors import InputError, NotAllowed, NotFound
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.loading import Windows
from fair_spindle.core.joblog.log import Act, Event, Reopened, Signed, Undone, Worked
from fair_spindle.core.joblog.old_acts import as_today
from fair_spindle.core.joblog.reducer import advance, derive, effective, opening
from fair_spindle.core.joblog.rules import permit
from fair_spindle.core.joblog.state import JobState

Rule = Callable[[Act, JobState, JobTemplate], None]


def replay(events: Iterable[Event], template: JobTemplate, also: Rule | None = None) -> JobState:
    """Check a whole log by the same rules and give the state it leads to.

    Each bonded bolt is held against the window written into its own line.

    Raises NotAllowed, InputError, NotFound: As :func:`permit`, with ``details["event"]`` naming the line that does
    not hold.
    """
    log = list(events)
    _undoes_what_is_there(log)
    state = opening(template)
    for event in effective(log):
        _hold(event, state, template, also)
        state = advance(state, event, template)
    return derive(log, template)


def _undoes_what_is_there(log: Sequence[Event]) -> None:
    before: set[str] = set()
    for event in log:
        if isinstance(event.act, Undone) and event.act.event not in before:
            raise NotFound("It undoes an entry that does not stand before it.", event=event.seq)
        before.add(event.id)


def undoing(target: str, events: Iterable[Event], template: JobTemplate, also: Rule | None = None) -> None:
    """Check that an event may be undone: what came after must hold without it.

    Replays the log with the undoing added.

    Raises NotFound: No such event. Raises NotAllowed: It no longer counts, seals the record, or something later rests
    on it.
    """
    log = list(events)
    event = next((event for event in log if event.id == target), None)
    if event is None:
        raise NotFound("There is no such entry to undo.", field="event")
    if isinstance(event.act, Signed | Reopened):
        raise NotAllowed("Signing is not undone. Open the record again with a reason.")
    before = effective(log)
    if not isinstance(event.act, Undone) and all(one.id != target for one in before):
        raise NotAllowed("That entry is undone already.")
    after = effective([*log, Event("", len(log) + 1, "", Undone(target))])
    same = next(
        (n for n, pair in enumerate(zip(before, after, strict=False)) if pair[0].id != pair[1].id), len(after)
    )
    try:
        # What stands before the first line that changes held, and holds.
        state = opening(template)
        for one in after[:same]:
            state = advance(state, one, template)
        for one in after[same:]:
            _hold(one, state, template, also)
            state = advance(state, one, template)
    except (NotAllowed, NotFound) as error:
        raise NotAllowed(f"A later entry rests on this one: {error.message} Undo the later entry first.") from error


def _proved(act: Act, accepted: Act, state: JobState) -> None:
    """A bolt's evidence has to be what the log itself says: the height that was read where the car stood."""
    told, found = (getattr(one, "clamp", None) for one in (act, accepted))
    if told is None:
        return
    if found is None or abs(told.height_mm - found.height_mm) > 0.01:
        raise NotAllowed("The height it says the bolt was clamped at was not read where the car stood then.")


def _hold(event: Event, state: JobState, template: JobTemplate, also: Rule | None) -> None:
    act = event.act
    today = [one for one in as_today(act, state, template) if isinstance(one, Worked) and one.clamp]
    windows: Windows = {one.joint: (one.clamp.low_mm, one.clamp.high_mm) for one in today if one.clamp}
    try:
        accepted = permit(act, state, template, windows)
        _proved(act, accepted, state)
        if also:
            for one in as_today(act, state, template):
                also(one, state, template)
    except (NotAllowed, InputError, NotFound) as error:
        error.details["event"] = event.seq
        raise
