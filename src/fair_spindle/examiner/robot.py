"""A robot tuner at the practice cars: it knows what the API tells, follows the plan to the flat, corrects once.

Cars are lowered by springs all round; what became of them is read from the practice car itself.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from itertools import product
from typing import Any

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import AXLES, WHEELS, Wheel, wheels_at
from fair_spindle.core.joblog.log import Moved, Settled, Stepped, Turned
from fair_spindle.examiner.followed import Desk, FollowedJob
from fair_spindle.practice.axles import pair_angles
from fair_spindle.practice.car import DEGREE, NEW, OLD, WANTED, TrueCar, step_of
from fair_spindle.practice.drawn import draw_car
from fair_spindle.practice.exercises import find_exercise
from fair_spindle.practice.gauges import ANGLE_STEP, CAMBER_NOISE, TOE_NOISE
from fair_spindle.practice.layouts import REAR_ONLY, SOLID, wanted_at
from fair_spindle.practice.world import World

EXERCISE = "examined"
KINDS = ("toe", "camber")
# What an angle may be off, as the plan weighs it. [°]
WITHIN = (0.05, 0.1)
NEAR = range(-20, 21)
Array = NDArray[np.float64]
Rows = list[list[float]]
Truth = dict[tuple[str, str], float]


# Which axles a car is examined with, by a name: a layout's own, or a solid axle in front, too.
SOLID_IN_FRONT = "_in_front"


def axles_of(name: str) -> dict[str, str]:
    """Layouts by axle of a car under examination; the others are the practice bay's usual ones."""
    layout = name.removesuffix(SOLID_IN_FRONT)
    only_rear = layout in REAR_ONLY or name in SOLID
    return {"rear": layout} if only_rear else dict.fromkeys(AXLES, layout)


@dataclass
class Outcome:
    """What became of one car: misses by stage [deg, mm], and whether each stated band held the truth."""

    planned: Rows = field(default_factory=list)
    corrected: Rows = field(default_factory=list)
    best: Rows = field(default_factory=list)
    untouched: Rows = field(default_factory=list)
    heights: list[float] = field(default_factory=list)
    by_record: list[float] = field(default_factory=list)
    by_length: list[float] = field(default_factory=list)
    floor: Rows = field(default_factory=list)
    bands: dict[str, list[bool]] = field(
        default_factory=lambda: {name: [] for name in ("height", *KINDS, "steering")}
    )
    steering: tuple[float, float] = (0.0, 0.0)


class Robot(FollowedJob):
    """Follows a practice job through the API."""

    def __init__(self, desk: Desk, seed: int, layout: str) -> None:
        layouts = axles_of(layout)
        super().__init__(desk, f"blind-{layout.replace('_', '-')}-{seed}", EXERCISE, seed, layouts)
        self.seed = seed
        self.car = draw_car(find_exercise(EXERCISE), seed, layouts)
        self.world = World(self.car)
        self.foreseen = change_by_record(self.car)

    def turns(self, samples: int) -> list[dict[str, Any]]:
        """What the plan turns, wheel by wheel, and the rods of a solid front axle after them."""
        found = self.desk.get(f"{self.path}/turns", samples=samples)
        return [*found["wheels"], *([found["steering"]] if found["steering"] else [])]

    def turn(self, wheels: Iterable[dict[str, Any]], name: str) -> None:
        """Turn every adjuster as told, ``planned`` or what is ``left``."""
        for wheel in wheels:
            for count in wheel["counts"]:
                if count[name]:
                    self.send(kind="turned", wheel=wheel["key"], adjuster=count["name"], steps=count[name])
                    self.world.take(Turned(wheel["key"], count["name"], count[name]))

    def truth(self) -> Truth:
        """What the car is like, which no page tells before the end: toe, camber [°] and height [mm] by wheel."""
        stands = self.world.stands()
        found: Truth = {(key, "height"): self.car.corners[key].arch + stands[key] for key in WHEELS}
        for key, angles in self.world.all_angles(stands).items():
            found |= {(key, name): float(angle) for name, angle in zip(KINDS, angles / DEGREE, strict=True)}
        return found

    def misses(self) -> tuple[Rows, Truth]:
        """How far toe and camber are from what is wanted, not a number where nothing can be set; the front along the
        thrust line. [deg]"""
        found = self.truth()
        return self._off({key: np.array([found[key, name] for name in KINDS]) for key in WHEELS}), found

    def _one_rod(self, key: Wheel) -> bool:
        """Whether one tie rod sets the toe of this wheel and the other side's together."""
        return self.car.steering is not None and key.axle == "front"

    def _off(self, angles: Mapping[str, Array]) -> Rows:
        line = (angles["rear.left"][0] - angles["rear.right"][0]) / 2
        off = []
        half = (angles["front.left"][0] + angles["front.right"][0]) / 2
        for key in WHEELS:
            can = wanted_at(key.axle, self.car.corners[key].wheel.layout)
            follow = key.out * line * (key.axle == "front")
            goal = [WANTED[name] if name in can else np.nan for name in KINDS]
            # One rod sets total toe; where the steering wheel stands is told by itself.
            reached = np.array([half, np.nan]) if self._one_rod(key) else angles[key] - np.array([follow, 0.0])
            off.append((reached - goal).tolist())
        return off

    def work(self, samples: int = 300) -> Outcome:
        """Lower the car, follow the plan, read again and correct once."""
        out = Outcome(steering=(self.world.steering(), 0.0))
        self.read("height", "toe", "camber")
        if self.car.steering:
            self.read_at("car.wheel_off")
        self.send(kind="moved", to="hanging")
        for key in WHEELS:
            self.send(kind="stepped", step=f"springs.swap@{key}", outcome="done")
            self.world.take(Stepped(f"springs.swap@{key}"))
        springs = self.desk.get(f"{self.path}/springs", samples=500)["wheels"]
        wheels = self.turns(samples)
        self.send(kind="moved", to="on_wheels")
        self.send(kind="settled")
        self.world.take(Moved("on_wheels"))
        self.world.take(Settled())
        out.untouched, found = self.misses()
        for one in springs:
            change = found[one["key"], "height"] - self.car.corners[one["key"]].arch
            out.heights.append(change - one["change_mm"])
            out.bands["height"].append(abs(change - one["change_mm"]) <= one["plus_minus_mm"])
            out.by_record.append(change - self.foreseen[one["key"]])
            out.by_length.append(change - (NEW[1] - OLD[1]))
        self.turn(wheels, "planned")
        out.planned, found = self.misses()
        found["front", "total toe"] = sum(found[key, "toe"] for key in wheels_at("front"))
        found["front", "steering wheel"] = -self.world.steering()
        for one in wheels:
            for target in one["targets"]:
                off = abs(found[one["key"], target["name"]] - target["after_deg"])
                kind = target["name"] if target["name"] in KINDS else "steering"
                out.bands[kind].append(off <= target["plus_minus_deg"])
        self.read("check_height", "check_toe", "check_camber")
        self.read_at("car.check_wheel_off")
        out.best = self.best()
        self.turn(self.turns(samples), "left")
        out.corrected, _ = self.misses()
        out.steering = (out.steering[0], self.world.steering())
        out.floor = self.floor(found)
        return out

    def best(self) -> Rows:
        """What the same readings would leave at the best, if what every turn does were known exactly. [deg]

        Every whole step near is tried on the true linkage, the rear axle first.
        """
        told = self.desk.get(self.path)["entries"]
        stands = self.world.stands()
        reached: dict[str, Array] = {}
        shown: dict[str, Array] = {}
        for axle in ("rear", "front"):
            for key in wheels_at(axle):
                seen = wheels_at(axle) if self._one_rod(key) else (key,)
                now = np.mean([self.world.angles(one, stands) for one in seen], axis=0) / DEGREE
                typed = [
                    [next(iter(told[f"{one}.check_{name}"]["typed"].values()))["text"] for name in KINDS]
                    for one in seen
                ]
                gauge = np.array(typed, float).mean(axis=0) - now
                wheel = self.world.wheel(key)
                step = self._steps(key, -stands[key])
                line = (shown["rear.left"][0] - shown["rear.right"][0]) / 2 if axle == "front" else 0.0
                goal = [WANTED["toe"] + wheel.side * line * (len(seen) == 1), WANTED["camber"]]
                can = [name in wanted_at(axle, wheel.layout) for name in KINDS]
                tries = np.array(list(product(NEAR, repeat=len(step))))
                tried = now + tries.reshape(len(tries), len(step)) @ step
                cost = (((tried + gauge - goal) / WITHIN * can) ** 2).sum(axis=1)
                reached[key] = tried[int(np.argmin(cost))]
                shown[key] = reached[key] + gauge
        return self._off(reached)

    def _steps(self, key: Wheel, travel: float) -> Array:
        """What a step of each adjuster of a wheel does to toe and camber, shape (n, 2). [deg]

        A solid front axle's tie rod turns both wheels; each is given its half.
        """
        wheel = self.world.wheel(key)
        if self._one_rod(key):
            pair = self.world.wheel(wheels_at("front")[0]), self.world.wheel(wheels_at("front")[1])
            turned = replace(pair[0], rod=pair[0].rod + step_of(wheel.layout, "rod")), pair[1]
            was, now = (pair_angles(two, (travel, travel), self.car.steering) for two in (pair, turned))
            return np.array([[float((now - was)[:, 0].sum()) / 2, 0.0]]) / DEGREE
        names = {1: ("other",), 2: ("rod", "other")}.get(len(wanted_at(key.axle, wheel.layout)), ())
        still = wheel.angles(travel) if names else np.zeros(2)
        by = {name: getattr(wheel, name) + step_of(wheel.layout, name) for name in names}
        moved = [replace(wheel, **{name: longer}).angles(travel) - still for name, longer in by.items()]
        return np.array(moved).reshape(-1, 2) / DEGREE

    def floor(self, found: Truth) -> Rows:
        """What steps and gauges leave for certain: half a step of each adjuster and the noise of a reading. [deg]"""
        rng = np.random.default_rng(self.seed)
        rows = []
        for key in WHEELS:
            moved = self._steps(key, self.car.corners[key].arch - found[key, "height"])
            if len(moved):
                noise = np.hypot(ANGLE_STEP / np.sqrt(12), [TOE_NOISE, CAMBER_NOISE])
                off = rng.uniform(-0.5, 0.5, (40, len(moved))) @ moved + rng.normal(0, 1, (40, 2)) * noise
                can = wanted_at(key.axle, self.car.corners[key].wheel.layout)
                off[:, [name not in can for name in KINDS]] = np.nan
                rows += off.tolist()
        return rows


def change_by_record(car: TrueCar) -> dict[str, float]:
    """How far each corner rises by what the record says alone, by the bay's own energy and not by the product. [mm]

    Printed springs, the ratio as it is told, loads as weighed, a strut by its points as they were read.
    """
    told = {act.key: act.typed for act in car.record}
    unsprung = float(told["front.unsprung"]["value"].text)
    believed = {}
    for key in WHEELS:
        corner = car.corners[key]
        sprung = float(told["car.loads"][key.number].text) - unsprung
        ratio = float(told[f"{key.axle}.motion_ratio"]["value"].text)
        bends = replace(corner.wheel, points=_points_read(told, key, corner.wheel.points)).spring_way().bends
        believed[str(key)] = replace(corner, sprung=sprung, old=OLD, new=NEW, ratio=ratio, bends=bends)
    return World(replace(car, corners=believed), new_springs=set(believed)).rises()


def _points_read(told: Mapping[str, Mapping[str, Typed]], key: str, names: Iterable[str]) -> dict[str, Array]:
    read = {name: told[f"{key}.point.{name}"] for name in names}
    return {name: np.array([float(at[axis].text) for axis in "xyz"]) for name, at in read.items()}


def examine(desk: Desk, layout: str, count: int, first: int = 1) -> dict[str, Any]:
    """Let the robot work on many cars of a layout; 95th percentiles, and medians [deg, mm], and how often each band
    held."""
    found = [Robot(desk, seed, layout).work() for seed in range(first, first + count)]

    def within(name: str, share: float) -> Array:
        off = np.abs(np.concatenate([getattr(one, name) for one in found]))
        set_ = np.isfinite(off).any(axis=0)
        return np.where(set_, np.nanquantile(np.where(set_, off, 0.0), share, axis=0), np.nan)

    hits = {name: [hit for one in found for hit in one.bands[name]] for name in found[0].bands}
    bands = {name: float(np.mean(held)) for name, held in hits.items() if held}
    before, after = (np.quantile(np.abs([one.steering[n] for one in found]), 0.95) for n in (0, 1))
    names = ("untouched", "planned", "corrected", "best", "floor", "heights", "by_record", "by_length")
    medians = {name: within(name, 0.5) for name in ("planned", "corrected", "heights")}
    return {name: within(name, 0.95) for name in names} | {
        "medians": medians,
        "bands": bands,
        "steering": (before, after),
    }
