"""The practice cars against referees: scipy's solvers, balance of forces, and the product's own geometry."""

import ast
import itertools
from dataclasses import replace
from pathlib import Path
from types import SimpleNamespace

import mujoco
import numpy as np
import pytest
from hidden_cars import TrueWheel
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import fsolve, minimize

import fair_spindle.practice
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.geometry.corner import make_corner
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.geometry.solid_axle import make_solid_axle, move_axle
from fair_spindle.core.geometry.twist_beam import make_twist_beam, roll_beam
from fair_spindle.core.joblog.log import Entered, Moved, Settled, Stepped, Turned, Worked
from fair_spindle.practice.axles import TOGETHER, pair_angles, shackle_leans
from fair_spindle.practice.body import PLANE, Bar, Helper, Leg, energy, forces, rest
from fair_spindle.practice.car import DEGREE
from fair_spindle.practice.debrief import debrief
from fair_spindle.practice.drawn import draw_car
from fair_spindle.practice.exercises import Exercise, exercises, find_exercise
from fair_spindle.practice.gauges import read
from fair_spindle.practice.layouts import TYPICAL
from fair_spindle.practice.linkage import LINKS, Upright
from fair_spindle.practice.rigid import rotation
from fair_spindle.practice.world import World, world_of

Line = SimpleNamespace
ROOM = Path(fair_spindle.practice.__file__).parent
PLAIN = Exercise("plain", "Plain", "", "", 1, ())


def test_the_truth_is_not_taken_from_what_it_is_to_judge():
    rooms = {"geometry", "turns", "springs", "predict", "review", "bolts"}
    for file in ROOM.glob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            module = node.module if isinstance(node, ast.ImportFrom) else ""
            assert not (module or "").startswith(tuple(f"fair_spindle.core.{room}" for room in rooms)), file.name


@pytest.mark.parametrize("layout", LINKS)
@pytest.mark.parametrize("travel", [-60.0, -20.0, 0.0, 35.0])
def test_every_link_keeps_its_length_and_the_wheel_goes_where_it_is_sent(layout, travel):
    for seed in range(5):
        wheel = draw_car(PLAIN, seed, {"front": layout, "rear": layout}).corners["rear.right"].wheel
        pose = wheel._pose(travel)
        turn, centre = rotation(pose[3:]), wheel.points["wheel_center"]
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


def by_physics(wheel, travel):
    """Toe and camber of an upright on rods: at rest in MuJoCo, an engine for rigid bodies, without weight. [rad]"""
    centre, links = wheel.points["wheel_center"], LINKS[wheel.layout].items()

    def at(point):
        return " ".join(f"{size:.12g}" for size in point / 1000)

    inner = "".join(f'<site name="{name} in" pos="{at(wheel.points[one])}"/>' for name, (one, _) in links)
    outer = "".join(f'<site name="{name} out" pos="{at(wheel.points[two] - centre)}"/>' for name, (_, two) in links)
    rods = "".join(f'<spatial name="{n}"><site site="{n} in"/><site site="{n} out"/></spatial>' for n, _ in links)
    slides = "".join(
        f'<joint name="{name}" type="slide" axis="{axis}" damping="20"/>'
        for name, axis in (("z", "0 0 1"), ("x", "1 0 0"), ("y", "0 1 0"))
    )
    model = mujoco.MjModel.from_xml_string(
        f"""<mujoco><option gravity="0 0 0" timestep="0.002" integrator="implicitfast"/>
        <worldbody>{inner}<body pos="{at(centre)}">{slides}<joint type="ball" damping="1"/>
        <inertial pos="0 0 0" mass="10" diaginertia="0.3 0.3 0.3"/>{outer}</body></worldbody><tendon>{rods}</tendon>
        <equality>{"".join(f'<tendon tendon1="{name}"/>' for name, _ in links)}
        <joint joint1="z" polycoef="{travel / 1000:.12g} 0 0 0 0"/></equality></mujoco>"""
    )
    data = mujoco.MjData(model)
    mujoco.mj_step(model, data, 3000)
    turn = np.zeros(9)
    mujoco.mju_quat2Mat(turn, data.qpos[3:7])
    lean, out = wheel.camber, wheel.side * np.cos(wheel.toe) * np.cos(wheel.camber)
    x, y, z = turn.reshape(3, 3) @ [np.sin(wheel.toe) * np.cos(lean), out, -np.sin(lean)]
    return [np.arctan2(x, wheel.side * y), -np.arcsin(z)]


@pytest.mark.parametrize("layout", ["double_wishbone", "five_link"])
def test_angles_are_those_of_a_general_physics_engine(layout):
    """The referee is MuJoCo: rods as lengths that are kept, the body let go until it rests."""
    for seed, key, travel in ((5, "rear.left", -40.0), (6, "rear.right", 30.0), (7, "rear.left", 55.0)):
        wheel = draw_car(PLAIN, seed, {"rear": layout}).corners[key].wheel
        assert wheel.angles(travel) == pytest.approx(by_physics(wheel, travel), abs=1e-9)


def axle_of(layout, seed=3):
    corners = draw_car(PLAIN, seed, {"rear": layout}).corners
    return tuple(replace(corners[f"rear.{side}"].wheel, toe=0.0, camber=0.0) for side in ("left", "right"))


@pytest.mark.parametrize("layout", TOGETHER)
def test_wheels_that_move_together_steer_as_the_product_s_own_geometry_says(layout):
    """The referee is the product's: least squares on links, the three-quarter link of a leaf, a beam's two axes."""
    pair = axle_of(layout)
    points = [{name: tuple(point) for name, point in wheel.points.items()} for wheel in pair]
    half = (pair[0].points["wheel_center"] - pair[1].points["wheel_center"])[1] / 2
    for travels in ((12.0, -12.0), (-30.0, -30.0), (25.0, 5.0)):
        moved = pair_angles(pair, travels)
        roll, heave = np.arcsin((travels[0] - travels[1]) / 2 / half), np.mean(travels)
        if layout == "twist_beam":
            (steer,), (lean,) = roll_beam(make_twist_beam(*points), [roll])
            close = 1e-4 if heave == 0 else 5e-4  # one that also rose steers more than the product's rule says
        else:
            (steer,), lean = move_axle(make_solid_axle(layout, *points), [heave], [roll]).steer, -roll
            close = 1e-5 if layout == "solid_links" else 5e-5
        assert moved[:, 0] == pytest.approx([steer, -steer], abs=close)
        assert moved[:, 1] == pytest.approx([lean, -lean], abs=2e-4)


def test_a_leaf_bends_along_a_circle_and_its_shackle_keeps_its_length():
    """The referee is scipy.optimize.fsolve on the closed form of an arc, as complex numbers x + iz."""
    shape = {name: np.array(at, float) for name, at in TYPICAL["solid_leaf"].items()}
    pair = tuple(Upright("solid_leaf", s, {n: p * [1, s, 1] for n, p in shape.items()}, 0.0, 0.0) for s in (1, -1))
    names = ("leaf_front", "leaf_rear", "axle_seat", "shackle_top")
    front, rear, seat, top = (complex(*shape[name][[0, 2]]) for name in names)

    def eyes(turn, bent, ways, at):
        return [at + np.exp(1j * turn) * (np.exp(1j * bent * way) - 1) / (1j * bent) for way in ways]

    def at_rest(x):
        ends = np.subtract(eyes(x[0], x[1], x[2:], seat), [front, rear])
        return [*ends.real, *ends.imag]

    turn, bent, *ways = fsolve(at_rest, [0.0, 1e-4, 600, -600], xtol=1e-13)
    for travel in (-50.0, 30.0):

        def moved(x, up=travel):
            found = eyes(x[1], x[2], ways, seat + x[0] + 1j * up)
            return [*(np.array([found[0] - front]).view(float)), abs(found[1] - top) - abs(rear - top)]

        along, turned, now = fsolve(moved, [0.0, turn, bent], xtol=1e-13)
        hangs = top - eyes(turned, now, ways, seat + along + 1j * travel)[1]
        # One circle for both halves here; of unequal halves the axle's a little.
        lean = np.arctan2(hangs.real, hangs.imag)
        assert shackle_leans(pair, (travel, travel)) == pytest.approx([lean] * 2, abs=1e-3)


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
    st.sampled_from([None, Helper(9.0, 35.0)]),
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


def test_a_helper_gives_until_its_coils_touch_and_then_carries_like_a_spacer():
    leg, spacer = Leg(3000, 48, 130, 0.95, helper=Helper(10, 38)), Leg(3000, 48, 130 - 38, 0.95)
    assert leg.spring(20)[0] == pytest.approx(20 / (1 / 48 + 1 / 10)), "two springs in series"
    assert leg.spring(100)[:2] == pytest.approx((48 * (100 - 38), 48)), "coils touching: the main spring alone"
    sits = [rest(dict.fromkeys(WHEELS, one), {})["rear.left"] for one in (leg, spacer)]
    assert sits[0] == pytest.approx(sits[1], abs=1e-9)


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
    assert read(world, "car.odometer", 1) is None, "what has no gauge is not read"


def test_the_debrief_says_how_far_off_each_angle_is_and_its_parts_add_up():
    car = draw_car(find_exercise("level_out"), 4)
    acts = [read(World(car), f"{key}.{name}", 3) for key in WHEELS for name in ("toe", "camber")]
    acts += [Turned("rear.left", "Toe link", 3)]

    found = debrief(car, [Line(act=act) for act in acts], sets_angles=True, faults=0, skipped=0, planned_moves=4)
    world = world_of(car, [Line(act=act) for act in acts])
    for row in found.rows:
        if row.wanted is None:
            continue
        assert row.unit == "°"
        truth = world.angles(row.wheel)[0 if row.what == "toe" else 1] / DEGREE
        assert row.truth == pytest.approx(truth)
        assert sum(share.value for share in row.shares) == pytest.approx(row.truth - row.wanted)
    of_camber = [share for row in found.rows if row.what == "camber" for share in row.shares]
    blamed = [share.value for share in of_camber if share.cause == "the reading"]
    assert np.mean(blamed) == pytest.approx(-0.45, abs=0.1), "what the level adds is the reading's doing"
    worse = debrief(car, [Line(act=act) for act in acts], True, faults=2, skipped=1, planned_moves=4)
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


def test_on_tyres_each_wheel_stands_between_its_spring_and_its_tyre():
    """The referee is scipy.optimize.fsolve on the balance of body and wheels; 1e9 N/mm is a rigid tyre."""
    four = [Leg(3000, 48, 3000 / 0.9 / 48 + extra, 0.9) for extra in (12, 0, 0, 12)]
    two = (Bar(12), Bar(6))

    def off(x):
        out, _ = forces(x[3:], four, two)
        return [*(PLANE.T @ out), *(out - 210 * (x[3:] - PLANE @ x[:3]))]

    legs, bars = dict(zip(WHEELS, four, strict=True)), dict(zip(("front", "rear"), two, strict=True))
    soft, hard = rest(legs, bars, 210.0), rest(legs, bars, 1e9)
    assert list(soft.values()) == pytest.approx(fsolve(off, np.zeros(7), xtol=1e-12)[3:], abs=1e-6)
    assert list(hard.values()) == pytest.approx(list(rest(legs, bars).values()), abs=1e-4)


def test_a_string_askew_moves_the_toe_of_its_side_and_a_jack_carries_one_corner():
    world = plain(exercise=find_exercise("string_out"))
    shown = {
        key: np.mean([float(read(world, f"{key}.toe", n).typed["toe"].text) for n in range(40)]) for key in WHEELS
    }
    off = {key: shown[key] - world.angles(key)[0] / DEGREE for key in WHEELS}
    assert list(off.values()) == pytest.approx([0.3, 0, 0.3, 0], abs=0.03)
    at_rest = world.stands()
    world.take(Moved("corner_carried", "right", "rear"))
    carried = world.stands()
    assert carried.pop("rear.right") == pytest.approx(at_rest["rear.right"] + 3)
    assert set(carried.values()) == {75.0}


def test_rings_across_the_car_shift_cross_weight_and_scales_show_it():
    world = plain(exercise=find_exercise("four_rings"))
    was, rises = world.cross(), world.rises()
    assert 53 < was < 56
    for n, key in enumerate(WHEELS):
        world.take(Entered(f"{key}.perch_up", "typed", {"turns": _turns((2.0, -2.0, -2.0, 2.0)[n])}))
    assert world.cross() < was - 1, "front left and rear right up: cross weight falls"
    assert world.rises() == pytest.approx(rises, abs=1.5)
    shown = [[float(one.text) for one in read(world, "car.loads", seed).typed.values()] for seed in range(40)]
    assert np.mean(shown, axis=0) == pytest.approx(list(world.loads().values()), rel=0.003)


def test_a_loose_jam_nut_lets_the_rod_turn_on_the_road_and_play_ends_with_a_new_end():
    turned = []
    for to in ("hand", "torqued"):
        world = plain()
        world.take(Worked("align.jam.front.left", (1,), to))
        toe = world.angles("front.left", dict.fromkeys(WHEELS, 0.0))[0]
        world.take(Stepped("road"))
        turned.append(abs(world.angles("front.left", dict.fromkeys(WHEELS, 0.0))[0] - toe) > 0.001)
    assert turned == [True, False]
    world, spread = plain(exercise=find_exercise("loose_end")), []
    for done in (False, True):
        if done:
            world.take(Entered("front.right.tie.turns_on", "typed", {"value": _turns(20)}))
        toes = [float(read(world, "front.right.toe", seed).typed["toe"].text) for seed in range(60)]
        spread.append(np.std(toes))
    assert spread[0] > 0.12 > 0.05 > spread[1], "what does not repeat is worn"


def test_a_moved_bracket_gives_a_shackle_its_travel_back():
    world = plain(exercise=find_exercise("shackle_out"))
    before = world.shackle_bump()
    assert all(left < 30 for left in before.values())
    for side in ("left", "right"):
        world.take(Stepped(f"leaf_shackles.bracket_start@rear.{side}"))
    assert world.shackles("rear")["rear.left"] == pytest.approx(14, abs=1.5)
    assert all(left > before[key] + 30 for key, left in world.shackle_bump().items())


def test_the_debrief_tells_the_count_from_the_height_and_both_from_the_reading():
    def shares(car, acts, foreseen):
        rows = debrief(car, [Line(act=act) for act in acts], False, 0, 0, 4, foreseen).rows
        return {(row.wheel, row.what): {one.cause: one.value for one in row.shares} for row in rows}

    car = draw_car(find_exercise("rod_end"), 8)
    counted = shares(car, [Entered("front.left.tie.turns_on", "typed", {"value": _turns(20)})], {})
    whole = counted["front.left", "toe"]
    assert whole["the count on the new end, and its length"] == pytest.approx(sum(whole.values()))
    car = draw_car(find_exercise("lower_keep_toe"), 8)
    fitted = [Stepped(f"springs.swap@{key}") for key in WHEELS]
    true = world_of(car, [Line(act=act) for act in fitted]).rises()
    cause = "the height came out otherwise than foreseen"
    for miss in (0.0, 6.0):
        told = shares(car, fitted, {key: rise - miss for key, rise in true.items()})
        assert (abs(told["front.left", "toe"][cause]) > 0.05) == bool(miss)
