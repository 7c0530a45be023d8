"""What a part can change, by geometry: how far an angle goes with its length, or with the place of its joint."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cache

import numpy as np

from fair_spindle.core.basics.errors import SpindleError
from fair_spindle.core.basics.units import from_core, to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.planning.procedure import Measured

# How far two parts for the same place lie apart, and what two readings of a driveway can tell.  The product's own.
APART_MM = 2.0
TOLD: dict[Measured, float] = {
    "toe": to_core(2, "min"),
    "camber": to_core(0.12, "deg"),
    "caster": to_core(0.3, "deg"),
}


@value_object
class Effect:
    """What 1 mm of a part does to an angle, whichever way it is moved that does the most. [rad/mm]

    ``by`` is ``length``, or ``place``: its outer joint fore and aft.
    """

    angle: Measured
    slope: float
    by: str


def effects_at(corner: Corner) -> Mapping[str, tuple[Effect, ...]]:
    """What each part of a corner does to its wheel.

    Parameters
    ----------
    corner : Corner
        Points at ride height. [mm]

    Returns
    -------
    mapping
        Effects by part, those first that move most for what can be read; none where the linkage locks.

    Raises
    ------
    Nothing.

    Notes
    -----
    The wheel's height stays.  A wishbone's legs go together for its length, against each other for the place of its
    ball joint.  Central differences over 1 mm each way.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> strut = usual_corner("strut")
    >>> [one.angle for one in effects_at(strut)["lower"]]
    ['toe', 'caster', 'camber']
    """
    return {part: tuple(_effects(corner, ways)) for part, ways in _ways(corner).items()}


@cache
def usual_effects(layout: str) -> Mapping[str, tuple[Effect, ...]]:
    """The same at a middling corner of a layout; empty for an axle whose wheels have no links of their own."""
    corner = usual_corner(layout)
    return effects_at(corner) if corner else {}


def moved_by(effects: tuple[Effect, ...], kingpin: bool = True) -> tuple[Measured, ...]:
    """The angles a new part can move by more than two readings leave open; caster where there is a steering axis."""
    found = {effect.angle for effect in effects if effect.slope * APART_MM >= TOLD[effect.angle]}
    return tuple(angle for angle in TOLD if angle in found and (kingpin or angle != "caster"))


def say_effects(effects: tuple[Effect, ...]) -> str:
    """What 1 mm does, in words; what cannot be read is left out."""
    told = [
        f"{effect.angle} {from_core(effect.slope, 'deg'):.2f}°" + (" (its place)" if effect.by == "place" else "")
        for effect in effects
        if effect.slope * APART_MM >= TOLD[effect.angle]
    ]
    return f"1 mm moves {', '.join(told)}" if told else ""


def _ways(corner: Corner) -> dict[str, dict[str, dict[str, float]]]:
    """How each part can differ: by its length, by the place of its outer joint, as changes of links."""
    names = [link.name for link in corner.links]
    if corner.kind.guide == "swing":
        return {"arm": {"place": {"arm": 1.0}}}
    found: dict[str, dict[str, dict[str, float]]] = {}
    for part in (arm.key for arm in corner.kind.arms):
        legs = (f"{part}_front", f"{part}_rear")
        if legs[0] in names:
            found[part] = {"length": dict.fromkeys(legs, 1.0), "place": {legs[0]: -1.0, legs[1]: 1.0}}
            names = [name for name in names if name not in legs]
    return found | {name: {"length": {name: 1.0}} for name in names}


def _effects(corner: Corner, ways: Mapping[str, Mapping[str, float]]) -> Iterator[Effect]:
    best: dict[Measured, Effect] = {}
    for by, links in ways.items():
        try:
            angles = angles_at(corner, [0.0, 0.0], {name: np.array([size, -size]) for name, size in links.items()})
        except SpindleError:
            continue
        for angle in TOLD:
            values = getattr(angles, angle)
            if values is not None:
                slope = abs(float(values[0] - values[1])) / 2
                if angle not in best or slope > best[angle].slope:
                    best[angle] = Effect(angle, slope, by)
    if corner.kind.guide == "swing":  # its outer pivot higher leans the whole arm, wheel and all
        across = abs(float(corner.point("arm_outer")[1] - corner.point("arm_inner")[1]))
        best["camber"] = Effect("camber", 1.0 / across, "place")
    yield from sorted(best.values(), key=lambda one: -one.slope / TOLD[one.angle])
