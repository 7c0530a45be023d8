"""Fasteners that are used once: the step that puts them in asks for a new one, and it is remembered."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import Reading, Step

NEW, OLD = "new", "the old one again"


def asks_new(joint: Joint) -> Reading:
    """The question whether a joint's single-use fasteners are new ones; its key is the joint's own."""
    single = [bolt for bolt in joint.bolts if bolt.single_use]
    what = "New one in" if len(single) == 1 else f"{len(single)} new ones in"
    where = "" if len(joint.bolts) == 1 else f", place {', '.join(str(bolt.number) for bolt in single)}"
    return Reading(
        f"new.{joint.key}",
        f"{what}: {joint.label}{where}",
        "choice",
        "",
        required=True,
        choices=(NEW, OLD),
        per="car",
    )


@by_identity(most=64)
def with_new_asked(steps: Sequence[Step], joints: Mapping[str, Joint]) -> tuple[Step, ...]:
    """The steps, each that first puts a single-use fastener in with the question for it."""
    asked: set[str] = set()
    found = []
    for step in steps:
        keys = dict.fromkeys(goal.joint for goal in step.brings_joints if goal.joint not in asked)
        asked |= set(keys)
        these = [joints[key] for key in keys if key in joints]
        fresh = tuple(asks_new(joint) for joint in these if any(bolt.single_use for bolt in joint.bolts))
        found.append(replace(step, reads=(*step.reads, *fresh)) if fresh else step)
    return tuple(found)


def put_in(joint: Joint, state: JobState) -> str:
    """What was put in where a joint has single-use fasteners: the answer as given; empty where none was."""
    taken = state.entries.get(asks_new(joint).key)
    return taken.act.choice if taken else ""
