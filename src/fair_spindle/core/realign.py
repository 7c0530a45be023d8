"""Which turns bring toe, camber and caster back: the exact answer, and the best one on the steps there are."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.adjuster import Adjuster, changes_by_link, near_settings
from fair_spindle.core.errors import InputError, NoSolution, require
from fair_spindle.core.slopes import Geometry, angles_at
from fair_spindle.core.units import to_core

Array = NDArray[np.float64]
Misses = Callable[[Array], Array]
ANGLES = ("toe", "camber", "caster")
TOLERANCES = {"toe": to_core(0.05, "deg"), "camber": to_core(0.1, "deg"), "caster": to_core(0.25, "deg")}
CLOSE = 1e-11


@dataclass(frozen=True)
class Realigned:
    """What turning brings: angles [rad] before and after, exact length changes [mm] and set turns.

    ``reached`` tells for each target whether it ends inside its tolerance; ``limited_by`` names
    adjusters that the exact answer would turn past their stop.
    """

    before: Mapping[str, float]
    exact: Array
    set_turns: Array
    changes: Array
    after: Mapping[str, float]
    reached: Mapping[str, bool]
    limited_by: tuple[str, ...]


@dataclass(frozen=True)
class Wanted:
    """What is wanted of one wheel: its geometry, travel [mm], adjusters, targets and tolerances [rad]."""

    corner: Geometry
    travel: float
    adjusters: tuple[Adjuster, ...]
    targets: Mapping[str, float]
    tolerances: Mapping[str, float]


@dataclass(frozen=True)
class Tried:
    """Settings tried on one wheel: ``changes`` [mm] (n, m), the ``angles`` [rad] they give, what each ``cost``."""

    changes: Array
    angles: Mapping[str, Array]
    cost: Array


def realign(
    corner: Geometry,
    travel: float,
    adjusters: Sequence[Adjuster],
    targets: Mapping[str, float],
    tolerances: Mapping[str, float] | None = None,
) -> Realigned:
    """Find the turns that bring a wheel to its targets at a new height.

    Parameters
    ----------
    corner : Corner or Slopes
        The wheel at the old ride height. [mm, rad]
    travel : float
        Wheel travel to the new ride height; minus the height change. [mm]
    adjusters : sequence of Adjuster
        At most six, each with a name of its own. [mm, turn]
    targets : mapping
        Any of ``toe``, ``camber``, ``caster``. [rad]
    tolerances : mapping, optional
        The same keys, > 0. [rad]

    Returns
    -------
    Realigned
        Exact answer, best set turns and what they reach.

    Raises
    ------
    InputError
        No target, a target the corner does not have, names that stand twice, bad limits.
    NoSolution
        The linkage locks on the way.

    Notes
    -----
    Exact: Newton on length changes, weighted by 1/tolerance; with more adjusters than targets the
    smallest Σ change², with fewer the least squares.  An adjuster that would pass its stop is held
    there and the others are solved again.  Set turns: all combinations of steps near the exact
    answer are tried on the full geometry, and the smallest Σ((after − target)/tolerance)² wins.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.adjuster import on
    >>> from fair_spindle.core.corner import Link, make_corner
    >>> points = {"upper_front": (120, 396, 496), "upper_rear": (-154, 397, 503), "upper_ball": (-30, 647, 543),
    ...     "lower_front": (167, 338, 195), "lower_rear": (-224, 355, 181), "lower_ball": (16, 735, 195),
    ...     "tie_inner": (-114, 349, 217), "tie_outer": (-120, 706, 215), "wheel_center": (-2, 760, 320)}
    >>> corner = make_corner("double_wishbone", "left", 0.0, 0.0, points)
    >>> found = realign(corner, 0.0, [Adjuster("rod", on("tie"), 1.5, 1 / 6, -12, 12)], {"toe": 0.004})
    >>> found.reached["toe"], round(float(found.changes[0]), 2)
    (True, 0.5)
    """
    wanted = Wanted(corner, travel, tuple(adjusters), targets, {**TOLERANCES, **(tolerances or {})})
    free, inside, stopped = exact_changes(wanted)
    tried = try_steps(wanted, inside)
    # Among answers that are equally good, the one that turns least.
    best = int(np.lexsort((turned(tried.changes), np.round(tried.cost, 9)))[0])
    return settle(wanted, free, stopped, tried, best)


def exact_changes(wanted: Wanted) -> tuple[Array, Array, tuple[str, ...]]:
    """Length changes that meet the targets, as if there were no steps.

    Parameters
    ----------
    wanted : Wanted
        One wheel, with one to six adjusters. [mm, rad]

    Returns
    -------
    tuple
        Changes without stops, changes inside the stops, shape (m,) each [mm], and the names of those at a stop.

    Raises
    ------
    InputError
        No target, a target the corner does not have, names that stand twice, bad limits.
    NoSolution
        The linkage locks on the way.

    Notes
    -----
    See :func:`realign`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.adjuster import on
    >>> from fair_spindle.core.slopes import Slopes
    >>> wheel = Slopes(1, 0.0, 0.0, 0.0, 0.0, effects={"tie": (0.01, 0.0)})
    >>> exact_changes(Wanted(wheel, 0.0, (Adjuster("rod", on("tie"), 1.5, 1, -9, 9),), {"toe": 0.02}, TOLERANCES))
    (array([2.]), array([2.]), ())
    """
    weights = _checked(wanted)
    goals = np.array([wanted.targets[name] for name in weights])
    scale = np.array(list(weights.values()))

    def misses(changes: Array) -> Array:
        found = angles_of(wanted, changes)
        return np.asarray((np.stack([found[name] for name in weights], axis=1) - goals) / scale, dtype=float)

    free = _exact(misses, len(wanted.adjusters))
    return free, *_inside(misses, free, wanted.adjusters)


def try_steps(wanted: Wanted, centre: Array) -> Tried:
    """Every setting on allowed steps near a length change, tried on the full geometry.

    Parameters
    ----------
    wanted : Wanted
        One wheel. [mm, rad]
    centre : array
        Length change of each adjuster, shape (m,). [mm]

    Returns
    -------
    Tried
        Settings, angles, and Σ((angle − target)/tolerance)² of each.

    Raises
    ------
    NoSolution
        The linkage locks on the way.

    Notes
    -----
    Without an adjuster there is one setting: as the wheel stands.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.adjuster import on
    >>> from fair_spindle.core.slopes import Slopes
    >>> wheel = Wanted(Slopes(1, 0.0, 0.001, 0.0, 0.0), 0.0, (), {"toe": 0.0}, {"toe": 0.001})
    >>> float(try_steps(wheel, np.zeros(0)).cost[0])
    1.0
    """
    changes = near_settings(centre, wanted.adjusters)
    angles = angles_of(wanted, changes)
    off = [((angles[name] - goal) / wanted.tolerances[name]) ** 2 for name, goal in wanted.targets.items()]
    return Tried(changes, angles, np.sum(off, axis=0))


def settle(wanted: Wanted, free: Array, stopped: tuple[str, ...], tried: Tried, best: int) -> Realigned:
    """Say what the chosen one of the tried settings brings.

    Parameters
    ----------
    wanted : Wanted
        The wheel. [mm, rad]
    free : array
        Exact changes without stops, shape (m,). [mm]
    stopped : tuple of str
        Adjusters at a stop. [-]
    tried : Tried
        Settings that were tried. [mm, rad]
    best : int
        Which of them is taken. [-]

    Returns
    -------
    Realigned
        The plan of this wheel.

    Raises
    ------
    NoSolution
        The linkage locks before the travel.

    Notes
    -----
    A target is reached where it is missed by no more than its tolerance.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.adjuster import on
    >>> from fair_spindle.core.slopes import Slopes
    >>> wheel = Wanted(Slopes(1, 0.0, 0.001, 0.0, 0.0), 0.0, (), {"toe": 0.0}, {"toe": 0.002})
    >>> settle(wheel, np.zeros(0), (), try_steps(wheel, np.zeros(0)), 0).reached
    {'toe': True}
    """
    changes = tried.changes[best]
    before = angles_of(wanted, np.zeros((1, len(wanted.adjusters))))
    after = {name: float(angle[best]) for name, angle in tried.angles.items()}
    reached = {
        name: abs(after[name] - wanted.targets[name]) <= wanted.tolerances[name] * (1 + 1e-9)
        for name in ANGLES
        if name in wanted.targets
    }
    turns = np.array([one.turns_to(at) for one, at in zip(wanted.adjusters, changes, strict=True)])
    return Realigned(
        {name: float(angle[0]) for name, angle in before.items()}, free, turns, changes, after, reached, stopped
    )


def turned(changes: Array) -> Array:
    """How much a setting turns in all.

    Parameters
    ----------
    changes : array
        Length changes, shape (n, m). [mm]

    Returns
    -------
    array
        Σ change², shape (n,). [mm²]

    Raises
    ------
    Nothing.

    Notes
    -----
    Settles ties between settings that are equally good.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> turned(np.array([[3.0, 4.0]])).tolist()
    [25.0]
    """
    return np.asarray(np.einsum("nk,nk->n", changes, changes), dtype=float)


def _exact(misses: Misses, count: int, held: Mapping[int, float] | None = None) -> Array:
    """Length changes that meet the targets, those in `held` kept where they are."""
    held = held or {}
    free = [place for place in range(count) if place not in held]
    changes = np.zeros(count)
    for place, at in held.items():
        changes[place] = at
    for _ in range(30):
        tries = np.tile(changes, (1 + 2 * len(free), 1))
        for row, place in enumerate(free):
            tries[1 + 2 * row, place] += 1e-3
            tries[2 + 2 * row, place] -= 1e-3
        off = misses(tries)
        slope = ((off[1::2] - off[2::2]) / 2e-3).T
        goal = np.linalg.pinv(slope, rcond=1e-9) @ (slope @ changes[free] - off[0])
        move = np.clip(goal - changes[free], -15, 15)
        changes[free] += move
        if np.max(np.abs(move), initial=0.0) < CLOSE * 100:
            return changes
    raise NoSolution("No length change brings this wheel near its targets. Ask for less, or free another adjuster.")


def _inside(misses: Misses, free: Array, adjusters: Sequence[Adjuster]) -> tuple[Array, tuple[str, ...]]:
    """Hold at its stop what would pass it, and solve the others again."""
    held: dict[int, float] = {}
    now = free
    while True:
        beyond = [
            (place, one.low if now[place] < one.low else one.high)
            for place, one in enumerate(adjusters)
            if place not in held and not one.low - 1e-9 <= now[place] <= one.high + 1e-9
        ]
        if not beyond:
            return now, tuple(adjusters[place].name for place in sorted(held))
        worst = max(beyond, key=lambda one: abs(now[one[0]] - one[1]))
        held[worst[0]] = worst[1]
        now = _exact(misses, len(adjusters), held)


def angles_of(wanted: Wanted, changes: Array) -> dict[str, Array]:
    """Every angle a wheel has, for rows of length changes.

    Parameters
    ----------
    wanted : Wanted
        The wheel and its travel. [mm, rad]
    changes : array
        Change of each adjuster, shape (n, m). [mm]

    Returns
    -------
    dict
        Toe, camber, and caster where there is a steering axis, shape (n,). [rad]

    Raises
    ------
    NoSolution
        The linkage locks on the way.

    Notes
    -----
    Slopes know no caster.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.adjuster import on
    >>> from fair_spindle.core.slopes import Slopes
    >>> sorted(angles_of(Wanted(Slopes(1, 0.0, 0.0, 0.0, 0.0), 5.0, (), {}, {}), np.zeros((1, 0))))
    ['camber', 'toe']
    """
    links = changes_by_link(wanted.adjusters, changes)
    found = angles_at(wanted.corner, np.full(len(changes), wanted.travel), links)
    return {name: np.asarray(angle) for name in ANGLES if (angle := getattr(found, name)) is not None}


def _checked(wanted: Wanted) -> dict[str, float]:
    adjusters, targets, tolerances = wanted.adjusters, wanted.targets, wanted.tolerances
    require(1 <= len(adjusters) <= 6, "adjusters", "One to six adjusters are taken", len(adjusters), kind=InputError)
    require(targets, "targets", "At least one target is needed", "none", kind=InputError)
    if len({one.name for one in adjusters}) < len(adjusters):
        raise InputError("Each adjuster needs a name of its own.", field="adjusters")
    if "caster" in targets and wanted.corner.layout not in ("double_wishbone", "strut"):
        raise InputError("This layout has no steering axis, so no caster to aim at.", field="targets.caster_deg")
    for one in adjusters:
        where = f"adjusters.{one.name}"
        require(one.per_turn > 0, where, "Length per turn must be above 0 mm", one.per_turn)
        require(one.step > 0, where, "The smallest step must be above 0 turns", one.step)
        if not one.start:
            require(one.low <= 0 <= one.high, where, "The stops must lie to either side of today's setting", one.low)
        require(
            one.high - one.low >= one.step * one.per_turn or one.low <= one.start <= one.high,
            where,
            "There is no setting between its stops; the thread is too short, or the part too long",
            f"{one.low:.1f} to {one.high:.1f} mm",
        )
    for name in targets:
        require(tolerances[name] > 0, f"tolerances.{name}_deg", "A tolerance must be above 0", tolerances[name])
    return {name: tolerances[name] for name in ANGLES if name in targets}
