"""What a wheel still wants after it was read again: steps from the readings, both wheels of an axle together."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from math import hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.turn_effect import rod_of, toe_of_a_step
from fair_spindle.core.predict.turning import WheelPlan, turn_alone
from fair_spindle.core.turns.adjuster import changes_by_link
from fair_spindle.core.turns.axle_turns import Across, realign_axle
from fair_spindle.core.turns.realign import Realigned, Wanted, angles_of

WORTH = 0.5
# How far off what a turn does may be, when it is asked whether turning is worth it.
STEP_OPEN = 0.15


@value_object
class Corrected:
    """What a wheel still wants after it was read: steps by adjuster, the plan they come from, and what they bring.

    ``stands`` are its angles with what was turned so far, ``comes_to`` with those steps [rad], each with its ±
    (coverage 2); ``open_steps`` the ± of the steps of what sets its toe.
    """

    steps: Mapping[str, int]
    plan: Realigned
    stands: Mapping[str, tuple[float, float]]
    comes_to: Mapping[str, tuple[float, float]]
    open_steps: Mapping[str, float]


@value_object
class Again:
    """A wheel read after the work: its plan, steps turned so far, those of them since the reading, what was read
    [rad], the travel it was read at [mm], and what a turn leaves open, as a share of what it does."""

    turned: WheelPlan
    steps: Mapping[str, int]
    since: Mapping[str, int]
    read: Mapping[str, Quantity]
    travel: float
    turning_open: float


@value_object
class AsSteered:
    """What a steering wheel says that was read running straight: half of left toe less right of the front axle, what
    the thrust line and how it was held for the gauges leave open [rad], and the steps turned since at both wheels."""

    half: Quantity
    others_open: float
    since: tuple[Mapping[str, int], Mapping[str, int]]


@value_object
class _Now:
    """What is wanted of a wheel whose geometry gives what was read; how it stood ``then``, when it was, and how it
    stands with what was turned since. [rad]"""

    again: Again
    wanted: Wanted
    done: tuple[int, ...]
    then: Mapping[str, float]
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
    if not known:
        return [None for _ in pair]
    if len(known) == len(SIDES) and any(one.wanted.adjusters for one in known):
        plans = list(realign_axle(known[0].wanted, known[1].wanted, _aimed(across, known)))
    else:
        plans = [turn_alone(one.wanted) for one in known]
    worth = _worth_turning(known, plans)
    found = iter([_settled(now, plan, worth) for now, plan in zip(known, plans, strict=True)])
    return [next(found) if state else None for state in states]


def _straightened(left: _Now, right: _Now, steered: AsSteered) -> tuple[_Now, _Now]:
    """Both wheels with their toes moved to what gauges and steering wheel say together, each by how sure it is.

    Against the steering wheel's own ± stands half of what the gauges leave open between both toes, how straight it
    was held for them, and the thrust line; where both lie further apart than that, the gauges are off by the rest.
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
    apart = steered.half.value - (toes[0] - toes[1]) / 2
    sure = steered.half.uncertainty**2
    open_ = max(hypot(hypot(*gauges) / 2, steered.others_open) ** 2, apart**2 - sure)
    by = apart * open_ / (open_ + sure)
    return _toed(left, by), _toed(right, -by)


def _toed(now: _Now, by: float) -> _Now:
    corner = now.wanted.corner
    wanted = replace(now.wanted, corner=replace(corner, toe=corner.toe + by))
    then, before = ({**at, "toe": at["toe"] + by} for at in (now.then, now.before))
    return replace(now, wanted=wanted, then=then, before=before)


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
    stood, stands = (
        {name: float(angle[0]) for name, angle in angles_of(wanted, at).items()} for at in (np.array([then]), now)
    )
    return _Now(again, wanted, done, stood, stands)


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
    more = dict.fromkeys((adjuster.name for adjuster in adjusters), 0)
    after = now.before
    if worth and adjusters:
        steps = zip(adjusters, plan.set_turns, now.done, strict=True)
        more = {one.name: round(float(turns) / one.step) - at for one, turns, at in steps}
        after = plan.after
    stands, comes_to = (_comes_to(now.again, now.then, angles) for angles in (now.before, after))
    return Corrected(more, plan, stands, comes_to, _open_steps(now, more))


def _open_steps(now: _Now, more: Mapping[str, int]) -> dict[str, float]:
    """± of the steps still wanted of what sets the toe: what its reading leaves open, and what a turn does."""
    wheel, read = now.again.turned.wheel, now.again.read.get("toe")
    rod = rod_of(wheel)
    if rod is None or read is None or wheel.corner is None:
        return {}
    step = abs(toe_of_a_step(wheel.corner, now.again.travel, rod))
    return {rod.name: COVERAGE * hypot(read.uncertainty / step, now.again.turning_open * more[rod.name])}


def _comes_to(
    again: Again, before: Mapping[str, float], after: Mapping[str, float]
) -> dict[str, tuple[float, float]]:
    """Angles after a correction: as sure as they were read, and as the geometry knows what a turn does."""
    sure, read = again.turned.sureness, again.read
    found = {}
    play = _toe_of_its_play(again)
    for name, value in after.items():
        moved = abs(value - before[name])
        turning = hypot(again.turning_open * moved, play if name == "toe" and moved > 0 else 0.0)
        if name in read:
            found[name] = (value, COVERAGE * hypot(read[name].uncertainty, turning))
        elif sure and name in sure.angles:
            found[name] = (value, sure.angles[name])
    return found


def _toe_of_its_play(again: Again) -> float:
    """What play in the thread of its rod leaves open of the toe of a wheel, once it was turned. [rad]"""
    wheel = again.turned.wheel
    rod = rod_of(wheel)
    if rod is None or wheel.corner is None:
        return 0.0
    return abs(toe_of_a_step(wheel.corner, again.travel, rod)) * rod.lash / abs(rod.per_turn * rod.step)


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
