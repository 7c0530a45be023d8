"""From readings to where a car sits: every thickness, what is missing, travel, bars, learning."""

from dataclasses import replace

import numpy as np
import pytest
from kinds import WHOLE_CAR

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import AXLES, WHEELS
from fair_spindle.core.joblog.log import Entered, Event, Filled
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.starting import loads_now
from fair_spindle.core.predict.bars import bars_of
from fair_spindle.core.predict.limits import wheel_travels
from fair_spindle.core.predict.perching import bench_places, correct_perches
from fair_spindle.core.predict.ride_height import sit
from fair_spindle.core.predict.settled import with_heights
from fair_spindle.core.predict.sprung_car import sprung_car

UNITS = {
    "rate": "n_per_mm",
    "ratio": "spring_per_wheel",
    "pitch": "pitch_mm",
    "turns": "turn",
    "deg": "deg",
    "n": "n",
}


def typed(key, text, unit="mm"):
    return Entered(key, "typed", {"value": Typed(str(text), UNITS.get(unit, unit))})


def choose(key, choice):
    return Entered(key, choice=choice)


def scales(key, *loads):
    names = ("front_left", "front_right", "rear_left", "rear_right")
    return Entered(key, "four_scales", {n: Typed(str(load), "n") for n, load in zip(names, loads, strict=True)})


CAR = [
    scales("car.loads", 3400, 3400, 2600, 2600),
    typed("car.wheelbase", 2600),
    *(typed(f"{axle}.track", 1500) for axle in ("front", "rear")),
    *(typed(f"{axle}.unsprung", 400, "n") for axle in ("front", "rear")),
    *(typed(f"{axle}.motion_ratio", ratio, "ratio") for axle, ratio in (("front", 0.95), ("rear", 0.7))),
    *(typed(f"{axle}.spring.rate", rate, "rate") for axle, rate in (("front", 30), ("rear", 45))),
    *(typed(f"{axle}.spring.free", 360) for axle in ("front", "rear")),
    *(Entered(f"{key}.height", "hub_to_arch", {"height": Typed("360", "mm")}) for key in WHEELS),
]


def job(*entries):
    state = derive([Event("e", 1, "2026-03-01T08:00:00Z", Filled((*CAR, *entries), "t"))], WHOLE_CAR)
    readings = readings_now(state, WHOLE_CAR)
    car = sprung_car(readings, loads_now(state, readings))
    return readings, car, sit(car, readings.quantities, 0)


def lift(*entries):
    """Height change of both axles, in one number each."""
    sitting = job(*entries)[2]
    assert not sitting.problem
    changes = [one.change for one in sitting.wheels]
    assert changes[0] == pytest.approx(changes[1], abs=1e-6)
    return changes[0], changes[2]


def test_every_thickness_lifts_by_its_own_ratio():
    assert lift() == pytest.approx((0.0, 0.0), abs=1e-9)
    both = [typed(f"front.{side}.new_seat", 19) for side in ("left", "right")]
    assert lift(*both) == pytest.approx((19 / 0.95, 0.0), abs=1e-6)
    top = typed("rear.new_top.spacer", 14)
    assert lift(top) == pytest.approx((0.0, 14 / 0.7), abs=1e-6), "a spacer on the unit is not body lift"
    damper = typed("rear.damper_ratio", 0.9, "ratio")
    assert lift(top, damper) == pytest.approx((0.0, 14 / 0.9), abs=1e-6), "on the unit, by the unit's own ratio"
    ring = [choose("rear.spring.kind", "coilover"), typed("rear.spring.perch_pitch", 2, "pitch")]
    ring += [typed(f"rear.{side}.perch_up", -3.5, "turns") for side in ("left", "right")]
    assert lift(*ring) == pytest.approx((0.0, -7 / 0.7), abs=1e-6)
    leaf = [choose("rear.spring.kind", "leaf"), typed("rear.new_block", 40)]
    assert lift(*leaf) == pytest.approx((0.0, 40.0), abs=1e-6)
    assert lift(*leaf, choose("rear.leaf.place", "over")) == pytest.approx((0.0, -40.0), abs=1e-6)
    shackle = [
        leaf[0],
        typed("rear.new_shackle", 50),
        typed("rear.leaf.front_half", 600),
        typed("rear.leaf.rear_half", 600),
    ]
    assert lift(*shackle) == pytest.approx((0.0, 25.0), abs=1e-6), "half of a longer shackle, upright"
    assert lift(*shackle, typed("rear.shackle.lean", 60, "deg"))[1] == pytest.approx(12.5, abs=1e-6)
    key = [
        choose("front.spring.kind", "torsion_bar"),
        typed("front.torsion.arm", 380),
        typed("front.new_key", 2, "deg"),
    ]
    assert lift(*key)[0] == pytest.approx(380 * np.radians(2) / 0.95, abs=1e-6)


def test_what_is_missing_is_named_and_what_cannot_be_is_told():
    state = derive([Event("e", 1, "", Filled((typed("front.track", 1500),), "t"))], WHOLE_CAR)
    readings = readings_now(state, WHOLE_CAR)
    nothing = sprung_car(readings, None, changed=("front", "rear"))
    assert nothing.lacks == tuple(f"{axle}.{name}" for axle in AXLES for name in ("new_spring.fit", "new_top.spacer"))
    assert (nothing.stands, sit(nothing, {}).wheels) == ((), ()), "what nobody told is no change of naught"
    spacer = {**readings.quantities, "front.new_top.spacer": Quantity(25.0), "front.motion_ratio": Quantity(0.55)}
    half = sprung_car(replace(readings, quantities=spacer), None, changed=("front", "rear"))
    assert half.lacks == ("rear.new_spring.fit", "rear.new_top.spacer")
    sitting = sit(half, {}, 400)
    assert [one.key for one in sitting.wheels] == ["front.left", "front.right"]
    assert [one.change for one in sitting.wheels] == pytest.approx([25 / 0.55] * 2), (
        "by hand, whatever the car weighs"
    )
    assert (sitting.cross, sitting.cross_before) == (None, None), "nobody weighed it"
    words = {**readings.words, "front.new_spring.fit": "coil"}
    new = sprung_car(replace(readings, words=words), None, changed=("front",))
    assert set(new.lacks) == {
        f"front.{which}.{part}" for which in ("spring", "new_spring") for part in ("rate", "free")
    }
    short = [
        choose("front.new_spring.fit", "coil"),
        typed("front.new_spring.rate", 1.2, "rate"),
        typed("front.new_spring.free", 200),
    ]
    readings, car, sitting = job(*short)
    assert "does not come to rest" in sitting.problem
    assert bars_of(readings, car) == []
    assert wheel_travels(readings, sitting) == []


def test_how_sure_it_is_and_what_leaves_most_open():
    new = [
        choose("front.new_spring.fit", "coil"),
        typed("front.new_spring.rate", 42, "rate"),
        typed("front.new_spring.free", 318),
    ]
    readings, car, _ = job(*new)
    sure = sit(car, readings.quantities, 4000)
    again = sit(car, readings.quantities, 4000)
    assert sure == again, "the same seed"
    front = sure.wheels[0]
    assert 2 < front.plus_minus < 12
    assert front.predicted_plus_minus > front.plus_minus
    assert sum(sure.shares.values()) == pytest.approx(1.0)
    surer = sit(
        sprung_car(readings_now_with(readings, {"front.spring.rate": Quantity(30.0, 0.0)}), _loads()),
        readings.quantities,
        4000,
    )
    assert surer.wheels[0].plus_minus < front.plus_minus


def _loads():
    state = derive([Event("e", 1, "", Filled(tuple(CAR), "t"))], WHOLE_CAR)
    return loads_now(state, readings_now(state, WHOLE_CAR))


def readings_now_with(readings, quantities):
    return type(readings)(readings.sheet, {**readings.quantities, **quantities}, readings.words)


def test_travel_is_ended_by_what_comes_first_at_the_new_height():
    entries = [
        *(typed(f"front.{side}.new_seat", 19) for side in ("left", "right")),
        typed("front.damper.open", 520), typed("front.damper.closed", 360), typed("front.damper.stop", 30),
        typed("front.left.damper_length", 440),
        typed("front.left.limit.hose", 405), typed("front.left.limit.arch", 270),
        typed("front.left.limit.strap", 430),
    ]  # fmt: skip
    readings, _, sitting = job(*entries)
    left = wheel_travels(readings, sitting)[0]
    rise = 19 / 0.95
    assert [(one.name, round(one.travel, 3)) for one in left.droop] == [
        ("brake hose tight", round(360 + rise - 405, 3)),
        ("limit strap tight", round(360 + rise - 430, 3)),
        ("damper fully open", round(-(520 - 440 - 0.95 * rise) / 0.95, 3)),
    ]
    assert left.bump[0].name == "bump stop touched"
    assert left.bump[0].travel == pytest.approx((440 + 0.95 * rise - 360 - 30) / 0.95)
    assert any("longer brake hose" in words for words in left.warnings)
    assert any(words.startswith("Brake hose tight before limit strap tight") for words in left.warnings)
    lower = job(typed("front.left.limit.arch", 350), *(typed(f"front.{s}.new_seat", -25) for s in ("left", "right")))
    assert any("passed already" in words for words in wheel_travels(lower[0], lower[2])[0].warnings)


def test_rings_on_the_bench_bring_the_height_that_the_whole_car_then_has():
    ring = [
        choose("rear.spring.kind", "coilover"),
        *(typed(f"rear.perch.{n}", v) for n, v in (("upper", 40), ("lowest", 100), ("thread", 90))),
        typed("rear.spring.perch_pitch", 2, "pitch"),
        *(
            typed(f"rear.{side}.{n}", v)
            for side in ("left", "right")
            for n, v in (("damper_length", 470), ("target.height", 346))
        ),
    ]
    readings, car, sitting = job(*ring)
    bench = bench_places(readings, sitting)
    assert [one.key for one in bench] == ["rear.left", "rear.right"]
    force = 2200 / 0.7
    seat = 470 + 0.7 * (346 - 360) - 40 - (360 - force / 45)
    assert bench[0].place.from_lower_eye == pytest.approx(seat)
    assert bench[0].by_thumb == pytest.approx(145.0)
    assert bench[0].left == pytest.approx(190 - seat)
    found = correct_perches(readings, car, sitting, {}, {})
    turns = found.turns.set_turns
    assert turns[:2].tolist() == [0, 0]
    moved = [typed(f"rear.{side}.perch_up", turns[2], "turns") for side in ("left", "right")]
    assert lift(*ring, *moved)[1] == pytest.approx(-14.0, abs=1.0)
    weighed = {key: load for key, load in zip(WHEELS, (3500, 3300, 2500, 2700), strict=True)}
    told = job(*ring, Entered("car.target_cross", "typed", {"value": Typed("50", "pct")}))
    crossed = correct_perches(told[0], told[1], told[2], {}, weighed)
    assert crossed.turns.cross == pytest.approx(0.5, abs=0.004)
    assert crossed.turns.set_turns[2] > crossed.turns.set_turns[3], "higher where the light diagonal is"


def test_toe_and_camber_are_planned_for_the_height_the_springs_bring():
    readings, _, sitting = job(*(typed(f"front.{side}.new_seat", 19) for side in ("left", "right")))
    moved = with_heights(readings, sitting)
    assert moved.quantities["front.left.height_change"].value == pytest.approx(20.0)
    assert "front.left.height_change" not in readings.quantities


def test_a_bar_in_a_softer_hole_moves_the_balance_and_a_forced_link_the_cross_weight():
    bar = [
        choose("front.bar.fitted", "adjustable_links"),
        typed("front.bar.diameter", 24), typed("front.bar.length", 900), typed("front.bar.link", 140),
        typed("front.bar.hole_1", 250), typed("front.bar.hole_2", 220), typed("front.bar.gap", 8),
    ]  # fmt: skip
    readings, car, _ = job(*bar, choose("front.new_bar.hole", "2"))
    found = bars_of(readings, car)[0]
    soft, stiff = found.holes
    assert (soft.used, stiff.used) == (False, True)
    assert soft.rate < stiff.rate
    assert soft.front_share < stiff.front_share
    assert found.link.value == pytest.approx(148.0)
    assert found.preload.value > 0
    assert 0 < found.preload.plus_minus < 0.3 * found.preload.value
    hangs = bars_of(job(*bar, choose("front.bar.link_from", "strut"))[0], car)[0]
    assert hangs.link.value == pytest.approx(132.0), "hung from the strut it gets shorter by the gap"
    _, _, sitting = job(*bar)
    later = bars_of(job(*bar, typed("front.check_bar_gap", 3))[0], car)[0]
    assert later.link.value == pytest.approx(143.0), "a gap read after settling outranks the one before"
    rises = {one.key: one.change for one in sitting.wheels}
    assert rises["front.left"] > 2, "the right end above its hole presses the right side down, the left one up"
    assert rises["front.right"] == pytest.approx(-rises["front.left"], abs=1e-6)
    assert sitting.cross < 0.5
    assert bars_of(readings, car)[0].cross_shift.value < -0.001
