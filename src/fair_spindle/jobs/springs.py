"""A car on its springs: where it will sit, its perches, travel and bars, and what its heights teach."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace
from math import degrees

from fair_spindle.core.basics.errors import InputError, NoSolution, NotAllowed
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.advice import becomes, how_to_be_surer
from fair_spindle.core.predict.bars import BarOfAxle
from fair_spindle.core.predict.geometry import wheels_of
from fair_spindle.core.predict.limits import WheelTravel, steering_damper, wheel_travels
from fair_spindle.core.predict.perching import Bench, Correction, bench_places
from fair_spindle.core.predict.ride_height import Sitting, doubts_of, sit
from fair_spindle.core.predict.settled import heights_after, with_heights
from fair_spindle.core.predict.sprung_car import SprungCar, sprung_car
from fair_spindle.core.predict.usual_car import MASS, SHARE
from fair_spindle.core.springs.travel import Limit
from fair_spindle.jobs import springs_models as m
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_field, say_input, say_input_name, say_ring, say_toe
from fair_spindle.records.database import Database


def see_springs(database: Database, job_id: str, samples: int) -> m.SpringsView:
    """Everything about a job's springs; how sure, where samples are drawn."""
    now = _springs_job(database, job_id)
    car, readings = now.sprung, now.readings
    sitting = now.outlook.sitting_drawn(samples)
    after = heights_after(readings)
    target = readings.quantities.get("car.target_cross")
    correction = now.outlook.perches_drawn(samples)
    return m.SpringsView(
        wheels=_wheels(sitting, readings, after, car, now.outlook.axles_moved),
        cross_before_pct=_percent(sitting.cross_before),
        cross_pct=_percent(sitting.cross),
        cross_plus_minus_pct=100 * sitting.cross_plus_minus if sitting.drawn else None,
        cross_target_pct=100 * target.value if target else None,
        doubts=doubts_of(sitting),
        unknowns=[
            _unknown(key, share, now, sitting) for key, share in list(sitting.shares.items())[:5] if share >= 0.02
        ],
        lacks=[say_field(key, now.sheet) for key in car.lacks],
        asked=[*car.lacks, *tell_of(car, now.sheet)],
        usual=[say_input_name(key, now.sheet) for key in car.usual if key in USUAL_TOLD or key in now.sheet.fields],
        problem=sitting.problem,
        bench=[_bench(place, now) for place in bench_places(readings, sitting)],
        correction=_correction(correction, readings) if correction else None,
        travel=[_travel(travel, now) for travel in wheel_travels(readings, sitting)],
        steering_damper=steering_damper(readings),
        bars=[_bar(bar, now) for bar in now.outlook.bars],
    )


def see_sits(now: Standing) -> list[m.SitsView]:
    """Where each wheel was to stand and where it does, for a job on springs."""
    if not now.changes_springs:
        return []
    return _wheels(now.sitting, now.readings, heights_after(now.readings), now.sprung, now.outlook.axles_moved)


def try_springs(database: Database, job_id: str, wanted: m.TrySprings) -> m.TriedSits:
    """How the car would sit with other perches, seats, rates or holes; nothing is written."""
    now = _springs_job(database, job_id)
    tried = _changed(now.readings, wanted)
    car = sprung_car(tried, now.loads, now.corner_points, now.outlook.axles_moved)
    sitting = sit(car, tried.quantities, 0)
    moved = with_heights(tried, sitting)
    angles = {}
    for key, wheel in wheels_of(moved, moved.quantities).items():
        if wheel.corner is None or not sitting.wheels:
            continue
        try:
            found = angles_at(wheel.corner, [wheel.travel])
            angles[key] = f"{say_toe(float(found.toe[0]))}, camber {degrees(found.camber[0]):+.2f}°".replace("-", "−")
        except NoSolution as error:
            angles[key] = error.message
    return m.TriedSits(
        wheels=_wheels(sitting, tried, {}, car, now.outlook.axles_moved),
        cross_pct=_percent(sitting.cross),
        angles=angles,
        problem=sitting.problem,
    )


def _springs_job(database: Database, job_id: str) -> Standing:
    now = standing(database, job_id)
    if not now.changes_springs:
        raise NotAllowed("This kind of job does not plan a whole car's springs.")
    return now


# A wheel of an axle that nobody works on is told where the other axle moves it by so much. [mm]
STAYS = 0.5


def _percent(share: float | None) -> float | None:
    return None if share is None else 100 * share


# Inputs of a car that are no field of their own, each told by another: its kind, or its scales.
USUAL_TOLD = {MASS: "car.loads", SHARE: "car.loads"}


def tell_of(car: SprungCar, sheet: Sheet) -> list[str]:
    """Fields that would tell what was taken for usual of a car."""
    kind = ["car.size"] if MASS in car.usual else []
    fields = [*kind, *(USUAL_TOLD.get(key, key) for key in car.usual)]
    return [key for key in dict.fromkeys(fields) if key in sheet.fields]


def _wheels(
    sitting: Sitting,
    readings: Readings,
    after: Mapping[str, Quantity],
    car: SprungCar,
    axles: Collection[str],
) -> list[m.SitsView]:
    told, drawn, weighed = readings.quantities, sitting.drawn, MASS not in car.usual
    moved = {
        wheel.key.split(".")[0]
        for wheel in sitting.wheels
        if wheel.key.split(".")[0] in axles or abs(wheel.change) > STAYS
    }
    return [
        m.SitsView(
            key=wheel.key,
            label=label_wheel(wheel.key),
            height_mm=wheel.height.value if wheel.height else None,
            change_mm=wheel.change + 0.0,
            plus_minus_mm=wheel.plus_minus if drawn else None,
            predicted_mm=wheel.predicted,
            predicted_plus_minus_mm=wheel.predicted_plus_minus if drawn else None,
            target_mm=told[key].value if (key := f"{wheel.key}.target.height") in told else None,
            measured_mm=after[wheel.key].value if wheel.key in after else None,
            load_before_n=wheel.load_before if weighed else None,
            load_n=wheel.load if weighed else None,
            load_plus_minus_n=wheel.load_plus_minus if weighed and drawn else None,
            spring_mm=wheel.spring if _own_length(wheel.key, readings) else None,
            laden_mm=None if wheel.laden is None or wheel.predicted is None else wheel.predicted + wheel.laden,
            stop_pressed_mm=wheel.stop_pressed,
        )
        for wheel in sitting.wheels
        if wheel.key.split(".")[0] in moved
    ]


def _own_length(key: str, readings: Readings) -> bool:
    """Whether the spring's length means something: the old one's is taken from its free length only."""
    return readings.words.get(f"{key.split('.')[0]}.new_spring.fit", "as_before") != "as_before"


def _unknown(key: str, share: float, now: Standing, sitting: Sitting) -> m.UnknownView:
    read = now.sprung.inputs.get(key) or now.readings.quantities.get(key, Quantity(0.0))
    worst = max(wheel.plus_minus for wheel in sitting.wheels)
    return m.UnknownView(
        key=key,
        label=say_input_name(key, now.sheet),
        shown=say_input(key, read, now.sheet),
        share_pct=100 * share,
        advice=how_to_be_surer(key),
        plus_minus_mm=worst,
        becomes_mm=becomes(key, read, share, worst),
    )


def _bench(one: Bench, now: Standing) -> m.BenchView:
    place = one.place
    return m.BenchView(
        key=one.key,
        label=label_wheel(one.key),
        from_lower_eye_mm=place.from_lower_eye if place else None,
        from_thread_end_mm=one.left,
        turns_up=place.turns_up if place else None,
        by_thumb_mm=one.by_thumb,
        plus_minus_mm=one.plus_minus,
        spring_mm=place.springs if place else None,
        lacks=[say_field(key, now.sheet) for key in one.lacks],
        asked=list(one.lacks),
        problem=one.problem,
    )


def _correction(found: Correction, readings: Readings) -> m.CorrectionView:
    turns = found.turns
    if turns is None:
        return m.CorrectionView(
            perches=[], heights_mm=[], cross_pct=None, measured=found.measured, problem=found.problem
        )
    return m.CorrectionView(
        perches=[
            m.PerchTurnView(
                key=key,
                label=label_wheel(key),
                exact_turns=float(turns.exact[place]),
                plus_minus_turns=float(found.plus_minus[place]),
                set_turns=float(turns.set_turns[place]),
                said=say_ring(float(turns.set_turns[place])),
                heights_mm=turns.height_effects[place].tolist(),
                loads_n=turns.load_effects[place].tolist(),
            )
            for place, key in enumerate(WHEELS)
        ],
        heights_mm=turns.heights.tolist(),
        cross_pct=100 * turns.cross,
        measured=found.measured,
        problem="",
    )


def _travel(one: WheelTravel, now: Standing) -> m.TravelView:
    return m.TravelView(
        key=one.key,
        label=label_wheel(one.key),
        bump=[_limit(limit) for limit in one.bump],
        droop=[_limit(limit) for limit in one.droop],
        warnings=list(one.warnings),
        lacks=[say_field(key, now.sheet) for key in one.lacks],
        asked=list(one.lacks),
    )


def _limit(one: Limit) -> m.LimitView:
    return m.LimitView(name=one.name, travel_mm=one.travel, plus_minus_mm=one.plus_minus, remedy=one.remedy)


def _bar(one: BarOfAxle, now: Standing) -> m.BarView:
    return m.BarView(
        axle=one.axle,
        holes=[
            m.HoleView(
                name=hole.name,
                rate_n_per_mm=hole.rate,
                front_share_pct=None if hole.front_share is None else 100 * hole.front_share,
                used=hole.used,
            )
            for hole in one.holes
        ],
        preload_n=one.preload.value if one.preload else None,
        preload_plus_minus_n=one.preload.plus_minus if one.preload else 0.0,
        cross_shift_pct=100 * one.cross_shift.value if one.cross_shift else None,
        cross_shift_plus_minus_pct=100 * one.cross_shift.plus_minus if one.cross_shift else 0.0,
        link_mm=one.link.value if one.link else None,
        link_plus_minus_mm=one.link.plus_minus if one.link else 0.0,
        sideways_mm=one.sideways,
        lacks=[say_field(key, now.sheet) for key in one.lacks],
        asked=list(one.lacks),
        problem=one.problem,
    )


def _changed(readings: Readings, wanted: m.TrySprings) -> Readings:
    told, words = dict(readings.quantities), dict(readings.words)

    def moved(key: str, by: float) -> None:
        old = told.get(key, Quantity(0.0))
        told[key] = replace(old, value=old.value + by)

    for wheel, turns in wanted.turns.items():
        moved(f"{wheel}.perch_up", turns)
        if f"{wheel.split('.')[0]}.spring.perch_pitch" not in told:
            raise InputError("This axle has no thread pitch of its seats in its record.", field=f"turns.{wheel}")
    for wheel, seat in wanted.seats_mm.items():
        moved(f"{wheel}.new_seat", seat)
    for axle, pct in wanted.rates_pct.items():
        fit = words.get(f"{axle}.new_spring.fit", "as_before")
        key = f"{axle}.new_spring.rate" if fit != "as_before" else f"{axle}.spring.rate"
        if key in told:
            told[key] = replace(told[key], value=told[key].value * (1 + pct / 100))
    for axle, hole in wanted.holes.items():
        words[f"{axle}.new_bar.hole"] = hole
    return replace(readings, quantities=told, words=words)
