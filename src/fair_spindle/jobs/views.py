"""From a job's log to what the interface shows."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.fields.field import MEASURING
from fair_spindle.core.joblog.kinds import KEPT, JobTemplate
from fair_spindle.core.joblog.log import Stepped, Undone
from fair_spindle.core.joblog.plan_now import reopened
from fair_spindle.core.joblog.reducer import effective
from fair_spindle.core.joblog.required_fields import missing_fields
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.step_blockers import step_hindrance
from fair_spindle.core.joblog.waits import Wait, binding_waits, held_by, waits_of
from fair_spindle.core.joblog.wording import position_words
from fair_spindle.core.joblog.wrong_parts import say_wrong_part
from fair_spindle.core.planning.cautions import CAUTIONS
from fair_spindle.core.planning.template import Reading, Step
from fair_spindle.core.predict.step_words import rests_on_own_reads, say_flats, say_step
from fair_spindle.core.turns.threads import FLAT, tally
from fair_spindle.formats.job_file import digest
from fair_spindle.jobs import models as m
from fair_spindle.jobs.book_models import LogLineView
from fair_spindle.jobs.book_views import show_book, show_loads, show_wheels, shown_once
from fair_spindle.jobs.snapshot import Standing, head_of
from fair_spindle.jobs.wording import say_act, say_entry

# Views of notes that are kept: the next one shows them all again.
MOST_NOTES = 30_000


def show_job(now: Standing, walks: Mapping[str, list[str]] | None = None) -> m.JobView:
    """Everything about a job, for the interface, with the order in which one walks round the car."""
    state, template = now.state, now.template
    return m.JobView.of(
        state,
        **show_book(now),
        kind=template.key,
        practice=bool(now.book.practice),
        pages=list(template.pages),
        car_id=now.book.car_id,
        walks=dict(walks or {}),
        missing=shown_once(now, "missing", _missing),
        wheels=show_wheels(now),
        loads=show_loads(now),
        pictures=[
            m.PictureView(subject=act.subject, sha256=act.sha256, name=act.name, at=event.at)
            for event, act in state.attached
        ],
        position_said=position_words(state.position, state.corner, state.carried_axle),
        steps=shown_once(now, "steps", _steps, "state_views"),
        notes=shown_once(now, "notes", _notes, "note_views"),
        overrides=[m.OverrideView(places=list(o.places), reason=o.reason, at=o.at) for o in state.overrides],
        signature=_signature(now),
    )


def _notes(now: Standing) -> list[m.NoteView]:
    return [_note(act.text, act.step, event.at) for event, act in now.state.notes]


@lru_cache(maxsize=MOST_NOTES)
def _note(text: str, step: str, at: str) -> m.NoteView:
    return m.NoteView(text=text, step=step, at=at)


def _steps(now: Standing) -> list[m.StepView]:
    waits = {wait.step.key: wait for wait in waits_of(now.state, now.template)}
    binding = binding_waits(now.state, now.template) if waits else ()
    steps, (own, others) = now.template.steps, _own_reads(now.template)
    read = {place: tuple(map(now.state.entries.get, keys)) for place, keys in own.items()}
    # A copy: who shows another line of the same log at the same time looks at the same list.
    shown = list(now.work_views)
    changed = [*others, *(place for place in read if shown[place][0] != read[place])] if shown else range(len(steps))
    shown = shown or [((), None)] * len(steps)
    for place in changed:
        shown[place] = (read.get(place, ()), _step(steps[place], now, waits, binding))
    now.work_views[:] = shown
    return [view for _, view in shown]


@by_identity(most=KEPT)
def _own_reads(template: JobTemplate) -> tuple[Mapping[int, tuple[str, ...]], Sequence[int]]:
    """By a step's place, keys of the numbers that alone decide about it; places of those others decide about, too.

    What reads nothing is in neither.
    """
    keys = {
        place: tuple(key for reading in step.reads for key in (reading.key, _beside(reading)) if key)
        for place, step in enumerate(template.steps)
    }
    others = [place for place, step in enumerate(template.steps) if not rests_on_own_reads(step)]
    return {place: own for place, own in keys.items() if own and place not in others}, others


def _beside(reading: Reading) -> str:
    """Key of the number that stands beside one; empty where none does."""
    return f"{reading.key.removesuffix(reading.name)}{reading.beside}" if reading.beside else ""


def show_findings(now: Standing) -> list[m.FindingView]:
    """What a look at the job finds; the page of its record alone asks for it."""
    return [m.FindingView(**vars(finding)) for finding in now.findings]


def _missing(now: Standing) -> dict[str, list[str]]:
    return {phase: list(missing_fields(now.state, now.template, phase)) for phase in MEASURING}


def show_log(now: Standing) -> list[LogLineView]:
    """The log in words, oldest first."""
    counting = {event.id for event in effective(now.log)}
    words = {event.id: say_act(event.act, now.template, now.sheet, now.names) for event in now.log}
    return [
        LogLineView.of(
            event,
            kind=event.act.kind,
            said=f"Undone: {words[event.act.event]}" if isinstance(event.act, Undone) else words[event.id],
            undone=event.id not in counting and not isinstance(event.act, Undone),
        )
        for event in now.log
    ]


def _turns(flats: int) -> m.TurnsView:
    count = tally(flats * FLAT)
    return m.TurnsView.of(count, total_flats=flats, said=say_flats(flats))


def show_works(wait: Wait | None) -> m.WorksView | None:
    """What works by itself, for whoever waits for it."""
    return m.WorksView(title=wait.step.title, ready=wait.ready, over=wait.over) if wait else None


def _step(step: Step, now: Standing, waits: Mapping[str, Wait], binding: Sequence[Wait]) -> m.StepView:
    """A step as it stands; one that nothing changed about is the same view as before."""
    state, template = now.state, now.template
    event, act = state.steps.get(step.key, (None, None))
    decided = (
        [_said_at(reading, now) for reading in step.reads],
        tuple(say_step(step, now.readings)),
        "" if act else now.finished_together[step.key],
        waits.get(step.key),
        None if act else held_by(step, binding),
        "" if act else say_wrong_part(step, state),
        _reopens(step, state, template) if act else [],
        event.at if event else "",
        act,
        step_hindrance(step, state, template),
    )
    kept = now.step_views.get(step.key)
    if kept is None or kept[0] != decided:
        kept = now.step_views[step.key] = (decided, _show_step(step, now, *decided))
    view: m.StepView = kept[1]
    return view


def _show_step(
    step: Step,
    now: Standing,
    read: Sequence[tuple[str, str, int | None]],
    told: Sequence[str],
    together_: str,
    works: Wait | None,
    held: Wait | None,
    wrong_part: str,
    reopens: list[str],
    at: str,
    act: Stepped | None,
    why_not: str,
) -> m.StepView:
    joints = now.state.joints
    return m.StepView.of(
        step,
        where_said=position_words(step.where, step.corner, step.carried_axle),
        tools=list(step.tools),
        cautions=[CAUTIONS[key] for key in step.cautions],
        reads=[_show_read(reading, *one) for reading, one in zip(step.reads, read, strict=True)],
        told=list(told),
        together=together_,
        sides=list(step.sides),
        joints=[goal.joint for goal in step.brings_joints if goal.joint in joints],
        goals={goal.joint: goal.to for goal in step.brings_joints},
        why=list(step.why),
        works=show_works(works),
        held=show_works(held),
        wrong_part=wrong_part,
        reopens=reopens,
        state="skipped" if act and act.outcome == "skipped" else "done" if act else "open",
        reason=act.reason if act else "",
        at=at,
        why_not=why_not,
    )


def _said_at(reading: Reading, now: Standing) -> tuple[str, str, int | None]:
    """What was read, what stands beside it, and the flats that were counted where it is counted turn by turn."""
    entries, (end, _, direction) = now.state.entries, reading.key.partition(".turns_")
    beside = _beside(reading)
    return (
        say_entry(entries[reading.key].act, now.sheet) if reading.key in entries else "",
        say_entry(entries[beside].act, now.sheet) if beside in entries else "",
        now.state.flats(end, direction) if direction else None,
    )


def _show_read(reading: Reading, said: str, beside: str, counted: int | None) -> m.StepReadView:
    return m.StepReadView.of(reading, said=said, beside=beside, counted=None if counted is None else _turns(counted))


def _reopens(step: Step, state: JobState, template: JobTemplate) -> list[str]:
    """Titles of the steps that are open again with it."""
    gone = reopened(state, template, [step.key]) - {step.key}
    return [one.title for one in template.steps if one.key in gone]


def _signature(now: Standing) -> m.SignatureView | None:
    if now.state.signature is None:
        return None
    event, act = now.state.signature
    before = [line for line in now.log if line.seq < event.seq]
    return m.SignatureView(
        name=act.name,
        at=event.at,
        digest=act.digest,
        intact=digest(head_of(now.book), before, act.over) == act.digest,
        whole=act.over == "job",
        listed=list(act.listed),
    )
