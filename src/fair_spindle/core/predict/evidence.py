"""Readings of several inputs together: what they teach about each, and how draws of the inputs follow them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity

Array = NDArray[np.float64]
Number = float | Array
Rule = Callable[[Mapping[str, Number]], Array]


@value_object
class Evidence:
    """What readings taught: the inputs as believed now, and how drawn inputs are moved by drawn readings.

    ``prior`` standard uncertainties of the ``keys`` before, shape (m,); ``names`` and ``noise`` of the readings,
    shape (k,); ``slopes`` of readings by inputs, (k, m); ``gain`` moves inputs by misses, (m, k).
    """

    inputs: Mapping[str, Quantity]
    keys: tuple[str, ...]
    prior: Array
    names: tuple[str, ...]
    noise: Array
    slopes: Array
    gain: Array

    def follow(self, inputs: Array, readings: Array) -> Array:
        """Deviations of inputs from what is believed now, for drawn ones (n, m) and drawn misreadings (n, k)."""
        return np.asarray(inputs + (readings - inputs @ self.slopes.T) @ self.gain.T)


def best_gain(seen: Array, spread: Array, noise: Array) -> Array:
    """How far inputs are moved by what readings miss.

    Parameters
    ----------
    seen, spread : array
        Readings and inputs by s independent sources of unit variance, shape (k, s) and (m, s). [any]
    noise : array
        Standard uncertainties of the readings, shape (k,). [any]

    Returns
    -------
    array
        Inputs by readings, shape (m, k). [any]

    Raises
    ------
    LinAlgError
        Two readings of the same thing without any uncertainty.

    Notes
    -----
    The gain of least variance, P Hᵀ (H P Hᵀ + R)⁻¹, with P and H P by their square roots.

    Source
    ------
    jcgm-102

    Examples
    --------
    >>> best_gain(np.array([[3.0]]), np.array([[3.0]]), np.array([4.0])).tolist()
    [[0.36]]
    """
    return np.asarray(np.linalg.solve(seen @ seen.T + np.diag(noise**2), seen @ spread.T).T)


def weigh_evidence(inputs: Mapping[str, Quantity], rule: Rule, read: Mapping[str, Quantity]) -> Evidence | None:
    """Move uncertain inputs by readings that depend on several of them.

    Parameters
    ----------
    inputs : mapping of Quantity
        By field key, independent of each other. [core unit]
    rule : callable
        From arrays of shape (n,) by key to what would be read at each corner, (n, 4). [any]
    read : mapping of Quantity
        What was read, by corner; corners that were not read are left out. [any]

    Returns
    -------
    Evidence or None
        None where nothing was read.

    Raises
    ------
    Nothing.

    Notes
    -----
    Linear about the best values: gain K = P Hᵀ (H P Hᵀ + R)⁻¹, values x + K (y − h(x)), covariance (1 − K H) P.
    A draw follows by the same gain, δ + K (ε − H δ), which has that covariance and keeps the drawn readings apart, so
    that each one's share can still be told.

    Source
    ------
    jcgm-102

    Examples
    --------
    >>> told = {"a": Quantity(1.0, 0.3), "b": Quantity(1.0, 0.4)}
    >>> both = lambda v: np.stack([np.asarray(v.get("a", 1.0)) + v.get("b", 1.0)] * 4, axis=-1)
    >>> found = weigh_evidence(told, both, {"front.left": Quantity(3.0, 0.0)})
    >>> [round(one.value, 2) for one in found.inputs.values()]
    [1.36, 1.64]
    """
    columns = [place for place, key in enumerate(WHEELS) if key in read]
    keys = tuple(key for key, one in inputs.items() if one.uncertainty > 0)
    if not columns or not keys:
        return None
    names = tuple(WHEELS[place] for place in columns)
    values = np.array([inputs[key].value for key in keys])
    prior = np.array([inputs[key].uncertainty for key in keys])
    steps = np.concatenate([np.zeros((1, len(keys))), np.diag(prior), -np.diag(prior)]) + values
    found = rule({key: steps[:, place] for place, key in enumerate(keys)})[:, columns]
    slopes = (found[1 : 1 + len(keys)] - found[1 + len(keys) :]).T / (2 * prior)
    noise = np.array([read[name].uncertainty for name in names])
    gain = best_gain(slopes * prior, np.diag(prior), np.maximum(noise, 1e-9))
    now = values + gain @ (np.array([read[name].value for name in names]) - found[0])
    left = np.sqrt(np.maximum(prior**2 * (1 - np.einsum("mk,km->m", gain, slopes)), 0.0))
    known = {
        key: replace(inputs[key], value=float(value), uncertainty=float(size))
        for key, value, size in zip(keys, now, left, strict=True)
    }
    return Evidence({**inputs, **known}, keys, prior, names, noise, slopes, gain)
