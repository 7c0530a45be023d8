"""Parts that were found not to fit: they do not go in until somebody says in words why they do."""

from __future__ import annotations

from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import Step


def say_wrong_part(step: Step, state: JobState) -> str:
    """What was found about the part a step puts in; empty where nothing was, or where it was waived before."""
    if not state.plan or not state.plan.remarks:
        return ""
    owner = step.key.partition(".")[0]
    found = [remark for remark in state.plan.remarks if remark.severity == "blocks" and remark.procedure == owner]
    if not found or not any(goal.to == "hand" for goal in step.brings_joints) or _waived(owner, state):
        return ""
    return f"{found[0].message} {found[0].reason} It goes in only with the reason in words."


def _waived(owner: str, state: JobState) -> bool:
    taken = (act for key, (_, act) in state.steps.items() if key.partition(".")[0] == owner)
    return any(act.outcome == "done" and act.reason for act in taken)
