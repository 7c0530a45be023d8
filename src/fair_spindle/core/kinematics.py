"""The solver: where the upright stands at a wheel travel, for thousands of poses at once.

Unknowns of a pose are the wheel centre's x and y and a rotation; its height is prescribed.  Each
Newton step solves all poses together with the exact Jacobian; rotations are composed, so that the
upright stays rigid.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.corner import STEERING_AXIS, Corner
from fair_spindle.core.errors import NoSolution, require

Array = NDArray[np.float64]
STEP_MM = 30.0
FARTHEST_MM = 1000.0
MOST_ITERATIONS = 25
CLOSE_MM = 1e-10


@dataclass(frozen=True)
class Poses:
    """Solved poses, n of them: wheel centre (n, 3), rotation (n, 3, 3), and how both move with travel.

    ``velocity`` is the wheel centre's change per mm of travel, ``turning`` the rotation vector's. [mm, rad]
    """

    travel: Array
    wheel: Array
    rotation: Array
    velocity: Array
    turning: Array
    top_shift: Array


@dataclass(frozen=True)
class WheelAngles:
    """Camber, toe [rad] and half track [mm] at each pose; caster and kpi are None without a steering axis."""

    camber: Array
    toe: Array
    half_track: Array
    caster: Array | None
    kpi: Array | None
    toe_slope: Array
    camber_slope: Array


@dataclass(frozen=True)
class _Held:
    """What holds the upright, over n poses; offsets are from the wheel centre at ride height. [mm]"""

    inner: Array
    offset: Array
    length: Array
    top: Array
    low: Array
    across: Array
    trail: Array
    trail_offset: Array


def solve_poses(corner: Corner, travels: ArrayLike, changes: Mapping[str, ArrayLike] | None = None) -> Poses:
    """Find the pose of the upright at wheel travels, with links lengthened or the strut top moved.

    Parameters
    ----------
    corner : Corner
        Points at ride height. [mm]
    travels : array_like
        Wheel travel, bump positive, shape (n,). [mm]
    changes : mapping, optional
        Length change of links by name, and of ``strut_top`` inboard; each shape (n,) or scalar. [mm]

    Returns
    -------
    Poses
        One for each travel.

    Raises
    ------
    NoSolution
        The linkage locks before a travel is reached; ``details["last_travel"]`` is the last one that is.
    InputError
        A change of a link the corner does not have, or more than 1000 mm of travel or change.

    Notes
    -----
    Newton from the pose at ride height in steps of 30 mm; quadratic convergence.  Residuals are
    link lengths' errors; they end below 1e-9 mm.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.corner import make_corner
    >>> points = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> arm = make_corner("semi_trailing", "left", 0.0, 0.0, points)
    >>> round(float(solve_poses(arm, [25.0]).wheel[0, 2]), 6)
    346.0
    """
    travel = np.atleast_1d(np.asarray(travels, dtype=float))
    for name, sizes in (("travels_mm", travel), *((f"change of {name}", by) for name, by in (changes or {}).items())):
        most = float(np.max(np.abs(sizes), initial=0.0))
        require(most <= FARTHEST_MM, name, f"Up to {FARTHEST_MM:g} mm are solved", f"{most:g} mm")
    known = {link.name for link in corner.links} | ({"strut_top"} if corner.layout == "strut" else set())
    for name in changes or {}:
        require(name in known, "acts_on", f"This corner has {', '.join(sorted(known)) or 'no links'}", name)
    if corner.layout in ("semi_trailing", "twist_beam"):
        return _swing(corner, travel)
    lengths = {
        name: np.broadcast_to(np.asarray(by, dtype=float), travel.shape) for name, by in (changes or {}).items()
    }
    held = _held(corner, travel, lengths)
    far = max(
        float(np.max(np.abs(travel), initial=0.0)), *(4 * float(np.max(np.abs(by))) for by in lengths.values()), 1.0
    )
    steps = int(np.ceil(far / STEP_MM))
    wheel = np.tile(corner.wheel, (len(travel), 1))
    rotation = np.tile(np.eye(3), (len(travel), 1, 1))
    for step in range(1, steps + 1):
        share = step / steps
        now = _partly(held, corner, lengths, share)
        wheel[:, 2] = corner.wheel[2] + share * travel
        wheel, rotation = _newton(corner, now, wheel, rotation, travel, share)
    return _with_slopes(held, corner, travel, wheel, rotation, lengths)


def wheel_angles(corner: Corner, poses: Poses) -> WheelAngles:
    """Read camber, toe, caster, kpi and half track off solved poses.

    Parameters
    ----------
    corner : Corner
        The corner. [mm]
    poses : Poses
        Solved poses, n of them. [mm, rad]

    Returns
    -------
    WheelAngles
        Arrays of shape (n,), with the slopes of toe and camber per mm of travel.

    Raises
    ------
    Nothing.

    Notes
    -----
    Camber: −asin of the spindle's z; toe: angle of the spindle in plan.  Caster and kpi are the
    steering axis' angles in side and front view.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.corner import make_corner
    >>> points = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> arm = make_corner("semi_trailing", "left", -0.02, 0.001, points)
    >>> round(float(wheel_angles(arm, solve_poses(arm, [0.0])).camber[0]), 6)
    -0.02
    """
    spindle = poses.rotation @ corner.spindle
    out = corner.side * spindle[:, 1]
    change = np.cross(poses.turning, spindle)
    flat = spindle[:, 0] ** 2 + out**2
    toe_slope = (change[:, 0] * out - spindle[:, 0] * corner.side * change[:, 1]) / flat
    camber_slope = -change[:, 2] / np.sqrt(1 - spindle[:, 2] ** 2)
    caster, kpi = _axis_angles(corner, poses)
    return WheelAngles(
        -np.arcsin(spindle[:, 2]),
        np.arctan2(spindle[:, 0], out),
        corner.side * poses.wheel[:, 1],
        caster,
        kpi,
        toe_slope,
        camber_slope,
    )


def _axis_angles(corner: Corner, poses: Poses) -> tuple[Array | None, Array | None]:
    names = STEERING_AXIS.get(corner.layout)
    if names is None:
        return None, None
    lower = poses.wheel + poses.rotation @ (corner.point(names[0]) - corner.wheel)
    if corner.layout == "strut":
        upper = corner.point("strut_top") + poses.top_shift
    else:
        upper = poses.wheel + poses.rotation @ (corner.point(names[1]) - corner.wheel)
    axis = upper - lower
    return np.arctan2(-axis[:, 0], axis[:, 2]), np.arctan2(-corner.side * axis[:, 1], axis[:, 2])


def _held(corner: Corner, travel: Array, lengths: Mapping[str, Array]) -> _Held:
    count = len(travel)
    inner = np.array([link.inner for link in corner.links], dtype=float)
    outer = np.array([link.outer for link in corner.links], dtype=float)
    length = np.tile(np.linalg.norm(outer - inner, axis=1), (count, 1))
    for place, link in enumerate(corner.links):
        if link.name in lengths:
            length[:, place] += lengths[link.name]
    require(np.all(length > 0), "length_change_mm", "A link cannot be shortened to nothing", "too much")
    nothing = np.zeros((0, 3))
    top = low = across = trail = nothing
    if corner.layout == "strut":
        low = corner.point("strut_low") - corner.wheel
        line = corner.point("strut_top") - corner.point("strut_low")
        across = _square_to(line / np.linalg.norm(line))
        top = np.tile(corner.point("strut_top"), (count, 1))
        top[:, 1] -= corner.side * lengths.get("strut_top", np.zeros(count))
    if corner.layout == "trailing_lateral":
        trail = corner.point("trailing_body")
    offset = trail - corner.wheel if len(trail) == 3 else nothing
    return _Held(inner, outer - corner.wheel, length, top, low, across, trail, offset)


def _partly(held: _Held, corner: Corner, lengths: Mapping[str, Array], share: float) -> _Held:
    """The links part of the way to their new length, for a step that stays near the last pose."""
    if share == 1 or not lengths:
        return held
    start = np.linalg.norm(held.offset + corner.wheel - held.inner, axis=1)
    top = held.top
    if len(top):
        fixed = corner.point("strut_top")
        top = fixed + share * (top - fixed)
    return replace(held, length=start + share * (held.length - start), top=top)


def _square_to(direction: Array) -> Array:
    """Two unit vectors square to a direction and to each other."""
    first = np.cross(direction, [1.0, 0.0, 0.0] if abs(direction[0]) < 0.7 else [0.0, 1.0, 0.0])
    first /= np.linalg.norm(first)
    return np.stack([first, np.cross(direction, first)])


def _rows(held: _Held, wheel: Array, rotation: Array) -> tuple[Array, Array]:
    """Residuals (n, 5) and their derivatives (n, 5, 6) by wheel centre and rotation vector."""
    arm = np.einsum("nij,kj->nki", rotation, held.offset)
    reach = wheel[:, None, :] + arm - held.inner
    square = np.einsum("nki,nki->nk", reach, reach)
    residual = (square - held.length**2) / (2 * held.length)
    along = reach / held.length[:, :, None]
    slope = np.concatenate([along, np.cross(arm, along)], axis=2)
    if len(held.top):
        across = np.einsum("nij,kj->nki", rotation, held.across)
        low = np.einsum("nij,j->ni", rotation, held.low)
        gap = held.top - wheel
        off = np.einsum("nki,nki->nk", across, (gap - low)[:, None, :] + np.zeros_like(across))
        turn = np.cross(across, np.broadcast_to(gap[:, None, :], across.shape))
        residual = np.concatenate([residual, off], axis=1)
        slope = np.concatenate([slope, np.concatenate([-across, turn], axis=2)], axis=1)
    if len(held.trail):
        arm = np.einsum("nij,j->ni", rotation, held.trail_offset)
        gap = (wheel + arm - held.trail)[:, [0, 2]]
        unit = np.broadcast_to(np.eye(3)[[0, 2]], (len(wheel), 2, 3))
        turn = np.cross(np.broadcast_to(arm[:, None, :], unit.shape), unit)
        residual = np.concatenate([residual, gap], axis=1)
        slope = np.concatenate([slope, np.concatenate([unit, turn], axis=2)], axis=1)
    return residual, slope


_FREE = [0, 1, 3, 4, 5]


def _newton(
    corner: Corner, held: _Held, wheel: Array, rotation: Array, travel: Array, share: float
) -> tuple[Array, Array]:
    for _ in range(MOST_ITERATIONS):
        residual, slope = _rows(held, wheel, rotation)
        worst = np.max(np.abs(residual), axis=1)
        if np.all(worst < CLOSE_MM):
            return wheel, rotation
        move = _solve(slope[:, :, _FREE], -residual)
        # A step longer than this leaves the branch the linkage is on.
        size = np.max(np.abs(move[:, 2:]), axis=1)
        move *= np.minimum(1.0, 0.3 / np.maximum(size, 1e-300))[:, None]
        wheel = wheel + np.stack([move[:, 0], move[:, 1], np.zeros(len(wheel))], axis=1)
        rotation = _turned(move[:, 2:]) @ rotation
    residual, _ = _rows(held, wheel, rotation)
    stuck = np.max(np.abs(residual), axis=1) > 1e-7
    if not np.any(stuck):
        return wheel, rotation
    raise _locked(corner, travel[stuck], share, float(np.max(np.abs(residual))))


def _solve(matrix: Array, right: Array) -> Array:
    try:
        return np.asarray(np.linalg.solve(matrix, right[:, :, None])[:, :, 0], dtype=float)
    except np.linalg.LinAlgError:
        return np.asarray(np.einsum("nij,nj->ni", np.linalg.pinv(matrix), right), dtype=float)


def _turned(vectors: Array) -> Array:
    """Rotation matrices of rotation vectors (n, 3), by Rodrigues' formula."""
    angle = np.linalg.norm(vectors, axis=1)
    cross = np.zeros((len(vectors), 3, 3))
    cross[:, 0, 1], cross[:, 0, 2], cross[:, 1, 2] = -vectors[:, 2], vectors[:, 1], -vectors[:, 0]
    cross -= cross.transpose(0, 2, 1)
    sine = np.sinc(angle / np.pi)[:, None, None]
    half = np.sinc(angle / (2 * np.pi))[:, None, None]
    return np.asarray(np.eye(3) + sine * cross + 0.5 * half**2 * (cross @ cross))


def _with_slopes(
    held: _Held, corner: Corner, travel: Array, wheel: Array, rotation: Array, lengths: Mapping[str, Array]
) -> Poses:
    _, slope = _rows(held, wheel, rotation)
    move = _solve(slope[:, :, _FREE], -slope[:, :, 2])
    velocity = np.stack([move[:, 0], move[:, 1], np.ones(len(travel))], axis=1)
    shift = np.zeros((len(travel), 3))
    if "strut_top" in lengths:
        shift[:, 1] = -corner.side * lengths["strut_top"]
    return Poses(travel, wheel, rotation, velocity, move[:, 2:], shift)


def _swing(corner: Corner, travel: Array) -> Poses:
    """An arm on one axis: its angle in closed form."""
    base, axis = _pivot(corner)
    arm = corner.wheel - base
    along = axis * float(axis @ arm)
    spoke, square = arm - along, np.cross(axis, arm)
    reach = float(np.hypot(spoke[2], square[2]))
    height = spoke[2] + travel
    if np.any(np.abs(height) > reach):
        last = _nearest_reached(travel, lambda t: bool(abs(spoke[2] + t) <= reach))
        raise NoSolution(
            f"The arm cannot swing that far; it reaches {last:.1f} mm of travel at the most.", last_travel=last
        )
    phase = np.arctan2(square[2], spoke[2])
    angle = phase + np.arccos(np.clip(height / reach, -1, 1)) * np.array([1.0, -1.0])[:, None]
    angle = (angle + np.pi) % (2 * np.pi) - np.pi
    nearest = np.where(np.abs(angle[0]) < np.abs(angle[1]), angle[0], angle[1])
    rotation = _turned(nearest[:, None] * axis)
    wheel = base + rotation @ arm
    speed = 1.0 / np.cross(np.broadcast_to(axis, wheel.shape), wheel - base)[:, 2]
    turning = speed[:, None] * axis
    return Poses(travel, wheel, rotation, np.cross(turning, wheel - base), turning, np.zeros_like(wheel))


def _pivot(corner: Corner) -> tuple[Array, Array]:
    if corner.layout == "semi_trailing":
        base, end = corner.point("arm_inner"), corner.point("arm_outer")
        return base, (end - base) / np.linalg.norm(end - base)
    # Both wheels of a twist beam together: the beam turns about the line through its two pivots.
    return corner.point("beam_pivot"), np.array([0.0, 1.0, 0.0])


def _locked(corner: Corner, wanted: Array, share: float, residual: float) -> NoSolution:
    return NoSolution(
        f"The linkage locks before {float(wanted[np.argmax(np.abs(wanted))]):.0f} mm of travel. "
        "Check the points, or ask for less travel.",
        residual=residual,
        last_travel=float(share * wanted[np.argmax(np.abs(wanted))]),
    )


def _nearest_reached(travel: Array, reached: Callable[[float], bool]) -> float:
    farthest = float(travel[np.argmax(np.abs(travel))])
    low, high = 0.0, farthest
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if reached(middle) else (low, middle)
    return low
