"""The turns of every wheel: the rear axle first, then the front to the thrust line it leaves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.wheels import SIDES, wheels_at
from fair_spindle.core.geometry.slopes import angles_at
from fair_spindle.core.geometry.toe import AxleToe, axle_toe
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.turns.adjuster import changes_by_link
from fair_spindle.core.turns.axle_turns import STEERING_WHEEL_WITHIN, Across, realign_axle, toe_across
from fair_spindle.core.turns.monte_carlo import SAMPLES, AxleSureness, Sureness, how_sure
from fair_spindle.core.turns.realign import ANGLES, Realigned, Wanted, angles_of, realign, settle, try_steps

WORTH = 0.5
# How far off what a turn does may be, when it is asked whether turning is worth it.
STEP_OPEN = 0.15
# Chance from which an angle is told to end inside its tolerance.  The product's own.
LIKELY = 0.7
# How far what a turn does may be off, as a share of it.  The product's own.
TURNING_OPEN = 0.05


@dataclass(frozen=True)
class WheelPlan:
    """The plan for one wheel: the turns, how sure they are, or why there is no plan.

    ``targets`` are those planned for, with the rear thrust in a front wheel's toe. [rad]
    """

    wheel: Wheel
    plan: Realigned | None
    sureness: Sureness | None
    problem: str
    targets: Mapping[str, float]


@dataclass(frozen=True)
class AxlePlan:
    """The toe an axle ends at; where both its wheels are planned, what they make together and how sure that is."""

    toe: AxleToe
    across: tuple[Across, ...] = ()
    sureness: AxleSureness | None = None


@dataclass(frozen=True)
class CarPlan:
    """The plan for the whole car: each wheel, and each axle."""

    wheels: Mapping[str, WheelPlan]
    axles: Mapping[str, AxlePlan]


def plan_car(
    wheels: Mapping[str, Wheel],
    ratio: float | None,
    samples: int = SAMPLES,
    limits: Mapping[str, Quantity] | None = None,
    seed: int = 1,
) -> CarPlan:
    """Plan the turns of every wheel: the rear axle first, then the front to the thrust line it leaves.

    Parameters
    ----------
    wheels : mapping
        Wheels by axle and side. [-]
    ratio : float, optional
        Steering ratio. [-]
    samples : int, optional
        How many axles are drawn to say how sure the plan is; none where 0. [-]
    limits : mapping of Quantity, optional
        The record's limits of what two wheels make together, by field key. [rad]
    seed : int, optional
        Of the random draws, so that the same car gives the same answer. [-]

    Returns
    -------
    CarPlan
        Plans by wheel, toe by axle.

    Raises
    ------
    Nothing: what cannot be planned is told with its wheel.

    Notes
    -----
    The front wheels' wanted toes are turned with the rear thrust, so that the steering wheel
    stands straight: left + thrust, right − thrust.  Toes that are wanted as they were read hold the thrust line of
    that day already and follow only its change.  A rear wheel that is not planned counts as it stands.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> plan_car({}, None).axles
    {}
    """
    generator = np.random.default_rng(seed)
    found: dict[str, WheelPlan] = {}
    axles: dict[str, AxlePlan] = {}
    thrust, drawn = 0.0, None
    stood = thrust_as_read(wheels)
    for axle in ("rear", "front"):
        pair = [wheels[key] for key in wheels_at(axle) if key in wheels]
        aims = [aim_of(one, thrust, stood) for one in pair]
        across = _across(axle, pair, aims, limits, ratio) if len(pair) == len(SIDES) else ()
        turned = _turned(pair, aims, across)
        sure = _surely(turned, across, generator, samples, drawn) if samples else None
        for place, one in enumerate(one for one in turned if one.plan):
            found[one.wheel.key] = replace(one, sureness=sure.wheels[place]) if sure else one
        found |= {one.wheel.key: one for one in turned if not one.plan}
        toes = [at for one in turned if (at := _stands(one)) is not None]
        if len(toes) == len(SIDES):
            toe = axle_toe(toes[0], toes[1], ratio if axle == "front" else None, thrust)
            planned = all(one.plan for one in turned)
            axles[axle] = AxlePlan(toe, across if planned else (), sure if planned else None)
            if axle == "rear":
                thrust = toe.thrust
                drawn = sure.thrust - thrust if sure and planned else None
    return CarPlan({key: found[key] for key in wheels}, axles)


def thrust_as_read(wheels: Mapping[str, Wheel]) -> float:
    """Thrust of the rear axle as it was read before the work; naught where it was not. [rad]"""
    toes = [wheels[key].read.get("toe") for key in wheels_at("rear") if key in wheels]
    known = [toe for toe in toes if toe is not None]
    return (known[0] - known[1]) / 2 if len(known) == len(SIDES) else 0.0


def aim_of(wheel: Wheel, thrust: float, stood: float) -> dict[str, float]:
    """What is wanted of a wheel: at the front, about the thrust line the rear axle will have. [rad]"""
    if not wheel.key.startswith("front") or "toe" not in wheel.targets:
        return dict(wheel.targets)
    sign = 1 if wheel.key.endswith("left") else -1
    follows = thrust - stood if wheel.as_read else thrust
    return {**wheel.targets, "toe": wheel.targets["toe"] + sign * follows}


@dataclass(frozen=True)
class Corrected:
    """What a wheel still wants after it was read: steps by adjuster, the plan they come from, and what they bring.

    ``comes_to`` are angles with those steps [rad], each with its ± (coverage 2).
    """

    steps: Mapping[str, int]
    plan: Realigned
    comes_to: Mapping[str, tuple[float, float]]


@dataclass(frozen=True)
class Again:
    """A wheel read after the work: its plan, steps turned so far, those of them since the reading, what was read
    [rad], and the travel it was read at. [mm]"""

    turned: WheelPlan
    steps: Mapping[str, int]
    since: Mapping[str, int]
    read: Mapping[str, Quantity]
    travel: float


@dataclass(frozen=True)
class AsSteered:
    """What a steering wheel says that was read running straight: half of left toe less right of the front axle, how
    far the thrust line it follows is open, and the steps turned since at the left and the right wheel. [rad]"""

    half: Quantity
    thrust_open: float
    since: tuple[Mapping[str, int], Mapping[str, int]]


@dataclass(frozen=True)
class _Now:
    """What is wanted of a wheel whose geometry gives what was read, and how it stands. [rad]"""

    again: Again
    wanted: Wanted
    done: tuple[int, ...]
    before: Mapping[str, float]


def correct_axle(
    pair: Sequence[Again], across: Sequence[Across] = (), steered: AsSteered | None = None
) -> list[Corrected | None]:
    """Steps still wanted on the wheels of an axle, from what was read after the work; None for a wheel that was not.

    The wheel angles at the old height are moved by what the reading missed, so that the geometry gives what was
    read; an angle that was not read keeps its prediction.  Then the plan is made again, of both wheels together
    where both were read, and what is turned already is taken off.  Steps that bring no angle inside, nor halve
    Σ((angle − target)/tolerance)², are left, and those that would let it grow if they did 15 % more or less than they
    should: from a step too far on one side they would lead to one too far on the other, and back.  Half and 15 % are
    the product's own.  A steering wheel read running straight moves both toes of a front axle, against each other,
    as far as it is surer than they are.  Raises NoSolution where a linkage locks, InputError where stops
    contradict.
    """
    states = [_now(one) for one in pair]
    if steered and len(states) == len(SIDES) and states[0] and states[1]:
        states = list(_straightened(states[0], states[1], steered))
    known = [state for state in states if state]
    plans: list[Realigned] = []
    if len(known) == len(SIDES) and any(one.wanted.adjusters for one in known):
        plans = list(realign_axle(known[0].wanted, known[1].wanted, _aimed(across, known)))
    elif known:
        plans = [_alone(one.wanted) for one in known]
    worth = _worth_turning(known, plans)
    found = iter([_settled(now, plan, worth) for now, plan in zip(known, plans, strict=True)])
    return [next(found) if state else None for state in states]


def _straightened(left: _Now, right: _Now, steered: AsSteered) -> tuple[_Now, _Now]:
    """Both wheels with their toes moved to what gauges and steering wheel say together, each by how sure it is.

    Half of what the gauges leave open between both toes, and the thrust line, against the steering wheel's own ±.
    """
    toes, gauges = [], []
    for now, since in zip((left, right), steered.since, strict=True):
        if "toe" not in now.again.read:
            return left, right
        then = [
            adjuster.changed(at - since.get(adjuster.name, 0))
            for adjuster, at in zip(now.wanted.adjusters, now.done, strict=True)
        ]
        toes.append(float(angles_of(now.wanted, np.array([then]))["toe"][0]))
        gauges.append(now.again.read["toe"].uncertainty)
    open_ = hypot(hypot(*gauges) / 2, steered.thrust_open)
    share = open_**2 / (open_**2 + steered.half.uncertainty**2)
    by = share * (steered.half.value - (toes[0] - toes[1]) / 2)
    return _toed(left, by), _toed(right, -by)


def _toed(now: _Now, by: float) -> _Now:
    corner = now.wanted.corner
    wanted = replace(now.wanted, corner=replace(corner, toe=corner.toe + by))
    return replace(now, wanted=wanted, before={**now.before, "toe": now.before["toe"] + by})


def _now(again: Again) -> _Now | None:
    turned, wheel, targets = again.turned, again.turned.wheel, again.turned.targets
    if wheel.corner is None or turned.plan is None or not any(name in again.read for name in targets):
        return None
    done = tuple(again.steps.get(adjuster.name, 0) for adjuster in wheel.adjusters)
    then = [
        adjuster.changed(at - again.since.get(adjuster.name, 0))
        for adjuster, at in zip(wheel.adjusters, done, strict=True)
    ]
    expected = angles_at(wheel.corner, [again.travel], changes_by_link(wheel.adjusters, np.array([then])))
    off = {
        name: again.read[name].value - float(getattr(expected, name)[0])
        for name in ("toe", "camber")
        if name in again.read
    }
    corner = wheel.corner
    moved = replace(corner, toe=corner.toe + off.get("toe", 0.0), camber=corner.camber + off.get("camber", 0.0))
    wanted = Wanted(moved, again.travel, wheel.adjusters, targets, wheel.tolerances)
    now = np.array([[adjuster.changed(at) for adjuster, at in zip(wheel.adjusters, done, strict=True)]])
    before = {name: float(angle[0]) for name, angle in angles_of(wanted, now).items()}
    return _Now(again, wanted, done, before)


def _aimed(across: Sequence[Across], pair: Sequence[_Now]) -> list[Across]:
    """What both wheels make together, about the targets they have now."""
    left, right = (one.wanted.targets for one in pair)
    return [
        replace(one, goal=one.left * left[one.angle] + one.right * right[one.angle])
        if "apart" not in one.name
        else one
        for one in across
    ]


def _settled(now: _Now, plan: Realigned, worth: bool) -> Corrected:
    adjusters = now.wanted.adjusters
    if not worth or not adjusters:
        still = dict.fromkeys((adjuster.name for adjuster in adjusters), 0)
        return Corrected(still, plan, _comes_to(now.again, now.before, now.before))
    steps = zip(adjusters, plan.set_turns, now.done, strict=True)
    more = {one.name: round(float(turns) / one.step) - at for one, turns, at in steps}
    return Corrected(more, plan, _comes_to(now.again, now.before, plan.after))


def _comes_to(
    again: Again, before: Mapping[str, float], after: Mapping[str, float]
) -> dict[str, tuple[float, float]]:
    """Angles after a correction: as sure as they were read, and as the geometry knows what a turn does."""
    sure, read = again.turned.sureness, again.read
    found = {}
    for name, value in after.items():
        turning = TURNING_OPEN * abs(value - before[name])
        if name in read:
            found[name] = (value, COVERAGE * float(np.hypot(read[name].uncertainty, turning)))
        elif sure and name in sure.angles:
            found[name] = (value, sure.angles[name])
    return found


def _worth_turning(pair: Sequence[_Now], plans: Sequence[Realigned]) -> bool:
    """Whether a correction brings an angle inside its tolerance and none outside, or all of them much nearer.

    And nearer on the whole also where the turns do more or less than they should: no correction asks for the one
    before it back.
    """

    def off(now: _Now, after: Mapping[str, float], by: float) -> list[float]:
        wanted = now.wanted
        reached = {name: now.before[name] + by * (after[name] - now.before[name]) for name in wanted.targets}
        return [abs(reached[name] - aim) / wanted.tolerances[name] for name, aim in wanted.targets.items()]

    def all_off(by: float) -> NDArray[np.float64]:
        return np.array([miss for now, plan in zip(pair, plans, strict=True) for miss in off(now, plan.after, by)])

    before, after = all_off(0.0), all_off(1.0)
    cured, spoilt = np.any((before > 1) & (after <= 1)), np.any((before <= 1) & (after > 1))
    squares, worst = np.sum(before**2), max(np.sum(all_off(by) ** 2) for by in (1 - STEP_OPEN, 1 + STEP_OPEN))
    return bool(((cured and not spoilt) or np.sum(after**2) < WORTH * squares) and worst < squares)


def _across(
    axle: str,
    pair: Sequence[Wheel],
    aims: Sequence[Mapping[str, float]],
    limits: Mapping[str, Quantity] | None,
    ratio: float | None,
) -> tuple[Across, ...]:
    """What the two wheels of an axle are to make together, and how near."""
    told = {key: limit.value for key, limit in (limits or {}).items() if limit.value > 0}
    left, right = (aim.get("toe", 0.0) for aim in aims)
    near = sum(one.tolerances["toe"] for one in pair)
    straight = told.get("front.within.steering_wheel", STEERING_WHEEL_WITHIN) / ratio if ratio else near / 2
    within_thrust = straight if axle == "front" else told.get("rear.within.thrust", near / 2)
    toes = toe_across(left, right, told.get(f"{axle}.within.total_toe", near), within_thrust)
    apart = [
        Across(f"{name} apart", name, 1.0, -1.0, 0.0, told[f"{axle}.apart.{name}"])
        for name in ANGLES
        if f"{axle}.apart.{name}" in told and all(name in one.targets for one in pair)
    ]
    return (*toes, *apart)


def _turned(pair: Sequence[Wheel], aims: Sequence[Mapping[str, float]], across: Sequence[Across]) -> list[WheelPlan]:
    """The plans of the wheels of an axle, chosen together where both can be planned."""
    asked: list[tuple[Wheel, Wanted | None, str]] = []
    for wheel, targets in zip(pair, aims, strict=True):
        problem = wheel.problem
        if wheel.corner and not wheel.adjusters:
            problem = "Nothing on this wheel can be adjusted, by its record."
        wanted = None
        if wheel.corner:
            wanted = Wanted(wheel.corner, wheel.travel, wheel.adjusters, targets, wheel.tolerances)
        asked.append((wheel, wanted, problem))
    both = [wanted for _, wanted, _ in asked if wanted]
    together: Sequence[Realigned] = ()
    if len(both) == len(SIDES) and any(one.adjusters for one in both):
        try:
            together = realign_axle(both[0], both[1], across)
        except (InputError, NoSolution):
            together = ()  # told below, at the wheel it is about
    found = []
    for place, (wheel, wanted, problem) in enumerate(asked):
        targets = wanted.targets if wanted else {}
        if wanted is None:
            found.append(WheelPlan(wheel, None, None, problem, targets))
            continue
        try:
            found.append(WheelPlan(wheel, together[place] if together else _alone(wanted), None, problem, targets))
        except (InputError, NoSolution) as error:
            found.append(WheelPlan(wheel, None, None, error.message, targets))
    return found


def _alone(wanted: Wanted) -> Realigned:
    """A wheel's plan by itself; where nothing on it can be turned, what it comes to."""
    if not wanted.adjusters:
        nothing = np.zeros(0)
        return settle(wanted, nothing, (), try_steps(wanted, nothing), 0)
    return realign(wanted.corner, wanted.travel, wanted.adjusters, wanted.targets, wanted.tolerances)


def _surely(
    turned: Sequence[WheelPlan],
    across: Sequence[Across],
    generator: np.random.Generator,
    samples: int,
    follow: NDArray[np.float64] | None,
) -> AxleSureness | None:
    drawn = []
    for one in turned:
        wheel = one.wheel
        if one.plan and wheel.corner:
            wanted = Wanted(wheel.corner, wheel.travel, wheel.adjusters, one.targets, wheel.tolerances)
            drawn.append((wanted, one.plan, wheel.doubtful))
    try:
        return how_sure(drawn, generator, samples, across, follow) if drawn else None
    except NoSolution:
        return None


def _stands(one: WheelPlan) -> float | None:
    """Toe a wheel ends at: as planned, or, where nothing is planned on it, as read at the height it will have."""
    if one.plan:
        return one.plan.after["toe"]
    if "toe" not in one.wheel.read:
        return None
    if one.wheel.corner is None:
        return one.wheel.read["toe"]
    try:
        return float(angles_at(one.wheel.corner, [one.wheel.travel]).toe[0])
    except NoSolution:
        return None
