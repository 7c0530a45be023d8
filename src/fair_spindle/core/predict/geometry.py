"""From a car's record and its last baseline to the geometry of its wheels, as deep as it is known.

Every wheel begins as one of all wheels of its layout; whatever was read of it narrows that by one and the same fit.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field, replace
from math import atan2, hypot

import numpy as np

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, SIDES, WHEELS, other_side, wheels_at
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout, find_layout
from fair_spindle.core.geometry.measures import measures_of
from fair_spindle.core.geometry.solid_axle import SolidAxle, make_solid_axle
from fair_spindle.core.geometry.twist_beam import TwistBeam, make_twist_beam
from fair_spindle.core.joblog.kinds import KEPT
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.adjusters import adjusters_of
from fair_spindle.core.predict.linkage_fit import (
    IMPOSSIBLE,
    MODEL,
    Row,
    fit_axle,
    mirrored,
    points_of,
    rows_at,
)
from fair_spindle.core.predict.population import drawn_corner, population_wheel, side_cloud
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.monte_carlo import Cloud, Doubtful
from fair_spindle.core.turns.realign import TOLERANCES

# Uncertainties of toe and camber read at another height, and of that height.  The product's own. [rad, mm]
AT_OTHER_HEIGHT = {"toe": to_core(1.8, "min"), "camber": to_core(0.06, "deg")}
OTHER_HEIGHT = 0.6
# What a front axle hangs on whose type nobody told: every one of them has a tie rod to turn.
USUAL_FRONT = {"front.layout": "strut"}
# Between the axles of a car whose wheelbase nobody told; it turns a front that came lower into caster. [mm]
USUAL_WHEELBASE = 2600.0


@value_object
class Wheel:
    """One wheel's geometry: its corner, or why there is none; what can be turned; what is wanted.

    ``depth`` is what the numbers rest on: points, tape, slopes, or the layout alone; ``differs`` tells
    which readings disagree by more than their ±.

    ``tolerances`` are the record's, or the usual ones. [rad]

    ``read`` are toe, camber and caster as they were read [rad]; a camber that was not is taken as its layout's usual
    one. ``as_read`` tells that its toe is wanted as it was read; ``rolled`` is what the body's roll at the new
    heights adds to its camber. [rad]
    """

    key: str
    corner: Corner | None
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
    Points are at ride height as measured; a target left empty is the angle as read.  Of the points that nobody
    measured no more is believed than what cars of the layout have in common.

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
    drawn = {axle: _drawn_axle(axle, record, baseline) for axle in AXLES}
    return {wheel: _wheel(wheel, record, baseline, drawn[wheel.axle][wheel]) for wheel in WHEELS}


@by_identity(most=KEPT)
def with_usual_front(readings: Readings) -> Readings:
    """Readings in which a front axle that nobody described is a usual one."""
    if "front.layout" in readings.words:
        return readings
    return replace(readings, words={**USUAL_FRONT, **readings.words})


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


@value_object
class _Angles:
    """Toe and camber of a wheel as they are believed, with what was read of them."""

    toe: Quantity
    camber: Quantity
    read: Mapping[str, float]

    @property
    def at(self) -> tuple[float, float]:
        """Camber and toe. [rad]"""
        return self.camber.value, self.toe.value

    @property
    def unsure(self) -> tuple[float, float]:
        """Standard uncertainties of toe and camber. [rad]"""
        return self.toe.uncertainty, self.camber.uncertainty


def _angles(record: Readings, baseline: Mapping[str, Quantity], key: str) -> _Angles:
    axle = key.split(".")[0]
    toe, camber = (_read(baseline, f"{key}.{name}", f"{axle}.total_{name}") for name in ("toe", "camber"))
    kind = LAYOUTS.get(record.words.get(f"{axle}.layout", ""))
    caster = baseline.get(f"{key}.caster") if kind and kind.steering_axis else None
    read = {name: one.value for name, one in (("toe", toe), ("camber", camber), ("caster", caster)) if one}
    return _Angles(toe or Quantity(0.0), camber or _usual_camber(kind), read)


def _usual_camber(layout: Layout | None) -> Quantity:
    """What a camber that nobody read is taken for: the middle of what cars show, a quarter of its width."""
    low, high = (to_core(limit, "deg") for limit in layout.camber_usual) if layout else (0.0, 0.0)
    return Quantity((low + high) / 2, (high - low) / 4)


def _wheel(key: str, record: Readings, baseline: Mapping[str, Quantity], drawn: _Drawn) -> Wheel:
    axle, side = key.split(".")
    layout = record.words.get(f"{axle}.layout", "")
    believed = _angles(record, baseline, key)
    read = believed.read
    change, roll, track = _new_height(record, axle, side)
    corner = drawn.corner
    point = _coordinate(drawn.cloud) if drawn.cloud else 0.0
    doubtful = Doubtful(
        *believed.unsure, change.uncertainty, point, drawn.cloud, change.parts.get("apart", 0.0), track
    )
    adjusters = tuple(adjusters_of(record, axle, side, layout, corner)) if corner else ()
    rolled = roll if side == "right" else -roll
    if corner:
        corner = replace(corner, camber=corner.camber + rolled, pitch=_pitch(record))
    told = {name: record.quantities.get(f"{key}.target.{name}") for name in TOLERANCES}
    as_read = {"toe": read.get("toe"), "camber": read.get("camber") if len(adjusters) > 1 else None}
    wanted = {name: goal.value if (goal := told[name]) else as_read.get(name) for name in TOLERANCES}
    # An angle that nobody read stands nowhere: it cannot be turned to where it is wanted.
    turnable = {*read, *(("caster",) if corner and corner.steering_axis else ())}
    targets = {name: goal for name, goal in wanted.items() if goal is not None and name in turnable}
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
    """Names of the adjusters that a wheel has, by its record and layout; none where the layout is not known.

    In the order :func:`wheels_of` has them.  Nothing is fitted for it: which there are does not hang on where exactly
    the points lie.

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> adjusters_known(Readings(Sheet(), {}, {"front.layout": "strut"}), "front.left")
    ('Tie rod',)
    """
    axle, side = key.split(".")
    layout = record.words.get(f"{axle}.layout", "")
    drawn = _prior(record, key, layout, _angles(record, {}, key))
    return tuple(one.name for one in adjusters_of(record, axle, side, layout, drawn.corner)) if drawn.corner else ()


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


def _pitch(record: Readings) -> float:
    """How far the body comes to stand nose down, by the height changes of both axles. [rad]"""
    front, rear = (np.mean([_new_height(record, axle, side)[0].value for side in SIDES]) for axle in AXLES)
    base = record.quantities.get("car.wheelbase")
    return atan2(float(rear - front), base.value if base else USUAL_WHEELBASE)


@value_object
class _Drawn:
    """A wheel as deep as it is known: where it may lie, what its points lack or get wrong, which reading does not
    fit."""

    corner: Corner | None = None
    depth: str = ""
    lacks: tuple[str, ...] = ()
    problem: str = ""
    cloud: Cloud | None = None
    differs: str = ""


def _drawn_axle(axle: str, record: Readings, baseline: Mapping[str, Quantity]) -> dict[str, _Drawn]:
    """Both wheels of an axle, by all that was read of either."""
    layout = record.words.get(f"{axle}.layout", "")
    drawn: dict[str, _Drawn] = {
        key: _prior(record, key, layout, _angles(record, baseline, key)) for key in wheels_at(axle)
    }
    known = {key: one for key, one in drawn.items() if one.corner and one.cloud}
    rows = {key: list(_evidence(record, baseline, key, one)) for key, one in known.items()}
    if not any(rows.values()):
        return drawn
    fitted = fit_axle(
        [one.corner for one in known.values() if one.corner],
        [one.cloud for one in known.values() if one.cloud],
        list(rows.values()),
    )
    for (key, one), fit in zip(known.items(), fitted, strict=True):
        drawn[key] = replace(
            one,
            corner=fit.corner,
            cloud=fit.cloud,
            depth=one.depth if one.depth == "points" else _depth(rows[key]) or one.depth,
            differs=_say_doubts(key, fit.doubts),
        )
    return drawn


def _depth(rows: list[Row]) -> str:
    """What a wheel's numbers rest on whose points are not known."""
    if any(row.kind not in ("toe", "camber", "caster", "toe_slope", "camber_slope") for row in rows):
        return "tape"
    return "slopes" if rows else ""


def _say_doubts(key: str, doubts: tuple[tuple[str, float], ...]) -> str:
    side = key.split(".")[1]
    said = "; ".join(
        f"{name.removeprefix(f'{side} ').capitalize()} misses what all other readings say by "
        f"{abs(off) / COVERAGE:.1f} of its ±"
        f"{' and is left out' if abs(off) > IMPOSSIBLE else ''}: read it again, or the points near it"
        for name, off in doubts
    )
    return said and f"{said}."


def _prior(record: Readings, key: str, layout: str, believed: _Angles) -> _Drawn:
    """A wheel by its points, or, where they are not all known, by what wheels of its layout have in common."""
    if not layout:
        return _Drawn(problem="Say first what this axle hangs on, in the order or in the car's record.")
    kind = find_layout(layout)
    if kind.guide == "axle":
        return _Drawn(problem=f"{kind.label}: both wheels move together, see the axle.")
    axle, side = key.split(".")
    names = [name for name, _ in kind.points] if kind.told_links else list(kind.needed)
    own = _points(record, key, names)
    if len(own) < len(names):
        ahead = record.words.get(f"{axle}.steer") == "ahead"
        usual = population_wheel(layout, side, ahead, believed.at, believed.unsure)
        if usual is None:
            return _Drawn(lacks=tuple(f"{key}.point.{name}" for name in names if name not in own))
        return _Drawn(usual[0], "layout", (), "", usual[1])
    try:
        return _by_points(record, key, layout, own, believed)
    except InputError as error:
        return _Drawn(problem=error.message)


def _points(record: Readings, key: str, names: list[str]) -> dict[str, Quantity]:
    return {name: one for name in names if (one := record.quantities.get(f"{key}.point.{name}"))}


def _by_points(record: Readings, key: str, layout: str, own: Mapping[str, Quantity], believed: _Angles) -> _Drawn:
    """A wheel whose points are all known, helped by the other side's as far as the car shows itself to be
    mirrored."""
    axle, side = key.split(".")
    other = _points(record, f"{axle}.{other_side(side)}", list(own))
    places = {name: np.array(_xyz(one)) for name, one in own.items()}
    spreads = {name: one.uncertainty for name, one in own.items()}
    shared, alone = 0.0, 1.0
    if set(other) == set(own):
        spread = float(np.sqrt(np.mean(np.square([*spreads.values()]))))
        drawn, _, pull = mirrored([*places.values()], [np.array(_xyz(other[name])) for name in own], spread)
        places = dict(zip(own, drawn, strict=True))
        # Both sides take a share of each other's readings: as far as they do, they err together.
        shared, alone = float(np.sqrt(pull)), float(np.sqrt(1 - 2 * pull))
    corner = drawn_corner(layout, side, believed.at, places)
    points = points_of(corner)
    flip = np.array([1.0, corner.side, 1.0])
    both = [
        (f"both sides' point {name}", _of_point(n, len(points), shared * spreads[name] * flip))
        for n, name in enumerate(points)
        if shared
    ]
    return _Drawn(
        corner,
        "points",
        cloud=side_cloud(side, points, both, [alone * spreads[name] for name in points], believed.unsure),
    )


def _of_point(place: int, count: int, sizes: np.ndarray) -> np.ndarray:
    """Columns that move one of so many points, shape (3 m, 3)."""
    found = np.zeros((3 * count, 3))
    found[3 * place : 3 * place + 3] = np.diag(sizes)
    return found


def _evidence(record: Readings, baseline: Mapping[str, Quantity], key: str, drawn: _Drawn) -> Iterator[Row]:
    """All that was read of a wheel's geometry but its points, where these are known one and all."""
    assert drawn.corner is not None
    corner, side = drawn.corner, key.split(".")[1]
    for name, kind, read in (
        ("bump steer", "toe_slope", slope_read(record, baseline, key)),
        ("camber gain", "camber_slope", baseline.get(f"{key}.camber_slope")),
    ):
        if read:
            yield Row(f"{side} {name}", kind, 0.0, read.value, max(read.uncertainty, 1e-8))
    caster = baseline.get(f"{key}.caster")
    if caster and corner.steering_axis:
        yield Row(f"{side} caster", "caster", 0.0, caster.value, hypot(caster.uncertainty, MODEL))
    yield from _by_tape(record, key, corner)
    if drawn.depth != "points":
        yield from _single_points(record, key, corner)
    yield from _at_other_heights(baseline, key, corner)


def _by_tape(record: Readings, key: str, corner: Corner) -> Iterator[Row]:
    side = key.split(".")[1]
    for name in measures_of(corner.kind):
        read = record.quantities.get(f"{key}.{name}")
        if read and read.uncertainty:
            said = name.replace(".", " ").replace("_", " ")
            yield Row(f"{side} {said}", name, 0.0, read.value, read.uncertainty)


def _single_points(record: Readings, key: str, corner: Corner) -> Iterator[Row]:
    """Points that were measured while others were not, each against the wheel centre."""
    side, centre = key.split(".")[1], record.quantities.get(f"{key}.point.wheel_center")
    if centre is None:
        return
    middle = np.subtract(corner.wheel, _xyz(centre))
    for name, read in _points(record, key, list(points_of(corner))).items():
        for axis, at in zip("xyz", np.add(_xyz(read), middle), strict=True):
            said = f"{side} {name.replace('_', ' ')} {axis}"
            yield Row(said, f"point.{name}.{axis}", 0.0, float(at), read.uncertainty)


def _at_other_heights(baseline: Mapping[str, Quantity], key: str, corner: Corner) -> Iterator[Row]:
    """Toe and camber read with the body lower and higher."""
    height, side = baseline.get(f"{key}.height"), key.split(".")[1]
    for name in ("angles_lower", "angles_higher"):
        read = baseline.get(f"{key}.{name}")
        if read is None or height is None or not read.parts:
            continue
        now = angles_at(corner, [0.0])
        slopes = {"toe": float(now.toe_slope[0]), "camber": float(now.camber_slope[0])}
        angles = ((kind, read.parts[kind], AT_OTHER_HEIGHT[kind], slopes[kind]) for kind in slopes)
        travel = height.value - read.parts["height"]
        yield from rows_at(side, f"at {read.parts['height']:.0f} mm", travel, OTHER_HEIGHT, angles)


def _read(baseline: Mapping[str, Quantity], key: str, both: str) -> Quantity | None:
    if key in baseline:
        return baseline[key]
    total = baseline.get(both)
    return Quantity(total.value / 2, total.uncertainty / 2) if total else None


def slope_read(record: Readings, baseline: Mapping[str, Quantity], key: str) -> Quantity | None:
    """Bump steer of a wheel as it was read or learned [rad/mm]; None where it never was.

    A baseline outranks the record.

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> slope_read(Readings(Sheet(), {}, {}), {"front.left.bump_slope": Quantity(2e-5)}, "front.left").value
    2e-05
    """
    return baseline.get(f"{key}.bump_slope") or record.quantities.get(f"{key}.bump_slope")


def _xyz(point: Quantity) -> tuple[float, float, float]:
    return point.parts["x"], point.parts["y"], point.parts["z"]
