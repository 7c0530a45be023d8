"""Where a car will sit: from what was read to its four legs, before and after."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from math import cos

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.car_heights import Leg, Settled, Stance, cross_weight, settle_car, spring_length
from fair_spindle.core.corner import Corner
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.loads import CarLoads
from fair_spindle.core.outlook.motion_ratio import ratio_by_points
from fair_spindle.core.sheet.shape import AXLES, SIDES
from fair_spindle.core.spelling import read_table
from fair_spindle.core.springs import Coil, Curve, coil_curve, in_series, table_curve, two_stage_curve
from fair_spindle.core.sureness import variance_shares
from fair_spindle.core.sway_bar import bar_rates, preload, wheel_rate

Array = NDArray[np.float64]
Number = float | Array
SAMPLES = 5000
CORNERS = tuple(f"{axle}.{side}" for axle in AXLES for side in SIDES)
LONG = 1e4
SHARES = {True: (0.06, 0.3), False: (0.01, 0.1)}
RATIO_BY_POINTS = 0.01


@dataclass(frozen=True)
class Held:
    """A car on its springs, before and after, for one set of numbers or many at once."""

    stance: Stance
    loads: Array
    unsprung: Array
    legs: tuple[Leg, ...]
    forces: tuple[Number, ...]


@dataclass(frozen=True)
class SprungCar:
    """All that decides where a car sits: inputs by field key, how to build it, what is missing or wrong."""

    inputs: Mapping[str, Quantity]
    build: Callable[[Mapping[str, Number]], Held]
    lacks: tuple[str, ...] = ()
    problem: str = ""

    @property
    def uncertain(self) -> tuple[str, ...]:
        """Keys of the inputs that carry an uncertainty."""
        return tuple(key for key, one in self.inputs.items() if one.uncertainty > 0)


@dataclass(frozen=True)
class WheelSits:
    """One wheel, before and after. [mm, N]"""

    key: str
    height: Quantity | None
    change: float
    plus_minus: float
    load_before: float
    load: float
    load_plus_minus: float
    spring: float
    damper_change: float

    @property
    def predicted(self) -> float | None:
        """Hub-to-arch height it will have."""
        return None if self.height is None else self.height.value + self.change

    @property
    def predicted_plus_minus(self) -> float:
        """± of that height, with its own reading's."""
        read = 0.0 if self.height is None else COVERAGE * self.height.uncertainty
        return float(np.hypot(self.plus_minus, read))


@dataclass(frozen=True)
class Sitting:
    """Where the car will sit, how sure that is, and which inputs leave most open (shares of the variance)."""

    wheels: tuple[WheelSits, ...] = ()
    cross_before: float = 0.0
    cross: float = 0.0
    cross_plus_minus: float = 0.0
    shares: Mapping[str, float] = field(default_factory=dict)
    problem: str = ""


def sprung_car(readings: Readings, loads: CarLoads | None, corners: Mapping[str, Corner] | None = None) -> SprungCar:
    """Gather what decides where a car sits.

    Parameters
    ----------
    readings : Readings
        The job's readings, with the car's record in them. [-]
    loads : CarLoads, optional
        What stands on its wheels. [N]
    corners : mapping of Corner, optional
        Wheels whose points are known, by axle and side; they give a motion ratio where none was told. [mm]

    Returns
    -------
    SprungCar
        With what is missing, by field key.

    Raises
    ------
    Nothing: what is missing or cannot be right is told.

    Notes
    -----
    Seats, rings, insulators, spacers, blocks, shackles and keys all press the spring by a length: at the spring by
    itself, on top of a unit by the ratio of spring to damper, at the wheel times the motion ratio.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.floor.state import JobState
    >>> from fair_spindle.core.planning.whole_car import SPRINGS
    >>> sprung_car(readings_now(JobState(), SPRINGS), None).lacks[0]
    'car.loads'
    """
    own = _from_points(readings, corners or {})
    told = {**own, **readings.quantities, **_loads(loads)}
    lacks = _lacking(readings, told, loads)

    def build(values: Mapping[str, Number]) -> Held:
        return _Builder(readings.words, told, values).car()

    if lacks:
        return SprungCar({}, build, tuple(lacks))
    try:
        builder = _Builder(readings.words, told, {})
        builder.car()
    except (InputError, NoSolution) as error:
        return SprungCar({}, build, (), error.message)
    return SprungCar({key: told[key] for key in builder.used}, build)


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
    Readings are taken as normal and independent; ± with coverage factor 2.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> sit(SprungCar({}, lambda values: None, ("car.loads",)), {}).wheels
    ()
    """
    if car.lacks or car.problem:
        return Sitting(problem=car.problem)
    try:
        held = car.build({})
        settled = _settle(held)
    except (InputError, NoSolution) as error:
        return Sitting(problem=error.message)
    draws = draw_inputs(car, samples, seed) if samples and car.uncertain else {}
    drawn = _settle_drawn(car, draws) if draws else None
    spread = np.zeros(4) if drawn is None else COVERAGE * np.std(drawn.height_change, axis=0)
    load_spread = np.zeros(4) if drawn is None else COVERAGE * np.std(drawn.loads, axis=0)
    changes, loads = settled.height_change[0], settled.loads[0]
    wheels = tuple(
        WheelSits(
            key,
            heights.get(f"{key}.height"),
            float(changes[place]),
            float(spread[place]),
            float(held.loads[place]) if held.loads.ndim == 1 else float(held.loads[0, place]),
            float(loads[place]),
            float(load_spread[place]),
            _first(held.legs[place].length) + _first(held.legs[place].ratio) * float(changes[place]),
            _first(_damper_ratio(held.legs[place])) * float(changes[place]),
        )
        for place, key in enumerate(CORNERS)
    )
    shares = {} if drawn is None else variance_shares(draws, drawn.height_change)
    return Sitting(
        wheels,
        float(cross_weight(held.loads if held.loads.ndim == 1 else held.loads[0])),
        float(cross_weight(loads)),
        0.0 if drawn is None else COVERAGE * float(np.std(cross_weight(drawn.loads))),
        shares,
    )


def draw_inputs(car: SprungCar, samples: int, seed: int) -> dict[str, Array]:
    """Draw the uncertain inputs of a car.

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
    dict
        Differences from the inputs' values by key, shape (samples, 1). [core unit]

    Raises
    ------
    Nothing.

    Notes
    -----
    Normal, independent.

    Source
    ------
    jcgm-101

    Examples
    --------
    >>> draw_inputs(SprungCar({"a": Quantity(1.0, 0.1)}, lambda values: None), 3, 1)["a"].shape
    (3, 1)
    """
    generator = np.random.default_rng(seed)
    return {key: generator.normal(0.0, car.inputs[key].uncertainty, (samples, 1)) for key in car.uncertain}


def _settle(held: Held) -> Settled:
    return settle_car(held.stance, held.loads, held.unsprung, held.legs)


def _settle_drawn(car: SprungCar, draws: Mapping[str, Array]) -> Settled | None:
    """All drawn cars; None where one of them cannot rest, so that no ± is told rather than a wrong one."""
    try:
        return _settle(car.build({key: draw[:, 0] + car.inputs[key].value for key, draw in draws.items()}))
    except (InputError, NoSolution):
        return None


def _first(number: Number) -> float:
    return float(np.atleast_1d(number)[0])


def _damper_ratio(leg: Leg) -> Number:
    return leg.ratio if leg.damper_ratio is None else leg.damper_ratio


def _loads(loads: CarLoads | None) -> dict[str, Quantity]:
    """Wheel loads and unsprung weights as inputs of their own, by wheel."""
    found: dict[str, Quantity] = {}
    for key in CORNERS if loads else ():
        assert loads is not None
        wheel = key.replace(".", "_")
        for name, load, place in (("load", loads.wheels[wheel], 0), ("dead", loads.unsprung[wheel], 1)):
            share = SHARES[load.estimated][place]
            found[f"{key}.{name}"] = Quantity(load.force, share * load.force / COVERAGE)
    return found


def _from_points(readings: Readings, corners: Mapping[str, Corner]) -> dict[str, Quantity]:
    """Motion ratio of a strut, or of a spring on a lower arm, from its points, where none was told."""
    found = {}
    for axle in AXLES:
        ratios = []
        for key in (f"{axle}.{side}" for side in SIDES):
            ends = [readings.quantities.get(f"{key}.point.spring_{end}") for end in ("top", "low")]
            told = [np.array([one.parts[axis] for axis in "xyz"]) for one in ends if one]
            if key in corners and corners[key].layout == "strut":
                ratios.append(ratio_by_points(corners[key]))
            elif key in corners and corners[key].layout == "double_wishbone" and len(told) == len(ends):
                ratios.append(ratio_by_points(corners[key], (told[0], told[1])))
        if ratios:
            found[f"{axle}.motion_ratio"] = Quantity(float(np.mean([ratio for ratio, _ in ratios])), RATIO_BY_POINTS)
            found[f"{axle}.ratio_slope"] = Quantity(float(np.mean([slope for _, slope in ratios])))
    return found


def _lacking(readings: Readings, told: Mapping[str, Quantity], loads: CarLoads | None) -> list[str]:
    lacks = [] if loads else ["car.loads"]
    lacks += [] if "car.wheelbase" in told else ["car.wheelbase"]
    for axle in AXLES:
        fit = readings.words.get(f"{axle}.new_spring.fit", "as_before")
        needed = ["track", "motion_ratio", *_NEEDED[fit]]
        fitted = all(f"{axle}.{side}.spring_fitted" in told for side in SIDES)
        needed += ["spring.rate"] if fit == "as_before" else [] if fitted else ["spring.rate", "spring.free"]
        lacks += [key for name in needed if (key := f"{axle}.{name}") not in told and key not in readings.words]
    return lacks


_NEEDED: dict[str, tuple[str, ...]] = {
    "as_before": (),
    "coil": ("new_spring.rate", "new_spring.free"),
    "two_stage": ("new_spring.rate", "new_spring.free", "new_spring.rate_2", "new_spring.switch"),
    "table": ("new_spring.table",),
    "stack": (
        "new_spring.rate",
        "new_spring.free",
        "new_spring.helper_rate",
        "new_spring.helper_free",
        "new_spring.helper_solid",
    ),
}


class _Builder:
    """Puts a car together, and remembers which inputs it used."""

    def __init__(self, words: Mapping[str, str], told: Mapping[str, Quantity], values: Mapping[str, Number]) -> None:
        self._words, self._told, self._values = words, told, values
        self.used: dict[str, None] = {}

    def _number(self, key: str, otherwise: Number = 0.0) -> Number:
        if key in self._told:
            self.used[key] = None
            return self._values.get(key, self._told[key].value)
        return otherwise

    def _nominal(self, key: str, otherwise: float = 0.0) -> float:
        return self._told[key].value if key in self._told else otherwise

    def car(self) -> Held:
        loads = [self._number(f"{key}.load") for key in CORNERS]
        dead = [self._number(f"{key}.dead") for key in CORNERS]
        legs, forces = [], []
        for place, key in enumerate(CORNERS):
            leg, force = self._leg(key, loads[place], dead[place])
            legs.append(leg)
            forces.append(force)
        bars = [self._bar(axle) for axle in AXLES]
        stance = Stance(
            self._nominal("car.wheelbase"),
            self._nominal("front.track"),
            self._nominal("rear.track"),
            bars[0][0],
            bars[1][0],
            self._nominal("car.tyre_rate") or None,
            (bars[0][1], bars[1][1]),
        )
        return Held(stance, _rows(loads), _rows(dead), tuple(legs), tuple(forces))

    def _bar(self, axle: str) -> tuple[Number, Number]:
        """Rate for the travel difference of both wheels, and preload at the wheels, of the bar from now on."""
        if self._words.get(f"{axle}.bar.fitted", "none") == "none":
            return 0.0, 0.0
        new = f"{axle}.new_bar.diameter" in self._told
        size = f"{axle}.new_bar" if new else f"{axle}.bar"
        hole = self._words.get(f"{axle}.new_bar.hole") or self._words.get(f"{axle}.bar.hole", "1")
        diameter, length = self._nominal(f"{size}.diameter"), self._nominal(f"{axle}.bar.length")
        arm = self._nominal(f"{axle}.bar.hole_{hole}")
        if not (diameter and length and arm):
            return 0.0, 0.0
        end = bar_rates(diameter, length, [arm], self._nominal(f"{size}.bore"))[0]
        ratio = self._nominal(f"{axle}.bar.link_ratio", 1.0)
        gap = self._number(f"{axle}.bar.gap")
        force = preload(end, 1.0) * gap * ratio
        return wheel_rate(end, ratio), force

    def _leg(self, key: str, load: Number, dead: Number) -> tuple[Leg, Number]:
        axle = key.split(".")[0]
        ratio = self._number(f"{axle}.motion_ratio")
        damper = self._number(f"{axle}.damper_ratio", ratio)
        gas = self._number(f"{axle}.damper.gas")
        new_gas = self._number(f"{axle}.new_damper.gas", gas)
        wound: Number = 0.0
        if f"{key}.rubber.rate" in self._told and f"{key}.rubber.clamped" in self._told:
            off = self._number(f"{key}.rubber.clamped") - self._nominal(f"{key}.height")
            wound = self._number(f"{key}.rubber.rate") * off
        sprung = load - dead - wound
        pressed = self._pressed(key, ratio, damper)
        curve, scale, length = self._spring(key, axle, sprung, ratio, gas, damper)
        stop, gap = self._stop(key, axle)
        slope = self._nominal(f"{axle}.ratio_slope")
        leg = Leg(curve, length - pressed, ratio, new_gas, damper, slope, scale, stop, gap)
        return leg, (sprung - gas * damper) / ratio

    def _spring(
        self, key: str, axle: str, sprung: Number, ratio: Number, gas: Number, damper: Number
    ) -> tuple[Curve, Number, Number]:
        """The spring from now on, what its forces are multiplied by, and its length if nothing moved."""
        fit = self._words.get(f"{axle}.new_spring.fit", "as_before")
        old_rate = self._number(f"{axle}.spring.rate")
        force = (sprung - gas * damper) / ratio
        if fit == "as_before":
            nominal = self._nominal(f"{axle}.spring.rate")
            curve = Curve(LONG, np.array([0.0, LONG]), np.array([0.0, LONG * nominal]))
            spring_length(curve, sprung, ratio, gas, damper)
            return curve, old_rate / nominal, LONG - force / old_rate
        fitted = f"{key}.spring_fitted"
        seats = (
            self._number(fitted) if fitted in self._told else self._number(f"{axle}.spring.free") - force / old_rate
        )
        if fit == "table":
            pairs = read_table(self._words[f"{axle}.new_spring.table"], f"{axle}.new_spring.table")
            return table_curve([at for at, _ in pairs], [pull for _, pull in pairs]), 1.0, seats
        new = f"{axle}.new_spring"
        rate, free = self._nominal(f"{new}.rate"), self._nominal(f"{new}.free")
        solid = self._nominal(f"{new}.solid")
        main = coil_curve(Coil(rate, free, solid))
        if fit == "two_stage":
            main = two_stage_curve(rate, self._nominal(f"{new}.rate_2"), self._nominal(f"{new}.switch"), free, solid)
        if fit == "stack":
            helper = Coil(
                self._nominal(f"{new}.helper_rate"),
                self._nominal(f"{new}.helper_free"),
                self._nominal(f"{new}.helper_solid"),
            )
            main = in_series([main, coil_curve(helper)], self._nominal(f"{new}.ring"))
        return main, self._number(f"{new}.rate") / rate, seats - (self._number(f"{new}.free") - free)

    def _pressed(self, key: str, ratio: Number, damper: Number) -> Number:
        """By how much the spring is pressed, at the height before, by all that was put under or over it."""
        axle = key.split(".")[0]
        pitch = self._number(f"{axle}.spring.perch_pitch")
        at_spring = self._number(f"{key}.new_seat") + self._number(f"{key}.perch_up") * pitch
        on_top = self._number(f"{axle}.new_top.spacer") * ratio / damper
        arm = self._number(f"{axle}.torsion.arm")
        at_spring = at_spring + arm * self._number(f"{axle}.new_key")
        return at_spring + on_top + self._raised(axle) * ratio

    def _raised(self, axle: str) -> Number:
        """By how much a block and a longer shackle raise the body over the axle."""
        sign = -1.0 if self._words.get(f"{axle}.leaf.place") == "over" else 1.0
        block = sign * self._number(f"{axle}.new_block")
        longer = self._number(f"{axle}.new_shackle")
        front, rear = self._nominal(f"{axle}.leaf.front_half"), self._nominal(f"{axle}.leaf.rear_half")
        share = front / (front + rear) if front and rear else 0.5
        return block + longer * cos(self._nominal(f"{axle}.shackle.lean")) * share

    def _stop(self, key: str, axle: str) -> tuple[Curve | None, float]:
        table = self._words.get(f"{axle}.new_damper.stop_table")
        length = self._nominal(f"{key}.damper_length")
        closed = self._nominal(f"{axle}.new_damper.closed") or self._nominal(f"{axle}.damper.closed")
        if not (table and length and closed):
            return None, np.inf
        pairs = read_table(table, f"{axle}.new_damper.stop_table")
        stop = table_curve([at for at, _ in pairs], [pull for _, pull in pairs])
        return stop, length - self._nominal(f"{axle}.new_top.spacer") - closed - stop.free


def _rows(numbers: list[Number]) -> Array:
    return np.stack(np.broadcast_arrays(*[np.asarray(one, dtype=float) for one in numbers]), axis=-1)
