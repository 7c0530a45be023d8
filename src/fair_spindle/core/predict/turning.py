"""The turns of every wheel: the rear axle first, then the front to the thrust line it leaves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import OUT, SIDES, wheels_at
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.toe import AxleToe, axle_toe
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.turns.axle_turns import STEERING_WHEEL_WITHIN, Across, realign_axle, toe_across
from fair_spindle.core.turns.monte_carlo import SAMPLES, AxleSureness, Sureness, how_sure
from fair_spindle.core.turns.realign import ANGLES, Realigned, Wanted, realign, settle, try_steps

# Chance from which an angle is told to end inside its tolerance.  The product's own.
LIKELY = 0.7
NOT_READ = "Neither toe nor camber of this wheel was read: where it stands is not known."


@value_object
class WheelPlan:
    """The plan for one wheel: the turns, how sure they are, or why there is no plan.

    ``targets`` are those planned for, with the rear thrust in a front wheel's toe. [rad]
    """

    wheel: Wheel
    plan: Realigned | None
    sureness: Sureness | None
    problem: str
    targets: Mapping[str, float]


@value_object
class AxlePlan:
    """The toe an axle ends at; where both its wheels are planned, what they make together and how sure that is."""

    toe: AxleToe
    across: tuple[Across, ...] = ()
    sureness: AxleSureness | None = None


@value_object
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
    # Making one takes longer than the rest of a plan of a car that nobody knows yet.
    generator = np.random.default_rng(seed) if samples else None
    found: dict[str, WheelPlan] = {}
    axles: dict[str, AxlePlan] = {}
    thrust, drawn = 0.0, None
    stood = thrust_as_read(wheels)
    for axle in ("rear", "front"):
        pair = [wheels[key] for key in wheels_at(axle) if key in wheels]
        aims = [aim_of(one, thrust, stood) for one in pair]
        across = _across(axle, pair, aims, limits, ratio) if len(pair) == len(SIDES) else ()
        turned = _turned(pair, aims, across)
        sure = _surely(turned, across, generator, samples, drawn) if generator else None
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
    sign = OUT[wheel.key.partition(".")[2]]
    follows = thrust - stood if wheel.as_read else thrust
    return {**wheel.targets, "toe": wheel.targets["toe"] + sign * follows}


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
    both = all("toe" in aim for aim in aims)
    toes = toe_across(left, right, told.get(f"{axle}.within.total_toe", near), within_thrust) if both else ()
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
        if wheel.corner and not targets:
            problem = NOT_READ
        elif wheel.corner and not wheel.adjusters:
            problem = "Nothing on this wheel can be adjusted, by its record."
        wanted = None
        if wheel.corner and targets:
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
            found.append(
                WheelPlan(wheel, together[place] if together else turn_alone(wanted), None, problem, targets)
            )
        except (InputError, NoSolution) as error:
            found.append(WheelPlan(wheel, None, None, error.message, targets))
    return found


def turn_alone(wanted: Wanted) -> Realigned:
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
    if "toe" not in one.wheel.read:
        return None
    if one.plan:
        return one.plan.after["toe"]
    if one.wheel.corner is None:
        return one.wheel.read["toe"]
    try:
        return float(angles_at(one.wheel.corner, [one.wheel.travel]).toe[0])
    except NoSolution:
        return None
