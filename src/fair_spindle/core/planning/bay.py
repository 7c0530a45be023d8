"""What the workshop has to raise and carry a car with, and what that decides about a plan."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from fair_spindle.core.planning.lists import Remark

if TYPE_CHECKING:
    from fair_spindle.core.planning.template import Step

STANDS_FOR_BOTH_ENDS = 4


@dataclass(frozen=True)
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
    if not bay.carriers and any(tool in ("Jack", "Transmission jack") for step in steps for tool in step.tools):
        yield Remark(
            "question", "A jack is needed to carry a part, and the workshop names none.", "Nothing hangs free."
        )
    held = [step.title for step in steps if step.two_people]
    if held and bay.people < 2:
        yield Remark("question", f"Two pairs of hands for: {', '.join(held[:3])}.", "One holds, one tightens.")
