"""From a car's record and its last baseline to corners, adjusters and the turns that bring the car back."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field, replace

import numpy as np

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, OUT, SIDES, WHEELS, other_side
from fair_spindle.core.geometry.corner import Corner, Link, make_corner
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout, find_layout
from fair_spindle.core.geometry.slopes import Geometry, Slopes, angles_at
from fair_spindle.core.geometry.solid_axle import SolidAxle, make_solid_axle
from fair_spindle.core.geometry.toe import steer_sign
from fair_spindle.core.geometry.twist_beam import TwistBeam, make_twist_beam
from fair_spindle.core.joblog.kinds import KEPT
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.adjusters import adjusters_of
from fair_spindle.core.predict.linkage_fit import (
    IMPOSSIBLE,
    MODEL,
    Row,
    fit_linkage,
    mirrored,
    points_of,
    prior_cloud,
    rows_at,
    worth_of,
)
from fair_spindle.core.predict.tape import cloud_by_tape, corner_by_tape
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.monte_carlo import Cloud, Doubtful
from fair_spindle.core.turns.realign import TOLERANCES

# Uncertainties of toe and camber read at another height, and of that height.  The product's own. [rad, mm]
AT_OTHER_HEIGHT = {"toe": to_core(1.8, "min"), "camber": to_core(0.06, "deg")}
OTHER_HEIGHT = 0.6
# Where else toe and camber are read, how long that takes, and the share of the ± that must go for it to be told.
ANOTHER, MINUTES_ELSEWHERE, WORTH_READING = 30.0, 12, 0.8
# How far up between its joints an upright's tie-rod joint sits where it was not measured.  Common practice.
USUAL_ROD_SHARE, ROD_SHARE_OPEN = 0.2, 0.15
# Bump steer that nobody read, where no height moves: it opens what a height read otherwise would bring.
BUMP_STEER_UNKNOWN = to_core(6, "min_per_10mm")
CAMBER_GAIN_UNKNOWN = to_core(10, "min_per_10mm")


@value_object
class Wheel:
    """One wheel's geometry: its corner or slopes, or why there is none; what can be turned; what is wanted.

    ``depth`` is what the numbers rest on: points, tape, slopes, or nothing yet; ``differs`` tells
    where points and a slope as read disagree by more than their ±.

    ``tolerances`` are the record's, or the usual ones. [rad]

    ``read`` are toe and camber as they were read [rad]; the others are taken as zero.  ``as_read`` tells that its
    toe is wanted as it was read; ``rolled`` is what the body's roll at the new heights adds to its camber. [rad]
    """

    key: str
    corner: Geometry | None
    lacks: tuple[str, ...]
    problem: str
    adjusters: tuple[Adjuster, ...]
    targets: Mapping[str, float]
    travel: float
    doubtful: Doubtful
    read: Mapping[str, float]
    differs: str = ""
    depth: str = ""
    tolerances: Mapping[str, float] = field(default_factory=lambda: dict(TOLERANCES))
    as_read: bool = True
    rolled: float = 0.0


@by_identity(most=KEPT)
def wheels_of(record: Readings, baseline: Mapping[str, Quantity]) -> Mapping[str, Wheel]:
    """Put the geometry of every wheel together from a record and the car's last baseline.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    baseline : mapping
        Readings of the last baseline by field key. [core unit]

    Returns
    -------
    mapping
        A wheel by axle and side; the same one for the same readings.

    Raises
    ------
    Nothing: what is missing or cannot be right is told with the wheel.

    Notes
    -----
    Points are at ride height as measured; a target left empty is the angle as read.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import CAR
    >>> wheels_of(readings_now(JobState(), CAR), {})["front.left"].problem
    "Say first what this axle hangs on, in the order or in the car's record."
    """
    return {wheel: _wheel(wheel, record, baseline) for wheel in WHEELS}


@value_object
class AxleGeometry:
    """An axle whose wheels move together, from its points, or what is missing for it."""

    axle: str
    solid: SolidAxle | TwistBeam | None
    lacks: tuple[str, ...]
    problem: str


def solid_axles_of(record: Readings) -> list[AxleGeometry]:
    """Put the solid axles and twist beams of a car together from its record.

    The Panhard rod is taken to be held by the body at the left where nothing else is told.
    """
    return [
        _solid(axle, layout, record)
        for axle in AXLES
        if (layout := LAYOUTS.get(record.words.get(f"{axle}.layout", ""))) and layout.axle_points
    ]


def _solid(axle: str, layout: Layout, record: Readings) -> AxleGeometry:
    keys = {side: {name: f"{axle}.{side}.point.{name}" for name in layout.axle_points} for side in SIDES}
    lacks = tuple(key for names in keys.values() for key in names.values() if key not in record.quantities)
    if lacks:
        return AxleGeometry(axle, None, lacks, "")
    points = {
        side: {name: _xyz(record.quantities[key]) for name, key in names.items()} for side, names in keys.items()
    }
    try:
        if layout.guide == "beam":
            return AxleGeometry(axle, make_twist_beam(points["left"], points["right"]), (), "")
        held = record.words.get(f"{axle}.panhard_body", "left")
        return AxleGeometry(axle, make_solid_axle(layout.key, points["left"], points["right"], held), (), "")
    except InputError as error:
        return AxleGeometry(axle, None, (), error.message)


def _wheel(key: str, record: Readings, baseline: Mapping[str, Quantity]) -> Wheel:
    axle, side = key.split(".")
    layout = record.words.get(f"{axle}.layout", "")
    toe, camber = (_read(baseline, f"{key}.{name}", f"{axle}.total_{name}") for name in ("toe", "camber"))
    read = {name: angle.value for name, angle in (("toe", toe), ("camber", camber)) if angle}
    change, roll, track = _new_height(record, axle, side)
    angles = (camber.value if camber else 0.0, toe.value if toe else 0.0)
    unsure = (toe.uncertainty if toe else 0.0, camber.uncertainty if camber else 0.0)
    drawn = _fused(record, baseline, key, _deepest(record, baseline, key, layout, angles, unsure))
    corner = drawn.corner
    point = _coordinate(drawn.cloud) if drawn.cloud else 0.0
    doubtful = Doubtful(*unsure, change.uncertainty, point, drawn.cloud, change.parts.get("apart", 0.0), track)
    adjusters = tuple(adjusters_of(record, axle, side, layout, corner)) if corner else ()
    rolled = roll if side == "right" else -roll
    if corner and rolled:
        corner = replace(corner, camber=corner.camber + rolled)
    told = {name: record.quantities.get(f"{key}.target.{name}") for name in TOLERANCES}
    targets = {name: wanted.value for name, wanted in told.items() if wanted}
    if not (corner and corner.steering_axis):
        targets.pop("caster", None)
    targets = {"toe": angles[1], **({"camber": angles[0]} if len(adjusters) > 1 else {}), **targets}
    within = {name: record.quantities.get(f"{key}.within.{name}") for name in TOLERANCES}
    return Wheel(
        key,
        corner,
        drawn.lacks,
        drawn.problem,
        adjusters,
        targets,
        -change.value,
        doubtful,
        read,
        drawn.differs,
        drawn.depth,
        {name: own.value if own else TOLERANCES[name] for name, own in within.items()},
        told["toe"] is None,
        rolled,
    )


def adjusters_known(record: Readings, key: str) -> tuple[str, ...]:
    """Names of the adjusters that a wheel has, by its record and points; none where neither is known.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    key : str
        The wheel, by axle and side. [-]

    Returns
    -------
    tuple of str
        In the order :func:`wheels_of` has them.

    Raises
    ------
    Nothing: a wheel that is not known has none.

    Notes
    -----
    Nothing is fitted for it: which there are does not hang on where exactly the points lie.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> adjusters_known(Readings(Sheet(), {}, {"front.layout": "strut"}), "front.left")
    ()
    """
    axle, side = key.split(".")
    layout = record.words.get(f"{axle}.layout", "")
    corner = _deepest(record, {}, key, layout, (0.0, 0.0), (0.0, 0.0)).corner
    return tuple(one.name for one in adjusters_of(record, axle, side, layout, corner)) if corner else ()


def _coordinate(cloud: Cloud) -> float:
    """Standard uncertainty of one coordinate of a wheel's points, on the whole. [mm]"""
    return float(np.sqrt(np.mean(np.sum(cloud.matrix[:-2] ** 2, axis=1))))


def _new_height(record: Readings, axle: str, side: str) -> tuple[Quantity, float, float]:
    """Height change of one wheel, how the body rolls with it (left side up positive) [rad], and the track [mm]."""
    told = record.quantities
    both: dict[str, Quantity | None] = {one: told.get(f"{axle}.{one}.height_change") for one in SIDES}
    change = both[side] or told.get(f"{axle}.height_change") or Quantity(0.0)
    track = told.get(f"{axle}.track")
    left, right = both["left"], both["right"]
    if left is None or right is None or track is None:
        return change, 0.0, 0.0
    return change, (left.value - right.value) / track.value, track.value


@value_object
class _Drawn:
    """A wheel as deep as it is known: where it may lie, what its points lack or get wrong, which reading does not
    fit."""

    corner: Geometry | None = None
    depth: str = ""
    lacks: tuple[str, ...] = ()
    problem: str = ""
    cloud: Cloud | None = None
    differs: str = ""


def _deepest(
    record: Readings,
    baseline: Mapping[str, Quantity],
    key: str,
    layout: str,
    angles: tuple[float, float],
    unsure: tuple[float, float],
) -> _Drawn:
    """A wheel by the deepest of points, tape and slopes that is known."""
    points, spreads, lacks, problem = _corner(record, key, layout, angles)
    if points:
        cloud = prior_cloud(points_of(points), [spreads.get(name, 0.0) for name in points_of(points)], *unsure)
        return _Drawn(points, "points", lacks, problem, cloud)
    caster = baseline.get(f"{key}.caster")
    tape = None if problem else corner_by_tape(record, key, layout, angles, caster.value if caster else 0.0)
    if tape:
        cloud = cloud_by_tape(record, key, tape, caster, unsure)
        return _Drawn(tape, "tape", lacks, problem, cloud)
    slopes = _slopes(record, baseline, key, angles) if layout else None
    if slopes:
        return _Drawn(slopes, "slopes", lacks)
    return _Drawn(None, "", lacks, problem)


def _fused(record: Readings, baseline: Mapping[str, Quantity], key: str, drawn: _Drawn) -> _Drawn:
    """Points or tape and everything else that was read of the same linkage, as one; slopes stand alone."""
    corner = drawn.corner
    if drawn.cloud is None or not isinstance(corner, Corner):
        return drawn
    fitted = fit_linkage(corner, drawn.cloud, list(_evidence(record, baseline, key, corner)))
    said = "; ".join(
        f"{name[0].upper()}{name[1:]} misses what all other readings say by {abs(off) / COVERAGE:.1f} of its ±"
        f"{' and is left out' if abs(off) > IMPOSSIBLE else ''}: read it again, or the points near it"
        for name, off in fitted.doubts
    )
    return replace(drawn, corner=fitted.corner, cloud=fitted.cloud, differs=said and f"{said}.")


def _evidence(record: Readings, baseline: Mapping[str, Quantity], key: str, corner: Corner) -> Iterator[Row]:
    """Slopes, caster, lengths, and angles at other heights, as far as they were read."""
    now = angles_at(corner, [0.0])
    slope = slope_read(record, baseline, key)
    if slope:
        yield Row("bump steer", "toe_slope", 0.0, slope.value, max(slope.uncertainty, 1e-8))
    gain = baseline.get(f"{key}.camber_slope")
    if gain:
        yield Row("camber gain", "camber_slope", 0.0, gain.value, max(gain.uncertainty, 1e-8))
    caster = baseline.get(f"{key}.caster")
    if caster and now.caster is not None:
        yield Row("caster", "caster", 0.0, caster.value, float(np.hypot(caster.uncertainty, MODEL)))
    for link in corner.links:
        length = record.quantities.get(f"{key}.{link.name}.length")
        if length and length.uncertainty:
            yield Row(f"length of {link.name.replace('_', ' ')}", link.name, 0.0, length.value, length.uncertainty)
    height = baseline.get(f"{key}.height")
    for name in ("angles_lower", "angles_higher"):
        read = baseline.get(f"{key}.{name}")
        if read is None or height is None or not read.parts:
            continue
        travel = height.value - read.parts["height"]
        slopes = {"toe": float(now.toe_slope[0]), "camber": float(now.camber_slope[0])}
        angles = ((kind, read.parts[kind], AT_OTHER_HEIGHT[kind], slopes[kind]) for kind in slopes)
        yield from rows_at(f"at {read.parts['height']:.0f} mm", travel, OTHER_HEIGHT, angles)


def _read(baseline: Mapping[str, Quantity], key: str, both: str) -> Quantity | None:
    if key in baseline:
        return baseline[key]
    total = baseline.get(both)
    return Quantity(total.value / 2, total.uncertainty / 2) if total else None


def _slopes(
    record: Readings, baseline: Mapping[str, Quantity], key: str, angles: tuple[float, float]
) -> Slopes | None:
    """A wheel by its slopes as read, where its points are not known."""
    axle, side = key.split(".")
    slope = slope_read(record, baseline, key)
    if slope is None and f"{key}.tie.lever" in record.quantities and not _new_height(record, axle, side)[0].value:
        slope = Quantity(0.0, BUMP_STEER_UNKNOWN)
    if slope is None:
        return None
    gain = baseline.get(f"{key}.camber_slope", Quantity(0.0, CAMBER_GAIN_UNKNOWN))
    sign = OUT[side]
    effects, doubts = _effects(record, key, axle)
    slopes = (slope.value, gain.value, slope.uncertainty, gain.uncertainty)
    return Slopes(sign, *angles, *slopes, effects, effect_doubts=doubts)


def worth_of_other_heights(wheel: Wheel) -> dict[str, tuple[float, float]]:
    """± of toe and camber at the height a wheel will have, now and with angles read 30 mm lower and higher [rad].

    Empty where they were read already, where the wheel is not known by points or tape, or where they would bring
    little.
    """
    cloud, corner = wheel.doubtful.cloud, wheel.corner
    if cloud is None or not isinstance(corner, Corner) or any(name.startswith("toe at") for name, _ in cloud.sources):
        return {}
    rows = [
        Row(kind, kind, travel, 0.0, float(np.hypot(AT_OTHER_HEIGHT[kind], MODEL)))
        for travel in (-ANOTHER, ANOTHER)
        for kind in AT_OTHER_HEIGHT
    ]
    try:
        found = worth_of(corner, cloud, rows, wheel.travel)
    except NoSolution:
        return {}
    return found if any(after < WORTH_READING * before for before, after in found.values()) else {}


def _effects(record: Readings, key: str, axle: str) -> tuple[dict[str, tuple[float, float]], dict[str, float]]:
    """Toe and camber per mm of each link, with the uncertainty of that toe; none of what cannot be told.

    The upright turns about its other joint; the tie rod holds its own joint, so that the wheel steers by what that
    joint would have moved.  Where the joint's height is not known it is taken as a fifth of the way up, ± three
    twentieths.
    """
    told = record.quantities
    lever, steer, height = (
        told.get(f"{key}.tie.lever"),
        record.words.get(f"{axle}.steer"),
        told.get(f"{key}.joint_height"),
    )
    effects: dict[str, tuple[float, float]] = {}
    doubts: dict[str, float] = {}
    span = told.get(f"{key}.arm.span")
    if span:
        effects["arm"] = (1 / span.value, 0.0)
    if not (lever and steer):
        return effects, doubts
    per_mm = steer_sign(steer) / lever.value
    effects["tie"] = (per_mm, 0.0)
    if height is None:
        return effects, doubts
    above = told.get(f"{key}.tie.above")
    share = above.value / height.value if above else USUAL_ROD_SHARE
    open_ = above.uncertainty / height.value if above else ROD_SHARE_OPEN
    effects |= {
        "upper": (-per_mm * share, 1 / height.value),
        "lower": (-per_mm * (1 - share), -1 / height.value),
        "strut_top": (per_mm * share, -1 / height.value),
    }
    return effects, {link: abs(per_mm) * open_ for link in ("upper", "lower", "strut_top")}


def slope_read(record: Readings, baseline: Mapping[str, Quantity], key: str) -> Quantity | None:
    """Bump steer of a wheel as it was read or learned.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    baseline : mapping
        Readings of the last baseline by field key. [core unit]
    key : str
        Axle and side. [-]

    Returns
    -------
    Quantity or None
        None where it never was. [rad/mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    A baseline outranks the record.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> slope_read(Readings(Sheet(), {}, {}), {"front.left.bump_slope": Quantity(2e-5)}, "front.left").value
    2e-05
    """
    return baseline.get(f"{key}.bump_slope") or record.quantities.get(f"{key}.bump_slope")


def _corner(
    record: Readings, key: str, layout: str, angles: tuple[float, float]
) -> tuple[Corner | None, Mapping[str, float], tuple[str, ...], str]:
    """A corner by its points, how unsure each is [mm], which are missing, and what cannot be right."""
    if not layout:
        return None, {}, (), "Say first what this axle hangs on, in the order or in the car's record."
    kind = find_layout(layout)
    if kind.guide == "axle":
        return None, {}, (), f"{kind.label}: both wheels move together, see the axle."
    names = [name for name, _ in kind.points] if kind.told_links else list(kind.needed)
    axle, side = key.split(".")
    read: dict[str, dict[str, Quantity | None]]
    read = {one: {name: record.quantities.get(f"{axle}.{one}.point.{name}") for name in names} for one in SIDES}
    own = {name: one for name, one in read[side].items() if one}
    if len(own) < len(names):
        return None, {}, tuple(f"{key}.point.{name}" for name in names if name not in own), ""
    points, spreads = _drawn_together(own, {name: one for name, one in read[other_side(side)].items() if one})
    links: tuple[Link, ...] = ()
    if kind.told_links:
        links = tuple(Link(arm.key, *(points[end] for end in kind.ends_of(arm.key))) for arm in kind.arms)
        points = {name: points[name] for name in kind.needed}
    try:
        return make_corner(layout, side, *angles, points, links), spreads, (), ""
    except InputError as error:
        return None, {}, (), error.message


def _drawn_together(
    own: Mapping[str, Quantity], other: Mapping[str, Quantity]
) -> tuple[dict[str, tuple[float, float, float]], dict[str, float]]:
    """Points of one side, helped by the other side's as far as the car shows itself to be mirrored; and their ±.
    [mm]"""
    spreads = {name: one.uncertainty for name, one in own.items()}
    if set(other) != set(own):
        return {name: _xyz(one) for name, one in own.items()}, spreads
    spread = float(np.sqrt(np.mean(np.square([*spreads.values()]))))
    places = [np.array(_xyz(one)) for one in own.values()]
    lefts, _, left_over = mirrored(places, [np.array(_xyz(other[name])) for name in own], spread)
    share = left_over / spread if spread else 1.0
    helped = {name: (float(x), float(y), float(z)) for name, (x, y, z) in zip(own, lefts, strict=True)}
    return helped, {name: share * spread for name, spread in spreads.items()}


def _xyz(point: Quantity) -> tuple[float, float, float]:
    return point.parts["x"], point.parts["y"], point.parts["z"]
