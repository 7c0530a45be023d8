"""Axles whose wheels move together: a solid axle on links or leaf springs, a twist beam; rigid bodies on rubber.

An axle may have a link more than it can follow: every joint gives alike, and it stands where the energy of all of
them is least, its wheels as high as they are told.  Each half of a leaf, of uniform strength, bends along a circle
from the seat; its rear eye hangs in a shackle.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.remember import by_content
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.practice.linkage import Upright
from fair_spindle.practice.rigid import BODY, newton, points_at, rotation
from fair_spindle.practice.steered import Carry, Steering

Vector = NDArray[np.float64]
Pair = tuple[Upright, Upright]
TOGETHER = ("twist_beam", "solid_links", "solid_leaf")
LINKS = {"lower": ("lower_body", "lower_axle"), "upper": ("upper_body", "upper_axle")}
# How much harder than a joint's rubber: wheels on the ground, a welded seam, and the seam against bending [mm/rad].
GROUND, SEAM, BENDING = 100.0, 10.0, 2000.0
CURVE_STEP = 1e-8
# Bending of half a leaf of uniform strength against the rubber of a joint: root of rate over eight times the joint's.
LEAF = float(np.sqrt(30 / (8 * 5000)))
# How far a wheel goes up at the most [mm], and how often a way is halved to find where something stops it.
MOST_BUMP, HALVINGS = 80.0, 8


@by_content(most=64)
def pair_angles(pair: Pair, travels: tuple[float, float], steering: Steering | None = None) -> Vector:
    """Toe and camber of the left and the right wheel against the body, each so far up [mm]; shape (2, 2). [rad]

    A solid axle with a ``steering`` has its tie rod's length in the left wheel's ``rod`` and its drag link's in
    ``other``.
    """
    layout = pair[0].layout
    if layout not in TOGETHER:
        return np.array([wheel.angles(travel) for wheel, travel in zip(pair, travels, strict=True)])
    if layout == "twist_beam":
        turns = _twisted(pair, travels)
    else:
        x = _axle_stands(pair, travels)
        turn = rotation(x[3:6])
        by = steering.headings(_carrier(_middle(pair), x), pair[0].rod, pair[0].other) if steering else ()
        left, right = (turn @ steering.turn(side, one) for side, one in enumerate(by)) if steering else (turn, turn)
        turns = left, right
    return np.array(
        [points_at(turn, wheel.side, wheel.toe, wheel.camber) for turn, wheel in zip(turns, pair, strict=True)]
    )


def shackle_leans(pair: Pair, travels: tuple[float, float]) -> Vector:
    """How far each shackle of an axle on leaves leans, its lower end back, shape (2,). [rad]"""
    x = _axle_stands(pair, travels)
    carry, leans = _carrier(_middle(pair), x), []
    for n, wheel in enumerate(pair):
        eye = _Leaf.of(wheel.points).eyes(x[6 + 2 * n : 8 + 2 * n])[1]
        reach = carry(wheel.points["axle_seat"] + eye) - wheel.points["shackle_top"]
        leans.append(np.arctan2(-reach[0], -reach[2]))
    return np.array(leans)


def on_bracket(points: Mapping[str, Vector], lean: float) -> dict[str, Vector]:
    """Points of a leaf's side, its shackle hung so that it leans back by this in place [rad], as long as it was."""
    reach = points["shackle_top"] - points["leaf_rear"]
    top = points["leaf_rear"] + float(np.linalg.norm(reach)) * np.array([np.sin(lean), 0.0, np.cos(lean)])
    return {**points, "shackle_top": top}


def bump_left(pair: Pair, stop: float) -> Vector:
    """How far the wheels go up until each shackle leans back to its stop [rad], shape (2,). [mm]

    By halving; as far as ``MOST_BUMP`` where it never gets there.
    """
    low, high = np.zeros(2), np.full(2, MOST_BUMP)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        over = shackle_leans(pair, (middle[0], middle[1])) > stop
        low, high = np.where(over, low, middle), np.where(over, middle, high)
    return np.asarray(np.round(low, 1))


def _middle(pair: Pair) -> Vector:
    return np.asarray((pair[0].points["wheel_center"] + pair[1].points["wheel_center"]) / 2)


def _carrier(about: Vector, x: Vector) -> Carry:
    """Where a point of a body is after its move."""
    turn = rotation(x[3:6])
    return lambda point: np.asarray(about + x[:3] + turn @ (point - about))


def _axle_stands(pair: Pair, travels: tuple[float, float]) -> Vector:
    """Place and rotation of a solid axle; on leaves the curvature of each half beside them [1/mm]."""
    leaves = [_Leaf.of(wheel.points) for wheel in pair] if pair[0].layout == "solid_leaf" else []
    middle = _middle(pair)

    def miss(x: Vector) -> Vector:
        carry = _carrier(middle, x)
        rows = [_off_ground(pair, travels, (carry, carry))]
        for n, wheel in enumerate(pair):
            at = wheel.points
            if leaves:
                bent = x[6 + 2 * n : 8 + 2 * n]
                front, rear = (carry(at["axle_seat"] + eye) for eye in leaves[n].eyes(bent))
                reach = [(eye - at["shackle_top"])[[0, 2]] for eye in (rear, at["leaf_rear"])]
                hung = np.linalg.norm(reach[0]) - np.linalg.norm(reach[1])
                aside = carry(at["axle_seat"])[1] - at["axle_seat"][1]
                stiff = LEAF * leaves[n].ways ** 2 * (bent - leaves[n].curvature)
                rows.append(np.array([*(front - at["leaf_front"])[[0, 2]], hung, aside, *stiff]))
            else:
                rows.append(np.array([_stretched(at[body], at[end], carry) for body, end in LINKS.values()]))
        if not leaves:
            body, end = (wheel.points["panhard_end"] for wheel in pair)
            rows.append(np.array([_stretched(body, end, carry)]))
        return np.concatenate(rows)

    bent = [leaf.curvature for leaf in leaves for _ in leaf.ways]
    start = np.array([0.0, 0.0, np.mean(travels), 0.0, 0.0, 0.0, *bent])
    return newton(miss, start, np.array([*BODY, *[CURVE_STEP] * len(bent)]))


def _stretched(body: Vector, end: Vector, carry: Carry) -> float:
    return float(np.linalg.norm(carry(end) - body) - np.linalg.norm(end - body))


def _off_ground(pair: Pair, travels: tuple[float, float], carries: tuple[Carry, Carry]) -> Vector:
    """How far each wheel's centre is from the height it is told, as hard as the ground."""
    centres = [wheel.points["wheel_center"] for wheel in pair]
    moved = [carry(centre)[2] - centre[2] for carry, centre in zip(carries, centres, strict=True)]
    return GROUND * np.subtract(moved, travels)


@value_object
class _Leaf:
    """A leaf along a circle through both its eyes and its seat: ways along it to the eyes, curvature, its tangent and
    the way up from it at the seat."""

    ways: Vector
    curvature: float
    along: Vector
    up: Vector

    @classmethod
    def of(cls, points: Mapping[str, Vector]) -> _Leaf:
        front, rear = ((points[name] - points["axle_seat"])[[0, 2]] for name in ("leaf_front", "leaf_rear"))
        along = front / (front @ front) - rear / (rear @ rear)
        along = along / np.linalg.norm(along)
        up = np.array([-along[1], along[0]])
        bent = float(2 * (front @ up) / (front @ front))
        ways = [
            np.arctan2(bent * (eye @ along), 1 - bent * (eye @ up)) / bent if bent else eye @ along
            for eye in (front, rear)
        ]
        return cls(np.array(ways), bent, along, up)

    def eyes(self, bent: Vector) -> tuple[Vector, Vector]:
        """Both eyes from the seat, in the axle's own frame, with each half of the leaf bent so [1/mm], shape (2,)."""
        found = []
        for way, curvature in zip(self.ways, bent, strict=True):
            half = curvature * way / 2
            x, z = way * np.sinc(half / np.pi) * (np.cos(half) * self.along + np.sin(half) * self.up)
            found.append(np.array([x, 0.0, z]))
        return found[0], found[1]


def _twisted(pair: Pair, travels: tuple[float, float]) -> tuple[Vector, Vector]:
    """Rotations of both halves of a twist beam: rubber at the pivots, a seam between them that only twists."""
    seam = (pair[0].points["cross_beam"] + pair[1].points["cross_beam"]) / 2
    axis = pair[0].points["cross_beam"] - pair[1].points["cross_beam"]
    axis = axis / np.linalg.norm(axis)
    across = np.linalg.svd(axis[None, :])[2][1:]

    def miss(x: Vector) -> Vector:
        carries = _carrier(seam, x[:6]), _carrier(seam, x[6:])
        ends = [wheel.points["beam_pivot"] for wheel in pair]
        pivots = [carry(end) - end for carry, end in zip(carries, ends, strict=True)]
        bent = BENDING * across @ rotation(x[3:6]).T @ rotation(x[9:]) @ axis
        return np.concatenate([*pivots, SEAM * (x[:3] - x[6:9]), bent, _off_ground(pair, travels, carries)])

    x = newton(miss, np.zeros(12), np.tile(BODY, 2))
    return rotation(x[3:6]), rotation(x[9:])
