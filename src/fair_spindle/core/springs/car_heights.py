"""The whole car on its four springs: where it sits and what stands on each wheel, springs being what they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import Inconsistent, NoSolution, require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.springs.springs import Curve

Array = NDArray[np.float64]
Number = float | Array
MOST_ITERATIONS = 80
MOST_CUTS = 60
MOST_STEP = 100.0
CLOSE = 1e-10
# Stiffness that only the step's matrix sees, so that loose springs leave it regular. [N/mm]
GIVE_IN_STEP = 1e-3
# A step is cut back where the energy climbs again at its end by more than this share of its fall at the start.
OVERSHOT = 0.3
# A spring whose solid length is not known is still not pressed to nothing. [mm]
NOTHING = 0.01
# Force that ends the search, well above the rounding of a solid spring. [N]
STILL = 2e-5
# Force that may be left over at rest: what rounding leaves of a solid spring. [N]
UNBALANCED = 1e-2
WHEEL = np.arange(4)


@value_object
class Leg:
    """What holds one corner; every number may be an array of one size, a car each.

    ``length`` of the spring at zero travel [mm]; ``scale`` multiplies its forces.  ``ratio`` spring travel per wheel
    travel at zero travel and ``ratio_slope`` its change [1/mm]; ``gas`` [N] acts at ``damper_ratio``.  The bump stop
    touches after ``stop_gap`` of damper travel [mm].  Rubber clamped off height adds ``rubber_rate`` [N/mm at the
    wheel] times the travel past ``rubber_neutral`` [mm].
    """

    curve: Curve
    length: Number
    ratio: Number
    gas: Number = 0.0
    damper_ratio: Number | None = None
    ratio_slope: Number = 0.0
    scale: Number = 1.0
    stop: Curve | None = None
    stop_gap: Number = np.inf
    rubber_rate: Number = 0.0
    rubber_neutral: Number = 0.0

    def force(self, travel: Array) -> tuple[Array, Array]:
        """Force at the wheel [N] and its rate [N/mm] at wheel travels (n,)."""
        ratio = self.ratio + self.ratio_slope * travel
        moved = (self.ratio + ratio) / 2 * travel
        spring, rate = self.curve.force(self.curve.free - self.length + moved)
        spring, rate = spring * self.scale, rate * self.scale
        damper = self.ratio if self.damper_ratio is None else self.damper_ratio
        force = ratio * spring + damper * self.gas + self.rubber_rate * (travel - self.rubber_neutral)
        stiff = ratio**2 * rate + self.ratio_slope * spring + self.rubber_rate
        if self.stop is not None:
            pressed, hard = self.stop.force(damper * travel - self.stop_gap)
            force, stiff = force + damper * pressed, stiff + damper**2 * hard
        return np.asarray(force, dtype=float), np.asarray(stiff, dtype=float)

    def spring_length(self, travel: Array) -> Array:
        """Length of the spring at wheel travels, shape (n,). [mm]"""
        return np.asarray(self.length - (self.ratio + self.ratio_slope * travel / 2) * travel)

    def alone(self, sprung: Array) -> Array:
        """Wheel travels at which the spring alone carries a sprung load [N], shape (n,): a start, no answer. [mm]"""
        damper = self.ratio if self.damper_ratio is None else self.damper_ratio
        force = np.maximum((sprung - damper * self.gas) / (self.ratio * self.scale), 0.0)
        return np.asarray((self.curve.compression(force) - (self.curve.free - self.length)) / self.ratio, dtype=float)

    def of(self, rows: NDArray[np.int64]) -> Leg:
        """The same leg for some of the cars."""
        many = {name: var[rows] for name, var in vars(self).items() if isinstance(var, np.ndarray) and var.size > 1}
        return replace(self, **many)  # type: ignore[arg-type]  # only numbers are arrays


@value_object
class Stance:
    """What does not change on a car: wheelbase and tracks [mm], bars [N/mm at the wheels], tyres [N/mm] or rigid.

    ``preload`` is force pressing the left side down that a forced bar link adds, front and rear. [N]
    """

    wheelbase: float
    track_front: float
    track_rear: float
    bar_front: Number = 0.0
    bar_rear: Number = 0.0
    tyre_rate: float | None = None
    preload: tuple[Number, Number] = (0.0, 0.0)


@value_object
class Settled:
    """Where the car sits: body against hub and body against ground [mm], wheel loads [N], each shape (n, 4)."""

    height_change: Array
    body_change: Array
    loads: Array


def cross_weight(loads: ArrayLike) -> Array:
    """Share of front right and rear left in the whole.

    Parameters
    ----------
    loads : array_like
        Wheel loads FL, FR, RL, RR, shape (..., 4). [N]

    Returns
    -------
    array
        Shape (...). [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    (FR + RL) / total.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> float(cross_weight([300, 310, 190, 200]))
    0.5
    """
    loads = np.asarray(loads, dtype=float)
    return np.asarray((loads[..., 1] + loads[..., 2]) / loads.sum(axis=-1))


def spring_length(
    curve: Curve, load: ArrayLike, ratio: ArrayLike, gas: ArrayLike, damper_ratio: ArrayLike | None = None
) -> Array:
    """Length of a spring that carries its share of a sprung load at rest.

    Parameters
    ----------
    curve : Curve
        The spring. [mm, N]
    load : array_like
        Sprung load at the wheel. [N]
    ratio : array_like
        Spring travel per wheel travel, > 0. [-]
    gas : array_like
        Gas force of the damper. [N]
    damper_ratio : array_like, optional
        Damper travel per wheel travel; the spring's where not given. [-]

    Returns
    -------
    array
        Broadcast shape. [mm]

    Raises
    ------
    Inconsistent
        The gas carries the whole corner, or the load is more than the spring can take before it is bound.

    Notes
    -----
    Spring force = (load − gas · damper ratio)/ratio.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.springs.springs import Coil, coil_curve
    >>> float(spring_length(coil_curve(Coil(50.0, 300.0)), 2500.0, 0.5, 0.0))
    200.0
    """
    damper = np.asarray(ratio if damper_ratio is None else damper_ratio, dtype=float)
    with np.errstate(over="ignore"):
        force = (np.asarray(load, dtype=float) - np.asarray(gas) * damper) / np.asarray(ratio, dtype=float)
    require(
        np.all(np.isfinite(force)),
        "motion_ratio",
        "The spring's share of the load must be a force there is",
        "a ratio next to nothing",
        "Check the motion ratio and the wheel load.",
        kind=Inconsistent,
    )
    require(
        np.all(force > 0),
        "gas_force_n",
        "The spring must carry part of the load",
        "a gas force that carries the whole corner",
        "Check the gas force and the wheel load.",
        kind=Inconsistent,
    )
    return np.asarray(curve.free - curve.compression(force))


def settle_car(stance: Stance, loads: ArrayLike, unsprung: ArrayLike, legs: Sequence[Leg]) -> Settled:
    """Let the car sit down on what holds it now.

    Parameters
    ----------
    stance : Stance
        The car. [mm, N/mm]
    loads, unsprung : array_like
        Wheel loads before and unsprung weights, FL FR RL RR, shape (4,) or (n, 4). [N]
    legs : sequence of Leg
        Four corners after the change, in that order; zero travel is the ride height before. [mm, N]

    Returns
    -------
    Settled
        n cars, all of them at rest.

    Raises
    ------
    NoSolution
        A car finds no rest, or a wheel would lift off the ground.

    Notes
    -----
    See :func:`let_down`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.springs.springs import Coil, coil_curve
    >>> old, new = coil_curve(Coil(30.0, 330.0)), coil_curve(Coil(30.0, 310.0))
    >>> at = float(spring_length(old, 3000.0, 1.0, 0.0))
    >>> car = Stance(2600.0, 1500.0, 1500.0)
    >>> settle_car(car, [3300.0] * 4, [300.0] * 4, [Leg(new, at, 1.0)] * 4).height_change.round(6).tolist()
    [[-20.0, -20.0, -20.0, -20.0]]
    """
    settled, rests = let_down(stance, loads, unsprung, legs)
    if np.any(~rests):
        lifted = np.flatnonzero(np.any(settled.loads[~rests] < 0, axis=0)).tolist()
        if lifted:
            names = " and ".join(WHEELS[wheel].letters for wheel in lifted)
            raise NoSolution(
                f"The car would stand with {names} off the ground. "
                "Check loads, bar links, rates, lengths and perches."
            )
        raise NoSolution(
            "The car does not come to rest on these springs: they cannot carry it. "
            "Check loads, rates, lengths and perches."
        )
    return settled


def let_down(
    stance: Stance, loads: ArrayLike, unsprung: ArrayLike, legs: Sequence[Leg]
) -> tuple[Settled, NDArray[np.bool_]]:
    """Let many cars sit down, and say which of them come to rest on four wheels.

    Parameters
    ----------
    stance : Stance
        The car. [mm, N/mm]
    loads, unsprung : array_like
        Wheel loads before and unsprung weights, FL FR RL RR, shape (4,) or (n, 4). [N]
    legs : sequence of Leg
        Four corners after the change, in that order. [mm, N]

    Returns
    -------
    tuple
        Where n cars sit, and whether each rests on four wheels, shape (n,).

    Raises
    ------
    Nothing: a car without rest is told by the second answer.

    Notes
    -----
    Rigid body, small angles, flat ground: sprung weight and its place are kept, so ΣΔF = 0 over each axle and
    ΣΔF·y = 0; the four body heights lie in a plane.  A hub sinks by its load's change over the tyre's rate.

    Where a car rests its potential energy is least.  The forces of springs, stops and bars grow with travel, so it
    is convex and there is one such place: Newton steps on it, from the travels at which each spring alone would
    carry its corner, each step cut back to where the energy along it is least.  A spring that hangs loose adds no
    stiffness; a thousandth of a N/mm in the step's matrix, not in the forces, keeps the step finite.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.springs.springs import Coil, coil_curve
    >>> at, car = 300.0 - 3000.0 / 0.95 / 40.0, Stance(2600.0, 1500.0, 1500.0)
    >>> legs = [Leg(coil_curve(Coil(60.0, free)), at, 0.95) for free in (262.0, 262.0, 254.0, 254.0)]
    >>> found, rests = let_down(car, [3400.0] * 4, [400.0] * 4, legs)
    >>> found.height_change.round(1).tolist(), rests.tolist()
    ([[-12.3, -12.3, -20.7, -20.7]], [True])
    """
    before = np.atleast_2d(np.asarray(loads, dtype=float))
    sprung = before - np.asarray(unsprung, dtype=float)
    sizes = [
        np.size(getattr(leg, name))
        for leg in legs
        for name in ("length", "ratio", "gas", "damper_ratio", "scale", "stop_gap", "rubber_rate", "rubber_neutral")
    ]
    sizes += [np.size(force) for force in (*stance.preload, stance.bar_front, stance.bar_rear)]
    count = max(len(sprung), *sizes)
    before, sprung = np.broadcast_to(before, (count, 4)), np.broadcast_to(sprung, (count, 4))
    pull = _Pull(legs, sprung, _bars(stance, count), _forced(stance, count))
    flat = _flat(stance)
    give = 0.0 if stance.tyre_rate is None else 1 / stance.tyre_rate
    # On rigid tyres only travels that keep the body flat are tried; on soft ones the tyres pull it flat.
    ways = _even(stance) if not give else np.eye(4)
    pressing = np.outer(flat, flat) / give if give else np.zeros((4, 4))
    start = np.stack([leg.alone(sprung[:, place]) for place, leg in enumerate(legs)], axis=1)
    travel = start @ np.linalg.pinv(ways) @ ways
    steady = np.zeros(count, dtype=bool)
    for _ in range(MOST_ITERATIONS):
        left = np.flatnonzero(~steady)
        here = pull.of(left)
        change, slope = here.at(travel[left])
        slant = (change + travel[left] @ pressing) @ ways.T
        stiff = ways @ (slope + pressing) @ ways.T + GIVE_IN_STEP * np.eye(len(ways))
        move = -np.linalg.solve(stiff, slant[:, :, None])[:, :, 0] @ ways
        move *= np.minimum(1.0, MOST_STEP / np.maximum(np.max(np.abs(move), axis=1), 1e-30))[:, None]
        share = _share(here, pressing, travel[left], move)
        travel[left] += share[:, None] * move
        steady[left] = (np.max(np.abs(move), axis=1) < CLOSE) | (np.max(np.abs(slant), axis=1) < STILL)
        if steady.all():
            break
    change, _ = pull.at(travel)
    after = before + change
    balanced = np.max(np.abs((change + travel @ pressing) @ ways.T), axis=1) < UNBALANCED
    standing = np.stack([leg.spring_length(travel[:, place]) for place, leg in enumerate(legs)], axis=1)
    rests = balanced & np.all(after >= -UNBALANCED, axis=1) & np.all(standing > NOTHING, axis=1)
    return Settled(-travel, -travel - give * change, after), rests


@value_object
class _Pull:
    """What the wheels of n cars are pressed with: legs, sprung loads (n, 4), bars (n, 4, 4), forced links (n, 4)."""

    legs: Sequence[Leg]
    sprung: Array
    bars: Array
    forced: Array

    def of(self, rows: NDArray[np.int64]) -> _Pull:
        """The same for some of the cars."""
        if len(rows) == len(self.sprung):
            return self
        legs = tuple(leg.of(rows) for leg in self.legs)
        return _Pull(legs, self.sprung[rows], self.bars[rows], self.forced[rows])

    def at(self, travel: Array) -> tuple[Array, Array]:
        """Change of the force at each wheel (n, 4), and its slope by the travels (n, 4, 4)."""
        pairs = [leg.force(travel[:, place]) for place, leg in enumerate(self.legs)]
        change = np.stack([force for force, _ in pairs], axis=1) - self.sprung - self.forced
        change += (self.bars @ travel[:, :, None])[:, :, 0]
        slope = self.bars.copy()
        slope[:, WHEEL, WHEEL] += np.stack([stiff for _, stiff in pairs], axis=1)
        return change, slope


def _share(pull: _Pull, pressing: Array, travel: Array, move: Array) -> Array:
    """Share of each step up to where the energy along it is least, in (0, 1]; shape (n,)."""

    def rise(cars: NDArray[np.int64], shares: Array) -> Array:
        at = travel[cars] + shares[:, None] * move[cars]
        return np.asarray(np.einsum("nk,nk->n", pull.of(cars).at(at)[0] + at @ pressing, move[cars]))

    every = np.arange(len(travel))
    low, high = np.zeros(len(travel)), np.ones(len(travel))
    falls, rises = rise(every, low), rise(every, high)
    enough = OVERSHOT * np.abs(falls)
    share = high.copy()
    open_ = rises > enough
    for _ in range(MOST_CUTS):
        cars = np.flatnonzero(open_)
        if not len(cars):
            break
        span = rises[cars] - falls[cars]
        guess = low[cars] - falls[cars] * (high[cars] - low[cars]) / np.where(span > 0, span, 1.0)
        # Kept off both ends, where a secant would creep.
        guess = np.clip(
            guess, low[cars] + 0.01 * (high[cars] - low[cars]), high[cars] - 0.01 * (high[cars] - low[cars])
        )
        there = rise(cars, guess)
        below = there <= 0
        low[cars] = np.where(below, guess, low[cars])
        falls[cars] = np.where(below, there, falls[cars] / 2)
        high[cars] = np.where(below, high[cars], guess)
        rises[cars] = np.where(below, rises[cars] / 2, there)
        share[cars] = guess
        open_[cars] = (np.abs(there) > enough[cars]) & (high[cars] - low[cars] > 1e-12)
    return share


def _even(stance: Stance) -> Array:
    """Rows: front axle, rear axle and roll, the travels of a body that stays flat on hubs that do not sink."""
    half = np.array([stance.track_front, -stance.track_front, stance.track_rear, -stance.track_rear]) / 2
    return np.array([[1.0, 1.0, 0.0, 0.0], [0.0, 0.0, 1.0, 1.0], half / half[0]])


def _flat(stance: Stance) -> Array:
    """What a plane has none of: body heights along it are a twist, which a rigid body does not take; size one."""
    twist = np.array([1.0, -1.0, -stance.track_front / stance.track_rear, stance.track_front / stance.track_rear])
    return np.asarray(twist / np.linalg.norm(twist))


def _forced(stance: Stance, count: int) -> Array:
    """What forced bar links press each wheel's side of the body down with, shape (count, 4)."""
    found = np.zeros((count, 4))
    for axle, force in enumerate(stance.preload):
        found[:, 2 * axle] = force
        found[:, 2 * axle + 1] = np.negative(force)
    return found


def _bars(stance: Stance, count: int) -> Array:
    """Slope of the wheels' forces by their travels that the sway bars bring, shape (count, 4, 4)."""
    found = np.zeros((count, 4, 4))
    for axle, rate in enumerate((stance.bar_front, stance.bar_rear)):
        left, right = 2 * axle, 2 * axle + 1
        found[:, left, left] = found[:, right, right] = rate
        found[:, left, right] = found[:, right, left] = np.negative(rate)
    return found
