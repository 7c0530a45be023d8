"""What becomes invalid when one goes back: the car is moved again, a step opened, a bolt loosened."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.joblog.bolt_needs import is_final, state_of, waits_for_load
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.log import Act, Event, Moved, Stepped, Worked
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.reducer import advance
from fair_spindle.core.joblog.state import JobState


def consequences(act: Act, state: JobState, template: JobTemplate) -> tuple[str, ...]:
    """Say what would no longer hold after an act.

    A move voids loaded heights, which is said while rubber is still to be clamped at them, and the settling, which is
    said while the check is under way; a loosened pivot of bonded rubber has to be loaded again; a step opened again
    opens what rests on it.

    Raises NotFound: It names a step or joint the job does not have.

    Common practice, no published source.
    """
    if not isinstance(act, Moved | Stepped | Worked):
        return ()
    after = advance(state, Event("", state.moved_at, "", act), template)
    return (*_loaded(act, state), *_bonded(act, state), *_steps(state, after, template))


def _loaded(act: Act, state: JobState) -> Iterator[str]:
    if not isinstance(act, Moved):
        return
    for corner, height in state.loaded_heights.items():
        if corner in _still_to_clamp(state):
            where = corner.replace(".", " ")
            yield f"The loaded height of {height:.0f} mm read at the {where} no longer holds: read it again."
    if state.settled and any(".check_" in key for key in state.entries):
        yield "The car has to be settled again before it is measured further."


def _still_to_clamp(state: JobState) -> set[str]:
    """Corners where bonded rubber is still to be clamped."""
    return {
        f"{joint.axle}.{joint.side}"
        for joint in state.joints.values()
        if waits_for_load(joint, state)
        and any(not is_final(bolt, state_of(state, joint, bolt.number)) for bolt in joint.bolts)
    }


def _bonded(act: Act, state: JobState) -> Iterator[str]:
    if not isinstance(act, Worked) or act.to not in ("loose", "hand") or act.joint not in state.joints:
        return
    joint = state.joints[act.joint]
    final = [bolt for bolt in joint.bolts if is_final(bolt, state_of(state, joint, bolt.number))]
    if waits_for_load(joint, state) and final:
        yield f"{joint.label}: bonded rubber, to be loaded and torqued again at ride height."
    beside = [
        other.label
        for other in state.joints.values()
        if other.key != joint.key
        and other.arm
        and (other.arm, other.axle, other.side) == (joint.arm, joint.axle, joint.side)
        and waits_for_load(other, state)
        and any(is_final(bolt, state_of(state, other, bolt.number)) for bolt in other.bolts)
    ]
    for label in beside:
        yield f"{label} holds the same arm: if the arm swings now, its rubber is wound up. Loosen it too."


def _steps(before: JobState, after: JobState, template: JobTemplate) -> Iterator[str]:
    for step in template_now(before, template).steps:
        if step.key in before.steps and step.key not in after.steps:
            yield f"Open again: {step.title}."
