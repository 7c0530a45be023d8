"""What is loose or off right now, for whoever finds the car in the morning: it must not be driven."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.stages import STAGES
from fair_spindle.core.joblog.bolt_needs import is_final, state_of
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.wording import position_words

MOST_BEGUN = 8


@value_object
class Loose:
    """One thing that is not as it has to be on the road: what, and how it stands."""

    what: str
    how: str


@value_object
class StandsNow:
    """How the car was left: where, what is loose, what is begun and not closed, and what comes next."""

    position: str
    loose: tuple[Loose, ...]
    begun: tuple[str, ...]
    next_step: str
    may_be_driven: bool


def stands_now(state: JobState, template: JobTemplate) -> StandsNow:
    """Say how the car stands for the night.

    A fastener that was touched and is not final counts as loose; one never touched is as found. What a done step
    opened and the plan closes later counts as begun.

    Common practice, no published source.
    """
    template = template_now(state, template)
    loose = tuple(_joints(state))
    begun = tuple(_begun(state, template))
    after = next((step.title for step in template.steps if step.key not in state.steps), "")
    wheels = state.position == "on_wheels"
    return StandsNow(
        position_words(state.position, state.corner, state.carried_axle),
        loose,
        begun,
        after,
        wheels and not loose and not begun,
    )


def _joints(state: JobState) -> Iterator[Loose]:
    for joint in state.joints.values():
        found: dict[str, list[str]] = {}
        for bolt in joint.bolts:
            now = state_of(state, joint, bolt.number)
            if now.stage is not None and not is_final(bolt, now):
                found.setdefault(STAGES[now.stage].said, []).append(str(bolt.number))
        for how, places in found.items():
            where = f", place {', '.join(places)}" if len(joint.bolts) > 1 else ""
            yield Loose(f"{joint.label}{where}", how)


def _begun(state: JobState, template: JobTemplate) -> Iterator[str]:
    """The next steps still open that rest on what was done already."""
    count = 0
    for step in template.steps:
        if count == MOST_BEGUN:
            return
        if step.key not in state.steps and 4 <= step.phase <= 12:
            done = [key for key in step.rests_on if key in state.steps and state.steps[key][1].outcome == "done"]
            if done:
                count += 1
                yield step.title
