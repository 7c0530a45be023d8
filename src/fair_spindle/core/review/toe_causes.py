"""Why the toes of an axle came out otherwise than predicted: causes that compete for all readings of it together."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from math import hypot, log

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, wheels_at
from fair_spindle.core.review.before_and_after import Beside, MovesToe, Name
from fair_spindle.core.review.height_causes import WORTH_TELLING
from fair_spindle.core.turns.threads import FLAT

Array = NDArray[np.float64]
MINUTE = to_core(1, "min")
# How far a thing is usually off where it is wrong: a toe as read, a gauge, a wheel held crooked, a rod that slipped,
# a bent arm in toe and camber; a car that had not settled stands high by so much.  The product's own. [rad, mm]
MISREAD, GAUGE_OFF, CROOKED, SLIPPED = 15 * MINUTE, 12 * MINUTE, 8 * MINUTE, 15 * MINUTE
# What no cause explains: far more than any of them does.
ODD = 75 * MINUTE
BENT_TOE, BENT_CAMBER = 20 * MINUTE, 40 * MINUTE
STANDS_HIGH, HIGH_OPEN, RATIO_HIGH = 5.0, 2.0, 10.0
# Threads that are taken for one another, as shares of the pitch that was told; what a fixed pattern leaves open.
OTHER_PITCHES = (1.0 / 1.5, 1.25 / 1.5, 1.75 / 1.5, 2.0 / 1.5, 1.5 / 1.25, 1.5 / 1.75, 1.5 / 2.0)
PATTERN_OPEN, LEVER_OFF = 0.06, 0.15
MOST_TOLD, LEAST_TURNED = 4, 3 * MINUTE
LEAST = 0.3 * MINUTE


@value_object
class ToeExplanation:
    """One explanation of a toe that came out otherwise, with its cheapest test; whether it is of a reading alone."""

    words: str
    test: str
    minutes: int
    share: float
    of_reading: bool = False


@value_object
class _Cause:
    """A cause: what it does to every reading of the axle for a unit of it, how much of it there usually is, how
    often.

    ``column`` goes by reading: toe and camber of left and right, their heights, the steering wheel. ``wheels`` are
    those it is told at.
    """

    words: str
    test: str
    minutes: int
    common: float
    column: Mapping[str, float]
    amount: float
    spread: float
    wheels: tuple[int, ...]
    of_reading: bool = False


def explain_toes(
    besides: Sequence[Beside], moves: Mapping[str, MovesToe], steered: float | None = None, ratio: float = 15.0
) -> dict[str, list[ToeExplanation]]:
    """Rank what could explain each toe that came out otherwise.

    Parameters
    ----------
    besides : sequence of Beside
        Every reading after the work, heights and cambers among them. [mm, rad]
    moves : mapping of MovesToe
        What moves the toe of each wheel. [rad, rad/mm]
    steered : float, optional
        By how much the steering wheel stands off what the predicted toes of the front would have it at. [rad]
    ratio : float, optional
        Steering ratio. [-]

    Returns
    -------
    dict
        By wheel, those that missed by more than their ±.

    Raises
    ------
    Nothing.

    Notes
    -----
    Each cause is a pattern over all readings of an axle: what it would do to both toes, both heights, both cambers
    and the steering wheel, by a usual amount and its spread.  Its weight is how common it is times the density of
    what was read, normal about its pattern, with what readings and prediction leave open anyway: what both wheels
    share is shared.  A cause that moves the wheels turns the steering wheel, too; one that is a reading's own does
    not.  How common each is, is the product's own.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> explain_toes([], {})
    {}
    """
    found: dict[str, list[ToeExplanation]] = {}
    for axle in AXLES:
        rows = {(beside.key, beside.name): beside for beside in besides if beside.key.startswith(axle)}
        missed = [key for key in wheels_at(axle) if (toe := rows.get((key, "toe"))) and toe.beyond]
        if missed:
            found |= _explained(axle, missed, rows, moves, steered if axle == "front" else None, ratio)
    return found


def _explained(
    axle: str,
    missed: Sequence[str],
    rows: Mapping[tuple[str, Name], Beside],
    moves: Mapping[str, MovesToe],
    steered: float | None,
    ratio: float,
) -> dict[str, list[ToeExplanation]]:
    sides = [_Side(key, rows, moves.get(key, MovesToe(None, 0.0))) for key in wheels_at(axle)]
    read = {name: value for place, side in enumerate(sides) for name, value in side.read(place)}
    if steered is not None:
        read["wheel"] = (steered, to_core(0.7, "deg"))
    names = list(read)
    off = np.array([value for value, _ in read.values()])
    spread = np.diag(np.array([size for _, size in read.values()]) ** 2) + _shared(names, sides)
    causes = [_steers(cause, ratio) for cause in _causes(axle, sides)]
    weights = np.array([_density(cause, names, off, spread) + log(cause.common) for cause in causes])
    shares = np.exp(weights - np.max(weights, initial=-np.inf))
    shares = shares / np.sum(shares)
    told: dict[str, list[ToeExplanation]] = {}
    for place, key in enumerate(wheels_at(axle)):
        if key not in missed:
            continue
        by_words: dict[str, ToeExplanation] = {}
        for cause, share in zip(causes, shares, strict=True):
            if place in cause.wheels and share > by_words.get(cause.words, _NONE).share:
                told_at = ToeExplanation(cause.words, cause.test, cause.minutes, float(share), cause.of_reading)
                by_words[cause.words] = told_at
        ranked = sorted(by_words.values(), key=lambda one: -one.share)
        told[key] = [one for one in ranked if one.share >= WORTH_TELLING][:MOST_TOLD]
    return told


_NONE = ToeExplanation("", "", 0, 0.0)


class _Side:
    """What was read at one wheel of an axle, and what moves it."""

    def __init__(self, key: str, rows: Mapping[tuple[str, Name], Beside], moves: MovesToe) -> None:
        self.key, self.rows, self.moves = key, rows, moves

    def read(self, place: int) -> Iterator[tuple[str, tuple[float, float]]]:
        """Misses by name, each with what reading and prediction leave open of it at this wheel alone."""
        names: tuple[Name, ...] = ("toe", "height", "camber")
        for name in names:
            beside = self.rows.get((self.key, name))
            if beside is None or beside.miss is None or beside.read is None:
                continue
            own = beside.plus_minus / COVERAGE
            if name == "toe":
                own = max(own**2 - self.moves.by_slope**2, LEAST**2) ** 0.5
            yield f"{name} {place}", (beside.miss, max(own, LEAST if name != "height" else 0.3))

    @property
    def per_flat(self) -> float:
        """What a flat of its rod does to its toe. [rad]"""
        return (self.moves.per_turn or 0.0) * FLAT

    @property
    def turned(self) -> float:
        """Toe that was brought by what was turned. [rad]"""
        return self.moves.turned


def _shared(names: Sequence[str], sides: Sequence[_Side]) -> Array:
    """What both wheels share of what is open: a bump steer otherwise than believed, of one design."""
    column = np.array([sides[int(name[-1])].moves.by_slope if name.startswith("toe") else 0.0 for name in names])
    return np.outer(column, column)


def _density(cause: _Cause, names: Sequence[str], off: Array, spread: Array) -> float:
    """Logarithm of the density of what was read, were this the cause."""
    column = np.array([cause.column.get(name, 0.0) for name in names])
    around = spread + cause.spread**2 * np.outer(column, column)
    left = off - cause.amount * column
    _, size = np.linalg.slogdet(around)
    return float(-(left @ np.linalg.solve(around, left) + size) / 2)


def _steers(cause: _Cause, ratio: float) -> _Cause:
    """A cause with what it does to the steering wheel: nothing where it is a reading's own."""
    if cause.of_reading:
        return cause
    half = (cause.column.get("toe 0", 0.0) - cause.column.get("toe 1", 0.0)) / 2
    return _Cause(
        cause.words,
        cause.test,
        cause.minutes,
        cause.common,
        {**cause.column, "wheel": -ratio * half},
        cause.amount,
        cause.spread,
        cause.wheels,
    )


def _causes(axle: str, sides: Sequence[_Side]) -> Iterator[_Cause]:
    for place, side in enumerate(sides):
        yield from _of_one(place, side)
    yield from _of_turning(sides)
    yield from _of_heights(sides)
    yield _Cause(
        "the gauge reads both wheels off alike",
        _TURN_ROUND,
        5,
        0.3,
        {"toe 0": 1.0, "toe 1": 1.0},
        0.0,
        GAUGE_OFF,
        (0, 1),
        of_reading=True,
    )
    for other in (1.0, -1.0):
        both = {"toe 0": 1.0, "toe 1": other}
        yield _Cause("something that is not listed here moved both wheels", _LENGTHS, 5, 0.02, both, 0.0, ODD, (0, 1))
    if axle == "front":
        yield _Cause(
            "the steering wheel was not straight when it was read",
            _STRAP,
            5,
            0.4,
            {"toe 0": 1.0, "toe 1": -1.0},
            0.0,
            CROOKED,
            (0, 1),
            of_reading=True,
        )
    slopes = {f"toe {place}": side.moves.by_slope for place, side in enumerate(sides)}
    if any(slopes.values()):
        yield _Cause("bump steer is otherwise than believed", _TWO_HEIGHTS, 10, 0.25, slopes, 0.0, 3.0, (0, 1))


def _of_one(place: int, side: _Side) -> Iterator[_Cause]:
    """What goes wrong at one wheel by itself."""
    toe, only = f"toe {place}", (place,)
    yield _Cause(
        "this toe was read wrong: a string bumped, a gauge that slipped",
        _READ_AGAIN,
        3,
        0.45,
        {toe: 1.0},
        0.0,
        MISREAD,
        only,
        of_reading=True,
    )
    yield _Cause(
        "a jam nut was left loose, and the rod turned by itself", _JAM_NUT, 2, 0.35, {toe: 1.0}, 0.0, SLIPPED, only
    )
    yield _Cause("something that is not listed here moved this wheel", _LENGTHS, 5, 0.02, {toe: 1.0}, 0.0, ODD, only)
    yield _Cause("a joint has play", _SHAKE, 3, 0.06, {toe: 1.0}, 0.0, 8 * MINUTE, only)
    bent = {toe: 1.0, f"camber {place}": BENT_CAMBER / BENT_TOE}
    yield _Cause("an arm or the upright is bent", _COMPARE, 10, 0.05, bent, 0.0, BENT_TOE, only)
    other = {toe: 1.0, f"camber {place}": -BENT_CAMBER / BENT_TOE}
    yield _Cause("an arm or the upright is bent", _COMPARE, 10, 0.05, other, 0.0, BENT_TOE, only)
    if side.moves.by_slope:
        slipped = {toe: side.moves.by_slope}
        yield _Cause("a point of this wheel was measured wrong", _POINT, 10, 0.25, slipped, 0.0, 4.0, only)
    if abs(side.per_flat) > LEAST:
        for flats, common in ((1, 0.05), (2, 0.02), (3, 0.015), (6, 0.12), (12, 0.03)):
            for sign in (1, -1):
                amount = sign * flats * side.per_flat
                words = f"the count is off by {_turns(flats)}"
                yield _Cause(words, _COUNT, 5, common, {toe: 1.0}, amount, abs(amount) * PATTERN_OPEN, only)
    if abs(side.turned) > LEAST_TURNED:
        yield from _of_a_rod({toe: side.turned}, only, ways=(0.12, 0.12, 0.06))


def _of_turning(sides: Sequence[_Side]) -> Iterator[_Cause]:
    """What goes wrong with the turns of both wheels together."""
    turned = {f"toe {place}": side.turned for place, side in enumerate(sides)}
    size = hypot(*turned.values())
    if size <= LEAST_TURNED:
        return
    yield from _of_a_rod(turned, (0, 1), ways=(0.25, 0.1, 0.1))
    for share in OTHER_PITCHES:
        yield _Cause(
            "the thread has another pitch than was told", _PITCH, 2, 0.06, turned, share - 1, PATTERN_OPEN / 2, (0, 1)
        )
    yield _Cause("the steering lever is otherwise than believed", _LEVER, 5, 0.25, turned, 0.0, LEVER_OFF, (0, 1))
    left, right = turned["toe 0"], turned["toe 1"]
    if abs(left - right) > LEAST_TURNED:
        exchanged = {"toe 0": right - left, "toe 1": left - right}
        yield _Cause("left and right turns were exchanged", _LENGTHS, 5, 0.15, exchanged, 1.0, PATTERN_OPEN, (0, 1))


def _of_a_rod(
    turned: Mapping[str, float], wheels: tuple[int, ...], ways: tuple[float, float, float]
) -> Iterator[_Cause]:
    """A rod turned the wrong way, not at all, or at one of its ends only."""
    wrong, left, half = ways
    where = "" if len(wheels) == 2 else " at this wheel"
    yield _Cause(f"it was turned the wrong way round{where}", _WAY, 2, wrong, turned, -2.0, 2 * PATTERN_OPEN, wheels)
    yield _Cause(f"it was not turned{where}, though counted", _LENGTHS, 3, left, turned, -1.0, PATTERN_OPEN, wheels)
    yield _Cause(f"one end of the sleeve alone turned{where}", _SLEEVE, 3, half, turned, -0.5, PATTERN_OPEN, wheels)


def _of_heights(sides: Sequence[_Side]) -> Iterator[_Cause]:
    """What moves the body, and the toes with it."""
    rise = {f"height {place}": 1.0 for place in range(len(sides))}
    rise |= {f"toe {place}": side.moves.per_height for place, side in enumerate(sides)}
    yield _Cause(
        "the car had not settled: toe follows its height", _SETTLE, 3, 0.3, rise, STANDS_HIGH, HIGH_OPEN, (0, 1)
    )
    yield _Cause(
        "the heights came out otherwise, and toe follows them", _HEIGHT, 3, 0.4, rise, 0.0, RATIO_HIGH, (0, 1)
    )
    for place, side in enumerate(sides):
        own = {f"height {place}": 1.0, f"toe {place}": side.moves.per_height}
        words = "the height of this corner came out otherwise, and toe follows it"
        yield _Cause(words, _HEIGHT, 3, 0.25, own, 0.0, RATIO_HIGH, (place,))


_COUNT = "Measure centre to centre at both rods and set it against the plan."
_WAY = "Turn one flat back and read again: toe tells the way; or measure centre to centre against before."
_LENGTHS = "Measure centre to centre at both rods, and set each against its own before."
_SLEEVE = "Look at the thread showing at both ends of the sleeve."
_PITCH = "Thread gauge on the rod, or ten threads by caliper."
_LEVER = "Turn half of what is left and read again: what it does is taken from then on."
_HEIGHT = "Correct the height first; read toe again."
_SETTLE = "Roll it a length and back, bounce both ends, read height and toe again."
_TWO_HEIGHTS = "Read toe at two heights, with the rods left alone; or take what the readings teach below."
_POINT = "Measure both ends of the tie rod again, height against the hub."
_STRAP = "Hold the wheel straight with the strap and read both sides again."
_READ_AGAIN = "Lay the string anew and read this wheel again, with another method if there is one."
_TURN_ROUND = "Turn the gauge round and read again, or hold it to a straight edge."
_JAM_NUT = "Try the jam nut by hand, and look whether its mark still lines up."
_SHAKE = "Shake the wheel at a quarter to three, somebody's hand on the joint."
_COMPARE = "Compare camber and the arm with the other side; lay a straight edge on the wheel."


def _turns(flats: int) -> str:
    turns, rest = divmod(abs(flats), 6)
    words = [f"{turns} turn{'s' if turns > 1 else ''}"] if turns else []
    words += [f"{rest} flat{'s' if rest > 1 else ''}"] if rest else []
    return " ".join(words)
