"""Where a threaded spring seat goes before the unit is put together."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.bounded import bounded_least_squares
from fair_spindle.core.basics.errors import Inconsistent, InputError, require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.springs.car_heights import cross_weight
from fair_spindle.core.springs.springs import Coil, stack_under_load

Array = NDArray[np.float64]
# From turns at the four perches (n, 4) to hub-to-arch heights [mm] and wheel loads [N], (n, 4) each.
Car = Callable[[Array], tuple[Array, Array]]
ROUNDS = 12
# Steps to either side that are looked at by slopes, by the number of perches; and how many of those on the car.
FAR = {1: 40, 2: 40, 3: 12, 4: 6}
MOST_TRIED = 120
# Weighs a whole turn as a miss of a fiftieth of a tolerance: settles what heights and cross weight leave open.
RELUCTANCE = 0.02


@value_object
class PerchPlace:
    """A perch as it is to be set: lengths [mm] and turns up from the lowest place."""

    damper: float
    springs: float
    from_lower_eye: float
    turns_up: float


def perch_place(
    ratio: float,
    sprung_load: float,
    gas_force: float,
    damper_at_ride: float,
    height_change: float,
    upper_seat: float,
    springs: Sequence[Coil],
    pitch: float,
    lowest: float,
) -> PerchPlace:
    """Find where the lower spring seat must stand for a wanted ride height.

    Parameters
    ----------
    ratio : float
        Spring and damper travel per wheel travel, > 0. [-]
    sprung_load : float
        At the wheel, > 0. [N]
    gas_force : float
        Of the damper, on the spring's axis, >= 0. [N]
    damper_at_ride : float
        Eye to eye before the job, at ride height, > 0. [mm]
    height_change : float
        Wanted of the body, up positive. [mm]
    upper_seat : float
        Upper spring seat below the upper eye, >= 0. [mm]
    springs : sequence of Coil
        The stack. [N/mm, mm]
    pitch : float
        Of the perch thread, > 0. [mm]
    lowest : float
        Lower seat above the lower eye with the perch at the bottom. [mm]

    Returns
    -------
    PerchPlace
        Negative turns where the perch would have to go below its thread.

    Raises
    ------
    OutOfRange
        A number that is not above zero where it must be.
    Inconsistent
        The gas carries the whole corner.

    Notes
    -----
    Damper length = before + ratio · height change; seat to seat = damper length − both offsets = stack under
    load/ratio − gas.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> place = perch_place(1.0, 3000.0, 200.0, 480.0, -20.0, 40.0, [Coil(50.0, 200.0)], 2.0, 150.0)
    >>> place.from_lower_eye, place.turns_up
    (276.0, 63.0)
    """
    require(ratio > 0, "motion_ratio", "The motion ratio must be above 0", ratio)
    require(sprung_load > 0, "sprung_load_n", "The sprung load must be above 0 N", sprung_load)
    require(gas_force >= 0, "gas_force_n", "The gas force cannot be negative", gas_force)
    require(pitch > 0, "pitch_mm", "The thread pitch must be above 0 mm", pitch)
    force = sprung_load / ratio - gas_force
    require(
        force > 0,
        "gas_force_n",
        "The spring must carry part of the load",
        "a gas force that carries the whole corner",
        kind=Inconsistent,
    )
    damper = damper_at_ride + ratio * height_change
    stack = stack_under_load(springs, force).total
    seat = damper - upper_seat - stack
    return PerchPlace(damper, stack, seat, (seat - lowest) / pitch)


@value_object
class PerchGoals:
    """What the perches are to bring: heights [mm], NaN where none is wanted, cross weight [-] or None, how near."""

    heights: Array
    cross: float | None
    within_height: float = 2.0
    within_cross: float = 0.002


@value_object
class PerchTurns:
    """Turns at FL FR RL RR, exact and on steps; what they bring, and what one turn up at each perch does.

    ``height_effects`` [mm/turn] and ``load_effects`` [N/turn]: row by perch, column by wheel.
    """

    exact: Array
    set_turns: Array
    heights: Array
    loads: Array
    cross: float
    height_effects: Array
    load_effects: Array


def turns_uncertainty(
    turns: PerchTurns, goals: PerchGoals, low: Array, high: Array, heights: Array, loads: Array
) -> Array:
    """Standard uncertainty of the exact turns, from those of the heights and loads they were worked out from.

    Parameters
    ----------
    turns : PerchTurns
        The turns and what each perch does. [turn, mm, N]
    goals : PerchGoals
        What was wanted. [mm, -]
    low, high : array
        Turns each perch has left, shape (4,). [turn]
    heights, loads : array
        Standard uncertainties of the four heights and wheel loads, shape (4,) each. [mm, N]

    Returns
    -------
    array
        Shape (4,); 0 where a corner has no thread. [turn]

    Raises
    ------
    Nothing.

    Notes
    -----
    The least squares' own pseudo-inverse carries each height's and each load's uncertainty to the turns.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> still, wanted = np.zeros(4), PerchGoals(np.full(4, 350.0), None)
    >>> alone = PerchTurns(still, still, still, still + 1.0, 0.5, 2 * np.eye(4), np.zeros((4, 4)))
    >>> turns_uncertainty(alone, wanted, still - 9, still + 9, still + 1.0, still).round(2).tolist()
    [0.5, 0.5, 0.5, 0.5]
    """
    wanted, free = ~np.isnan(goals.heights), high > low
    total = float(np.sum(turns.loads))
    into_cross = np.array([-turns.cross, 1 - turns.cross, 1 - turns.cross, -turns.cross]) / total
    slope = turns.height_effects.T[wanted][:, free] / goals.within_height
    unsure = np.diag(heights)[wanted] / goals.within_height
    noise = np.concatenate([unsure, np.zeros_like(unsure)], axis=1)
    if goals.cross is not None:
        row = into_cross @ turns.load_effects.T[:, free] / goals.within_cross
        slope = np.concatenate([slope, row[None]])
        noise = np.concatenate([noise, np.concatenate([np.zeros(4), into_cross * loads / goals.within_cross])[None]])
    slope = np.concatenate([slope, RELUCTANCE * np.eye(int(free.sum()))])
    moved = np.linalg.pinv(slope)[:, : len(noise)] @ noise
    found = np.zeros(4)
    found[free] = np.sqrt(np.sum(moved**2, axis=1))
    return found


def perch_turns(car: Car, goals: PerchGoals, low: Array, high: Array, step: float) -> PerchTurns:
    """Find the turns at all four perches that bring heights, cross weight, or the best of both.

    Parameters
    ----------
    car : callable
        From turns to heights and loads. [turn, mm, N]
    goals : PerchGoals
        At least one. [mm, -]
    low, high : array
        Turns each perch has left, shape (4,); both zero where a corner has none. [turn]
    step : float
        Smallest step that is set, > 0. [turn]

    Returns
    -------
    PerchTurns
        Four corners together.

    Raises
    ------
    InputError
        Nothing wanted, or no perch that can be turned.
    NoSolution
        As the car raises it.

    Notes
    -----
    Least squares over heights and cross weight, each over its tolerance, plus a little for every turn, so that of
    equally good answers the smallest is taken; Gauss-Newton, bounded by the threads, so that the others make up for a
    ring at its stop.  Then the combinations of steps that are best by slopes are tried on the car, then those beside.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> def car(turns):
    ...     return 300 + 2 * turns, 3000 + 50 * turns
    >>> goals = PerchGoals(np.array([304.0, 300.0, 300.0, 300.0]), None)
    >>> perch_turns(car, goals, np.full(4, -9.0), np.full(4, 9.0), 0.25).set_turns.tolist()
    [2.0, 0.0, 0.0, 0.0]
    """
    wanted = ~np.isnan(goals.heights)
    if not wanted.any() and goals.cross is None:
        raise InputError("Nothing is wanted: give a height, or a cross weight.", field="target_cross")
    free = np.flatnonzero(high > low).tolist()
    require(free, "spring.perch_pitch", "At least one perch must be on a thread", "none", kind=InputError)

    def misses(turns: Array) -> Array:
        heights, loads = car(turns)
        off = (heights[:, wanted] - goals.heights[wanted]) / goals.within_height
        if goals.cross is not None:
            off = np.append(off, ((cross_weight(loads) - goals.cross) / goals.within_cross)[:, None], axis=1)
        return np.append(off, RELUCTANCE * turns, axis=1)

    turns = np.zeros(4)
    for _ in range(ROUNDS):
        nudge = np.eye(4)[free] * 0.05
        found = misses(np.concatenate([turns[None], turns + nudge, turns - nudge]))
        slope = (found[1 : 1 + len(free)] - found[1 + len(free) :]).T / 0.1
        moved = bounded_least_squares(slope, slope @ turns[free] - found[0], low[free], high[free])
        far = np.max(np.abs(moved - turns[free]))
        turns[free] = moved
        if far < 1e-6:
            break
    set_turns = _on_steps(misses, turns, slope, free, (low[free], high[free]), step)
    heights, loads = car(set_turns[None])
    one_up = np.concatenate([np.zeros((1, 4)), np.eye(4)])
    all_heights, all_loads = car(one_up)
    return PerchTurns(
        turns,
        set_turns,
        heights[0],
        loads[0],
        float(cross_weight(loads[0])),
        all_heights[1:] - all_heights[0],
        all_loads[1:] - all_loads[0],
    )


def _on_steps(
    misses: Callable[[Array], Array],
    turns: Array,
    slope: Array,
    free: list[int],
    stops: tuple[Array, Array],
    step: float,
) -> Array:
    """The best turns on steps between the stops: those best by slopes are tried on the car, then their neighbours."""
    first, last = np.ceil(stops[0] / step - 1e-9), np.floor(stops[1] / step + 1e-9)
    middle = np.clip(np.round(turns[free] / step), first, last)
    around = FAR[len(free)]
    near = [
        np.arange(max(low, at - around), min(high, at + around) + 1)
        for at, low, high in zip(middle, first, last, strict=True)
    ]
    tries = np.array(list(itertools.product(*near)))
    here = misses(turns[None])[0] + (tries * step - turns[free]) @ slope.T
    best = tries[np.argsort(np.einsum("nk,nk->n", here, here), kind="stable")[:MOST_TRIED]]
    for _ in range(ROUNDS):
        off = misses(_whole(best * step, free))
        chosen = best[int(np.argmin(np.einsum("nk,nk->n", off, off)))]
        if np.array_equal(chosen, middle):
            break
        middle = chosen
        beside = middle + np.array(list(itertools.product((-1, 0, 1), repeat=len(free))))
        best = beside[np.all((beside >= first) & (beside <= last), axis=1)]
    return np.asarray(_whole(middle[None] * step, free)[0], dtype=float)


def _whole(turns: Array, free: list[int]) -> Array:
    """Turns at all four corners, where only some have a thread."""
    found = np.zeros((len(turns), 4))
    found[:, free] = turns
    return found
