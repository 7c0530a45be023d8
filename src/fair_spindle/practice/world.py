"""What a mechanic's entries did to the car: the truth after every line of a practice job."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.units import from_core
from fair_spindle.core.basics.wheels import WHEELS
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
from fair_spindle.practice.body import Bar, Leg, rest
from fair_spindle.practice.car import BAR, PITCH, RUBBER, TRACK, TrueCar
from fair_spindle.practice.linkage import Upright

Vector = NDArray[np.float64]
DROOP = 75.0
BEDDED = -1.0


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
    moves: int = 0

    def take(self, act: Act) -> None:
        """Do to the car what an entry says was done."""
        match act:
            case Moved(to=to):
                self.settled = self.settled and to == self.position
                self.position, self.moves = to, self.moves + 1
            case Settled():
                self.settled = True
            case Turned(wheel=wheel, adjuster=name, steps=steps) if wheel in self.car.corners:
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
            case Worked(to="torqued", percent=100):
                self._torqued(act)
            case Stepped(outcome="done"):
                self._stepped(act.step)

    def _torqued(self, act: Worked) -> None:
        """A pivot's bolt of a lower arm holds its rubber where the arm is then."""
        parts = act.joint.split(".")
        key = ".".join(parts[-2:])
        if key not in WHEELS or "bush" not in parts[1]:
            return
        if act.clamp and act.clamp.height_mm:
            self.clamped[key] = act.clamp.height_mm - self.car.corners[key].arch
        elif self.position == "hanging":
            self.clamped[key] = DROOP
        else:
            self.clamped[key] = self.rises()[key]

    def _stepped(self, step: str) -> None:
        name, _, where = step.partition("@")
        if name.endswith(("springs.swap", "unit_in")) and where in WHEELS:
            self.new_springs.add(where)
        elif name == "lower_arm.out":
            # With the arm out nothing is wound; the new one is loose until it is clamped.
            self.clamped.pop(where, None)
        elif name.endswith(("second_link", "second_link_hanging", "links_loaded")):
            self.gap[where.split(".")[0]] = 0.0 if self.settled and self.position == "on_wheels" else 2.0
        elif name == "road":
            self.driven = True

    def rises(self) -> dict[str, float]:
        """How far each corner of the body is up against how it once stood, at rest on its wheels. [mm]"""
        legs = {}
        for key, corner in self.car.corners.items():
            seat = corner.old[1] - corner.sprung / corner.ratio / corner.old[0]
            rate, free = corner.new if key in self.new_springs else corner.old
            wound = key in self.clamped
            legs[key] = Leg(
                corner.sprung,
                rate,
                free - seat,
                corner.ratio,
                RUBBER if wound else 0.0,
                self.clamped.get(key, 0.0),
            )
        gaps = {axle: self.gap.get(axle, self.car.bar_gap.get(axle, 0.0)) for axle in BAR}
        return rest(legs, {axle: Bar(rate, gaps[axle]) for axle, rate in BAR.items()})

    def stands(self) -> dict[str, float]:
        """The same as the car stands now: hanging, or held up by its friction until it is settled. [mm]"""
        if self.position == "hanging":
            return dict.fromkeys(WHEELS, DROOP)
        bedded = BEDDED if self.driven else 0.0
        high = 0.0 if self.settled else self.car.friction
        return {key: rise + high + (bedded if key in self.new_springs else 0.0) for key, rise in self.rises().items()}

    def wheel(self, key: str) -> Upright:
        """The wheel as it is set now."""
        corner = self.car.corners[key]
        turned = self.turned.get(key, {"rod": 0.0, "other": 0.0})
        rod = turned["rod"]
        if key in self.turns_on:
            rod += self.car.new_end + (corner.end_turns - self.turns_on[key]) * PITCH
        return replace(corner.wheel, rod=rod, other=turned["other"])

    def angles(self, key: str, stands: dict[str, float] | None = None) -> Vector:
        """Toe and camber to flat ground, the body rolled with its heights. [rad]"""
        now = stands or self.stands()
        toe, camber = self.wheel(key).angles(-now[key])
        axle = key.split(".")[0]
        roll = (now[f"{axle}.left"] - now[f"{axle}.right"]) / TRACK
        return np.array([toe, camber - self.car.corners[key].wheel.side * roll])

    def steering(self, stands: dict[str, float] | None = None) -> float:
        """How far the steering wheel stands off when the car runs straight; held to the left positive. [°]"""
        now = stands or self.stands()
        toes: dict[str, float] = {key: self.angles(key, now)[0] for key in WHEELS}
        line = (toes["rear.left"] - toes["rear.right"]) / 2
        return float(np.degrees(15 * ((toes["front.left"] - toes["front.right"]) / 2 - line)))


def world_of(car: TrueCar, events: Iterable[Event]) -> World:
    """The truth after the lines of a log that count."""
    world = World(car, clamped=dict(car.clamped_at))
    for event in events:
        world.take(event.act)
    return world
