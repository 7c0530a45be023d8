"""One fitted linkage: points with their ± as they were measured, moved by every angle and length read on the car."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner, spindle_of
from fair_spindle.core.geometry.kinematics import WheelAngles, solve_poses, wheel_angles
from fair_spindle.core.predict.evidence import best_gain
from fair_spindle.core.turns.monte_carlo import Cloud

Array = NDArray[np.float64]
ROUNDS = 3
# From how many of its own uncertainties on a reading is told not to fit, and is left out of the fit.
SURPRISING, IMPOSSIBLE = 2.5, 4.0
# What a model of rigid links on points leaves out of an angle as read: compliance, play.  The product's own. [rad]
MODEL = np.radians(0.02)


@value_object
class Row:
    """One thing read of a linkage: its name, the travel it was read at [mm], what it was read as and its uncertainty.

    ``kind`` is an angle, ``toe_slope``, ``camber_slope``, or the name of a link whose length it is. [rad, rad/mm, mm]
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
    """Move a linkage by what was read of it, as far as points and readings allow each other.

    Maximum a posteriori: the points' cloud as prior, each reading with its uncertainty, by a least-squares update
    made about the last answer again (Gauss-Newton).  The new cloud follows the same gain, so that every reading's
    share in it can still be told.  A linkage that locks on the way is left as it was.  A reading that misses all
    others by more than four of its uncertainties is left out, the worst first, and told.
    """
    used = list(rows)
    left_out: list[tuple[str, float]] = []
    while True:
        fitted = _fitted(corner, cloud, used)
        if not fitted.doubts or abs(fitted.doubts[0][1]) <= IMPOSSIBLE:
            return replace(fitted, doubts=(*left_out, *fitted.doubts))
        left_out.append(fitted.doubts[0])
        used = [row for row in used if row.name != fitted.doubts[0][0]]


def _fitted(corner: Corner, cloud: Cloud, rows: Sequence[Row]) -> Fitted:
    if not rows:
        return Fitted(corner, cloud)
    prior = cloud.matrix
    read, noise = np.array([row.value for row in rows]), np.array([row.uncertainty for row in rows])
    at = np.zeros(len(prior))
    try:
        for _ in range(ROUNDS):
            found, slopes = _linear(corner, cloud.points, rows, at)
            seen = slopes @ prior
            at = best_gain(seen, prior, noise) @ (read - found + slopes @ at)
        found, slopes = _linear(corner, cloud.points, rows, at)
    except NoSolution:
        return Fitted(corner, cloud)
    seen = slopes @ prior
    gain = best_gain(seen, prior, noise)
    matrix = np.concatenate([prior - gain @ seen, gain * noise], axis=1)
    sources = (*cloud.sources, *((row.name, 1) for row in rows))
    doubts = _doubts(rows, seen, read - found + slopes @ at, noise)
    return Fitted(moved(corner, cloud.points, at), Cloud(cloud.points, sources, matrix), doubts)


def worth_of(corner: Corner, cloud: Cloud, rows: Sequence[Row], travel: float) -> dict[str, tuple[float, float]]:
    """± of toe and camber at a travel now, and with some readings more (coverage 2). [rad]"""
    wanted = [Row("", kind, travel, 0.0, 1.0) for kind in ("toe", "camber")]
    still = np.zeros(len(cloud.matrix))
    _, goal = _linear(corner, cloud.points, wanted, still)
    _, slopes = _linear(corner, cloud.points, rows, still)
    seen, aim = slopes @ cloud.matrix, goal @ cloud.matrix
    noise = np.array([row.uncertainty for row in rows])
    before = aim @ aim.T
    after = before - best_gain(seen, aim, noise) @ seen @ aim.T
    spread = [COVERAGE * np.sqrt(np.maximum(np.diag(one), 0.0)) for one in (before, after)]
    return {kind: (float(spread[0][n]), float(spread[1][n])) for n, kind in enumerate(("toe", "camber"))}


def _doubts(rows: Sequence[Row], seen: Array, missed: Array, noise: Array) -> tuple[tuple[str, float], ...]:
    """Readings that miss what all the others say by more than 2.5 of what both leave open."""
    inverse = np.linalg.inv(seen @ seen.T + np.diag(noise**2))
    off = (inverse @ missed) / np.sqrt(np.diag(inverse))
    worst = int(np.argmax(np.abs(off)))
    return ((rows[worst].name, float(off[worst])),) if abs(off[worst]) > SURPRISING else ()


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
    tries = at + np.concatenate([np.zeros((1, count)), np.diag(steps), -np.diag(steps)])
    travels = list(dict.fromkeys(row.travel for row in rows))
    rise = np.repeat(travels, len(tries))
    every = np.tile(tries, (len(travels), 1))
    scatter = {name: every[:, 3 * n : 3 * n + 3] for n, name in enumerate(points)}
    spindle = spindle_of(corner.side, corner.camber + every[:, -1], corner.toe + every[:, -2])
    angles = wheel_angles(corner, solve_poses(corner, rise, {}, scatter), spindle)
    found = np.empty((len(rows), len(tries)))
    for place, row in enumerate(rows):
        first = travels.index(row.travel) * len(tries)
        found[place] = _kind(corner, points, row.kind, angles, slice(first, first + len(tries)), tries)
    return found[:, 0], (found[:, 1 : 1 + count] - found[:, 1 + count :]) / (2 * steps)


def _kind(corner: Corner, points: Sequence[str], kind: str, angles: WheelAngles, where: slice, tries: Array) -> Array:
    named = getattr(angles, kind, None)
    if named is not None:
        return np.asarray(named)[where]
    link = next(link for link in corner.links if link.name == kind)
    inner, outer = corner.kind.ends_of(kind)

    def end(place: tuple[float, float, float], name: str) -> Array:
        n = list(points).index(name)
        return np.asarray(place + tries[:, 3 * n : 3 * n + 3])

    return np.asarray(np.linalg.norm(end(link.outer, outer) - end(link.inner, inner), axis=1))


def mirrored(left: Sequence[Array], right: Sequence[Array], spread: float) -> tuple[list[Array], list[Array], float]:
    """Both sides' points drawn together as far as they show themselves to be mirrored, and the spread that is left.

    The two sides differ by what was misread and by what is built otherwise; the second is estimated from how far they
    are apart, so that a car that is not mirrored is left as it was read.
    """
    flip = np.array([1.0, -1.0, 1.0])
    apart = np.array([one - other * flip for one, other in zip(left, right, strict=True)])
    built = max(float(np.mean(apart**2)) - 2 * spread**2, LEAST_BUILT**2)
    pull = spread**2 / (2 * spread**2 + built)
    lefts = [one - pull * off for one, off in zip(left, apart, strict=True)]
    rights = [one + pull * off * flip for one, off in zip(right, apart, strict=True)]
    return lefts, rights, spread * float(np.sqrt(1 - pull))


# Left and right of one car are built alike within this, at the best.  The product's own. [mm]
LEAST_BUILT = 0.7


def rows_at(
    name: str, travel: float, travel_uncertainty: float, angles: Iterator[tuple[str, float, float, float]]
) -> list[Row]:
    """Angles read at one height: kind, value, uncertainty, and slope per mm, by which the height's own error
    counts."""
    return [
        Row(f"{kind} {name}", kind, travel, value, float(np.hypot(np.hypot(size, MODEL), slope * travel_uncertainty)))
        for kind, value, size, slope in angles
    ]
