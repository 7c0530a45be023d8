"""A corner from tape and digital level: arm lengths and rises in the front view, spans and leads in the plan view.

The middle depth of geometry: more than slopes, less than points.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.geometry.corner import Corner, make_corner
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.linkage_fit import points_of
from fair_spindle.core.turns.monte_carlo import Cloud

SPAN = 160.0
# How far what is not measured varies about what is taken for it, by measure: usual value and standard uncertainty.
# What a corner laid out in two views leaves out, at each point.  The product's own. [mm]
_VARIES = {"span": (2 * SPAN, 60.0), "lead": (0.0, 15.0), "skew": (0.0, 10.0), "tilt": (0.0, 8.0)}
LAID_OUT = 1.0
Array = NDArray[np.float64]
Vector = tuple[float, float, float]
Number = Callable[..., float]


def needed_by_tape(key: str, layout: str) -> tuple[str, ...]:
    """Measures a corner cannot do without, by field key.

    How far the upper joint lies inboard or behind, and a wishbone's plan view, may stay unknown.
    """
    kind = LAYOUTS.get(layout)
    if not kind or not kind.taped:
        return ()
    if kind.guide == "swing":
        return (*(f"{key}.arm.{name}" for name in ("length", "rise", "span", "lead")), f"{key.split('.')[0]}.track")
    arms = (*(arm.key for arm in kind.taped), "tie")
    measures = [f"{arm}.{name}" for arm in arms for name in ("length", "rise")]
    own = [f"{key}.{name}" for name in (*measures, "tie.lever", "tie.above", "joint_height")]
    axle = key.split(".")[0]
    return (*own, f"{axle}.track")


def corner_by_tape(
    record: Readings, key: str, layout: str, angles: tuple[float, float], caster: float = 0.0
) -> Corner | None:
    """Lay out a corner from its tape measures, in the front view and in the plan view.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    key : str
        Axle and side. [-]
    layout : str
        Layout of the axle. [-]
    angles : tuple of float
        Camber and toe as read. [rad]
    caster : float, optional
        As read; says how far the upper joint lies behind, where that was not measured. [rad]

    Returns
    -------
    Corner or None
        None where a measure is missing or they do not fit together.

    Raises
    ------
    Nothing.

    Notes
    -----
    The lower joint is the origin; the wheel centre stands above it by two fifths of the height between the joints.
    Pivots whose plan was not measured lie fore and aft, 320 mm apart about their joint.  An upper joint that was not
    measured lies inboard by 14 % (strut top) or 4 % of that height, the product's own.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import CAR
    >>> corner_by_tape(readings_now(JobState(), CAR), "front.left", "strut", (0.0, 0.0)) is None
    True
    """
    axle, side = key.split(".")
    needed, steer = needed_by_tape(key, layout), record.words.get(f"{axle}.steer")
    swings = bool(needed) and LAYOUTS[layout].guide == "swing"
    if not needed or not (steer or swings) or any(name not in record.quantities for name in needed):
        return None
    sign = 1.0 if side == "left" else -1.0

    def number(name: str, otherwise: float = 0.0) -> float:
        found = record.quantities.get(f"{key}.{name}")
        return found.value if found else otherwise

    half = record.quantities[f"{axle}.track"].value / 2
    points = _semi_trailing(number, half) if swings else _steered(number, LAYOUTS[layout], half, str(steer), caster)
    sided = {name: (x, sign * y, z) for name, (x, y, z) in points.items()}
    try:
        return make_corner(layout, side, *angles, sided)
    except InputError:
        return None


def _steered(number: Number, layout: Layout, half: float, steer: str, caster: float) -> dict[str, Vector]:
    """Points of a strut or double wishbone at the left, the lower joint the origin fore and aft."""
    height = number("joint_height")
    joint = half - 60.0
    lower = (0.0, joint, 0.0)
    behind = number("joint_back", height * math.tan(caster))
    upper = (-behind, joint - number("joint_inboard", layout.joint_inboard * height), height)
    rod = (number("tie.lever") * (-1 if steer == "behind" else 1), joint, number("tie.above"))
    length, rise, lead = (number(f"tie.{name}") for name in ("length", "rise", "lead"))
    inner = (rod[0] - lead, rod[1] - math.sqrt(max(length**2 - rise**2 - lead**2, 0.0)), rod[2] - rise)
    points = {"wheel_center": (0.0, half, 0.4 * height), "lower_ball": lower, "tie_outer": rod, "tie_inner": inner}
    for name, at in (("lower", lower), ("upper", upper)):
        if name in (arm.key for arm in layout.taped):
            points[f"{name}_front"], points[f"{name}_rear"] = _pivots(number, name, at)
    assert layout.steering_axis
    points[layout.steering_axis[1]] = upper
    if layout.guide == "strut":
        points["strut_low"] = tuple(  # type: ignore[assignment]
            (2 * low + high) / 3 for low, high in zip(lower, upper, strict=True)
        )
    return points


def _pivots(number: Number, arm: str, joint: Vector) -> tuple[Vector, Vector]:
    """Front and rear pivot of a wishbone from its length, rise, span, lead, and how the front pivot lies."""
    span = number(f"{arm}.span", 2 * SPAN)
    between = (span, number(f"{arm}.skew"), number(f"{arm}.tilt"))
    axis, half = _unit(between), math.hypot(*between) / 2
    foot = _foot(joint, axis, number(f"{arm}.length"), number(f"{arm}.rise"))
    along = (joint[0] - number(f"{arm}.lead") - foot[0]) / axis[0]
    ends = [tuple(f + (along + by) * a for f, a in zip(foot, axis, strict=True)) for by in (half, -half)]
    return ends[0], ends[1]  # type: ignore[return-value]


def _semi_trailing(number: Number, half: float) -> dict[str, Vector]:
    """Pivots of a semi-trailing arm at the left; span is told inner to outer, lead the outer pivot ahead."""
    wheel = (0.0, half, 0.0)
    span, lead = number("arm.span"), number("arm.lead")
    axis = _unit((lead, math.sqrt(max(span**2 - lead**2, 0.0)), number("arm.tilt")))
    foot = _foot(wheel, axis, number("arm.length"), number("arm.rise"))
    # The arm turns about its axis wherever its pivots sit on it; they are drawn inboard of the wheel.
    inner, outer = (tuple(f - by * a for f, a in zip(foot, axis, strict=True)) for by in (1.1 * span, 0.1 * span))
    return {"arm_inner": inner, "arm_outer": outer, "wheel_center": wheel}  # type: ignore[dict-item]


def _unit(along: Vector) -> Vector:
    size = math.hypot(*along)
    return along[0] / size, along[1] / size, along[2] / size


def _foot(joint: Vector, axis: Vector, length: float, rise: float) -> Vector:
    """Where an arm meets its pivot axis at a right angle, the axis lying to the right of the arm's way out."""
    level = math.hypot(axis[0], axis[1])
    out = (-axis[1] / level, axis[0] / level)
    along = -rise * axis[2] / level
    reach = math.sqrt(max(length**2 - rise**2 - along**2, 0.0))
    arm_x = reach * out[0] + along * axis[0] / level
    arm_y = reach * out[1] + along * axis[1] / level
    return joint[0] - arm_x, joint[1] - arm_y, joint[2] - rise


def cloud_by_tape(
    record: Readings, key: str, corner: Corner, caster: Quantity | None, angles: tuple[float, float]
) -> Cloud:
    """Where a corner laid out by tape may lie: every measure by its own ±, those not measured by how far they vary.

    ``angles`` are the uncertainties of toe and camber as read. [rad]
    """
    points = points_of(corner)
    read = (corner.camber, corner.toe)
    height = record.quantities[f"{key}.joint_height"].value if f"{key}.joint_height" in record.quantities else 0.0
    told = dict(record.quantities)
    leaning = caster.value if caster else 0.0
    varies = {
        **{f"{arm.key}.{name}": size for arm in corner.kind.taped for name, size in _VARIES.items()},
        "arm.span": (260.0, 40.0),
        "tie.lead": (0.0, 10.0),
        "joint_inboard": (corner.kind.joint_inboard * height, 0.05 * height),
        "joint_back": (height * math.tan(leaning), height * (caster.uncertainty if caster else 0.05)),
    }
    names = [
        *(name.removeprefix(f"{key}.") for name in needed_by_tape(key, corner.layout) if name.startswith(key)),
        *varies,
    ]
    columns, sources = [], []
    for name in dict.fromkeys(names):
        at = told.get(f"{key}.{name}")
        value, size = (at.value, at.uncertainty) if at else varies.get(name, (0.0, 0.0))
        if not size:
            continue
        other = replace(record, quantities={**told, f"{key}.{name}": Quantity(value + size)})
        there = corner_by_tape(other, key, corner.layout, read, leaning)
        if there:
            columns.append(_between(corner, there, points))
            sources.append((name, 1))
    own = np.diag(np.full(3 * len(points), LAID_OUT))
    matrix = np.zeros((3 * len(points) + 2, len(columns) + len(own) + 2))
    matrix[:-2, : len(columns)] = np.array(columns).T if columns else 0.0
    matrix[:-2, len(columns) : -2] = own
    matrix[-2, -2], matrix[-1, -1] = angles
    return Cloud(points, (*sources, ("what a tape leaves out", len(own)), ("toe", 1), ("camber", 1)), matrix)


def _between(one: Corner, other: Corner, points: tuple[str, ...]) -> Array:
    """How far the points of two corners lie apart, each against its wheel centre, shape (3 m,). [mm]"""
    return np.concatenate([(other.point(name) - other.wheel) - (one.point(name) - one.wheel) for name in points])
