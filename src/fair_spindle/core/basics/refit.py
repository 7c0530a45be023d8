"""What a measured outcome says about the inputs that were uncertain."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object

Array = NDArray[np.float64]
Model = Callable[[Array], Array]
ROUNDS = 4


@value_object
class Refitted:
    """Inputs before and after: values and standard uncertainties, shape (m,) each."""

    values: Array
    uncertainties: Array


def refit(model: Model, values: Array, uncertainties: Array, measured: Array, noise: Array) -> Refitted:
    """Move uncertain inputs as far as a measured outcome asks, and no further than their ± lets it.

    Parameters
    ----------
    model : callable
        From rows of inputs (n, m) to rows of outcomes (n, k). [any]
    values, uncertainties : array
        Inputs as believed so far, and their standard uncertainties > 0, shape (m,). [any]
    measured, noise : array
        The outcome as read, and its standard uncertainties > 0, shape (k,). [any]

    Returns
    -------
    Refitted
        Inputs as believed from now on.

    Raises
    ------
    NoSolution
        As the model raises it.

    Notes
    -----
    Least squares of what was read and what was believed together, each over its uncertainty (Gauss-Newton on the
    outcome); the uncertainties are those of the solution, (P⁻¹ + Jᵀ R⁻¹ J)⁻¹.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> one = refit(lambda x: 2 * x, np.array([1.0]), np.array([0.1]), np.array([2.4]), np.array([0.2]))
    >>> one.values.round(3).tolist(), one.uncertainties.round(4).tolist()
    ([1.1], [0.0707])
    """
    prior = np.diag(1 / uncertainties**2)
    weight = np.diag(1 / noise**2)
    now = values.astype(float)
    for _ in range(ROUNDS):
        by = 1e-3 * uncertainties
        tries = np.concatenate([now[None], now + np.diag(by), now - np.diag(by)])
        found = model(tries)
        slope = ((found[1 : 1 + len(by)] - found[1 + len(by) :]) / (2 * by[:, None])).T
        known = prior + slope.T @ weight @ slope
        pull = slope.T @ weight @ (measured - found[0]) + prior @ (values - now)
        now = now + np.linalg.solve(known, pull)
    return Refitted(now, np.sqrt(np.diag(np.linalg.inv(known))))
