"""A car nobody knows: drawn from a seed, with what is wrong by its exercise, and what its record believes of it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import cast

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import AXLES, WHEELS, wheels_at
from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.axles import on_bracket, pair_angles
from fair_spindle.practice.body import Helper
from fair_spindle.practice.exercises import Exercise
from fair_spindle.practice.layouts import THREADS, TOE_LINKS, TYPICAL, ratio_of, steered_solid, wanted_at
from fair_spindle.practice.linkage import Upright
from fair_spindle.practice.steered import Steering, SteeringParts, sizes_of

Vector = NDArray[np.float64]
Sides = tuple[Mapping[str, Vector], Mapping[str, Vector]]
DEGREE = np.pi / 180
# Toe and camber as wheels stand when they come, and how much they differ [°]; an axle of one piece is nearly upright.
USUAL_STAND = ((0.1, -0.9), (0.05, 0.2))
STANDS = dict.fromkeys(("solid_links", "solid_leaf"), ((0.0, -0.1), (0.03, 0.08)))
STEERING_RATIO = 15.0
TRACK, UNSPRUNG, PITCH, END_TURNS = 1500.0, 400.0, 1.5, 22.5
# Rise of a ring a turn, and the field of the cross weight that is wanted.
RING, CROSS = 1.5, "car.target_cross"
OLD, NEW = (32.0, 380.0), (48.0, 316.0)
BAR = {"front": 12.0, "rear": 6.0}
RUBBER = 2.5
WANTED = {"toe": 0.1, "camber": -1.2}
# How the record's numbers were got, one standard deviation: points by tape [mm], rates [share], free lengths [mm].
WRENCH_SPREAD = 0.025
TAPE, RATE_SPREAD, FREE_SPREAD, RATIO_SPREAD, LOAD_SPREAD = 1.15, 0.02, 1.0, 0.01, 0.004
# The same as the product takes them to be: a printed rate, a typed length and ratio, four scales.
CLAIMED = (0.0248, 1.155, 0.0115, 0.005)


@dataclass(frozen=True)
class Corner:
    """One wheel and its leg as they truly are: loads [N], springs [N/mm, mm], height of the arch [mm].

    ``helper`` stands under the new spring, whose free length counts both; ``play`` is what a worn rod end lets the
    toe wander either way. [rad]  ``bends`` are how a strut's spring is pressed beside its ratio, as in a ``Leg``.
    """

    wheel: Upright
    sprung: float
    old: tuple[float, float]
    new: tuple[float, float]
    ratio: float
    arch: float
    end_turns: float
    helper: Helper | None = None
    play: float = 0.0
    bends: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class TrueCar:
    """The whole truth of an exercise, and what the record believes, as entries.

    ``goals`` are heights [mm] and cross weight [%] that are wanted, by field key; ``shackle_stop`` is the lean at
    which a shackle meets its bracket [rad], 0 where none does; ``tyre`` is the rate of all four [N/mm], 0 rigid;
    ``wrench`` the share by which the bay's wrench gives more than it shows; ``string`` how far the left string turns
    in from parallel [rad]; ``steering`` that of a solid front axle, whose rods are turned under the axle's name,
    ``steering_ratio`` turn of the steering wheel per turn of the wheels.
    """

    corners: dict[str, Corner]
    bar_gap: dict[str, float]
    clamped_at: dict[str, float]
    friction: float
    floor: float
    camber_bias: float
    new_end: float
    record: tuple[Entered, ...]
    goals: Mapping[str, float] = field(default_factory=dict)
    shackle_stop: float = 0.0
    tyre: float = 0.0
    wrench: float = 0.0
    string: float = 0.0
    steering: Steering | None = None
    steering_ratio: float = STEERING_RATIO

    def rod_step(self, wheel: str, adjuster: str) -> tuple[str, float]:
        """Which length an adjuster of a name changes, and by how much a step. [mm]"""
        which = "rod" if adjuster in TOE_LINKS else "other"
        return which, step_of(self.corners[wheel].wheel.layout if wheel in self.corners else "", which)


def step_of(layout: str, which: str) -> float:
    """A step of the ``rod``, or of the ``other`` adjuster: a flat, half a millimetre at a strut's top. [mm]"""
    return 0.5 if (layout, which) == ("strut", "other") else PITCH / 6


def draw_car(exercise: Exercise, seed: int, layouts: dict[str, str] | None = None) -> TrueCar:
    """Draw the car of an exercise; the same seed gives the same car to the last digit."""
    rng = np.random.default_rng([seed, sum(exercise.key.encode())])
    told = {"front": "strut", "rear": "double_wishbone", **exercise.layouts, **(layouts or {})}
    record: list[Entered] = [*_of_axles(told, exercise)]
    corners: dict[str, Corner] = {}
    loads: dict[str, float] = {}
    steering: Steering | None = None
    of_rate, of_free, of_ratio, of_load = (
        CLAIMED if exercise.as_claimed else (RATE_SPREAD, FREE_SPREAD, RATIO_SPREAD, LOAD_SPREAD)
    )
    for axle in AXLES:
        shape = {name: np.array(point) + rng.normal(0, 8, 3) for name, point in TYPICAL[told[axle]].items()}
        usual = ratio_of(axle, told[axle])
        share, off = exercise.ratio_share.get(axle, 1.0), of_ratio * rng.normal()
        ratios = []
        pair = []
        for side, sign in (("left", 1), ("right", -1)):
            key = f"{axle}.{side}"
            points = {
                name: cast(Vector, (point + rng.normal(0, 0.7, 3)) * np.array([1, sign, 1]))
                for name, point in shape.items()
            }
            if exercise.shackle_lean_deg and told[axle] == "solid_leaf":
                points = on_bracket(points, exercise.shackle_lean_deg * DEGREE)
            toe, camber = rng.normal(*STANDS.get(told[axle], USUAL_STAND)) * DEGREE
            shift = exercise.front_shift_deg if axle == "front" else exercise.rear_shift_deg
            pair.append(Upright(told[axle], sign, points, toe + sign * shift * DEGREE, camber))
            across = -sign if axle == "front" else sign
            weight = rng.normal(3400 if axle == "front" else 2700, 60) + across * exercise.cross_shift_n
            loads[key] = weight
            old, new = (
                (rate * (1 + of_rate * rng.normal()), free + of_free * rng.normal()) for rate, free in (OLD, NEW)
            )
            new, helper = _stacked(new, exercise.stack.get(axle, {}))
            arch = 360 + rng.normal(0, 3)
            turns = round(6 * (END_TURNS + rng.normal(0, 1))) / 6
            play = exercise.play_deg.get(key, 0.0) * DEGREE
            way = pair[-1].spring_way()
            ratio, bends = (way[0], way[1:]) if way else (usual * share + off, (0.0, 0.0))
            ratios.append(way[0] / share - off if way else usual)
            corners[key] = Corner(pair[-1], weight - UNSPRUNG, old, new, ratio, arch, turns, helper, play, bends)
            record += _of_wheel(key, told[axle], points, rng)
        record.append(enter(f"{axle}.motion_ratio", float(np.mean(ratios)), "spring_per_wheel"))
        if steered_solid(axle, told[axle]):
            both = pair[0].points, pair[1].points
            steering = Steering.at((both[0]["wheel_center"], both[1]["wheel_center"]), SteeringParts())
            record += read_steering(SteeringParts(), both, rng)
        lower = _sunk((pair[0], pair[1]), exercise.lowered_mm, steering if axle == "front" else None)
        for wheel, sunk in zip(wheels_at(axle), lower, strict=True):
            corners[wheel] = replace(corners[wheel], wheel=sunk)
    weighed = {key.number: Typed(f"{loads[key] * (1 + of_load * rng.normal()):.0f}", "n") for key in WHEELS}
    record += [Entered("car.loads", "four_scales", weighed), enter("car.wheelbase", 2600)]
    if exercise.tyre_n_per_mm:
        record.append(enter("car.tyre_rate", exercise.tyre_n_per_mm, "n_per_mm"))
    goals = dict(_goals(exercise, corners))
    record += [enter(key, value, "pct" if key == CROSS else "mm") for key, value in goals.items()]
    return TrueCar(
        corners,
        dict(exercise.bar_gap_mm),
        dict(exercise.clamped_at_mm),
        exercise.friction_mm,
        exercise.floor_deg * DEGREE,
        exercise.camber_bias_deg * DEGREE,
        exercise.new_end_mm,
        tuple(record),
        goals,
        exercise.shackle_stop_deg * DEGREE,
        exercise.tyre_n_per_mm,
        wrench_of(seed),
        exercise.string_deg * DEGREE,
        steering,
    )


def wrench_of(seed: int) -> float:
    """The share by which the wrench in the bay gives more than it shows, one of its own for each car."""
    return float(WRENCH_SPREAD * np.random.default_rng([seed, 77]).normal())


def _sunk(pair: tuple[Upright, Upright], by: float, steering: Steering | None) -> Iterator[Upright]:
    """Both wheels as they stand with the body lowered: their angles there become those they have in place."""
    low, high = (pair_angles(pair, (at, at), steering) for at in (by, 0.0)) if by else (np.zeros((2, 2)),) * 2
    turned = low - high
    for wheel, (toe, camber) in zip(pair, turned, strict=True):
        yield replace(wheel, toe=wheel.toe + float(toe), camber=wheel.camber + float(camber))


def _stacked(new: tuple[float, float], stack: Mapping[str, float]) -> tuple[tuple[float, float], Helper | None]:
    """A new spring with its helper and ring under it, if there is one: the free length of them all."""
    if not stack:
        return new, None
    free = new[1] - NEW[1] + stack["free"] + stack["helper_free"] + stack["ring"]
    return (new[0], free), Helper(stack["helper_rate"], stack["helper_free"] - stack["helper_truly_solid"])


def _goals(exercise: Exercise, corners: Mapping[str, Corner]) -> Iterator[tuple[str, float]]:
    for axle, lower in exercise.lower_to_mm.items():
        for wheel in wheels_at(axle):
            yield f"{wheel}.target.height", round(corners[wheel].arch - lower)
    if exercise.cross_shift_n:
        yield CROSS, 50.0


def enter(key: str, value: float, unit: str = "mm", part: str = "value", method: str = "typed") -> Entered:
    """A field as a tuner types it."""
    return Entered(key, method, {part: Typed(f"{value:.4f}".rstrip("0").rstrip("."), unit)})


def _of_axles(layouts: dict[str, str], exercise: Exercise) -> Iterator[Entered]:
    for axle in AXLES:
        yield Entered(f"{axle}.layout", choice=layouts[axle])
        if axle == "front":
            yield Entered("front.steer", choice="behind")
        yield enter(f"{axle}.track", TRACK)
        yield enter(f"{axle}.unsprung", UNSPRUNG, "n")
        yield from springs_of(axle, "spring", OLD)
        if {"procedure": "springs", "axle": axle} in exercise.fittings:
            yield from springs_of(axle, "new_spring", NEW)
        if axle in exercise.rings:
            yield Entered(f"{axle}.spring.kind", choice="coilover")
            yield enter(f"{axle}.spring.perch_pitch", RING, "pitch_mm")
        stack = exercise.stack.get(axle, {})
        if stack:
            yield Entered(f"{axle}.new_spring.fit", choice="stack")
            for name, value in stack.items():
                if not name.endswith("truly_solid"):
                    yield enter(f"{axle}.new_spring.{name}", value, "n_per_mm" if name.endswith("rate") else "mm")


def springs_of(axle: str, kind: str, printed: tuple[float, float]) -> Iterator[Entered]:
    """A spring as its sheet prints it: rate [N/mm] and free length [mm]."""
    yield enter(f"{axle}.{kind}.rate", printed[0], "n_per_mm")
    yield enter(f"{axle}.{kind}.free", printed[1])
    if kind == "new_spring":
        yield Entered(f"{axle}.new_spring.fit", choice="coil")


def read_steering(parts: SteeringParts, points: Sides, rng: np.random.Generator) -> Iterator[Entered]:
    """The steering of a solid front axle as it is told and read with a tape; both rods are threaded at one end."""
    yield Entered("front.linkage", choice="drag_link")
    yield Entered("front.steer", choice="behind" if parts.behind else "ahead")
    yield Entered("front.drag.longer", choice=parts.longer)
    yield Entered("front.drag.body", choice=parts.gear)
    yield enter("car.steering_ratio", STEERING_RATIO, "ratio")
    for key, size in sizes_of(parts, points):
        yield enter(key, size + TAPE * rng.normal())
    for rod in ("tie", "drag"):
        yield Entered(f"front.{rod}.adjust", choice="one_thread")
        yield enter(f"front.{rod}.pitch", PITCH, "pitch_mm")


def _of_wheel(key: str, layout: str, points: dict[str, Vector], rng: np.random.Generator) -> Iterator[Entered]:
    for name, point in points.items():
        read = point + rng.normal(0, TAPE, 3)
        xyz = {axis: Typed(f"{value:.1f}", "mm") for axis, value in zip("xyz", read, strict=True)}
        yield Entered(f"{key}.point.{name}", "point", xyz)
    yield from threads_and_targets(key, layout)


def threads_and_targets(key: str, layout: str) -> Iterator[Entered]:
    """What can be turned on a wheel of the bay, and what is wanted there."""
    axle = key.partition(".")[0]
    for arm in THREADS[layout]:
        yield Entered(f"{key}.{arm}.adjust", choice="one_thread")
        yield enter(f"{key}.{arm}.pitch", PITCH, "pitch_mm")
    if layout == "strut":
        yield enter(f"{key}.top_plate", 14)
    for name in wanted_at(axle, layout):
        yield enter(f"{key}.target.{name}", WANTED[name], "deg")
