"""Cars drawn from a seed, with what is wrong by their exercise, and what their record believes of them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from math import sqrt
from typing import cast

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, WHEELS, Axle, Wheel, wheels_at
from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.axles import on_bracket, pair_angles
from fair_spindle.practice.body import Helper
from fair_spindle.practice.car import (
    CROSS,
    DEGREE,
    END_TURNS,
    FREE_SPREAD,
    LOAD_SPREAD,
    NEW,
    OLD,
    RATE_SPREAD,
    RATIO_SPREAD,
    UNSPRUNG,
    Corner,
    TrueCar,
    wrench_of,
)
from fair_spindle.practice.exercises import Exercise
from fair_spindle.practice.layouts import TYPICAL, ratio_of, steered_solid
from fair_spindle.practice.linkage import Upright
from fair_spindle.practice.record import axle_entries, enter, goals_of, read_steering, wheel_entries
from fair_spindle.practice.steered import Steering, SteeringParts

Vector = NDArray[np.float64]
# Toe and camber as wheels stand when they come, and how much they differ [°]; an axle of one piece is nearly upright.
USUAL_STAND = ((0.1, -0.9), (0.05, 0.2))
STANDS = dict.fromkeys(("solid_links", "solid_leaf"), ((0.0, -0.1), (0.03, 0.08)))


@value_object
class _Spreads:
    """How far what is true lies from what is printed or was read, one standard deviation each: rates and loads as
    shares, free lengths [mm], ratios.  Of rates and lengths this is one spring; what it shares with the other of its
    pair is what printing gets wrong, the rest how springs are made."""

    rate: float
    free: float
    ratio: float
    load: float


# How two springs of one pair differ from what both are: a share of the rate, and a length. [mm]
MADE = (0.01, 0.5)
SPREADS = _Spreads(RATE_SPREAD, FREE_SPREAD, RATIO_SPREAD, LOAD_SPREAD)
# The same as the product takes them to be: a printed rate, a typed length and ratio, four scales.
CLAIMED = _Spreads(0.0248, 1.155, 0.0115, 0.005)


def draw_car(exercise: Exercise, seed: int, layouts: Mapping[str, str] | None = None) -> TrueCar:
    """Draw the car of an exercise; the same seed gives the same car to the last digit."""
    rng = np.random.default_rng([seed, sum(exercise.key.encode())])
    told = {"front": "strut", "rear": "double_wishbone", **exercise.layouts, **(layouts or {})}
    spreads = CLAIMED if exercise.as_claimed else SPREADS
    axles = {axle: _draw_axle(axle, told[axle], exercise, spreads, rng) for axle in AXLES}
    corners = {str(key): corner for one in axles.values() for key, corner in one.corners.items()}
    record = [*axle_entries(told, exercise), *(act for one in axles.values() for act in one.record)]
    loads = {key: corners[key].sprung + UNSPRUNG for key in WHEELS}
    weighed = {key.number: Typed(f"{loads[key] * (1 + spreads.load * rng.normal()):.0f}", "n") for key in WHEELS}
    record += [Entered("car.loads", "four_scales", weighed), enter("car.wheelbase", 2600)]
    if exercise.tyre_n_per_mm:
        record.append(enter("car.tyre_rate", exercise.tyre_n_per_mm, "n_per_mm"))
    goals = dict(goals_of(exercise, corners))
    record += [enter(key, value, "pct" if key == CROSS else "mm") for key, value in goals.items()]
    return TrueCar(
        corners,
        tuple(record),
        bar_gap=exercise.bar_gap_mm,
        clamped_at=exercise.clamped_at_mm,
        friction=exercise.friction_mm,
        floor=exercise.floor_deg * DEGREE,
        camber_bias=exercise.camber_bias_deg * DEGREE,
        new_end=exercise.new_end_mm,
        goals=goals,
        shackle_stop=exercise.shackle_stop_deg * DEGREE,
        tyre=exercise.tyre_n_per_mm,
        wrench=wrench_of(seed),
        string=exercise.string_deg * DEGREE,
        steering=axles["front"].steering,
    )


@value_object
class _DrawnAxle:
    """Both corners of an axle, what its record believes of them, and what steers it where it is of one piece."""

    corners: Mapping[Wheel, Corner]
    record: tuple[Entered, ...]
    steering: Steering | None


def _draw_axle(
    axle: Axle, layout: str, exercise: Exercise, spreads: _Spreads, rng: np.random.Generator
) -> _DrawnAxle:
    shape = {name: np.array(point) + rng.normal(0, 8, 3) for name, point in TYPICAL[layout].items()}
    usual = ratio_of(axle, layout)
    share, off = exercise.ratio_share.get(axle, 1.0), spreads.ratio * rng.normal()
    corners: dict[Wheel, Corner] = {}
    record: list[Entered] = []
    believed = []
    # A stream of its own, so that nothing else of a car is drawn otherwise for it.
    pairs = _printed(spreads, rng.spawn(1)[0])
    for key in wheels_at(axle):
        corner = _draw_corner(key, layout, shape, usual * share + off, exercise, pairs, rng)
        corners[key] = corner
        # A strut's ratio is what its points make it: then the record is off, not the car.
        believed.append(corner.ratio / share - off if layout == "strut" else usual)
        record += wheel_entries(key, layout, corner.wheel.points, rng)
    record.append(enter(f"{axle}.motion_ratio", float(np.mean(believed)), "spring_per_wheel"))
    left, right = (corners[key].wheel for key in wheels_at(axle))
    steering = None
    if steered_solid(axle, layout):
        steering = Steering.at((left.points["wheel_center"], right.points["wheel_center"]), SteeringParts())
        record += read_steering(SteeringParts(), (left.points, right.points), rng)
    for key, sunk in zip(wheels_at(axle), _sunk((left, right), exercise.lowered_mm, steering), strict=True):
        corners[key] = replace(corners[key], wheel=sunk)
    return _DrawnAxle(corners, tuple(record), steering)


def _printed(spreads: _Spreads, rng: np.random.Generator) -> list[tuple[float, float]]:
    """Rate and free length of the old and the new pair as they are on the whole, otherwise than printed."""
    rate_off, free_off = sqrt(spreads.rate**2 - MADE[0] ** 2), sqrt(spreads.free**2 - MADE[1] ** 2)
    return [(rate * (1 + rate_off * rng.normal()), free + free_off * rng.normal()) for rate, free in (OLD, NEW)]


def _draw_corner(
    key: Wheel,
    layout: str,
    shape: Mapping[str, Vector],
    ratio: float,
    exercise: Exercise,
    pairs: Sequence[tuple[float, float]],
    rng: np.random.Generator,
) -> Corner:
    points = {
        name: cast(Vector, (point + rng.normal(0, 0.7, 3)) * np.array([1, key.out, 1]))
        for name, point in shape.items()
    }
    if exercise.shackle_lean_deg and layout == "solid_leaf":
        points = on_bracket(points, exercise.shackle_lean_deg * DEGREE)
    toe, camber = rng.normal(*STANDS.get(layout, USUAL_STAND)) * DEGREE
    shift = exercise.front_shift_deg if key.axle == "front" else exercise.rear_shift_deg
    wheel = Upright(layout, key.out, points, toe + key.out * shift * DEGREE, camber)
    across = -key.out if key.axle == "front" else key.out
    weight = rng.normal(3400 if key.axle == "front" else 2700, 60) + across * exercise.cross_shift_n
    old, new = ((rate * (1 + MADE[0] * rng.normal()), free + MADE[1] * rng.normal()) for rate, free in pairs)
    new, helper = _stacked(new, exercise.stack.get(key.axle, {}))
    way = wheel.spring_way()
    return Corner(
        wheel,
        weight - UNSPRUNG,
        old,
        new,
        ratio if way.ratio is None else way.ratio,
        arch=360 + rng.normal(0, 3),
        end_turns=round(6 * (END_TURNS + rng.normal(0, 1))) / 6,
        helper=helper,
        play=exercise.play_deg.get(key, 0.0) * DEGREE,
        bends=way.bends,
    )


def _sunk(pair: tuple[Upright, Upright], by: float, steering: Steering | None) -> Iterator[Upright]:
    """Both wheels as they stand with the body lowered: their angles there become those they have in place."""
    if not by:
        yield from pair
        return
    turned = pair_angles(pair, (by, by), steering) - pair_angles(pair, (0.0, 0.0), steering)
    for wheel, (toe, camber) in zip(pair, turned, strict=True):
        yield replace(wheel, toe=wheel.toe + float(toe), camber=wheel.camber + float(camber))


def _stacked(new: tuple[float, float], stack: Mapping[str, float]) -> tuple[tuple[float, float], Helper | None]:
    """A new spring with its helper and ring under it, if there is one: the free length of them all."""
    if not stack:
        return new, None
    free = new[1] - NEW[1] + stack["free"] + stack["helper_free"] + stack["ring"]
    return (new[0], free), Helper(stack["helper_rate"], stack["helper_free"] - stack["helper_truly_solid"])
