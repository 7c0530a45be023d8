"""Whether a joint's map can be drawn, and whether it may be taken off again."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace
from itertools import pairwise

from fair_spindle.core.basics.errors import InputError, NotAllowed, require
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import other_side
from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.joblog.bolt_needs import (
    TORQUE,
    find_joint,
)
from fair_spindle.core.joblog.bolt_state import BoltState, bolt_key
from fair_spindle.core.joblog.log import Drawn, Erased
from fair_spindle.core.joblog.readings import read_part
from fair_spindle.core.joblog.state import JobState

# Places of a joint.
MOST_PLACES = 60


def permit_drawn(act: Drawn, state: JobState) -> Drawn:
    """Accept a joint's map, or say what is wrong with it.

    A torque needs its source: this product never invents one.

    Raises InputError, OutOfRange: An empty name, no place, numbers that stand twice, a thread or torque that cannot
    be. Raises NotAllowed: A place that was worked on would vanish.

    Common practice, no published source.
    """
    joint = act.joint
    require(
        joint.key.strip() and ":" not in joint.key and len(joint.key) <= 60,
        "joint.key",
        "A joint's key is 1 to 60 letters without a colon",
        repr(joint.key),
        kind=InputError,
    )
    require(
        0 < len(joint.label.strip()) <= 80, "joint.label", "A joint needs a name of up to 80 letters", joint.label
    )
    require(
        1 <= len(joint.bolts) <= MOST_PLACES,
        "joint.bolts",
        f"A joint has 1 to {MOST_PLACES} places",
        len(joint.bolts),
        kind=InputError,
    )
    numbers = [bolt.number for bolt in joint.bolts]
    if len(set(numbers)) < len(numbers):
        raise InputError("Two places carry the same number.", field="joint.bolts")
    passes = joint.passes_pct
    if not passes or passes[-1] != 100 or passes[0] <= 0 or any(one >= other for one, other in pairwise(passes)):
        raise InputError("Passes are percents that rise to 100, for example 50, 100.", field="joint.passes_pct")
    for bolt in joint.bolts:
        _bolt_checked(bolt)
    require(
        joint.role != "rubber_pivot" or (joint.axle and joint.side),
        "joint.side",
        "A rubber pivot needs its axle and side, so that its height can be asked for",
        "none",
        kind=InputError,
    )
    worked = [key for key in state.bolts if key.split(":")[0] == joint.key and state.bolts[key].stage]
    old = state.joints.get(joint.key)
    held = [key for key in worked if state.bolts[key].stage != "loose"]
    if held and old and _turns_as(old) != _turns_as(joint):
        raise NotAllowed(
            f"“{old.label}” was tightened as it is: record it loose before kind, bushing, arm or corner is changed."
        )
    lost = [key for key in worked if int(key.split(":")[1]) not in numbers]
    if lost:
        raise NotAllowed(f"Place {lost[0].split(':')[1]} was worked on already; it cannot be taken off the map.")
    return act


def _turns_as(joint: Joint) -> tuple[str, ...]:
    """What decides how a joint waits for load."""
    return joint.role, joint.bushing, joint.told_by, joint.arm, joint.axle, joint.side


def _bolt_checked(bolt: Bolt) -> None:
    where = f"joint.bolts.{bolt.number}"
    require(1 <= bolt.number <= 99, f"{where}.number", "A place's number lies between 1 and 99", bolt.number)
    for name, at in (("x_mm", bolt.x_mm), ("y_mm", bolt.y_mm)):
        require(abs(at) <= 5000, f"{where}.{name}", "A place lies within 5000 mm", at)
    if bolt.diameter_mm or bolt.pitch_mm:
        require(3 <= bolt.diameter_mm <= 42, f"{where}.diameter_mm", "Thread diameter: 3 to 42 mm", bolt.diameter_mm)
        require(
            0.35 <= bolt.pitch_mm <= bolt.diameter_mm / 3,
            f"{where}.pitch_mm",
            f"The pitch of an M{bolt.diameter_mm:g} thread lies between 0.35 mm and a third of its diameter",
            bolt.pitch_mm,
        )
    require(
        0 <= bolt.length_mm <= 1000, f"{where}.length_mm", "The length lies between 0 and 1000 mm", bolt.length_mm
    )
    require(bolt.slots == 0 or 2 <= bolt.slots <= 12, f"{where}.slots", "A castle nut has 2 to 12 slots", bolt.slots)
    if bolt.spec:
        _spec_checked(bolt.spec, f"{where}.spec")


def _spec_checked(spec: BoltSpec, where: str) -> None:
    if spec.way in ("torque", "torque_angle"):
        require(spec.torque, f"{where}.torque", "This specification needs a torque", "none", kind=InputError)
    low = read_part(TORQUE, spec.torque, f"{where}.torque") if spec.torque else 0.0
    if spec.torque_to:
        high = read_part(TORQUE, spec.torque_to, f"{where}.torque_to")
        require(high > low, f"{where}.torque_to", "A range ends above where it begins", spec.torque_to.text)
    if spec.way in ("torque_angle", "angle"):
        require(0 < spec.angle_deg <= 720, f"{where}.angle_deg", "The angle lies between 0 and 720°", spec.angle_deg)
    if spec.way == "stretch":
        require(
            0 < spec.stretch_mm <= 3, f"{where}.stretch_mm", "The stretch lies between 0 and 3 mm", spec.stretch_mm
        )
    require(spec.source.strip(), f"{where}.source", "Say where the value comes from", "nothing", kind=InputError)


@value_object
class Change:
    """What is changed at places of a joint; what is None stays as it is at each of them."""

    torque: Typed | None = None
    source: str | None = None
    note: str | None = None
    head: str | None = None
    hold: str | None = None
    diameter_mm: float | None = None
    pitch_mm: float | None = None
    property_class: str | None = None
    affirmed: bool | None = None

    def both_sides(self) -> Change:
        """What holds at the other side too; which way round a bolt stands does not."""
        return replace(self, note=None)


def changed_places(joint: Joint, places: Collection[int], change: Change) -> Joint:
    """A joint with a change at some of its places, everything else as it was at each of them."""
    return replace(
        joint, bolts=tuple(_changed(bolt, change) if bolt.number in places else bolt for bolt in joint.bolts)
    )


def _changed(bolt: Bolt, change: Change) -> Bolt:
    own = {
        name: told
        for name in ("note", "head", "hold", "diameter_mm", "pitch_mm", "property_class")
        if (told := getattr(change, name)) is not None
    }
    told = {"torque": change.torque, "source": change.source, "affirmed": change.affirmed}
    of_spec = {name: value for name, value in told.items() if value is not None}
    if change.torque and change.torque.text.strip() == "":
        return replace(bolt, spec=None, **own)
    spec = replace(bolt.spec or BoltSpec(), **of_spec) if of_spec else bolt.spec
    return replace(bolt, spec=spec, **own)


def other_side_of(joint: Joint, state: JobState) -> Joint | None:
    """The same joint at the other side of the car, where there is one."""
    if not joint.side:
        return None
    mine, theirs = (joint.side, other_side(joint.side))
    parts = [theirs if part == mine else part for part in joint.key.split(".")]
    found = state.joints.get(".".join(parts))
    return found if found and found.key != joint.key else None


def permit_erased(act: Erased, state: JobState) -> Erased:
    """Accept that a joint is taken off, or say why not.

    What was worked on stays on the record.

    Raises NotFound: No such joint. Raises NotAllowed: It was worked on.
    """
    joint = find_joint(state, act.joint)
    if any(state.bolts.get(bolt_key(joint.key, bolt.number), BoltState()).stage for bolt in joint.bolts):
        raise NotAllowed(f"“{joint.label}” was worked on; it stays on the record.")
    return act
