"""Small calculations worked by hand: a steering axis, a car weighed in parts, points that cannot be right."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.optimize import least_squares

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.wheels import WHEELS, Wheel
from fair_spindle.core.geometry.corner import Corner, Link, make_corner, suspicions
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.geometry.solid_axle import make_solid_axle, move_axle
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.springs.car_heights import Leg, cross_weight, spring_length
from fair_spindle.core.springs.loads import Load, car_loads
from fair_spindle.core.springs.perches import RELUCTANCE, PerchGoals, PerchTurns, perch_place, turns_uncertainty
from fair_spindle.core.springs.springs import Coil, coil_curve, stop_curve

FL, FR, RL, RR = WHEELS


@pytest.mark.parametrize("name", ["upper_ball", "lower_ball"])
def test_a_scattered_joint_takes_its_steering_axis_with_it(name):
    """By hand: the angle of the line between both joints, as a pitched body shows it against the ground."""
    at = {"upper_ball": (-30.0, 647.0, 543.0), "lower_ball": (16.0, 735.0, 195.0)}
    corner = make_corner("double_wishbone", "left", -0.01, 0.0, {**usual_corner("double_wishbone").points, **at})
    off = {one: np.array([2.0, 3.0, -1.0]) * (one == name) for one in at}
    (x, y, z) = (at["upper_ball"] + off["upper_ball"]) - (at["lower_ball"] + off["lower_ball"])
    for pitch in (0.0, 0.0154):
        leaning = replace(corner, pitch=pitch)
        found = wheel_angles(leaning, solve_poses(leaning, [0.0], {}, {name: off[name][None]}))
        assert found.caster[0] == pytest.approx(np.arctan2(-x, z) - pitch)
        assert found.kpi[0] == pytest.approx(np.arctan2(-y, z))


WEIGHED = [
    ("four_scales", {"front_left": 4e3, "front_right": 3600.0, "rear_left": 2900.0, "rear_right": 2500.0}, False),
    ("learned", {"front_left": 4e3, "front_right": 3600.0, "rear_left": 2900.0, "rear_right": 2500.0}, True),
    ("two_axles", {"front": 7600.0, "rear": 5400.0}, True),
    ("total_and_share", {"total": 13e3, "share": 7600 / 13e3}, True),
]


@pytest.mark.parametrize(("method", "weighed", "estimated"), WEIGHED)
def test_a_car_weighed_in_any_way_is_told_wheel_by_wheel(method, weighed, estimated):
    """Sums and shares by hand; an unsprung eighth of what is not known is the product's own value."""
    found = car_loads(method, weighed, {"rear": 350.0})
    apart = method in ("four_scales", "learned")
    loads = [4e3, 3600, 2900, 2500] if apart else [3800, 3800, 2700, 2700]
    assert found.wheels == {
        wheel: Load(pytest.approx(load), estimated) for wheel, load in zip(WHEELS, loads, strict=True)
    }
    assert found.total == pytest.approx(13e3)
    assert found.front_share == pytest.approx(7600 / 13e3)
    assert found.left_share == pytest.approx(6900 / 13e3 if apart else 0.5)
    assert found.cross == pytest.approx(6500 / 13e3)
    assert found.unsprung[RL] == Load(350.0, False)
    assert found.unsprung[FL] == Load(pytest.approx(0.12 * loads[0]), True)
    assert found.sprung(RR) == Load(pytest.approx(loads[3] - 350), estimated)
    assert found.sprung(FR).estimated, "what is not sprung was not weighed"
    if apart:
        heavier = car_loads(method, {**weighed, "front_right": 4600.0, "rear_right": 2600.0}, {})
        assert heavier.cross == pytest.approx((4600 + 2900) / 14100), "front right and rear left over the whole"
        assert heavier.left_share == pytest.approx(6900 / 14100)


def test_a_car_is_weighed_in_one_of_the_known_ways():
    with pytest.raises(InputError, match="got 'by eye'") as refused:
        car_loads("by eye", {}, {})
    assert refused.value.field == "method"


TRAVELS = np.array([-35.0, -12.0, 0.0, 8.0, 22.0, 41.0])
LEGS = {
    "plain": Leg(coil_curve(Coil(40.0, 300.0, 90.0)), 230.0, 0.8),
    "ratio grows": Leg(coil_curve(Coil(40.0, 300.0, 90.0)), 230.0, 0.8, ratio_slope=1e-3, scale=1.1),
    "damper apart": Leg(coil_curve(Coil(40.0, 300.0, 90.0)), 230.0, 0.8, gas=180.0, damper_ratio=0.6),
    "stop and rubber": Leg(
        coil_curve(Coil(40.0, 300.0, 90.0)), 230.0, 0.8, gas=180.0, damper_ratio=0.6,
        stop=stop_curve(30.0), stop_gap=6.0, rubber_rate=5.0, rubber_neutral=-4.0,
    ),
}  # fmt: skip


@pytest.mark.parametrize("leg", LEGS.values(), ids=list(LEGS))
def test_a_leg_pushes_as_its_stored_energy_rises(leg):
    """Virtual work: force is the slope of the energy of spring, gas, stop and rubber; scipy integrates each."""

    def energy(travel):
        damper = leg.ratio if leg.damper_ratio is None else leg.damper_ratio
        pressed = leg.curve.free - leg.length + leg.ratio * travel + leg.ratio_slope * travel**2 / 2
        stored = leg.scale * quad(lambda x: float(leg.curve.force(np.array(x))[0]), 0, pressed)[0]
        stored += damper * leg.gas * travel + leg.rubber_rate * (travel - leg.rubber_neutral) ** 2 / 2
        if leg.stop is not None:
            stored += quad(
                lambda x: float(leg.stop.force(np.array(x))[0]), 0, max(damper * travel - leg.stop_gap, 0)
            )[0]
        return stored

    force, rate = leg.force(TRAVELS)
    slope = [(energy(at + 1e-3) - energy(at - 1e-3)) / 2e-3 for at in TRAVELS]
    assert force == pytest.approx(slope, rel=1e-5)
    steps = leg.force(TRAVELS + 1e-4)[0] - leg.force(TRAVELS - 1e-4)[0]
    assert rate == pytest.approx(steps / 2e-4, rel=1e-5)
    pressed = leg.ratio * TRAVELS + leg.ratio_slope * TRAVELS**2 / 2
    assert leg.spring_length(TRAVELS) == pytest.approx(leg.length - pressed)


def test_a_spring_carries_what_gas_leaves_over_its_own_ratio():
    """By hand: (3000 − 150 · 0.6)/0.8 N on 40 N/mm; without a ratio of its own the damper takes the spring's."""
    curve = coil_curve(Coil(40.0, 300.0))
    assert float(spring_length(curve, 3000.0, 0.8, 150.0, 0.6)) == pytest.approx(300 - (3000 - 150 * 0.6) / 0.8 / 40)
    assert float(spring_length(curve, 3000.0, 0.8, 150.0)) == pytest.approx(300 - (3000 - 150 * 0.8) / 0.8 / 40)


def test_a_perch_stands_where_gas_ratio_and_seats_leave_it():
    """By hand: (2400/0.8 − 120) N on 40 N/mm is 72 mm of 220; the damper grows by 0.8 of the body's 6 mm."""
    place = perch_place(0.8, 2400.0, 120.0, 470.0, 6.0, 40.0, [Coil(40.0, 220.0)], 2.0, 150.0)
    assert place.damper == pytest.approx(474.8)
    assert place.springs == pytest.approx(148.0)
    assert place.from_lower_eye == pytest.approx(474.8 - 40 - 148)
    assert place.turns_up == pytest.approx((286.8 - 150) / 2)


@pytest.mark.parametrize("ahead", [600.0, -600.0])
def test_a_leaf_carries_its_axle_on_an_arc_about_three_quarters_to_its_eye(ahead):
    """The three-quarter link of SAE's Spring Design Manual (from memory): a circle about a point 3/4 to the eye."""
    leaf = {"leaf_front": (ahead, 500, 0), "axle_seat": (0, 500, 0), "wheel_center": (0, 760, 0)}
    mirrored = {name: (x, -y, z) for name, (x, y, z) in leaf.items()}
    sides = leaf | {"leaf_rear": (-ahead, 500, 0)}, mirrored | {"leaf_rear": (-ahead, -500, 0)}
    left, right = ({name: np.add(at, (35, 10, -8)) for name, at in side.items()} for side in sides)
    axle = make_solid_axle("solid_leaf", left, right)
    found = move_axle(axle, [-60.0, 0.0, 45.0], 0.0)
    toward = np.sign(ahead) * (450 - np.sqrt(450**2 - np.array([60.0, 0, 45]) ** 2))
    assert found.forward == pytest.approx(toward, abs=1e-6)
    assert found.steer == pytest.approx(0, abs=1e-9)
    assert found.shift == pytest.approx(0, abs=1e-9)
    for layout, points, field in (("strut", left, "layout"), ("solid_leaf", {}, "points.left.leaf_front")):
        with pytest.raises(InputError, match=r"solid axle|lacks its left point") as refused:
            make_solid_axle(layout, points, right)
        assert refused.value.field == field


@pytest.mark.parametrize("fixed", [[], [1]])
def test_what_is_unsure_in_a_car_s_heights_and_loads_is_unsure_in_its_rings(fixed):
    """Each reading shifted by its uncertainty and solved again by scipy; squares added (JCGM 100, 5.1)."""
    generator = np.random.default_rng(5)
    heights_by, loads_by = generator.normal(0, 0.4, (4, 4)) + 2 * np.eye(4), generator.normal(0, 90, (4, 4))
    loads, sure, unsure = np.array([3900.0, 3700, 2600, 2500]), np.array([1.5, 2, 1, 3]), np.array([60.0, 90, 40, 70])
    low, high = np.full(4, -9.0), np.full(4, 9.0)
    low[fixed] = high[fixed] = 0.0
    free = [n for n in range(4) if n not in fixed]
    goals = PerchGoals(np.array([350.0, np.nan, 340.0, 341.0]), 0.5, within_height=2.0, within_cross=0.004)
    still = np.zeros(4)
    turns = PerchTurns(still, still, still, loads, float(cross_weight(loads)), heights_by, loads_by)

    def solved(off, more):
        def misses(turned):
            full = np.zeros(4)
            full[free] = turned
            cross = cross_weight(loads) + full @ loads_by @ slope_of_cross + more @ slope_of_cross
            moved = full @ heights_by
            return np.concatenate(
                [(moved + off)[[0, 2, 3]] / 2.0, [(cross - cross_weight(loads)) / 0.004], RELUCTANCE * turned]
            )

        return least_squares(misses, np.zeros(len(free)), xtol=1e-15, ftol=1e-15, gtol=1e-15).x

    nudge = 1e-3 * np.eye(4)
    slope_of_cross = np.array([cross_weight(loads + one) - cross_weight(loads - one) for one in nudge]) / 2e-3
    moved = [solved(sure * one, still) for one in np.eye(4)] + [solved(still, unsure * one) for one in np.eye(4)]
    wanted = np.zeros(4)
    wanted[free] = np.sqrt(np.sum(np.square(moved), axis=0))
    assert turns_uncertainty(turns, goals, low, high, sure, unsure) == pytest.approx(wanted, rel=1e-5)


def swing(wheel_y=700.0, outer=(0.0, 300.0, 0.0), side=1):
    points = {"arm_inner": (0.0, 200.0 * side, 0.0), "arm_outer": outer, "wheel_center": (-400.0, wheel_y, 0.0)}
    return Corner("semi_trailing", side, 0.0, 0.0, points, ())


def link(inner, outer, layout="five_link"):
    return Corner(layout, 1, 0.0, 0.0, {"wheel_center": (0, 700, 300)}, (Link("toe", inner, outer),))


SUSPECT = [
    (swing(0.0), "points.wheel_center", "left corner has positive y"),
    (swing(0.5, side=-1, outer=(0.0, -300.0, 0.0)), "points.wheel_center", "right corner has negative y"),
    (swing(outer=(0.0, 229.5, 0.0)), "points.arm_outer", "29.5 mm apart"),
    (link((0, 400, 0), (0, 419.5, 0)), "links.toe", "19.5 mm long"),
    (link((0, 400, 0), (2000.5, 400, 0)), "links.toe", "2000.5 mm long"),
    (link((0, 450.5, 0), (0, 400, 0)), "links.toe", "points inward"),
]
SOUND = [
    swing(0.5),
    swing(-0.5, side=-1, outer=(0.0, -300.0, 0.0)),
    swing(outer=(0.0, 230.0, 0.0)),
    link((0, 400, 0), (0, 420, 0)),
    link((0, 400, 0), (2000, 400, 0)),
    link((0, 450, 0), (0, 400, 0)),
    link((0, 500, 0), (0, 400, 0), "trailing_lateral"),
]


@pytest.mark.parametrize(("corner", "field", "why"), SUSPECT)
def test_points_that_cannot_be_right_are_named(corner, field, why):
    """Limits are the product's own; each is tried just beyond."""
    assert [(one.field, why in one.message) for one in suspicions(corner)] == [(field, True)]


@pytest.mark.parametrize("corner", SOUND)
def test_points_at_the_very_limits_are_taken(corner):
    assert suspicions(corner) == []


@pytest.mark.parametrize(("above", "suspect"), [(20.0, True), (20.5, False)])
def test_the_upper_end_of_a_steering_axis_lies_above_the_lower(above, suspect):
    points = {"wheel_center": (0, 700, 300), "lower_ball": (0, 650, 200), "upper_ball": (0, 640, 200 + above)}
    found = suspicions(Corner("double_wishbone", 1, 0.0, 0.0, points, ()))
    assert [one.field for one in found] == (["points.lower_ball"] if suspect else [])


def test_the_four_wheels_are_in_one_order():
    assert WHEELS == (Wheel.FRONT_LEFT, Wheel.FRONT_RIGHT, Wheel.REAR_LEFT, Wheel.REAR_RIGHT)
