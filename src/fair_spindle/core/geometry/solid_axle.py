"""A solid axle on links or on leaf springs: how it shifts and steers as the car heaves and rolls."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution, require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Link
from fair_spindle.core.geometry.kinematics import rotated
from fair_spindle.core.geometry.layouts import LAYOUTS

Array = NDArray[np.float64]
Points = Mapping[str, tuple[float, float, float]]
CANTILEVER = 0.75
HARD = 100.0
MOST_ITERATIONS = 40


@value_object
class SolidAxle:
    """An axle that both wheels sit on, and the links that hold it to the body. [mm]

    ``sprung`` tells that leaf springs hold it sideways and against winding up.
    """

    links: tuple[Link, ...]
    wheels: tuple[tuple[float, float, float], tuple[float, float, float]]
    sprung: bool


@value_object
class AxleMoves:
    """What the axle does from where it stands, n poses: steer (heading right positive) [rad], sideways shift to the
    left and forward shift [mm], and what the bushings must give because its links do not agree [mm]."""

    steer: Array
    shift: Array
    forward: Array
    give: Array


def make_solid_axle(layout: str, left: Points, right: Points, panhard_body: str = "left") -> SolidAxle:
    """Put a solid axle together from the points of both its sides.

    Parameters
    ----------
    layout : {"solid_links", "solid_leaf"}
        What holds it. [-]
    left, right : mapping
        Points of each side by name, (x, y, z). [mm]
    panhard_body : {"left", "right"}, optional
        The side at which the Panhard rod is held by the body. [-]

    Returns
    -------
    SolidAxle
        The axle with its links.

    Raises
    ------
    InputError
        A missing point, or a link of no length.

    Notes
    -----
    A leaf spring moves its seat on an arc: the front half, a cantilever of uniform strength, bends along a circle
    from the seat, and acts as a link of three quarters its length.  Its pivot lies a quarter of the half behind the
    front eye, along the leaf as it leaves its seat: level with the eye where the seat is level.

    Source
    ------
    leaf-springs

    Examples
    --------
    >>> leaf = {"leaf_front": (600, 500, 0), "leaf_rear": (-600, 500, 40), "axle_seat": (0, 500, -60),
    ...     "wheel_center": (0, 760, 0)}
    >>> mirrored = {name: (x, -y, z) for name, (x, y, z) in leaf.items()}
    >>> len(make_solid_axle("solid_leaf", leaf, mirrored).links)
    2
    """
    kind = LAYOUTS.get(layout)
    if kind is None or kind.guide != "axle":
        raise InputError(f"A solid axle is held by links or leaf springs; got {layout}.", field="layout")
    sides = {"left": left, "right": right}
    for side, points in sides.items():
        for name in kind.axle_points:
            if name not in points:
                raise InputError(f"The axle lacks its {side} point {name!r}.", field=f"points.{side}.{name}")
    links = []
    for side, points in sides.items():
        for names in kind.leaves:
            front, seat, rear = (np.array(points[name], dtype=float) for name in names)
            links.append(_link(f"{side} leaf", _held_at(front, seat, rear), seat))
        for name, body, axle in kind.axle_links:
            links.append(_link(f"{side} {name}", points[body], points[axle]))
    if kind.across:
        rod = (left[kind.across], right[kind.across])
        links.append(_link("Panhard rod", *(rod if panhard_body == "left" else rod[::-1])))
    for link in links:
        length = float(np.linalg.norm(np.subtract(link.outer, link.inner)))
        require(length > 20, f"links.{link.name}", f"{link.name} must be longer than 20 mm", f"{length:.1f} mm")
    return SolidAxle(tuple(links), (left["wheel_center"], right["wheel_center"]), bool(kind.leaves))


def move_axle(axle: SolidAxle, heave: ArrayLike, roll: ArrayLike) -> AxleMoves:
    """Find where a solid axle stands as the wheels move up together and against each other.

    Parameters
    ----------
    axle : SolidAxle
        The axle at ride height. [mm]
    heave : array_like
        Both wheels up, shape (n,). [mm]
    roll : array_like
        Left wheel up and right wheel down against the body, shape (n,). [rad]

    Returns
    -------
    AxleMoves
        One for each pair of heave and roll.

    Raises
    ------
    NoSolution
        The links lock before that.

    Notes
    -----
    Wheel heights are prescribed.  Four links and a Panhard rod are one more than a rigid axle can
    follow; their disagreement is shared out (least squares) and told as what the bushings give.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> leaf = {"leaf_front": (600, 500, 0), "leaf_rear": (-600, 500, 40), "axle_seat": (0, 500, -60),
    ...     "wheel_center": (0, 760, 0)}
    >>> mirrored = {name: (x, -y, z) for name, (x, y, z) in leaf.items()}
    >>> moved = move_axle(make_solid_axle("solid_leaf", leaf, mirrored), [40.0], [0.0])
    >>> abs(float(moved.steer[0])) < 1e-9
    True
    """
    lift, lean = np.broadcast_arrays(np.atleast_1d(np.asarray(heave, float)), np.atleast_1d(np.asarray(roll, float)))
    centre = np.mean(np.array(axle.wheels, dtype=float), axis=0)
    half = abs(axle.wheels[0][1] - axle.wheels[1][1]) / 2
    rise = np.stack([lift + half * np.sin(lean), lift - half * np.sin(lean)], axis=1)
    place, rotation = np.tile(centre, (len(lift), 1)), np.tile(np.eye(3), (len(lift), 1, 1))
    steps = max(1, int(np.ceil(float(np.max(np.abs(rise), initial=0.0)) / 30.0)))
    for step in range(1, steps + 1):
        place, rotation = _settle(axle, centre, rise * step / steps, place, rotation)
    residual, _ = _rows(axle, centre, rise, place, rotation)
    wheels = np.array(axle.wheels, dtype=float) - centre
    at = place[:, None, :] + wheels @ rotation.transpose(0, 2, 1)
    across = at[:, 0] - at[:, 1]
    moved = np.mean(at, axis=1) - centre
    give = np.max(np.abs(residual[:, : len(axle.links)]), axis=1)
    stood = np.arctan2(wheels[0, 0] - wheels[1, 0], wheels[0, 1] - wheels[1, 1])
    return AxleMoves(np.arctan2(across[:, 0], across[:, 1]) - stood, moved[:, 1], moved[:, 0], give)


def _held_at(front: Array, seat: Array, rear: Array) -> Array:
    """Pivot of a leaf's three-quarter link; it leaves its seat along the circle through both eyes and the seat."""
    ahead, behind = front - seat, rear - seat
    along = ahead / (ahead @ ahead) - behind / (behind @ behind)
    length = float(np.linalg.norm(ahead))
    require(length > 20, "links.leaf", "A leaf's eye must be more than 20 mm from its seat", f"{length:.1f} mm")
    return np.asarray(front - (1 - CANTILEVER) * length * along / np.linalg.norm(along))


def _link(name: str, inner: ArrayLike, outer: ArrayLike) -> Link:
    ends = [tuple(float(size) for size in np.asarray(at, dtype=float)) for at in (inner, outer)]
    return Link(name, ends[0], ends[1])  # type: ignore[arg-type]


def _rows(axle: SolidAxle, centre: Array, rise: Array, place: Array, rotation: Array) -> tuple[Array, Array]:
    """Residuals (n, m) and derivatives (n, m, 6): links, wheel heights, and what leaf springs hold."""
    count = len(place)
    inner = np.array([link.inner for link in axle.links])
    outer = np.array([link.outer for link in axle.links]) - centre
    length = np.linalg.norm(outer + centre - inner, axis=1)
    arm = outer @ rotation.transpose(0, 2, 1)
    reach = place[:, None, :] + arm - inner
    along = reach / length[None, :, None]
    residual = [(np.sum(reach * reach, axis=2) - length**2) / (2 * length)]
    slope = [np.concatenate([along, np.cross(arm, along)], axis=2)]
    wheels = np.array(axle.wheels, dtype=float) - centre
    hub = wheels @ rotation.transpose(0, 2, 1)
    up = np.broadcast_to(np.array([0.0, 0.0, 1.0]), hub.shape)
    residual.append(HARD * (place[:, None, 2] + hub[:, :, 2] - centre[2] - wheels[:, 2] - rise))
    slope.append(HARD * np.concatenate([up, np.cross(hub, up)], axis=2))
    if axle.sprung:
        nose = rotation[:, :, 0]
        sideways = np.tile([0.0, 1.0, 0.0, 0.0, 0.0, 0.0], (count, 1, 1))
        wind = np.zeros((count, 1, 6))
        wind[:, 0, 3:] = HARD * np.cross(nose, np.array([0.0, 0.0, 1.0]))
        residual += [(place[:, 1] - centre[1])[:, None], HARD * nose[:, 2:3]]
        slope += [sideways, wind]
    return np.concatenate(residual, axis=1), np.concatenate(slope, axis=1)


def _settle(axle: SolidAxle, centre: Array, rise: Array, place: Array, rotation: Array) -> tuple[Array, Array]:
    for _ in range(MOST_ITERATIONS):
        residual, slope = _rows(axle, centre, rise, place, rotation)
        turned = slope.transpose(0, 2, 1)
        try:
            move = -np.linalg.solve(turned @ slope, turned @ residual[:, :, None])[:, :, 0]
        except np.linalg.LinAlgError:
            break
        place, rotation = place + move[:, :3], rotated(np.asarray(move[:, 3:], dtype=float)) @ rotation
        if np.max(np.abs(move[:, :3])) < 1e-8 and np.max(np.abs(move[:, 3:])) < 1e-11:
            return place, rotation
    raise NoSolution("The axle's links lock before that. Check the points, or ask for less travel.")
