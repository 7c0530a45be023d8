"""The whole car on its four springs: where it sits and what stands on each wheel, springs being what they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.errors import Inconsistent, NoSolution, require
from fair_spindle.core.springs import Curve

Array = NDArray[np.float64]
Number = float | Array
WHEELS = ("FL", "FR", "RL", "RR")
MOST_ITERATIONS = 60
MOST_STEP = 25.0
CLOSE = 1e-10
WHEEL = np.arange(4)


@dataclass(frozen=True)
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


@dataclass(frozen=True)
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


@dataclass(frozen=True)
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
    >>> from fair_spindle.core.springs import Coil, coil_curve
    >>> float(spring_length(coil_curve(Coil(50.0, 300.0)), 2500.0, 0.5, 0.0))
    200.0
    """
    damper = np.asarray(ratio if damper_ratio is None else damper_ratio, dtype=float)
    force = (np.asarray(load, dtype=float) - np.asarray(gas) * damper) / np.asarray(ratio, dtype=float)
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
        n cars.

    Raises
    ------
    NoSolution
        No place is found where the car rests: a wheel would lift, or the springs cannot carry it.

    Notes
    -----
    Rigid body, small angles, flat ground: sprung weight and its place are kept, so ΣΔF = 0 over each axle and
    ΣΔF·y = 0; the four body heights lie in a plane.  Unknown are the four travels; Newton with the exact Jacobian,
    bound to 25 mm a step.  A hub sinks by its load's change over the tyre's rate.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.springs import Coil, coil_curve
    >>> old, new = coil_curve(Coil(30.0, 330.0)), coil_curve(Coil(30.0, 310.0))
    >>> at = float(spring_length(old, 3000.0, 1.0, 0.0))
    >>> car = Stance(2600.0, 1500.0, 1500.0)
    >>> settle_car(car, [3300.0] * 4, [300.0] * 4, [Leg(new, at, 1.0)] * 4).height_change.round(6).tolist()
    [[-20.0, -20.0, -20.0, -20.0]]
    """
    before = np.atleast_2d(np.asarray(loads, dtype=float))
    sprung = before - np.asarray(unsprung, dtype=float)
    sizes = [
        np.size(getattr(leg, name)) for leg in legs for name in ("length", "ratio", "gas", "scale", "rubber_rate")
    ]
    count = max(len(sprung), *sizes, *(np.size(one) for one in (*stance.preload, stance.bar_front, stance.bar_rear)))
    sprung = np.broadcast_to(sprung, (count, 4))
    give = 0.0 if stance.tyre_rate is None else 1 / stance.tyre_rate
    bars = _bars(stance, count)
    pre = np.zeros((count, 4))
    for axle, force in enumerate(stance.preload):
        pre[:, 2 * axle] = force
        pre[:, 2 * axle + 1] = np.negative(force)
    travel = np.zeros((count, 4))
    rows = _plane(stance)
    for _ in range(MOST_ITERATIONS):
        change, slope = _change(legs, travel, sprung, bars, pre)
        body = -travel - give * change
        miss = np.concatenate([change @ rows[:3].T, body @ rows[3:].T], axis=1)
        by_travel = np.concatenate(
            [rows[:3] @ slope, rows[3:] @ (-np.eye(4) - give * slope)],
            axis=1,
        )
        try:
            move = -np.linalg.solve(by_travel, miss[:, :, None])[:, :, 0]
        except np.linalg.LinAlgError:
            break
        travel = travel + np.clip(move, -MOST_STEP, MOST_STEP)
        if np.max(np.abs(move)) < CLOSE:
            change, _ = _change(legs, travel, sprung, bars, pre)
            return Settled(-travel, -travel - give * change, before + change)
    raise NoSolution(
        "The car does not come to rest on these springs: a spring would lose its load or be pressed past its coils. "
        "Check loads, rates, lengths and perches."
    )


def _plane(stance: Stance) -> Array:
    """Rows: front axle's force, whole force, roll moment; and the body heights that must lie in a plane."""
    half = np.array([stance.track_front, -stance.track_front, stance.track_rear, -stance.track_rear]) / 2
    flat = np.array([1, -1, -stance.track_front / stance.track_rear, stance.track_front / stance.track_rear])
    return np.array([[1.0, 1.0, 0.0, 0.0], [0.0, 0.0, 1.0, 1.0], half / half[0], flat])


def _bars(stance: Stance, count: int) -> Array:
    """Slope of the wheels' forces by their travels that the sway bars bring, shape (count, 4, 4)."""
    found = np.zeros((count, 4, 4))
    for axle, rate in enumerate((stance.bar_front, stance.bar_rear)):
        left, right = 2 * axle, 2 * axle + 1
        found[:, left, left] = found[:, right, right] = rate
        found[:, left, right] = found[:, right, left] = np.negative(rate)
    return found


def _change(legs: Sequence[Leg], travel: Array, sprung: Array, bars: Array, preload: Array) -> tuple[Array, Array]:
    """Change of the force at each wheel (n, 4), and its slope by the travels (n, 4, 4)."""
    pairs = [leg.force(travel[:, place]) for place, leg in enumerate(legs)]
    change = np.stack([force for force, _ in pairs], axis=1) - sprung - preload
    change += (bars @ travel[:, :, None])[:, :, 0]
    slope = bars.copy()
    slope[:, WHEEL, WHEEL] += np.stack([stiff for _, stiff in pairs], axis=1)
    return change, slope
