"""What may be written in the log now, and why not: the rules of the job on the floor."""

from __future__ import annotations

from dataclasses import replace
from functools import singledispatch

from fair_spindle.core.errors import InputError, NotAllowed, require
from fair_spindle.core.floor.asking import readings_now, sheet_now
from fair_spindle.core.floor.bolt_state import bolt_key
from fair_spindle.core.floor.fastening import permit_worked
from fair_spindle.core.floor.hindrance import listing, step_hindrance
from fair_spindle.core.floor.joint_maps import permit_drawn, permit_erased
from fair_spindle.core.floor.loading import Windows, clamp_gate, needs_load
from fair_spindle.core.floor.log import (
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
    Specified,
    Stepped,
    Stopped,
    Struck,
    Tightened,
    Turned,
    Undone,
    Worked,
)
from fair_spindle.core.floor.plan_now import template_now
from fair_spindle.core.floor.planned import permit_planned
from fair_spindle.core.floor.readings import read_entry, read_part
from fair_spindle.core.floor.state import JobState, Taken, short_of
from fair_spindle.core.floor.wording import label_place, position_words
from fair_spindle.core.outlook.geometry import wheels_of
from fair_spindle.core.outlook.steering import solid_steering
from fair_spindle.core.planning.template import POSITION_NAMES, FastenerGroup, JobTemplate, Side
from fair_spindle.core.sheet.field import Part

HEIGHT_PART = Part("height", "Height", "length", "mm", 150, 700)
TORQUE_PART = Part("torque", "Torque", "torque", "nm", 0.5, 1000)
MAX_FLATS = 600
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
        Hub-to-arch heights between which each side's bonded bushings may be clamped; a side
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
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> permit(Moved("hanging"), JobState(), FRONT_STRUT, {}).to
    'hanging'
    """
    if template.key == "car" and not isinstance(act, IN_A_RECORD):
        raise NotAllowed("A car's record takes entries, fasteners and notes; this belongs in a job.")
    if state.signature and not isinstance(act, Reopened):
        raise NotAllowed("The record is signed. Open it again with a reason to change anything.")
    return _permit(act, state, template_now(state, template), windows)


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
    read_entry(act, sheet_now(state, template).find(act.key))
    return act


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
    for one in act.fasteners:
        _known(one)
    return act


@_permit.register
def _(act: Struck, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if act.key not in state.fasteners:
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
def _(act: Specified, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    template.group(act.group)
    read_part(TORQUE_PART, act.torque, "torque")
    _words(act.source, "source", "The source of the value", 200)
    _thread(act.diameter_mm, act.pitch_mm)
    return act


@_permit.register
def _(act: Moved, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    if (act.to == "corner_carried") != (act.corner is not None):
        raise InputError("Say which corner is carried, and only then.", field="corner")
    if act.to == state.position and act.corner == state.corner:
        raise NotAllowed(f"The car is {POSITION_NAMES[act.to]} already.")
    if act.to == "on_wheels":
        _nothing_loose(state, template)
    return act


def _nothing_loose(state: JobState, template: JobTemplate) -> None:
    open_ = [
        f"{joint.label}, place {bolt.number}"
        for joint in state.joints.values()
        if joint.role not in ("jam", "link")
        for bolt in joint.bolts
        if (now := state.bolts.get(bolt_key(joint.key, bolt.number))) and now.stage in ("loose", "hand")
    ]
    if open_:
        raise NotAllowed(f"Not down on its wheels yet: {listing(open_)} must be snug first.", places=open_)
    touched = [
        place
        for place in template.all_places()
        if state.stage(place) is not None and template.group_of(place)[1].role != "jam"
    ]
    loose = short_of(state, touched, "snug")
    if loose:
        names = listing([label_place(place, template) for place in loose])
        raise NotAllowed(f"Not down on its wheels yet: {names} must be snug first.", places=list(loose))


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
    return act


@_permit.register
def _(act: Noted, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    _words(act.text, "text", "A note", 2000)
    if act.step:
        template.step(act.step)
    return act


@_permit.register
def _(act: Counted, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    require(0 < abs(act.flats) <= MAX_FLATS, "flats", f"Flats must lie between 1 and {MAX_FLATS}", act.flats)
    if act.direction == "correct":
        if not short_of(state, template.group("jam").places(act.side), "torqued"):
            raise NotAllowed(f"The {act.side} jam nut is closed. Open it before the rod is turned.")
        return act
    total = state.flats(act.side, act.direction) + act.flats
    if total < 0:
        raise NotAllowed("The count cannot go below zero.")
    return act


@_permit.register
def _(act: Turned, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    require(0 < abs(act.steps) <= MAX_FLATS, "steps", f"Steps must lie between 1 and {MAX_FLATS}", act.steps)
    readings = readings_now(state, template)
    if act.wheel == "front":
        steering = solid_steering(readings)
        known = [one.adjuster.name for one in steering.rods] if steering else []
    else:
        known = [one.name for one in wheels_of(readings, {})[act.wheel].adjusters]
    if act.adjuster not in known:
        told = ", ".join(known) or "none, by its record and points"
        raise InputError(f"Adjusters of this wheel: {told}; got {act.adjuster!r}.", field="adjuster")
    return act


@_permit.register
def _(act: HeightRead, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    read_part(HEIGHT_PART, act.height, "height")
    return act


@_permit.register
def _(act: Tightened, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    require(act.places, "places", "At least one fastener must be named", "none", kind=InputError)
    where = {template.group_of(place) for place in act.places}
    if len(where) > 1:
        raise InputError("Name fasteners of one group at one side at a time.", field="places")
    side, group = where.pop()
    for place in act.places:
        _stage_follows(place, act, state, template)
    if act.to != "torqued":
        return replace(act, clamp=None)
    _torque_recorded(act, group, state)
    unstarted = short_of(state, group.places(side), "hand")
    if unstarted:
        raise NotAllowed(f"Start every place by hand first: {label_place(unstarted[0], template)}.")
    if group.role == "wheel" and state.position != "on_wheels":
        raise NotAllowed("Wheel nuts get their final torque on the ground. Snug them in the air.")
    return _loaded(act, side, group, state, windows)


_BEFORE: dict[str, tuple[str | None, ...]] = {
    "loose": (None, "loose", "hand", "snug", "torqued"),
    "hand": (None, "loose"),
    "snug": ("hand",),
    "torqued": ("snug", "torqued"),
}


def _stage_follows(place: str, act: Tightened, state: JobState, template: JobTemplate) -> None:
    now = state.stage(place)
    if now in _BEFORE[act.to]:
        return
    name = label_place(place, template)
    if now == act.to or (act.to in ("hand", "snug") and now in ("snug", "torqued")):
        raise NotAllowed(f"The {name} is {now} already. Record it loose first if it was opened.")
    first = {"snug": "started by hand", "torqued": "snug"}[act.to]
    raise NotAllowed(f"The {name} must be {first} first.")


def _torque_recorded(act: Tightened, group: FastenerGroup, state: JobState) -> None:
    if act.by_feel:
        _words(act.by_feel, "by_feel", "The reason for tightening by feel")
        return
    if group.key not in state.specs:
        raise NotAllowed(
            f"{group.label}: no specification yet. Enter the value with its source, or record it by feel "
            "with a reason. This product never invents a torque.",
            group=group.key,
        )
    if act.reading is None:
        raise InputError("Final torque needs a reading, or a reason for tightening by feel.", field="reading")
    read_part(TORQUE_PART, act.reading, "reading")


def _loaded(act: Tightened, side: Side, group: FastenerGroup, state: JobState, windows: Windows) -> Act:
    if not needs_load(group, side, state):
        return replace(act, clamp=None, override="")
    evidence, reason = clamp_gate(side, state, windows)
    if evidence:
        return replace(act, clamp=evidence, override="")
    if act.override:
        _words(act.override, "override", "The reason for the override")
        return replace(act, clamp=None)
    raise NotAllowed(reason, rule="clamp_at_load", group=group.key, side=side)


@_permit.register
def _(act: Drawn, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_drawn(act, state)


@_permit.register
def _(act: Erased, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_erased(act, state)


@_permit.register
def _(act: Worked, state: JobState, template: JobTemplate, windows: Windows) -> Act:
    return permit_worked(act, state, {key[6:]: one for key, one in windows.items() if key.startswith("joint ")})


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
