"""The turns of a job, wheel by wheel: planned, counted, read again, still wanted."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import degrees, hypot

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.wheels import AXLES, SIDES, wheels_at
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.threaded_ends import UNTOLD
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.aligned import AlignedRod, AlignedWheel, align_rods, follow_plan
from fair_spindle.core.predict.steering import solid_steering
from fair_spindle.core.predict.turn_effect import rod_of, steering_link
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.checking import doubtful_toes
from fair_spindle.jobs.geometry import (
    say_check,
    show_axles,
    show_order,
    show_sides,
    show_targets,
    show_worth,
    turned_by,
    verdict,
)
from fair_spindle.jobs.geometry_models import AxlePlanView, SidesApartView, TargetView, WorthView
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_beyond, say_set
from fair_spindle.records.database import Database

# From how many steps on half of them are turned first.
LEAST_TO_HALVE = 3
# From how many steps of ± on that is done: a step more or less is what any reading leaves.
WORTH_HALVING = 2


class CountView(View):
    """One adjuster through the job; counts are in its smallest steps, longer positive.

    ``by_length`` says the plan in the other schools: centre to centre, and against the old part.  ``range_said`` is
    between what and what the steps still wanted lie, where that is more than one of them, and ``first_said`` how many
    of them are turned before the wheel is read again.
    """

    name: str
    step_said: str
    planned: int
    planned_said: str
    turned: int
    turned_said: str
    left: int
    left_said: str
    plus_minus_turns: float | None
    range_said: str
    first_said: str
    needed: str
    check: str
    by_length: str


class ReadAgainView(View):
    """An angle as it was read after settling, and what the steps still wanted bring it to, with ±. [deg]"""

    name: str
    read_deg: float
    wanted_deg: float
    inside: bool
    comes_to_deg: float | None = None
    comes_to_plus_minus_deg: float | None = None


class WheelTurnsView(View):
    """One wheel through the job.

    ``doubt`` says that its toe is to be read again before it is turned; ``assumed`` is what nobody told and is taken
    for usual, ``asked`` the fields that would tell it; ``worth`` what would narrow its ±.
    """

    key: str
    label: str
    known: bool
    lacks: list[str]
    problem: str
    doubt: str
    assumed: str
    asked: list[str]
    worth: list[WorthView]
    counts: list[CountView]
    targets: list[TargetView]
    read_again: list[ReadAgainView]
    chance_pct: float | None


class StandsView(View):
    """How an axle stands now: as it was read last and turned since. [deg]"""

    axle: str
    total_deg: float
    total_plus_minus_deg: float
    thrust_deg: float
    read_after: bool


class TurnsOfJobView(View):
    """Every wheel of the axles in work, the rear axle first, the steering of a solid axle, and the order of the work;
    ``stands`` as they stand now."""

    wheels: list[WheelTurnsView]
    stands: list[StandsView]
    steering: WheelTurnsView | None
    axles: list[AxlePlanView]
    sides: list[SidesApartView]
    order: list[str]


def see_turns(database: Database, job_id: str, samples: int) -> TurnsOfJobView:
    """The turns of a job: what is planned, what was turned, and what is still wanted."""
    now = standing(database, job_id)
    plan = now.outlook.plan_drawn(samples)
    every = follow_plan(plan, now.state, now.aligning) if samples else now.aligned[1]
    # A wheel of an axle that nobody works on is no part of the plan, though the rear one steers the car.
    axles = now.template.axles or AXLES
    wheels = {key: wheel for key, wheel in every.items() if key.split(".")[0] in axles}
    doubts = doubtful_toes(now)
    ratio = now.readings.quantities.get("car.steering_ratio")
    labels = {key: field.label for key, field in now.sheet.fields.items()}
    return TurnsOfJobView(
        wheels=[_wheel(key, wheel, labels, now.readings, doubts.get(key, "")) for key, wheel in wheels.items()],
        stands=[stands for axle in axles for stands in _stands(axle, wheels)],
        steering=_steering(now, labels),
        axles=show_axles(plan, ratio.value if ratio else None),
        sides=show_sides(plan, now.readings.quantities),
        order=show_order(plan),
    )


def _stands(axle: str, wheels: Mapping[str, AlignedWheel]) -> Iterator[StandsView]:
    """Both wheels of an axle as they stand; none where a toe was never read."""
    toes = [toe for key in wheels_at(axle) if key in wheels and (toe := _toe_now(wheels[key]))]
    if len(toes) == len(SIDES):
        (left, right), read_after = toes, all("toe" in wheels[key].read for key in wheels_at(axle))
        yield StandsView(
            axle=axle,
            total_deg=degrees(left[0] + right[0]),
            total_plus_minus_deg=degrees(hypot(left[1], right[1])),
            thrust_deg=degrees((left[0] - right[0]) / 2),
            read_after=read_after,
        )


def _toe_now(one: AlignedWheel) -> tuple[float, float] | None:
    """Toe of a wheel as it stands, with its ±: as read after the work and turned since, or as read before it.
    [rad]"""
    if "toe" in one.read:
        return one.stands.get("toe")
    before = one.plan.wheel.read.get("toe")
    return None if before is None else (before, COVERAGE * one.plan.wheel.doubtful.toe)


def _wheel(key: str, one: AlignedWheel, labels: dict[str, str], readings: Readings, doubt: str) -> WheelTurnsView:
    plan, sure = one.plan, one.plan.sureness
    assumed, asked = _assumed(key, one, readings)
    return WheelTurnsView(
        key=key,
        label=label_wheel(key),
        known=plan.wheel.corner is not None,
        lacks=[labels.get(name, name) for name in plan.wheel.lacks],
        problem=plan.problem or plan.wheel.problem,
        doubt=doubt,
        assumed=assumed,
        asked=asked,
        worth=_worth(one),
        counts=[_count(one, adjuster, place, readings) for place, adjuster in enumerate(plan.wheel.adjusters)],
        targets=show_targets(plan),
        read_again=[_again(one, target) for target in show_targets(plan) if target.name in one.read],
        chance_pct=100 * sure.chance if sure else None,
    )


def _worth(one: AlignedWheel) -> list[WorthView]:
    """What a reading would narrow of a wheel: before the work, or of what is still to be turned after it."""
    wheel, rod = one.plan.wheel, rod_of(one.plan.wheel)
    if one.plan.plan is None:
        return []
    if "toe" not in one.read:
        return show_worth(wheel, turned_by(one.plan))
    if rod is None or not one.still or not one.still[rod.name]:
        return []
    return show_worth(wheel, one.still[rod.name] * rod.step * rod.per_turn, one.stands["toe"][1])


def _assumed(key: str, one: AlignedWheel, readings: Readings) -> tuple[str, list[str]]:
    """What is taken for usual at a wheel whose rod is to be turned, and the fields that would tell it."""
    axle, rod = key.split(".")[0], rod_of(one.plan.wheel)
    if rod is None:
        corner = one.plan.wheel.corner
        missing = f"{key}.{steering_link(corner)}.adjust" if corner else f"{axle}.layout"
        return "", [missing] if missing in readings.sheet.fields and missing not in readings.words else []
    usual = {
        f"{axle}.layout": "a strut",
        f"{axle}.steer": _BEHIND if rod.acts_on[0][1] > 0 else "its tie rod ahead of the axle, by what the turns did",
        f"{rod.part}.pitch": f"a thread of {rod.per_turn:.2f} mm a turn",
        f"{rod.part}.lever": "a middling steering lever",
    }
    told = {**readings.quantities, **readings.words}
    taken = {name: said for name, said in usual.items() if name not in told}
    if rod.part.endswith("lateral_front"):
        taken.pop(f"{axle}.steer", None)
    asked = [name for name in taken if name in readings.sheet.fields]
    return f"Taken for usual: {', '.join(taken.values())}." if taken else "", asked


_BEHIND = "its tie rod behind the axle (ahead of it every turn goes the other way)"


def _steering(now: Standing, labels: dict[str, str]) -> WheelTurnsView | None:
    found = solid_steering(now.aligning)
    if found is None:
        return None
    rods = align_rods(now.state, now.aligning)
    return WheelTurnsView(
        key="front",
        label="Front axle, rods of the steering",
        known=bool(rods),
        lacks=[labels.get(name, name) for name in found.lacks],
        problem=found.problem,
        doubt="",
        assumed="",
        asked=list(found.lacks),
        worth=[],
        counts=[_rod(rod, now.readings) for rod in rods],
        targets=[
            TargetView(
                name=rod.rod.sets,
                wanted_deg=degrees(rod.rod.wanted),
                before_deg=degrees(rod.rod.before),
                after_deg=degrees(rod.rod.reached),
                plus_minus_deg=degrees(rod.rod.plus_minus * abs(rod.rod.per_turn)),
                tolerance_deg=degrees(rod.rod.within),
                reached=(met := abs(rod.rod.reached - rod.rod.wanted) <= rod.rod.within + 1e-12),
                chance_pct=None,
                verdict=verdict(met, None),
                why=f"{rod.rod.adjuster.name} is at its stop." if rod.rod.adjuster.beyond(rod.rod.change) else "",
            )
            for rod in rods
        ],
        read_again=[
            ReadAgainView(
                name=rod.rod.sets,
                read_deg=degrees(rod.read),
                wanted_deg=degrees(rod.rod.wanted),
                inside=abs(rod.read - rod.rod.wanted) <= rod.rod.within + 1e-12,
            )
            for rod in rods
            if rod.read is not None
        ],
        chance_pct=None,
    )


def _rod(one: AlignedRod, readings: Readings) -> CountView:
    rod = one.rod
    return _counted(
        rod.adjuster,
        one.planned,
        one.turned,
        one.planned - one.turned if one.still is None else one.still,
        rod.plus_minus,
        rod.adjuster.beyond(rod.change),
        readings,
        read=one.still is not None,
    )


def _count(one: AlignedWheel, adjuster: Adjuster, place: int, readings: Readings) -> CountView:
    planned, turned = one.planned.get(adjuster.name, 0), one.turned[adjuster.name]
    left = planned - turned if one.still is None else one.still[adjuster.name]
    sure = one.plan.sureness
    plus_minus = float(sure.turns[place]) if sure else None
    steps = one.open_steps.get(adjuster.name) if one.read else None
    if steps is not None:
        plus_minus = steps * adjuster.step
    return _counted(
        adjuster,
        planned,
        turned,
        left,
        plus_minus,
        one.beyond.get(adjuster.name, 0.0),
        readings,
        read=bool(one.read),
    )


def _counted(
    adjuster: Adjuster,
    planned: int,
    turned: int,
    left: int,
    plus_minus: float | None,
    beyond: float,
    readings: Readings,
    *,
    read: bool,
) -> CountView:
    def said(steps: int) -> str:
        return say_set(steps * adjuster.step, adjuster)

    return CountView(
        name=adjuster.name,
        step_said=said(1).removesuffix(" longer").removesuffix(" inboard"),
        planned=planned,
        planned_said=said(planned),
        turned=turned,
        turned_said=said(turned) if turned else "not turned",
        left=left,
        left_said=said(left),
        plus_minus_turns=plus_minus,
        range_said=say_range(left, plus_minus, adjuster),
        # Before it is read on its wheels a wheel is turned as far as is planned: reading it costs a raise.
        first_said=say_first(left, plus_minus, adjuster) if read else "",
        needed=say_beyond(adjuster, beyond),
        check=say_check(adjuster, adjuster.changed(planned) - adjuster.start),
        by_length=_by_length(adjuster, adjuster.changed(planned), readings),
    )


def say_range(left: int, plus_minus: float | None, adjuster: Adjuster) -> str:
    """Between what and what the steps still wanted lie; empty where they are known to the step."""
    open_ = _open_steps(plus_minus, adjuster)
    if not left or not open_:
        return ""
    low, high = max(abs(left) - open_, 0), abs(left) + open_
    said = [say_set(steps * adjuster.step, adjuster).rsplit(" ", 1)[0] if steps else "none" for steps in (low, high)]
    return f"{said[0]} and {said[1]}"


def _open_steps(plus_minus: float | None, adjuster: Adjuster) -> int:
    return round(plus_minus / adjuster.step) if plus_minus is not None else 0


def say_first(left: int, plus_minus: float | None, adjuster: Adjuster) -> str:
    """How many of the steps are turned before the wheel is read again, where they are not known to the step.

    As many as are wanted for sure, half at the least: what they do is read, and is a better measure of the lever than
    any tape, the better the more was turned.
    """
    if abs(left) < LEAST_TO_HALVE or _open_steps(plus_minus, adjuster) < WORTH_HALVING:
        return ""
    surely = int(abs(left) - _open_steps(plus_minus, adjuster))
    first = max(surely, -(-abs(left) // 2)) * (1 if left > 0 else -1)
    return f"First {say_set(first * adjuster.step, adjuster)}, then read again."


def _by_length(adjuster: Adjuster, change: float, readings: Readings) -> str:
    """The planned setting as the other schools would keep it."""
    if adjuster.unit != "turn" or not adjuster.part:
        return ""
    new = readings.quantities.get(f"{adjuster.part}.swap")
    if new and UNTOLD in new.parts:
        return ""
    length = readings.quantities.get(f"{adjuster.part}.length")
    old = new.parts.get("old") if new else None
    old = old if old is not None else length.value if length else None
    said = [f"centre to centre {old + change:.1f} mm"] if old is not None else []
    if new:
        as_old = say_set(round(adjuster.turns_to(0.0) / adjuster.step) * adjuster.step, adjuster)
        said += [f"against the old part {change:+.1f} mm".replace("-", "−"), f"as long as the old part: {as_old}"]
    return "; ".join(said)


def _again(one: AlignedWheel, target: TargetView) -> ReadAgainView:
    read = one.read[target.name]
    wanted = one.plan.targets[target.name]
    comes_to = one.comes_to.get(target.name)
    return ReadAgainView(
        name=target.name,
        read_deg=degrees(read),
        wanted_deg=degrees(wanted),
        inside=abs(degrees(read - wanted)) <= target.tolerance_deg + 1e-9,
        comes_to_deg=degrees(comes_to[0]) if comes_to else None,
        comes_to_plus_minus_deg=degrees(comes_to[1]) if comes_to else None,
    )
