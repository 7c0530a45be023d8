"""What the workshop has to raise and carry a car with, and what that decides about a plan."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.planning.lists import Remark

if TYPE_CHECKING:
    from fair_spindle.core.planning.template import Step

STANDS_FOR_BOTH_ENDS = 4
# Steps that only bring the car into another position.
_MOVES = ("raise.", "hang.", "lower.")
JACKS = ("Jack", "Transmission jack")


@value_object
class Bay:
    """A lift or none; how many jacks, axle stands, poles under a lift, and pairs of hands there are."""

    lift: bool = False
    jacks: int = 1
    stands: int = 4
    poles: int = 0
    people: int = 1

    @property
    def carriers(self) -> int:
        """How many parts can be carried at once."""
        return self.jacks + (self.poles if self.lift else 0)

    @property
    def raises_both_ends(self) -> bool:
        """Whether all four wheels can hang at once."""
        return self.lift or self.stands >= STANDS_FOR_BOTH_ENDS


def takes_jack(step: Step) -> bool:
    """Whether something is held by a jack, or a pole under a lift, in a step."""
    return step.where == "corner_carried" or any(tool in JACKS for tool in step.tools)


def jacks_held(steps: Sequence[Step]) -> dict[str, int]:
    """How many jacks hold something in each step.

    One is taken where a part or a corner is carried, for each side, until what was freed there is snug or the car is
    moved; moving the car takes one for as long as that lasts.
    """
    found: dict[str, int] = {}
    open_: dict[str, set[str] | None] = {}
    for step in steps:
        moving = step.key.startswith(_MOVES)
        if moving:
            open_.clear()
        side: str = step.corner or next((one for one in SIDES if step.key.endswith(f".{one}")), "")
        if takes_jack(step) and not moving:
            open_.setdefault(side, None)
        if side in open_ and step.frees_joints:
            open_[side] = (open_[side] or set()) | set(step.frees_joints)
        found[step.key] = len(open_) or int(moving and takes_jack(step))
        snug = {goal.joint for goal in step.brings_joints if goal.to != "hand"}
        for place, joints in list(open_.items()):
            if joints is not None and not joints - snug:
                del open_[place]
            elif joints is not None:
                open_[place] = joints - snug
    return found


def ways_in(bay: Bay, ways: dict[str, str]) -> dict[str, str]:
    """The workshop's ways as its bay allows them: with nothing to carry a corner it is loaded on its wheels."""
    return {**ways, "load": "wheels"} if not bay.carriers and ways.get("load", "jack") != "wheels" else ways


def judge_bay(bay: Bay, both_ends_wanted: bool, steps: Sequence[Step]) -> Iterator[Remark]:
    """Say what the workshop lacks for a plan."""
    if both_ends_wanted and not bay.raises_both_ends:
        yield Remark(
            "note",
            f"One end at a time: {bay.stands} stands, and no lift.",
            "All four wheels hang on four stands or on a lift.",
        )
    if not bay.carriers and any(map(takes_jack, steps)):
        yield Remark(
            "question", "A jack is needed to carry a part, and the workshop names none.", "Nothing hangs free."
        )
    held = [step.title for step in steps if step.two_people]
    if held and bay.people < 2:
        yield Remark("question", f"Two pairs of hands for: {', '.join(held[:3])}.", "One holds, one tightens.")
