"""The invented car that the simulated gauges are held to."""

from __future__ import annotations

_CORNERS = {
    "front.left": {"height": 371.6, "camber": -0.62, "caster.out": 0.42, "caster.in": -1.83, "toe": 0.10},
    "front.right": {"height": 368.9, "camber": -0.71, "caster.out": 0.36, "caster.in": -1.95, "toe": 0.08},
    "rear.left": {"height": 365.2, "camber": -1.34, "toe": 0.14},
    "rear.right": {"height": 363.8, "camber": -1.41, "toe": 0.16},
}
LOADS_KG = {"front_left": 412.5, "front_right": 404.0, "rear_left": 318.5, "rear_right": 322.0}
_LENGTHS = {"length": 332.0, "end": 84.0, "perch": 62.4, "damper_length": 486.0, "spring.free": 385.0}


def truth(kind: str, aim: str) -> float:
    """What a gauge of a kind would find at a place of the car, in the gauge's own unit.

    ``aim`` is a field's key, with the part behind it where the reading has several.
    """
    corner, _, name = _split(aim)
    known = _CORNERS.get(corner, {})
    if name in known:
        return known[name]
    base, _, part = name.rpartition(".")
    if base == "camber" and part in ("floor",):
        return 0.15
    if base in known:
        return known[base]
    if kind == "caliper":
        return next((length for key, length in _LENGTHS.items() if name.endswith(key)), 27.35)
    return {"digital_level": 0.25, "height_gauge": 366.0, "torque_wrench": 88.0}.get(kind, 0.0)


def _split(aim: str) -> tuple[str, str, str]:
    parts = aim.split(".")
    return ".".join(parts[:2]), ".", ".".join(parts[2:])
