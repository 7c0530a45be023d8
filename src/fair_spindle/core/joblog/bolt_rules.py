"""Joints with a map: what each place needs, what may be done to it now, and what comes next."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from fair_spindle.core.basics.errors import InputError, NotAllowed, NotFound, OutOfRange, require
from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.units import UNITS, from_core, to_core
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.bolts.stages import STAGES, has_reached
from fair_spindle.core.joblog.bolt_needs import (
    TORQUE,
    find_joint,
    is_final,
    needed_stages,
    percent_reached,
    state_of,
    torque_range,
    waits_for_load,
)
from fair_spindle.core.joblog.bolt_state import BoltState, at_bolt
from fair_spindle.core.joblog.loading import height_gate
from fair_spindle.core.joblog.log import Worked
from fair_spindle.core.joblog.readings import read_part
from fair_spindle.core.joblog.state import JobState


def permit_worked(act: Worked, state: JobState, windows: Mapping[str, tuple[float, float]]) -> Worked:
    """Accept a piece of work on a joint, or say what has to happen first.

    Parameters
    ----------
    act : Worked
        What somebody did. [-]
    state : JobState
        What is true now. [-]
    windows : mapping
        Clamp windows in hub-to-arch height, by joint. [mm]

    Returns
    -------
    Worked
        With the evidence for a bonded bolt written into it.

    Raises
    ------
    NotAllowed
        A rule of the job forbids it now.
    InputError, NotFound
        It names what does not exist or holds what cannot be taken.

    Notes
    -----
    Every place of a joint is started by hand before any is torqued; a pass begins when all have had the one before; a
    nut is never turned back to its slot; wheel and axle nuts are final on the ground; bonded rubber at its height.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> state = JobState(joints={"a": Joint("a", "Arm", "clamp", (Bolt(1),))})
    >>> permit_worked(Worked("a", (1,), "hand"), state, {}).to
    'hand'
    """
    joint = find_joint(state, act.joint)
    by_number = {bolt.number: bolt for bolt in joint.bolts}
    require(act.places, "places", "At least one place must be named", "none", kind=InputError)
    for number in act.places:
        if number not in by_number:
            raise NotFound(f"“{joint.label}” has no place {number}.", field="places")
        _follows(act, joint, by_number[number], state_of(state, joint, number))
    act = replace(act, clamp=None, at_height_mm=None)
    if act.to == "torqued":
        return _torqued(act, joint, by_number, state, windows)
    if act.to == "angled":
        require(0 < act.angle_deg <= 720, "angle_deg", "Say by how many degrees it was turned on", act.angle_deg)
        return _loaded(act, joint, state, windows)
    elif act.to == "locked":
        require(0 <= act.angle_deg <= 60, "angle_deg", _FORWARD, f"{act.angle_deg:g}°")
    elif act.to == "rechecked" and act.reading:
        read_part(TORQUE, act.reading, "reading")
    return replace(act, override="", adapter=act.adapter if act.to == "snug" else None)


_FORWARD = "A castle nut only goes forward to its slot, by 0 to 60°, never back"


def _follows(act: Worked, joint: Joint, bolt: Bolt, now: BoltState) -> None:
    name = f"{joint.label}, place {bolt.number}"
    needed = needed_stages(bolt)
    if act.to in ("angled", "locked") and act.to not in needed.stages:
        what = {"angled": "an angle", "locked": "a lock"}[act.to]
        raise NotAllowed(f"{name} has no {what.split()[1]} in its specification. Add {what} to it first.")
    if act.to in ("marked", "rechecked") and not is_final(bolt, now):
        raise NotAllowed(f"{name} must be {STAGES[needed.final].said} first.")
    if act.to == "locked" and "angled" in needed.stages and now.stage != "angled":
        raise NotAllowed(f"{name} must be {STAGES['angled'].said} first.")
    if act.to == "angled" and now.stage == "snug" and not (bolt.spec and bolt.spec.way == "angle"):
        raise NotAllowed(f"{name} must be torqued first.")
    if now.stage in STAGES[act.to].after:
        return
    if now.stage is None or not has_reached(now.stage, act.to):
        first = next(one for one in STAGES[act.to].after if one is not None)
        raise NotAllowed(f"{name} must be {STAGES[first].said} first.")
    raise NotAllowed(f"{name} is {STAGES[now.stage].said} already. Record it loose first if it was opened.")


def _torqued(
    act: Worked,
    joint: Joint,
    by_number: Mapping[int, Bolt],
    state: JobState,
    windows: Mapping[str, tuple[float, float]],
) -> Worked:
    for number in act.places:
        _torque_told(act, joint, by_number[number])
    unstarted = [
        bolt.number for bolt in joint.bolts if not has_reached(state_of(state, joint, bolt.number).stage, "hand")
    ]
    if unstarted:
        raise NotAllowed(f"Start every place of “{joint.label}” by hand first: place {unstarted[0]} is not.")
    _pass_follows(act, joint, state)
    if act.percent < 100:
        return replace(act, override="")
    if joint.role in ("wheel", "axle") and state.position != "on_wheels":
        what = "Wheel nuts get" if joint.role == "wheel" else "An axle nut gets"
        raise NotAllowed(f"{what} the final torque on the ground. Snug it in the air.")
    return _loaded(act, joint, state, windows)


def _loaded(act: Worked, joint: Joint, state: JobState, windows: Mapping[str, tuple[float, float]]) -> Worked:
    """Every stage that leaves bonded rubber clamped waits for load: torque, and the angle after it or from snug."""
    if not waits_for_load(joint, state):
        return replace(act, override="")
    height = state.loaded_heights.get(f"{joint.axle}.{joint.side}")
    evidence, reason = height_gate(joint.axle, joint.side, state, windows.get(joint.key))
    if evidence:
        return replace(act, clamp=evidence, override="", at_height_mm=height)
    if act.override:
        require(
            0 < len(act.override.strip()) <= 500, "override", "The override needs its reason", "none", kind=InputError
        )
        return replace(act, at_height_mm=height)
    raise NotAllowed(reason, rule="clamp_at_load", joint=joint.key)


def _torque_told(act: Worked, joint: Joint, bolt: Bolt) -> None:
    name = f"{joint.label}, place {bolt.number}"
    require(10 <= act.percent <= 100, "percent", "A pass lies between 10 and 100 %", act.percent)
    if act.by_feel:
        require(len(act.by_feel.strip()) >= 3, "by_feel", "Say why it was tightened by feel", act.by_feel)
        return
    if bolt.spec is None or (bolt.spec.torque is None and bolt.spec.way not in ("angle", "stretch")):
        raise NotAllowed(
            f"{name}: no specification yet. Enter the value with its source, or record it by feel with a reason. "
            "This product never invents a torque."
        )
    if act.reading is None:
        if bolt.spec.way in ("angle", "stretch"):
            return
        raise InputError("A torque needs its reading, or a reason for tightening by feel.", field="reading")
    read = at_bolt(read_part(TORQUE, act.reading, "reading"), act.adapter)
    _, high = torque_range(bolt.spec, act.percent)
    if high and read > 1.35 * high:
        said = f"{read / 1000:.0f} N·m"
        raise OutOfRange(
            f"{said} at the bolt is far past the {high / 1000:.0f} N·m of {name}. Is the unit right? If it really "
            "was so, loosen it, take a new bolt, and say so in a note.",
            field="reading",
        )


def doubt_reading(act: Worked, state: JobState) -> str:
    """What is wrong about a final torque as read, in the specification's unit; nothing where it fits its value.

    A place without a value, or with one that the wrench cannot be held against, is not judged here.
    """
    joint = state.joints.get(act.joint)
    if act.to != "torqued" or act.percent < 100 or act.reading is None or joint is None:
        return ""
    for bolt in (bolt for bolt in joint.bolts if bolt.number in act.places):
        spec = bolt.spec
        if spec is None or spec.torque is None:
            continue
        low, high = torque_range(spec)
        read = at_bolt(read_part(TORQUE, act.reading, "reading"), act.adapter)
        if low * (1 - 1e-9) <= read <= high * (1 + 1e-9):
            continue
        unit = spec.torque.unit
        wanted = spec.torque.text if spec.torque_to is None else f"{spec.torque.text} to {spec.torque_to.text}"
        told = f"{from_core(read, unit):.0f} {UNITS[unit].label}"
        said = f"{joint.label}, place {bolt.number}: {told} was read, {wanted} {UNITS[unit].label} is its value."
        typed = read_number(act.reading.text, "torque", act.reading.unit, "reading")
        same = low <= to_core(typed.number, unit) <= high
        return f"{said} The number is that of the value: was it {UNITS[unit].label}?" if same else said
    return ""


def _pass_follows(act: Worked, joint: Joint, state: JobState) -> None:
    """A pass begins once every other place has had the one before."""
    earlier = [one for one in joint.passes_pct if one < act.percent]
    if act.percent not in joint.passes_pct:
        listed = ", ".join(f"{one} %" for one in joint.passes_pct)
        raise InputError(f"“{joint.label}” is tightened in passes of {listed}.", field="percent")
    if not earlier:
        return
    short = [
        bolt.number for bolt in joint.bolts if percent_reached(state_of(state, joint, bolt.number)) < earlier[-1]
    ]
    if short:
        raise NotAllowed(
            f"Place {short[0]} of “{joint.label}” has not had its pass of {earlier[-1]} % yet: draw it down evenly."
        )
