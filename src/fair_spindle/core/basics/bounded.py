"""Least squares between stops, with what was held released again where that is better."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
# Weighs what is turned against what is missed: decides only between answers that are equally good.
LEAN = 1e-6


def bounded_least_squares(slope: Array, goal: Array, low: Array, high: Array) -> Array:
    """Find the best of all answers between stops; of equally good ones the smallest.

    Parameters
    ----------
    slope : array
        Of k outcomes by m changes, shape (k, m). [any]
    goal : array
        Outcomes wanted, shape (k,). [any]
    low, high : array
        Stops of each change, low <= high, shape (m,). [any]

    Returns
    -------
    array
        Changes, shape (m,). [any]

    Raises
    ------
    Nothing.

    Notes
    -----
    min |slope x − goal|² + (10⁻⁶ |slope| |x|)² for low ≤ x ≤ high, by an active set: a change that meets its stop on
    the way is held there, and released again where the misses pull it back.

    Source
    ------
    bounded-least-squares

    Examples
    --------
    >>> one = bounded_least_squares(np.array([[1.0, 1.0], [0.0, 1.0]]), np.array([3.0, 2.0]), np.zeros(2), np.ones(2))
    >>> one.round(6).tolist()
    [1.0, 1.0]
    """
    count = slope.shape[1]
    lean = LEAN * (float(np.linalg.norm(slope)) or 1.0)
    rows, wanted = np.concatenate([slope, lean * np.eye(count)]), np.concatenate([goal, np.zeros(count)])
    now = np.clip(np.linalg.lstsq(rows, wanted, rcond=None)[0], low, high)
    held = (now <= low) | (now >= high)
    for _ in range(12 * count + 12):
        free = np.flatnonzero(~held)
        if len(free):
            rest = wanted - rows[:, held] @ now[held]
            best = np.linalg.lstsq(rows[:, free], rest, rcond=None)[0]
            out = np.where(
                best < low[free], low[free] - now[free], np.where(best > high[free], high[free] - now[free], 0)
            )
            step = best - now[free]
            passed = np.flatnonzero((best < low[free] - 1e-12) | (best > high[free] + 1e-12))
            if len(passed):
                shares = out[passed] / step[passed]
                first = passed[int(np.argmin(shares))]
                now[free] += max(float(np.min(shares)), 0.0) * step
                now[free[first]] = low[free[first]] if step[first] < 0 else high[free[first]]
                held[free[first]] = True
                continue
            now[free] = np.clip(best, low[free], high[free])
        pull = rows.T @ (wanted - rows @ now)
        scale = 1e-9 * (np.linalg.norm(rows, axis=0) * np.linalg.norm(wanted - rows @ now) + 1e-300)
        freed = held & (((pull > scale) & (now < high)) | ((pull < -scale) & (now > low)))
        if not freed.any():
            break
        held[int(np.argmax(np.where(freed, np.abs(pull), -1.0)))] = False
    return np.asarray(now)
