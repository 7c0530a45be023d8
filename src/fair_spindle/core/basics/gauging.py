"""What readings mean: repeats, spread, and how an uncertainty travels through a calculation.

After the JCGM 100 guide (GUM): type A from repeats, type B from the instrument, combined in
quadrature, and stated to the user as ± with coverage factor 2.
"""

from __future__ import annotations

import math
import statistics
from bisect import bisect_right
from collections.abc import Callable, Mapping

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import Inconsistent, require
from fair_spindle.core.basics.tables import student_t
from fair_spindle.core.basics.value_object import value_object

COVERAGE = 2.0
Array = NDArray[np.float64]


@value_object
class Reading:
    """Repeats taken together: mean, spread (largest − smallest), standard uncertainty."""

    mean: float
    spread: float
    uncertainty: float
    count: int


@value_object
class Expanded:
    """A reading stated with about 95 % confidence: its parts, degrees of freedom, k and ±."""

    type_a: float
    type_b: float
    freedom: float
    coverage: float
    plus_minus: float


@value_object
class Shifted:
    """Inputs of a calculation, best and shifted one by one; ``names`` are those that were shifted."""

    inputs: dict[str, Array]
    names: tuple[str, ...]


@value_object
class Propagated:
    """A computed value, its ± (coverage 2) and each input's share of the variance."""

    value: float
    plus_minus: float
    shares: dict[str, float]


def instrument_uncertainty(
    half_width: float = 0.0, resolution: float = 0.0, expanded: float = 0.0, coverage: float = COVERAGE
) -> float:
    """Type B standard uncertainty of one reading: what repeating it cannot show.

    Parameters
    ----------
    half_width : float, optional
        Half-width a of an interval the true value lies in, >= 0. [as the reading]
    resolution : float, optional
        Smallest step δ the display shows, >= 0. [as the reading]
    expanded : float, optional
        Expanded uncertainty U from the calibration certificate, >= 0. [as the reading]
    coverage : float, optional
        Coverage factor k that U was stated with, > 0. [-]

    Returns
    -------
    float
        Standard uncertainty. [as the reading]

    Raises
    ------
    OutOfRange
        A negative width, or a coverage factor that is not above zero.

    Notes
    -----
    u² = a²/3 + δ²/12 + (U/k)²: rectangular distributions (clauses 4.3.7 and F.2.2.1) and a
    certificate (clause 4.3.3).

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> round(instrument_uncertainty(resolution=1.0), 3)
    0.289
    """
    for name, size in (("half_width", half_width), ("resolution", resolution), ("expanded", expanded)):
        require(size >= 0, name, "What an instrument leaves open cannot be negative", size)
    require(coverage > 0, "coverage", "A coverage factor must be above 0", coverage)
    return math.sqrt(half_width**2 / 3 + resolution**2 / 12 + (expanded / coverage) ** 2)


def combine_repeats(readings: ArrayLike, type_b: float) -> Reading:
    """Combine repeated readings with what the instrument itself leaves open.

    Parameters
    ----------
    readings : array_like
        One or more readings of one thing, shape (n,). [any]
    type_b : float
        Standard uncertainty of the instrument, >= 0; repeating does not lessen it. [as readings]

    Returns
    -------
    Reading
        Mean, spread and combined standard uncertainty. [as readings]

    Raises
    ------
    OutOfRange
        No reading, or a negative uncertainty.

    Notes
    -----
    u² = s²/n + u_B²: the experimental standard deviation of the mean (clause 4.2.3) and type B.
    A single reading has the second term only.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> reading = combine_repeats([372.0, 374.0, 373.0], instrument_uncertainty(half_width=1.0))
    >>> reading.mean, reading.spread, round(reading.uncertainty, 4)
    (373.0, 2.0, 0.8165)
    """
    values = [float(reading) for reading in np.ravel(readings)]
    require(values, "readings", "At least one reading is needed", "none")
    require(type_b >= 0, "type_b", "An uncertainty cannot be negative", type_b)
    type_a = statistics.variance(values) / len(values) if len(values) > 1 else 0.0
    combined = math.sqrt(type_a + type_b**2)
    return Reading(statistics.fmean(values), max(values) - min(values), combined, len(values))


def expand(reading: Reading, type_b: float) -> Expanded:
    """State a combined reading with about 95 % confidence, few repeats allowed for.

    Parameters
    ----------
    reading : Reading
        Repeats combined with `type_b`. [any]
    type_b : float
        The instrument's standard uncertainty, taken as well known. [as reading]

    Returns
    -------
    Expanded
        Type A and B parts, degrees of freedom, coverage factor and expanded uncertainty.

    Raises
    ------
    Nothing.

    Notes
    -----
    Welch-Satterthwaite with infinite degrees of freedom for type B: ν_eff = u⁴ (n − 1) / u_A⁴;
    k is Student's t for 95.45 % at ν_eff truncated to a printed row (clauses G.4 and G.6.4).

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> u = instrument_uncertainty(resolution=1.0)
    >>> expand(combine_repeats([372.0, 374.0, 373.0], u), u).coverage
    3.31
    """
    type_a = math.sqrt(max(reading.uncertainty**2 - type_b**2, 0.0)) if reading.count > 1 else 0.0
    freedom = (reading.uncertainty / type_a) ** 4 * (reading.count - 1) if type_a else math.inf
    coverage = student_coverage(freedom)
    return Expanded(type_a, type_b, freedom, coverage, coverage * reading.uncertainty)


def student_coverage(freedom: float) -> float:
    """Coverage factor for about 95 % at a number of degrees of freedom.

    Parameters
    ----------
    freedom : float
        Degrees of freedom, >= 1; infinite is allowed. [-]

    Returns
    -------
    float
        Student's t for 95.45 %, at the largest printed row not above `freedom`. [-]

    Raises
    ------
    OutOfRange
        Fewer than one degree of freedom.

    Notes
    -----
    Table G.2; rows lie beside the core in ``tables/student_t.csv``.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> student_coverage(2.9), student_coverage(math.inf)
    (4.53, 2.0)
    """
    require(freedom >= 1 - 1e-9, "freedom", "At least one degree of freedom is needed", freedom)
    rows = student_t()
    known = tuple(rows)
    return rows[known[bisect_right(known, freedom + 1e-9) - 1]]


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


def slope_from_two(height_1: float, toe_1: float, height_2: float, toe_2: float) -> float:
    """Bump-steer slope from toe read at two hub-to-arch heights.

    Parameters
    ----------
    height_1, height_2 : float
        Hub-to-arch heights, not the same. [mm]
    toe_1, toe_2 : float
        Toe of the wheel at each. [rad]

    Returns
    -------
    float
        Toe per wheel travel, bump positive. [rad/mm]

    Raises
    ------
    Inconsistent
        Both heights are the same.

    Notes
    -----
    A smaller hub-to-arch height is more bump: slope = (toe₂ − toe₁) / (height₁ − height₂).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(slope_from_two(370.0, 0.002, 350.0, 0.001), 7)
    -5e-05
    """
    travel = height_1 - height_2
    require(travel != 0, "height_2", "The two heights must differ", f"{height_2:g} mm twice", kind=Inconsistent)
    return (toe_2 - toe_1) / travel
