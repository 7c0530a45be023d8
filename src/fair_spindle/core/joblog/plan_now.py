"""The plan as it stands: its steps, what each still lacks, and what is open again when one is opened."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.bolts.stages import has_reached
from fair_spindle.core.fields.field import MEASURING
from fair_spindle.core.joblog.bolt_needs import is_final, state_of
from fair_spindle.core.joblog.kinds import KEPT, JobTemplate
from fair_spindle.core.joblog.log import Event, Moved, Planned, TakenOff
from fair_spindle.core.joblog.single_use import with_new_asked
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import DRIVING, JointGoal, Position, Reading, Step

# The phase of the work in which the car is closed up.
CLOSING = 11
ThingsOff = tuple[tuple[Event, TakenOff, Position], ...]
MOVES = ("raise.", "hang.", "carry.", "lower.")


def template_now(state: JobState, template: JobTemplate) -> JobTemplate:
    """The kind of job with the steps that were planned.

    What the plan changes decides which pages it has; only axles it works on are measured. A plan taken before 0.2
    does not tell what is read: everything, as it was then.
    """
    return _template(template, state.plan, state.joints, state.taken_off)


@by_identity(most=KEPT)
def _template(
    template: JobTemplate, plan: Planned | None, joints: Mapping[str, Joint], taken_off: ThingsOff
) -> JobTemplate:
    planned = _as_planned(plan, template)
    steps = planned.steps
    if plan and plan.asks_new:
        steps = with_new_asked(steps, joints)
    if taken_off:
        steps = with_taken_off(steps, taken_off)
    return planned if steps is planned.steps else replace(planned, steps=steps)


def _as_planned(plan: Planned | None, template: JobTemplate) -> JobTemplate:
    if plan is None:
        return template
    also = [
        name for name, when in (("springs", {"height"}), ("turns", {"toe", "camber"})) if when & set(plan.changes)
    ]
    first = template.pages.index("floor") if "floor" in template.pages else len(template.pages)
    axles = tuple(dict.fromkeys(fitting.axle for fitting in plan.brief.fittings if fitting.axle)) or AXLES
    measures = tuple(sorted({step.asks for step in plan.steps} & set(MEASURING)))
    pages = (*template.pages[:first], *also, *template.pages[first:])
    before_0_2 = (f"{axle}.{name}" for axle in axles for name in ("height", "toe", "camber", "caster"))
    return replace(
        template,
        steps=plan.steps,
        pages=tuple(page for page in pages if page != "check" or "check" in measures),
        axles=axles,
        measures=measures,
        measured=frozenset(plan.measured if plan.asks_new or plan.measured else before_0_2),
    )


def with_taken_off(steps: Sequence[Step], taken_off: ThingsOff) -> tuple[Step, ...]:
    """The steps, and those that put back what came off beside them, last off first.

    What came off while a corner was carried goes back while the car hangs.

    Common practice, no published source.
    """
    back = [_back_on(event, act, position) for event, act, position in reversed(taken_off)]
    keys = tuple(one.key for one in back)
    worked = [step for step in steps if step.phase < DRIVING]
    found: list[Step] = []
    for place, step in enumerate(worked):
        found.append(step)
        later = {other.where for other in worked[place + 1 :]}
        if step.where not in later:
            found += [one for one in back if one.where == step.where]
    found += [one for one in back if one not in found]
    driven = (step for step in steps if step.phase >= DRIVING)
    return (*found, *(replace(step, rests_on=(*step.rests_on, *keys)) for step in driven))


def _back_on(event: Event, act: TakenOff, position: Position) -> Step:
    counted = f"{act.fasteners} small fasteners go back in, as many as came out." if act.fasteners else ""
    small = Reading(
        f"off_{event.seq}",
        "Small fasteners back in",
        "pieces",
        "piece",
        high=1000,
        required=True,
        expected=act.fasteners,
        per="car",
    )
    return Step(
        f"off.{event.seq}",
        f"Back on: {act.name}",
        "hanging" if position == "corner_carried" else position,
        " ".join(filter(None, (act.place and f"{act.place}.", counted, "What is left over belongs somewhere."))),
        phase=CLOSING,
        why=("It came off for this job, and no plan names it.",),
        reads=(small,) if act.fasteners else (),
    )


def short_goals(step: Step, state: JobState) -> tuple[JointGoal, ...]:
    """Joints that have not reached the stage a step brings them to.

    Torqued means final: with its angle, its pin or its lock. A joint taken off the job lacks nothing.

    Common practice, no published source.
    """
    return tuple(goal for goal in step.brings_joints if goal.joint in state.joints and short_places(goal, state))


def short_places(goal: JointGoal, state: JobState) -> tuple[int, ...]:
    """Numbers of a joint's places that have not reached a stage.

    As :func:`short_goals`.

    Raises KeyError: The joint is not drawn.

    Examples
    --------
    >>> from fair_spindle.core.bolts.joint import Bolt, Joint
    >>> short_places(JointGoal("a", "hand"), JobState(joints={"a": Joint("a", "A", "clamp", (Bolt(1),))}))
    (1,)
    """
    joint = state.joints[goal.joint]
    found = []
    for bolt in joint.bolts:
        now = state_of(state, joint, bolt.number)
        reached = has_reached(now.stage, goal.to)
        if not (reached and (goal.to != "torqued" or is_final(bolt, now))):
            found.append(bolt.number)
    return tuple(found)


def moved_steps(act: Moved, state: JobState) -> tuple[str, ...]:
    """The step that a move of the car fulfils, where it is the next one.

    Moves are the plan's own steps; nobody has to say twice that the car was raised.
    """
    steps = state.plan.steps if state.plan else ()
    step = next((step for step in steps if step.key not in state.steps), None)
    if step is None or not step.key.startswith(MOVES):
        return ()
    corner = (step.corner, step.carried_axle) == (act.corner, act.axle)
    return (step.key,) if step.where == act.to and (corner or not step.corner) else ()


def reopened(state: JobState, template: JobTemplate, keys: Iterable[str]) -> frozenset[str]:
    """Steps that are open again when some are opened: those, and all that were done resting on them.

    Rests on the plan's own edges; moves of the car rest on nothing.
    """
    gone = set(keys)
    for step in template.steps:
        if gone & set(step.rests_on):
            gone.add(step.key)
    return frozenset(gone & set(state.steps))
