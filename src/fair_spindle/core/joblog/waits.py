"""What works by itself, penetrant and threadlocker: from when to when, and what has to wait for it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime, timedelta

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.kinds import KEPT, JobTemplate
from fair_spindle.core.joblog.log import Event, Stepped
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.clock import relies_on
from fair_spindle.core.planning.template import Step


@value_object
class Wait:
    """A done step that goes on by itself: usable from ``ready``, finished at ``over``."""

    step: Step
    ready: datetime
    over: datetime


@value_object
class Waived:
    """A step that was done before what it relies on was ready, and why."""

    step: Step
    wait: Wait
    reason: str


def waits_of(state: JobState, template: JobTemplate) -> tuple[Wait, ...]:
    """What was started and works by itself, in the order of the plan; a step that was skipped starts nothing."""
    return _started(state.steps, template.steps)


@by_identity(most=KEPT)
def _started(taken: Mapping[str, tuple[Event, Stepped]], steps: Sequence[Step]) -> tuple[Wait, ...]:
    found = []
    for step in steps:
        event, act = taken.get(step.key, (None, None))
        if event and act and act.outcome == "done" and step.wait_h:
            begun = datetime.fromisoformat(event.at)
            low, high = (begun + timedelta(hours=hours) for hours in (step.wait_h[0], step.wait_h[-1]))
            found.append(Wait(step, low, high))
    return tuple(found)


def held_by(step: Step, waits: Iterable[Wait]) -> Wait | None:
    """The last to be ready of what a step relies on, whatever the hour; None where it relies on none of them."""
    relied = (wait for wait in waits if wait.step.key != step.key and relies_on(step, wait.step))
    return max(relied, key=lambda wait: wait.ready, default=None)


def binding_waits(state: JobState, template: JobTemplate) -> tuple[Wait, ...]:
    """Those that nobody has waived; one waiver in words is enough for all that relies on the same."""
    waived = {wait.wait.step.key for wait in waived_waits(state, template)}
    return tuple(wait for wait in waits_of(state, template) if wait.step.key not in waived)


def say_too_soon(step: Step, state: JobState, template: JobTemplate, at: str) -> str:
    """What still works by itself at an hour (ISO 8601) and is relied on; empty where nothing is."""
    wait = held_by(step, binding_waits(state, template))
    if wait is None or datetime.fromisoformat(at) >= wait.ready:
        return ""
    left = wait.ready - datetime.fromisoformat(at)
    hours, minutes = divmod(-(-int(left.total_seconds()) // 60), 60)
    said = f"{hours} h {minutes} min" if hours else f"{minutes} min"
    return f"“{wait.step.title}” still works: {said} to go. Wait for it, or say in words why not."


def waived_waits(state: JobState, template: JobTemplate) -> tuple[Waived, ...]:
    """Steps that were done too soon, each with its reason."""
    found = []
    for wait in waits_of(state, template):
        for step in template.steps:
            event, act = state.steps.get(step.key, (None, None))
            soon = event and act and act.outcome == "done" and act.reason and relies_on(step, wait.step)
            if soon and event and act and datetime.fromisoformat(event.at) < wait.ready:
                found.append(Waived(step, wait, act.reason))
    return tuple(found)
