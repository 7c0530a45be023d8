"""A solid axle solved another way by scipy, and what its symmetry asks for."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import brentq, least_squares
from scipy.spatial.transform import Rotation

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.geometry.drag_link import DragLink, length_to_steer, rod_shift, steered_by_height
from fair_spindle.core.geometry.solid_axle import make_solid_axle, move_axle
from fair_spindle.core.geometry.twist_beam import make_twist_beam, roll_beam

LINKS = {
    "lower_body": (600, 420, -40), "lower_axle": (0, 520, -60), "upper_body": (450, 300, 120),
    "upper_axle": (40, 330, 130), "panhard_end": (-120, 520, 10), "wheel_center": (0, 770, 0),
}  # fmt: skip
LEAF = {
    "leaf_front": (600, 500, 0),
    "leaf_rear": (-600, 500, 40),
    "axle_seat": (0, 500, -60),
    "wheel_center": (0, 760, 0),
}


def mirrored(points):
    return {name: (x, -y, z) for name, (x, y, z) in points.items()}


@pytest.mark.referee
def test_thirty_random_axles_on_links_solved_by_scipy():
    """Referee: scipy.optimize.least_squares over scipy's Rotation; wheel heights held a hundred times as hard."""
    rng = np.random.default_rng(4)
    for _ in range(30):
        sides = [{name: tuple(np.add(at, rng.uniform(-20, 20, 3))) for name, at in LINKS.items()} for _ in range(2)]
        axle = make_solid_axle("solid_links", sides[0], mirrored(sides[1]))
        heave, roll = rng.uniform(-50, 50), np.radians(rng.uniform(-3, 3))
        wheels = np.array(axle.wheels)
        centre, half = wheels.mean(axis=0), abs(wheels[0, 1] - wheels[1, 1]) / 2
        rise = heave + half * np.sin(roll) * np.array([1, -1])

        def errors(u, axle=axle, wheels=wheels, centre=centre, rise=rise):
            turn = Rotation.from_rotvec(u[3:])
            out = []
            for link in axle.links:
                reach = centre + u[:3] + turn.apply(np.subtract(link.outer, centre)) - link.inner
                length = np.linalg.norm(np.subtract(link.outer, link.inner))
                out.append((reach @ reach - length**2) / (2 * length))
            heights = (centre + u[:3] + turn.apply(wheels - centre))[:, 2] - wheels[:, 2] - rise
            return np.array([*out, *(100 * heights)])

        found = least_squares(errors, [0, 0, heave, 0, 0, 0], xtol=1e-14, ftol=1e-14, gtol=1e-14).x
        at = centre + found[:3] + Rotation.from_rotvec(found[3:]).apply(wheels - centre)
        moved = move_axle(axle, [heave], [roll])
        steer = np.arctan2(*(at[0] - at[1])[:2]) - np.arctan2(*(wheels[0] - wheels[1])[:2])
        assert np.degrees(abs(moved.steer[0] - steer)) < 5e-4
        assert moved.shift[0] == pytest.approx((at.mean(axis=0) - centre)[1], abs=5e-3)


@pytest.mark.identity
@pytest.mark.parametrize("layout", ["solid_leaf", "solid_links"])
def test_left_and_right_change_places_when_the_car_leans_the_other_way(layout):
    points = LEAF if layout == "solid_leaf" else LINKS
    other = {**mirrored(points), **({"panhard_end": (-120, -480, -20)} if layout == "solid_links" else {})}
    one = make_solid_axle(layout, points, other)
    twin = make_solid_axle(layout, mirrored(other), mirrored(points), "right")
    heave, roll = np.array([0.0, 30.0, -30.0, 10.0]), np.radians([2.0, 0.0, -1.0, 3.0])
    ours, theirs = move_axle(one, heave, roll), move_axle(twin, heave, -roll)
    assert np.allclose(ours.steer, -theirs.steer, atol=1e-9)
    assert np.allclose(ours.shift, -theirs.shift, atol=1e-6)
    still = move_axle(one, [0.0], [0.0])
    assert np.allclose([still.steer[0], still.shift[0], still.give[0]], 0, atol=1e-9)
    if layout == "solid_leaf":
        assert np.allclose(move_axle(one, [50.0, -50.0], [0.0]).steer, 0, atol=1e-9)


def test_a_lacking_point_is_named_and_locked_links_say_so():
    with pytest.raises(InputError, match="right point 'axle_seat'"):
        make_solid_axle("solid_leaf", LEAF, {k: v for k, v in mirrored(LEAF).items() if k != "axle_seat"})
    with pytest.raises(NoSolution):
        move_axle(make_solid_axle("solid_links", LINKS, mirrored(LINKS)), [5000.0], [0.0])


@pytest.mark.identity
def test_a_twist_beam_rolls_about_the_line_from_pivot_to_middle():
    """Referee: Rodrigues' rotation formula (Altmann, Rotations, Quaternions, 1986; from memory)."""
    half = {
        "beam_pivot": (-2200.0, 560.0, 12.0),
        "cross_beam": (-2350.0, 480.0, 26.0),
        "wheel_center": (-2610.0, 740.0, 0.0),
    }
    other = {name: (x, -y, z) for name, (x, y, z) in half.items()}
    steer, camber = roll_beam(make_twist_beam(half, other), np.radians([2.0, -2.0]))
    middle, pivot, hub = np.array([-2350.0, 0.0, 26.0]), np.array(half["beam_pivot"]), np.array(half["wheel_center"])
    along = (pivot - middle) / np.linalg.norm(pivot - middle)

    def turned(vector, angle):
        return (
            vector * np.cos(angle)
            + np.cross(along, vector) * np.sin(angle)
            + along * (along @ vector) * (1 - np.cos(angle))
        )

    up = 740.0 * np.sin(np.radians(2.0))
    angles = [brentq(lambda a, u=u: (pivot + turned(hub - pivot, a))[2] - hub[2] - u, -0.5, 0.5) for u in (up, -up)]
    spindles = [turned(np.array([0.0, 1.0, 0.0]), angle) for angle in angles]
    toes = [np.arctan2(spindle[0], spindle[1]) for spindle in spindles]
    assert steer[0] == pytest.approx((toes[0] - toes[1]) / 2, abs=1e-9)
    assert camber == pytest.approx([-np.arcsin(spindle[2]) for spindle in spindles], abs=1e-9)
    assert steer[0] == pytest.approx(-steer[1], abs=1e-12), "left and right are mirror images"


@pytest.mark.identity
def test_a_drag_link_beside_its_panhard_rod_leaves_the_steering_wheel_alone():
    """Statics of two parallel links: link and rod of one length and slope move the knuckle with the axle."""
    link = DragLink(900.0, -60.0, 160.0, 1)
    for height in (-40.0, 50.0):
        shift = rod_shift(900.0, -60.0, height)
        assert steered_by_height(link, height, shift) == pytest.approx(0.0, abs=1e-12)
        assert length_to_steer(link, height, 0.0, shift) == pytest.approx(0.0, abs=1e-9)
    far = np.degrees(15 * steered_by_height(replace(link, rise=-170.0), 50.0))
    assert abs(far) > 40, "alone, the same link would turn the wheel by so much"
    near = np.degrees(15 * steered_by_height(replace(link, rise=-170.0), 50.0, rod_shift(900.0, -168.0, 50.0)))
    assert abs(near) < 1
    # Geometry by hand: circles about two body ends.
    reach = np.sqrt(900**2 - 110**2) - np.sqrt(900**2 - 60**2)
    assert rod_shift(900.0, -60.0, 50.0) == pytest.approx(reach)
