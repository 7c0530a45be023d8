"""The simulated gauges: a digital level, a height gauge, a caliper, wheel scales, a torque wrench.

Each speaks newline-delimited JSON, with noise, resolution and bias of its own, and can be told to
lose its signal or run out of battery.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.stand_ins.car import LOADS_KG, truth

TICK_SECONDS = 0.2
FAULTS = ("none", "signal_lost", "battery_flat")


@value_object
class GaugeKind:
    """A kind of simulated gauge; noise, resolution and bias in its own unit."""

    key: str
    label: str
    kind: str
    unit: str
    resolution: float
    noise: float
    bias: float
    uncertainty: float
    channels: tuple[str, ...] = ()


GAUGES: dict[str, GaugeKind] = {
    one.key: one
    for one in (
        GaugeKind("level", "Digital level", "digital_level", "deg", 0.05, 0.02, 0.03, 0.1),
        GaugeKind("height", "Height gauge", "height_gauge", "mm", 0.1, 0.15, 0.2, 0.5),
        GaugeKind("caliper", "Caliper", "caliper", "mm", 0.01, 0.01, -0.02, 0.04),
        GaugeKind("scales", "Wheel scales", "scales", "kgf", 0.5, 0.4, 0.6, 2.0, tuple(LOADS_KG)),
        GaugeKind("wrench", "Torque wrench", "torque_wrench", "nm", 0.1, 0.3, 0.4, 3.5),
    )
}


@dataclass
class Gauge:
    """One simulated gauge as it is held somewhere: what it is aimed at and of which job, its faults, its battery.

    ``found`` is what is true there of a practice car; without it the invented car is read.

    The needle creeps to the new value after each aim, and is called stable once it rests.
    """

    kind: GaugeKind
    random: np.random.Generator
    aim: str = ""
    job: str = ""
    found: float | None = None
    set_to: float | None = None
    fault: str = "none"
    battery_pct: float = 84.0
    needle: dict[str, float] = field(default_factory=dict)
    count: int = 0

    def hear(self, line: str) -> None:
        """Take a command: aim at a place, or (stand-ins only) simulate a fault.  Nonsense is passed over."""
        try:
            command = json.loads(line)
        except ValueError:
            return
        if not isinstance(command, dict):
            return
        if command.get("type") == "aim":
            self.aim = str(command.get("at", ""))[:200]
            self.job, self.found = str(command.get("job", ""))[:64], None
            at = command.get("set")
            self.set_to = float(at) if isinstance(at, int | float) and 0 < at < 2000 else None
        if command.get("type") == "simulate" and command.get("fault") in FAULTS:
            self.fault = command["fault"]
            if self.fault == "none":
                self.battery_pct = max(self.battery_pct, 60.0)

    def hello(self) -> str:
        """The first line: who speaks."""
        kind = self.kind
        return _line(
            type="hello", gauge=kind.label, kind=kind.kind, unit=kind.unit, resolution=kind.resolution,
            channels=list(kind.channels), stand_in=True,
        )  # fmt: skip

    def tick(self) -> Iterator[str]:
        """What it says in one tick; nothing while its signal is lost."""
        if self.fault == "signal_lost" or self.battery_pct == 0:
            return
        if self.fault == "battery_flat":
            self.battery_pct = 0
            yield _line(type="fault", code="battery_flat", message="Battery flat. Change it, then pair again.")
            return
        self.battery_pct = max(self.battery_pct - 0.001, 1.0)
        self.count += 1
        steady = [self._creep(channel) for channel in self.kind.channels or ("",)]
        values = {channel: self._shown(channel) for channel in self.needle}
        reading = {"values": values} if self.kind.channels else {"value": values[""]}
        yield _line(
            type="reading", seq=self.count, unit=self.kind.unit, stable=all(steady),
            battery_pct=round(self.battery_pct), **reading,
        )  # fmt: skip

    def _creep(self, channel: str) -> bool:
        goal = LOADS_KG[channel] if channel else truth(self.kind.kind, self.aim)
        if self.found is not None and not channel:
            goal = self.found
        if self.set_to is not None and self.kind.kind == "torque_wrench":
            goal = self.set_to  # it is pulled until it clicks
        now = self.needle.get(channel, 0.0)
        self.needle[channel] = now + 0.6 * (goal - now)
        return abs(goal - self.needle[channel]) < 2 * self.kind.resolution

    def _shown(self, channel: str) -> float:
        raw = self.needle[channel] + self.kind.bias + self.random.normal(0.0, self.kind.noise)
        steps = round(raw / self.kind.resolution)
        return round(steps * self.kind.resolution, 4)


def _line(**message: object) -> str:
    return json.dumps(message, ensure_ascii=False) + "\n"
