"""The turns of every wheel: the rear axle first, then the front to the thrust line it leaves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.adjuster import changes_by_link
from fair_spindle.core.axle_turns import STEERING_WHEEL_WITHIN, Across, realign_axle, toe_across
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.outlook.geometry import Wheel
from fair_spindle.core.realign import ANGLES, Realigned, Wanted, realign
from fair_spindle.core.sheet.shape import SIDES
from fair_spindle.core.slopes import angles_at
from fair_spindle.core.sureness import SAMPLES, AxleSureness, Sureness, how_sure
from fair_spindle.core.toe import AxleToe, axle_toe

WORTH = 0.5


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
    stands straight: left + thrust, right − thrust.  A rear wheel that is not planned counts as it stands.

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
    for axle in ("rear", "front"):
        pair = [wheels[key] for key in (f"{axle}.{side}" for side in SIDES) if key in wheels]
        aim = thrust if axle == "front" else 0.0
        across = _across(axle, pair, aim, limits, ratio) if len(pair) == len(SIDES) else ()
        turned = _turned(pair, aim, across)
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


def corrected(
    turned: WheelPlan, steps: Mapping[str, int], since: Mapping[str, int], read: Mapping[str, float], travel: float
) -> tuple[dict[str, int], Realigned] | None:
    """Steps still wanted on each adjuster of a wheel, from what was read after the work.

    Parameters
    ----------
    turned : WheelPlan
        The wheel and its plan. [-]
    steps, since : mapping
        Steps turned so far, and those of them turned after the reading, by adjuster. [step]
    read : mapping
        ``toe`` and ``camber`` as read after settling, any of them. [rad]
    travel : float
        Travel the wheel was read at. [mm]

    Returns
    -------
    tuple or None
        Steps by adjuster and the plan they come from; None where there is no plan or nothing was read.

    Raises
    ------
    NoSolution
        The linkage locks on the way.

    Notes
    -----
    The wheel angles at the old height are moved by what the reading missed, so that the geometry
    gives what was read; then the plan is made again and what is turned already is taken off.  A step that would not
    bring the angles inside, nor halve Σ((angle − target)/tolerance)², is left: from a step too far on one side it
    would lead to one too far on the other, and back.  The half is the product's own.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.sureness import Doubtful
    >>> wheel = Wheel("", None, (), "", (), {}, 0.0, Doubtful(0, 0, 0, 0), {})
    >>> corrected(WheelPlan(wheel, None, None, "", {}), {}, {}, {}, 0.0) is None
    True
    """
    wheel = turned.wheel
    targets = {name: angle for name, angle in turned.targets.items() if name in read}
    if wheel.corner is None or turned.plan is None or not targets:
        return None
    done = [steps.get(one.name, 0) for one in wheel.adjusters]
    then = [one.changed(at - since.get(one.name, 0)) for one, at in zip(wheel.adjusters, done, strict=True)]
    expected = angles_at(wheel.corner, [travel], changes_by_link(wheel.adjusters, np.array([then])))
    moved = replace(
        wheel.corner,
        toe=wheel.corner.toe + read.get("toe", float(expected.toe[0])) - float(expected.toe[0]),
        camber=wheel.corner.camber + read.get("camber", float(expected.camber[0])) - float(expected.camber[0]),
    )
    plan = realign(moved, travel, wheel.adjusters, targets, wheel.tolerances)
    now = [one.changed(at) for one, at in zip(wheel.adjusters, done, strict=True)]
    stands = angles_at(moved, [travel], changes_by_link(wheel.adjusters, np.array([now])))
    if not _worth_turning({name: float(getattr(stands, name)[0]) for name in targets}, plan, targets, wheel):
        return dict.fromkeys((one.name for one in wheel.adjusters), 0), plan
    wanted = zip(wheel.adjusters, plan.set_turns, done, strict=True)
    return {one.name: round(float(turns) / one.step) - at for one, turns, at in wanted}, plan


def _worth_turning(stands: Mapping[str, float], plan: Realigned, targets: Mapping[str, float], wheel: Wheel) -> bool:
    """Whether a correction brings a wheel inside its tolerances, or at least much nearer."""

    def off(angles: Mapping[str, float]) -> list[float]:
        return [abs(angles[name] - aim) / wheel.tolerances[name] for name, aim in targets.items()]

    before, after = off(stands), off(plan.after)
    comes_inside = max(before) > 1 >= max(after)
    return comes_inside or sum(one**2 for one in after) < WORTH * sum(one**2 for one in before)


def _across(
    axle: str, pair: Sequence[Wheel], thrust: float, limits: Mapping[str, Quantity] | None, ratio: float | None
) -> tuple[Across, ...]:
    """What the two wheels of an axle are to make together, and how near."""
    told = {key: one.value for key, one in (limits or {}).items() if one.value > 0}
    left, right = (one.targets.get("toe", 0.0) for one in pair)
    near = sum(one.tolerances["toe"] for one in pair)
    straight = told.get("front.within.steering_wheel", STEERING_WHEEL_WITHIN) / ratio if ratio else near / 2
    within_thrust = straight if axle == "front" else told.get("rear.within.thrust", near / 2)
    toes = toe_across(left + thrust, right - thrust, told.get(f"{axle}.within.total_toe", near), within_thrust)
    apart = [
        Across(f"{name} apart", name, 1.0, -1.0, 0.0, told[f"{axle}.apart.{name}"])
        for name in ANGLES
        if f"{axle}.apart.{name}" in told and all(name in one.targets for one in pair)
    ]
    return (*toes, *apart)


def _turned(pair: Sequence[Wheel], thrust: float, across: Sequence[Across]) -> list[WheelPlan]:
    """The plans of the wheels of an axle, chosen together where both can be planned."""
    asked: list[tuple[Wheel, Wanted | None, str]] = []
    for wheel in pair:
        sign = 1 if wheel.key.endswith("left") else -1
        targets = {name: angle + (sign * thrust if name == "toe" else 0.0) for name, angle in wheel.targets.items()}
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
        aims = wanted.targets if wanted else {}
        if wanted is None or not wanted.adjusters:
            found.append(WheelPlan(wheel, None, None, problem, aims))
            continue
        try:
            plan = (
                together[place]
                if together
                else realign(wanted.corner, wanted.travel, wanted.adjusters, wanted.targets, wanted.tolerances)
            )
            found.append(WheelPlan(wheel, plan, None, "", aims))
        except (InputError, NoSolution) as error:
            found.append(WheelPlan(wheel, None, None, error.message, aims))
    return found


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
