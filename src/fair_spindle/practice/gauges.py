"""The only way to see a practice car: gauges with steps, noise and errors of their own."""

from __future__ import annotations

import numpy as np

from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.car import DEGREE, enter
from fair_spindle.practice.world import World

HEIGHT_STEP, ANGLE_STEP = 0.5, 0.05
HEIGHT_NOISE, TOE_NOISE, CAMBER_NOISE = 0.4, 0.03, 0.05
CASTER_STEP, CASTER_NOISE = 0.1, 0.15
STRAIGHT = 1.0


def read(world: World, key: str, seed: int) -> Entered | None:
    """What a gauge shows at a field, as an entry; None where there is no gauge for it.

    ``seed`` decides the noise: another reading of the same place is another seed.
    """
    rng = np.random.default_rng([abs(seed), sum(key.encode())])
    name = key.rpartition(".")[2].removeprefix("check_")
    if name == "wheel_straight":
        off = world.steering() + 0.3 * rng.normal()
        return Entered(key, choice="straight" if abs(off) < STRAIGHT else "left" if off > 0 else "right")
    wheel = ".".join(key.split(".")[:2])
    if wheel not in world.car.corners:
        return None
    if key.endswith(".tie.turns_off"):
        return enter(key, world.car.corners[wheel].end_turns, "turn")
    if name == "height":
        at = world.car.corners[wheel].arch + world.stands()[wheel] + HEIGHT_NOISE * rng.normal()
        return enter(key, _shown(at, HEIGHT_STEP), part="height", method="hub_to_arch")
    toe, camber = world.angles(wheel) / DEGREE
    if name == "toe":
        return enter(key, _shown(toe + TOE_NOISE * rng.normal(), ANGLE_STEP), "deg", "toe", "angle")
    if name == "camber":
        side = world.car.corners[wheel].wheel.side
        off = (world.car.camber_bias + side * world.car.floor) / DEGREE
        return enter(key, _shown(camber + off + CAMBER_NOISE * rng.normal(), ANGLE_STEP), "deg", "value", "angle")
    if name == "caster" and (leans := world.car.corners[wheel].wheel.caster()) is not None:
        return enter(key, _shown(leans / DEGREE + CASTER_NOISE * rng.normal(), CASTER_STEP), "deg", "value", "angle")
    return None


def true_at(world: World, key: str) -> float | None:
    """What a gauge without noise or steps would find at a field, with what is wrong in the bay. [mm, °]"""
    wheel, name = ".".join(key.split(".")[:2]), key.split(".")[2:3]
    if wheel not in world.car.corners or not name:
        return None
    what = name[0].removeprefix("check_")
    corner = world.car.corners[wheel]
    if what == "height":
        return corner.arch + world.stands()[wheel]
    if what == "caster":
        leans = corner.wheel.caster()
        return None if leans is None else leans / DEGREE
    if what not in ("toe", "camber"):
        return None
    toe, camber = world.angles(wheel) / DEGREE
    off = (world.car.camber_bias + corner.wheel.side * world.car.floor) / DEGREE
    return float(toe if what == "toe" else camber + off)


def _shown(value: float, step: float) -> float:
    return float(round(round(value / step) * step, 4))
