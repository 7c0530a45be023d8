"""The only way to see a practice car: gauges with steps, noise and errors of their own."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.car import DEGREE
from fair_spindle.practice.record import enter
from fair_spindle.practice.world import World

HEIGHT_STEP, ANGLE_STEP = 0.5, 0.05
HEIGHT_NOISE, TOE_NOISE, CAMBER_NOISE = 0.4, 0.03, 0.05
CASTER_STEP, CASTER_NOISE = 0.1, 0.15
_BY_HAND = ("mm", "value", "typed")
# For each field: spread, step, and how it is typed: unit, part, method.
GAUGES = {
    "height": (HEIGHT_NOISE, HEIGHT_STEP, ("mm", "height", "hub_to_arch")),
    "toe": (TOE_NOISE, ANGLE_STEP, ("deg", "toe", "angle")),
    "camber": (CAMBER_NOISE, ANGLE_STEP, ("deg", "value", "angle")),
    "caster": (CASTER_NOISE, CASTER_STEP, ("deg", "value", "angle")),
    **dict.fromkeys(("rest_height", "rest_height_after", "droop_height"), (HEIGHT_NOISE, HEIGHT_STEP, _BY_HAND)),
    **dict.fromkeys(("hose_slack", "damper_left"), (HEIGHT_NOISE, 1.0, _BY_HAND)),
    **dict.fromkeys(("shackle_angle", "shackle_angle_after"), (0.4, 0.5, ("deg", "value", "typed"))),
}
STRAIGHT = 1.0
# A level on a spoke of the steering wheel. [°]
WHEEL_NOISE, WHEEL_STEP = 0.3, 0.1
# Share of a load that a scale errs by, and its step [N].
SCALE_NOISE, SCALE_STEP = 0.004, 5.0
# What hose and damper have left at full droop. [mm]
LEFT = {"hose_slack": 38.0, "damper_left": 24.0}


def read(world: World, key: str, seed: int) -> Entered | None:
    """What a gauge shows at a field, as an entry; None where there is no gauge for it.

    ``seed`` decides the noise: another reading of the same place is another seed.
    """
    rng = np.random.default_rng([abs(seed), sum(key.encode())])
    name = key.rpartition(".")[2].removeprefix("check_")
    if name == "wheel_straight":
        off = world.steering() + WHEEL_NOISE * rng.normal()
        return Entered(key, choice="straight" if abs(off) < STRAIGHT else "left" if off > 0 else "right")
    if name == "wheel_off":
        return _told(key, -world.steering() + WHEEL_NOISE * rng.normal(), WHEEL_NOISE, WHEEL_STEP, "deg")
    if key in ("car.loads", "car.check_loads"):
        return _weighed(world, key, rng)
    wheel = ".".join(key.split(".")[:2])
    if wheel not in world.car.corners:
        return None
    if key.endswith(".tie.turns_off"):
        return enter(key, world.car.corners[wheel].end_turns, "turn")
    true = _true(world, wheel, name)
    if true is None:
        return None
    noise, step, typed = GAUGES[name]
    wanders = np.degrees(world.play(wheel)) * rng.uniform(-1, 1) if name == "toe" else 0.0
    return _told(key, true + noise * rng.normal() + wanders, noise, step, *typed)


def _told(key: str, value: float, noise: float, step: float, unit: str, *how: str) -> Entered:
    """What a gauge shows, with the ± that stands on it: 95 of 100 by its noise and its step."""
    sure = 2 * np.hypot(noise, step / np.sqrt(12))
    return replace(enter(key, _shown(value, step), unit, *how), plus_minus=Typed(f"{sure:.3f}", unit))


def _weighed(world: World, key: str, rng: np.random.Generator) -> Entered:
    """Four scales under the wheels."""
    loads = world.loads()
    shown = {
        wheel.number: Typed(f"{_shown(loads[wheel] * (1 + SCALE_NOISE * rng.normal()), SCALE_STEP):.0f}", "n")
        for wheel in WHEELS
    }
    return Entered(key, "four_scales", shown)


def true_at(world: World, key: str) -> float | None:
    """What a gauge without noise or steps would find at a field, with what is wrong in the bay. [mm, °]"""
    wheel, name = ".".join(key.split(".")[:2]), key.split(".")[2:3]
    if wheel not in world.car.corners or not name:
        return None
    return _true(world, wheel, name[0].removeprefix("check_"))


def _true(world: World, wheel: str, name: str) -> float | None:
    corner = world.car.corners[wheel]
    if name.endswith("height") or name.startswith("rest_height"):
        return corner.arch + world.stands()[wheel]
    if corner.wheel.layout == "solid_leaf" and name in LEFT:
        return LEFT[name]
    if corner.wheel.layout == "solid_leaf" and name.startswith("shackle_angle"):
        return world.shackles(wheel.partition(".")[0])[wheel]
    if name == "caster":
        steering = world.car.steering if wheel.startswith("front") else None
        leans = steering.knuckles[0].caster if steering else corner.wheel.caster()
        return None if leans is None else leans / DEGREE
    if name not in ("toe", "camber"):
        return None
    toe, camber = world.angles(wheel) / DEGREE
    off = (world.car.camber_bias + corner.wheel.side * world.car.floor) / DEGREE
    crooked = world.car.string / DEGREE if corner.wheel.side > 0 else 0.0
    return float(toe + crooked if name == "toe" else camber + off)


def _shown(value: float, step: float) -> float:
    return float(round(round(value / step) * step, 4))
