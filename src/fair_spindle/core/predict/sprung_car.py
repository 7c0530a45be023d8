"""From what was read to a car on its springs: its inputs, how to build it from them, what is missing or wrong."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import replace
from math import cos, hypot, sqrt

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.spelling import read_table
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, SIDES, WHEELS, Wheel, wheels_at
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.aboard import added_loads
from fair_spindle.core.predict.bonded import bonded_rate
from fair_spindle.core.predict.evidence import Evidence, weigh_evidence
from fair_spindle.core.predict.motion_ratio import ratio_by_points
from fair_spindle.core.predict.usual_car import CHANGES, MASS, OF_A_WHEEL, SHARE, usual_car
from fair_spindle.core.springs.car_heights import Leg, Settled, Stance, let_down, settle_car, spring_length
from fair_spindle.core.springs.loads import USUAL_UNSPRUNG_SHARE, CarLoads
from fair_spindle.core.springs.springs import (
    Coil,
    Curve,
    coil_curve,
    in_series,
    stop_curve,
    table_curve,
    torsion_curve,
    two_stage_curve,
)
from fair_spindle.core.springs.sway_bar import bar_rates, preload, wheel_rate

Array = NDArray[np.float64]
Number = float | Array
LONG = 1e4
SHARES = {True: (0.06, 0.3), False: (0.01, 0.1)}
RATIO_BY_POINTS = 0.01
# What is printed errs for both springs of a pair alike; each differs from it by how springs are made: a share of the
# rate, a length.  Half of their difference is an input of its own.  The product's own. [-, mm]
MADE_WITHIN = {"spring.rate": 0.01, "new_spring.rate": 0.01, "spring.free": 0.5, "new_spring.free": 0.5}
# New coils take a set in their first weeks, and a gas damper pushes harder warm than cold.  Common practice. [mm, -]
COIL_SET, GAS_WARMS = 1.0, 0.05
# How far off the forces of a spring lie that somebody typed as a table, as a share.  The product's own.
TABLE_WITHIN = 0.025
APART = ".apart"
# A key turned on by an angle lifts as a level arm would; not knowing how the arm stands costs about this share.
KEY_BY_LEVEL_ARM = 0.06


@value_object
class Held:
    """A car on its springs, before and after, for one set of numbers or many at once."""

    stance: Stance
    loads: Array
    unsprung: Array
    legs: tuple[Leg, ...]
    forces: tuple[Number, ...]

    def settle(self, added: Array | float = 0.0) -> Settled:
        """Where it sits, with more aboard where wanted; a car without rest is refused."""
        return settle_car(self.stance, self.loads + added, self.unsprung, self.legs)

    def let_down(self) -> tuple[Settled, NDArray[np.bool_]]:
        """Where each of many cars sits, and which of them come to rest."""
        return let_down(self.stance, self.loads, self.unsprung, self.legs)


@value_object
class SprungCar:
    """All that decides where a car sits: inputs by field key, how to build it, what is missing or wrong.

    ``evidence`` is what was read of the inputs together; the inputs hold it already, their draws take it with them.
    ``aboard`` is what people and load would add to the wheels [N]; ``unknown`` are the axles of which nobody told how
    their springs change, with what would tell it among ``lacks``; ``usual`` the inputs that nobody told at all.
    """

    inputs: Mapping[str, Quantity]
    build: Callable[[Mapping[str, Number]], Held]
    lacks: tuple[str, ...] = ()
    problem: str = ""
    evidence: Evidence | None = None
    aboard: Array | None = None
    unknown: tuple[str, ...] = ()
    usual: tuple[str, ...] = ()

    @property
    def stands(self) -> tuple[Wheel, ...]:
        """Wheels whose new height it can tell."""
        lost = self.problem or (self.lacks and not self.unknown)
        return () if lost else tuple(key for key in WHEELS if key.axle not in self.unknown)

    @property
    def measured(self) -> bool:
        """Whether every input of it was told, so that more than its heights can be told of it."""
        return not (self.usual or self.unknown or self.problem)

    @property
    def uncertain(self) -> tuple[str, ...]:
        """Keys of the inputs that carry an uncertainty."""
        return tuple(key for key, one in self.inputs.items() if one.uncertainty > 0)


def sprung_car(
    readings: Readings,
    loads: CarLoads | None,
    corners: Mapping[str, Corner] | None = None,
    changed: Collection[str] = (),
) -> SprungCar:
    """Gather what decides where a car sits.

    Parameters
    ----------
    readings : Readings
        The job's readings, with the car's record in them. [-]
    loads : CarLoads, optional
        What stands on its wheels. [N]
    corners : mapping of Corner, optional
        Wheels whose points are known, by axle and side; they give a motion ratio where none was told. [mm]
    changed : collection of str, optional
        Axles whose heights the work changes. [-]

    Returns
    -------
    SprungCar
        With what is missing, by field key.

    Raises
    ------
    Nothing: what is missing or cannot be right is told.

    Notes
    -----
    What belongs to the car and was not told is taken for a middling one, as wide as cars vary; how its springs change
    is never taken for anything.  Seats, rings, insulators, spacers, blocks, shackles and keys all press the spring by
    a length: at the spring by itself, on top of a unit by the ratio of spring to damper, at the wheel times the
    motion ratio.  What is printed of a pair errs for both alike, each spring differs from it as springs are made; the
    motion ratio is common to both.  A spring's length as it stands is held against free length less force over rate,
    and all of them are moved by what it teaches.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> sprung_car(readings_now(JobState(), WORK), None, changed=("front",)).lacks
    ('front.new_spring.fit', 'front.new_top.spacer')
    """
    own = _from_points(readings, corners or {})
    read = {**own, **_judged(readings), **_loads(readings, loads)}
    lacks = {axle: missing for axle in AXLES if (missing := _lacking(readings, read, axle, changed))}
    # An axle of which nobody told how it changes is let stand as it is: the other one settles all the same.
    words = {**readings.words, **{f"{axle}.new_spring.fit": "as_before" for axle in lacks}}
    told = {**usual_car(read, words), **_each_by_itself(read)}

    def build(values: Mapping[str, Number]) -> Held:
        return _Builder(words, told, values).car()

    missing = tuple(key for keys in lacks.values() for key in keys)
    if len(lacks) == len(AXLES) or (lacks and set(changed) <= lacks.keys()):
        return SprungCar({}, build, missing, unknown=AXLES)
    try:
        builder = _Builder(words, told, {})
        builder.car()
        builder.check()
        inputs = {key: told[key] for key in builder.used}
        evidence = weigh_evidence(inputs, lambda values: _Builder(words, told, values).lengths(), _as_stands(told))
    except (InputError, NoSolution) as error:
        return SprungCar({}, build, missing, error.message, unknown=tuple(lacks))
    if evidence:
        told |= evidence.inputs
        inputs = {key: told[key] for key in inputs}
    usual = tuple(key for key in inputs if key not in read and not key.endswith(APART))
    return SprungCar(inputs, build, missing, "", evidence, added_loads(readings, loads), tuple(lacks), usual)


def _each_by_itself(told: dict[str, Quantity]) -> dict[str, Quantity]:
    """Rates and lengths of a pair as their mean and half their difference, each with what is open of it.

    One spring is as unsure as was told: by what both share, and by how it was made.
    """
    found = dict(told)
    for axle in AXLES:
        for name, within in MADE_WITHIN.items():
            both = told.get(f"{axle}.{name}")
            if both:
                made = min(within * (both.value if name.endswith("rate") else 1.0), both.uncertainty)
                found[f"{axle}.{name}"] = replace(both, uncertainty=sqrt(both.uncertainty**2 - made**2 / 2))
                found[f"{axle}.{name}{APART}"] = Quantity(0.0, made / sqrt(2))
    return found


def _judged(readings: Readings) -> dict[str, Quantity]:
    """Everything read, with what an unknown arm angle and bolts that may stay clamped leave open."""
    told = dict(readings.quantities)
    for axle in AXLES:
        key = told.get(f"{axle}.new_key")
        if key and f"{axle}.torsion.angle" not in told:
            told[f"{axle}.new_key"] = replace(key, uncertainty=hypot(key.uncertainty, KEY_BY_LEVEL_ARM * key.value))
        bonded = bonded_rate(readings, axle)
        if bonded:
            told[f"{axle}.bonded.rate"] = bonded
        if readings.words.get(f"{axle}.new_spring.fit", "as_before") != "as_before":
            told[f"{axle}.new_spring.set"] = Quantity(0.0, COIL_SET)
            told[f"{axle}.new_spring.typed"] = Quantity(1.0, TABLE_WITHIN)
        for gas in (f"{axle}.damper.gas", f"{axle}.new_damper.gas"):
            if gas in told:
                push = told[gas]
                told[gas] = replace(push, uncertainty=hypot(push.uncertainty, GAS_WARMS * push.value))
    return told


def _as_stands(told: Mapping[str, Quantity]) -> dict[str, Quantity]:
    """Springs measured seat to seat on the car, where rate and free length are known too."""
    return {
        key: told[name]
        for key in WHEELS
        if (name := f"{key}.spring_fitted") in told
        and all(f"{key.split('.')[0]}.spring.{part}" in told for part in ("rate", "free"))
    }


def _loads(readings: Readings, loads: CarLoads | None) -> dict[str, Quantity]:
    """Wheel loads and unsprung weights as inputs of their own, by wheel; a sprung load that was told stands for both.

    What the springs carry is load less unsprung: its uncertainty then is the load's, the unsprung weight has none.
    """
    found: dict[str, Quantity] = {}
    for key in WHEELS if loads is None else ():
        sprung = readings.quantities.get(f"{key}.sprung_load")
        if sprung:
            dead = USUAL_UNSPRUNG_SHARE / (1 - USUAL_UNSPRUNG_SHARE) * sprung.value
            found |= {f"{key}.load": replace(sprung, value=sprung.value + dead), f"{key}.dead": Quantity(dead)}
    for key in WHEELS if loads else ():
        assert loads is not None
        for name, load, place in (("load", loads.wheels[key], 0), ("dead", loads.unsprung[key], 1)):
            share = SHARES[load.estimated][place]
            found[f"{key}.{name}"] = Quantity(load.force, share * load.force / COVERAGE)
        sprung = readings.quantities.get(f"{key}.sprung_load")
        if sprung:
            dead = found[f"{key}.dead"].value
            found[f"{key}.load"] = Quantity(sprung.value + dead, sprung.uncertainty)
            found[f"{key}.dead"] = Quantity(dead)
    return found


def sprung_load(readings: Readings, loads: CarLoads | None, wheel: str) -> Quantity | None:
    """What the springs of a wheel carry, as told or as wheel load less unsprung weight. [N]"""
    told = readings.quantities.get(f"{wheel}.sprung_load")
    if told or loads is None:
        return told
    both = _loads(readings, loads)
    load, dead = both[f"{wheel}.load"], both[f"{wheel}.dead"]
    return Quantity(load.value - dead.value, hypot(load.uncertainty, dead.uncertainty))


def _from_points(readings: Readings, corners: Mapping[str, Corner]) -> dict[str, Quantity]:
    """Motion ratio of a strut, or of a spring on a lower arm, from its points, where none was told."""
    found = {}
    for axle in AXLES:
        ratios = []
        for key in wheels_at(axle):
            ends = [readings.quantities.get(f"{key}.point.spring_{end}") for end in ("top", "low")]
            told = [np.array([end.parts[axis] for axis in "xyz"]) for end in ends if end]
            if key in corners and corners[key].kind.guide == "strut":
                ratios.append(ratio_by_points(corners[key]))
            elif key in corners and corners[key].kind.spring_points and len(told) == len(ends):
                ratios.append(ratio_by_points(corners[key], (told[0], told[1])))
        if ratios:
            found[f"{axle}.motion_ratio"] = Quantity(float(np.mean([ratio for ratio, _ in ratios])), RATIO_BY_POINTS)
            found[f"{axle}.ratio_slope"] = Quantity(float(np.mean([slope for _, slope in ratios])))
    return found


def _lacking(
    readings: Readings, told: Mapping[str, Quantity], axle: str, changed: Collection[str]
) -> tuple[str, ...]:
    """What is missing to say how the springs of an axle change; nothing where they stay as they are."""
    fit = readings.words.get(f"{axle}.new_spring.fit")
    if fit is None and axle in changed:
        keys = [f"{axle}.{name}" for name in CHANGES]
        keys += [f"{key}.{name}" for key in wheels_at(axle) for name in OF_A_WHEEL]
        # Where rings are what is asked for, they are turned from where the car stands now.
        keys += (
            ["car.target_cross", *(f"{key}.target.height" for key in wheels_at(axle))]
            if _rings(readings, axle)
            else []
        )
        return () if any(key in told for key in keys) else (f"{axle}.new_spring.fit", f"{axle}.new_top.spacer")
    fitted = all(f"{axle}.{side}.spring_fitted" in told for side in SIDES)
    old = () if fitted or fit in (None, "as_before") else ("spring.rate", "spring.free")
    needed = (f"{axle}.{name}" for name in (*old, *_NEEDED[fit or "as_before"]))
    return tuple(key for key in needed if key not in told and key not in readings.words)


def _rings(readings: Readings, axle: str) -> bool:
    return (
        readings.words.get(f"{axle}.spring.kind") == "coilover"
        and f"{axle}.spring.perch_pitch" in readings.quantities
    )


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

    def _of_pair(self, axle: str, side: str, name: str, otherwise: Number = 0.0) -> Number:
        """What stands for both springs of a pair, at one of them."""
        half = self._number(f"{axle}.{name}{APART}")
        return self._number(f"{axle}.{name}", otherwise) + (half if side == "left" else np.negative(half))

    def _nominal(self, key: str, otherwise: float = 0.0) -> float:
        return self._told[key].value if key in self._told else otherwise

    def _load(self, key: Wheel) -> Number:
        """What stands on a wheel: weighed, or by the mass of such a car."""
        if f"{key}.load" in self._told:
            return self._number(f"{key}.load")
        front = self._number(SHARE)
        share = front if key.axle == "front" else 1 - np.asarray(front)
        return self._number(MASS) * share / 2 + self._number(f"{key}.load_apart")

    def _dead(self, key: Wheel) -> Number:
        """What of it no spring carries."""
        if f"{key}.dead" in self._told:
            return self._number(f"{key}.dead")
        return self._load(key) * self._number(f"{key}.dead_share")

    def car(self) -> Held:
        loads = [self._load(key) for key in WHEELS]
        dead = [self._dead(key) for key in WHEELS]
        legs, forces = [], []
        for place, key in enumerate(WHEELS):
            leg, force = self._leg(key, loads[place] - dead[place])
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

    def check(self) -> None:
        """Refuse a car whose gas or bump stop carries a corner by itself."""
        for key in WHEELS:
            axle = key.split(".")[0]
            ratio = self._nominal(f"{axle}.motion_ratio")
            sprung = self._load(key) - self._dead(key) - self._stop_force(key)
            gas, damper = self._nominal(f"{axle}.damper.gas"), self._nominal(f"{axle}.damper_ratio", ratio)
            spring_length(Curve(LONG, np.array([0.0, LONG]), np.array([0.0, LONG])), sprung, ratio, gas, damper)

    def lengths(self) -> Array:
        """Spring lengths at the height before, by free length, rate and load; one column a corner. [mm]"""
        columns = []
        for key in WHEELS:
            axle, side = key.split(".")
            force = self._force(key, self._load(key) - self._dead(key))
            rate = self._of_pair(axle, side, "spring.rate", 1.0)
            columns.append(self._of_pair(axle, side, "spring.free") - force / rate)
        return _rows(columns)

    def _bar(self, axle: str) -> tuple[Number, Number]:
        """Rate for the travel difference of both wheels, and what a forced link presses the left side down with."""
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
        # The gap is read at the right link, so the force presses the right side down and the left one up.
        return wheel_rate(end, ratio), np.negative(preload(end, 1.0) * self._number(f"{axle}.bar.gap") * ratio)

    def _force(self, key: str, sprung: Number) -> Number:
        """What the spring carried before: the sprung load less gas, bump stop and wound-up rubber."""
        axle = key.split(".")[0]
        ratio = self._number(f"{axle}.motion_ratio")
        wound: Number = 0.0
        if f"{key}.rubber.rate" in self._told and f"{key}.rubber.clamped" in self._told:
            off = self._number(f"{key}.rubber.clamped") - self._nominal(f"{key}.height")
            wound = self._number(f"{key}.rubber.rate") * off
        damper = self._number(f"{axle}.damper_ratio", ratio)
        gas = self._number(f"{axle}.damper.gas")
        return (sprung - wound - self._stop_force(key) - gas * damper) / ratio

    def _leg(self, key: str, sprung: Number) -> tuple[Leg, Number]:
        axle = key.split(".")[0]
        ratio = self._number(f"{axle}.motion_ratio")
        damper = self._number(f"{axle}.damper_ratio", ratio)
        gas = self._number(f"{axle}.new_damper.gas", self._number(f"{axle}.damper.gas"))
        force = self._force(key, sprung)
        curve, scale, length = self._spring(key, force)
        stop, gap = self._stop(key, self._stop_name(axle), self._nominal(f"{axle}.new_top.spacer"))
        leg = Leg(
            curve,
            length - self._pressed(key, ratio, damper),
            ratio,
            gas,
            damper,
            self._nominal(f"{axle}.ratio_slope"),
            scale,
            stop,
            gap,
            self._number(f"{axle}.bonded.rate"),
        )
        return leg, force

    def _spring(self, key: str, force: Number) -> tuple[Curve, Number, Number]:
        """The spring from now on, what its forces are multiplied by, and its length if nothing moved."""
        axle, side = key.split(".")
        fit = self._words.get(f"{axle}.new_spring.fit", "as_before")
        old_rate = self._of_pair(axle, side, "spring.rate", 1.0)
        if fit == "as_before":
            nominal = self._nominal(f"{axle}.spring.rate")
            if self._turned_key(axle):
                return self._torsion(axle, force, nominal, old_rate)
            curve = Curve(LONG, np.array([0.0, LONG]), np.array([0.0, LONG * nominal]))
            return curve, old_rate / nominal, LONG - force / old_rate
        fitted = f"{key}.spring_fitted"
        known = all(f"{axle}.spring.{part}" in self._told for part in ("rate", "free"))
        new = f"{axle}.new_spring"
        by_rate = self._of_pair(axle, side, "spring.free") - force / old_rate
        seats = by_rate if known else self._number(fitted)
        seats = seats - self._number(f"{new}.set")
        if fit == "table":
            return self._typed_curve(f"{new}.table"), self._number(f"{new}.typed", 1.0), seats
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
            # A helper stands on its coils at ride height: as much taller they or the ring, as much taller the stack.
            for part in ("helper_solid", "ring"):
                seats = seats - (self._number(f"{new}.{part}") - self._nominal(f"{new}.{part}"))
        scale = self._of_pair(axle, side, "new_spring.rate") / rate
        return main, scale, seats - (self._of_pair(axle, side, "new_spring.free") - free)

    def _typed_curve(self, key: str) -> Curve:
        """A curve typed as a table of compressions and forces."""
        pairs = read_table(self._words[key], key)
        return table_curve([at for at, _ in pairs], [pull for _, pull in pairs])

    def _turned_key(self, axle: str) -> bool:
        return all(f"{axle}.{name}" in self._told for name in ("new_key", "torsion.arm", "torsion.angle"))

    def _torsion(self, axle: str, force: Number, nominal: float, rate: Number) -> tuple[Curve, Number, Number]:
        """A torsion bar whose key is turned on, by the angle its arm really stands at."""
        arm, below = self._nominal(f"{axle}.torsion.arm"), self._nominal(f"{axle}.torsion.angle")
        carried = float(np.mean(force))
        before, at_ride = torsion_curve(nominal, arm, below, carried)
        after, turned = torsion_curve(nominal, arm, below, carried, self._nominal(f"{axle}.new_key"))
        scale = rate / nominal
        pressed = before.compression(force / scale) - at_ride + turned
        return after, scale, after.free - pressed

    def _pressed(self, key: str, ratio: Number, damper: Number) -> Number:
        """By how much the spring is pressed, at the height before, by all that was put under or over it."""
        axle = key.split(".")[0]
        pitch = self._number(f"{axle}.spring.perch_pitch")
        at_spring = self._number(f"{key}.new_seat") + self._number(f"{key}.perch_up") * pitch
        on_top = self._number(f"{axle}.new_top.spacer") * ratio / damper
        if not self._turned_key(axle):
            at_spring = at_spring + self._number(f"{axle}.torsion.arm") * self._number(f"{axle}.new_key")
        return at_spring + on_top + self._raised(axle) * ratio

    def _raised(self, axle: str) -> Number:
        """By how much a block and a longer shackle raise the body over the axle."""
        sign = -1.0 if self._words.get(f"{axle}.leaf.place") == "over" else 1.0
        block = sign * self._number(f"{axle}.new_block")
        longer = self._number(f"{axle}.new_shackle")
        front, rear = self._nominal(f"{axle}.leaf.front_half"), self._nominal(f"{axle}.leaf.rear_half")
        share = front / (front + rear) if front and rear else 0.5
        return block + longer * cos(self._nominal(f"{axle}.shackle.lean")) * share

    def _stop_name(self, axle: str) -> str:
        """Whose bump stop counts from now on: the new damper's where it was told, the old one's otherwise."""
        new = f"{axle}.new_damper"
        return new if f"{new}.stop" in self._told or f"{new}.stop_table" in self._words else f"{axle}.damper"

    def _stop(self, key: str, name: str, spacer: float = 0.0) -> tuple[Curve | None, Number]:
        """A bump stop as a curve, and the damper travel until it is touched; below zero it is pressed already."""
        axle = key.split(".")[0]
        if f"{key}.damper_length" not in self._told:
            return None, np.inf
        closed = f"{axle}.new_damper.closed" if name.endswith("new_damper") else f"{axle}.damper.closed"
        closed = closed if closed in self._told else f"{axle}.damper.closed"
        table, free = self._words.get(f"{name}.stop_table"), self._nominal(f"{name}.stop")
        if closed not in self._told or not (table or free):
            return None, np.inf
        stop = self._typed_curve(f"{name}.stop_table") if table else stop_curve(free)
        standing = self._number(f"{key}.damper_length") - spacer - self._number(closed)
        tall = stop.free if table else self._number(f"{name}.stop")
        return stop, standing - tall

    def _stop_force(self, key: str) -> Number:
        """What the bump stop took of the wheel's load before the work. [N at the wheel]"""
        axle = key.split(".")[0]
        stop, gap = self._stop(key, f"{axle}.damper")
        if stop is None:
            return 0.0
        ratio = self._number(f"{axle}.damper_ratio", self._number(f"{axle}.motion_ratio"))
        return ratio * stop.force(np.negative(gap))[0]


def _rows(numbers: list[Number]) -> Array:
    return np.stack(np.broadcast_arrays(*[np.asarray(number, dtype=float) for number in numbers]), axis=-1)
