"""The solver: where the upright stands at a wheel travel, for thousands of poses at once.

Unknowns of a pose are the wheel centre's x and y and a rotation; its height is prescribed.  Each
Newton step solves all poses together with the exact Jacobian; rotations are composed, so that the
upright stays rigid.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import NoSolution, require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner

Array = NDArray[np.float64]
# What can be moved beside the lengths of links.
LEAP_MM = 120.0
STEP_MM = 15.0
FARTHEST_MM = 1000.0
MANY = 64
NODE_MM = 4.0
MOST_ITERATIONS = 25
CLOSE_MM = 1e-10
# How far a pose may turn from where the slopes of the last one pointed. [rad]
MOST_SURPRISE = 0.12
FARTHEST_TURN = 0.3
SMALL_RAD = 5e-7
SMALL_MM = 1e-4


@value_object
class Poses:
    """Solved poses, n of them: wheel centre (n, 3), rotation (n, 3, 3), and how both move with travel.

    ``velocity`` is the wheel centre's change per mm of travel, ``turning`` the rotation vector's [mm, rad];
    ``scatter`` how far each pose's points lie from the corner's, by point, shape (n, 3). [mm]
    """

    travel: Array
    wheel: Array
    rotation: Array
    velocity: Array
    turning: Array
    top_shift: Array
    scatter: Mapping[str, Array] = field(default_factory=dict)


@value_object
class WheelAngles:
    """Camber, toe [rad] and half track [mm] at each pose; caster and kpi are None without a steering axis."""

    camber: Array
    toe: Array
    half_track: Array
    caster: Array | None
    kpi: Array | None
    toe_slope: Array
    camber_slope: Array


@value_object
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


def solve_poses(
    corner: Corner,
    travels: ArrayLike,
    changes: Mapping[str, ArrayLike] | None = None,
    scatter: Mapping[str, Array] | None = None,
) -> Poses:
    """Find the pose of the upright at wheel travels, with links lengthened or the strut top moved.

    Parameters
    ----------
    corner : Corner
        Points at ride height. [mm]
    travels : array_like
        Wheel travel, bump positive, shape (n,). [mm]
    changes : mapping, optional
        Length change of links by name, of ``strut_top`` inboard, and of a semi-trailing ``arm``'s outer pivot
        ahead; each shape (n,) or scalar. [mm]
    scatter : mapping, optional
        How far each pose's points lie from the corner's, by point, shape (n, 3): as many corners,
        a little different each, as there are poses. [mm]

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
    Newton from the pose at ride height, in leaps of 120 mm, in steps of 15 mm where these fail or end elsewhere than
    the slopes pointed; quadratic convergence.  A pose beyond the place where the linkage locks is none.  Many travels
    of one corner begin between a few that are solved first.  Residuals are link lengths' errors; they end below
    1e-9 mm.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.geometry.corner import make_corner
    >>> points = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> arm = make_corner("semi_trailing", "left", 0.0, 0.0, points)
    >>> round(float(solve_poses(arm, [25.0]).wheel[0, 2]), 6)
    346.0
    """
    travel = np.atleast_1d(np.asarray(travels, dtype=float))
    for name, sizes in (("travels_mm", travel), *((f"change of {name}", by) for name, by in (changes or {}).items())):
        most = float(np.max(np.abs(sizes), initial=0.0))
        require(most <= FARTHEST_MM, name, f"Up to {FARTHEST_MM:g} mm are solved", f"{most:g} mm")
    known = {link.name for link in corner.links} | {one for one in (corner.kind.movable,) if one}
    for name in changes or {}:
        require(name in known, "acts_on", f"This corner has {', '.join(sorted(known)) or 'no links'}", name)
    if corner.kind.guide in ("swing", "beam"):
        return _swing(corner, travel, changes or {}, scatter or {})
    lengths = {
        name: np.broadcast_to(np.asarray(by, dtype=float), travel.shape) for name, by in (changes or {}).items()
    }
    held = _held(corner, travel, lengths, scatter or {})
    shift = np.zeros((len(travel), 3))
    if "strut_top" in lengths:
        shift[:, 1] = -corner.side * lengths["strut_top"]
    span = float(np.ptp(travel)) if len(travel) else 0.0
    if not changes and not scatter and len(travel) > MANY and span < (MANY - 2) * NODE_MM:
        wheel, rotation, slope = _newton(held, *_between_nodes(corner, travel), travel, 1.0)
    else:
        wheel, rotation, slope = _from_ride_height(corner, held, travel, lengths)
    move = _solve(slope[:, :, _FREE], -slope[:, :, 2])
    velocity = np.stack([move[:, 0], move[:, 1], np.ones(len(travel))], axis=1)
    return Poses(travel, wheel, rotation, velocity, move[:, 2:], shift, scatter or {})


def _between_nodes(corner: Corner, travel: Array) -> tuple[Array, Array]:
    """Start for many travels of one corner: a few are solved, the others begin between them."""
    low, high = float(np.min(travel)), float(np.max(travel))
    nodes = solve_poses(corner, np.linspace(low, high, max(2, int(np.ceil((high - low) / NODE_MM)) + 1)))
    gap = max((high - low) / (len(nodes.travel) - 1), 1e-12)
    place = np.clip(((travel - low) / gap).astype(int), 0, len(nodes.travel) - 2)
    rise = travel - nodes.travel[place]
    # Slopes in the middle of the way there: the start is good to third order.
    share = (rise / (2 * gap))[:, None]
    velocity = (1 - share) * nodes.velocity[place] + share * nodes.velocity[place + 1]
    turning = (1 - share) * nodes.turning[place] + share * nodes.turning[place + 1]
    wheel = nodes.wheel[place] + velocity * rise[:, None]
    wheel[:, 2] = corner.wheel[2] + travel
    return wheel, rotated(turning * rise[:, None]) @ nodes.rotation[place]


def _from_ride_height(
    corner: Corner, held: _Held, travel: Array, lengths: Mapping[str, Array]
) -> tuple[Array, Array, Array]:
    turned = max((4 * float(np.max(np.abs(by))) for by in lengths.values()), default=0.0)
    far = max(float(np.max(np.abs(travel), initial=0.0)), turned, 1.0)
    try:
        return _march(corner, held, travel, lengths, int(np.ceil(far / LEAP_MM)))
    except NoSolution:
        return _march(corner, held, travel, lengths, int(np.ceil(far / STEP_MM)))


def _march(
    corner: Corner, held: _Held, travel: Array, lengths: Mapping[str, Array], steps: int
) -> tuple[Array, Array, Array]:
    """Go to the travels in equal steps, each begun where the slopes of the last pose point."""
    wheel = np.tile(corner.wheel, (len(travel), 1))
    rotation = np.tile(np.eye(3), (len(travel), 1, 1))
    _, first = _rows(_partly(held, corner, lengths, 0.0), wheel, rotation)
    for step in range(1, steps + 1):
        now = _partly(held, corner, lengths, step / steps)
        residual, slope = _rows(now, wheel, rotation)
        rise = travel / steps
        move = _solve(slope[:, :, _FREE], -residual - slope[:, :, 2] * rise[:, None])
        wheel = wheel + np.stack([move[:, 0], move[:, 1], rise], axis=1)
        foreseen = rotated(move[:, 2:]) @ rotation
        wheel, rotation, slope = _newton(now, wheel, foreseen, travel, step / steps)
        # Cosine of the turn between what was foreseen and what was found: far apart, it is another branch.
        apart = (np.einsum("nij,nij->n", foreseen, rotation) - 1) / 2
        jumped = (apart < np.cos(MOST_SURPRISE)) | (_way_round(slope) * _way_round(first) < 0)
        if np.any(jumped):
            raise _locked(travel[jumped], (step - 1) / steps, 0.0)
    return wheel, rotation, slope


def _way_round(slope: Array) -> Array:
    """On which side of locking the linkage stands: it passes through naught where it locks, shape (n,)."""
    return np.asarray(np.linalg.det(slope[:, :, _FREE]))


def wheel_angles(corner: Corner, poses: Poses, spindle: Array | None = None) -> WheelAngles:
    """Read camber, toe, caster, kpi and half track off solved poses.

    Parameters
    ----------
    corner : Corner
        The corner. [mm]
    poses : Poses
        Solved poses, n of them. [mm, rad]
    spindle : array, optional
        Spindle at ride height for each pose, shape (n, 3), where it is not the corner's. [-]

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
    steering axis' angles in side and front view, against the ground: a body pitched nose down takes the top of the
    axis forward with it.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.geometry.corner import make_corner
    >>> points = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> arm = make_corner("semi_trailing", "left", -0.02, 0.001, points)
    >>> round(float(wheel_angles(arm, solve_poses(arm, [0.0])).camber[0]), 6)
    -0.02
    """
    start = np.broadcast_to(corner.spindle if spindle is None else spindle, (len(poses.travel), 3))
    spindle = np.einsum("nij,nj->ni", poses.rotation, start)
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


def angles_at(corner: Corner, travels: ArrayLike, changes: Mapping[str, ArrayLike] | None = None) -> WheelAngles:
    """Wheel angles at travels, with links lengthened.

    Parameters
    ----------
    corner : Corner
        The wheel. [mm, rad]
    travels : array_like
        Wheel travel, bump positive, shape (n,). [mm]
    changes : mapping, optional
        Length change by link, each shape (n,) or scalar. [mm]

    Returns
    -------
    WheelAngles
        Arrays of shape (n,).

    Raises
    ------
    NoSolution
        The linkage locks before a travel.
    InputError
        A change of a link the corner does not have.

    Notes
    -----
    As :func:`solve_poses` and :func:`wheel_angles`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> round(float(angles_at(usual_corner("strut"), [0.0], {"tie": 1.2}).toe[0]), 4)
    0.0089
    """
    return wheel_angles(corner, solve_poses(corner, travels, changes))


def _axis_angles(corner: Corner, poses: Poses) -> tuple[Array | None, Array | None]:
    names = corner.steering_axis
    if names is None:
        return None, None
    still = np.zeros((1, 3))

    def place(name: str) -> Array:
        """Where each of the corners has a point; scattered ones have it elsewhere."""
        return np.asarray(corner.point(name) + poses.scatter.get(name, still))

    def carried(name: str) -> Array:
        offset = np.broadcast_to(place(name) - corner.wheel, poses.wheel.shape)
        return np.asarray(poses.wheel + np.einsum("nij,nj->ni", poses.rotation, offset))

    lower = carried(names[0])
    upper = place("strut_top") + poses.top_shift if corner.kind.guide == "strut" else carried(names[1])
    axis = upper - lower
    caster = np.arctan2(-axis[:, 0], axis[:, 2]) - corner.pitch
    return caster, np.arctan2(-corner.side * axis[:, 1], axis[:, 2])


def _held(corner: Corner, travel: Array, lengths: Mapping[str, Array], scatter: Mapping[str, Array]) -> _Held:
    count = len(travel)
    still = np.zeros((1, 3))
    between = [corner.kind.ends_of(link.name) for link in corner.links]

    def place(at: tuple[float, float, float], name: str) -> Array:
        return np.broadcast_to(np.array(at, dtype=float) + scatter.get(name, still), (count, 3))

    inner = np.stack([place(link.inner, pair[0]) for link, pair in zip(corner.links, between, strict=True)], axis=1)
    outer = np.stack([place(link.outer, pair[1]) for link, pair in zip(corner.links, between, strict=True)], axis=1)
    length = np.linalg.norm(outer - inner, axis=2)
    for column, link in enumerate(corner.links):
        if link.name in lengths:
            length[:, column] += lengths[link.name]
    require(np.all(length > 0), "length_change_mm", "A link cannot be shortened to nothing", "too much")
    nothing = np.zeros((0, 3))
    top = low = across = trail = nothing
    if corner.kind.guide == "strut":
        foot = place(corner.points["strut_low"], "strut_low")
        top = place(corner.points["strut_top"], "strut_top").copy()
        low = foot - corner.wheel
        across = _square_to(top - foot)
        top[:, 1] -= corner.side * lengths.get("strut_top", np.zeros(count))
    if corner.kind.guide == "trailing":
        trail = place(corner.points["trailing_body"], "trailing_body")
    return _Held(inner, outer - corner.wheel, length, top, low, across, trail, trail - corner.wheel)


def _partly(held: _Held, corner: Corner, lengths: Mapping[str, Array], share: float) -> _Held:
    """The links part of the way to their new length, for a step that stays near the last pose."""
    if share == 1 or not lengths:
        return held
    start = np.linalg.norm(held.offset + corner.wheel - held.inner, axis=2)
    top = held.top.copy()
    if "strut_top" in lengths:
        top[:, 1] += corner.side * (1 - share) * lengths["strut_top"]
    return replace(held, length=start + share * (held.length - start), top=top)


def _square_to(line: Array) -> Array:
    """Two unit vectors square to each line (n, 3) and to each other, shape (n, 2, 3); struts stand upright."""
    direction = line / np.linalg.norm(line, axis=1)[:, None]
    first = np.cross(direction, [1.0, 0.0, 0.0])
    first /= np.linalg.norm(first, axis=1)[:, None]
    return np.stack([first, np.cross(direction, first)], axis=1)


def _rows(held: _Held, wheel: Array, rotation: Array) -> tuple[Array, Array]:
    """Residuals (n, 5) and their derivatives (n, 5, 6) by wheel centre and rotation vector."""
    arm = held.offset @ rotation.transpose(0, 2, 1)
    reach = wheel[:, None, :] + arm - held.inner
    square = np.sum(reach * reach, axis=2)
    residual = (square - held.length**2) / (2 * held.length)
    slope = np.empty((*reach.shape[:2], 6))
    slope[:, :, :3] = along = reach / held.length[:, :, None]
    slope[:, :, 3:] = _crossed(arm, along)
    if len(held.top):
        across = held.across @ rotation.transpose(0, 2, 1)
        low = (rotation @ held.low[:, :, None])[:, :, 0]
        gap = held.top - wheel
        off = np.einsum("nki,nki->nk", across, (gap - low)[:, None, :] + np.zeros_like(across))
        turn = np.cross(across, np.broadcast_to(gap[:, None, :], across.shape))
        residual = np.concatenate([residual, off], axis=1)
        slope = np.concatenate([slope, np.concatenate([-across, turn], axis=2)], axis=1)
    if len(held.trail):
        arm = (rotation @ held.trail_offset[:, :, None])[:, :, 0]
        gap = (wheel + arm - held.trail)[:, [0, 2]]
        unit = np.broadcast_to(np.eye(3)[[0, 2]], (len(wheel), 2, 3))
        turn = np.cross(np.broadcast_to(arm[:, None, :], unit.shape), unit)
        residual = np.concatenate([residual, gap], axis=1)
        slope = np.concatenate([slope, np.concatenate([unit, turn], axis=2)], axis=1)
    return residual, slope


def _crossed(first: Array, second: Array) -> Array:
    """Vector products along the last axis; numpy's own takes several times as long on small vectors."""
    out = np.empty(np.broadcast_shapes(first.shape, second.shape))
    for i, (j, k) in enumerate(((1, 2), (2, 0), (0, 1))):
        out[..., i] = first[..., j] * second[..., k] - first[..., k] * second[..., j]
    return out


_FREE = [0, 1, 3, 4, 5]


def _newton(held: _Held, wheel: Array, rotation: Array, travel: Array, share: float) -> tuple[Array, Array, Array]:
    for _ in range(MOST_ITERATIONS):
        residual, slope = _rows(held, wheel, rotation)
        worst = np.max(np.abs(residual), axis=1)
        if np.all(worst < CLOSE_MM):
            return wheel, rotation, slope
        move = _solve(slope[:, :, _FREE], -residual)
        # A step longer than this leaves the branch the linkage is on.
        size = np.max(np.abs(move[:, 2:]), axis=1)
        if np.max(size) > FARTHEST_TURN:
            move *= np.minimum(1.0, FARTHEST_TURN / np.maximum(size, 1e-300))[:, None]
        wheel = wheel + np.stack([move[:, 0], move[:, 1], np.zeros(len(wheel))], axis=1)
        rotation = rotated(move[:, 2:]) @ rotation
        # Quadratic convergence: after a step this small the residual is below 1e-10 mm, and the
        # slopes of before the step are good to the size of the step.
        if np.max(size) < SMALL_RAD and np.max(np.abs(move[:, :2])) < SMALL_MM:
            return wheel, rotation, slope
    residual, slope = _rows(held, wheel, rotation)
    stuck = np.max(np.abs(residual), axis=1) > 1e-7
    if not np.any(stuck):
        return wheel, rotation, slope
    raise _locked(travel[stuck], share, float(np.max(np.abs(residual))))


def _solve(matrix: Array, right: Array) -> Array:
    try:
        return np.asarray(np.linalg.solve(matrix, right[:, :, None])[:, :, 0], dtype=float)
    except np.linalg.LinAlgError:
        return np.asarray(np.einsum("nij,nj->ni", np.linalg.pinv(matrix), right), dtype=float)


def rotated(vectors: Array) -> Array:
    """Make rotation matrices of rotation vectors.

    Parameters
    ----------
    vectors : array
        Axis times angle, shape (n, 3). [rad]

    Returns
    -------
    array
        Shape (n, 3, 3). [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    Rodrigues' formula.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> rotated(np.array([[0.0, 0.0, np.pi / 2]]))[0].round(9)[:, 0].tolist()
    [0.0, 1.0, 0.0]
    """
    x, y, z = vectors.T
    angle = np.sqrt(x * x + y * y + z * z) + 1e-300
    sine = np.sin(angle) / angle
    half = 0.5 * (np.sin(angle / 2) / (angle / 2)) ** 2
    out = np.empty((len(vectors), 3, 3))
    out[:, 0, 0] = 1 - half * (y * y + z * z)
    out[:, 1, 1] = 1 - half * (x * x + z * z)
    out[:, 2, 2] = 1 - half * (x * x + y * y)
    for (i, j), (mixed, turn) in {(0, 1): (x * y, z), (2, 0): (x * z, y), (1, 2): (y * z, x)}.items():
        out[:, i, j] = half * mixed - sine * turn
        out[:, j, i] = half * mixed + sine * turn
    return out


def _swing(corner: Corner, travel: Array, changes: Mapping[str, ArrayLike], scatter: Mapping[str, Array]) -> Poses:
    """An arm on one axis: its angle in closed form; its outer pivot may be moved ahead, its points scattered."""
    base, axis, set_ = _pivot(corner, len(travel), changes, scatter)
    arm = np.einsum("nij,nj->ni", set_, corner.wheel - base)
    spoke = arm - axis * np.einsum("ni,ni->n", axis, arm)[:, None]
    square = np.cross(axis, arm)
    reach = np.hypot(spoke[:, 2], square[:, 2])
    height = spoke[:, 2] + (corner.wheel - base - arm)[:, 2] + travel
    if np.any(np.abs(height) > reach):
        first, most = float(height[0] - travel[0]), float(reach[0])
        last = _nearest_reached(travel, lambda t: bool(abs(first + t) <= most))
        raise NoSolution(
            f"The arm cannot swing that far; it reaches {last:.1f} mm of travel at the most.", last_travel=last
        )
    phase = np.arctan2(square[:, 2], spoke[:, 2])
    angle = phase + np.arccos(np.clip(height / reach, -1, 1)) * np.array([1.0, -1.0])[:, None]
    angle = (angle + np.pi) % (2 * np.pi) - np.pi
    nearest = np.where(np.abs(angle[0]) < np.abs(angle[1]), angle[0], angle[1])
    turned = rotated(nearest[:, None] * axis)
    wheel = base + np.einsum("nij,nj->ni", turned, arm)
    speed = 1.0 / np.cross(axis, wheel - base)[:, 2]
    turning = speed[:, None] * axis
    return Poses(travel, wheel, turned @ set_, np.cross(turning, wheel - base), turning, np.zeros_like(wheel))


def _pivot(
    corner: Corner, count: int, changes: Mapping[str, ArrayLike], scatter: Mapping[str, Array]
) -> tuple[Array, Array, Array]:
    """A point of each pivot axis and its direction (n, 3), and how an arm was turned with its outer pivot (n, 3,
    3)."""
    still = np.broadcast_to(np.eye(3), (count, 3, 3))
    if corner.kind.guide == "beam":
        # Both wheels of a twist beam together: the beam turns about the line through its two pivots.
        base = corner.point("beam_pivot") + scatter.get("beam_pivot", np.zeros((1, 3)))
        return np.broadcast_to(base, (count, 3)), np.broadcast_to([0.0, 1.0, 0.0], (count, 3)), still
    nothing = np.zeros((1, 3))
    base = np.broadcast_to(corner.point("arm_inner") + scatter.get("arm_inner", nothing), (count, 3))
    end = np.broadcast_to(corner.point("arm_outer") + scatter.get("arm_outer", nothing), (count, 3))
    along = end - base
    ahead = np.broadcast_to(np.asarray(changes.get("arm", 0.0), dtype=float), (count,))
    # Seen from above the arm turns about its inner pivot as its outer one is moved ahead.
    turn = np.zeros((count, 3))
    turn[:, 2] = np.arctan2(along[:, 1], along[:, 0] + ahead) - np.arctan2(along[:, 1], along[:, 0])
    set_ = rotated(turn)
    axis = np.einsum("nij,nj->ni", set_, along)
    return base, axis / np.linalg.norm(axis, axis=1)[:, None], set_


def _locked(wanted: Array, share: float, residual: float) -> NoSolution:
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
