"""Turns of both wheels of an axle chosen together: total toe, thrust line, steering wheel, left against right."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.remember import by_content
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.turns.realign import (
    Realigned,
    Tried,
    Wanted,
    exact_changes,
    settle,
    stays,
    try_steps,
    turned,
)

Array = NDArray[np.float64]
Places = NDArray[np.int64]
ROUNDS = 20
# House default, adjustable: common practice, no published source.
STEERING_WHEEL_WITHIN = to_core(1.0, "deg")
# Where none was told, and its standard uncertainty: common practice, no published source.
USUAL_RATIO, RATIO_OPEN = 15.0, 1.5


@value_object
class Across:
    """What both wheels make together: left · angle + right · angle is to be ``goal``, within ``limit``. [rad]"""

    name: str
    angle: str
    left: float
    right: float
    goal: float
    limit: float

    def miss(self, left: Mapping[str, Array], right: Mapping[str, Array]) -> Array:
        """How far off, in limits; angles by name, of shapes that broadcast. [-]"""
        return (self.left * left[self.angle] + self.right * right[self.angle] - self.goal) / self.limit


def toe_across(left: float, right: float, within_total: float, within_thrust: float) -> tuple[Across, Across]:
    """Total toe and thrust of an axle as things wanted.

    Parameters
    ----------
    left, right : float
        Wanted toe of each wheel. [rad]
    within_total, within_thrust : float
        How far each may be off, > 0. [rad]

    Returns
    -------
    tuple of Across
        Total toe, thrust.

    Raises
    ------
    Nothing.

    Notes
    -----
    Total = left + right; thrust = (left − right)/2, positive to the right.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> total, thrust = toe_across(0.002, 0.001, 0.002, 0.001)
    >>> total.goal, thrust.goal
    (0.003, 0.0005)
    """
    return (
        Across("total", "toe", 1.0, 1.0, left + right, within_total),
        Across("thrust", "toe", 0.5, -0.5, (left - right) / 2, within_thrust),
    )


@by_content(most=32)
def realign_axle(left: Wanted, right: Wanted, across: Sequence[Across]) -> tuple[Realigned, Realigned]:
    """Find the turns of both wheels of an axle that are best together.

    Parameters
    ----------
    left, right : Wanted
        The wheels; one of them may have nothing to adjust. [mm, rad]
    across : sequence of Across
        What they make together. [rad]

    Returns
    -------
    tuple of Realigned
        Left, right.

    Raises
    ------
    InputError, NoSolution
        As of :func:`~fair_spindle.core.turns.realign.exact_changes`.

    Notes
    -----
    Smallest sum, over all pairs of allowed settings, of ((angle − target)/tolerance)² of each wheel and (miss/limit)²
    of what they make together.  The search starts about each wheel's own exact answer and is moved to the best pair
    until that stays where it is, so one wheel can make up for another that is at its stop.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.turns.adjuster import Adjuster, on
    >>> from fair_spindle.core.geometry.usual_corners import usual_corner
    >>> wheel = usual_corner("strut")
    >>> rod = Adjuster("rod", on("tie"), 1.0, 0.05, -9.0, 9.0)
    >>> stuck = Wanted(wheel, 0.0, (), {"toe": 0.01}, {"toe": 0.001})
    >>> free = Wanted(wheel, 0.0, (rod,), {"toe": 0.01}, {"toe": 0.001})
    >>> total, _ = toe_across(0.01, 0.01, 0.00001, 0.001)
    >>> round(realign_axle(stuck, free, [total])[1].after["toe"], 3)
    0.02
    """
    wheels = (left, right)
    alone = [exact_changes(wheel) if wheel.adjusters else (np.zeros(0), np.zeros(0), ()) for wheel in wheels]
    centres = [inside for _, inside, _ in alone]
    for _ in range(ROUNDS):
        tried = [try_steps(wheel, centre) for wheel, centre in zip(wheels, centres, strict=True)]
        best = best_pair(tried[0], tried[1], across)
        chosen = [one.changes[place] for one, place in zip(tried, best, strict=True)]
        if all(stays(wheel.adjusters, *two) for wheel, *two in zip(wheels, centres, chosen, strict=True)):
            break
        centres = chosen
    found = [settle(w, a[0], a[2], t, b) for w, a, t, b in zip(wheels, alone, tried, best, strict=True)]
    return found[0], found[1]


def best_pair(left: Tried, right: Tried, across: Sequence[Across]) -> tuple[int, int]:
    """Which setting of each wheel is best together.

    Parameters
    ----------
    left, right : Tried
        Settings tried on each wheel. [mm, rad]
    across : sequence of Across
        What they make together. [rad]

    Returns
    -------
    tuple of int
        Place of the best in each.

    Raises
    ------
    Nothing.

    Notes
    -----
    What both make together can only add to the cost.  So a setting whose own cost, with the other wheel's best,
    is above that of a pair already found cannot be in the best pair, and is not tried.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> one = Tried(np.array([[0.0], [1.0]]), {"toe": np.array([0.0, 1.0])}, np.array([0.0, 1.0]))
    >>> best_pair(one, one, [Across("total", "toe", 1, 1, 2.0, 0.1)])
    (1, 1)
    """

    def cost(lefts: Places, rights: Places) -> Array:
        one = {name: angle[lefts][:, None] for name, angle in left.angles.items()}
        other = {name: angle[rights][None, :] for name, angle in right.angles.items()}
        sum_ = left.cost[lefts][:, None] + right.cost[rights][None, :]
        for both in across:
            sum_ = sum_ + both.miss(one, other) ** 2
        return np.asarray(sum_)

    every = [np.arange(len(one.cost), dtype=np.int64) for one in (left, right)]
    first = [np.array([np.argmin(one.cost)], dtype=np.int64) for one in (left, right)]
    found = min(cost(first[0], every[1]).min(), cost(every[0], first[1]).min()) * (1 + 1e-9) + 1e-9
    kept = [every[0][left.cost + right.cost.min() <= found], every[1][right.cost + left.cost.min() <= found]]
    costs = cost(kept[0], kept[1])
    length = turned(left.changes[kept[0]])[:, None] + turned(right.changes[kept[1]])[None, :]
    best = np.lexsort((length.ravel(), np.round(costs, 9).ravel()))[0]
    row, column = np.unravel_index(best, costs.shape)
    return int(kept[0][row]), int(kept[1][column])
