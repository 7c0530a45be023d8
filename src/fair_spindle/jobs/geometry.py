"""A car's geometry: drawn, swept through its travel, turned in thought, and planned back to its targets."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import degrees
from typing import Literal

import numpy as np

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.solid_axle import move_axle
from fair_spindle.core.geometry.toe import AxleToe, axle_toe
from fair_spindle.core.geometry.twist_beam import TwistBeam, roll_beam
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.readings import Quantity, read_all
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.starting import last_baseline
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.geometry import (
    AxleGeometry,
    Wheel,
    solid_axles_of,
    wheels_of,
)
from fair_spindle.core.predict.sides import sides_apart
from fair_spindle.core.predict.turn_effect import rod_of
from fair_spindle.core.predict.turning import LIKELY, AxlePlan, CarPlan, WheelPlan, plan_car
from fair_spindle.core.predict.worth import Worth, worth_of_readings
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.threads import FLAT
from fair_spindle.formats.job_kinds import find_kind
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.drawn_corner import changes_of, drawn
from fair_spindle.jobs.geometry_models import (
    AdjusterView,
    AnglesView,
    AxlePlanView,
    AxleToeView,
    CurveView,
    GeometryView,
    ShareView,
    SidesApartView,
    SolidAxleView,
    TargetView,
    TogetherView,
    TriedCar,
    TriedView,
    WhatIf,
    WheelPlanView,
    WorthView,
)
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_beyond, say_field, say_set, say_toe
from fair_spindle.records.books import jobs_of, load_log
from fair_spindle.records.database import Database

SWEEP_MM = 80
# A turn shorter than this fits any thread. [mm]
WORTH_CHECKING = 3.0
MOST_WAYS = 3
# What a wheel's numbers rest on, where that is less than its points.
DEPTHS = {
    "layout": "Nobody measured this wheel: a middling one of its kind, with the ± that cars of it have.",
    "slopes": "A middling wheel of its kind, held to the slopes that were read. Tape or points give more.",
    "tape": "A middling wheel of its kind, held to what the tape read. Points give more.",
}
SWEEP = np.arange(-SWEEP_MM, SWEEP_MM + 1, 4.0)


def see_geometry(database: Database, car_id: str, samples: int) -> GeometryView:
    """A car's geometry and the turns that bring it to its targets; how sure, where samples are drawn."""
    now = standing(database, car_id, car=True)
    baseline, source = baseline_of(database, now)
    wheels = wheels_of(readings_now(now.state, now.template), baseline)
    plan = plan_car(wheels, _ratio(now), samples, now.readings.quantities)
    return GeometryView(
        baseline_from=source,
        wheels=[_wheel(plan.wheels[key], now) for key in wheels],
        axles=show_axles(plan, _ratio(now)),
        sides=show_sides(plan, now.readings.quantities),
        order=show_order(plan),
        solid=[_solid(axle, now) for axle in solid_axles_of(now.readings)],
    )


def try_out(database: Database, car_id: str, wanted: WhatIf) -> TriedCar:
    """How the car would stand at other heights and with other turns."""
    now = standing(database, car_id, car=True)
    wheels = wheels_of(readings_now(now.state, now.template), baseline_of(database, now)[0])
    tried = [_tried(wheel, wanted) for wheel in wheels.values() if wheel.corner]
    by_key = {one.key: one.angles for one in tried}
    axles: dict[str, AxleToe] = {}
    for axle in ("rear", "front"):
        left, right = by_key.get(f"{axle}.left"), by_key.get(f"{axle}.right")
        if left and right:
            thrust = axles["rear"].thrust if "rear" in axles and axle == "front" else 0.0
            ratio = _ratio(now) if axle == "front" else None
            axles[axle] = axle_toe(np.radians(left.toe_deg), np.radians(right.toe_deg), ratio, thrust)
    return TriedCar(wheels=tried, axles=[_show_toe(axle, toe) for axle, toe in axles.items()])


def baseline_of(database: Database, car: Standing) -> tuple[dict[str, Quantity], str]:
    """The car's latest readings over all its jobs, and the name of the newest."""
    acts: dict[str, Entered] = {}
    with database.reading() as session:
        jobs = [
            (job.title, find_kind(job.template), load_log(session, job.id)) for job in jobs_of(session, car.book.id)
        ]
    for _, template, log in reversed(jobs):
        acts |= {act.key: act for act in last_baseline(derive(log, template), template, WORK)}
    choices = {key: taken.act.choice for key, taken in car.state.entries.items() if taken.act.choice}
    quantities, _ = read_all(acts, sheet_for(WORK.key, shape_of(choices)))
    return quantities, jobs[0][0] if jobs else ""


def _ratio(now: Standing) -> float | None:
    found = now.readings.quantities.get("car.steering_ratio")
    return found.value if found else None


def _angles(corner: Corner, travel: float, changes: Mapping[str, np.ndarray]) -> AnglesView:
    found = angles_at(corner, [travel], changes)
    return AnglesView(
        toe_deg=degrees(found.toe[0]),
        camber_deg=degrees(found.camber[0]),
        caster_deg=None if found.caster is None else degrees(found.caster[0]),
        toe_said=say_toe(float(found.toe[0])),
    )


def curve_of(corner: Corner, changes: Mapping[str, np.ndarray]) -> CurveView:
    """Camber and toe of a wheel through its travel, as far as its linkage lets it go."""
    low, high = -float(SWEEP_MM), float(SWEEP_MM)
    for _ in range(6):
        travel = SWEEP[(low <= SWEEP) & (high >= SWEEP)]
        try:
            found = angles_at(corner, travel, changes)
            break
        except NoSolution as error:
            last = float(error.details.get("last_travel", 0.0))
            low, high = (low, last * 0.98) if last > 0 else (last * 0.98, high)
    else:
        return CurveView(travel_mm=[], camber_deg=[], toe_deg=[])
    return CurveView(
        travel_mm=travel.tolist(),
        camber_deg=np.degrees(found.camber).tolist(),
        toe_deg=np.degrees(found.toe).tolist(),
    )


def _tried(wheel: Wheel, wanted: WhatIf) -> TriedView:
    assert wheel.corner is not None
    axle = wheel.key.split(".")[0]
    travel = -wanted.heights_mm.get(axle, -wheel.travel)
    turns = wanted.turns.get(wheel.key, {})
    changes = changes_of(wheel, turns)
    try:
        return TriedView(
            key=wheel.key,
            travel_mm=travel,
            angles=_angles(wheel.corner, travel, changes),
            curve=curve_of(wheel.corner, changes),
            problem="",
        )
    except NoSolution as error:
        return TriedView(key=wheel.key, travel_mm=travel, angles=None, curve=None, problem=error.message)


def _wheel(turned: WheelPlan, now: Standing) -> WheelPlanView:
    wheel, plan, sure = turned.wheel, turned.plan, turned.sureness
    corner = wheel.corner
    return WheelPlanView.of(
        wheel,
        label=label_wheel(wheel.key),
        known=corner is not None,
        lacks=[now.sheet.fields[key].label if key in now.sheet.fields else key for key in wheel.lacks],
        problem=turned.problem or wheel.problem,
        measured=sorted(wheel.read),
        travel_mm=wheel.travel,
        angles=_angles(corner, 0.0, {}) if corner else None,
        curve=curve_of(corner, {}) if corner else None,
        segments=drawn(corner) if corner else [],
        adjusters=_adjusters(turned),
        targets=show_targets(turned),
        depth_said=DEPTHS.get(wheel.depth, ""),
        worth=show_worth(wheel, turned_by(turned)),
        chance_pct=100 * sure.chance if sure and plan else None,
    )


def _solid(one: AxleGeometry, now: Standing) -> SolidAxleView:
    heave, roll = np.linspace(-60.0, 60.0, 13), np.linspace(-3.0, 3.0, 13)
    shown: dict[str, object] = {
        "axle": one.axle,
        "lacks": [say_field(key, now.sheet) for key in one.lacks],
        "problem": one.problem,
        "heave_mm": [],
        "shift_mm": [],
        "roll_deg": [],
        "steer_deg": [],
        "camber_deg": [],
        "roll_steer": None,
        "shift_per_heave": None,
        "give_mm": None,
    }
    if one.solid is None:
        return SolidAxleView.model_validate(shown)
    try:
        if isinstance(one.solid, TwistBeam):
            return SolidAxleView.model_validate({**shown, **_beam(one.solid, roll)})
        up, lean = move_axle(one.solid, heave, 0.0), move_axle(one.solid, 0.0, np.radians(roll))
        near = move_axle(one.solid, [-1.0, 1.0, 0.0, 0.0], np.radians([0.0, 0.0, -0.1, 0.1]))
    except NoSolution as error:
        return SolidAxleView.model_validate({**shown, "problem": error.message})
    shown |= {
        "heave_mm": heave.tolist(),
        "shift_mm": up.shift.tolist(),
        "roll_deg": roll.tolist(),
        "steer_deg": np.degrees(lean.steer).tolist(),
        "roll_steer": float(np.degrees(near.steer[3] - near.steer[2]) / 0.2),
        "shift_per_heave": float((near.shift[1] - near.shift[0]) / 2),
        "give_mm": float(np.max(lean.give)),
    }
    return SolidAxleView.model_validate(shown)


def _beam(beam: TwistBeam, roll: np.ndarray) -> dict[str, object]:
    steer, camber = roll_beam(beam, np.radians(roll))
    near, _ = roll_beam(beam, np.radians([-0.1, 0.1]))
    return {
        "roll_deg": roll.tolist(),
        "steer_deg": np.degrees(steer).tolist(),
        "camber_deg": np.degrees(camber).tolist(),
        "roll_steer": float(np.degrees(near[1] - near[0]) / 0.2),
    }


def _reading(name: str) -> str:
    if name == "height":
        return "the height the axle ends at"
    side, reading = name.split(" ", 1)
    if reading in ("toe", "camber"):
        return f"{side} {reading} as read"
    return f"{side} {reading}" if " " in reading else f"{side} point {reading.replace('_', ' ')}"


def _adjusters(turned: WheelPlan) -> list[AdjusterView]:
    plan, sure = turned.plan, turned.sureness
    met = bool(plan and all(plan.reached.values()))
    return [
        AdjusterView(
            name=adjuster.name,
            mm_per_turn=adjuster.per_turn,
            step_turns=adjuster.step,
            low_turns=adjuster.turns_to(adjuster.low),
            high_turns=adjuster.turns_to(adjuster.high),
            exact_turns=adjuster.turns_to(float(plan.exact[place])) if plan else None,
            plus_minus_turns=float(sure.turns[place]) if sure else None,
            set_turns=float(plan.set_turns[place]) if plan else None,
            unit=adjuster.unit,
            said=say_set(float(plan.set_turns[place]), adjuster) if plan else "",
            needed=say_beyond(adjuster, adjuster.beyond(float(plan.exact[place]))) if plan and not met else "",
            check=say_check(adjuster, float(plan.changes[place])) if plan else "",
        )
        for place, adjuster in enumerate(turned.wheel.adjusters)
    ]


def show_targets(turned: WheelPlan) -> list[TargetView]:
    """What is wanted at a wheel, and what the plan reaches."""
    plan, sure = turned.plan, turned.sureness
    if plan is None:
        return []
    wanted = turned.targets
    return [
        TargetView(
            name=name,
            wanted_deg=degrees(wanted[name]),
            before_deg=degrees(plan.before[name]),
            after_deg=degrees(plan.after[name]),
            plus_minus_deg=degrees(sure.angles[name]) if sure else None,
            tolerance_deg=degrees(turned.wheel.tolerances[name]),
            reached=reached,
            chance_pct=100 * sure.chances[name] if sure else None,
            verdict=verdict(reached, sure.chances[name] if sure else None),
            why=_why(turned) if not reached else "",
        )
        for name, reached in plan.reached.items()
    ]


def verdict(reached: bool, chance: float | None) -> Literal["likely", "open", "missed"]:
    """One verdict on an angle: by the chance of ending inside, where that is known."""
    if chance is None:
        return "likely" if reached else "missed"
    return "likely" if chance >= LIKELY else "open" if reached else "missed"


def show_worth(wheel: Wheel, turned: float, read: float | None = None) -> list[WorthView]:
    """What further readings would make of the ± of toe, camber and turns, the best first."""
    rod = rod_of(wheel)
    return [
        WorthView(
            said=one.said,
            becomes=_becomes(one, rod.unit if rod else ""),
            fields=list(one.fields),
            minutes=one.minutes,
            toe_now_deg=degrees(one.toe[0]),
            toe_then_deg=degrees(one.toe[1]),
            camber_now_deg=degrees(one.camber[0]),
            camber_then_deg=degrees(one.camber[1]),
            turns_now=one.turns[0] if one.turns else None,
            turns_then=one.turns[1] if one.turns else None,
        )
        for one in worth_of_readings(wheel, turned, read)[:MOST_WAYS]
    ]


def _becomes(one: Worth, unit: str) -> str:
    """What a reading makes of the ± of the turns, or of the angles where none are planned."""
    if one.turns and unit == "turn":
        now, then = (turns / FLAT for turns in one.turns)
        return f"± {now:.1f} flats becomes ± {then:.1f}"
    said = [
        f"{name} ± {degrees(now):.2f}° becomes ± {degrees(then):.2f}°"
        for name, (now, then) in (("toe", one.toe), ("camber", one.camber))
    ]
    return ", ".join(said)


def turned_by(planned: WheelPlan) -> float:
    """By how much the rod that sets the toe of a wheel is planned to be made longer. [mm]"""
    rod, plan = rod_of(planned.wheel), planned.plan
    if rod is None or plan is None:
        return 0.0
    return float(plan.exact[planned.wheel.adjusters.index(rod)]) - rod.start


def say_check(one: Adjuster, change: float) -> str:
    """What to look at before a turn is given whose stops nobody told."""
    if one.stops_told or abs(change) < WORTH_CHECKING:
        return ""
    return f"Its stops were not told: check that it goes {abs(change):.1f} mm {'further' if change > 0 else 'back'}."


def _why(turned: WheelPlan) -> str:
    """Why a target is missed."""
    plan = turned.plan
    if plan and plan.limited_by:
        return f"{plan.limited_by[0]} is at its stop."
    if len(turned.targets) > len(turned.wheel.adjusters):
        return "There are fewer adjusters than targets."
    return "No step comes nearer."


def _show_toe(axle: str, toe: AxleToe) -> AxleToeView:
    return AxleToeView(
        axle=axle,
        total_deg=degrees(toe.total),
        thrust_deg=degrees(toe.thrust),
        steering_wheel_deg=None if toe.steering_wheel is None else degrees(toe.steering_wheel),
    )


def show_axles(plan: CarPlan, ratio: float | None) -> list[AxlePlanView]:
    """What the wheels of each axle make together, as planned."""
    return [
        AxlePlanView(
            **_show_toe(axle, one.toe).model_dump(),
            together=list(_together(axle, one, ratio)),
            chance_pct=100 * one.sureness.chance if one.sureness else None,
            shares=[
                ShareView(name=_reading(name), share_pct=100 * share)
                for name, share in list(one.sureness.shares.items())[:4]
                if share >= 0.02
            ]
            if one.sureness
            else [],
        )
        for axle, one in plan.axles.items()
    ]


def _together(axle: str, one: AxlePlan, ratio: float | None) -> Iterator[TogetherView]:
    """Total toe, and the thrust line or where the steering wheel then stands."""
    goals = {both.name: both for both in one.across}
    for name, value in (("total", one.toe.total), ("thrust", one.toe.thrust)):
        both = goals.get(name)
        if both is None:
            continue
        off, limit, label = value - both.goal, both.limit, "total toe" if name == "total" else "thrust"
        plus_minus = one.sureness.across[name] if one.sureness else None
        if axle == "front" and name == "thrust" and ratio:
            label, value, off, limit = "steering wheel", -ratio * off, -ratio * off, ratio * limit
            plus_minus = None if plus_minus is None else ratio * plus_minus
        inside = abs(off) <= limit * (1 + 1e-9)
        chance = one.sureness.across_chances.get(name) if one.sureness else None
        yield TogetherView(
            name=label,
            value_deg=degrees(value),
            goal_deg=degrees(value - off),
            plus_minus_deg=None if plus_minus is None else degrees(plus_minus),
            limit_deg=degrees(limit),
            inside=inside,
            verdict=verdict(inside, chance),
        )


def show_sides(plan: CarPlan, record: Mapping[str, Quantity]) -> list[SidesApartView]:
    """Left against right as the plan leaves them, where a limit is told."""
    planned = {key: wheel.plan.after for key, wheel in plan.wheels.items() if wheel.plan}
    return [
        SidesApartView.of(one, difference_deg=degrees(one.difference), limit_deg=degrees(one.limit))
        for one in sides_apart(record, planned)
    ]


def show_order(plan: CarPlan) -> list[str]:
    """In which order to turn and to lock, in words."""
    steps = []
    for axle in ("rear", "front"):
        names = dict.fromkeys(
            adjuster.name
            for key, turned in plan.wheels.items()
            if key.startswith(axle)
            for adjuster in turned.wheel.adjusters
        )
        for name in sorted(names, key=lambda one: one in ("Tie rod", "Toe link")):
            steps.append(f"{axle.capitalize()} axle: {name.lower()}, both sides")
        if names:
            steps.append(f"{axle.capitalize()} axle: settle, read again, then lock every jam nut")
    return steps
