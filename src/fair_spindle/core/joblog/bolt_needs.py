"""What each place of a joint needs: its stages, its torque in every pass, its order, what comes next."""

from __future__ import annotations

from math import radians

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.bolts.stages import WorkStage, has_reached
from fair_spindle.core.bolts.tightening import ORDERS, set_with_adapter, tighten_order
from fair_spindle.core.fields.field import Part
from fair_spindle.core.joblog.bolt_state import BoltState, bolt_key
from fair_spindle.core.joblog.log import Adapter
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.springs.rubber import BONDED_KINDS

TORQUE = Part("torque", "Torque", "torque", "nm", 0.5, 1500)


WITHIN = 0.05
KEPT_ORDERS = 2048


@value_object
class Needed:
    """What a place still has to go through: its stages in order, and the last that must be reached."""

    stages: tuple[WorkStage, ...]
    final: WorkStage


def needed_stages(bolt: Bolt) -> Needed:
    """The stages a place goes through, by its specification and its lock.

    An angle comes after the torque; a cotter pin, tab or jam nut locks at the end. Paint and a check after the drive
    are recorded, not required.

    Common practice, no published source.

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

    As :func:`needed_stages`.
    """
    return has_reached(now.stage, needed_stages(bolt).final)


def following(bolt: Bolt, now: BoltState) -> WorkStage:
    """What a place can be brought to next, by itself.

    As :func:`needed_stages`.

    Common practice, no published source.

    Examples
    --------
    >>> following(Bolt(1), BoltState("snug")), following(Bolt(1), BoltState("torqued"))
    ('torqued', 'marked')
    """
    if is_final(bolt, now):
        return "rechecked" if has_reached(now.stage, "marked") else "marked"
    return next(stage for stage in needed_stages(bolt).stages[1:] if not has_reached(now.stage, stage))


def waits_for_load(joint: Joint, state: JobState) -> bool:
    """Whether a joint's final torque waits for load: bonded rubber, or rubber of unknown kind.

    Greased, spherical and rolling pivots may be tightened at any height.

    Common practice, no published source.
    """
    told = state.entries.get(joint.told_by)
    bushing = told.act.choice if told else joint.bushing
    return joint.role == "rubber_pivot" and (not bushing or bushing in BONDED_KINDS)


def find_joint(state: JobState, key: str) -> Joint:
    """Look a joint up.

    Of the job, or of the car's record.

    Raises NotFound: No such joint.
    """
    if key not in state.joints:
        raise NotFound(f"There is no joint {key!r} here.", field="joint")
    return state.joints[key]


def state_of(state: JobState, joint: Joint, number: int) -> BoltState:
    """Where a place of a joint stands.

    Places are kept by joint and number.
    """
    return state.bolts.get(bolt_key(joint.key, number), BoltState())


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
    >>> from fair_spindle.core.basics.typed import Typed
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
    >>> from fair_spindle.core.basics.typed import Typed
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
    As :func:`fair_spindle.core.bolts.tightening.set_with_adapter`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.basics.typed import Typed
    >>> to_set(BoltSpec(torque=Typed("100", "nm")), 100, Adapter(400.0, 100.0))
    80000.0
    """
    target = target_torque(spec, percent)
    if not target:
        return None
    if adapter is None:
        return target
    return set_with_adapter(target, adapter.wrench_mm, adapter.adapter_mm, radians(adapter.angle_deg))


def percent_reached(now: BoltState) -> int:
    """How much of its final torque a place has had.

    Parameters
    ----------
    now : BoltState
        Where it stands. [-]

    Returns
    -------
    int
        100 from the final torque on. [%]

    Raises
    ------
    Nothing.

    Notes
    -----
    A pass before the last leaves a place snug.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> percent_reached(BoltState("snug", percent=40))
    40
    """
    return 100 if has_reached(now.stage, "torqued") else now.percent


@value_object
class NextWork:
    """What comes next on a joint: the stage, the place, the pass; no place where the joint is finished."""

    to: WorkStage | None
    number: int | None
    percent: int = 100


def next_work(joint: Joint, state: JobState) -> NextWork:
    """What is to be done next on a joint, in its order.

    All by hand, all snug, then pass after pass in the order of the joint, then angles, then locks.

    Common practice, no published source.
    """
    bolts = [joint.bolts[place] for place in order_of(joint)]
    stages = {bolt.number: state_of(state, joint, bolt.number) for bolt in bolts}

    def short(to: WorkStage) -> list[Bolt]:
        return [
            bolt
            for bolt in bolts
            if to in needed_stages(bolt).stages and not has_reached(stages[bolt.number].stage, to)
        ]

    before: tuple[WorkStage, ...] = ("hand", "snug")
    after: tuple[WorkStage, ...] = ("angled", "locked")
    for to in before:
        if left := short(to):
            return NextWork(to, left[0].number)
    for percent in joint.passes_pct:
        for one in bolts:
            if percent_reached(stages[one.number]) < percent:
                return NextWork("torqued", one.number, percent)
    for to in after:
        if left := short(to):
            return NextWork(to, left[0].number)
    return NextWork(None, None)


def alike_next(joint: Joint, state: JobState) -> tuple[int, ...]:
    """Places that may be brought in one go to what comes next: those short of it that are to be tightened alike.

    In the joint's order; places with an angle or a lock to come go one by one there.
    """
    work = next_work(joint, state)
    if work.number is None or work.to in ("angled", "locked"):
        return () if work.number is None else (work.number,)
    bolts = {bolt.number: bolt for bolt in joint.bolts}
    spec = bolts[work.number].spec

    def short(number: int) -> bool:
        now = state_of(state, joint, number)
        if work.to == "torqued":
            return percent_reached(now) < work.percent and bolts[number].spec == spec
        return not has_reached(now.stage, work.to or "hand")

    ordered = (joint.bolts[place].number for place in order_of(joint))
    return tuple(number for number in ordered if short(number))


@by_identity(most=KEPT_ORDERS)
def order_of(joint: Joint) -> tuple[int, ...]:
    """Order of a joint's places, counted from 0.

    As :func:`fair_spindle.core.bolts.tightening.tighten_order`; places that were never drawn go by their numbers.

    Common practice, no published source.

    Examples
    --------
    >>> order_of(Joint("a", "Arm", "clamp", (Bolt(2), Bolt(1))))
    (1, 0)
    """
    places = [(bolt.x_mm, bolt.y_mm) for bolt in joint.bolts]
    if len(set(places)) < len(places) or joint.order not in ORDERS:
        return tuple(sorted(range(len(joint.bolts)), key=lambda place: joint.bolts[place].number))
    return tighten_order(places, joint.order)
