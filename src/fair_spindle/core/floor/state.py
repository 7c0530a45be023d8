"""What is true now, derived from the log by folding its events in order."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import singledispatch

from fair_spindle.core.floor.bolt_state import BoltState, after_work, bolt_key
from fair_spindle.core.floor.log import (
    Act,
    Attached,
    Clamp,
    Cleared,
    Counted,
    Drawn,
    Entered,
    Erased,
    Event,
    Fastener,
    Filled,
    HeightRead,
    Joint,
    Listed,
    Moved,
    Noted,
    Reopened,
    Settled,
    Signed,
    Specified,
    Stepped,
    Struck,
    Tightened,
    Turned,
    Typed,
    Undone,
    Worked,
)
from fair_spindle.core.planning.template import SIDES, JobTemplate, Position, Side, Stage
from fair_spindle.core.spelling import read_number

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


def effective(events: Iterable[Event]) -> list[Event]:
    """Events that still count: neither undone nor themselves an undoing.

    Parameters
    ----------
    events : iterable of Event
        The log in order. [-]

    Returns
    -------
    list of Event
        In order, without what was undone.

    Raises
    ------
    Nothing.

    Notes
    -----
    Undoing an undoing brings the first event back; the latest word counts.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> a = Event("a", 1, "", Moved("hanging"))
    >>> effective([a, Event("b", 2, "", Undone("a"))])
    []
    """
    log = list(events)
    gone: set[str] = set()
    for event in reversed(log):
        if isinstance(event.act, Undone) and event.id not in gone:
            gone.add(event.act.event)
    return [event for event in log if event.id not in gone and not isinstance(event.act, Undone)]


def derive(events: Iterable[Event], template: JobTemplate) -> JobState:
    """Fold a log into what is true now.

    Parameters
    ----------
    events : iterable of Event
        The whole log in order. [-]
    template : JobTemplate
        The kind of job. [-]

    Returns
    -------
    JobState
        Derived state; overrides are kept even where their event was undone.

    Raises
    ------
    NotFound
        The log names a step or place the job does not have.

    Notes
    -----
    A signature stands until the record is reopened; any move voids loaded heights
    and the settling.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> derive([Event("a", 1, "", Moved("hanging"))], FRONT_STRUT).position
    'hanging'
    """
    log = list(events)
    state = JobState()
    for event in effective(log):
        state = advance(state, event, template)
    return replace(state, overrides=_overrides(log), joint_overrides=_joint_overrides(log, state.joints))


def derive_on(before: JobState, log: Sequence[Event], template: JobTemplate) -> JobState:
    """What is true after the last line of a log, from what was true before it.

    Parameters
    ----------
    before : JobState
        What followed from all lines but the last. [-]
    log : sequence of Event
        The whole log, at least one line. [-]
    template : JobTemplate
        The kind of job. [-]

    Returns
    -------
    JobState
        The same as :func:`derive` gives for the whole log.

    Raises
    ------
    NotFound
        The line names a step or group the job does not have.

    Notes
    -----
    An undoing is derived from the beginning.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> derive_on(JobState(), [Event("a", 1, "", Moved("hanging"))], FRONT_STRUT).position
    'hanging'
    """
    if isinstance(log[-1].act, Undone):
        return derive(log, template)
    state = advance(before, log[-1], template)
    if not isinstance(log[-1].act, Tightened | Worked | Drawn):
        return state
    return replace(state, overrides=_overrides(log), joint_overrides=_joint_overrides(log, state.joints))


def advance(state: JobState, event: Event, template: JobTemplate) -> JobState:
    """Take one more event into account.

    Parameters
    ----------
    state : JobState
        What is true before it. [-]
    event : Event
        The next effective event; no undoing. [-]
    template : JobTemplate
        The kind of job. [-]

    Returns
    -------
    JobState
        What is true after it.

    Raises
    ------
    NotFound
        It names a step or place the job does not have.

    Notes
    -----
    Overrides are collected by :func:`derive`, since undoing does not remove them.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> advance(JobState(), Event("a", 1, "", Moved("hanging")), FRONT_STRUT).position
    'hanging'
    """
    return _apply(event.act, state, event, template)


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


def _overrides(log: Iterable[Event]) -> tuple[Override, ...]:
    acts = ((event, event.act) for event in log)
    return tuple(
        Override(act.places, act.override, event.at)
        for event, act in acts
        if isinstance(act, Tightened) and act.override
    )


def _joint_overrides(log: Iterable[Event], joints: Mapping[str, Joint]) -> tuple[Override, ...]:
    """Overrides at joints, by their places in words; they stay, also when undone."""
    found = []
    for event in log:
        act = event.act
        if isinstance(act, Worked) and act.override:
            label = joints[act.joint].label if act.joint in joints else act.joint
            found.append(Override(tuple(f"{label}, place {n}" for n in act.places), act.override, event.at))
    return tuple(found)


@singledispatch
def _apply(act: Act, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return state


@_apply.register
def _(act: Entered, state: JobState, event: Event, template: JobTemplate) -> JobState:
    taken = Taken(event, act, state.position, state.settled)
    return replace(state, entries={**state.entries, act.key: taken})


@_apply.register
def _(act: Cleared, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, entries={key: taken for key, taken in state.entries.items() if key != act.key})


@_apply.register
def _(act: Filled, state: JobState, event: Event, template: JobTemplate) -> JobState:
    if act.purpose == "before":
        return replace(state, before={entry.key: entry for entry in act.entries}, before_from=act.source)
    taken = {entry.key: Taken(event, entry, state.position, state.settled, act.source) for entry in act.entries}
    return replace(state, entries={**state.entries, **taken})


@_apply.register
def _(act: Settled, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, settled=True, settled_at=event.seq)


@_apply.register
def _(act: Attached, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, attached=(*state.attached, (event, act)))


@_apply.register
def _(act: Listed, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, fasteners={**state.fasteners, **{one.key: one for one in act.fasteners}})


@_apply.register
def _(act: Struck, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, fasteners={key: one for key, one in state.fasteners.items() if key != act.key})


@_apply.register
def _(act: Specified, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, specs={**state.specs, act.group: (event, act)})


@_apply.register
def _(act: Moved, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(
        state,
        position=act.to,
        corner=act.corner,
        carried_axle=act.axle,
        settled=False,
        loaded_heights={},
        moved_at=event.seq,
    )


@_apply.register
def _(act: Stepped, state: JobState, event: Event, template: JobTemplate) -> JobState:
    step = template.step(act.step)
    steps = {**state.steps, act.step: (event, act)}
    if act.outcome != "done":
        return replace(state, steps=steps)
    freed = {
        place: PlaceState("loose", event=event.id)
        for key in step.frees
        for side in SIDES
        for place in template.group(key).places(side)
        if state.stage(place) is None
    }
    return replace(state, steps=steps, places={**state.places, **freed})


@_apply.register
def _(act: Noted, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, notes=(*state.notes, (event, act)))


@_apply.register
def _(act: Counted, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, counts=(*state.counts, (event.seq, act)))


@_apply.register
def _(act: Turned, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, turned=(*state.turned, (event.seq, act)))


@_apply.register
def _(act: HeightRead, state: JobState, event: Event, template: JobTemplate) -> JobState:
    height = read_number(act.height.text, "length", act.height.unit, "height").value
    return replace(state, loaded_heights={**state.loaded_heights, f"{act.axle}.{act.side}": height})


@_apply.register
def _(act: Tightened, state: JobState, event: Event, template: JobTemplate) -> JobState:
    reached = PlaceState(act.to, act.reading, act.by_feel, act.clamp, event.id)
    return replace(state, places={**state.places, **dict.fromkeys(act.places, reached)})


@_apply.register
def _(act: Drawn, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, joints={**state.joints, act.joint.key: act.joint})


@_apply.register
def _(act: Erased, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, joints={key: one for key, one in state.joints.items() if key != act.joint})


@_apply.register
def _(act: Worked, state: JobState, event: Event, template: JobTemplate) -> JobState:
    reached = {}
    for number in act.places:
        key = bolt_key(act.joint, number)
        reached[key] = after_work(state.bolts.get(key, BoltState()), act, event)
    return replace(state, bolts={**state.bolts, **reached})


@_apply.register
def _(act: Signed, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, signature=(event, act))


@_apply.register
def _(act: Reopened, state: JobState, event: Event, template: JobTemplate) -> JobState:
    return replace(state, signature=None)
