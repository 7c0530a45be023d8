"""Which turns bring toe, camber and caster back: the exact answer, and the best one on the steps there are."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.bounded import bounded_least_squares
from fair_spindle.core.basics.errors import InputError, NoSolution, require
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.turns.adjuster import Adjuster, changes_by_link, near_settings

Array = NDArray[np.float64]
Misses = Callable[[Array], Array]
ANGLES = ("toe", "camber", "caster")
TOLERANCES = {"toe": to_core(0.05, "deg"), "camber": to_core(0.1, "deg"), "caster": to_core(0.25, "deg")}
CLOSE = 1e-11
AT_STOP = 1e-6
# A step this small leaves an error far below any gauge: the next one would be its square. [mm]
NEAR_MM = 1e-5
MOST_ROUNDS = 20
MOST_TRIED = 200
WELL_INSIDE = 2.0
SHARES = (1.0, 0.5, 0.25, 0.1, 0.03, 0.01)


@value_object
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


@value_object
class Wanted:
    """What is wanted of one wheel: its geometry, travel [mm], adjusters, targets and tolerances [rad]."""

    corner: Corner
    travel: float
    adjusters: tuple[Adjuster, ...]
    targets: Mapping[str, float]
    tolerances: Mapping[str, float]


@value_object
class Tried:
    """Settings tried on one wheel: ``changes`` [mm] (n, m), the ``angles`` [rad] they give, what each ``cost``."""

    changes: Array
    angles: Mapping[str, Array]
    cost: Array


def realign(
    corner: Corner,
    travel: float,
    adjusters: Sequence[Adjuster],
    targets: Mapping[str, float],
    tolerances: Mapping[str, float] | None = None,
) -> Realigned:
    """Find the turns that bring a wheel to its targets at a new height.

    Parameters
    ----------
    corner : Corner
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
    smallest Σ change², with fewer the least squares; as if there were no stops.  Between the stops: bounded least
    squares, an adjuster that was held at its stop is released where the others make that better.  Set turns: all
    combinations of steps near that answer are tried on the full geometry, about the best of them again until it
    stays, and the smallest Σ((after − target)/tolerance)² wins.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.turns.adjuster import on
    >>> from fair_spindle.core.geometry.corner import Link, make_corner
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
    for _ in range(MOST_ROUNDS):
        tried = try_steps(wanted, inside)
        # Among answers that are equally good, the one that turns least.
        best = int(np.lexsort((turned(tried.changes), np.round(tried.cost, 9)))[0])
        if stays(wanted.adjusters, inside, tried.changes[best]):
            break
        inside = tried.changes[best]
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
    >>> from fair_spindle.core.turns.adjuster import on
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> wheel = usual_corner("strut")
    >>> rod = Adjuster("rod", on("tie"), 1.5, 1, -9, 9)
    >>> exact_changes(Wanted(wheel, 0.0, (rod,), {"toe": 0.02}, TOLERANCES))[0].round(3)
    array([2.696])
    """
    weights = _checked(wanted)
    goals = np.array([wanted.targets[name] for name in weights])
    scale = np.array(list(weights.values()))

    def misses(changes: Array) -> Array:
        found = angles_of(wanted, changes)
        return np.asarray((np.stack([found[name] for name in weights], axis=1) - goals) / scale, dtype=float)

    inside = _inside(misses, wanted.adjusters)
    stopped = tuple(
        adjuster.name
        for adjuster, at in zip(wanted.adjusters, inside, strict=True)
        if min(at - adjuster.low, adjuster.high - at) < AT_STOP and adjuster.low < adjuster.high
    )
    # Where nothing met its stop, the best between the stops is the best without them.
    free = inside
    if stopped:
        with suppress(NoSolution):
            free = _exact(misses, len(wanted.adjusters))
    return free, inside, stopped


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
    Of many settings those are tried that are best by slopes.  Without an adjuster there is one: as the wheel stands.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.turns.adjuster import on
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> wheel = Wanted(usual_corner("strut"), 0.0, (), {"toe": 0.001}, {"toe": 0.001})
    >>> float(try_steps(wheel, np.zeros(0)).cost[0].round(6))
    1.0
    """
    changes = near_settings(centre, wanted.adjusters)
    if len(changes) > MOST_TRIED:
        changes = changes[_likely(wanted, centre, changes)]
    angles = angles_of(wanted, changes)
    off = [((angles[name] - goal) / wanted.tolerances[name]) ** 2 for name, goal in wanted.targets.items()]
    return Tried(changes, angles, np.sum(off, axis=0))


def stays(adjusters: Sequence[Adjuster], centre: Array, chosen: Array) -> bool:
    """Whether the best setting lies well inside those that were tried about a centre, so that all is tried.

    Parameters
    ----------
    adjusters : sequence of Adjuster
        m of them. [-]
    centre, chosen : array
        What was tried about, and the best of it, shape (m,). [mm]

    Returns
    -------
    bool
        True within two steps of each; of five adjusters or more, of which fewer are tried, within the step itself.

    Raises
    ------
    Nothing.

    Notes
    -----
    Settings are tried for at least three steps to either side of it, of five adjusters or more for one.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.turns.adjuster import on
    >>> rod = Adjuster("rod", on("tie"), 1.5, 1 / 6, -9, 9)
    >>> stays([rod], np.array([0.1]), np.array([0.25])), stays([rod], np.array([0.1]), np.array([0.75]))
    (True, False)
    """
    steps = np.array([adjuster.per_turn * adjuster.step for adjuster in adjusters])
    inside = WELL_INSIDE if len(adjusters) <= 4 else 0.6
    return bool(np.all(np.abs(chosen - centre) <= inside * steps))


def _likely(wanted: Wanted, centre: Array, changes: Array) -> NDArray[np.int64]:
    """The settings that are best by slopes: those worth trying on the full geometry."""

    def misses(rows: Array) -> Array:
        found = angles_of(wanted, rows)
        goals = wanted.targets.items()
        return np.stack([(found[name] - goal) / wanted.tolerances[name] for name, goal in goals], axis=1)

    off, slope = _slopes(misses, centre)
    here = off + (changes - centre) @ slope.T
    return np.argsort(np.einsum("nk,nk->n", here, here), kind="stable")[:MOST_TRIED]


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
    >>> from fair_spindle.core.turns.adjuster import on
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> wheel = Wanted(usual_corner("strut"), 0.0, (), {"toe": 0.0}, {"toe": 0.002})
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
    turns = np.array([adjuster.turns_to(at) for adjuster, at in zip(wanted.adjusters, changes, strict=True)])
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


def _slopes(misses: Misses, changes: Array) -> tuple[Array, Array]:
    """What is missed at some length changes, shape (k,), and its slope by each of them, shape (k, m)."""
    count = len(changes)
    tries = np.concatenate([changes[None], changes + np.eye(count) * 1e-3, changes - np.eye(count) * 1e-3])
    off = misses(tries)
    return off[0], ((off[1 : 1 + count] - off[1 + count :]) / 2e-3).T


def _exact(misses: Misses, count: int) -> Array:
    """Length changes that meet the targets, as if there were no stops."""
    changes = np.zeros(count)
    for _ in range(30):
        off, slope = _slopes(misses, changes)
        goal = np.linalg.pinv(slope, rcond=1e-9) @ (slope @ changes - off)
        move = np.clip(goal - changes, -15, 15)
        changes = changes + move
        if np.max(np.abs(move), initial=0.0) < CLOSE * 100:
            return changes
    raise NoSolution("No length change brings this wheel near its targets. Ask for less, or free another adjuster.")


def _inside(misses: Misses, adjusters: Sequence[Adjuster]) -> Array:
    """The best length changes between the stops: Gauss-Newton, each step shortened until it is no worse."""
    low, high = (
        np.array([adjuster.low for adjuster in adjusters]),
        np.array([adjuster.high for adjuster in adjusters]),
    )
    now = np.clip(np.zeros(len(adjusters)), low, high)
    off, slope = _slopes(misses, now)
    for _ in range(60):
        move = bounded_least_squares(slope, slope @ now - off, low, high) - now
        move *= min(1.0, 15 / max(float(np.max(np.abs(move), initial=0.0)), 1e-30))
        for share in SHARES:
            try:
                there = _slopes(misses, now + share * move)
            except NoSolution:
                continue
            if there[0] @ there[0] <= off @ off * (1 + 1e-12) + 1e-18:
                break
        else:
            return now
        now = np.clip(now + share * move, low, high)
        off, slope = there
        if np.max(np.abs(share * move), initial=0.0) < NEAR_MM:
            break
    return np.asarray(now)


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
    As :func:`~fair_spindle.core.geometry.kinematics.angles_at`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.turns.adjuster import on
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> sorted(angles_of(Wanted(usual_corner("strut"), 5.0, (), {}, {}), np.zeros((1, 0))))
    ['camber', 'caster', 'toe']
    """
    links = changes_by_link(wanted.adjusters, changes)
    found = angles_at(wanted.corner, np.full(len(changes), wanted.travel), links)
    return {name: np.asarray(angle) for name in ANGLES if (angle := getattr(found, name)) is not None}


def _checked(wanted: Wanted) -> dict[str, float]:
    adjusters, targets, tolerances = wanted.adjusters, wanted.targets, wanted.tolerances
    require(1 <= len(adjusters) <= 6, "adjusters", "One to six adjusters are taken", len(adjusters), kind=InputError)
    require(targets, "targets", "At least one target is needed", "none", kind=InputError)
    if len({adjuster.name for adjuster in adjusters}) < len(adjusters):
        raise InputError("Each adjuster needs a name of its own.", field="adjusters")
    if "caster" in targets and not wanted.corner.steering_axis:
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
