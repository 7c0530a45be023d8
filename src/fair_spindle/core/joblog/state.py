"""What is true now about a job or a car: everything that follows from its log."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import Side
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.joblog.bolt_state import BoltState
from fair_spindle.core.joblog.log import (
    Attached,
    Counted,
    Entered,
    Event,
    Noted,
    Planned,
    Signed,
    Stepped,
    Stopped,
    TakenOff,
    Turned,
)
from fair_spindle.core.planning.template import Position


@value_object
class Taken:
    """A filled-in field, and how the car stood when it was; ``source`` where it came with many others."""

    event: Event
    act: Entered
    position: Position
    settled: bool
    source: str = ""


@value_object
class Override:
    """A rule of the job was overridden; this stays on the record, also when undone."""

    places: tuple[str, ...]
    reason: str
    at: str


@value_object
class JobState:
    """Everything that follows from the log; ``listed`` is where each row of a car's list sits: joint and place.

    ``replaced`` are toes after the work that were read anew since, the oldest first: what turned between them was
    read too.
    """

    position: Position = "on_wheels"
    corner: Side | None = None
    carried_axle: str = "front"
    settled: bool = False
    settled_at: int = 0
    entries: Mapping[str, Taken] = field(default_factory=dict)
    replaced: Mapping[str, tuple[Taken, ...]] = field(default_factory=dict)
    before: Mapping[str, Entered] = field(default_factory=dict)
    before_from: str = ""
    listed: Mapping[str, tuple[str, int]] = field(default_factory=dict)
    joints: Mapping[str, Joint] = field(default_factory=dict)
    bolts: Mapping[str, BoltState] = field(default_factory=dict)
    attached: tuple[tuple[Event, Attached], ...] = ()
    steps: Mapping[str, tuple[Event, Stepped]] = field(default_factory=dict)
    notes: tuple[tuple[Event, Noted], ...] = ()
    taken_off: tuple[tuple[Event, TakenOff, Position], ...] = ()
    counts: tuple[tuple[int, Counted], ...] = ()
    turned: tuple[tuple[int, Turned], ...] = ()
    loaded_heights: Mapping[str, float] = field(default_factory=dict)
    overrides: tuple[Override, ...] = ()
    plan: Planned | None = None
    stopped: tuple[Event, Stopped] | None = None
    signature: tuple[Event, Signed] | None = None
    moved_at: int = 0

    def flats(self, end: str, direction: str) -> int:
        """Flats counted at a threaded end, ``"front.left.tie"`` for one, coming off or going on."""
        told = (act for _, act in self.counts if f"{act.axle}.{act.side}.{act.arm}" == end)
        return sum(act.flats for act in told if act.direction == direction)
