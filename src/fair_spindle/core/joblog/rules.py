"""What may be written in the log now, and why not: the rules of the job on the floor."""

from __future__ import annotations

from dataclasses import replace
from functools import singledispatch

from fair_spindle.core.basics.errors import InputError, NotAllowed, NotFound, require
from fair_spindle.core.fields.field import Field, Part
from fair_spindle.core.joblog.bolt_rules import permit_worked
from fair_spindle.core.joblog.bolt_state import bolt_key
from fair_spindle.core.joblog.joint_maps import MOST_PLACES, permit_drawn, permit_erased
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.listed_places import place_of, with_row
from fair_spindle.core.joblog.loading import Windows
from fair_spindle.core.joblog.log import (
    Act,
    Attached,
    Cleared,
    Counted,
    Drawn,
    Entered,
    Erased,
    Event,
    Fastener,
    Filled,
    HeightRead,
    Listed,
    Moved,
    Noted,
    Planned,
    Reopened,
    Settled,
    Signed,
    Stepped,
    Stopped,
    Struck,
    TakenOff,
    Turned,
    Undone,
    Worked,
)
from fair_spindle.core.joblog.old_acts import as_today, with_evidence
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.planned import permit_planned
from fair_spindle.core.joblog.readings import read_entry, read_part
from fair_spindle.core.joblog.required_fields import sheet_now
from fair_spindle.core.joblog.state import JobState, Taken
from fair_spindle.core.joblog.step_blockers import listing, step_hindrance
from fair_spindle.core.joblog.wording import position_words
from fair_spindle.core.joblog.wrong_parts import say_wrong_part
from fair_spindle.core.planning.template import POSITION_NAMES

HEIGHT_PART = Part("height", "Height", "length", "mm", 150, 700)
TORQUE_PART = Part("torque", "Torque", "torque", "nm", 0.5, 1000)
MAX_FLATS = 600
MOST_SMALL = 200
IN_A_RECORD = (Entered, Cleared, Filled, Listed, Struck, Drawn, Erased, Noted, Undone)


def permit(act: Act, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    """Accept an act as things stand, or say what has to happen first.

    Parameters
    ----------
    act : Act
        What somebody wants to write. [-]
    state : JobState
        What is true now. [-]
    template : JobTemplate
        The kind of job. [-]
    windows : mapping
        Hub-to-arch heights between which each joint's bonded bushing may be clamped; a joint
        whose window is not known is missing. [mm]

    Returns
    -------
    Act
        The act, with the evidence for a bonded bolt written into it.

    Raises
    ------
    NotAllowed
        A rule of the job forbids it now.
    InputError, NotFound
        It names what does not exist or holds what cannot be taken.

    Notes
    -----
    A signed record takes only its own reopening.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> permit(Moved("hanging"), JobState(), WORK, {}).to
    'hanging'
    """
    if template.key == "car" and not isinstance(act, IN_A_RECORD):
        raise NotAllowed("A car's record takes entries, fasteners and notes; this belongs in a job.")
    if state.signature and not isinstance(act, Reopened):
        raise NotAllowed("The record is signed. Open it again with a reason to change anything.")
    template = template_now(state, template)
    today = as_today(act, state, template)
    if not today:
        raise NotFound("This job has nothing of that name.", field="group")
    accepted = [_permit(one, state, template, windows) for one in today]
    return accepted[0] if today == (act,) else with_evidence(act, accepted)


def _words(text: str, field: str, what: str, longest: int = 500) -> None:
    require(text.strip(), field, f"{what} must not be empty", "nothing", "Write a few words.", kind=InputError)
    require(
        len(text) <= longest,
        field,
        f"{what} must be at most {longest} characters",
        len(text),
        kind=InputError,
    )


@singledispatch
def _permit(act: Act, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    raise TypeError(f"no rule for {type(act).__name__}")


@_permit.register
def _(act: Entered, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    asked = sheet_now(state, template).find(act.key)
    act = _without_unsettled(act, state, asked)
    read_entry(act, asked)
    return act


def _without_unsettled(act: Entered, state: JobState, asked: Field) -> Entered:
    """A reading of the settled car takes the place of those read before it settled; it is not averaged with them."""
    taken = state.entries.get(act.key)
    if not (asked.settled and taken and not taken.source and state.settled and not taken.settled):
        return act
    old = [taken.act.typed, *taken.act.again]
    fresh = [row for row in (act.typed, *act.again) if row not in old]
    return replace(act, typed=fresh[0], again=tuple(fresh[1:])) if fresh else act


@_permit.register
def _(act: Cleared, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if act.key not in state.entries:
        raise NotAllowed("There is nothing in that field.")
    return act


@_permit.register
def _(act: Filled, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    _words(act.source, "source", "Where the entries come from", 200)
    require(act.entries, "entries", "At least one entry is needed", "none", kind=InputError)
    event = Event("", 0, "", act)
    taken = {entry.key: Taken(event, entry, state.position, state.settled) for entry in act.entries}
    sheet = sheet_now(replace(state, entries={**state.entries, **taken}), template)
    for entry in act.entries:
        read_entry(entry, sheet.find(entry.key))
    return act


@_permit.register
def _(act: Settled, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if state.position != "on_wheels":
        raise NotAllowed(
            f"A car settles on its wheels; it is {position_words(state.position, state.corner, state.carried_axle)}."
        )
    return act


@_permit.register
def _(act: Attached, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    known = act.subject in sheet_now(state, template).fields
    if act.subject and not known:
        template.step(act.subject)
    _words(act.name, "name", "The name of the picture", 120)
    require(
        len(act.sha256) == 64 and set(act.sha256) <= set("0123456789abcdef"),
        "sha256",
        "A picture is named by its SHA-256, 64 hexadecimal digits",
        act.sha256,
        kind=InputError,
    )
    return act


@_permit.register
def _(act: Listed, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    require(act.fasteners, "fasteners", "At least one fastener is needed", "none", kind=InputError)
    for fastener in act.fasteners:
        _known(fastener)
        state = with_row(state, fastener)
    for joint in state.joints.values():
        require(
            len(joint.bolts) <= MOST_PLACES, "group", f"“{joint.label}” takes {MOST_PLACES} places", len(joint.bolts)
        )
    return act


@_permit.register
def _(act: Struck, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if place_of(state, act.key) is None:
        raise NotAllowed("That fastener is not on the list.")
    return act


def _known(one: Fastener) -> None:
    _words(one.key, "key", "The fastener's key", 60)
    _words(one.group, "group", "What the fastener holds", 80)
    require(1 <= one.place <= 99, "place", "The number of the place must lie between 1 and 99", one.place)
    if one.diameter_mm or one.pitch_mm:
        _thread(one.diameter_mm, one.pitch_mm)
    require(0 <= one.length_mm <= 1000, "length_mm", "The length must lie between 0 and 1000 mm", one.length_mm)
    if one.torque:
        read_part(TORQUE_PART, one.torque, "torque")
        _words(one.source, "source", "The source of the torque", 200)


def _thread(diameter: float, pitch: float) -> None:
    require(3 <= diameter <= 36, "diameter_mm", "Thread diameter must lie between 3 and 36 mm", diameter)
    require(0.35 <= pitch <= 4, "pitch_mm", "Thread pitch must lie between 0.35 and 4 mm", pitch)
    require(
        pitch < diameter / 3,
        "pitch_mm",
        f"The pitch of an M{diameter:g} thread must be under a third of its diameter",
        pitch,
    )


@_permit.register
def _(act: Moved, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if (act.to == "corner_carried") != (act.corner is not None):
        raise InputError("Say which corner is carried, and only then.", field="corner")
    if act.to == state.position and act.corner == state.corner:
        raise NotAllowed(f"The car is {POSITION_NAMES[act.to]} already.")
    if act.to == "on_wheels":
        _nothing_loose(state)
    return act


def _nothing_loose(state: JobState) -> None:
    open_ = [
        f"{joint.label}, place {bolt.number}"
        for joint in state.joints.values()
        if joint.role not in ("jam", "link")
        for bolt in joint.bolts
        if (now := state.bolts.get(bolt_key(joint.key, bolt.number))) and now.stage in ("loose", "hand")
    ]
    if open_:
        raise NotAllowed(f"Not down on its wheels yet: {listing(open_)} must be snug first.", places=open_)


@_permit.register
def _(act: Stepped, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    step = template.step(act.step)
    if act.outcome == "skipped":
        _words(act.reason, "reason", "The reason for skipping")
        return act
    if act.outcome == "reopened":
        if act.step not in state.steps:
            raise NotAllowed("That step is open already.")
        return act
    hindrance = step_hindrance(step, state, template)
    if hindrance:
        raise NotAllowed(hindrance, step=step.key)
    if not act.reason.strip() and (wrong := say_wrong_part(step, state)):
        raise NotAllowed(wrong, step=step.key, rule="wrong_part")
    return act


@_permit.register
def _(act: Noted, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    _words(act.text, "text", "A note", 2000)
    if act.step:
        template.step(act.step)
    return act


@_permit.register
def _(act: TakenOff, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    _words(act.name, "name", "What came off", 80)
    require(len(act.place) <= 200, "place", "A place must be at most 200 characters", len(act.place), kind=InputError)
    require(0 <= act.fasteners <= MOST_SMALL, "fasteners", f"Fasteners must be 0 to {MOST_SMALL}", act.fasteners)
    if act.step:
        template.step(act.step)
    return act


@_permit.register
def _(act: Counted, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    require(0 < abs(act.flats) <= MAX_FLATS, "flats", f"Flats must lie between 1 and {MAX_FLATS}", act.flats)
    if state.flats(f"{act.axle}.{act.side}.{act.arm}", act.direction) + act.flats < 0:
        raise NotAllowed("The count cannot go below zero.")
    return act


@_permit.register
def _(act: Turned, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    require(0 < abs(act.steps) <= MAX_FLATS, "steps", f"Steps must lie between 1 and {MAX_FLATS}", act.steps)
    return act


@_permit.register
def _(act: HeightRead, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    read_part(HEIGHT_PART, act.height, "height")
    return act


@_permit.register
def _(act: Drawn, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_drawn(act, state)


@_permit.register
def _(act: Erased, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_erased(act, state)


@_permit.register
def _(act: Worked, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_worked(act, state, windows)


@_permit.register
def _(act: Planned, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_planned(act, state, template)


@_permit.register
def _(act: Stopped, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if act.note:
        _words(act.note, "note", "The note", 2000)
    return act


@_permit.register
def _(act: Undone, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return act


@_permit.register
def _(act: Signed, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    _words(act.name, "name", "The name", 100)
    return act


@_permit.register
def _(act: Reopened, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if not state.signature:
        raise NotAllowed("The record is not signed.")
    _words(act.reason, "reason", "The reason for opening the record")
    return act
