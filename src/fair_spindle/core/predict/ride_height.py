"""Where a car will sit, and how sure that is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.sprung_car import APART, Number, SprungCar
from fair_spindle.core.springs.car_heights import Leg, Settled, cross_weight
from fair_spindle.core.turns.monte_carlo import variance_shares

Array = NDArray[np.float64]
SAMPLES = 5000
OUTSIDE = 0.0455
LEAST_AT_REST = 50


@value_object
class WheelSits:
    """One wheel, before and after. [mm, N]

    ``apart`` is the part of its standard uncertainty that it does not share with the other wheel of its axle;
    ``laden`` is what people, luggage and fuel that were told change its height by besides, ``stop_pressed`` by how
    much its bump stop is pressed at rest.
    """

    key: str
    height: Quantity | None
    change: float
    plus_minus: float
    load_before: float
    load: float
    load_plus_minus: float
    spring: float
    damper_change: float
    apart: float = 0.0
    laden: float | None = None
    stop_pressed: float = 0.0

    @property
    def predicted(self) -> float | None:
        """Hub-to-arch height it will have."""
        return None if self.height is None else self.height.value + self.change

    @property
    def predicted_plus_minus(self) -> float:
        """± of that height, with its own reading's."""
        read = 0.0 if self.height is None else COVERAGE * self.height.uncertainty
        return float(np.hypot(self.plus_minus, read))


@value_object
class Sitting:
    """Where the car will sit, how sure that is, and which inputs leave most open (shares of the variance).

    Only wheels whose springs' change is known; cross weights only where all four are, and the scales said what stood
    on them before.  ``failed`` is the share of drawn cars that found no rest on four wheels, ``drawn`` whether any
    was: without draws nothing is said of how sure it is.
    """

    wheels: tuple[WheelSits, ...] = ()
    cross_before: float | None = None
    cross: float | None = None
    cross_plus_minus: float = 0.0
    shares: Mapping[str, float] = field(default_factory=dict)
    problem: str = ""
    failed: float = 0.0
    drawn: bool = False


def sit(car: SprungCar, heights: Mapping[str, Quantity], samples: int = SAMPLES, seed: int = 1) -> Sitting:
    """Let a car down in thought, many times over.

    Parameters
    ----------
    car : SprungCar
        What decides where it sits. [-]
    heights : mapping of Quantity
        Hub-to-arch heights before, by field key. [mm]
    samples : int, optional
        How many cars are drawn to say how sure it is; none where 0. [-]
    seed : int, optional
        Of the draws. [-]

    Returns
    -------
    Sitting
        No wheels where it cannot be computed.

    Raises
    ------
    Nothing.

    Notes
    -----
    Readings are taken as normal and independent; ± is half of what holds 95.45 % of the drawn cars.  Cars that find
    no rest are left out of it, counted and told.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> sit(SprungCar({}, lambda values: None, ("car.loads",)), {}).wheels
    ()
    """
    if not car.stands:
        return Sitting(problem=car.problem)
    try:
        held = car.build({})
        settled = held.settle()
        laden = held.settle(car.aboard).height_change[0] if car.aboard is not None else None
    except (InputError, NoSolution) as error:
        return Sitting(problem=error.message)
    drawn, draws, failed = draw_cars(car, samples, seed) if samples and car.uncertain else (None, {}, 0.0)
    spread = _spread(drawn.height_change) if drawn else np.zeros(4)
    apart = _apart(drawn.height_change) if drawn else np.zeros(4)
    load_spread = _spread(drawn.loads) if drawn else np.zeros(4)
    changes, loads = settled.height_change[0], settled.loads[0]
    before = np.atleast_2d(held.loads)[0]
    wheels = tuple(
        WheelSits(
            key,
            heights.get(f"{key}.height"),
            float(changes[place]),
            float(spread[place]),
            float(before[place]),
            float(loads[place]),
            float(load_spread[place]),
            _first(held.legs[place].length) + _first(held.legs[place].ratio) * float(changes[place]),
            _first(_damper_ratio(held.legs[place])) * float(changes[place]),
            float(apart[place]),
            None if laden is None else float(laden[place] - changes[place]),
            _pressed(held.legs[place], float(changes[place])),
        )
        for place, key in enumerate(WHEELS)
        if key in car.stands
    )
    weighed = not (car.unknown or any(key.startswith("car.") for key in car.usual))
    return Sitting(
        wheels,
        float(cross_weight(before)) if weighed else None,
        float(cross_weight(loads)) if weighed else None,
        float(_spread(cross_weight(drawn.loads)[:, None])[0]) if drawn else 0.0,
        _together(variance_shares(draws, drawn.height_change)) if drawn else {},
        failed=failed,
        drawn=samples > 0,
    )


def draw_cars(car: SprungCar, samples: int, seed: int) -> tuple[Settled, dict[str, Array], float]:
    """Draw the uncertain inputs of a car many times and let each of them down.

    Parameters
    ----------
    car : SprungCar
        The car. [-]
    samples : int
        How many. [-]
    seed : int
        Of the draws. [-]

    Returns
    -------
    tuple
        Where those that rest sit, what was drawn for them by input, shape (n, 1) each [core unit], and the share of
        the cars that found no rest on four wheels.

    Raises
    ------
    Nothing.

    Notes
    -----
    Normal and independent, each moved by the evidence there is.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> from fair_spindle.core.springs.car_heights import Leg, Stance
    >>> from fair_spindle.core.predict.sprung_car import Held
    >>> from fair_spindle.core.springs.springs import Coil, coil_curve
    >>> def car(values):
    ...     leg = Leg(coil_curve(Coil(30.0, 300.0)), 200.0 + np.asarray(values.get("a", 0.0)), 1.0)
    ...     return Held(Stance(2600.0, 1500.0, 1500.0), np.full(4, 3300.0), np.full(4, 300.0), (leg,) * 4, (0.0,) * 4)
    >>> settled, draws, failed = draw_cars(SprungCar({"a": Quantity(0.0, 1.0)}, car), 500, 1)
    >>> draws["a"].shape, bool(np.allclose(settled.height_change[:, 0], -draws["a"][:, 0])), failed
    ((500, 1), True, 0.0)
    """
    generator = np.random.default_rng(seed)
    told = car.evidence
    sizes = dict(zip(told.keys, told.prior, strict=True)) if told else {}
    names = [*dict.fromkeys((*car.uncertain, *sizes))]
    draws = {key: generator.normal(0.0, sizes.get(key, car.inputs[key].uncertainty), samples) for key in names}
    moved = dict(draws)
    if told:
        seats = {
            f"{name}.spring_fitted": generator.normal(0.0, told.noise[n], samples)
            for n, name in enumerate(told.names)
        }
        followed = told.follow(
            np.stack([draws[key] for key in told.keys], axis=1), np.stack([*seats.values()], axis=1)
        )
        moved |= {key: followed[:, place] for place, key in enumerate(told.keys)}
        draws |= seats
    settled, rests = car.build({key: car.inputs[key].value + moved[key] for key in names}).let_down()
    kept = Settled(settled.height_change[rests], settled.body_change[rests], settled.loads[rests])
    return kept, {key: draw[rests, None] for key, draw in draws.items()}, 1.0 - float(np.mean(rests))


def doubts_of(sitting: Sitting) -> list[str]:
    """Say what a prediction cannot vouch for.

    Drawn cars without rest would lift a wheel or stand on springs that cannot carry them.

    Examples
    --------
    >>> doubts_of(Sitting(failed=0.03))
    ['3 of 100 cars within what is known find no rest on four wheels; the ± leaves them out.']
    """
    if not sitting.failed:
        return []
    hundredths = max(round(100 * sitting.failed), 1)
    return [f"{hundredths} of 100 cars within what is known find no rest on four wheels; the ± leaves them out."]


def _spread(drawn: Array) -> Array:
    """Half the width of what holds 95.45 % of the draws, by column; infinite where too few came to rest."""
    if len(drawn) < LEAST_AT_REST:
        return np.full(drawn.shape[1], np.inf)
    low, high = np.quantile(drawn, [OUTSIDE / 2, 1 - OUTSIDE / 2], axis=0)
    return np.asarray(high - low) / 2


def _apart(drawn: Array) -> Array:
    """Standard uncertainty of each wheel that it does not share with the other of its axle, shape (4,)."""
    if len(drawn) < LEAST_AT_REST:
        return np.zeros(4)
    spread = np.cov(drawn.T)
    other = np.array([1, 0, 3, 2])
    return np.asarray(np.sqrt(np.maximum(np.diag(spread) - spread[np.arange(4), other], 0.0)))


def _together(shares: Mapping[str, float]) -> dict[str, float]:
    """Shares with both springs of a pair told as one."""
    found: dict[str, float] = {}
    for key, share in shares.items():
        name = key.removesuffix(APART)
        found[name] = found.get(name, 0.0) + share
    return dict(sorted(found.items(), key=lambda one: -one[1]))


def _pressed(leg: Leg, change: float) -> float:
    """By how much the bump stop is pressed at rest. [mm]"""
    if leg.stop is None:
        return 0.0
    return max(-_first(_damper_ratio(leg)) * change - _first(leg.stop_gap), 0.0)


def _first(number: Number) -> float:
    return float(np.atleast_1d(number)[0])


def _damper_ratio(leg: Leg) -> Number:
    return leg.ratio if leg.damper_ratio is None else leg.damper_ratio
