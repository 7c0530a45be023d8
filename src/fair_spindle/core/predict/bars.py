"""Sway bars of a car: what each hole does to its balance, and what a link that was forced on does to its corners."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE, Propagated, propagate, shift_inputs
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.sprung_car import SprungCar
from fair_spindle.core.springs.car_heights import cross_weight
from fair_spindle.core.springs.sway_bar import bar_rates, link_for_no_preload, preload, sideways_shift, wheel_rate

Array = NDArray[np.float64]
HOLES = ("1", "2", "3")


@value_object
class Hole:
    """One hole: rate at the wheels for their travel difference [N/mm], and the front's share of roll stiffness."""

    name: str
    rate: float
    front_share: float | None
    used: bool


@value_object
class BarOfAxle:
    """A bar: its holes; a forced link's force [N], what it does to cross weight [-], the length that is free [mm].

    Each with its ±, coverage 2.
    """

    axle: str
    holes: tuple[Hole, ...]
    preload: Propagated | None
    cross_shift: Propagated | None
    link: Propagated | None
    sideways: float | None
    lacks: tuple[str, ...]
    problem: str = ""


def bars_of(readings: Readings, car: SprungCar) -> list[BarOfAxle]:
    """Look at every sway bar of a car.

    A gap read after settling outranks the one before.

    Roll stiffness of an axle: springs k t²/2 and bar b t², with the wheel rates k and b; tyres and bushings left out.
    """
    return [_bar(axle, readings, car) for axle in AXLES if readings.words.get(f"{axle}.bar.fitted", "none") != "none"]


def _bar(axle: str, readings: Readings, car: SprungCar) -> BarOfAxle:
    told = readings.quantities
    new = f"{axle}.new_bar.diameter" in told
    size = f"{axle}.new_bar" if new else f"{axle}.bar"

    def number(key: str) -> float | None:
        return told[key].value if key in told else None

    diameter, length = number(f"{size}.diameter"), number(f"{axle}.bar.length")
    arms = {hole: arm for hole in HOLES if (arm := number(f"{axle}.bar.hole_{hole}")) is not None}
    lacks = [
        key
        for key, one in (
            (f"{axle}.bar.diameter", diameter),
            (f"{axle}.bar.length", length),
            (f"{axle}.bar.hole_1", arms),
        )
        if not one
    ]
    gaps = told.get(f"{axle}.bar_gaps")
    sideways = sideways_shift(gaps.parts["left"], gaps.parts["right"]) if gaps and gaps.parts else None
    if diameter is None or length is None or not arms:
        return BarOfAxle(axle, (), None, None, None, sideways, tuple(lacks))
    used = readings.words.get(f"{axle}.new_bar.hole") or readings.words.get(f"{axle}.bar.hole", "1")
    ratio = number(f"{axle}.bar.link_ratio") or 1.0
    try:
        rates = bar_rates(diameter, length, list(arms.values()), number(f"{size}.bore") or 0.0)
        holes = tuple(
            Hole(name, wheel_rate(rate, ratio), _share(axle, wheel_rate(rate, ratio), car), name == used)
            for name, rate in zip(arms, rates, strict=True)
        )
        settled = told.get(f"{axle}.check_bar_gap")
        gap, link = told.get(f"{axle}.bar.gap") if settled is None else settled, told.get(f"{axle}.bar.link")
        force = cross = free = None
        if gap is not None and used in arms:
            force = _forced(readings, axle, size, used, gap)
            cross = _cross_shift(axle, car, force, ratio)
            free = _free_length(readings, axle, link, gap) if link else None
            lacks += [] if link else [f"{axle}.bar.link"]
    except (InputError, NoSolution) as error:
        return BarOfAxle(axle, (), None, None, None, sideways, (), error.message)
    return BarOfAxle(axle, holes, force, cross, free, sideways, tuple(lacks))


def _forced(readings: Readings, axle: str, size: str, hole: str, gap: Quantity) -> Propagated:
    """Force of a link that is forced on, with what gap and bar leave open; positive lifts the left side."""
    told = readings.quantities
    keys = {
        "diameter": f"{size}.diameter",
        "length": f"{axle}.bar.length",
        "arm": f"{axle}.bar.hole_{hole}",
        "bore": f"{size}.bore",
    }
    read = {name: told[key] for name, key in keys.items() if key in told} | {"gap": gap}
    shifted = shift_inputs({n: one.value for n, one in read.items()}, {n: one.uncertainty for n, one in read.items()})

    def rule(values: Mapping[str, Array]) -> Array:
        bores = values.get("bore", np.zeros_like(values["gap"]))
        rows = zip(*(values[name] for name in ("diameter", "length", "arm", "gap")), bores, strict=True)
        return np.array(
            [preload(bar_rates(d, along, [arm], bore)[0], 1.0) * off for d, along, arm, off, bore in rows]
        )

    return propagate(rule, shifted)


def _free_length(readings: Readings, axle: str, link: Quantity, gap: Quantity) -> Propagated:
    """Length at which the second link goes on free: longer by the gap where it stands on the arm, else shorter."""
    hangs = readings.words.get(f"{axle}.bar.link_from", "arm") == "strut"
    lean = readings.quantities.get(f"{axle}.bar.lean", Quantity(0.0)).value
    shifted = shift_inputs(
        {"link": link.value, "gap": -gap.value if hangs else gap.value},
        {"link": link.uncertainty, "gap": gap.uncertainty},
    )

    def rule(values: Mapping[str, Array]) -> Array:
        return np.array(
            [link_for_no_preload(at, by, lean) for at, by in zip(values["link"], values["gap"], strict=True)]
        )

    return propagate(rule, shifted)


def _share(axle: str, rate: float, car: SprungCar) -> float | None:
    """Front share of the roll stiffness with this rate at this axle."""
    if not car.measured:
        return None
    held = car.build({})
    tracks = {"front": held.stance.track_front, "rear": held.stance.track_rear}
    bars = {"front": float(held.stance.bar_front), "rear": float(held.stance.bar_rear), axle: rate}
    settled = held.settle()
    stiff = {}
    for name in AXLES:
        wheels = [place for place, key in enumerate(WHEELS) if key.startswith(name)]
        springs = [held.legs[n].force(-settled.height_change[:1, n])[1][0] for n in wheels]
        stiff[name] = (sum(springs) / 2 / 2 + bars[name]) * tracks[name] ** 2
    return float(stiff["front"] / (stiff["front"] + stiff["rear"]))


def _cross_shift(axle: str, car: SprungCar, force: Propagated, ratio: float) -> Propagated | None:
    """Cross weight with the forced link less without it, as the car sits on its springs."""
    if not car.measured:
        return None
    held = car.build({})
    pushes = [force.value, force.value + force.plus_minus / 2]
    crosses = []
    for push in (0.0, *pushes):
        # The gap is read at the right link: its force lifts the left side.
        both = tuple(
            -push * ratio if name == axle else own for name, own in zip(AXLES, held.stance.preload, strict=True)
        )
        stance = replace(held.stance, preload=(both[0], both[1]))
        crosses.append(float(cross_weight(replace(held, stance=stance).settle().loads[0])))
    return Propagated(crosses[1] - crosses[0], COVERAGE * abs(crosses[2] - crosses[1]), {})
