"""What readings mean: repeats, spread, and how an uncertainty travels through a calculation.

After the JCGM 100 guide (GUM): type A from repeats, type B from the instrument, combined in
quadrature, and stated to the user as ± with coverage factor 2.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.errors import Inconsistent, require

COVERAGE = 2.0
Array = NDArray[np.float64]


@dataclass(frozen=True)
class Reading:
    """Repeats taken together: mean, spread (largest − smallest), standard uncertainty."""

    mean: float
    spread: float
    uncertainty: float
    count: int


@dataclass(frozen=True)
class Shifted:
    """Inputs of a calculation, best and shifted one by one; ``names`` are those that were shifted."""

    inputs: dict[str, Array]
    names: tuple[str, ...]


@dataclass(frozen=True)
class Propagated:
    """A computed value, its ± (coverage 2) and each input's share of the variance."""

    value: float
    plus_minus: float
    shares: dict[str, float]


def combine_repeats(readings: ArrayLike, instrument_half_width: float) -> Reading:
    """Combine repeated readings with what the instrument itself leaves open.

    Parameters
    ----------
    readings : array_like
        One or more readings of one thing, shape (n,). [any]
    instrument_half_width : float
        Half-width a of the interval the instrument leaves open, >= 0. [as readings]

    Returns
    -------
    Reading
        Mean, spread and combined standard uncertainty. [as readings]

    Raises
    ------
    OutOfRange
        No reading, or a negative half-width.

    Notes
    -----
    u² = s²/n + a²/3: the experimental standard deviation of the mean (clause 4.2.3) and a
    rectangular distribution (clause 4.3.7).  A single reading has the second term only.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> reading = combine_repeats([372.0, 374.0, 373.0], 1.0)
    >>> reading.mean, reading.spread, round(reading.uncertainty, 4)
    (373.0, 2.0, 0.8165)
    """
    values = [float(reading) for reading in np.ravel(readings)]
    require(values, "readings", "At least one reading is needed", "none")
    require(
        instrument_half_width >= 0,
        "instrument_half_width",
        "The instrument's half-width cannot be negative",
        instrument_half_width,
    )
    type_a = statistics.variance(values) / len(values) if len(values) > 1 else 0.0
    combined = math.sqrt(type_a + instrument_half_width**2 / 3)
    return Reading(statistics.fmean(values), max(values) - min(values), combined, len(values))


def shift_inputs(values: Mapping[str, float], uncertainties: Mapping[str, float]) -> Shifted:
    """Lay out inputs at their best values and shifted one by one, for :func:`propagate`.

    Parameters
    ----------
    values : mapping
        Best value of each input. [any]
    uncertainties : mapping
        Standard uncertainty of those inputs that have one, >= 0. [as values]

    Returns
    -------
    Shifted
        Arrays of shape (1 + 2 m,) for m uncertain inputs: best, then up and down for each.

    Raises
    ------
    Nothing.

    Notes
    -----
    Each input is moved by one standard uncertainty while the others stay.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> shift_inputs({"a": 2.0}, {"a": 0.5}).inputs["a"].tolist()
    [2.0, 2.5, 1.5]
    """
    names = tuple(name for name, size in uncertainties.items() if size > 0)
    inputs = {name: np.full(1 + 2 * len(names), float(value)) for name, value in values.items()}
    for place, name in enumerate(names):
        inputs[name][1 + 2 * place] += uncertainties[name]
        inputs[name][2 + 2 * place] -= uncertainties[name]
    return Shifted(inputs, names)


def propagate(rule: Callable[[Mapping[str, Array]], Array], shifted: Shifted) -> Propagated:
    """Carry standard uncertainties of independent inputs through a calculation.

    Parameters
    ----------
    rule : callable
        Takes a mapping of arrays of shape (n,) and returns an array of shape (n,). [any]
    shifted : Shifted
        Inputs as :func:`shift_inputs` lays them out. [any]

    Returns
    -------
    Propagated
        Value at the best inputs, ± with coverage factor 2, shares of the variance that add
        up to 1, of those inputs that matter.

    Raises
    ------
    SpindleError
        Whatever `rule` raises at a shifted input.

    Notes
    -----
    Clause 5.1.3, note 2: each sensitivity from a central difference one standard uncertainty
    to either side, all in one call of `rule`.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> inputs = shift_inputs({"a": 2.0, "b": 3.0}, {"a": 0.1})
    >>> round(propagate(lambda q: q["a"] * q["b"], inputs).plus_minus, 9)
    0.6
    """
    out = np.broadcast_to(np.asarray(rule(shifted.inputs), dtype=float), (1 + 2 * len(shifted.names),))
    effects = (out[1::2] - out[2::2]) / 2
    variance = float(effects @ effects)
    shares = {n: float(e**2 / variance) for n, e in zip(shifted.names, effects, strict=True) if e}
    return Propagated(float(out[0]), COVERAGE * variance**0.5, shares)


def slope_from_two(
    height_1: float,
    toe_1: float,
    height_2: float,
    toe_2: float,
    height_uncertainty: float,
    toe_uncertainty: float,
) -> tuple[float, float]:
    """Bump-steer slope from toe read at two hub-to-arch heights.

    Parameters
    ----------
    height_1, height_2 : float
        Hub-to-arch heights, at least 5 mm apart. [mm]
    toe_1, toe_2 : float
        Toe of the wheel at each. [rad]
    height_uncertainty, toe_uncertainty : float
        Standard uncertainty of one height and of one toe reading. [mm, rad]

    Returns
    -------
    tuple of float
        Toe per wheel travel, bump positive, and its standard uncertainty. [rad/mm]

    Raises
    ------
    Inconsistent
        The heights are too close to say anything.

    Notes
    -----
    A smaller hub-to-arch height is more bump: slope = (toe₂ − toe₁) / (height₁ − height₂).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> slope, u = slope_from_two(370.0, 0.002, 350.0, 0.001, 0.5, 0.0002)
    >>> round(slope, 7)
    -5e-05
    """
    travel = height_1 - height_2
    require(
        abs(travel) >= 5,
        "bump_slope",
        "The two heights must be at least 5 mm apart",
        f"{abs(travel):g} mm apart",
        "Pull the body down or raise it further for the second reading.",
        kind=Inconsistent,
    )
    slope = (toe_2 - toe_1) / travel
    spread = np.hypot(toe_uncertainty, slope * height_uncertainty) * np.sqrt(2) / abs(travel)
    return float(slope), float(spread)
