"""How sure planned turns are: the same axle drawn many times within what its readings leave open.

After JCGM 101 (propagation of distributions by a Monte Carlo method).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import spindle_of
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.turns.adjuster import Adjuster, changes_by_link
from fair_spindle.core.turns.axle_turns import Across
from fair_spindle.core.turns.realign import ANGLES, Realigned, Wanted, angles_of

Array = NDArray[np.float64]
SAMPLES = 2000


@value_object
class Cloud:
    """Where a wheel's points and angles may lie: offsets as a linear map of independent standard normals.

    ``points`` are the names of m points; ``sources`` the readings behind it, each with how many normals it has, those
    of the same name one and the same at both wheels of an axle; ``matrix`` maps all normals to 3 m coordinates [mm],
    toe and camber at ride height [rad], shape (3 m + 2, k).
    """

    points: tuple[str, ...]
    sources: tuple[tuple[str, int], ...]
    matrix: Array

    def offsets(self, draws: Mapping[str, Array]) -> tuple[dict[str, Array], Array, Array]:
        """Drawn offsets of points (n, 3) by name, of toe and of camber (n,), from drawn normals by source."""
        normals = np.concatenate([draws[name] for name, _ in self.sources], axis=1)
        found = normals @ self.matrix.T
        scatter = {name: found[:, 3 * n : 3 * n + 3] for n, name in enumerate(self.points)}
        return scatter, found[:, -2], found[:, -1]


@value_object
class Doubtful:
    """Standard uncertainties of what a plan rests on: wheel angles [rad], travel and points [mm].

    ``cloud`` tells the points and angles together; ``apart`` is the part of the travel's that left and right do not
    share; ``track``, where known, turns different heights into roll [mm].
    """

    toe: float
    camber: float
    travel: float
    point: float
    cloud: Cloud | None = None
    apart: float = 0.0
    track: float = 0.0


@value_object
class Sureness:
    """How sure the plan of one wheel is.

    ``turns`` ± of the exact turns (coverage 2), ``angles`` ± of every angle it comes to, aimed at or not [rad],
    ``chance`` of ending inside every tolerance, ``chances`` of each angle by itself.
    """

    turns: Array
    angles: Mapping[str, float]
    chance: float
    chances: Mapping[str, float] = field(default_factory=dict)


@value_object
class AxleSureness:
    """How sure the plan of an axle is.

    ``wheels`` one by one, ``chance`` that both and all they make together end inside, ``across`` ± of what they
    make together [rad], ``shares`` of the variance by reading, the largest first, ``thrust`` as drawn [rad] (n,),
    ``across_chances`` that each of what they make together ends inside.
    """

    wheels: tuple[Sureness, ...]
    chance: float
    across: Mapping[str, float]
    shares: Mapping[str, float]
    thrust: Array
    across_chances: Mapping[str, float] = field(default_factory=dict)


def how_sure(
    wheels: Sequence[tuple[Wanted, Realigned, Doubtful]],
    generator: np.random.Generator,
    samples: int = SAMPLES,
    across: Sequence[Across] = (),
    follow: Array | None = None,
) -> AxleSureness:
    """Draw the wheels of an axle many times together and set the planned turns on each.

    Parameters
    ----------
    wheels : sequence of (Wanted, Realigned, Doubtful)
        One wheel, or left and right: what is wanted, the planned turns, standard uncertainties. [mm, rad]
    generator : numpy.random.Generator
        Randomness; the same seed gives the same answer. [-]
    samples : int, optional
        How many axles are drawn, >= 100. [-]
    across : sequence of Across, optional
        What both wheels make together. [rad]
    follow : array, optional
        By how much the thrust line that this axle is set to differs from the planned one, shape (samples,). [rad]

    Returns
    -------
    AxleSureness
        ± of turns and angles, chances, and what is most worth reading again.

    Raises
    ------
    NoSolution
        A drawn corner locks before the travel.

    Notes
    -----
    Readings are taken as normal; what both wheels share is drawn once for both: sources of the same name,
    and the height an axle ends at but for the part that is told to be each wheel's own, which rolls the body with it:
    also where the wheel across is not planned.
    ± of the turns from one Newton step at each drawn corner; shares from a least-squares fit of the misses to the
    draws.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> from fair_spindle.core.geometry.corner import make_corner
    >>> points = {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)}
    >>> arm = make_corner("semi_trailing", "left", 0.0, 0.0, points)
    >>> nothing = Realigned({}, np.zeros(0), np.zeros(0), np.zeros(0), {}, {}, ())
    >>> wanted = Wanted(arm, 0.0, (), {"toe": 0.0}, {"toe": 9e-4})
    >>> sure = how_sure([(wanted, nothing, Doubtful(5e-4, 1e-3, 2.0, 1.0))], np.random.default_rng(1))
    >>> 0.8 < sure.chance < 1.0
    True
    """
    common = generator.normal(0.0, 1.0, (samples, 1))
    draws: dict[str, Array] = {"height": common * max(_shared(doubt) for *_, doubt in wheels)}
    # A wheel that is planned alone still has another across from it, which rolls the body as much.
    doubts = [doubt for *_, doubt in wheels] * (2 if len(wheels) == 1 else 1)
    heights = [common * _shared(one) + generator.normal(0.0, 1.0, (samples, 1)) * one.apart for one in doubts]
    sizes = {name: size for wanted, _, doubt in wheels for name, size in _sizes(wanted, doubt).items()}
    draws |= {name: generator.normal(0.0, 1.0, (samples, width)) * size for name, (size, width) in sizes.items()}
    angles, found, misses = [], [], []
    for place, (wanted, plan, doubtful) in enumerate(wheels):
        got = _drawn(wanted, plan, doubtful, {**draws, "height": heights[place]})
        if doubtful.track:
            # The side that stands higher leans with the body, the other way on either side.
            roll = (heights[place] - heights[1 - place]) / doubtful.track
            got["camber"] = got["camber"] + roll[:, 0]
        if doubtful.apart:
            draws[f"{_side(wanted)} height"] = heights[place] - common * _shared(doubtful)
        sure, off = _one(wanted, plan, got)
        angles.append(got)
        found.append(sure)
        misses.append(off)
    together = []
    if len(wheels) == 2:
        for one in across:
            off = one.miss(*angles)
            if one.name == "thrust" and follow is not None:
                off = off - follow / one.limit
            together.append(off)
    misses += [off[:, None] for off in together]
    off = np.concatenate(misses, axis=1)
    thrust = (angles[0]["toe"] - angles[1]["toe"]) / 2 if len(wheels) == 2 else np.zeros(samples)
    return AxleSureness(
        tuple(found),
        float(np.mean(np.all(np.abs(off) <= 1, axis=1))),
        {
            one.name: COVERAGE * float(np.std(off)) * one.limit
            for one, off in zip(across, together, strict=len(wheels) == 2)
        },
        variance_shares(draws, off),
        thrust,
        {one.name: float(np.mean(np.abs(miss) <= 1)) for one, miss in zip(across, together, strict=len(wheels) == 2)},
    )


def _shared(doubtful: Doubtful) -> float:
    """Uncertainty of the travel that both wheels of an axle have together. [mm]"""
    return float(np.sqrt(max(doubtful.travel**2 - doubtful.apart**2, 0.0)))


def _one(wanted: Wanted, plan: Realigned, got: Mapping[str, Array]) -> tuple[Sureness, Array]:
    """How sure one wheel is, and its misses in tolerances, shape (samples, k)."""
    names = [name for name in ANGLES if name in wanted.targets]
    near = np.array([wanted.tolerances[name] for name in names])
    angles = np.stack([got[name] for name in names], axis=1)
    off = (angles - np.array([wanted.targets[name] for name in names])) / near
    spread = np.zeros(0)
    if wanted.adjusters and names:
        slope = _slope(wanted, plan.changes, names) / near[:, None]
        turns = -off @ np.linalg.pinv(slope, rcond=1e-9).T
        spread = np.std(turns, axis=0) / np.array([adjuster.per_turn for adjuster in wanted.adjusters])
    reached = {name: COVERAGE * float(np.std(angle)) for name, angle in got.items()}
    inside = np.abs(off) <= 1
    chances = dict(zip(names, np.mean(inside, axis=0).tolist(), strict=True))
    return Sureness(COVERAGE * spread, reached, float(np.mean(np.all(inside, axis=1))), chances), off


def _drawn(wanted: Wanted, plan: Realigned, doubtful: Doubtful, draws: Mapping[str, Array]) -> dict[str, Array]:
    """What each drawn wheel comes to with the planned turns, each shape (samples,)."""
    corner, side = wanted.corner, _side(wanted)
    at = wanted.travel + draws["height"][:, 0]
    set_to = np.tile(plan.changes, (len(at), 1))
    for place, adjuster in enumerate(wanted.adjusters):
        if adjuster.turn_open:
            # Turns go wrong by what is turned, not by how a new part lies.
            turns = adjuster.turns_to(float(plan.changes[place]))
            set_to[:, place] += turns * draws[_of_a_turn(adjuster)][:, 0]
        if adjuster.doubt:
            set_to[:, place] += draws[_against_old(side, adjuster)][:, 0]
        if _is_turned(adjuster, plan, place):
            set_to[:, place] += draws[_play(side, adjuster)][:, 0]
    changes = changes_by_link(wanted.adjusters, set_to)
    if doubtful.cloud:
        scatter, toe, camber = doubtful.cloud.offsets(draws)
    else:
        scatter, toe, camber = {}, draws[f"{side} toe"][:, 0], draws[f"{side} camber"][:, 0]
    spindle = spindle_of(corner.side, corner.camber + camber, corner.toe + toe)
    found = wheel_angles(corner, solve_poses(corner, at, changes, scatter), spindle)
    return {name: np.asarray(angle) for name in ANGLES if (angle := getattr(found, name)) is not None}


def _side(wanted: Wanted) -> str:
    return "left" if wanted.corner.side > 0 else "right"


def _against_old(side: str, one: Adjuster) -> str:
    return f"{side} new {one.name.lower()} against the old"


def _play(side: str, one: Adjuster) -> str:
    return f"play in the thread of the {side} {one.name.lower()}"


def _is_turned(adjuster: Adjuster, plan: Realigned, place: int) -> bool:
    return adjuster.lash > 0 and abs(adjuster.turns_to(float(plan.changes[place]))) > 1e-9


def _of_a_turn(one: Adjuster) -> str:
    return f"thread of the {one.name.lower()}, both sides"


def _sizes(wanted: Wanted, doubtful: Doubtful) -> dict[str, tuple[float, int]]:
    """Standard uncertainty and number of draws of each source; threads nobody told are alike at both sides."""
    side = _side(wanted)
    sizes = {f"{side} toe": (doubtful.toe, 1), f"{side} camber": (doubtful.camber, 1)}
    if doubtful.cloud:
        sizes = {name: (1.0, width) for name, width in doubtful.cloud.sources}
    for adjuster in wanted.adjusters:
        if adjuster.doubt:
            sizes[_against_old(side, adjuster)] = (adjuster.doubt, 1)
        if adjuster.turn_open:
            sizes[_of_a_turn(adjuster)] = (adjuster.turn_open, 1)
        if adjuster.lash:
            sizes[_play(side, adjuster)] = (adjuster.lash, 1)
    return sizes


def _slope(wanted: Wanted, changes: Array, names: Sequence[str]) -> Array:
    """Change of each angle per mm of each adjuster, shape (k, m)."""
    count = len(wanted.adjusters)
    found = angles_of(wanted, np.concatenate([changes + np.eye(count) * 0.01, changes - np.eye(count) * 0.01]))
    angles = np.stack([found[name] for name in names])
    return np.asarray((angles[:, :count] - angles[:, count:]) / 0.02, dtype=float)


def variance_shares(draws: Mapping[str, Array], off: Array) -> dict[str, float]:
    """Share of each input in the variance of what was drawn.

    Parameters
    ----------
    draws : mapping of array
        Drawn inputs by name, shape (n, width) each. [any]
    off : array
        What came of them, shape (n, k). [any]

    Returns
    -------
    dict
        Shares that add up to one, the largest first. [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    From a least-squares fit of the outcomes to the inputs.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> x = np.random.default_rng(1).normal(size=(2000, 2))
    >>> found = variance_shares({"a": x[:, :1], "b": x[:, 1:]}, x @ np.array([[2.0], [1.0]]))
    >>> round(found["a"], 1)
    0.8
    """
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
