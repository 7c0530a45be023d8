"""Joints with a map: what each place needs, what may be done to it now, and what comes next."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from itertools import pairwise
from math import radians

from fair_spindle.core.errors import InputError, NotAllowed, NotFound, OutOfRange, require
from fair_spindle.core.floor.loading import height_gate
from fair_spindle.core.floor.log import Adapter, Bolt, BoltSpec, Drawn, Erased, Joint, Worked, WorkStage
from fair_spindle.core.floor.readings import read_part
from fair_spindle.core.floor.state import BoltState, JobState, at_bolt, bolt_key
from fair_spindle.core.rubber import BONDED_KINDS
from fair_spindle.core.sheet.field import Part
from fair_spindle.core.spelling import read_number
from fair_spindle.core.tightening import ORDERS, set_with_adapter, tighten_order

TORQUE = Part("torque", "Torque", "torque", "nm", 0.5, 1500)
WITHIN = 0.05
STAGES: tuple[WorkStage, ...] = ("loose", "hand", "snug", "torqued", "angled", "locked", "marked", "rechecked")
SAID: dict[WorkStage, str] = {
    "loose": "loose",
    "hand": "started by hand",
    "snug": "snug",
    "torqued": "torqued",
    "angled": "turned through its angle",
    "locked": "locked",
    "marked": "marked",
    "rechecked": "checked again",
}


@dataclass(frozen=True)
class Needed:
    """What a place still has to go through: its stages in order, and the last that must be reached."""

    stages: tuple[WorkStage, ...]
    final: WorkStage


def needed_stages(bolt: Bolt) -> Needed:
    """The stages a place goes through, by its specification and its lock.

    Parameters
    ----------
    bolt : Bolt
        The place. [-]

    Returns
    -------
    Needed
        From loose to the paint mark; the final one before paint.

    Raises
    ------
    Nothing.

    Notes
    -----
    An angle comes after the torque; a cotter pin, tab or jam nut locks at the end.  Paint and a check after the drive
    are recorded, not required.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> needed_stages(Bolt(1, lock="cotter")).final
    'locked'
    >>> needed_stages(Bolt(1, spec=BoltSpec("torque_angle", angle_deg=90))).stages
    ('loose', 'hand', 'snug', 'torqued', 'angled')
    """
    stages: tuple[WorkStage, ...] = ("loose", "hand", "snug", "torqued")
    if bolt.spec and bolt.spec.way in ("torque_angle", "angle"):
        stages = (*stages, "angled")
    if bolt.lock:
        stages = (*stages, "locked")
    return Needed(stages, stages[-1])


def is_final(bolt: Bolt, now: BoltState) -> bool:
    """Whether a place is finished.

    Parameters
    ----------
    bolt : Bolt
        The place. [-]
    now : BoltState
        Where it stands. [-]

    Returns
    -------
    bool
        True from its final stage on.

    Raises
    ------
    Nothing.

    Notes
    -----
    As :func:`needed_stages`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> is_final(Bolt(1), BoltState("torqued"))
    True
    """
    return now.stage is not None and STAGES.index(now.stage) >= STAGES.index(needed_stages(bolt).final)


def waits_for_load(joint: Joint) -> bool:
    """Whether a joint's final torque waits for load: bonded rubber, or rubber of unknown kind.

    Parameters
    ----------
    joint : Joint
        The joint. [-]

    Returns
    -------
    bool
        True for a rubber pivot unless its bushing was said to turn freely.

    Raises
    ------
    Nothing.

    Notes
    -----
    Greased, spherical and rolling pivots may be tightened at any height.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> waits_for_load(Joint("a", "Arm", "rubber_pivot", (), bushing="greased_poly"))
    False
    """
    return joint.role == "rubber_pivot" and (not joint.bushing or joint.bushing in BONDED_KINDS)


def permit_drawn(act: Drawn, state: JobState) -> Drawn:
    """Accept a joint's map, or say what is wrong with it.

    Parameters
    ----------
    act : Drawn
        The map. [-]
    state : JobState
        What is true now. [-]

    Returns
    -------
    Drawn
        The same.

    Raises
    ------
    InputError, OutOfRange
        An empty name, no place, numbers that stand twice, a thread or torque that cannot be.
    NotAllowed
        A place that was worked on would vanish.

    Notes
    -----
    A torque needs its source: this product never invents one.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> permit_drawn(Drawn(Joint("a", "Arm", "clamp", (Bolt(1),))), JobState()).joint.label
    'Arm'
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
        1 <= len(joint.bolts) <= 60, "joint.bolts", "A joint has 1 to 60 places", len(joint.bolts), kind=InputError
    )
    numbers = [one.number for one in joint.bolts]
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
    lost = [key for key in worked if int(key.split(":")[1]) not in numbers]
    if lost:
        raise NotAllowed(f"Place {lost[0].split(':')[1]} was worked on already; it cannot be taken off the map.")
    return act


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


def permit_erased(act: Erased, state: JobState) -> Erased:
    """Accept that a joint is taken off, or say why not.

    Parameters
    ----------
    act : Erased
        Which. [-]
    state : JobState
        What is true now. [-]

    Returns
    -------
    Erased
        The same.

    Raises
    ------
    NotFound
        No such joint.
    NotAllowed
        It was worked on.

    Notes
    -----
    What was worked on stays on the record.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> state = JobState(joints={"a": Joint("a", "Arm", "clamp", (Bolt(1),))})
    >>> permit_erased(Erased("a"), state).joint
    'a'
    """
    joint = find_joint(state, act.joint)
    if any(state.bolts.get(bolt_key(joint.key, one.number), BoltState()).stage for one in joint.bolts):
        raise NotAllowed(f"“{joint.label}” was worked on; it stays on the record.")
    return act


def find_joint(state: JobState, key: str) -> Joint:
    """Look a joint up.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    key : str
        Its key. [-]

    Returns
    -------
    Joint
        The joint.

    Raises
    ------
    NotFound
        No such joint.

    Notes
    -----
    Of the job, or of the car's record.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> find_joint(JobState(joints={"a": Joint("a", "Arm", "clamp", ())}), "a").label
    'Arm'
    """
    if key not in state.joints:
        raise NotFound(f"There is no joint {key!r} here.", field="joint")
    return state.joints[key]


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
    by_number = {one.number: one for one in joint.bolts}
    require(act.places, "places", "At least one place must be named", "none", kind=InputError)
    for number in act.places:
        if number not in by_number:
            raise NotFound(f"“{joint.label}” has no place {number}.", field="places")
        _follows(act, joint, by_number[number], _now(state, joint, number))
    act = replace(act, clamp=None, at_height_mm=None)
    if act.to == "torqued":
        return _torqued(act, joint, by_number, state, windows)
    if act.to == "angled":
        require(0 < act.angle_deg <= 720, "angle_deg", "Say by how many degrees it was turned on", act.angle_deg)
    elif act.to == "locked":
        require(0 <= act.angle_deg <= 60, "angle_deg", _FORWARD, f"{act.angle_deg:g}°")
    elif act.to == "rechecked" and act.reading:
        read_part(TORQUE, act.reading, "reading")
    return replace(act, override="", adapter=act.adapter if act.to == "snug" else None)


_FORWARD = "A castle nut only goes forward to its slot, by 0 to 60°, never back"
_BEFORE: dict[WorkStage, tuple[WorkStage | None, ...]] = {
    "loose": (None, *STAGES),
    "hand": (None, "loose"),
    "snug": ("hand",),
    "torqued": ("snug", "torqued"),
    "angled": ("torqued", "snug"),
    "locked": ("torqued", "angled"),
    "marked": ("torqued", "angled", "locked"),
    "rechecked": ("torqued", "angled", "locked", "marked", "rechecked"),
}


def _now(state: JobState, joint: Joint, number: int) -> BoltState:
    return state.bolts.get(bolt_key(joint.key, number), BoltState())


def _follows(act: Worked, joint: Joint, bolt: Bolt, now: BoltState) -> None:
    name = f"{joint.label}, place {bolt.number}"
    needed = needed_stages(bolt)
    if act.to in ("angled", "locked") and act.to not in needed.stages:
        what = {"angled": "an angle", "locked": "a lock"}[act.to]
        raise NotAllowed(f"{name} has no {what.split()[1]} in its specification. Add {what} to it first.")
    if act.to in ("marked", "rechecked") and not is_final(bolt, now):
        raise NotAllowed(f"{name} must be {SAID[needed.final]} first.")
    if act.to == "locked" and "angled" in needed.stages and now.stage != "angled":
        raise NotAllowed(f"{name} must be {SAID['angled']} first.")
    if act.to == "angled" and now.stage == "snug" and not (bolt.spec and bolt.spec.way == "angle"):
        raise NotAllowed(f"{name} must be torqued first.")
    if now.stage in _BEFORE[act.to]:
        return
    if now.stage is None or STAGES.index(now.stage) < STAGES.index(act.to):
        first = next(one for one in _BEFORE[act.to] if one is not None)
        raise NotAllowed(f"{name} must be {SAID[first]} first.")
    raise NotAllowed(f"{name} is {SAID[now.stage]} already. Record it loose first if it was opened.")


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
        one.number
        for one in joint.bolts
        if (stage := _now(state, joint, one.number).stage) is None or STAGES.index(stage) < STAGES.index("hand")
    ]
    if unstarted:
        raise NotAllowed(f"Start every place of “{joint.label}” by hand first: place {unstarted[0]} is not.")
    _pass_follows(act, joint, state)
    if act.percent < 100:
        return replace(act, override="")
    if joint.role in ("wheel", "axle") and state.position != "on_wheels":
        what = "Wheel nuts get" if joint.role == "wheel" else "An axle nut gets"
        raise NotAllowed(f"{what} the final torque on the ground. Snug it in the air.")
    if not waits_for_load(joint):
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


def torque_range(spec: BoltSpec, percent: int = 100) -> tuple[float, float]:
    """Lowest and highest torque a specification allows in a pass.

    Parameters
    ----------
    spec : BoltSpec
        As typed. [-]
    percent : int, optional
        Of the final torque. [%]

    Returns
    -------
    tuple of float
        Zeroes where it tells no torque. [N·mm]

    Raises
    ------
    InputError
        A text that is no torque.

    Notes
    -----
    A single value may be missed by 5 %, the product's own default.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Typed
    >>> torque_range(BoltSpec(torque=Typed("100", "nm")))
    (95000.0, 105000.0)
    """
    if spec.torque is None:
        return 0.0, 0.0
    first = read_number(spec.torque.text, "torque", spec.torque.unit, "torque").value
    share = percent / 100
    if spec.torque_to is None:
        return first * share * (1 - WITHIN), first * share * (1 + WITHIN)
    last = read_number(spec.torque_to.text, "torque", spec.torque_to.unit, "torque_to").value
    return first * share, last * share


def target_torque(spec: BoltSpec, percent: int = 100) -> float:
    """Torque to aim at in a pass.

    Parameters
    ----------
    spec : BoltSpec
        As typed. [-]
    percent : int, optional
        Of the final torque. [%]

    Returns
    -------
    float
        The value, or the middle of the range. [N·mm]

    Raises
    ------
    InputError
        A text that is no torque.

    Notes
    -----
    As :func:`torque_range`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Typed
    >>> target_torque(BoltSpec(torque=Typed("100", "nm"), torque_to=Typed("120", "nm")), 50)
    55000.0
    """
    low, high = torque_range(spec, percent)
    return (low + high) / 2


def to_set(spec: BoltSpec, percent: int, adapter: Adapter | None) -> float | None:
    """What to set on the wrench in a pass, with what is on it.

    Parameters
    ----------
    spec : BoltSpec
        As typed. [-]
    percent : int
        Of the final torque. [%]
    adapter : Adapter, optional
        On the wrench. [mm, deg]

    Returns
    -------
    float or None
        None where the specification tells no torque. [N·mm]

    Raises
    ------
    OutOfRange
        An adapter that cannot be.

    Notes
    -----
    As :func:`fair_spindle.core.tightening.set_with_adapter`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Typed
    >>> to_set(BoltSpec(torque=Typed("100", "nm")), 100, Adapter(400.0, 100.0))
    80000.0
    """
    target = target_torque(spec, percent)
    if not target:
        return None
    if adapter is None:
        return target
    return set_with_adapter(target, adapter.wrench_mm, adapter.adapter_mm, radians(adapter.angle_deg))


def _pass_follows(act: Worked, joint: Joint, state: JobState) -> None:
    """A pass begins once every other place has had the one before."""
    earlier = [one for one in joint.passes_pct if one < act.percent]
    if act.percent not in joint.passes_pct:
        listed = ", ".join(f"{one} %" for one in joint.passes_pct)
        raise InputError(f"“{joint.label}” is tightened in passes of {listed}.", field="percent")
    if not earlier:
        return
    short = [one.number for one in joint.bolts if _percent(_now(state, joint, one.number)) < earlier[-1]]
    if short:
        raise NotAllowed(
            f"Place {short[0]} of “{joint.label}” has not had its pass of {earlier[-1]} % yet: draw it down evenly."
        )


def _percent(now: BoltState) -> int:
    return 100 if now.stage and STAGES.index(now.stage) >= STAGES.index("torqued") else now.percent


@dataclass(frozen=True)
class NextWork:
    """What comes next on a joint: the stage, the place, the pass; no place where the joint is finished."""

    to: WorkStage | None
    number: int | None
    percent: int = 100


def next_work(joint: Joint, state: JobState) -> NextWork:
    """What is to be done next on a joint, in its order.

    Parameters
    ----------
    joint : Joint
        The joint. [-]
    state : JobState
        What is true now. [-]

    Returns
    -------
    NextWork
        Nothing where every place is final.

    Raises
    ------
    Nothing.

    Notes
    -----
    All by hand, all snug, then pass after pass in the order of the joint, then angles, then locks.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> next_work(Joint("a", "Arm", "clamp", (Bolt(1), Bolt(2))), JobState()).to
    'hand'
    """
    bolts = [joint.bolts[place] for place in order_of(joint)]
    stages = {one.number: _now(state, joint, one.number) for one in bolts}

    def short(to: WorkStage) -> list[Bolt]:
        return [
            one
            for one in bolts
            if to in needed_stages(one).stages
            and ((at := stages[one.number].stage) is None or STAGES.index(at) < STAGES.index(to))
        ]

    before: tuple[WorkStage, ...] = ("hand", "snug")
    after: tuple[WorkStage, ...] = ("angled", "locked")
    for to in before:
        if left := short(to):
            return NextWork(to, left[0].number)
    for percent in joint.passes_pct:
        for one in bolts:
            if _percent(stages[one.number]) < percent:
                return NextWork("torqued", one.number, percent)
    for to in after:
        if left := short(to):
            return NextWork(to, left[0].number)
    return NextWork(None, None)


def order_of(joint: Joint) -> tuple[int, ...]:
    """Order of a joint's places, counted from 0.

    Parameters
    ----------
    joint : Joint
        The joint. [-]

    Returns
    -------
    tuple of int
        As its rule has it.

    Raises
    ------
    Nothing.

    Notes
    -----
    As :func:`fair_spindle.core.tightening.tighten_order`; places that were never drawn go by their numbers.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> order_of(Joint("a", "Arm", "clamp", (Bolt(2), Bolt(1))))
    (1, 0)
    """
    places = [(one.x_mm, one.y_mm) for one in joint.bolts]
    if len(set(places)) < len(places) or joint.order not in ORDERS:
        return tuple(sorted(range(len(joint.bolts)), key=lambda place: joint.bolts[place].number))
    return tighten_order(places, joint.order)
