"""Why a car came out otherwise than predicted: what could explain it, ranked, with the cheapest test for each."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import degrees, exp, hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.car_heights import settle_car
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.outlook.sitting import (
    CORNERS,
    Sitting,
    SprungCar,
)
from fair_spindle.core.threads import FLAT

Array = NDArray[np.float64]
WORTH_TELLING = 0.03
MOST_TOLD = 6


@dataclass(frozen=True)
class Miss:
    """A wheel that came out otherwise: by how much, and the ± of it. [mm]"""

    key: str
    miss: float
    plus_minus: float

    @property
    def beyond(self) -> bool:
        """Larger than its ±."""
        return abs(self.miss) > self.plus_minus


@dataclass(frozen=True)
class Cause:
    """A kind of cause: how far off such a thing usually is, how common it is, in words, and its cheapest test.

    ``spread`` in units of the input, or as a multiple of the input's own standard uncertainty where negative; a
    motion ratio is so often guessed that its own ± is not trusted here.
    """

    name: str
    ending: str
    spread: float
    common: float
    words: str
    test: str
    minutes: int
    only_up: bool = False


CAUSES = (
    Cause(
        "ratio",
        "motion_ratio",
        0.1,
        1.0,
        "the motion ratio is otherwise than entered",
        "Jack that wheel by 30 mm and read the spring's length before and after.",
        10,
    ),
    Cause(
        "seat",
        "new_seat",
        8.0,
        0.8,
        "a spring is not down in its seat, or its coil end lies on its stop",
        "Turn the spring by hand and look at both coil ends with a lamp.",
        3,
        only_up=True,
    ),
    Cause(
        "bar",
        "bar.gap",
        8.0,
        0.5,
        "a bar link is forced on",
        "Take one link off: does the car level?",
        5,
    ),
    Cause(
        "rate",
        "new_spring.rate",
        -3.0,
        0.5,
        "the new spring is of another rate than printed",
        "Stand a known weight on it and read the length, or have it pressed.",
        15,
    ),
    Cause(
        "old_rate",
        ".spring.rate",
        -3.0,
        0.4,
        "the old spring was of another rate than entered",
        "Wire, coils and diameter of the old spring by caliper.",
        5,
    ),
    Cause(
        "free",
        "new_spring.free",
        -3.0,
        0.4,
        "the new spring is of another length than entered",
        "Read the free length of its twin, or of this one when it is out.",
        5,
    ),
    Cause(
        "load",
        ".load",
        -3.0,
        0.5,
        "the wheel load is otherwise: fuel, load in the boot, scales",
        "Fuel and load as in the baseline? Weigh again.",
        10,
    ),
)
READING = Cause(
    "reading",
    "",
    4.0,
    0.8,
    "the height was read wrong, before or after",
    "Roll, bounce, read that height again.",
    2,
)
RUBBER = Cause(
    "rubber",
    "",
    6.0,
    0.6,
    "rubber was clamped off its height and holds the wheel",
    "Loosen its bolts, settle, read again, torque at height.",
    15,
    only_up=True,
)


@dataclass(frozen=True)
class Explanation:
    """One explanation: its cause and where, how far off the input would be, how much it explains, its share."""

    cause: Cause
    key: str
    amount: float
    left: float
    share: float


def misses_of(sitting: Sitting, after: Mapping[str, Quantity]) -> list[Miss]:
    """Measured against predicted heights.

    Parameters
    ----------
    sitting : Sitting
        The prediction. [mm]
    after : mapping of Quantity
        Heights after settling, by wheel. [mm]

    Returns
    -------
    list of Miss
        For every wheel that was predicted and read.

    Raises
    ------
    Nothing.

    Notes
    -----
    The ± holds the prediction's and the reading's, coverage factor 2.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> misses_of(Sitting(), {})
    []
    """
    found = []
    for one in sitting.wheels:
        read = after.get(one.key)
        if read is not None and one.predicted is not None:
            open_ = hypot(one.predicted_plus_minus, COVERAGE * read.uncertainty)
            found.append(Miss(one.key, read.value - one.predicted, open_))
    return found


def explain_heights(
    car: SprungCar, before: Mapping[str, Quantity], after: Mapping[str, Quantity], misses: Sequence[Miss]
) -> list[Explanation]:
    """Rank what could explain heights that came out otherwise.

    Parameters
    ----------
    car : SprungCar
        Inputs with their uncertainties. [-]
    before, after : mapping of Quantity
        Heights read in the baseline and after settling, by wheel. [mm]
    misses : sequence of Miss
        What is to be explained; nothing is where none is larger than its ±. [mm]

    Returns
    -------
    list of Explanation
        The likeliest first; shares add up to at most one.

    Raises
    ------
    Nothing.

    Notes
    -----
    For each single cause the amount is fitted that explains the misses of all wheels best, held back by how far off
    such a thing usually is: χ² = Σ((m − J·δ)/u)² + (δ/s)².  Shares go with exp(−χ²/2) and with how common the cause
    is; spreads and commonness are the product's own values.  J is the car's own model.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> explain_heights(SprungCar({}, lambda values: None, ("car.loads",)), {}, {}, [])
    []
    """
    if car.lacks or car.problem or not any(one.beyond for one in misses):
        return []
    wheels = [CORNERS.index(one.key) for one in misses]
    off = np.array([one.miss for one in misses])
    noise = np.array([max(0.3, hypot(after[m.key].uncertainty, before[m.key].uncertainty)) for m in misses])
    tried = list(_inputs(car, wheels)) + list(_wheels(len(off), misses))
    told = [_fit(cause, key, column, spread, off, noise) for cause, key, column, spread in tried]
    best = min((chi for _, chi in told), default=0.0)
    weights = [one.cause.common * exp(-(chi - best) / 2) for one, chi in told]
    whole = sum(weights) or 1.0
    ranked = sorted(
        (
            Explanation(one.cause, one.key, one.amount, one.left, weight / whole)
            for (one, _), weight in zip(told, weights, strict=True)
        ),
        key=lambda one: -one.share,
    )
    return [one for one in ranked if one.share >= WORTH_TELLING][:MOST_TOLD]


def _inputs(car: SprungCar, wheels: Sequence[int]) -> Iterator[tuple[Cause, str, Array, float]]:
    """Each input that could be wrong, and what a unit of it does to the wheels that were read."""
    keys = [(key, cause) for key in car.inputs for cause in CAUSES if key.endswith(cause.ending)]
    keys = [(key, next(c for k, c in keys if k == key)) for key in dict.fromkeys(key for key, _ in keys)]
    steps = {key: _step(car.inputs[key], cause) for key, cause in keys}
    rows = len(keys) + 1
    values = {key: np.full(rows, car.inputs[key].value) for key, _ in keys}
    for row, (key, _) in enumerate(keys, start=1):
        values[key][row] += steps[key] / 10
    try:
        held = car.build(values)
        found = settle_car(held.stance, held.loads, held.unsprung, held.legs).height_change
    except (InputError, NoSolution):
        return
    for row, (key, cause) in enumerate(keys, start=1):
        slope = (found[row] - found[0])[list(wheels)] / (steps[key] / 10)
        if np.any(np.abs(slope) > 1e-9):
            yield cause, key, slope, steps[key]


def _step(read: Quantity, cause: Cause) -> float:
    if cause.spread > 0:
        return cause.spread
    return -cause.spread * (read.uncertainty or 0.01 * abs(read.value) or 1.0)


def _wheels(count: int, misses: Sequence[Miss]) -> Iterator[tuple[Cause, str, Array, float]]:
    """What moves one wheel by itself."""
    for place, one in enumerate(misses):
        column = np.zeros(count)
        column[place] = 1.0
        yield READING, f"{one.key}.check_height", column, READING.spread
        yield RUBBER, one.key, column, RUBBER.spread


def _fit(cause: Cause, key: str, column: Array, spread: float, off: Array, noise: Array) -> tuple[Explanation, float]:
    weight = 1 / noise**2
    amount = float(np.sum(weight * column * off) / (np.sum(weight * column**2) + 1 / spread**2))
    if cause.only_up and amount < 0:
        amount = 0.0
    left = off - column * amount
    chi = float(np.sum(weight * left**2) + (amount / spread) ** 2)
    return Explanation(cause, key, amount, float(np.max(np.abs(left))), 0.0), chi


@dataclass(frozen=True)
class ToeExplanation:
    """One explanation of a toe that came out otherwise, with its cheapest test."""

    words: str
    test: str
    minutes: int
    share: float


def explain_toe(
    miss: float, plus_minus: float, per_turn: float, height_miss: float, slope: float, other_miss: float | None
) -> list[ToeExplanation]:
    """Rank what could explain a toe that came out otherwise.

    Parameters
    ----------
    miss, plus_minus : float
        Measured less predicted, and its ±. [rad]
    per_turn : float
        What one turn of the rod does to the toe, not 0. [rad]
    height_miss : float
        Height measured less predicted at the same wheel. [mm]
    slope : float
        Toe per height. [rad/mm]
    other_miss : float or None
        The miss at the other wheel of the axle. [rad]

    Returns
    -------
    list of ToeExplanation
        The likeliest first; empty where the miss lies inside its ±.

    Raises
    ------
    Nothing.

    Notes
    -----
    A miscount moves the toe by whole flats or turns; the height's share is slope times its miss; a crooked steering
    wheel moves both wheels alike and opposite.  Commonness is the product's own value.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> found = explain_toe(0.0100, 0.0006, 0.0100, 0.0, 0.0, 0.0)
    >>> found[0].words
    'the count is off by 1 turn'
    """
    if abs(miss) <= plus_minus:
        return []
    unit = max(plus_minus / COVERAGE, 1e-6)
    flats = round(miss / (per_turn * FLAT))
    counted = miss - flats * per_turn * FLAT
    by_height = miss - slope * height_miss
    told = []
    if flats:
        rare = 0.7 if flats % 6 == 0 else 0.4
        told.append((f"the count is off by {_turns(flats)}", _COUNT, 5, counted, rare))
    if abs(slope * height_miss) > unit:
        told.append(
            (f"the height came out {abs(height_miss):.0f} mm off, and toe follows it", _SLOPE, 3, by_height, 0.8)
        )
    if other_miss is not None and abs(other_miss) > unit:
        told.append(("the steering wheel was not straight when it was read", _WHEEL, 5, miss + other_miss, 0.7))
    minutes = degrees(abs(miss)) * 60
    told.append(("the toe was read wrong, before or after", _READ, 5, max(0.0, minutes - 12) / 12 * unit, 0.35))
    weights = [common * exp(-((left / unit) ** 2) / 2) for *_, left, common in told]
    whole = sum(weights) or 1.0
    ranked = sorted(
        (
            ToeExplanation(words, test, cost, weight / whole)
            for (words, test, cost, _, _), weight in zip(told, weights, strict=True)
        ),
        key=lambda one: -one.share,
    )
    return [one for one in ranked if one.share >= WORTH_TELLING]


_COUNT = "Measure centre to centre at both rods and set it against the plan."
_SLOPE = "Correct the height first; read toe again."
_WHEEL = "Hold the wheel straight with the strap and read both sides again."
_READ = "Settle, read again with another method."


def _turns(flats: int) -> str:
    turns, rest = divmod(abs(flats), 6)
    words = [f"{turns} turn{'s' if turns > 1 else ''}"] if turns else []
    words += [f"{rest} flat{'s' if rest > 1 else ''}"] if rest else []
    return " ".join(words)
