"""What a mechanic's entries did to the car: the truth after every line of a practice job."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.units import from_core
from fair_spindle.core.basics.wheels import AXLES, WHEELS, wheels_at
from fair_spindle.core.joblog.log import (
    Act,
    Counted,
    Entered,
    Event,
    Moved,
    Settled,
    Stepped,
    Turned,
    Worked,
)
from fair_spindle.practice.axles import bump_left, on_bracket, pair_angles, shackle_leans
from fair_spindle.practice.body import Bar, Leg, forces, rest
from fair_spindle.practice.car import BAR, PITCH, RING, RUBBER, TRACK, UNSPRUNG, TrueCar
from fair_spindle.practice.linkage import Upright

Vector = NDArray[np.float64]
DROOP = 75.0
BEDDED = -1.0
# A jack under a corner stops a little before the height at which it rests on its wheel. [mm]
JACK_SHORT = 3.0
# How far a shackle leans back at ride height on a bracket that was moved. [°]
MOVED_BRACKET = 14.0
# How far a rod whose jam nut was left loose turns on the road. [flats]
BACKS_OFF = 2


@dataclass
class World:
    """The car after some entries: position, what is turned [mm], fitted, clamped at which rise [mm]."""

    car: TrueCar
    position: str = "on_wheels"
    settled: bool = True
    driven: bool = False
    turned: dict[str, dict[str, float]] = field(default_factory=dict)
    turns_on: dict[str, float] = field(default_factory=dict)
    new_springs: set[str] = field(default_factory=set)
    clamped: dict[str, float] = field(default_factory=dict)
    gap: dict[str, float] = field(default_factory=dict)
    rings: dict[str, float] = field(default_factory=dict)
    brackets: set[str] = field(default_factory=set)
    loose: set[str] = field(default_factory=set)
    carried: str = ""
    torqued: int = 0
    moves: int = 0

    def take(self, act: Act) -> None:
        """Do to the car what an entry says was done."""
        match act:
            case Moved(to=to):
                self.settled = self.settled and to == self.position
                self.position, self.moves = to, self.moves + 1
                self.carried = f"{act.axle}.{act.corner}" if act.corner else ""
            case Settled():
                self.settled = True
            case Turned(wheel=wheel, adjuster=name, steps=steps) if wheel in (*self.car.corners, "front"):
                which, step = self.car.rod_step(wheel, name)
                had = self.turned.setdefault(wheel, {"rod": 0.0, "other": 0.0})
                had[which] += steps * step
            case Counted(axle=axle, side=side, direction="on", flats=flats):
                key = f"{axle}.{side}"
                self.turns_on[key] = self.turns_on.get(key, 0.0) + flats / 6
            case Entered(key=key) if key.endswith(".tie.turns_on"):
                typed = next(iter(act.typed.values()))
                number = read_number(typed.text, "count", typed.unit, key)
                self.turns_on[key.removesuffix(".tie.turns_on")] = from_core(number.value, "turn")
            case Entered(key=key) if key.endswith(".perch_up") and act.typed:
                typed = next(iter(act.typed.values()))
                number = read_number(typed.text, "count", typed.unit, key)
                self.rings[key.removesuffix(".perch_up")] = from_core(number.value, "turn") * RING
            case Worked(joint=joint) if ".jam." in joint:
                self._jammed(act)
            case Worked(to="torqued", percent=100):
                self._torqued(act)
            case Stepped(outcome="done"):
                self._stepped(act.step)

    def _jammed(self, act: Worked) -> None:
        """A rod's jam nut holds once it is torqued; a loose one lets the rod turn on the road."""
        key = ".".join(act.joint.split(".")[-2:])
        (self.loose.discard if act.to in ("torqued", "locked") else self.loose.add)(key)

    def _torqued(self, act: Worked) -> None:
        """A pivot's bolt of a lower arm holds its rubber where the arm is then."""
        self.torqued += bool(act.reading)
        parts = act.joint.split(".")
        key = ".".join(parts[-2:])
        if key not in WHEELS or "bush" not in parts[1]:
            return
        if act.clamp and act.clamp.height_mm:
            self.clamped[key] = act.clamp.height_mm - self.car.corners[key].arch
        else:
            self.clamped[key] = self.rises()[key] if self.position == "on_wheels" else self.stands()[key]

    def _stepped(self, step: str) -> None:
        name, _, where = step.partition("@")
        if name.endswith(("springs.swap", "unit_in")) and where in WHEELS:
            self.new_springs.add(where)
        elif name == "leaf_shackles.bracket_start":
            self.brackets.add(where)
        elif name == "lower_arm.out":
            # With the arm out nothing is wound; the new one is loose until it is clamped.
            self.clamped.pop(where, None)
        elif name.endswith(("second_link", "second_link_hanging", "links_loaded")):
            self.gap[where.split(".")[0]] = 0.0 if self.settled and self.position == "on_wheels" else 2.0
        elif name == "road" and not self.driven:
            self.driven = True
            for key in self.loose:
                self.turned.setdefault(key, {"rod": 0.0, "other": 0.0})["rod"] += BACKS_OFF * PITCH / 6

    def _legs(self) -> tuple[dict[str, Leg], dict[str, Bar]]:
        legs = {}
        for key, corner in self.car.corners.items():
            seat = corner.old[1] - corner.sprung / corner.ratio / corner.old[0]
            new = key in self.new_springs
            rate, free = corner.new if new else corner.old
            wound = key in self.clamped
            legs[key] = Leg(
                corner.sprung,
                rate,
                free - seat + self.rings.get(key, 0.0),
                corner.ratio,
                RUBBER if wound else 0.0,
                self.clamped.get(key, 0.0),
                corner.helper if new else None,
                corner.bends,
            )
        gaps = {axle: self.gap.get(axle, self.car.bar_gap.get(axle, 0.0)) for axle in BAR}
        return legs, {axle: Bar(rate, gaps[axle]) for axle, rate in BAR.items()}

    def rises(self) -> dict[str, float]:
        """How far each corner of the body is up from its wheel against how it once stood, at rest. [mm]"""
        return rest(*self._legs(), self.car.tyre)

    def loads(self) -> dict[str, float]:
        """What stands on each wheel at rest. [N]"""
        legs, bars = self._legs()
        rises = rest(legs, bars, self.car.tyre)
        at = np.array([rises[key] for key in WHEELS])
        beyond, _ = forces(at, [legs[key] for key in WHEELS], [bars[axle] for axle in AXLES])
        return {key: float(more) + legs[key].load + UNSPRUNG for key, more in zip(WHEELS, beyond, strict=True)}

    def _tyres(self) -> dict[str, float]:
        """How far each wheel's centre is up by its tyre against how it once stood. [mm]"""
        if not self.car.tyre or self.position != "on_wheels":
            return dict.fromkeys(WHEELS, 0.0)
        return {
            key: (self.car.corners[key].sprung + UNSPRUNG - load) / self.car.tyre
            for key, load in self.loads().items()
        }

    def cross(self) -> float:
        """Share of front right and rear left in the whole. [%]"""
        return cross_of(self.loads())

    def stands(self) -> dict[str, float]:
        """The same as the car stands now: hanging, but for a corner that a jack carries; or held up by its friction
        until it is settled. [mm]"""
        if self.position != "on_wheels":
            hanging: dict[str, float] = dict.fromkeys(WHEELS, DROOP)
            return hanging | ({self.carried: self.rises()[self.carried] + JACK_SHORT} if self.carried else {})
        bedded = BEDDED if self.driven else 0.0
        high = 0.0 if self.settled else self.car.friction
        return {key: rise + high + (bedded if key in self.new_springs else 0.0) for key, rise in self.rises().items()}

    def wheel(self, key: str) -> Upright:
        """The wheel as it is set now."""
        corner = self.car.corners[key]
        turned = self.turned.get(key, {"rod": 0.0, "other": 0.0})
        rod = turned["rod"] + self.counted(key)
        points = corner.wheel.points
        if key in self.brackets:
            points = on_bracket(points, np.radians(MOVED_BRACKET))
        return replace(corner.wheel, points=points, rod=rod, other=turned["other"])

    def counted(self, key: str) -> float:
        """How much longer a rod is by its new end and the turns it was put on; 0 where the old one is on. [mm]"""
        if key not in self.turns_on:
            return 0.0
        return self.car.new_end + (self.car.corners[key].end_turns - self.turns_on[key]) * PITCH

    def play(self, key: str) -> float:
        """How far a worn rod end lets the toe wander either way; none once another is on. [rad]"""
        return 0.0 if key in self.turns_on else self.car.corners[key].play

    def angles(self, key: str, stands: dict[str, float] | None = None) -> Vector:
        """Toe and camber to flat ground, the body rolled with its heights. [rad]"""
        return self.axle_angles(key.split(".")[0], stands)[key]

    def axle_angles(self, axle: str, stands: dict[str, float] | None = None) -> dict[str, Vector]:
        """The same of both wheels of an axle."""
        now = stands or self.stands()
        left, right = wheels_at(axle)
        pair = self.wheel(left), self.wheel(right)
        steering = self.car.steering if axle == "front" else None
        if steering and "front" in self.turned:
            rods = self.turned["front"]
            pair = replace(pair[0], rod=rods["rod"], other=rods["other"]), pair[1]
        to_body = pair_angles(pair, (-now[left], -now[right]), steering)
        sunk = self._tyres()
        roll = (now[left] - now[right] + sunk[left] - sunk[right]) / TRACK
        return {key: to_body[n] - [0.0, (1 - 2 * n) * roll] for n, key in enumerate((left, right))}

    def all_angles(self, stands: dict[str, float] | None = None) -> dict[str, Vector]:
        """The same of all four wheels, each axle solved once."""
        return {key: angles for axle in AXLES for key, angles in self.axle_angles(axle, stands).items()}

    def shackles(self, axle: str) -> dict[str, float]:
        """How far each shackle of an axle on leaves leans back. [°]"""
        now, (left, right) = self.stands(), wheels_at(axle)
        leans = shackle_leans((self.wheel(left), self.wheel(right)), (-now[left], -now[right]))
        return dict(zip((left, right), np.degrees(leans).tolist(), strict=True))

    def shackle_bump(self) -> dict[str, float]:
        """How far each wheel on leaves goes up before its shackle meets its bracket; none where it cannot. [mm]"""
        found: dict[str, float] = {}
        for axle in AXLES if self.car.shackle_stop else ():
            left, right = wheels_at(axle)
            pair = self.wheel(left), self.wheel(right)
            if pair[0].layout == "solid_leaf":
                found |= zip((left, right), bump_left(pair, self.car.shackle_stop).tolist(), strict=True)
        return found

    def steering(self, stands: dict[str, float] | None = None) -> float:
        """How far the steering wheel stands off when the car runs straight; held to the left positive. [°]"""
        now = stands or self.stands()
        toes: dict[str, float] = {key: float(angles[0]) for key, angles in self.all_angles(now).items()}
        line = (toes["rear.left"] - toes["rear.right"]) / 2
        return float(np.degrees(self.car.steering_ratio * ((toes["front.left"] - toes["front.right"]) / 2 - line)))


def cross_of(loads: Mapping[str, float]) -> float:
    """Share of front right and rear left in the whole. [%]"""
    return 100 * (loads["front.right"] + loads["rear.left"]) / sum(loads.values())


def world_of(car: TrueCar, events: Iterable[Event]) -> World:
    """The truth after the lines of a log that count."""
    world = World(car, clamped=dict(car.clamped_at))
    for event in events:
        world.take(event.act)
    return world
