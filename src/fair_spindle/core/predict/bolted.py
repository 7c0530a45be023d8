"""A look at the joints of a job: what is open, estimated, off its value, or doubtful by its thread."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import lru_cache
from math import hypot, radians

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.units import from_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.fasteners import assumed_class, doubt_torque, odd_thread, thread_name
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.bolts.stages import STAGES, has_reached
from fair_spindle.core.bolts.tightening import angle_tension, tension_by_nut_factor
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.joblog.bolt_needs import (
    is_final,
    needed_stages,
    state_of,
    target_torque,
    torque_range,
    waits_for_load,
)
from fair_spindle.core.joblog.bolt_state import BoltState, bolt_key
from fair_spindle.core.joblog.findings import Finding
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.single_use import OLD, put_in
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import DRIVING, JointGoal
from fair_spindle.core.predict.clamping import WoundUp, say_lift, say_twist

# Typical nut factors; common practice, no published source for a workshop's own compounds.
NUT_FACTORS = {"": 0.2, "dry": 0.3, "oiled": 0.18, "anti_seize": 0.12, "threadlocker": 0.2}
SOFT = 0.6
# Scatter of the tension a torque makes, as a share; a usual one, from memory of VDI 2230's classes of tightening.
FRICTION_SCATTER = 0.25
# Stretching length in diameters where it was not told, and how far off that may be as a share of what an angle adds.
USUAL_GRIP, USUAL_GRIP_OPEN = 5.0, 0.3
SLACK = 1e-9


def look_bolts(state: JobState) -> list[Finding]:
    """Say what is open at the bolts of a job: not final, not proven, clamped by override.

    A place that was worked on blocks the signature until it is final.

    Common practice, no published source.

    Examples
    --------
    >>> look_bolts(JobState())
    []
    """
    found = [finding for joint in state.joints.values() for finding in _joint(joint, state)]
    found += _unproven(state)
    for override in state.overrides:
        names = ", ".join(override.places)
        message = f"Clamped outside the rule by override: {names} ({override.reason})."
        found.append(Finding("override", "open", message, "joints"))
    return found


def look_clamped(state: JobState, readings: Readings, wound: Sequence[WoundUp]) -> list[Finding]:
    """Say where rubber is wound up, and what ties the corner that is carried.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    readings : Readings
        Says whether a sway bar ties two corners. [-]
    wound : sequence of WoundUp
        Rubber that was clamped off height. [rad]

    Returns
    -------
    list of Finding
        What stays open, what to ask.

    Raises
    ------
    Nothing.

    Notes
    -----
    The lift is that of all such rubber of the corner.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> look_clamped(JobState(), readings_now(JobState(), WORK), [])
    []
    """
    found = []
    for one in wound:
        lift = "" if one.lift is None else f"; all such rubber of this corner lifts it by {say_lift(one)}"
        name = f"{state.joints[one.joint].label}, place {one.number}"
        found.append(
            Finding(
                "wound_up",
                "open",
                f"{name}, was clamped at {one.height:.0f} mm: wound up by {say_twist(one)} at ride "
                f"height{lift}. Loosen it, settle, read the height, torque again.",
                f"joint.{one.joint}",
                "derived, see bushing-twist",
            )
        )
    axle = state.carried_axle
    layout = readings.words.get(f"{axle}.layout", "")
    if state.position == "corner_carried" and layout and not find_layout(layout).independent:
        found.append(
            Finding(
                "axle_tied",
                "question",
                f"The {axle} axle moves as one: with one side carried the other hangs and rolls it, its rubber with "
                "it. Carry both sides to their height, or load it on its wheels.",
                "position",
            )
        )
    if state.position == "corner_carried" and readings.words.get(f"{axle}.bar.fitted", "none") != "none":
        links = [joint for joint in state.joints.values() if joint.role == "link" and joint.axle == axle]
        loosened = any(
            (now := state.bolts.get(bolt_key(link.key, bolt.number))) and now.stage == "loose"
            for link in links
            for bolt in link.bolts
        )
        if not loosened:
            found.append(
                Finding(
                    "bar_tied",
                    "question",
                    f"The {axle} sway bar ties the carried corner to the hanging one: the stand goes light early. "
                    "Believe the height, not the stand, or take a link off.",
                    "position",
                )
            )
    return found


def _unproven(state: JobState) -> Iterator[Finding]:
    """Bonded rubber that is clamped without evidence of load, and without an override that says so."""
    overridden = {place for override in state.overrides for place in override.places}
    for joint in state.joints.values():
        if not waits_for_load(joint, state):
            continue
        for bolt in joint.bolts:
            now, name = state_of(state, joint, bolt.number), f"{joint.label}, place {bolt.number}"
            if now.stage in ("torqued", "angled", "locked", "marked", "rechecked") and not (
                now.clamp or name in overridden
            ):
                message = f"Bonded rubber torqued without evidence of load: {name}."
                yield Finding("clamp_unproven", "open", message, f"joint.{joint.key}")


@lru_cache(maxsize=1024)
def doubts_of(bolt: Bolt) -> tuple[str, ...]:
    """What looks wrong about a place's specification.

    Thread against ISO 261, torque against the bolt's proof load, dry figures on greased threads by the tension they
    make, aluminium at a little over half of what steel takes.

    Common practice, no published source.
    """
    found: list[str] = []
    if bolt.diameter_mm and bolt.pitch_mm and (thread := odd_thread(bolt.diameter_mm, bolt.pitch_mm)):
        found.append(thread)
    spec = bolt.spec
    if spec is None or spec.affirmed:
        return tuple(found)
    if not spec.source.strip():
        found.append("The value has no source.")
    if spec.torque is None or not (bolt.diameter_mm and bolt.pitch_mm):
        return tuple(found)
    number = read_number(spec.torque.text, "torque", spec.torque.unit, "torque")
    if spec.way == "torque":
        doubt = doubt_torque(number.number, number.unit, bolt.diameter_mm, bolt.pitch_mm, bolt.property_class or None)
        if doubt:
            found.append(doubt.message)
    strain = strain_of(bolt)
    share, grade = (strain.share, strain.grade) if strain else (0.0, "")
    if spec.condition and bolt.condition and spec.condition != bolt.condition:
        found.append(
            f"The value is for a {spec.condition.replace('_', '-')} thread, this one is "
            f"{bolt.condition.replace('_', '-')}: it would come to {share:.0%} of the proof load of class {grade}."
        )
    if bolt.aluminium and share > SOFT:
        found.append(
            f"Into aluminium: {share:.0%} of what a class {grade} bolt takes may strip the thread. By hand, no "
            "impact driver; check the depth of thread."
        )
    return tuple(found)


@value_object
class Strain:
    """What tightening a place as specified does: tension [N], share of the proof load with ± [-], class judged by."""

    force: float
    share: float
    plus_minus: float
    grade: str


@lru_cache(maxsize=1024)
def strain_of(bolt: Bolt) -> Strain | None:
    """Tension that a place's torque, and an angle after it, make; None where thread or torque are not told.

    By the nut factor of the thread's condition as it is now, ± 25 %, a usual scatter; the class as told, or the
    weakest that makes sense.  An angle adds what bolt and joint stretch by it; where the length is not
    told, of four to six diameters.
    """
    if bolt.spec is None or bolt.spec.torque is None or not (bolt.diameter_mm and bolt.pitch_mm):
        return None
    torque = target_torque(bolt.spec)
    grade = assumed_class(torque, bolt.diameter_mm, bolt.pitch_mm, bolt.property_class or None)
    factor = NUT_FACTORS[bolt.condition or bolt.spec.condition]
    by_torque = tension_by_nut_factor(torque, bolt.diameter_mm, bolt.pitch_mm, grade, factor)
    force, open_ = by_torque.force, FRICTION_SCATTER * by_torque.force
    if bolt.spec.way == "torque_angle" and bolt.spec.angle_deg:
        grip = bolt.length_mm or USUAL_GRIP * bolt.diameter_mm
        added, unsure = angle_tension(bolt.diameter_mm, bolt.pitch_mm, grip, radians(bolt.spec.angle_deg))
        unsure = unsure if bolt.length_mm else hypot(unsure, added * USUAL_GRIP_OPEN)
        force, open_ = force + added, hypot(open_, unsure)
    proof = by_torque.force / by_torque.share
    return Strain(force, force / proof, open_ / proof, grade)


def swapped(joint: Joint) -> str:
    """Say that two fasteners of a joint probably carry each other's value.

    Where a thinner bolt is to be tightened more than a thicker one of the same joint, and both would be usual the
    other way round.

    Common practice, no published source.
    """
    known = [
        (bolt, target_torque(bolt.spec))
        for bolt in joint.bolts
        if bolt.spec and bolt.spec.torque and bolt.diameter_mm
    ]
    for first, low in known:
        for second, high in known:
            if (
                first.diameter_mm > second.diameter_mm
                and low < high
                and not _usual(first, low)
                and _usual(first, high)
            ):
                return (
                    f"Places {first.number} and {second.number} may have each other's value: the thicker one, "
                    f"{thread_name(first.diameter_mm, first.pitch_mm)}, is to get less."
                )
    return ""


def _usual(bolt: Bolt, torque: float) -> bool:
    number = from_core(torque, "nm")
    return doubt_torque(number, "nm", bolt.diameter_mm, bolt.pitch_mm, bolt.property_class or None) is None


def _joint(joint: Joint, state: JobState) -> Iterator[Finding]:
    subject = f"joint.{joint.key}"
    standing = {bolt.number: state.bolts.get(bolt_key(joint.key, bolt.number), BoltState()) for bolt in joint.bolts}
    touched = any(now.stage for now in standing.values())
    groups: dict[str, list[str]] = {}
    for one in joint.bolts:
        if touched and not is_final(one, standing[one.number]):
            stage = standing[one.number].stage
            said = f"{STAGES[stage].said if stage else 'as found'}, must be {STAGES[needed_stages(one).final].said}"
            groups.setdefault(said, []).append(str(one.number))
    for said, places in groups.items():
        where = f"{joint.label}, place {', '.join(places)}"
        if joint.role == "jam" and _waits_for_the_rack(joint, state):
            yield Finding("jam_for_the_rack", "open", f"{where}: firm for the drive, final after the rack.", subject)
            continue
        code = "jam_open" if joint.role == "jam" else "not_final"
        yield Finding(code, "blocks", f"{where}: {said}.", subject)
    for one in joint.bolts:
        yield from _place(one, standing[one.number], f"{joint.label}, place {one.number}", subject, touched)
    yield from _new_ones(joint, state, touched)
    if words := swapped(joint):
        yield Finding("swapped", "question", f"{joint.label}: {words}", subject)


def _waits_for_the_rack(joint: Joint, state: JobState) -> bool:
    """Whether a jam nut is firm, and the plan locks it only once the car was on a rack."""
    steps = state.plan.steps if state.plan else ()
    last = [step for step in steps if any(goal == JointGoal(joint.key, "torqued") for goal in step.brings_joints)]
    firm = all(has_reached(state_of(state, joint, bolt.number).stage, "snug") for bolt in joint.bolts)
    return firm and bool(last) and last[-1].phase > DRIVING


def _place(one: Bolt, now: BoltState, name: str, subject: str, touched: bool) -> Iterator[Finding]:
    for doubt in doubts_of(one):
        yield Finding("torque_doubt", "question", f"{name}: {doubt}", subject, "shigley, iso-898-1")
    if now.by_feel:
        yield Finding("by_feel", "open", f"Torque estimated by feel: {name} ({now.by_feel}).", subject)
    elif now.torque is not None and one.spec and now.percent >= 100:
        low, high = torque_range(one.spec)
        if high and not low * (1 - SLACK) <= now.torque <= high * (1 + SLACK):
            message = (
                f"Reading differs from the specification: {name}, {now.torque / 1000:.0f} N·m at the bolt, "
                f"wanted {low / 1000:.0f} to {high / 1000:.0f} N·m."
            )
            kept = f" Kept: {now.kept}." if now.kept else ""
            yield Finding("reading_off", "open" if kept else "blocks", f"{message}{kept}", subject)
    if one.single_use and touched and now.stage in ("loose", None):
        yield Finding("single_use", "question", f"{name} is single-use: a new one must be at hand.", subject)


def _new_ones(joint: Joint, state: JobState, touched: bool) -> Iterator[Finding]:
    """What was said of a joint's single-use fasteners, where its plan asks it."""
    single = any(bolt.single_use for bolt in joint.bolts)
    if not (single and touched and state.plan and state.plan.asks_new):
        return
    answer, subject = put_in(joint, state), f"joint.{joint.key}"
    if answer == OLD:
        yield Finding("used_again", "open", f"{joint.label}: single-use, and the old one went back in.", subject)
    elif not answer:
        yield Finding("new_one", "question", f"{joint.label} is single-use: nobody said a new one is in.", subject)
