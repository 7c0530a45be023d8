"""The turns of a job, wheel by wheel: planned, counted, read again, still wanted."""

from __future__ import annotations

from math import degrees

from fair_spindle.core.floor.aligned import AlignedWheel, align_car
from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.geometry import WheelPlan
from fair_spindle.core.realign import Adjuster
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.geometry import say_set, show_axles, show_order, show_sides, show_targets
from fair_spindle.jobs.geometry_models import AxlePlanView, SidesApartView, TargetView
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
    at_stop: bool
    by_length: str


class ReadAgainView(View):
    """An angle as it was read after settling. [deg]"""

    name: str
    read_deg: float
    wanted_deg: float
    inside: bool


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
    """Every wheel, the rear axle first, and the order of the work."""

    wheels: list[WheelTurnsView]
    axles: list[AxlePlanView]
    sides: list[SidesApartView]
    order: list[str]


def see_turns(database: Database, job_id: str, samples: int) -> TurnsOfJobView:
    """The turns of a job: what is planned, what was turned, and what is still wanted."""
    now = standing(database, job_id)
    plan, wheels = align_car(now.state, now.readings, samples)
    ratio = now.readings.quantities.get("car.steering_ratio")
    labels = {key: one.label for key, one in now.sheet.fields.items()}
    return TurnsOfJobView(
        wheels=[_wheel(key, one, labels, now.readings) for key, one in wheels.items()],
        axles=show_axles(plan, ratio.value if ratio else None),
        sides=show_sides(plan, now.readings.quantities),
        order=show_order(plan),
    )


def _wheel(key: str, one: AlignedWheel, labels: dict[str, str], readings: Readings) -> WheelTurnsView:
    plan, sure = one.plan, one.plan.sureness
    return WheelTurnsView(
        key=key,
        label=key.replace(".", " ").capitalize(),
        known=plan.wheel.corner is not None,
        lacks=[labels.get(name, name) for name in plan.wheel.lacks],
        problem=plan.problem or plan.wheel.problem,
        counts=[_count(one, adjuster, place, readings) for place, adjuster in enumerate(plan.wheel.adjusters)],
        targets=show_targets(plan),
        read_again=[
            _again(plan, target, one.read[target.name]) for target in show_targets(plan) if target.name in one.read
        ],
        chance_pct=100 * sure.chance if sure else None,
    )


def _count(one: AlignedWheel, adjuster: Adjuster, place: int, readings: Readings) -> CountView:
    planned, turned = one.planned.get(adjuster.name, 0), one.turned[adjuster.name]
    left = planned - turned if one.still is None else one.still[adjuster.name]
    sure, plan = one.plan.sureness, one.plan.plan

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
        plus_minus_turns=float(sure.turns[place]) if sure else None,
        at_stop=bool(plan and adjuster.name in plan.limited_by),
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


def _again(plan: WheelPlan, target: TargetView, read: float) -> ReadAgainView:
    return ReadAgainView(
        name=target.name,
        read_deg=degrees(read),
        wanted_deg=target.wanted_deg,
        inside=abs(degrees(read) - target.wanted_deg) <= target.tolerance_deg + 1e-9,
    )
