"""How sure planned turns are: the same corner drawn many times within what its readings leave open.

After JCGM 101 (propagation of distributions by a Monte Carlo method).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.corner import Corner, spindle_of
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.kinematics import ON_ONE_AXIS, solve_poses, wheel_angles
from fair_spindle.core.realign import Adjuster, Realigned, changes_by_link
from fair_spindle.core.slopes import Geometry, angles_at

Array = NDArray[np.float64]
SAMPLES = 2000


@dataclass(frozen=True)
class Doubtful:
    """Standard uncertainties of what a plan rests on: wheel angles [rad], travel and points [mm]."""

    toe: float
    camber: float
    travel: float
    point: float


@dataclass(frozen=True)
class Sureness:
    """How sure a plan is.

    ``turns`` ± of the exact turns (coverage 2), ``angles`` ± of what is reached [rad], ``chance`` of
    ending inside every tolerance, ``shares`` of the variance by reading, the largest first.
    """

    turns: Array
    angles: Mapping[str, float]
    chance: float
    shares: Mapping[str, float]


def how_sure(
    corner: Geometry,
    travel: float,
    adjusters: Sequence[Adjuster],
    plan: Realigned,
    targets: Mapping[str, float],
    tolerances: Mapping[str, float],
    doubtful: Doubtful,
    generator: np.random.Generator,
    samples: int = SAMPLES,
) -> Sureness:
    """Draw a corner many times and set the planned turns on each.

    Parameters
    ----------
    corner : Corner or Slopes
        Points or slopes, and wheel angles as read. [mm, rad]
    travel : float
        Planned travel. [mm]
    adjusters : sequence of Adjuster
        m of them. [mm, turn]
    plan : Realigned
        The planned turns. [-]
    targets, tolerances : mapping
        As planned for. [rad]
    doubtful : Doubtful
        Standard uncertainties. [rad, mm]
    generator : numpy.random.Generator
        Randomness; the same seed gives the same answer. [-]
    samples : int, optional
        How many corners are drawn, >= 100. [-]

    Returns
    -------
    Sureness
        ± of turns and angles, chance, and what is most worth reading again.

    Raises
    ------
    NoSolution
        A drawn corner locks before the travel.

    Notes
    -----
    Readings are taken as normal and independent.  ± of the turns from one Newton step at each
    drawn corner; shares from a least-squares fit of the misses to the draws.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> from fair_spindle.core.corner import make_corner
    >>> points = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> arm = make_corner("semi_trailing", "left", 0.0, 0.0, points)
    >>> nothing = Realigned({}, np.zeros(0), np.zeros(0), np.zeros(0), {}, {}, ())
    >>> rng = np.random.default_rng(1)
    >>> doubt = Doubtful(5e-4, 1e-3, 2.0, 1.0)
    >>> sure = how_sure(arm, 0.0, [], nothing, {"toe": 0.0}, {"toe": 9e-4}, doubt, rng)
    >>> 0.8 < sure.chance < 1.0
    True
    """
    names = [name for name in ("toe", "camber", "caster") if name in targets]
    draws = _draw(corner, doubtful, generator, samples)
    changes = changes_by_link(adjusters, np.tile(plan.changes, (samples, 1)))
    got = _drawn(corner, travel, changes, draws, names)
    near = np.array([tolerances[name] for name in names])
    off = (got - np.array([targets[name] for name in names])) / near
    chance = float(np.mean(np.all(np.abs(off) <= 1, axis=1)))
    slope = _slope(corner, travel, adjusters, plan.changes, names) / near[:, None]
    wanted = -off @ np.linalg.pinv(slope, rcond=1e-9).T if adjusters else np.zeros((samples, 0))
    spread = np.std(wanted, axis=0) / np.array([one.per_turn for one in adjusters]) if adjusters else np.zeros(0)
    return Sureness(
        COVERAGE * spread,
        dict(zip(names, (COVERAGE * np.std(got, axis=0)).tolist(), strict=True)),
        chance,
        _shares(draws, off),
    )


def _drawn(
    corner: Geometry, travel: float, changes: Mapping[str, Array], draws: Mapping[str, Array], names: Sequence[str]
) -> Array:
    """What each drawn wheel comes to, shape (samples, k)."""
    at = travel + draws["height"][:, 0]
    if isinstance(corner, Corner):
        scatter = {} if corner.layout in ON_ONE_AXIS else {name: draws[name] for name in _points(corner)}
        spindle = spindle_of(corner.side, corner.camber + draws["camber"][:, 0], corner.toe + draws["toe"][:, 0])
        found = wheel_angles(corner, solve_poses(corner, at, changes, scatter), spindle)
        return np.stack([np.asarray(getattr(found, name)) for name in names], axis=1)
    found = angles_at(corner, at, changes)
    toe = found.toe + draws["toe"][:, 0] + draws["bump steer"][:, 0] * at
    camber = found.camber + draws["camber"][:, 0] + draws["camber slope"][:, 0] * at
    return np.stack([{"toe": toe, "camber": camber}[name] for name in names], axis=1)


def _points(corner: Corner) -> list[str]:
    """Points that are drawn: all but the wheel centre, which the others are measured against."""
    if corner.layout == "five_link":
        return [f"{link.name}_{end}" for link in corner.links for end in ("inner", "outer")]
    return [name for name in corner.points if name != "wheel_center"]


def _draw(corner: Geometry, doubtful: Doubtful, generator: np.random.Generator, samples: int) -> dict[str, Array]:
    sizes = {"toe": (doubtful.toe, 1), "camber": (doubtful.camber, 1), "height": (doubtful.travel, 1)}
    if not isinstance(corner, Corner):
        sizes |= {
            "bump steer": (corner.toe_slope_uncertainty, 1),
            "camber slope": (corner.camber_slope_uncertainty, 1),
        }
    elif corner.layout not in ON_ONE_AXIS:
        sizes |= {name: (doubtful.point, 3) for name in _points(corner)}
    return {name: generator.normal(0.0, 1.0, (samples, width)) * size for name, (size, width) in sizes.items()}


def _slope(
    corner: Geometry, travel: float, adjusters: Sequence[Adjuster], changes: Array, names: Sequence[str]
) -> Array:
    """Change of each angle per mm of each adjuster, shape (k, m)."""
    count = len(adjusters)
    if not count:
        return np.zeros((len(names), 0))
    tries = np.concatenate([changes + np.eye(count) * 0.01, changes - np.eye(count) * 0.01])
    found = angles_at(corner, np.full(2 * count, travel), changes_by_link(adjusters, tries))
    angles = np.stack([np.asarray(getattr(found, name)) for name in names])
    return np.asarray((angles[:, :count] - angles[:, count:]) / 0.02, dtype=float)


def _shares(draws: Mapping[str, Array], off: Array) -> dict[str, float]:
    """Share of each reading in the variance of the misses, the largest first."""
    table = np.concatenate(list(draws.values()), axis=1)
    spread = np.std(table, axis=0)
    used = spread > 0
    fit = np.zeros((table.shape[1], off.shape[1]))
    fit[used] = np.linalg.lstsq(table[:, used] / spread[used], off - off.mean(axis=0), rcond=None)[0]
    power = np.sum(fit**2, axis=1)
    total = float(np.sum(power)) or 1.0
    ends = np.cumsum([part.shape[1] for part in draws.values()])
    parts = np.split(power, ends[:-1])
    found = {name: float(np.sum(part)) / total for name, part in zip(draws, parts, strict=True)}
    return dict(sorted(found.items(), key=lambda one: -one[1]))
