"""Steering wheels, drag links and struts of the practice cars, and what the product makes of them."""

from dataclasses import replace
from types import SimpleNamespace

import mujoco
import numpy as np
import pytest
from kinds import WHOLE_CAR
from scipy.optimize import minimize

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import WHEELS, wheels_at
from fair_spindle.core.geometry.corner import make_corner
from fair_spindle.core.geometry.drag_link import DragLink, rod_shift, steered_by_height
from fair_spindle.core.joblog.log import Entered, Event, Filled, Turned
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import missing_fields, readings_now
from fair_spindle.core.predict.aligned import align_car, align_rods, look_thrust, look_wheel_off
from fair_spindle.core.predict.motion_ratio import ratio_by_points
from fair_spindle.practice.body import PLANE, Bar, Leg, energy, rest
from fair_spindle.practice.drawn import draw_car
from fair_spindle.practice.exercises import find_exercise
from fair_spindle.practice.gauges import read
from fair_spindle.practice.record import enter
from fair_spindle.practice.steered import Steering, SteeringParts, sizes_of
from fair_spindle.practice.world import World

SOLID = {"front": "solid_links", "rear": "solid_links"}


def angle(key, size, part="toe"):
    return Entered(key, "angle", {part: Typed(str(size), "deg")})


def solid_car(seed=3, parts=None):
    """A practice car that a drag link steers."""
    car = draw_car(find_exercise("drag_link"), seed, SOLID)
    if parts:
        left, right = (car.corners[key].wheel.points["wheel_center"] for key in wheels_at("front"))
        car = replace(car, steering=Steering.at((left, right), parts))
    return car


def wheel_after(car, *turned, rise=0.0):
    """Steering wheel running straight [°] with rods turned by flats, the body up by so much."""
    world = World(car)
    for name, steps in turned:
        world.take(Turned("front", name, steps))
    return -world.steering(dict.fromkeys(WHEELS, rise))


LINKS = [
    SteeringParts(gear=gear, longer=longer, behind=behind)
    for gear, longer, behind in (("left", "right", True), ("left", "left", False), ("right", "left", True))
]


@pytest.mark.parametrize("parts", LINKS, ids=lambda one: f"{one.gear}-{one.longer}-{one.behind}")
def test_a_drag_link_steers_as_two_circles_about_its_ends_say(parts):
    """Referee: the link and the Panhard rod by Pythagoras; one turn over the lever; half of what the tie rod does."""
    car = solid_car(parts=parts)
    points = tuple(car.corners[key].wheel.points for key in wheels_at("front"))
    sizes = dict(sizes_of(parts, points))
    link = DragLink(parts.length, parts.rise, parts.lever, 1 if parts.longer == "right" else -1)
    stood = wheel_after(car)
    for rise in (-30.0, 25.0):
        shift = rod_shift(sizes["front.panhard.length"], sizes["front.panhard.rise"], rise)
        steer = steered_by_height(link, rise, shift if parts.gear == "left" else -shift)
        # Links a little askew steer the axle itself by a few hundredths.
        assert wheel_after(car, rise=rise) - stood == pytest.approx(-15 * np.degrees(steer), abs=0.9)
    turn = np.degrees(1.5 / parts.lever) * 15
    assert wheel_after(car, ("Drag link", 6)) - stood == pytest.approx(-turn * link.longer, rel=0.03)
    far = -1 if parts.gear == "left" else 1
    toe_in = 1 if parts.behind else -1
    assert wheel_after(car, ("Tie rod", 6)) - stood == pytest.approx(far * toe_in * turn / 2, rel=0.03)
    world = World(car)
    was = world.axle_angles("front")
    world.take(Turned("front", "Tie rod", 6))
    total = sum(float(world.axle_angles("front")[key][0] - was[key][0]) for key in wheels_at("front"))
    assert total == pytest.approx(toe_in * 1.5 / parts.tie_lever, rel=0.02)


def test_a_steered_axle_stands_where_a_general_physics_engine_puts_it():
    """Referee: MuJoCo; two hinged knuckles, a tie rod and a drag link as tendons of a length."""
    steering = solid_car().steering
    for tie, drag in ((1.5, -2.0), (-0.75, 3.0)):
        bodies, sites = "", ""
        for n, knuckle in enumerate(steering.knuckles):
            at, axis = (" ".join(map(str, one)) for one in (knuckle.pin / 1000, knuckle.axis))
            ends = [("end", knuckle.end)] + ([("ball", steering.ball)] if n == steering.turns else [])
            sites = "".join(
                f'<site name="{name}{n}" pos="{" ".join(map(str, (point - knuckle.pin) / 1000))}"/>'
                for name, point in ends
            )
            bodies += (
                f'<body pos="{at}"><joint name="k{n}" type="hinge" axis="{axis}" damping="5"/>'
                f'<geom size=".05" mass="5"/>{sites}</body>'
            )
        gear = " ".join(map(str, steering.gear / 1000))
        lengths = [
            (np.linalg.norm(steering.knuckles[0].end - steering.knuckles[1].end) + tie) / 1000,
            (np.linalg.norm(steering.ball - steering.gear) + drag) / 1000,
        ]
        model = mujoco.MjModel.from_xml_string(
            f'<mujoco><option gravity="0 0 0" timestep=".0005"/><worldbody><site name="gear" pos="{gear}"/>{bodies}'
            '</worldbody><tendon><spatial name="tie"><site site="end0"/><site site="end1"/></spatial>'
            f'<spatial name="drag"><site site="gear"/><site site="ball{steering.turns}"/></spatial></tendon></mujoco>'
        )
        for n, length in enumerate(lengths):
            model.tendon_stiffness[n], model.tendon_lengthspring[n] = 1e6, length
        data = mujoco.MjData(model)
        mujoco.mj_step(model, data, 6000)
        assert steering.headings(lambda point: point, tie, drag) == pytest.approx(data.qpos, abs=1e-6)


def test_a_strut_is_pressed_as_its_points_say_and_its_body_rests_where_energy_is_least():
    """Referees: the product's ratio by points, scipy's minimiser over heave, roll and pitch."""
    car = draw_car(find_exercise("examined"), 5, {"front": "strut", "rear": "strut"})
    for key in WHEELS:
        corner = car.corners[key]
        points = {name: tuple(point) for name, point in corner.wheel.points.items()}
        ratio, slope = ratio_by_points(make_corner("strut", key.side, 0.0, 0.0, points))
        assert corner.ratio == pytest.approx(ratio, abs=1e-3)
        assert 2 * corner.bends[0] == pytest.approx(slope, rel=0.03)
    legs = [
        Leg(3000, 48, 70, 0.95, bends=(3e-4, 1e-6)),
        *(Leg(2800, 40, 80, 0.9, bends=(4e-4, 0.0)) for _ in range(3)),
    ]
    bars = [Bar(12.0, 3.0), Bar()]
    found = rest(dict(zip(WHEELS, legs, strict=True)), dict(zip(("front", "rear"), bars, strict=True)))
    least = minimize(lambda q: energy(PLANE @ q, legs, bars), np.zeros(3), method="BFGS", options={"gtol": 1e-3})
    assert list(found.values()) == pytest.approx((PLANE @ least.x).tolist(), abs=1e-3)


def job(car, *acts):
    """A job on a practice car: its record and these, as they follow."""
    log = [Event("e1", 1, "2026-03-01T08:00:00Z", Filled(car.record, "t"))]
    state = derive([*log, *(Event(f"e{n}", n, "", act) for n, act in enumerate(acts, 2))], WHOLE_CAR)
    return state, readings_now(state, WHOLE_CAR)


def test_the_plan_of_a_drag_link_takes_height_and_tie_rod_with_it():
    """Followed to the flat on the practice car, the steering wheel comes out straight within its ±."""
    for seed in range(1, 7):
        car = solid_car(seed)
        low = [enter("front.height_change", -30)]
        before = [read(World(car), key, seed) for key in ("car.wheel_off", "front.left.toe", "front.right.toe")]
        rods = align_rods(*job(car, *low, *before))
        tie, drag = (one.rod for one in rods)
        assert abs(tie.set_turns) > 0
        assert abs(np.degrees(drag.before)) > 5, "height alone turns it"
        turned = [(one.rod.adjuster.name, one.planned) for one in rods]
        reached = np.radians(wheel_after(car, *turned, rise=-30.0))
        assert abs(reached - drag.reached) <= drag.plus_minus * abs(drag.per_turn)
        left_out = np.radians(wheel_after(car, turned[1], rise=-30.0))
        by_tie = -15 / 2 * (tie.reached - tie.before)
        assert reached - left_out == pytest.approx(by_tie, rel=0.1)


def test_a_rod_inside_what_it_may_be_off_is_left_and_a_correction_of_toe_reaches_the_steering_wheel():
    car = solid_car()
    toes = [angle(f"{key}.toe", 0.1) for key in wheels_at("front")]
    acts = [*toes, enter("car.wheel_off", 0, "deg")]

    def still(toe, off):
        again = [angle(f"{key}.check_toe", toe) for key in wheels_at("front")]
        return [one.still for one in align_rods(*job(car, *acts, *again, enter("car.check_wheel_off", off, "deg")))]

    assert still(0.12, 0.9) == [0, 0]
    straight, flat = still(0.12, 4.0), np.degrees(0.25 / 150)
    assert straight == [0, pytest.approx(round(4.0 / 15 / flat))]
    tie, drag = still(0.3, 0.0)
    assert tie == pytest.approx(round(-0.4 / flat))
    assert drag == pytest.approx(round(-15 / 2 * tie * flat / (15 * flat)), abs=1)


def racked(off, *more, toes=("0.1", "0.1"), rear=("0.1", "0.1")):
    """A car with a rack whose toes were read again, and its steering wheel; what is still wanted by rod."""
    car = draw_car(find_exercise("examined"), 4)
    angles = [
        angle(f"{key}.{name}", *size)
        for key in WHEELS
        for name, size in (("toe", (0.1,)), ("camber", (-1.2, "value")))
    ]
    again = [angle(f"{key}.check_toe", size) for key, size in zip(WHEELS, (*toes, *rear), strict=True)]
    wheel = [] if off is None else [enter("car.check_wheel_off", off, "deg")]
    state, readings = job(car, *angles, *again, *more, *wheel)
    return {key: one for key, one in align_car(state, readings)[1].items() if key.startswith("front")}, readings


def test_a_steering_wheel_read_straight_moves_both_toes_apart_as_far_as_it_is_surer():
    """By hand: wheel = −ratio · (half of left less right − thrust), weighed by each reading's own ±."""
    for off in (0.6, -0.6, 2.5):
        moved, readings = racked(off)
        told = readings.quantities
        toe, wheel = (told[key].uncertainty for key in ("front.left.check_toe", "car.check_wheel_off"))
        held = np.radians(off) / 15
        steered = np.hypot(wheel, held * 1.5) / 15
        gauges = np.sqrt(2 * toe**2 / 2 + (np.radians(1) / 15) ** 2 / 3)
        share = max(gauges**2, held**2 - steered**2) / (max(gauges**2, held**2 - steered**2) + steered**2)
        for key, sign in (("front.left", 1), ("front.right", -1)):
            before = told["front.left.check_toe"].value - sign * held * share
            turned = moved[key].still["Tie rod"] * moved[key].plan.wheel.adjusters[0].step
            assert (turned != 0) == (off > 1), "a small one is not worth a turn"
            assert moved[key].stands["toe"][0] == pytest.approx(before), (
                "a gauge is blamed for what it cannot explain"
            )
    crooked = {key: one.still["Tie rod"] for key, one in racked(6.0)[0].items()}
    assert crooked["front.left"] > 0 > crooked["front.right"], "one rod longer, the other shorter"


def test_a_steering_wheel_follows_the_thrust_line_and_counts_for_nothing_once_the_rear_was_turned():
    askew = {"toes": ("0.3", "-0.1"), "rear": ("0.3", "-0.1")}
    alone, agrees = racked(None, **askew)[0], racked(0.0, **askew)[0]
    assert {key: one.still for key, one in alone.items()} == {key: one.still for key, one in agrees.items()}
    turn = Turned("rear.left", "Toe link", 3)
    late, without = racked(6.0, turn)[0], racked(None, turn)[0]
    assert {key: one.still for key, one in late.items()} == {key: one.still for key, one in without.items()}


def test_a_steering_wheel_that_is_off_is_told_with_how_far():
    assert look_wheel_off(racked(0.9)[1]) == []
    (finding,) = look_wheel_off(racked(-2.0)[1])
    assert (finding.code, finding.subject) == ("angle_off", "car.check_wheel_off")
    assert "−2.0°" in finding.message


@pytest.mark.parametrize("phase", ["baseline", "check"])
def test_a_steering_wheel_read_in_degrees_answers_where_it_points(phase):
    check = "check_" if phase == "check" else ""
    template = replace(WHOLE_CAR, measured=frozenset({"car.wheel_straight"}), measures=("baseline", "check"))
    state, _ = job(solid_car())
    assert missing_fields(state, template, phase) == (f"car.{check}wheel_straight",)
    state, _ = job(solid_car(), enter(f"car.{check}wheel_off", 0.4, "deg"))
    assert missing_fields(state, template, phase) == ()


def test_a_rear_axle_that_points_aside_with_nothing_to_turn_is_told_with_the_way_it_points():
    """0.30° in on the left, 0.10° out on the right: half their difference, 0.20°, to the right of the centre line."""

    def look(left, right, *record):
        toes = [angle(f"rear.{side}.check_toe", size) for side, size in (("left", left), ("right", right))]
        state, readings = job(SimpleNamespace(record=record), *toes)
        return look_thrust(align_car(state, readings)[1], readings)

    beam = Entered("rear.layout", choice="twist_beam")
    (told,) = look(0.3, -0.1, beam)
    assert "0.20° to the right" in told.message
    assert "nothing on it can be turned" in told.message
    assert "0.20° to the left" in look(-0.1, 0.3)[0].message
    assert look(0.12, 0.10, beam) == []
    links = [Entered("rear.layout", choice="five_link"), Entered("rear.left.tie.adjust", choice="one_thread")]
    assert look(0.3, -0.1, *links) == [], "what can be turned is wanted, not told"
