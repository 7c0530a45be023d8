"""What is true now, derived from the log by folding its events in order."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import singledispatch

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.joblog.bolt_needs import waits_for_load
from fair_spindle.core.joblog.bolt_state import BoltState, after_work, bolt_key
from fair_spindle.core.joblog.kinds import CAR, JobTemplate
from fair_spindle.core.joblog.listed_places import with_row, without_row
from fair_spindle.core.joblog.log import (
    Act,
    Attached,
    Cleared,
    Counted,
    Drawn,
    Entered,
    Erased,
    Event,
    Filled,
    HeightRead,
    Listed,
    Moved,
    Noted,
    Planned,
    Reopened,
    Settled,
    Signed,
    Stepped,
    Stopped,
    Struck,
    TakenOff,
    Turned,
    Undone,
    Worked,
)
from fair_spindle.core.joblog.old_acts import OLD, as_today
from fair_spindle.core.joblog.plan_now import moved_steps, reopened, short_goals, template_now
from fair_spindle.core.joblog.state import JobState, Override, Taken

# What is kept when it is read anew: a rod turned between two readings of its toe shows what a turn does.
READ_ANEW = ".check_toe"


def effective(events: Iterable[Event]) -> list[Event]:
    """Events that still count: neither undone nor themselves an undoing.

    Undoing an undoing brings the first event back; the latest word counts.
    """
    log = list(events)
    gone: set[str] = set()
    for event in reversed(log):
        if isinstance(event.act, Undone) and event.id not in gone:
            gone.add(event.act.event)
    return [event for event in log if event.id not in gone and not isinstance(event.act, Undone)]


def derive(events: Iterable[Event], template: JobTemplate) -> JobState:
    """Fold a log into what is true now.

    A signature stands until the record is reopened; any move voids loaded heights and the settling.

    Raises NotFound: The log names a step or place the job does not have.
    """
    log = list(events)
    state = opening(template)
    for event in effective(log):
        state = advance(state, event, template)
    return replace(state, overrides=_overrides(log, state, template))


def opening(template: JobTemplate) -> JobState:
    """What is true before the first line of a log."""
    state = JobState()
    for act in template.opening:
        state = _apply(act, state, Event("", 0, "", act), template)
    return state


def derive_on(before: JobState, log: Sequence[Event], template: JobTemplate) -> JobState:
    """What is true after the last line of a log, from what was true before it.

    An undoing is derived from the beginning.

    Raises NotFound: The line names a step or group the job does not have.
    """
    if isinstance(log[-1].act, Undone):
        return derive(log, template)
    state, act = advance(before, log[-1], template), log[-1].act
    if isinstance(act, Worked):
        more = _overrides(log[-1:], state, template)
        return replace(state, overrides=(*state.overrides, *more)) if more else state
    return replace(state, overrides=_overrides(log, state, template)) if isinstance(act, Drawn | OLD) else state


def advance(state: JobState, event: Event, template: JobTemplate) -> JobState:
    """Take one more event into account.

    Overrides are collected by :func:`derive`, since undoing does not remove them.

    Raises NotFound: It names a step or place the job does not have.
    """
    for act in as_today(event.act, state, template):
        state = _apply(act, state, event, template)
    return state


def _overrides(log: Iterable[Event], state: JobState, template: JobTemplate) -> tuple[Override, ...]:
    """Overrides by their places in words; they stay, also when undone."""
    found = []
    for event in log:
        for act in as_today(event.act, state, template):
            if isinstance(act, Worked) and act.override:
                label = state.joints[act.joint].label if act.joint in state.joints else act.joint
                found.append(Override(tuple(f"{label}, place {n}" for n in act.places), act.override, event.at))
    return tuple(found)


@singledispatch
def _apply(act: Act, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return state


@_apply.register
def _(act: Entered, state: JobState, event: Event, template: JobTemplate) -> JobState:
    taken = Taken(event, act, state.position, state.settled)
    if act.key.endswith(READ_ANEW) and act.key in state.entries:
        earlier = (*state.replaced.get(act.key, ()), state.entries[act.key])
        state = replace(state, replaced={**state.replaced, act.key: earlier})
    return replace(state, entries={**state.entries, act.key: taken})


@_apply.register
def _(act: Cleared, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, entries={key: taken for key, taken in state.entries.items() if key != act.key})


@_apply.register
def _(act: Filled, state: JobState, event: Event, template: JobTemplate) -> JobState:
    if act.purpose == "before":
        return replace(state, before={entry.key: entry for entry in act.entries}, before_from=act.source)
    taken = {entry.key: Taken(event, entry, state.position, state.settled, act.source) for entry in act.entries}
    return replace(state, entries={**state.entries, **taken})


@_apply.register
def _(act: Settled, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, settled=True, settled_at=event.seq)


@_apply.register
def _(act: Attached, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, attached=(*state.attached, (event, act)))


@_apply.register
def _(act: Listed, state: JobState, event: Event, template: JobTemplate) -> JobState:
    for row in act.fasteners if template.key == CAR.key else ():
        state = with_row(state, row)
    return state


@_apply.register
def _(act: Struck, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return without_row(state, act.key)


@_apply.register
def _(act: Moved, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(
        state,
        steps={**state.steps, **{key: (event, Stepped(key)) for key in moved_steps(act, state)}},
        position=act.to,
        corner=act.corner,
        carried_axle=act.axle,
        settled=False,
        loaded_heights={},
        moved_at=event.seq,
    )


@_apply.register
def _(act: Planned, state: JobState, event: Event, template: JobTemplate) -> JobState:
    before = {joint.key: joint for joint in state.plan.joints} if state.plan else {}
    touched = {key.rpartition(":")[0] for key in state.bolts}
    kept = {key: joint for key, joint in state.joints.items() if key in touched or before.get(key) != joint}
    drawn = {joint.key: joint for joint in act.joints}
    return replace(state, plan=act, joints={**drawn, **kept})


@_apply.register
def _(act: Stopped, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, stopped=(event, act))


@_apply.register
def _(act: Stepped, state: JobState, event: Event, template: JobTemplate) -> JobState:
    template = template_now(state, template)
    step = template.step(act.step)
    if act.outcome == "reopened":
        gone = reopened(state, template, [act.step])
        return replace(state, steps={key: step for key, step in state.steps.items() if key not in gone})
    steps = {**state.steps, act.step: (event, act)}
    if act.outcome != "done":
        return replace(state, steps=steps)
    opened = {
        key: BoltState("loose", seq=event.seq)
        for joint in step.frees_joints
        if joint in state.joints
        for bolt in state.joints[joint].bolts
        if (key := bolt_key(joint, bolt.number)) not in state.bolts
    }
    now = replace(state, steps=steps, bolts={**state.bolts, **opened})
    return replace(now, settled=True, settled_at=event.seq) if step.asks == "settle" else now


@_apply.register
def _(act: Noted, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, notes=(*state.notes, (event, act)))


@_apply.register
def _(act: TakenOff, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, taken_off=(*state.taken_off, (event, act, state.position)))


@_apply.register
def _(act: Counted, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, counts=(*state.counts, (event.seq, act)))


@_apply.register
def _(act: Turned, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, turned=(*state.turned, (event.seq, act)))


@_apply.register
def _(act: HeightRead, state: JobState, event: Event, template: JobTemplate) -> JobState:
    height = read_number(act.height.text, "length", act.height.unit, "height").value
    return replace(state, loaded_heights={**state.loaded_heights, f"{act.axle}.{act.side}": height})


@_apply.register
def _(act: Drawn, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, joints={**state.joints, act.joint.key: act.joint})


@_apply.register
def _(act: Erased, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, joints={key: joint for key, joint in state.joints.items() if key != act.joint})


@_apply.register
def _(act: Worked, state: JobState, event: Event, template: JobTemplate) -> JobState:
    reached = {}
    for number in act.places:
        key = bolt_key(act.joint, number)
        reached[key] = after_work(state.bolts.get(key, BoltState()), act, event, state.position)
    now = replace(state, bolts={**state.bolts, **reached})
    if act.to not in ("loose", "hand") or not now.plan:
        return now
    short = {
        step.key: {goal.to for goal in short_goals(step, now) if goal.joint == act.joint}
        for step in now.plan.steps
        if now.steps.get(step.key)
    }
    joint = now.joints.get(act.joint)
    if joint and waits_for_load(joint, now):
        gone = reopened(now, template_now(now, template), [key for key, goals in short.items() if goals])
    else:
        # A value put right loosens its place alone: what led to it stands as it was done.
        gone = frozenset(key for key, goals in short.items() if goals & {"torqued", "marked"})
    return replace(now, steps={key: step for key, step in now.steps.items() if key not in gone})


@_apply.register
def _(act: Signed, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, signature=(event, act))


@_apply.register
def _(act: Reopened, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, signature=None)
