"""The turns of a job, wheel by wheel: planned, counted, read again, still wanted."""

from __future__ import annotations

from math import degrees

from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.aligned import AlignedRod, AlignedWheel, align_rods, follow_plan
from fair_spindle.core.predict.steering import solid_steering
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.geometry import say_check, show_axles, show_order, show_sides, show_targets, verdict
from fair_spindle.jobs.geometry_models import AxlePlanView, SidesApartView, TargetView
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_beyond, say_set
from fair_spindle.records.database import Database


class CountView(View):
    """One adjuster through the job; counts are in its smallest steps, longer positive.

    ``by_length`` says the plan in the other schools: centre to centre, and against the old part.
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
    """One wheel through the job."""

    key: str
    label: str
    known: bool
    lacks: list[str]
    problem: str
    counts: list[CountView]
    targets: list[TargetView]
    read_again: list[ReadAgainView]
    chance_pct: float | None


class TurnsOfJobView(View):
    """Every wheel, the rear axle first, the steering of a solid axle, and the order of the work."""

    wheels: list[WheelTurnsView]
    steering: WheelTurnsView | None
    axles: list[AxlePlanView]
    sides: list[SidesApartView]
    order: list[str]


def see_turns(database: Database, job_id: str, samples: int) -> TurnsOfJobView:
    """The turns of a job: what is planned, what was turned, and what is still wanted."""
    now = standing(database, job_id)
    plan = now.outlook.plan_drawn(samples)
    wheels = follow_plan(plan, now.state, now.aligning) if samples else now.aligned[1]
    ratio = now.readings.quantities.get("car.steering_ratio")
    labels = {key: field.label for key, field in now.sheet.fields.items()}
    return TurnsOfJobView(
        wheels=[_wheel(key, wheel, labels, now.readings) for key, wheel in wheels.items()],
        steering=_steering(now, labels),
        axles=show_axles(plan, ratio.value if ratio else None),
        sides=show_sides(plan, now.readings.quantities),
        order=show_order(plan),
    )


def _wheel(key: str, one: AlignedWheel, labels: dict[str, str], readings: Readings) -> WheelTurnsView:
    plan, sure = one.plan, one.plan.sureness
    return WheelTurnsView(
        key=key,
        label=label_wheel(key),
        known=plan.wheel.corner is not None,
        lacks=[labels.get(name, name) for name in plan.wheel.lacks],
        problem=plan.problem or plan.wheel.problem,
        counts=[_count(one, adjuster, place, readings) for place, adjuster in enumerate(plan.wheel.adjusters)],
        targets=show_targets(plan),
        read_again=[_again(one, target) for target in show_targets(plan) if target.name in one.read],
        chance_pct=100 * sure.chance if sure else None,
    )


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
    )


def _count(one: AlignedWheel, adjuster: Adjuster, place: int, readings: Readings) -> CountView:
    planned, turned = one.planned.get(adjuster.name, 0), one.turned[adjuster.name]
    left = planned - turned if one.still is None else one.still[adjuster.name]
    sure = one.plan.sureness
    plus_minus = float(sure.turns[place]) if sure else None
    return _counted(adjuster, planned, turned, left, plus_minus, one.beyond.get(adjuster.name, 0.0), readings)


def _counted(
    adjuster: Adjuster,
    planned: int,
    turned: int,
    left: int,
    plus_minus: float | None,
    beyond: float,
    readings: Readings,
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
        needed=say_beyond(adjuster, beyond),
        check=say_check(adjuster, adjuster.changed(planned) - adjuster.start),
        by_length=_by_length(adjuster, adjuster.changed(planned), readings),
    )


def _by_length(adjuster: Adjuster, change: float, readings: Readings) -> str:
    """The planned setting as the other schools would keep it."""
    if adjuster.unit != "turn" or not adjuster.part:
        return ""
    new = readings.quantities.get(f"{adjuster.part}.swap")
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
