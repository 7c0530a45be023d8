"""What is true now about a job or a car: everything that follows from its log."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from fair_spindle.core.floor.bolt_state import BoltState
from fair_spindle.core.floor.log import (
    Attached,
    Clamp,
    Counted,
    Entered,
    Event,
    Fastener,
    Joint,
    Noted,
    Planned,
    Signed,
    Specified,
    Stepped,
    Stopped,
    Turned,
    Typed,
)
from fair_spindle.core.planning.template import Position, Side, Stage

STAGES: tuple[Stage, ...] = ("loose", "hand", "snug", "torqued")


@dataclass(frozen=True)
class PlaceState:
    """Where one fastener stands: None until it was freed; the last reading and what came with it."""

    stage: Stage | None = None
    reading: Typed | None = None
    by_feel: str = ""
    clamp: Clamp | None = None
    event: str = ""


@dataclass(frozen=True)
class Taken:
    """A filled-in field, and how the car stood when it was; ``source`` where it came with many others."""

    event: Event
    act: Entered
    position: Position
    settled: bool
    source: str = ""


@dataclass(frozen=True)
class Override:
    """A rule of the job was overridden; this stays on the record, also when undone."""

    places: tuple[str, ...]
    reason: str
    at: str


@dataclass(frozen=True)
class JobState:
    """Everything that follows from the log."""

    position: Position = "on_wheels"
    corner: Side | None = None
    carried_axle: str = "front"
    settled: bool = False
    settled_at: int = 0
    entries: Mapping[str, Taken] = field(default_factory=dict)
    before: Mapping[str, Entered] = field(default_factory=dict)
    before_from: str = ""
    fasteners: Mapping[str, Fastener] = field(default_factory=dict)
    joints: Mapping[str, Joint] = field(default_factory=dict)
    bolts: Mapping[str, BoltState] = field(default_factory=dict)
    attached: tuple[tuple[Event, Attached], ...] = ()
    specs: Mapping[str, tuple[Event, Specified]] = field(default_factory=dict)
    places: Mapping[str, PlaceState] = field(default_factory=dict)
    steps: Mapping[str, tuple[Event, Stepped]] = field(default_factory=dict)
    notes: tuple[tuple[Event, Noted], ...] = ()
    counts: tuple[tuple[int, Counted], ...] = ()
    turned: tuple[tuple[int, Turned], ...] = ()
    loaded_heights: Mapping[str, float] = field(default_factory=dict)
    overrides: tuple[Override, ...] = ()
    joint_overrides: tuple[Override, ...] = ()
    plan: Planned | None = None
    stopped: tuple[Event, Stopped] | None = None
    signature: tuple[Event, Signed] | None = None
    moved_at: int = 0

    def stage(self, place: str) -> Stage | None:
        """Stage of a place, None while it is as found."""
        return self.places.get(place, PlaceState()).stage

    def flats(self, side: Side, direction: str, after: int = 0) -> int:
        """Flats counted at one side in one direction, after a place in the log."""
        return sum(
            act.flats for seq, act in self.counts if seq > after and (act.side, act.direction) == (side, direction)
        )


def steps_turned(state: JobState, wheel: str, adjuster: str, after: int = 0) -> int:
    """Steps an adjuster was turned by.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    wheel, adjuster : str
        Axle and side, and the adjuster's name. [-]
    after : int, optional
        Only those after a place in the log. [-]

    Returns
    -------
    int
        Longer positive. [step]

    Raises
    ------
    Nothing.

    Notes
    -----
    Counts add up; taking one back is another entry or an undo.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> steps_turned(JobState(), "rear.left", "Toe link")
    0
    """
    return sum(
        act.steps for seq, act in state.turned if seq > after and (act.wheel, act.adjuster) == (wheel, adjuster)
    )


def short_of(state: JobState, places: Iterable[str], stage: Stage) -> tuple[str, ...]:
    """Places among `places` that have not reached a stage yet.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    places : iterable of str
        Places to look at. [-]
    stage : {"loose", "hand", "snug", "torqued"}
        Stage wanted. [-]

    Returns
    -------
    tuple of str
        Those still short of it; a place as found counts as short.

    Raises
    ------
    Nothing.

    Notes
    -----
    Stages follow each other: loose, by hand, snug, torqued.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> short_of(JobState(), ["left.jam.1"], "hand")
    ('left.jam.1',)
    """
    wanted = STAGES.index(stage)
    return tuple(place for place in places if (now := state.stage(place)) is None or STAGES.index(now) < wanted)
