"""Why a car came out higher or lower than predicted: what could explain it, ranked, each with its cheapest test."""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping, Sequence
from math import exp, hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.height_model import HeightModel
from fair_spindle.core.review.before_and_after import Beside

Array = NDArray[np.float64]
WORTH_TELLING = 0.03
MOST_TOLD = 6


@value_object
class Cause:
    """A kind of cause: how far off such a thing usually is, how common it is, in words, and its cheapest test.

    ``spread`` in units of the input, or as a multiple of the input's own standard uncertainty where negative; a
    motion ratio is so often guessed that its own ± is not trusted here.
    """

    name: str
    endings: tuple[str, ...]
    spread: float
    common: float
    words: str
    test: str
    minutes: int
    only_up: bool = False


SEAT = Cause(
    "seat",
    ("new_seat",),
    8.0,
    0.8,
    "a spring is not down in its seat, or its coil end lies on its stop",
    "Turn the spring by hand and look at both coil ends with a lamp.",
    3,
    only_up=True,
)
CAUSES = (
    Cause(
        "ratio",
        ("motion_ratio",),
        0.1,
        1.0,
        "the motion ratio is otherwise than entered",
        "Jack that wheel by 30 mm and read the spring's length before and after.",
        10,
    ),
    SEAT,
    Cause(
        "bar",
        ("bar.gap",),
        8.0,
        0.5,
        "a bar link is forced on",
        "Take one link off: does the car level?",
        5,
    ),
    Cause(
        "rate",
        ("new_spring.rate",),
        -3.0,
        0.5,
        "the new spring is of another rate than printed",
        "Stand a known weight on it and read the length, or have it pressed.",
        15,
    ),
    Cause(
        "old_rate",
        (".spring.rate",),
        -3.0,
        0.4,
        "the old spring was of another rate than entered",
        "Wire, coils and diameter of the old spring by caliper.",
        5,
    ),
    Cause(
        "free",
        ("new_spring.free",),
        -3.0,
        0.4,
        "the new spring is of another length than entered",
        "Read the free length of its twin, or of this one when it is out.",
        5,
    ),
    Cause(
        "load",
        (".load", ".sprung_load"),
        -3.0,
        0.5,
        "the wheel load is otherwise: fuel, load in the boot, scales",
        "Fuel and load as in the baseline? Weigh again.",
        10,
    ),
)
READING = Cause(
    "reading",
    (),
    4.0,
    0.8,
    "the height was read wrong, before or after",
    "Roll, bounce, read that height again.",
    2,
)
RUBBER = Cause(
    "rubber",
    (),
    6.0,
    0.6,
    "rubber was clamped off its height and holds the wheel",
    "Loosen its bolts, settle, read again, torque at height.",
    15,
    only_up=True,
)


@value_object
class Explanation:
    """One explanation: its cause and where, how far off the input would be, how much it explains, its share."""

    cause: Cause
    key: str
    amount: float
    left: float
    share: float


def explain_heights(
    model: HeightModel | None, before: Mapping[str, Quantity], after: Mapping[str, Quantity], misses: Sequence[Beside]
) -> list[Explanation]:
    """Rank what could explain heights that came out otherwise.

    Parameters
    ----------
    model : HeightModel or None
        What decides the heights. [-]
    before, after : mapping of Quantity
        Heights read in the baseline and after settling, by wheel. [mm]
    misses : sequence of Beside
        Heights to be explained; nothing is where none is larger than its ±. [mm]

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
    is; spreads and commonness are the product's own values.  J is the model's own.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> explain_heights(None, {}, {}, [])
    []
    """
    ours = model.wheels if model else ()
    missed = {miss.key: miss.miss for miss in misses if miss.miss is not None and miss.key in ours}
    if model is None or not any(miss.beyond for miss in misses):
        return []
    wheels = [model.wheels.index(key) for key in missed]
    off = np.array(list(missed.values()))
    noise = np.array([max(0.3, hypot(after[key].uncertainty, before[key].uncertainty)) for key in missed])
    tried = list(_inputs(model, wheels)) + list(_wheels(list(missed), model.inputs))
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


def _inputs(model: HeightModel, wheels: Sequence[int]) -> Iterator[tuple[Cause, str, Array, float]]:
    """Each input that could be wrong, and what a unit of it does to the wheels that were read."""
    keys = [(key, cause) for key in model.inputs for cause in CAUSES if key.endswith(cause.endings)]
    keys = [(key, next(c for k, c in keys if k == key)) for key in dict.fromkeys(key for key, _ in keys)]
    steps = {key: _step(model.inputs[key], cause) for key, cause in keys}
    rows = len(keys) + 1
    values = {key: np.full(rows, model.inputs[key].value) for key, _ in keys}
    for row, (key, _) in enumerate(keys, start=1):
        values[key][row] += steps[key] / 10
    try:
        found = model.change(values)
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


def _wheels(keys: Sequence[str], told: Container[str]) -> Iterator[tuple[Cause, str, Array, float]]:
    """What moves one wheel by itself."""
    for place, key in enumerate(keys):
        column = np.zeros(len(keys))
        column[place] = 1.0
        if f"{key}.new_seat" not in told:
            yield SEAT, key, column, SEAT.spread
        yield READING, f"{key}.check_height", column, READING.spread
        yield RUBBER, key, column, RUBBER.spread


def _fit(cause: Cause, key: str, column: Array, spread: float, off: Array, noise: Array) -> tuple[Explanation, float]:
    weight = 1 / noise**2
    amount = float(np.sum(weight * column * off) / (np.sum(weight * column**2) + 1 / spread**2))
    if cause.only_up and amount < 0:
        amount = 0.0
    left = off - column * amount
    chi = float(np.sum(weight * left**2) + (amount / spread) ** 2)
    return Explanation(cause, key, amount, float(np.max(np.abs(left))), 0.0), chi
