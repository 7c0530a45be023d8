"""What pages tell of rods, rings, keys and bars, by hand or by differences: signs and ends that could swap."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from kinds import WHOLE_CAR
from planner import Order
from scipy.stats import norm
from test_geometry_of_cars import ANGLES, TAPE, adjusted, points, record, typed
from test_prediction_by_hand import builder
from test_rubber_and_heights import NEW, choose, job
from test_sitting import typed as mm_typed

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.loading import height_gate
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.aboard import added_loads
from fair_spindle.core.predict.advice import becomes
from fair_spindle.core.predict.bars import bars_of
from fair_spindle.core.predict.clamping import READ_AT_GATE, _lift_of_car, drawn_in, pivots_of
from fair_spindle.core.predict.geometry import solid_axles_of, wheels_of
from fair_spindle.core.predict.linkage_fit import points_of
from fair_spindle.core.predict.perching import _thread, bench_places, correct_perches
from fair_spindle.core.predict.ride_height import Sitting, _together
from fair_spindle.core.predict.settled import look_settled
from fair_spindle.core.predict.sprung_car import APART
from fair_spindle.core.predict.steering import solid_steering
from fair_spindle.core.review.toe_readings import _fit
from fair_spindle.core.springs.loads import car_loads
from fair_spindle.core.springs.rubber import Arm, Shackle
from fair_spindle.core.springs.springs import torsion_curve
from fair_spindle.core.springs.sway_bar import sideways_shift


@pytest.mark.parametrize("tail", ["load", "dead", "spring.rate", "new_spring.rate"])
def test_what_is_measured_as_a_share_becomes_surer_by_a_share(tail):
    light, heavy = (becomes(f"front.{tail}", Quantity(size, 0.1 * size), 1.0, 10.0) for size in (300.0, 3000.0))
    assert light == pytest.approx(heavy), "as sure at ten times the load"
    assert 0 < light < 5


def drag(longer, rod_at="left", body="left", change="50"):
    told = [
        Entered("front.layout", choice="solid_links"),
        Entered("front.drag.longer", choice=longer),
        Entered("front.drag.body", choice=body),
        *([Entered("front.panhard_body", choice=rod_at)] if rod_at else []),
        Entered("front.drag.adjust", choice="one_thread"),
        typed("front.height_change", change),
        *(typed(f"front.panhard.{name}", size) for name, size in (("length", "900"), ("rise", "-120"))),
        *(typed(f"front.drag.{name}", size) for name, size in (("length", "780"), ("rise", "-90"), ("lever", "160"))),
        typed("car.steering_ratio", "18", "ratio"),
        typed("car.wheel_off", "-4", "deg"),
    ]
    readings = record(*told, template=WHOLE_CAR)
    return readings, next(rod for rod in solid_steering(readings).rods if rod.sets == "steering wheel")


def level(length, rise):
    return math.sqrt(length**2 - rise**2)


def test_a_panhard_rod_is_held_by_the_body_at_the_left_where_nobody_says():
    befores = [drag("right", rod_at, body)[1].before for rod_at, body in ((None, "right"), ("left", "right"))]
    assert befores[0] == befores[1] != drag("right", "right", "right")[1].before


@pytest.mark.parametrize(("longer", "sign"), [("right", 1), ("left", -1)])
@pytest.mark.parametrize(("body", "beside"), [("left", 1), ("right", -1)])
def test_a_drag_link_beside_its_panhard_rod_or_across_from_it(longer, sign, body, beside):
    """Both as circles about their body ends, by Pythagoras; the axle goes with its rod, towards the link or away."""
    readings, rod = drag(longer, body=body)
    away = beside * (level(900, 170) - level(900, 120))
    by_height = sign * (level(780, 140) - level(780, 90) - away) / 160
    assert rod.before == pytest.approx(math.radians(-4) - 18 * by_height, abs=2e-3)
    per_mm = rod.per_turn / rod.adjuster.per_turn
    assert per_mm == pytest.approx(-sign * 18 / 160)
    turned = rod.set_turns * rod.adjuster.per_turn
    keys = ("panhard.length", "panhard.rise", "drag.length", "drag.rise", "drag.lever", "height_change")
    sizes = {key: readings.quantities[f"front.{key}"] for key in keys}
    sizes["ratio"], told = readings.quantities["car.steering_ratio"], readings.quantities["car.wheel_off"]

    def ends_at(name="", by=0.0):
        at = {key: size.value + by * size.uncertainty * (key == name) for key, size in sizes.items()}
        away = level(at["panhard.length"], at["panhard.rise"] - at["height_change"])
        away -= level(at["panhard.length"], at["panhard.rise"])
        reach = level(at["drag.length"], at["drag.rise"] - at["height_change"])
        steered = reach - level(at["drag.length"], at["drag.rise"]) - beside * away + turned
        return -sign * at["ratio"] * steered / at["drag.lever"]

    opens = [told.uncertainty, *((ends_at(name, 1) - ends_at(name, -1)) / 2 for name in sizes)]
    assert rod.plus_minus == pytest.approx(COVERAGE * math.hypot(*opens) / abs(rod.per_turn), rel=2e-3)


def test_a_ring_has_the_thread_below_and_above_it_that_was_read():
    rings = [mm_typed("front.perch.thread", 60), mm_typed("front.left.perch", 45), mm_typed("front.right.perch", 20)]
    readings = record(choose("front.spring.kind", "coilover"), *rings, template=WORK)
    low, high = _thread(readings, np.array([1.5, 2.0, 0.0, 0.0]))
    assert low == pytest.approx([-45 / 1.5, -20 / 2, 0, 0])
    assert high == pytest.approx([15 / 1.5, 40 / 2, 0, 0])


def test_a_torsion_bar_whose_key_is_not_turned_stays_where_it_was():
    told = {"rear.torsion.arm": 300.0, "rear.torsion.angle": math.radians(20.0), "rear.new_key": 0.0}
    curve, scale, length = builder(told)._torsion("rear", 3000.0, 40.0, 40.0)
    before, at_ride = torsion_curve(40.0, 300.0, math.radians(20.0), 3000.0)
    assert scale == 1.0
    assert curve.free - length == pytest.approx(at_ride, rel=1e-4), "pressed as much as before"
    assert before.compression(3000.0) == pytest.approx(at_ride, rel=1e-4)
    told["rear.new_key"] = math.radians(5.0)
    after, turned = torsion_curve(40.0, 300.0, math.radians(20.0), 3000.0, math.radians(5.0))
    assert after.free - builder(told)._torsion("rear", 3000.0, 40.0, 40.0)[2] == pytest.approx(turned, rel=1e-4)


def test_the_gaps_of_a_bar_say_how_far_it_stands_aside():
    gaps = Entered("front.bar_gaps", "gaps", {"left": Typed("14", "mm"), "right": Typed("22", "mm")})
    fitted = (choose("front.bar.fitted", "fixed_links"), mm_typed("front.bar.diameter", 22))
    readings, car, _ = job(*NEW, *fitted, gaps)
    assert bars_of(readings, car)[0].sideways == pytest.approx(sideways_shift(14, 22)) != 0


def test_a_cam_goes_no_further_than_its_throw_nor_than_its_link_may():
    length = typed("front.left.tie.length", "365")
    stops = [typed("front.left.tie.shortest", "362"), typed("front.left.tie.longest", "370")]
    cam = adjusted("cam", length, *stops, typed("front.left.tie.cam", "4"))["Tie rod"]
    assert (cam.low, cam.high) == (-3.0, 4.0)


def test_a_right_corner_by_tape_is_the_left_one_in_a_mirror():
    common = [Entered("front.layout", choice="double_wishbone"), Entered("front.steer", choice="behind")]
    sides = []
    for side in ("left", "right"):
        told = {name.replace("left", side): size for name, size in TAPE.items()}
        readings = record(*common, *(typed(f"front.{name}", repr(float(size))) for name, size in told.items()))
        corner = wheels_of(readings, ANGLES)[f"front.{side}"].corner
        sides.append({name: corner.point(name) for name in points_of(corner)})
    assert all(sides[0][name] * [1, -1, 1] == pytest.approx(sides[1][name], abs=1e-3) for name in sides[0])


def test_where_a_ring_goes_is_as_sure_as_what_it_rests_on():
    """Each input off by its uncertainty, the differences added as squares (GUM, 5.1.2)."""
    axle = {
        "motion_ratio": (0.9, 0.01),
        "perch.upper": (60, 1),
        "perch.lowest": (120, 1),
        "spring.perch_pitch": (2, 0),
    }
    axle |= {
        "new_spring.rate": (55, 1.5),
        "new_spring.free": (220, 1),
        "unsprung": (400, 20),
        "damper.gas": (150, 10),
    }
    wheel = {"damper_length": (420, 1), "height": (355, 1.5), "target.height": (345, 0)}
    told = {f"front.{name}": Quantity(*size) for name, size in axle.items()}
    told |= {f"front.left.{name}": Quantity(*size) for name, size in wheel.items()}

    def place(told, load=3600.0):
        stands = [SimpleNamespace(key=key, load_before=load, load_plus_minus=80.0) for key in WHEELS]
        words = {"front.spring.kind": "coilover", "front.new_spring.fit": "coil"}
        return bench_places(Readings(Sheet(), told, words), Sitting(wheels=tuple(stands)))[0]

    best = place(told)
    moved = [
        place({**told, key: Quantity(one.value + one.uncertainty)}).place.from_lower_eye
        for key, one in told.items()
        if one.uncertainty and not key.endswith("lowest")
    ]
    moved.append(place(told, 3640.0).place.from_lower_eye)
    off = math.hypot(*(one - best.place.from_lower_eye for one in moved))
    assert best.plus_minus == pytest.approx(COVERAGE * off, rel=1e-6)


@pytest.mark.parametrize(("arm", "layout"), [("lower", "double_wishbone"), ("leaf", "solid_leaf")])
def test_a_clamp_window_lies_where_the_arm_stands_at_the_new_height(arm, layout):
    """2° either way about the new height, by the sine; a leaf's eye as three quarters of its half."""
    joint = Joint("arm", "Arm", "rubber_pivot", (Bolt(1),), "rear", "left", bushing="bonded_rubber", arm=arm)
    told = {"rear.left.height": Quantity(360.0, 1e-9), "rear.left.check_height": Quantity(330.0, 1e-9)}
    told |= {"rear.left.lower.length": Quantity(300.0, 2.0), "rear.left.lower.rise": Quantity(-40.0, 1.0)}
    told |= {"rear.leaf.front_half": Quantity(600.0, 5.0)}
    readings = Readings(Sheet(), told, {"rear.layout": layout})
    low, high = pivots_of(JobState(joints={"arm": joint}), readings)[0]["arm"].window

    def window(length, rise):
        stands, two = math.asin(rise / length), math.radians(2)
        return [330 + side * abs(length * math.sin(stands + side * two) - rise) for side in (-1, 1)]

    variants = [window(300, -10), window(302, -10), window(300, -9)] if arm == "lower" else [window(450, 0)]
    variants += [] if arm == "lower" else [window(0.75 * 605, 0)]
    (below, above), *others = variants
    open_ = [math.hypot(READ_AT_GATE, *(one[n] - variants[0][n] for one in others)) for n in (0, 1)]
    inside = [drawn_in(above - below, max(open_)) * one for one in open_]
    assert sorted((low, high)) == pytest.approx([below + inside[0], above - inside[1]], abs=0.05)


@pytest.mark.referee
@pytest.mark.parametrize("width", [1.0, 3.9, 3.95, 5.0, 12.0])
def test_a_window_is_drawn_in_until_both_its_edges_fail_in_five_of_a_hundred(width):
    """Referee: scipy's normal distribution; 1.645 where the far edge is far, nothing where the middle is not sure."""
    found = drawn_in(2 * width, 2.0)
    if 2 * norm.sf(width / 2) > 0.05:
        assert found is None
        return
    assert norm.sf(found) + norm.sf(width - found) == pytest.approx(0.05, abs=1e-6)
    assert found == pytest.approx(1.645, abs=1e-3) or width < 5.5


def test_both_springs_of_a_pair_are_one_unknown_the_largest_first():
    told = _together({"rear.spring.free": 0.1, f"rear.spring.free{APART}": 0.25, "car.loads": 0.3})
    assert list(told.items()) == [("rear.spring.free", pytest.approx(0.35)), ("car.loads", 0.3)]


@pytest.mark.parametrize("wheel", [0, 3])
def test_wound_rubber_lifts_a_car_as_a_weight_taken_off_that_corner_would(wheel):
    """Rubber so soft that its pull does not change: the springs there carry as much less."""
    car = job(*NEW, mm_typed("rear.bonded.rate", 4, "rate"))[1]
    held, force = car.build({}), 150.0
    lighter = held.loads - force * np.eye(4)[wheel]
    expected = (replace(held, loads=lighter).settle().height_change - held.settle().height_change)[0, wheel]
    assert _lift_of_car(WHEELS[wheel], force, 1e-4, car) == pytest.approx(expected, rel=1e-3)
    assert expected > 0.5


def test_gas_that_carries_a_corner_by_itself_is_refused():
    carried = {key: one.value for key, one in job(*NEW)[1].inputs.items()}
    sprung = carried["rear.left.load"] - carried["rear.left.dead"]
    for share, refused in ((0.97, False), (1.03, True)):
        gas = mm_typed("rear.damper.gas", share * sprung / 1.2, "n")
        assert bool(job(*NEW, gas, mm_typed("rear.damper_ratio", 1.2, "ratio"))[1].problem) is refused


@pytest.mark.parametrize("axle", ["front", "rear"])
def test_each_eye_of_a_leaf_turns_in_its_own_way_at_either_axle(axle):
    told = {f"{axle}.left.height": Quantity(360.0, 0.5), f"{axle}.leaf.front_half": Quantity(600.0, 5.0)}
    plan = Order(("swap_leaf_spring", axle), car={f"{axle}.layout": "solid_leaf"})

    def look(eye):
        joint = plan.joint(f"swap_leaf_spring.{eye}_bolt.{axle}.left")
        readings = Readings(Sheet(), told, {f"{axle}.layout": "solid_leaf"})
        found, missing = pivots_of(JobState(joints={joint.key: joint}), readings)
        return found[joint.key].swing if found else missing[joint.key]

    assert look("front") == Arm(450.0, 0.0), "three quarters of its half, no shackle needed"
    assert "shackle length" in look("rear")
    shackle = {"shackle.length": 90.0, "leaf.rear_half": 620.0, "leaf.arch": 50.0}
    told |= {f"{axle}.{name}": Quantity(size, 1.0) for name, size in shackle.items()}
    assert look("rear") == Shackle(90.0, 0.0, 1220.0, 50.0, 620.0)


def test_who_is_aboard_sinks_the_car_by_what_the_springs_then_carry():
    aboard = (choose("car.driver_side", "left"), mm_typed("car.aboard.driver", 800, "n"))
    _, car, sitting = job(*NEW, *aboard)
    held = car.build({})
    sunk = held.settle(car.aboard).height_change - held.settle().height_change
    assert [one.laden for one in sitting.wheels] == pytest.approx(sunk[0])
    assert sunk[0, 0] < sunk[0, 1] < 0
    one = sitting.wheels[2]
    leg = held.legs[2]
    assert one.spring == pytest.approx(leg.length + leg.ratio * one.change)


def test_what_new_rods_leave_open_is_what_their_doubt_does_to_the_toe():
    told = [Entered("front.layout", choice="strut"), *points(), Entered("front.left.tie.adjust", choice="one_thread")]
    wheel = wheels_of(record(*told), ANGLES)["front.left"]
    adjuster = replace(wheel.adjusters[0], doubt=0.8)
    doubtful = replace(wheel, adjusters=(adjuster, *wheel.adjusters[1:]))
    longer, shorter = (angles_at(wheel.corner, [0.0], {"tie": np.array([by])}).toe[0] for by in (0.4, -0.4))
    assert _fit(doubtful) == pytest.approx(abs(longer - shorter), rel=1e-3)


def test_the_narrowest_window_stands_wherever_it_lies():
    """A short arm far below level and a long one: the short one's window is the narrower, and the lower of both."""
    joint = Joint("arm", "Links", "rubber_pivot", (Bolt(1),), "rear", "left", bushing="bonded_rubber", arm="lower")
    told = {"rear.left.height": Quantity(360.0, 0.5)}
    for name, length, rise in (("lower_front", 420.0, 5.0), ("lower_rear", 240.0, 90.0)):
        told |= {f"rear.left.{name}.length": Quantity(length, 1.0), f"rear.left.{name}.rise": Quantity(rise, 1.0)}
    spans = []
    for arm in ("lower", "lower_front", "lower_rear"):
        state = JobState(joints={"arm": replace(joint, arm=arm)})
        pivots, _ = pivots_of(state, Readings(Sheet(), told, {"rear.layout": "five_link"}))
        spans.append(pivots["arm"].window)
    assert spans[0] == min(spans[1:], key=lambda span: span[1] - span[0])


def test_shims_and_a_top_plate_end_where_they_were_told_to():
    length, stops = typed("front.left.tie.length", "365"), ("362", "370")
    told = [typed(f"front.left.tie.{name}", size) for name, size in zip(("shortest", "longest"), stops, strict=True)]
    shims = adjusted("shims", length, *told)["Tie rod"]
    assert (shims.low, shims.high) == (-3.0, 5.0)
    top = adjusted("slot", typed("front.left.top_plate", "12"))["Strut top, inboard"]
    assert (top.low, top.high) == (-12.0, 12.0)


def test_a_twist_beam_has_a_left_and_a_right_half():
    beam = {"beam_pivot": (410, 560, 320), "cross_beam": (260, 480, 330), "wheel_center": (0, 740, 320)}
    readings = record(Entered("rear.layout", choice="twist_beam"), *points("rear", beam))
    (axle,) = solid_axles_of(readings)
    assert axle.solid.half_track == 740
    assert axle.solid.halves[0].side != axle.solid.halves[1].side


def test_a_correction_of_rings_is_as_sure_as_the_heights_it_rests_on():
    """Each height off by its uncertainty, the differences added as squares (GUM, 5.1.2); no ring at a stop."""
    ring = [choose(f"{axle}.spring.kind", "coilover") for axle in ("front", "rear")]
    ring += [mm_typed(f"{axle}.spring.perch_pitch", 2, "pitch") for axle in ("front", "rear")]
    goals = [mm_typed(f"{key}.target.height", 350) for key in WHEELS]
    readings, car, sitting = job(*ring, *goals)
    heights = {key: Quantity(size, 1.5) for key, size in zip(WHEELS, (356, 353, 345, 349), strict=True)}
    loads = dict.fromkeys(WHEELS, 3000.0)
    found = correct_perches(readings, car, sitting, heights, loads)
    off = np.zeros(4)
    for key, one in heights.items():
        moved = {**heights, key: replace(one, value=one.value + one.uncertainty)}
        off += (correct_perches(readings, car, sitting, moved, loads).turns.exact - found.turns.exact) ** 2
    assert found.plus_minus == pytest.approx(COVERAGE * np.sqrt(off), rel=0.02)


def test_a_passenger_sits_on_the_other_side_of_the_driver():
    weighed = car_loads("two_axles", {"front": 8e3, "rear": 6e3}, {})
    told = {"car.aboard.driver": Quantity(0.0), "car.aboard.passenger": Quantity(700.0)}
    found = added_loads(Readings(Sheet(), told, {"car.driver_side": "left"}), weighed)
    assert found[[1, 3]].sum() - found[[0, 2]].sum() > 200


def test_a_height_too_open_leaves_no_window_and_on_its_wheels_none_is_needed():
    joint = Joint("arm", "Arm", "rubber_pivot", (Bolt(1),), "rear", "left", bushing="bonded_rubber", arm="lower")
    told = {"rear.left.lower.length": Quantity(300.0, 2.0), "rear.left.lower.rise": Quantity(-10.0, 1.0)}
    for open_, known in ((1.0, True), (20.0, False)):
        heights = {"rear.left.height": Quantity(360.0, open_)}
        readings = Readings(Sheet(), {**told, **heights}, {"rear.layout": "double_wishbone"})
        found, missing = pivots_of(JobState(joints={"arm": joint}), readings)
        assert ("arm" in found, "arm" in missing) == (known, not known)
    settled = JobState(position="on_wheels", settled=True, loaded_heights={"rear.left": 350.0})
    spans = {(340.0, 360.0): (340.0, 360.0), (352.0, 360.0): (350.0, 360.0), None: (350.0, 350.0)}
    for window, told_window in spans.items():
        clamp = height_gate("rear", "left", settled, window)[0]
        assert (clamp.low_mm, clamp.high_mm, clamp.on_wheels) == (*told_window, True)


def test_a_height_off_what_is_wanted_is_told_with_its_sign():
    wheel = SimpleNamespace(key="front.left", predicted=340.0, predicted_plus_minus=3.0)
    for wanted, said in ((352.0, ["Front left will stand −12.0 mm from the height wanted."]), (340.5, [])):
        readings = Readings(Sheet(), {"front.left.target.height": Quantity(wanted)}, {})
        found = look_settled(readings, Sitting(wheels=(wheel,)), {}, [])
        assert [one.message for one in found if one.code == "height_off"] == said
