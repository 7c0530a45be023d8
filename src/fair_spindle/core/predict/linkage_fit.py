"""One fitted linkage: points with their ± as they were measured, moved by every angle and length read on the car."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner, spindle_of
from fair_spindle.core.geometry.kinematics import WheelAngles, solve_poses, wheel_angles
from fair_spindle.core.geometry.layouts.layout import SIDE_TO_SIDE
from fair_spindle.core.geometry.measures import measure
from fair_spindle.core.predict.evidence import best_gain
from fair_spindle.core.turns.monte_carlo import Cloud

Array = NDArray[np.float64]
# The fit rests once no coordinate moves by more than this share of its own uncertainty before it.
ROUNDS, AT_REST = 12, 1e-2
# From how many of its own uncertainties on a reading is told not to fit, were it the only one; of several, one is
# let go as far as the worst of so many strays as often by chance.  From how many on it is left out of the fit.
SURPRISING, IMPOSSIBLE = 2.5, 4.0
# What a model of rigid links on points leaves out of an angle as read: compliance, play.  The product's own. [rad]
MODEL = np.radians(0.02)
# A step that is more than this share of the one before swings to and fro.
SWINGS = 0.5
SHARES = (1.0, 0.5, 0.25, 0.1)
# Half of the change of a link that its effect is told by. [mm]
NUDGE = 0.5


@value_object
class Row:
    """One thing read of a linkage: its name, the travel it was read at [mm], what it was read as and its uncertainty.

    ``kind`` is an angle, ``toe_slope``, ``camber_slope``, the name of a link whose length it is, or what a tape reads
    by the name of its field: ``lower.rise``, ``tie.lever``. [rad, rad/mm, mm]
    """

    name: str
    kind: str
    travel: float
    value: float
    uncertainty: float


@value_object
class Fitted:
    """A linkage as all readings together say it is, where it may lie, and which of them do not fit, with by how much.

    ``doubts`` are names and how many of their own uncertainties they miss by.
    """

    corner: Corner
    cloud: Cloud
    doubts: tuple[tuple[str, float], ...] = ()


def points_of(corner: Corner) -> tuple[str, ...]:
    """Points that may lie otherwise: all but the wheel centre, which the others are measured against."""
    if corner.kind.told_links:
        return tuple(end for link in corner.links for end in corner.kind.ends_of(link.name))
    return tuple(name for name in corner.points if name != "wheel_center")


def prior_cloud(points: Sequence[str], spreads: Sequence[float], toe: float, camber: float) -> Cloud:
    """Points that were measured one by one, each with the uncertainty of one of its coordinates [mm]; angles as
    read."""
    sizes = np.concatenate([np.repeat(np.asarray(spreads, dtype=float), 3), [toe, camber]])
    sources = (*((name, 3) for name in points), ("toe", 1), ("camber", 1))
    return Cloud(tuple(points), sources, np.diag(sizes))


def fit_linkage(corner: Corner, cloud: Cloud, rows: Sequence[Row]) -> Fitted:
    """Move one linkage by what was read of it, as :func:`fit_axle` moves those of an axle."""
    return fit_axle([corner], [cloud], [rows])[0]


def fit_axle(corners: Sequence[Corner], clouds: Sequence[Cloud], rows: Sequence[Sequence[Row]]) -> list[Fitted]:
    """Move the linkages of an axle by what was read of them, as far as points and readings allow each other.

    Maximum a posteriori: the points' clouds as prior, each reading with its uncertainty, by a least-squares update
    made about the last answer again (Gauss-Newton).  Sources of the same name are one and the same at both wheels:
    what is read at one teaches about the other as far as they share them.  The new clouds follow the same gain, so
    that every reading's share in them can still be told.  A linkage that locks on the way is left as it was.  A
    reading that misses all others by more than four of its uncertainties is left out, the worst first, and told at
    its wheel.
    """
    axle = _joined(clouds)
    used = [list(own) for own in rows]
    left_out: list[list[tuple[str, float]]] = [[] for _ in corners]
    while True:
        fitted, worst = _fitted(corners, axle, used)
        if worst is None or abs(worst[2]) <= IMPOSSIBLE:
            if worst:
                left_out[worst[0]].append(worst[1:])
            return [
                Fitted(corner, cloud, tuple(doubts)) for (corner, cloud), doubts in zip(fitted, left_out, strict=True)
            ]
        place, name, _ = worst
        left_out[place].append(worst[1:])
        used[place] = [row for row in used[place] if row.name != name]


@value_object
class _Axle:
    """The clouds of an axle as one: matrices of the wheels over the same sources, each (3 m + 2, k)."""

    points: tuple[tuple[str, ...], ...]
    sources: tuple[tuple[str, int], ...]
    matrices: tuple[Array, ...]

    def clouds(self) -> list[Cloud]:
        return [
            Cloud(points, self.sources, matrix) for points, matrix in zip(self.points, self.matrices, strict=True)
        ]


def _joined(clouds: Sequence[Cloud]) -> _Axle:
    widths: dict[str, int] = {}
    for cloud in clouds:
        widths |= dict(cloud.sources)
    matrices = []
    for cloud in clouds:
        parts = dict(
            zip(
                (name for name, _ in cloud.sources),
                np.split(cloud.matrix, np.cumsum([width for _, width in cloud.sources])[:-1], axis=1),
                strict=True,
            )
        )
        still = len(cloud.matrix)
        matrices.append(
            np.concatenate([parts.get(name, np.zeros((still, width))) for name, width in widths.items()], axis=1)
        )
    return _Axle(tuple(cloud.points for cloud in clouds), tuple(widths.items()), tuple(matrices))


Worst = tuple[int, str, float]


def _fitted(
    corners: Sequence[Corner], axle: _Axle, rows: Sequence[Sequence[Row]]
) -> tuple[list[tuple[Corner, Cloud]], Worst | None]:
    """Corners and clouds after the fit, and the reading that fits the others least: wheel, name, by how much."""
    every = [row for own in rows for row in own]
    as_it_was = list(zip(corners, axle.clouds(), strict=True))
    if not every:
        return as_it_was, None
    read, noise = np.array([row.value for row in every]), np.array([row.uncertainty for row in every])
    ends = np.cumsum([len(matrix) for matrix in axle.matrices])[:-1]
    prior = np.concatenate(axle.matrices)
    at = np.zeros(len(prior))
    try:
        found, slopes = _linear_axle(corners, axle, rows, at)
        step, last, sizes = 1.0, np.inf, np.maximum(np.linalg.norm(prior, axis=1), 1e-12)
        for _ in range(ROUNDS):
            seen = slopes @ prior
            aim = best_gain(seen, prior, noise) @ (read - found + slopes @ at)
            there, found, slopes = _towards(corners, axle, rows, at, at + step * (aim - at))
            moved_by = float(np.max(np.abs(there - at))) / step
            # What swings to and fro about its answer is met half way.
            step, last = (0.5 if moved_by > SWINGS * last else step), moved_by
            rests, at = bool(np.all(np.abs(there - at) < AT_REST * sizes)), there
            if rests:
                break
    except NoSolution:
        return as_it_was, None
    seen = slopes @ prior
    gain = best_gain(seen, prior, noise)
    matrix = np.concatenate([prior - gain @ seen, gain * noise], axis=1)
    sources = (*axle.sources, *((row.name, 1) for row in every))
    after = _Axle(axle.points, sources, tuple(np.split(matrix, ends)))
    fitted = [
        moved(corner, points, own)
        for corner, points, own in zip(corners, axle.points, np.split(at, ends), strict=True)
    ]
    places = [place for place, own in enumerate(rows) for _ in own]
    doubt = _doubt(every, seen, read - found + slopes @ at, noise)
    worst = (places[doubt[0]], every[doubt[0]].name, doubt[1]) if doubt else None
    return list(zip(fitted, after.clouds(), strict=True)), worst


def _towards(
    corners: Sequence[Corner], axle: _Axle, rows: Sequence[Sequence[Row]], at: Array, aim: Array
) -> tuple[Array, Array, Array]:
    """As far towards an aim as the linkages go without locking, and what the rows read there."""
    for share in SHARES:
        there = at + share * (aim - at)
        try:
            return there, *_linear_axle(corners, axle, rows, there)
        except NoSolution:
            continue
    raise NoSolution("The linkage locks where its readings want it.")


def _linear_axle(
    corners: Sequence[Corner], axle: _Axle, rows: Sequence[Sequence[Row]], at: Array
) -> tuple[Array, Array]:
    """As :func:`_linear`, over the offsets of all wheels of an axle one after the other."""
    sizes = [len(matrix) for matrix in axle.matrices]
    parts = np.split(at, np.cumsum(sizes)[:-1])
    slopes = np.zeros((sum(len(own) for own in rows), len(at)))
    found = np.zeros(len(slopes))
    row = column = 0
    for corner, points, own, here, size in zip(corners, axle.points, rows, parts, sizes, strict=True):
        if own:
            there = slice(row, row + len(own))
            found[there], slopes[there, column : column + size] = _linear(corner, points, own, here)
        row, column = row + len(own), column + size
    return found, slopes


def worth_of(corner: Corner, cloud: Cloud, rows: Sequence[Row], wanted: Sequence[Row]) -> tuple[Array, Array]:
    """± of what is wanted of a wheel now, and with some readings more (coverage 2), shape (k,) each. [rad, mm]"""
    still = np.zeros(len(cloud.matrix))
    _, goal = _linear(corner, cloud.points, wanted, still)
    _, slopes = _linear(corner, cloud.points, rows, still)
    seen, aim = slopes @ cloud.matrix, goal @ cloud.matrix
    noise = np.array([row.uncertainty for row in rows])
    before = aim @ aim.T
    after = before - best_gain(seen, aim, noise) @ seen @ aim.T
    now, then = (COVERAGE * np.sqrt(np.maximum(np.diag(one), 0.0)) for one in (before, after))
    return now, then


def spread_of(corner: Corner, cloud: Cloud, kind: str, travel: float = 0.0) -> tuple[float, float]:
    """What a linkage reads of one kind, and its standard uncertainty. [rad, rad/mm, mm]"""
    found, slopes = _linear(corner, cloud.points, [Row(kind, kind, travel, 0.0, 1.0)], np.zeros(len(cloud.matrix)))
    return float(found[0]), float(np.linalg.norm(slopes @ cloud.matrix))


def _doubt(rows: Sequence[Row], seen: Array, missed: Array, noise: Array) -> tuple[int, float] | None:
    """The reading that misses what all the others say by the most, if that is more than chance would have it.

    Of many readings the worst strays further than any one would: the bound grows with how many there are, so that
    a right wheel is told to be read again as seldom with seven readings as with one.
    """
    inverse = np.linalg.inv(seen @ seen.T + np.diag(noise**2))
    off = (inverse @ missed) / np.sqrt(np.diag(inverse))
    worst = int(np.argmax(np.abs(off)))
    by_chance = 2 * NormalDist().cdf(-SURPRISING) / len(rows)
    return (worst, float(off[worst])) if abs(off[worst]) > -NormalDist().inv_cdf(by_chance / 2) else None


def moved(corner: Corner, points: Sequence[str], offsets: Array) -> Corner:
    """A corner with its points moved by offsets [mm], and its toe and camber by the last two [rad]."""
    by_name = {name: offsets[3 * n : 3 * n + 3] for n, name in enumerate(points)}

    def at(place: tuple[float, float, float], name: str) -> tuple[float, float, float]:
        x, y, z = np.add(place, by_name.get(name, 0.0)).tolist()
        return x, y, z

    links = []
    for link in corner.links:
        inner, outer = corner.kind.ends_of(link.name)
        links.append(replace(link, inner=at(link.inner, inner), outer=at(link.outer, outer)))
    places = {name: at(place, name) for name, place in corner.points.items()}
    toe, camber = corner.toe + float(offsets[-2]), corner.camber + float(offsets[-1])
    return replace(corner, points=places, links=tuple(links), toe=toe, camber=camber)


def _linear(corner: Corner, points: Sequence[str], rows: Sequence[Row], at: Array) -> tuple[Array, Array]:
    """What the rows would read at some offsets, shape (k,), and its slopes by each offset, shape (k, m)."""
    count = len(at)
    steps = np.concatenate([np.full(count - 2, 0.5), [1e-4, 1e-4]])
    tries = np.concatenate([np.zeros((1, count)), np.diag(steps), -np.diag(steps)]) + at
    drawn = _Tries(corner, points, tries)
    solved = [row for row in rows if row.kind in SOLVED]
    travels = sorted({row.travel for row in solved})
    angles = drawn.angles(travels) if travels else None
    found = np.empty((len(rows), len(tries)))
    for place, row in enumerate(rows):
        if row.kind in SOLVED and angles:
            first = travels.index(row.travel) * len(tries)
            found[place] = np.asarray(getattr(angles, row.kind))[first : first + len(tries)]
        elif row.kind.endswith(".lever"):
            found[place] = drawn.lever(row.kind.removesuffix(".lever"))
        else:
            found[place] = drawn.measured(row.kind)
    return found[:, 0], (found[:, 1 : 1 + count] - found[:, 1 + count :]) / (2 * steps)


# What the pose of the wheel has to be solved for.
SOLVED = ("toe", "camber", "caster", "kpi", "toe_slope", "camber_slope")


@value_object
class _Tries:
    """A corner at many offsets of its points and angles, shape (n, 3 m + 2)."""

    corner: Corner
    points: Sequence[str]
    offsets: Array

    def _scatter(self, times: int) -> dict[str, Array]:
        every = np.tile(self.offsets, (times, 1))
        return {name: every[:, 3 * n : 3 * n + 3] for n, name in enumerate(self.points)}

    def _solve(self, travels: Sequence[float], changes: Mapping[str, Array]) -> WheelAngles:
        every = np.tile(self.offsets, (len(travels), 1))
        rise = np.repeat(np.asarray(travels, dtype=float), len(self.offsets))
        corner = self.corner
        spindle = spindle_of(corner.side, corner.camber + every[:, -1], corner.toe + every[:, -2])
        return wheel_angles(corner, solve_poses(corner, rise, changes, self._scatter(len(travels))), spindle)

    def angles(self, travels: Sequence[float]) -> WheelAngles:
        return self._solve(travels, {})

    def lever(self, link: str) -> Array:
        """Lever that a link steers its wheel by: the length that a radian of toe takes. [mm]"""
        by = np.repeat([NUDGE, -NUDGE], len(self.offsets))
        toe = self._solve([0.0, 0.0], {link: by}).toe.reshape(2, -1)
        return np.asarray(2 * NUDGE / np.abs(toe[0] - toe[1]))

    def measured(self, name: str) -> Array:
        """What a tape reads, by the name of a field; a link's own name stands for its length."""
        corner, scatter = self.corner, self._scatter(1)
        ends = {
            point: at
            for link in corner.links
            for point, at in zip(corner.kind.ends_of(link.name), (link.inner, link.outer), strict=True)
        }

        def place(point: str) -> Array:
            at = corner.points[point] if point in corner.points else ends[point]
            return np.broadcast_to(np.asarray(at) + scatter.get(point, 0.0), (len(self.offsets), 3))

        if any(link.name == name for link in corner.links):
            inner, outer = (place(end) for end in corner.kind.ends_of(name))
            return np.asarray(np.linalg.norm(outer - inner, axis=1))
        return measure(corner.kind, corner.side, name, place)


def mirrored(left: Sequence[Array], right: Sequence[Array], spread: float) -> tuple[list[Array], list[Array], float]:
    """Both sides' points drawn together as far as they show themselves to be mirrored, and the share each takes of
    the other's.

    The two sides differ by what was misread and by what is built otherwise; the second is estimated from how far they
    are apart, so that a car that is not mirrored is left as it was read.  What is left open of one point is
    spread² · (1 − share), and spread² · share of it is the same at both sides.
    """
    apart = np.array([one - other * MIRROR for one, other in zip(left, right, strict=True)])
    built = max(float(np.mean(apart**2)) - 2 * spread**2, LEAST_BUILT**2)
    pull = spread**2 / (2 * spread**2 + built)
    lefts = [one - pull * off for one, off in zip(left, apart, strict=True)]
    rights = [one + pull * off * MIRROR for one, off in zip(right, apart, strict=True)]
    return lefts, rights, pull


# Left and right of one car are built alike within this, at the best: two dozen coordinates that were misread by more
# say too little of it. [mm]
LEAST_BUILT = np.sqrt(2) * SIDE_TO_SIDE
# Seen in a mirror, only what lies across the car changes its sign.
MIRROR = np.array([1.0, -1.0, 1.0])


def rows_at(
    side: str, at: str, travel: float, travel_uncertainty: float, angles: Iterator[tuple[str, float, float, float]]
) -> list[Row]:
    """Angles read at one height: kind, value, uncertainty, and slope per mm, by which the height's own error
    counts."""
    return [
        Row(
            f"{side} {kind} {at}",
            kind,
            travel,
            value,
            float(np.hypot(np.hypot(size, MODEL), slope * travel_uncertainty)),
        )
        for kind, value, size, slope in angles
    ]
