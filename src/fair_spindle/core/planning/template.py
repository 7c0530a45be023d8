"""The parts a job is described with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from fair_spindle.core.errors import NotFound

Position = Literal["on_wheels", "hanging", "corner_carried"]
Stage = Literal["loose", "hand", "snug", "torqued"]
Side = Literal["left", "right"]
Role = Literal["rubber_pivot", "taper", "clamp", "bracket", "link", "wheel", "jam"]
SIDES: tuple[Side, ...] = ("left", "right")

POSITION_NAMES: dict[Position, str] = {
    "on_wheels": "on its wheels",
    "hanging": "hanging on stands",
    "corner_carried": "carried at one corner",
}


@dataclass(frozen=True)
class FastenerGroup:
    """Fasteners that do one thing at one side and share a specification.

    ``tools`` names drive and what must be held; ``tied`` tells that its final stage also
    needs something pushed through or bent over, ``bushing`` the field that says what pivots there.
    """

    key: str
    label: str
    role: Role
    count: int
    tools: str
    orientation: str = ""
    tied: str = ""
    bushing: str = ""

    def places(self, side: Side) -> tuple[str, ...]:
        """Keys of the numbered places at one side."""
        return tuple(f"{side}.{self.key}.{number}" for number in range(1, self.count + 1))


@dataclass(frozen=True)
class JointGoal:
    """A joint, and the stage a step brings it to."""

    joint: str
    to: Literal["hand", "snug", "torqued", "marked"]


@dataclass(frozen=True)
class Step:
    """One step: where the car must be, what is freed, what stage fasteners reach, what is asked.

    ``frees`` and ``brings`` name fastener groups, for `sides` only; of a planned job, ``frees_joints`` and
    ``brings_joints`` name its joints.  ``minutes`` and ``wait_h`` are least and most; ``why`` says what gave it its
    place, ``rests_on`` which steps it no longer stands without, ``by`` which procedures want it.
    """

    key: str
    title: str
    where: Position
    detail: str
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    frees: tuple[str, ...] = ()
    brings: tuple[tuple[str, Stage], ...] = ()
    asks: Literal["", "baseline", "count_off", "count_on", "turns", "height", "check"] = ""
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


@dataclass(frozen=True)
class JobTemplate:
    """A kind of job: its steps in order and its fasteners; ``pages`` are the parts of the work it has.

    ``front`` is the one layout of front axle it is for, empty where any will do; ``axles`` those it measures,
    in the phases it ``measures``.

    A car's record is kept in a log of the same kind, without steps.
    """

    key: str
    title: str
    groups: tuple[FastenerGroup, ...] = ()
    steps: tuple[Step, ...] = ()
    pages: tuple[str, ...] = ()
    front: str = ""
    axles: tuple[str, ...] = ("front", "rear")
    measures: tuple[str, ...] = ("baseline", "check")

    def group(self, key: str) -> FastenerGroup:
        """The fastener group of that name."""
        for group in self.groups:
            if group.key == key:
                return group
        raise NotFound(f"This job has no fastener group {key!r}.", field="group")

    def step(self, key: str) -> Step:
        """The step of that name."""
        for step in self.steps:
            if step.key == key:
                return step
        raise NotFound(f"This job has no step {key!r}.", field="step")

    def group_of(self, place: str) -> tuple[Side, FastenerGroup]:
        """Side and group of a place."""
        for group in self.groups:
            for side in SIDES:
                if place in group.places(side):
                    return side, group
        raise NotFound(f"This job has no fastener at {place!r}.", field="places")

    def all_places(self) -> tuple[str, ...]:
        """Every numbered place of the job."""
        return tuple(place for group in self.groups for side in SIDES for place in group.places(side))
