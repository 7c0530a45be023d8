"""What is foreseen of a car and read beside it, worked by hand: springs, travel, rings, windows, bars, aims."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from test_geometry_of_cars import ANGLES, points, record, typed
from test_rubber_and_heights import NEW, choose, job
from test_rubber_and_heights import typed as mm_typed

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.bolts.joint import Bolt, BoltSpec
from fair_spindle.core.bolts.tightening import angle_tension
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Entered, Event
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import Readings, missing_fields
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.aboard import PLACES, added_loads
from fair_spindle.core.predict.adjusters import USUAL_SWING, _swapped
from fair_spindle.core.predict.advice import becomes
from fair_spindle.core.predict.aligned import _read_again
from fair_spindle.core.predict.bars import bars_of
from fair_spindle.core.predict.bolted import strain_of
from fair_spindle.core.predict.correcting import STEP_OPEN, WORTH, _worth_turning
from fair_spindle.core.predict.geometry import wheels_of
from fair_spindle.core.predict.height_model import HeightModel
from fair_spindle.core.predict.limits import steering_damper, wheel_travels
from fair_spindle.core.predict.linkage_fit import mirrored
from fair_spindle.core.predict.perching import bench_places
from fair_spindle.core.predict.ride_height import Sitting, WheelSits
from fair_spindle.core.predict.settled import heights_after, with_read_heights
from fair_spindle.core.predict.sides import sides_apart
from fair_spindle.core.predict.sprung_car import _Builder, _loads
from fair_spindle.core.predict.steering import total_toe
from fair_spindle.core.review.before_and_after import Beside, beside_read, beside_sitting
from fair_spindle.core.review.corrections import want_links, want_rings, want_wheels
from fair_spindle.core.review.height_causes import explain_heights
from fair_spindle.core.springs.loads import car_loads
from fair_spindle.core.springs.springs import stop_curve
from fair_spindle.core.springs.sway_bar import bar_rates, preload, wheel_rate
from fair_spindle.core.turns.adjuster import Adjuster


@pytest.mark.referee
def test_two_mirrored_sides_are_drawn_together_as_two_readings_of_one_thing_would_be():
    left, right = [np.array([100.0, 400.0, 200.0])], [np.array([102.0, -404.0, 199.0])]
    lefts, rights, share = mirrored(left, right, 1.5)
    apart = np.array([-2.0, -4.0, 1.0])
    built = np.mean(apart**2) - 2 * 1.5**2
    pull = 1.5**2 / (2 * 1.5**2 + built)
    assert lefts[0] == pytest.approx(left[0] - pull * apart)
    assert rights[0] == pytest.approx(right[0] + pull * apart * [1, -1, 1])
    assert share == pytest.approx(pull)
    assert np.abs(lefts[0] - rights[0] * [1, -1, 1]).max() < 4.0, "nearer each other, not farther"


def test_a_height_read_after_settling_stands_with_the_uncertainty_of_both_readings():
    told = {"front.left.height": Quantity(360.0, 0.3), "front.left.check_height": Quantity(348.0, 0.4)}
    told |= {"rear.left.check_height": Quantity(350.0, 0.4)}
    readings = Readings(Sheet(), told, {})
    assert set(heights_after(readings)) == {"front.left", "rear.left"}
    found = with_read_heights(readings).quantities
    change = found["front.left.height_change"]
    assert (change.value, change.uncertainty, change.parts["apart"]) == (
        -12.0,
        pytest.approx(0.5),
        pytest.approx(0.5),
    )
    assert "rear.left.height_change" not in found, "nothing to compare with"


@pytest.mark.parametrize(
    ("key", "read", "share", "wanted"),
    [
        ("front.left.load", Quantity(3500.0, 140.0), 0.75, 10 * math.sqrt(1 - 0.75 * (1 - (14 / 140) ** 2))),
        ("front.motion_ratio", Quantity(0.9, 0.03), 0.5, 10 * math.sqrt(1 - 0.5 * (1 - (0.006 / 0.03) ** 2))),
        ("front.motion_ratio", Quantity(0.9, 0.006), 0.5, None),
        ("front.left.load", Quantity(3500.0, 140.0), 0.1, None),
        ("nothing.like.it", Quantity(1.0, 1.0), 0.9, None),
    ],
)
def test_what_a_band_becomes_once_its_largest_part_is_measured(key, read, share, wanted):
    assert becomes(key, read, share, 10.0) == (None if wanted is None else pytest.approx(wanted))


def test_a_correction_must_be_nearer_also_where_turns_do_less_or_more_than_they_should():
    """Turned too far by its share it would be as far off on the other side: not worth it, though cured on paper."""

    def worth(start, after):
        wanted = SimpleNamespace(targets={"toe": 0.0}, tolerances={"toe": 1.0})
        now = SimpleNamespace(wanted=wanted, before={"toe": start})
        return _worth_turning([now], [SimpleNamespace(after={"toe": after})])

    over = -1.2 * (1 - STEP_OPEN) / (1 + STEP_OPEN)
    assert worth(1.2, over + 0.05)
    assert not worth(1.2, over - 0.05)
    assert worth(3.0, 3.0 * math.sqrt(WORTH) * 0.999)
    assert not worth(3.0, 3.0 * math.sqrt(WORTH) * 1.001)


def test_an_angle_after_the_torque_adds_its_own_tension():
    spec = BoltSpec("torque_angle", Typed("40", "nm"), angle_deg=90, source="s")
    bolt = Bolt(1, diameter_mm=12, pitch_mm=1.25, length_mm=60, property_class="10.9", spec=spec)
    both, torque = strain_of(bolt), strain_of(replace(bolt, spec=replace(spec, way="torque")))
    added, unsure = angle_tension(12, 1.25, 60, math.pi / 2)
    assert both.force == pytest.approx(torque.force + added)
    opens = [one.plus_minus * one.force / one.share for one in (both, torque)]
    assert opens[0] == pytest.approx(math.hypot(opens[1], unsure))
    unknown = strain_of(replace(bolt, length_mm=0))
    assert unknown.plus_minus / unknown.share > both.plus_minus / both.share, "the length was not told"


def test_a_body_lower_at_the_left_leans_both_wheels_to_the_left():
    told = record(Entered("front.layout", choice="strut"), *points(), typed("front.track", "1500"))
    fallen = {f"front.{side}.height_change": Quantity(fall) for side, fall in (("left", -20.0), ("right", -10.0))}
    told = replace(told, quantities={**told.quantities, **fallen})
    wheels = wheels_of(told, ANGLES)
    lean = 10 / 1500
    for side, sign in (("left", 1), ("right", -1)):
        wheel = wheels[f"front.{side}"]
        assert wheel.rolled == pytest.approx(sign * lean), "the top of the left wheel leans out, of the right one in"
        assert wheel.corner.camber == pytest.approx(ANGLES[f"front.{side}.camber"].value + sign * lean, abs=1e-4)
        assert wheel.travel == pytest.approx(20 if side == "left" else 10)


def test_an_angle_that_no_plan_moves_stands_where_it_was_read_before_or_after():
    told = {
        "front.left.height": Quantity(360.0, 0.5),
        "front.left.check_toe": Quantity(2e-3, 1e-4),
        "front.left.target.toe": Quantity(1e-3),
        "front.left.camber": Quantity(-0.01, 1e-3),
        "front.left.check_camber": Quantity(-0.02, 1e-3),
        "front.right.caster": Quantity(0.1, 1e-3),
    }
    found = {one.name: one for one in beside_read("front.left", told, ("height",))}
    assert set(found) == {"toe", "camber"}
    toe, camber = found["toe"], found["camber"]
    assert (toe.before, toe.wanted, toe.read) == (None, 1e-3, told["front.left.check_toe"])
    assert (camber.before, camber.wanted, camber.read) == (
        told["front.left.camber"],
        None,
        told["front.left.check_camber"],
    )


def test_a_springs_height_stands_beside_what_was_predicted_of_its_own_wheel():
    sitting = Sitting(wheels=(SimpleNamespace(key="rear.right", predicted=331.0, predicted_plus_minus=4.0),))
    told = {"rear.right.height": Quantity(360.0, 0.5), "rear.right.check_height": Quantity(333.0, 0.5)}
    told |= {"rear.right.target.height": Quantity(330.0), "rear.left.height": Quantity(1.0)}
    (found,) = beside_sitting(sitting, told)
    assert (found.key, found.before.value, found.wanted, found.predicted, found.open) == (
        "rear.right",
        360.0,
        330.0,
        331.0,
        4.0,
    )
    assert (found.miss, found.change.value, found.beyond) == (2.0, -27.0, False)


LEAST = {"engagement": Quantity(15.0)}


@pytest.mark.parametrize(
    ("told", "low", "high"),
    [
        ({"swap": Quantity(3.0, 0.2)}, 3.0 - USUAL_SWING, 3.0 + USUAL_SWING),
        (
            {"swap": Quantity(3.0, 0.2), "swap_engaged": Quantity(24.0), "engagement": Quantity(15.0)},
            3.0 - USUAL_SWING,
            12.0,
        ),
        ({"swap": Quantity(3.0, 0.2, parts={"turns": 1.0}), **LEAST}, 3.0 - USUAL_SWING, -12.0),
    ],
    ids=["nothing known", "thread engaged", "counted from no thread"],
)
def test_a_new_part_starts_at_its_own_length_and_ends_where_its_thread_does(told, low, high):
    where = "front.left.tie"
    told = {f"{where}.{name}": size for name, size in told.items()} | {f"{where}.swap_per_turn": Quantity(1.25)}
    old = Adjuster("Tie rod", (("tie", 1.0),), 1.5, 1 / 6, -10.0, 10.0, "turn", part=where)
    new = _swapped(Readings(Sheet(), told, {}), old)
    assert (new.start, new.doubt, new.per_turn, new.low, new.high) == (3.0, 0.2, 1.25, low, high)
    assert new.from_no_thread is (high < 0)
    assert _swapped(Readings(Sheet(), {}, {}), old) is old


@pytest.mark.parametrize("side", ["left", "right"])
def test_who_sits_in_a_car_is_carried_by_its_wheels_as_levers_say(side):
    weighed = car_loads("two_axles", {"front": 8e3, "rear": 6e3}, {})
    told = {f"car.aboard.{name}": Quantity(weight) for name, weight in (("driver", 800.0), ("boot", 300.0))}
    found = added_loads(Readings(Sheet(), told, {"car.driver_side": side}), weighed)
    (back, aside), (boot, _) = PLACES["driver"], PLACES["boot"]
    assert found.sum() == pytest.approx(1100.0)
    assert found[2:].sum() == pytest.approx(800 * back + 300 * boot)
    heavy = found[[0, 2]].sum() - found[[1, 3]].sum()
    assert heavy == pytest.approx((1 if side == "left" else -1) * 800 * 2 * aside)


def test_left_less_right_is_told_for_its_own_axle():
    limits = {"rear.apart.toe": Quantity(1e-3), "front.apart.camber": Quantity(5e-3)}
    angles = {
        "front.left": {"camber": -0.010, "toe": 0.0}, "front.right": {"camber": -0.014, "toe": 0.0},
        "rear.left": {"camber": 0.0, "toe": 3e-3}, "rear.right": {"camber": 0.0, "toe": 1e-3},
    }  # fmt: skip
    told = {(one.axle, one.name): one for one in sides_apart(limits, angles)}
    assert set(told) == {("front", "camber"), ("rear", "toe")}
    assert told["front", "camber"].difference == pytest.approx(0.004)
    assert told["front", "camber"].inside
    assert told["rear", "toe"].difference == pytest.approx(0.002)
    assert not told["rear", "toe"].inside


def test_total_toe_of_a_solid_axle_is_read_of_both_its_wheels():
    told = {"front.left.check_toe": Quantity(2e-3, 3e-4), "front.right.check_toe": Quantity(-5e-4, 4e-4)}
    found = total_toe(Readings(Sheet(), told, {}), "check_")
    assert (found.value, found.uncertainty) == (pytest.approx(1.5e-3), pytest.approx(5e-4))
    assert total_toe(Readings(Sheet(), {"front.left.check_toe": Quantity(2e-3)}, {}), "check_") is None


@pytest.mark.parametrize(("spacer", "target", "gas"), [(0.0, 350.0, 0.0), (8.0, 350.0, 150.0), (8.0, 365.0, 150.0)])
def test_a_ring_goes_where_the_loaded_spring_leaves_it_above_the_lower_eye(spacer, target, gas):
    """By hand: damper at the wanted height, less its upper seat, less the spring as long as its load presses it."""
    axle = {
        "motion_ratio": 0.9,
        "perch.upper": 60.0,
        "perch.lowest": 120.0,
        "perch.thread": 90.0,
        "spring.perch_pitch": 2.0,
    }
    axle |= {
        "new_spring.rate": 55.0,
        "new_spring.free": 220.0,
        "new_top.spacer": spacer,
        "damper.gas": gas,
        "unsprung": 400.0,
    }
    wheel = {"damper_length": 420.0, "height": 355.0, "target.height": target}
    told = {f"front.{name}": Quantity(size) for name, size in axle.items()}
    told |= {f"front.left.{name}": Quantity(size) for name, size in wheel.items()}
    words = {"front.spring.kind": "coilover", "front.new_spring.fit": "single"}
    stands = [SimpleNamespace(key=key, load_before=3600.0, load_plus_minus=0.0) for key in WHEELS]
    left, right = bench_places(Readings(Sheet(), told, words), Sitting(wheels=tuple(stands)))
    assert right.lacks[0] == "front.right.damper_length"
    spring = 220.0 - ((3600.0 - 400.0) / 0.9 - gas) / 55.0
    by_hand = 420.0 - spacer + 0.9 * (target - 355.0) - 60.0 - spring
    assert left.place.from_lower_eye == pytest.approx(by_hand)
    assert left.place.turns_up == pytest.approx((by_hand - 120.0) / 2.0)
    assert left.left == pytest.approx(120.0 + 90.0 - by_hand)


def test_what_is_still_wanted_names_the_wheel_the_adjuster_and_how_much():
    tie = Adjuster("Tie rod", (("tie", 1.0),), 1.5, 1 / 6, -10.0, 10.0)
    arm = Adjuster("Lower arm", (("lower_front", 1.0), ("lower_rear", 1.0)), 1.0, 0.5, -2.0, 2.0, "mm")
    wheel = SimpleNamespace(
        still={"Tie rod": -3, "Lower arm": 0},
        beyond={"Lower arm": 1.5},
        plan=SimpleNamespace(wheel=SimpleNamespace(adjusters=(tie, arm))),
    )
    done = SimpleNamespace(still=None)
    rods = tuple(SimpleNamespace(still=still, rod=SimpleNamespace(adjuster=tie)) for still in (4, 0))
    wants = want_wheels({"rear.left": wheel, "rear.right": done}, rods)
    assert [(one.where, one.axle, one.what, one.name, one.amount, one.beyond) for one in wants] == [
        ("rear.left", "rear", "toe", "Tie rod", -0.5, 0.0),
        ("rear.left", "rear", "arms", "Lower arm", 0.0, 1.5),
        ("front", "front", "toe", "Tie rod", pytest.approx(4 / 6), 0.0),
    ]
    turns = SimpleNamespace(turns=SimpleNamespace(set_turns=np.array([0.0, 1.25, -0.5, 0.0])))
    assert [(one.where, one.amount) for one in want_rings(turns)] == [("front.right", 1.25), ("rear.left", -0.5)]
    bars = [SimpleNamespace(axle=axle, link=Quantity(length)) for axle, length in (("front", 120.0), ("rear", 90.0))]
    told = {"front.check_bar_gap": Quantity(0.8), "rear.check_bar_gap": Quantity(-1.2)}
    assert [(one.where, one.amount) for one in want_links(bars, told)] == [("rear", 90.0)]


def test_what_ends_a_wheels_travel_by_hand_each_with_its_own_uncertainty():
    axle = {
        "damper.open": 520.0,
        "damper.closed": 380.0,
        "damper.stop": 20.0,
        "damper_ratio": 0.9,
        "motion_ratio": 0.8,
    }
    axle |= {"new_spring.free": 230.0, "new_spring.solid": 90.0, "new_top.spacer": 6.0}
    axle |= {"new_spring.helper_free": 50.0, "new_spring.helper_solid": 14.0, "new_spring.ring": 5.0}
    own = {"damper_length": 462.0, "limit.hose": 395.0, "limit.arch": 290.0, "limit.joint": math.radians(20.0)}
    own |= {"lower.length": 330.0, "lower.rise": -20.0}
    told = {f"front.{name}": Quantity(size) for name, size in axle.items()}
    told |= {f"front.left.{name}": Quantity(size) for name, size in own.items()}
    told["front.left.damper_length"] = Quantity(462.0, 1.5)
    readings = Readings(Sheet(), told, {"front.new_spring.fit": "stack"})
    wheel = WheelSits("front.left", Quantity(360.0, 0.8), -30.0, 3.0, 3500.0, 3500.0, 0.0, 181.0, -27.0)
    (found,) = wheel_travels(readings, Sitting(wheels=(wheel,)))
    at_ride = 462.0 - 27.0 - 6.0
    bump = {
        "bump stop touched": (at_ride - 380.0 - 20.0) / 0.9,
        "damper fully closed": (at_ride - 380.0) / 0.9,
        "coils touch": (181.0 - 90.0 - 14.0 - 5.0) / 0.8,
        "tyre meets the arch": 330.0 - 290.0,
        "lower joint at its angle": 330.0 * math.sin(math.radians(20.0)) - (-20.0 + 30.0),
    }
    droop = {
        "damper fully open": -(520.0 - at_ride) / 0.9,
        "spring loose": -(230.0 + 50.0 + 5.0 - 181.0) / 0.8,
        "brake hose tight": 330.0 - 395.0,
        "lower joint at its angle": -(330.0 * math.sin(math.radians(20.0)) + 10.0),
    }
    told_bump, told_droop = ({one.name: one for one in side} for side in (found.bump, found.droop))
    assert {name: one.travel for name, one in told_bump.items()} == pytest.approx(bump)
    assert {name: one.travel for name, one in told_droop.items()} == pytest.approx(droop)
    assert [one.travel for one in found.bump] == sorted(bump.values())
    assert [one.travel for one in found.droop] == sorted(droop.values(), reverse=True)
    # The height's own ± moves the damper by the spring's ratio, what sits on the body as it is.
    assert told_bump["tyre meets the arch"].plus_minus == pytest.approx(2 * math.hypot(1.5, 0.8))
    assert told_bump["damper fully closed"].plus_minus == pytest.approx(2 * math.hypot(1.5, 0.8 * 1.5) / 0.9)
    assert told_bump["coils touch"].plus_minus == pytest.approx(2 * 1.5)
    assert not any("already" in words for words in found.warnings)


@pytest.mark.parametrize(
    ("at", "words"),
    [(505.0, "15 mm of room"), (517.0, "3 mm before it is fully open"), (383.0, "3 mm before it is fully closed")],
)
def test_a_steering_damper_at_full_lock(at, words):
    told = {"front.steer_damper.open": Quantity(520.0), "front.steer_damper.closed": Quantity(380.0)}
    told["front.steer_damper.at_right"] = Quantity(at)
    (said,) = steering_damper(Readings(Sheet(), told, {}))
    assert words in said
    assert "lock right" in said


@pytest.mark.referee
def test_a_bars_share_of_roll_stiffness_is_springs_and_bar_over_both_axles():
    """By hand: k t²/2 of an axle's springs and b t² of its bar, k and b at the wheels."""
    fitted = ()
    for axle, thick in (("front", 22), ("rear", 18)):
        fitted += (choose(f"{axle}.bar.fitted", "fixed_links"), mm_typed(f"{axle}.bar.diameter", thick))
        fitted += (mm_typed(f"{axle}.bar.length", 900), mm_typed(f"{axle}.bar.hole_1", 220))
    readings, car, _ = job(*NEW, *fitted)
    (bar, behind), stance = bars_of(readings, car), car.build({}).stance
    rate = bar.holes[0].rate
    front = (42 * 0.95**2 / 2 + rate) * stance.track_front**2
    rear = (60 * 0.7**2 / 2 + behind.holes[0].rate) * stance.track_rear**2
    assert [one.holes[0].front_share for one in (bar, behind)] == pytest.approx([front / (front + rear)] * 2)
    assert rate == pytest.approx(wheel_rate(bar_rates(22, 900, [220], 0.0)[0], 1.0))


def builder(told, words=None, values=None):
    return _Builder(words or {}, {key: Quantity(size) for key, size in told.items()}, values or {})


def test_what_a_spring_carried_is_the_load_less_gas_stop_and_wound_rubber():
    told = {"front.motion_ratio": 0.9, "front.damper_ratio": 0.85, "front.damper.gas": 150.0}
    told |= {"front.left.height": 360.0}
    told |= {"front.left.rubber.rate": 5.0, "front.left.rubber.clamped": 372.0}
    assert builder(told)._force("front.left", 3000.0) == pytest.approx((3000 - 5 * 12 - 150 * 0.85) / 0.9)
    told |= {"front.left.damper_length": 400.0, "front.damper.closed": 380.0, "front.damper.stop": 30.0}
    stop = stop_curve(30.0).force(10.0)[0]
    assert builder(told)._force("front.left", 3000.0) == pytest.approx((3000 - 60 - 0.85 * stop - 150 * 0.85) / 0.9)


def test_a_new_spring_longer_than_printed_stands_as_much_higher():
    told = {"front.spring.rate": 40.0, "front.spring.free": 300.0}
    told |= {"front.new_spring.rate": 50.0, "front.new_spring.free": 280.0}
    words = {"front.new_spring.fit": "coil"}
    curve, scale, length = builder(told, words)._spring("front.left", 3000.0)
    assert (curve.free, scale, length) == (280.0, 1.0, pytest.approx(300 - 3000 / 40))
    # A drawn spring, 4 mm longer and 2 % harder than printed: its curve is the printed one, shifted and scaled.
    drawn = {"front.new_spring.free": 284.0, "front.new_spring.rate": 51.0}
    _, scale, shifted = builder(told, words, drawn)._spring("front.left", 3000.0)
    assert (scale, shifted) == (pytest.approx(1.02), pytest.approx(length - 4))


@pytest.mark.parametrize(("place", "sign"), [("under", 1), ("over", -1)])
def test_blocks_shackles_seats_and_keys_press_a_spring_by_hand(place, sign):
    told = {"rear.new_block": 30.0, "rear.new_shackle": 20.0}
    told |= {"rear.leaf.front_half": 600.0, "rear.leaf.rear_half": 700.0, "rear.shackle.lean": math.radians(20.0)}
    raised = builder(told, {"rear.leaf.place": place})._raised("rear")
    assert raised == pytest.approx(sign * 30 + 20 * math.cos(math.radians(20)) * 600 / 1300)
    told |= {"rear.left.new_seat": 5.0, "rear.left.perch_up": 3.0, "rear.spring.perch_pitch": 2.0}
    told |= {"rear.new_top.spacer": 8.0, "rear.torsion.arm": 300.0, "rear.new_key": 0.05}
    pressed = builder(told, {"rear.leaf.place": place})._pressed("rear.left", 0.9, 0.8)
    assert pressed == pytest.approx(5 + 6 + 8 * 0.9 / 0.8 + 300 * 0.05 + raised * 0.9)


def test_a_forced_link_lifts_the_left_side_by_what_its_bar_pushes():
    told = {"front.bar.diameter": 22.0, "front.bar.length": 900.0, "front.bar.hole_1": 220.0, "front.bar.gap": 8.0}
    told |= {"front.bar.link_ratio": 0.8}
    rate, push = builder(told, {"front.bar.fitted": "fixed_links"})._bar("front")
    end = bar_rates(22.0, 900.0, [220.0], 0.0)[0]
    assert rate == pytest.approx(wheel_rate(end, 0.8))
    assert push == pytest.approx(-preload(end, 1.0) * 8 * 0.8)
    assert builder(told)._bar("front") == (0.0, 0.0), "no bar is fitted"


def test_a_wheel_read_again_was_read_at_the_travel_its_heights_tell():
    plan = SimpleNamespace(wheel=SimpleNamespace(key="rear.left", adjusters=(), travel=17.0, corner=None))
    told = {"rear.left.height": Quantity(360.0), "rear.left.check_height": Quantity(335.0)}
    assert _read_again(plan, JobState(), Readings(Sheet(), told, {})).travel == 25.0, "lower is bump"
    del told["rear.left.check_height"]
    assert _read_again(plan, JobState(), Readings(Sheet(), told, {})).travel == 17.0, "as planned"


def test_toe_of_a_stiff_rear_axle_is_not_required_but_of_a_steered_one_it_is():
    choices = [Entered(f"{axle}.layout", choice="solid_leaf") for axle in ("front", "rear")]
    state = derive([Event(str(n), n, "", act) for n, act in enumerate(choices, 1)], WORK)
    measured = frozenset({"front.toe", "rear.toe", "rear.height"})
    asked = missing_fields(state, replace(WORK, measured=measured, measures=("baseline",)), "baseline")
    assert {"front.left.toe", "front.right.toe", "rear.left.height"} <= set(asked)
    assert "rear.left.toe" not in asked


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_wheel_by_its_slopes_moves_as_they_were_read_and_curves_as_its_layout_does(side):
    told = {f"front.{side}.bump_slope": Quantity(2e-5, 1e-7), f"front.{side}.camber_slope": Quantity(-3e-4, 1e-7)}
    wheel = wheels_of(Readings(Sheet(), told, {"front.layout": "strut"}), {**ANGLES, **told})[f"front.{side}"]
    assert wheel.depth == "slopes"
    at = angles_at(wheel.corner, [-40.0, 0.0, 40.0])
    assert (at.toe_slope[1], at.camber_slope[1]) == pytest.approx((2e-5, -3e-4), rel=2e-2)
    curved, usual = (
        (one.camber[0] + one.camber[2]) / 2 - one.camber[1]
        for one in (at, angles_at(usual_corner("strut"), [-40.0, 0.0, 40.0]))
    )
    assert curved == pytest.approx(usual, rel=0.3), "no slope was read of that"
    other = wheels_of(Readings(Sheet(), told, {"front.layout": "strut"}), {**ANGLES, **told})
    assert len({one.corner.side for one in other.values() if one.corner}) == 2


def test_a_sprung_load_that_was_told_stands_for_load_and_unsprung_weight():
    told = {"front.left.sprung_load": Quantity(3200.0, 40.0)}
    loads = car_loads("two_axles", {"front": 7600.0, "rear": 5600.0}, {"front": 380.0})
    found = _loads(Readings(Sheet(), told, {}), loads)
    load, dead = found["front.left.load"], found["front.left.dead"]
    assert (dead.value, load.value, load.uncertainty) == (380.0, 3580.0, 40.0)
    assert found["front.right.load"].value == 3800.0


def test_a_cause_far_beyond_what_is_usual_counts_for_less_than_one_that_is_near():
    """Referee: chi square of each, with its prior, by hand."""
    key = "front.new_spring.rate"

    def falls(values):
        return -30.0 + 0.2 * (np.atleast_1d(values.get(key, 40.0)) - 40.0)[:, None]

    model = HeightModel(("front.left",), {key: Quantity(40.0, 0.5)}, falls)
    before, after = {"front.left": Quantity(360.0, 0.5)}, {"front.left": Quantity(336.0, 0.5)}
    miss = Beside("front.left", "height", before["front.left"], None, 330.0, 2.0, after["front.left"])
    told = {one.cause.name: one for one in explain_heights(model, before, after, [miss])}
    noise = max(0.3, math.hypot(0.5, 0.5)) ** 2

    def chi(slope, spread):
        amount = 6 * slope / noise / (slope**2 / noise + 1 / spread**2)
        return (6 - slope * amount) ** 2 / noise + (amount / spread) ** 2

    rate, seat, reading = chi(0.2, 1.5), chi(1.0, 8.0), chi(1.0, 4.0)
    assert rate > reading > seat
    assert "rate" not in told
    assert told["reading"].share / told["seat"].share == pytest.approx(math.exp((seat - reading) / 2), rel=1e-6)
