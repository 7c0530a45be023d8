"""The practice cars against referees: scipy's solvers, balance of forces, and the product's own geometry."""

import ast
import itertools
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import minimize

import fair_spindle.practice
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.geometry.corner import make_corner
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.joblog.log import Entered, Moved, Settled, Stepped, Turned, Worked
from fair_spindle.practice.body import PLANE, Bar, Leg, energy, forces, rest
from fair_spindle.practice.car import DEGREE, TYPICAL, draw_car
from fair_spindle.practice.debrief import debrief
from fair_spindle.practice.exercises import Exercise, exercises, find_exercise
from fair_spindle.practice.gauges import read
from fair_spindle.practice.linkage import LINKS, Upright, _rotation
from fair_spindle.practice.world import World, world_of
from hidden_cars import TrueWheel

ROOM = Path(fair_spindle.practice.__file__).parent
PLAIN = Exercise("plain", "Plain", "", "", 1, ())


def test_the_truth_is_not_taken_from_what_it_is_to_judge():
    rooms = {"geometry", "turns", "springs", "predict", "review", "bolts"}
    for file in ROOM.glob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            module = node.module if isinstance(node, ast.ImportFrom) else ""
            assert not (module or "").startswith(tuple(f"fair_spindle.core.{room}" for room in rooms)), file.name


@pytest.mark.parametrize("layout", TYPICAL)
@pytest.mark.parametrize("travel", [-60.0, -20.0, 0.0, 35.0])
def test_every_link_keeps_its_length_and_the_wheel_goes_where_it_is_sent(layout, travel):
    for seed in range(5):
        wheel = draw_car(PLAIN, seed, {"front": layout, "rear": layout}).corners["rear.right"].wheel
        pose = wheel._pose(travel)
        turn, centre = _rotation(pose[3:]), wheel.points["wheel_center"]
        for one, two in LINKS[layout].values():
            placed = centre + pose[:3] + turn @ (wheel.points[two] - centre)
            length = np.linalg.norm(placed - wheel.points[one])
            assert length == pytest.approx(np.linalg.norm(wheel.points[two] - wheel.points[one]), abs=1e-9)
        assert pose[2] == pytest.approx(travel, abs=1e-9)
        if layout == "strut":
            low = centre + pose[:3] + turn @ (wheel.points["strut_low"] - centre)
            along = wheel.points["strut_top"] - low
            was = turn @ (wheel.points["strut_top"] - wheel.points["strut_low"])
            assert np.linalg.norm(np.cross(along, was)) / np.linalg.norm(was) == pytest.approx(0, abs=1e-8)


@pytest.mark.parametrize("layout", ["strut", "double_wishbone"])
def test_angles_are_those_of_scipy_s_root_finder(layout):
    """The referee is scipy.optimize.root on the same constraints, written apart from them."""
    for seed in range(4):
        corner = draw_car(PLAIN, seed, {"front": layout, "rear": layout}).corners["front.left"]
        wheel = corner.wheel
        other = TrueWheel(layout, wheel.side, wheel.points, wheel.toe, wheel.camber)
        for travel, rod, top in ((0.0, 0.0, 0.0), (-28.0, 1.25, 0.0), (22.0, -0.75, 2.0)):
            mine = Upright(layout, wheel.side, wheel.points, wheel.toe, wheel.camber, rod, top).angles(travel)
            assert mine == pytest.approx(other.angles(travel, rod, top), abs=1e-9)


TURNED = {"trailing_lateral": {"rod": "lateral_front", "other": "upper"}, "semi_trailing": {"other": "arm"}}


@pytest.mark.parametrize("layout", TURNED)
def test_an_arm_and_its_lateral_links_move_as_the_product_s_own_geometry_says(layout):
    """The referee is the product's solver, which this one takes nothing from: each is held by the other."""
    for key in ("rear.left", "rear.right"):
        wheel = draw_car(PLAIN, 3, {"rear": layout}).corners[key].wheel
        corner = make_corner(layout, key[5:], wheel.camber, wheel.toe, {n: tuple(p) for n, p in wheel.points.items()})
        for travel, (length, link) in itertools.product((-40.0, 0.0, 25.0), TURNED[layout].items()):
            theirs = wheel_angles(corner, solve_poses(corner, [travel], {link: 1.7}))
            mine = replace(wheel, **{length: 1.7}).angles(travel)
            assert mine == pytest.approx([theirs.toe[0], theirs.camber[0]], abs=1e-9)


legs = st.builds(
    Leg,
    st.floats(2000, 5000),
    st.floats(20, 90),
    st.floats(10, 160),
    st.floats(0.6, 1.0),
    st.sampled_from([0.0, 0.0, 2.5]),
    st.floats(-20, 75),
)
bars = st.builds(Bar, st.sampled_from([0.0, 12.0]), st.sampled_from([0.0, 8.0]))


@settings(max_examples=150)
@given(st.tuples(legs, legs, legs, legs), st.tuples(bars, bars))
def test_a_body_rests_where_forces_balance_and_its_energy_is_least(four, two):
    rises = rest(dict(zip(WHEELS, four, strict=True)), dict(zip(("front", "rear"), two, strict=True)))
    at = np.array([rises[key] for key in WHEELS])
    out, _ = forces(at, four, two)
    assert np.abs(PLANE.T @ out).max() < 1e-6
    assert at @ [1, -1, -1, 1] == pytest.approx(0, abs=1e-9), "a rigid body does not twist"
    lowest = energy(at, four, two)
    start = np.linalg.lstsq(PLANE, at, rcond=None)[0]
    for nudge in np.eye(3) * 3:
        assert energy(PLANE @ (start + nudge), four, two) > lowest
        assert energy(PLANE @ (start - nudge), four, two) > lowest


def test_where_it_rests_is_what_a_general_minimiser_finds():
    """The referee is scipy.optimize.minimize (Nelder-Mead) on the energy; a loose spring and a forced bar in it."""
    four = (Leg(3000, 32, 110, 0.95), Leg(3000, 48, 70, 0.95, 2.5, 75), Leg(2300, 48, 5, 0.8), Leg(2300, 48, 70, 0.8))
    two = (Bar(12, 8), Bar(6))
    rises = rest(dict(zip(WHEELS, four, strict=True)), dict(zip(("front", "rear"), two, strict=True)))
    options = {"xatol": 1e-9, "fatol": 1e-9, "maxiter": 9000, "maxfev": 9000}
    found = minimize(lambda q: energy(PLANE @ q, four, two), np.zeros(3), method="Nelder-Mead", options=options)
    assert [rises[key] for key in WHEELS] == pytest.approx(PLANE @ found.x, abs=1e-4)


def test_a_single_spring_on_each_corner_gives_the_closed_form():
    soft, hard = Leg(3000, 30, 3000 / 0.9 / 30, 0.9), Leg(3000, 60, 3000 / 0.9 / 30 - 20, 0.9)
    assert rest(dict.fromkeys(WHEELS, soft), {})["front.left"] == pytest.approx(0, abs=1e-9)
    by_hand = (0.9 * 60 * (3000 / 0.9 / 30 - 20) - 3000) / (0.9**2 * 60)
    assert rest(dict.fromkeys(WHEELS, hard), {})["rear.right"] == pytest.approx(by_hand)


def plain(seed=3, exercise=PLAIN):
    return World(draw_car(exercise, seed))


def test_what_a_mechanic_does_to_the_car_is_done_to_it():
    world = plain()
    toe = world.angles("front.left")[0]
    world.take(Turned("front.left", "Tie rod", 4))
    assert world.angles("front.left")[0] != pytest.approx(toe, abs=1e-4)
    assert world.wheel("front.left").rod == 1.0
    world.take(Moved("hanging"))
    assert set(world.stands().values()) == {75.0}
    for key in WHEELS:
        world.take(Stepped(f"springs.swap@{key}"))
    world.take(Moved("on_wheels"))
    high = world.stands()
    world.take(Settled())
    low = world.stands()
    assert all(high[key] - low[key] == pytest.approx(world.car.friction) for key in WHEELS)
    assert all(-60 < low[key] < -8 for key in WHEELS), "shorter, harder springs"
    assert abs(plain().rises()["front.left"]) < 1e-9, "as it came it stood in place"


def test_rubber_clamped_in_the_air_holds_its_corner_up_until_it_is_opened():
    world = plain()
    world.take(Moved("hanging"))
    world.take(Worked("lower_arm.bush.front.left", (1,), "torqued"))
    world.take(Moved("on_wheels"))
    world.take(Settled())
    assert world.rises()["front.left"] > 3
    world.take(Stepped("lower_arm.out@front.left"))
    assert world.rises()["front.left"] == pytest.approx(0, abs=1e-9)


def test_a_forced_link_lifts_its_corner_and_shifts_the_cross_weight_until_it_is_set_on_the_settled_car():
    world = plain(exercise=find_exercise("forced_link"))
    rises = world.rises()
    assert rises["front.left"] - rises["front.right"] > 1
    world.take(Stepped("sway_bars.second_link@front"))
    assert world.rises()["front.left"] == pytest.approx(0, abs=1e-9)


@pytest.mark.parametrize("key", exercises())
def test_an_exercise_is_the_same_for_everyone_and_another_number_is_another_car(key):
    one, two, other = (draw_car(find_exercise(key), seed) for seed in (5, 5, 6))
    assert one.record == two.record != other.record
    assert read(World(one), "front.left.toe", 9) == read(World(two), "front.left.toe", 9)
    noise = {read(World(one), "front.left.height", seed).typed["height"].text for seed in range(8)}
    assert len(noise) > 1, "a gauge never shows the same for ever"


def test_gauges_show_the_truth_within_their_steps_but_for_what_is_wrong_with_them():
    for key, bias in (("lower_keep_toe", 0.0), ("level_out", 0.45)):
        world = World(draw_car(find_exercise(key), 11))
        off = []
        for seed in range(60):
            shown = float(read(world, "rear.left.camber", seed).typed["value"].text)
            off.append(shown - world.angles("rear.left")[1] / DEGREE)
        assert np.mean(off) == pytest.approx(bias, abs=0.03)
        assert 0.03 < np.std(off) < 0.12
    assert read(world, "car.loads", 1) is None, "no gauge of the bay weighs"


def test_the_debrief_says_how_far_off_each_angle_is_and_its_parts_add_up():
    car = draw_car(find_exercise("level_out"), 4)
    acts = [read(World(car), f"{key}.{name}", 3) for key in WHEELS for name in ("toe", "camber")]
    acts += [Turned("rear.left", "Toe link", 3)]

    class Line:
        def __init__(self, act):
            self.act = act

    found = debrief(car, [Line(act) for act in acts], sets_angles=True, faults=0, skipped=0, planned_moves=4)
    world = world_of(car, [Line(act) for act in acts])
    for row in found.rows:
        if row.wanted is None:
            continue
        truth = world.angles(row.wheel)[0 if row.what == "toe" else 1] / DEGREE
        assert row.truth == pytest.approx(truth)
        assert sum(share.value for share in row.shares) == pytest.approx(row.truth - row.wanted)
    of_camber = [share for row in found.rows if row.what == "camber" for share in row.shares]
    blamed = [share.value for share in of_camber if share.cause == "the reading"]
    assert np.mean(blamed) == pytest.approx(-0.45, abs=0.1), "what the level adds is the reading's doing"
    worse = debrief(car, [Line(act) for act in acts], True, faults=2, skipped=1, planned_moves=4)
    assert worse.score == max(0, found.score - 11)


def test_a_rod_end_of_another_length_moves_the_toe_unless_the_turns_say_otherwise():
    car = draw_car(find_exercise("rod_end"), 8)
    key, before = "front.left", World(car).angles("front.left")[0]
    counted = car.corners[key].end_turns
    for turns, close in ((counted, False), (counted + car.new_end / 1.5, True)):
        world = World(car)
        world.take(Entered(f"{key}.tie.turns_on", "typed", {"value": _turns(turns)}))
        assert (abs(world.angles(key)[0] - before) < 0.001) == close


def _turns(number):
    return Typed(f"{number:.4f}", "turn")
