"""Corners solved another way: scipy on three points of the upright, a four-bar in closed form, brute force."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import least_squares

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.geometry.corner import Link, make_corner, suspicions
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.turns.adjuster import Adjuster, changes_by_link, on
from fair_spindle.core.turns.realign import realign
from fair_spindle.practice.layouts import TYPICAL as SHAPES

TYPICAL = {name: shape for name, shape in SHAPES.items() if find_layout(name).guide != "axle"}
LAYOUTS = list(TYPICAL)


def corner_of(layout, points, side="left", camber=-0.012, toe=0.002):
    sign = 1 if side == "left" else -1
    points = {name: (x, sign * y, z) for name, (x, y, z) in points.items()}
    links = ()
    if layout == "five_link":
        names = [name.removesuffix("_inner") for name in points if name.endswith("_inner")]
        links = tuple(Link(name, points[f"{name}_inner"], points[f"{name}_outer"]) for name in names)
        points = {"wheel_center": points["wheel_center"]}
    return make_corner(layout, side, camber, toe, points, links)


def plausible(layout, rng, side="left"):
    points = {name: tuple(np.add(at, rng.uniform(-15, 15, 3))) for name, at in TYPICAL[layout].items()}
    return corner_of(layout, points, side, rng.uniform(-0.03, 0.01), rng.uniform(-0.005, 0.005))


def by_scipy(corner, travel):
    """Camber and toe from three points of the upright, each pair kept at its distance; no rotation is used.

    Unknown are the wheel centre and two points beside it; every other point is a fixed combination of them.
    """
    frame = np.array([[0, 0, 0], [100, 0, 0], [0, 100, 0]], dtype=float) + corner.wheel
    apart = [np.linalg.norm(frame[i] - frame[j]) for i, j in ((0, 1), (0, 2), (1, 2))]

    def place(at, local):
        e1, e2 = (at[1] - at[0]) / 100, (at[2] - at[0]) / 100
        return at[0] + local[0] * e1 + local[1] * e2 + local[2] * np.cross(e1, e2)

    def errors(flat):
        at = flat.reshape(3, 3)
        out = [np.linalg.norm(at[i] - at[j]) - d for (i, j), d in zip(((0, 1), (0, 2), (1, 2)), apart, strict=True)]
        out.append(at[0][2] - corner.wheel[2] - travel)
        for link in corner.links:
            length = np.linalg.norm(np.subtract(link.outer, link.inner))
            out.append(np.linalg.norm(place(at, np.subtract(link.outer, corner.wheel)) - link.inner) - length)
        if corner.layout == "strut":
            low = place(at, corner.point("strut_low") - corner.wheel)
            top = place(at, corner.point("strut_top") - corner.wheel)
            line = (top - low) / np.linalg.norm(top - low)
            out.extend(np.cross(line, corner.point("strut_top") - low))
        if corner.layout == "trailing_lateral":
            gap = place(at, corner.point("trailing_body") - corner.wheel) - corner.point("trailing_body")
            out.extend((gap[0], gap[2]))
        if corner.layout == "semi_trailing":
            for name in ("arm_inner", "arm_outer"):
                out.extend(place(at, corner.point(name) - corner.wheel) - corner.point(name))
        if corner.layout == "twist_beam":
            for y in (1, -1):
                pivot = corner.point("beam_pivot") * [1, y, 1]
                out.extend(place(at, pivot - corner.wheel) - pivot)
        return np.array(out)

    guess = frame + np.array([0, 0, travel])
    found = least_squares(errors, guess.ravel(), method="trf", xtol=1e-15, ftol=1e-15, gtol=1e-15, x_scale=10.0)
    assert np.max(np.abs(found.fun)) < 1e-6
    at = found.x.reshape(3, 3)
    spindle = place(at, corner.spindle) - at[0]
    return -math.asin(spindle[2]), math.atan2(spindle[0], corner.side * spindle[1]), at[0]


@pytest.mark.referee
@pytest.mark.parametrize("layout", LAYOUTS)
def test_twenty_random_corners_solved_by_scipy_another_way(layout):
    """Referee: scipy.optimize.least_squares on point distances; 20 random plausible corners of each layout."""
    rng = np.random.default_rng(len(layout))
    for _ in range(20):
        corner = plausible(layout, rng, rng.choice(["left", "right"]))
        travel = float(rng.uniform(-60, 60))
        poses = solve_poses(corner, [travel])
        camber, toe, wheel = by_scipy(corner, travel)
        ours = wheel_angles(corner, poses)
        assert math.degrees(abs(ours.camber[0] - camber)) < 5e-4
        assert math.degrees(abs(ours.toe[0] - toe)) < 5e-4
        assert np.max(np.abs(poses.wheel[0] - wheel)) < 5e-3


@pytest.mark.referee
@given(st.floats(-60, 60), st.floats(200, 330), st.floats(300, 420), st.floats(-30, 30), st.floats(-20, 40))
def test_a_planar_double_wishbone_is_freudenstein_s_four_bar(travel, upper, lower, rise, fall):
    """Freudenstein's equation (K1 cos ψ − K2 cos φ + K3 = cos(φ − ψ)) for the front view of a double wishbone.

    Pivot axes run fore and aft, so that the upright stays in its plane; quoted from memory.
    """
    points = {
        "upper_front": (150, 400, 500), "upper_rear": (-150, 400, 500), "upper_ball": (0, 400 + upper, 500 + rise),
        "lower_front": (150, 350, 200), "lower_rear": (-150, 350, 200), "lower_ball": (0, 350 + lower, 200 + fall),
        "tie_inner": (-120, 350, 200), "tie_outer": (-120, 350 + lower, 200 + fall), "wheel_center": (0, 760, 320),
    }  # fmt: skip
    corner = corner_of("double_wishbone", points, camber=0.0, toe=0.0)
    poses = solve_poses(corner, [travel])
    spin = float(wheel_angles(corner, poses).camber[0])
    ground = np.array([400.0 - 350, 500.0 - 200])
    a, b, d = math.hypot(lower, fall), math.hypot(upper, rise), float(np.hypot(*ground))
    balls = [np.add(points[name][1:], 0.0) for name in ("lower_ball", "upper_ball")]
    c = float(np.hypot(*(balls[1] - balls[0])))
    turned = [
        (poses.wheel[0] + poses.rotation[0] @ (corner.point(name) - corner.wheel))[1:]
        for name in ("lower_ball", "upper_ball")
    ]
    base = math.atan2(ground[1], ground[0])
    phi = math.atan2(*(turned[0] - [350, 200])[::-1]) - base
    psi = math.atan2(*(turned[1] - [400, 500])[::-1]) - base
    k1, k2, k3 = d / a, d / b, (a * a + b * b + d * d - c * c) / (2 * a * b)
    assert k1 * math.cos(psi) - k2 * math.cos(phi) + k3 == pytest.approx(math.cos(phi - psi), abs=1e-9)
    coupler = [math.atan2(*(pair[1] - pair[0])[::-1]) for pair in (balls, turned)]
    assert coupler[1] - coupler[0] == pytest.approx(-spin, abs=1e-9)


@pytest.mark.identity
@pytest.mark.parametrize("layout", LAYOUTS)
def test_left_mirrors_right_links_keep_their_length_and_slopes_are_those_of_the_curve(layout):
    rng = np.random.default_rng(3)
    points = {name: tuple(np.add(at, rng.uniform(-10, 10, 3))) for name, at in TYPICAL[layout].items()}
    travels = np.linspace(-70, 70, 57)
    swept = []
    for side in ("left", "right"):
        corner = corner_of(layout, points, side)
        poses = solve_poses(corner, travels)
        swept.append(wheel_angles(corner, poses))
        for link in corner.links:
            outer = poses.wheel + poses.rotation @ (np.array(link.outer) - corner.wheel)
            length = np.linalg.norm(outer - np.array(link.inner), axis=1)
            assert np.allclose(length, np.linalg.norm(np.subtract(link.outer, link.inner)), rtol=0, atol=1e-9)
        assert np.allclose(poses.rotation @ poses.rotation.transpose(0, 2, 1), np.eye(3), atol=1e-12)
    for name in ("camber", "toe", "half_track"):
        assert np.allclose(getattr(swept[0], name), getattr(swept[1], name), atol=1e-11)
    near = solve_poses(corner, [-1e-3, 0.0, 1e-3])
    angles = wheel_angles(corner, near)
    assert angles.toe_slope[1] == pytest.approx((angles.toe[2] - angles.toe[0]) / 2e-3, abs=1e-9)
    assert angles.camber_slope[1] == pytest.approx((angles.camber[2] - angles.camber[0]) / 2e-3, abs=1e-9)
    assert angles.camber[1] == pytest.approx(-0.012, abs=1e-12)


@pytest.mark.parametrize("layout", LAYOUTS)
def test_a_linkage_that_locks_says_how_far_it_went(layout):
    corner = corner_of(layout, TYPICAL[layout])
    with pytest.raises(NoSolution) as refused:
        solve_poses(corner, [900.0])
    last = refused.value.details["last_travel"]
    assert 0 < last < 900
    solve_poses(corner, [0.9 * last])


@pytest.mark.parametrize("layout", ["strut", "double_wishbone", "five_link"])
def test_many_travels_end_where_each_ends_by_itself(layout):
    corner = plausible(layout, np.random.default_rng(4))
    many, few = np.linspace(-60.0, 55.0, 97), slice(None, None, 8)
    all_, some = solve_poses(corner, many), solve_poses(corner, many[few])
    for name in ("wheel", "rotation", "velocity", "turning"):
        assert getattr(all_, name)[few] == pytest.approx(getattr(some, name), abs=1e-6), name


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_strut_top_moved_inboard_leans_the_steering_axis(side):
    """By hand: at ride height the axis runs from the ball joint, moved with the upright, to the moved top."""
    corner = plausible("strut", np.random.default_rng(4), side)
    poses = solve_poses(corner, [0.0], {"strut_top": 8.0})
    ball = poses.wheel[0] + poses.rotation[0] @ (corner.point("lower_ball") - corner.wheel)
    top = corner.point("strut_top") - np.array([0.0, 8.0 * corner.side, 0.0])
    ahead, out, up = top - ball
    found = wheel_angles(corner, poses)
    assert found.kpi == pytest.approx([math.atan2(-corner.side * out, up)], abs=1e-9)
    assert found.caster == pytest.approx([math.atan2(-ahead, up)], abs=1e-9)


def test_points_that_cannot_be_right_are_named():
    good = TYPICAL["double_wishbone"]
    for change, field, *words in (
        ({"wheel_center": (0, -760, 320)}, "points.wheel_center", "positive y"),
        ({"upper_ball": good["lower_ball"], "lower_ball": good["upper_ball"]}, "points.lower_ball"),
        ({"tie_inner": good["tie_outer"], "tie_outer": good["tie_inner"]}, "links.tie"),
        ({"tie_outer": (-120, 7060, 215)}, "links.tie"),
        ({"upper_ball": (math.nan, 647, 543)}, "points.upper_ball"),
        ({"tie_outer": (-120, 706, math.inf)}, "points.tie_outer", "three finite numbers"),
    ):
        with pytest.raises(InputError) as refused:
            corner_of("double_wishbone", {**good, **change})
        assert refused.value.field == field
        assert all(word in refused.value.message for word in words)
    for name in find_layout("double_wishbone").needed:
        with pytest.raises(InputError, match=name):
            corner_of("double_wishbone", {key: at for key, at in good.items() if key != name})
    assert suspicions(corner_of("double_wishbone", good)) == []


ADJUSTERS = [
    Adjuster("rod", on("tie"), 1.5, 1 / 6, -12, 12),
    Adjuster("front leg", on("upper_front"), 1.25, 0.5, -10, 10),
    Adjuster("rear leg", on("upper_rear"), 1.25, 0.5, -10, 10),
]


def cost(corner, travel, adjusters, changes, targets, tolerances):
    by_link = changes_by_link(adjusters, changes)
    found = wheel_angles(corner, solve_poses(corner, np.full(len(changes), travel), by_link))
    return sum(((getattr(found, name) - want) / tolerances[name]) ** 2 for name, want in targets.items())


def test_stops_are_kept_and_named_and_spare_adjusters_move_least():
    corner = corner_of("double_wishbone", TYPICAL["double_wishbone"])
    far = realign(corner, 0.0, ADJUSTERS[:2], {"toe": 0.002, "camber": -0.08})
    assert far.limited_by == ("front leg",)
    assert far.changes[1] == -10.0
    assert not far.reached["camber"]
    spare = realign(corner, 0.0, ADJUSTERS, {"camber": -0.02})
    for move in ([1, 0, 0], [0, 1, -1], [1, -1, 1]):
        # Any other exact answer nearby is longer: the gradient of Σ change² lies in that of camber.
        step = np.array(move) * 1e-3
        slope = (
            cost(corner, 0.0, ADJUSTERS, (spare.exact + step)[None], {"camber": -0.02}, {"camber": 1e-3})
            - cost(corner, 0.0, ADJUSTERS, (spare.exact - step)[None], {"camber": -0.02}, {"camber": 1e-3})
        )[0]
        assert abs(slope) < 1e-6
    one = wheel_angles(corner, solve_poses(corner, [0.0]))
    gradient = [
        (wheel_angles(corner, solve_poses(corner, [0.0], {a.acts_on[0][0]: 0.01})).camber - one.camber)[0]
        for a in ADJUSTERS
    ]
    cosine = np.dot(gradient, spare.exact) / np.linalg.norm(gradient) / np.linalg.norm(spare.exact)
    assert abs(cosine) == pytest.approx(1.0, abs=1e-3)


@pytest.mark.identity
@pytest.mark.parametrize("layout", ["double_wishbone", "strut", "five_link", "trailing_lateral"])
def test_nothing_wanted_means_nothing_turned(layout):
    corner = corner_of(layout, TYPICAL[layout])
    link = corner.links[-1].name
    found = realign(corner, 0.0, [Adjuster("one", on(link), 1.5, 1 / 6, -12, 12)], {"toe": corner.toe})
    assert found.changes[0] == 0.0
    assert found.exact[0] == pytest.approx(0.0, abs=1e-7)
    assert found.after == pytest.approx(found.before, abs=1e-12)
