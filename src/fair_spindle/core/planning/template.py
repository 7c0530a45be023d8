"""The parts a plan is made of: steps, what they bring joints to, what they ask for."""

from __future__ import annotations

from functools import cached_property
from typing import Literal

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES, Side

Position = Literal["on_wheels", "hanging", "corner_carried"]
Asks = Literal["", "baseline", "turns", "height", "settle", "check"]
# The phase of the work from which the car is driven.
DRIVING = 13

POSITION_NAMES: dict[Position, str] = {
    "on_wheels": "on its wheels",
    "hanging": "hanging on stands",
    "corner_carried": "carried at one corner",
}


@value_object
class Reading:
    """A number or a choice that a step asks for: kind, unit, limits in that unit, and what it stands beside.

    ``name`` is its key below axle and side; ``beside`` the name of the reading it is compared with on the record;
    ``half_width`` what it leaves open, in its unit; ``expected`` the only number that lets its step be done.
    """

    name: str
    label: str
    quantity: Literal["length", "count", "pieces", "angle", "pitch", "force", "choice", "words"] = "length"
    unit: str = "mm"
    low: float = 0.0
    high: float = 3000.0
    half_width: float = 0.0
    required: bool = False
    expected: float | None = None
    beside: str = ""
    hint: str = ""
    choices: tuple[str, ...] = ()
    per: Literal["car", "axle", "side"] = "side"
    axle: Literal["", "front", "rear"] = ""
    side: Literal["", "left", "right"] = ""

    @cached_property
    def key(self) -> str:
        """Where on the car it is read, and what it is."""
        return ".".join(part for part in (self.axle or "car", self.side, self.name) if part)


@value_object
class JointGoal:
    """A joint, and the stage a step brings it to."""

    joint: str
    to: Literal["hand", "snug", "torqued", "marked"]


@value_object
class Step:
    """One step: where the car must be, which joints are freed, what stage they reach, what is asked.

    ``asks`` names what it is for where that is more than reading and tightening; ``reads`` its own numbers.
    ``minutes`` and ``wait_h`` are least and most; ``why`` says what gave it its place, ``rests_on`` which steps it no
    longer stands without, ``by`` which procedures want it.
    """

    key: str
    title: str
    where: Position
    detail: str
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    asks: Asks = ""
    sides: tuple[Side, ...] = SIDES
    corner: Side | None = None
    two_people: bool = False
    axle: Literal["", "front", "rear"] = ""
    phase: int = 0
    frees_joints: tuple[str, ...] = ()
    brings_joints: tuple[JointGoal, ...] = ()
    chemicals: tuple[str, ...] = ()
    minutes: tuple[float, ...] = ()
    wait_h: tuple[float, ...] = ()
    why: tuple[str, ...] = ()
    rests_on: tuple[str, ...] = ()
    by: tuple[str, ...] = ()
    school: str = ""
    reads: tuple[Reading, ...] = ()
    carried: Literal["", "front", "rear"] = ""

    @cached_property
    def carried_axle(self) -> Literal["front", "rear"]:
        """Axle of the corner that is carried, where one is; a step inside the car may be done meanwhile."""
        return self.carried or self.axle or "front"
