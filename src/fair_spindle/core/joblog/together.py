"""Finishing a step in one go: every fastener of it to where the step wants it, as the person says it is."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import from_core
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.bolts.stages import WorkStage, has_reached
from fair_spindle.core.joblog.bolt_needs import percent_reached, state_of, target_torque, waits_for_load
from fair_spindle.core.joblog.log import Worked
from fair_spindle.core.joblog.plan_now import short_goals
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import JointGoal, Step

SAID: dict[WorkStage, str] = {"hand": "All by hand", "snug": "All snug", "torqued": "As specified"}
_BY_HAND: tuple[WorkStage, ...] = ("hand", "snug")


def together(step: Step, state: JobState) -> str:
    """What one button may say that brings all fasteners of a step there; empty where each needs its own hand.

    A torque only where every value is told, clicks alone (no angle, no lock) and waits for no load.
    """
    goals = short_goals(step, state)
    if not goals or not all(_may(goal, state) for goal in goals):
        return ""
    return next(SAID[to] for to in SAID if all(has_reached(to, goal.to) for goal in goals))


def acts_together(step: Step, state: JobState) -> tuple[Worked, ...]:
    """The acts that bring all fasteners of a step to where it wants them, in their order."""
    return tuple(act for goal in short_goals(step, state) for act in _acts(goal, state))


def _may(goal: JointGoal, state: JobState) -> bool:
    joint = state.joints[goal.joint]
    if goal.to in ("hand", "snug"):
        return True
    told = all(bolt.spec and bolt.spec.torque and bolt.spec.way == "torque" and not bolt.lock for bolt in joint.bolts)
    return goal.to == "torqued" and told and not waits_for_load(joint, state)


def _acts(goal: JointGoal, state: JobState) -> Iterator[Worked]:
    joint = state.joints[goal.joint]
    for stage in _BY_HAND:
        if has_reached(goal.to, stage):
            short = tuple(bolt.number for bolt in joint.bolts if _short(joint, bolt, stage, state))
            if short:
                yield Worked(joint.key, short, stage)
    if goal.to != "torqued":
        return
    for percent in joint.passes_pct:
        for bolt in joint.bolts:
            if percent_reached(state_of(state, joint, bolt.number)) < percent and bolt.spec:
                yield Worked(joint.key, (bolt.number,), "torqued", _reading(bolt, percent), percent=percent)


def _short(joint: Joint, bolt: Bolt, stage: WorkStage, state: JobState) -> bool:
    return not has_reached(state_of(state, joint, bolt.number).stage, stage)


def _reading(bolt: Bolt, percent: int) -> Typed | None:
    """What a wrench reads that clicks at its value, as it was typed where it can be."""
    spec = bolt.spec
    if spec is None or spec.torque is None:
        return None
    if percent == 100 and spec.torque_to is None:
        return spec.torque
    return Typed(f"{from_core(target_torque(spec, percent), 'nm'):.1f}", "nm")
