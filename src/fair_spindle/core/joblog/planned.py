"""Whether a work order can be taken into a job."""

from __future__ import annotations

from fair_spindle.core.basics.errors import InputError, NotAllowed
from fair_spindle.core.joblog.joint_maps import permit_drawn
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.log import Drawn, Planned
from fair_spindle.core.joblog.plan_now import MOVES
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.cautions import CAUTIONS

MOST_STEPS = 400


def permit_planned(act: Planned, state: JobState, template: JobTemplate) -> Planned:
    """Accept a work order, or say what is wrong with it.

    Moves of the car may come and go with a new plan.

    Raises NotAllowed: A step that was done would vanish. Raises InputError, OutOfRange: Keys that stand twice, a
    caution or joint that does not exist, a map that cannot be.

    Common practice, no published source.
    """
    keys = [step.key for step in act.steps]
    if len(keys) > MOST_STEPS:
        raise InputError(f"A work order has at most {MOST_STEPS} steps; got {len(keys)}.", field="steps")
    if len(set(keys)) < len(keys):
        raise InputError("Two steps have the same key.", field="steps")
    joints = {joint.key for joint in act.joints}
    for step in act.steps:
        unknown = [key for key in step.cautions if key not in CAUTIONS]
        unknown += [key for key in step.rests_on if key not in keys]
        unknown += [goal.joint for goal in step.brings_joints if goal.joint not in joints]
        if unknown:
            raise InputError(f"“{step.title}” names {unknown[0]!r}, which does not exist.", field="steps")
    for joint in act.joints:
        permit_drawn(Drawn(joint), JobState())
    gone = [step for step in state.steps if step not in keys and not step.startswith(MOVES)]
    done = [one for one in gone if state.steps[one][1].outcome == "done"]
    if done:
        title = template.step(done[0]).title
        raise NotAllowed(f"“{title}” is done already and would vanish. Open it again first, or plan with it.")
    return act
