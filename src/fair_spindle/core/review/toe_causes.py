"""Why a wheel's toe came out otherwise than predicted: what could explain it, ranked, each with its cheapest test."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import degrees, exp, hypot

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import other_side
from fair_spindle.core.review.before_and_after import Beside, MovesToe
from fair_spindle.core.review.height_causes import WORTH_TELLING
from fair_spindle.core.turns.threads import FLAT


@value_object
class ToeExplanation:
    """One explanation of a toe that came out otherwise, with its cheapest test."""

    words: str
    test: str
    minutes: int
    share: float


def explain_toes(besides: Sequence[Beside], moves: Mapping[str, MovesToe]) -> dict[str, list[ToeExplanation]]:
    """Rank what could explain each toe that came out otherwise.

    Parameters
    ----------
    besides : sequence of Beside
        Every reading after the work, heights among them. [mm, rad]
    moves : mapping of MovesToe
        What moves the toe of each wheel. [rad, rad/mm]

    Returns
    -------
    dict
        By wheel, those that missed by more than their ±.

    Raises
    ------
    Nothing.

    Notes
    -----
    Only the front wheels can be turned by a steering wheel.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> explain_toes([], {})
    {}
    """
    heights = {beside.key: beside.miss for beside in besides if beside.name == "height"}
    toes = {beside.key: beside for beside in besides if beside.name == "toe"}
    found = {}
    for key, toe in toes.items():
        if toe.miss is None:
            continue
        axle, _, side = key.partition(".")
        other = toes.get(f"{axle}.{other_side(side)}")
        told = explain_toe(
            toe.miss,
            toe.plus_minus,
            moves[key],
            heights.get(key) or 0.0,
            other.miss if other else None,
            steers=axle == "front",
        )
        if told:
            found[key] = told
    return found


def explain_toe(
    miss: float,
    plus_minus: float,
    moves: MovesToe,
    height_miss: float,
    other_miss: float | None,
    *,
    steers: bool = True,
) -> list[ToeExplanation]:
    """Rank what could explain a toe that came out otherwise.

    Parameters
    ----------
    miss, plus_minus : float
        Measured less predicted, and its ±. [rad]
    moves : MovesToe
        What moves this wheel's toe. [rad, rad/mm]
    height_miss : float
        Height measured less predicted at the same wheel. [mm]
    other_miss : float or None
        The miss at the other wheel of the axle. [rad]
    steers : bool, optional
        Whether a steering wheel turns them. [-]

    Returns
    -------
    list of ToeExplanation
        The likeliest first; empty where the miss lies inside its ±.

    Raises
    ------
    Nothing.

    Notes
    -----
    A miscount moves the toe by whole flats or turns, and seldom both wheels alike; the height's share is slope times
    its miss; bump steer may be three times its standard uncertainty off; a crooked steering wheel moves both wheels
    alike and opposite.  Commonness is the product's own value.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> found = explain_toe(0.0100, 0.0006, MovesToe(0.0100, 0.0), 0.0, 0.0)
    >>> found[0].words
    'the count is off by 1 turn'
    """
    if abs(miss) <= plus_minus:
        return []
    unit = max(plus_minus / COVERAGE, 1e-6)
    per_flat = (moves.per_turn or 0.0) * FLAT
    flats = round(miss / per_flat) if per_flat else 0
    counted = miss - flats * per_flat
    by_height = miss - moves.per_height * height_miss
    told = []
    if flats:
        rare = 0.7 if flats % 6 == 0 else 0.4
        if other_miss is not None and miss * other_miss > 0 and abs(other_miss) > plus_minus:
            rare /= 2
        told.append((f"the count is off by {_turns(flats)}", _COUNT, 5, counted, rare))
    if abs(moves.per_height * height_miss) > unit:
        told.append(
            (f"the height came out {abs(height_miss):.0f} mm off, and toe follows it", _SLOPE, 3, by_height, 0.8)
        )
    spread = 3 * moves.by_slope
    if spread:
        amount = miss * spread**2 / (spread**2 + unit**2)
        off = hypot(miss - amount, unit * amount / spread)
        told.append(("bump steer is otherwise than believed", _TWO, 10, off, 0.7))
    if steers and other_miss is not None and abs(other_miss) > unit:
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
_TWO = "Read toe at two heights, with the rods left alone; or take what the readings teach below."
_WHEEL = "Hold the wheel straight with the strap and read both sides again."
_READ = "Settle, read again with another method."


def _turns(flats: int) -> str:
    turns, rest = divmod(abs(flats), 6)
    words = [f"{turns} turn{'s' if turns > 1 else ''}"] if turns else []
    words += [f"{rest} flat{'s' if rest > 1 else ''}"] if rest else []
    return " ".join(words)
