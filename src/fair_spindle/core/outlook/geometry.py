"""From a car's record and its last baseline to corners, adjusters and the turns that bring the car back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from fair_spindle.core.adjuster import Adjuster
from fair_spindle.core.corner import LAYOUTS_WITH_POINTS, Corner, Link, make_corner, needed_points
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.layouts import find_layout
from fair_spindle.core.outlook.adjusters import adjusters_of
from fair_spindle.core.outlook.bump_steer import suited
from fair_spindle.core.outlook.tape import corner_by_tape
from fair_spindle.core.realign import TOLERANCES
from fair_spindle.core.sheet.shape import AXLES, SIDES
from fair_spindle.core.slopes import Geometry, Slopes, angles_at
from fair_spindle.core.solid_axle import NEEDED as SOLID
from fair_spindle.core.solid_axle import SolidAxle, make_solid_axle
from fair_spindle.core.sureness import Doubtful
from fair_spindle.core.toe import steer_sign
from fair_spindle.core.twist_beam import NEEDED as BEAM
from fair_spindle.core.twist_beam import TwistBeam, make_twist_beam
from fair_spindle.core.units import from_core, to_core

SOLID_AND_BEAM = {**SOLID, "twist_beam": BEAM}
POINT_UNCERTAINTY = 1.15
TAPE_UNCERTAINTY = 3.0
CAMBER_GAIN_UNKNOWN = to_core(10, "min_per_10mm")


@dataclass(frozen=True)
class Wheel:
    """One wheel's geometry: its corner or slopes, or why there is none; what can be turned; what is wanted.

    ``depth`` is what the numbers rest on: points, tape, slopes, or nothing yet; ``differs`` tells
    where points and a slope as read disagree by more than their ±.

    ``tolerances`` are the record's, or the usual ones. [rad]

    ``read`` are toe and camber as they were read [rad]; the others are taken as zero.
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


def wheels_of(record: Readings, baseline: Mapping[str, Quantity]) -> dict[str, Wheel]:
    """Put the geometry of every wheel together from a record and the car's last baseline.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    baseline : mapping
        Readings of the last baseline by field key. [core unit]

    Returns
    -------
    dict
        A wheel by axle and side.

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
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.floor.state import JobState
    >>> from fair_spindle.core.planning.kinds import CAR
    >>> wheels_of(readings_now(JobState(), CAR), {})["front.left"].lacks
    ('layout',)
    """
    return {f"{axle}.{side}": _wheel(f"{axle}.{side}", record, baseline) for axle in AXLES for side in SIDES}


@dataclass(frozen=True)
class AxleGeometry:
    """An axle whose wheels move together, from its points, or what is missing for it."""

    axle: str
    solid: SolidAxle | TwistBeam | None
    lacks: tuple[str, ...]
    problem: str


def solid_axles_of(record: Readings) -> list[AxleGeometry]:
    """Put the solid axles and twist beams of a car together from its record.

    Parameters
    ----------
    record : Readings
        The car's record. [-]

    Returns
    -------
    list of AxleGeometry
        One for each axle whose wheels move together.

    Raises
    ------
    Nothing: what is missing or cannot be right is told with the axle.

    Notes
    -----
    The Panhard rod is taken to be held by the body at the left where nothing else is told.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.floor.state import JobState
    >>> from fair_spindle.core.planning.kinds import CAR
    >>> solid_axles_of(readings_now(JobState(), CAR))
    []
    """
    return [
        _solid(axle, layout, record)
        for axle in AXLES
        if (layout := record.words.get(f"{axle}.layout", "")) in SOLID_AND_BEAM
    ]


def _solid(axle: str, layout: str, record: Readings) -> AxleGeometry:
    keys = {side: {name: f"{axle}.{side}.point.{name}" for name in SOLID_AND_BEAM[layout]} for side in SIDES}
    lacks = tuple(key for names in keys.values() for key in names.values() if key not in record.quantities)
    if lacks:
        return AxleGeometry(axle, None, lacks, "")
    points = {
        side: {name: _xyz(record.quantities[key]) for name, key in names.items()} for side, names in keys.items()
    }
    try:
        if layout == "twist_beam":
            return AxleGeometry(axle, make_twist_beam(points["left"], points["right"]), (), "")
        held = record.words.get(f"{axle}.panhard_body", "left")
        return AxleGeometry(axle, make_solid_axle(layout, points["left"], points["right"], held), (), "")
    except InputError as error:
        return AxleGeometry(axle, None, (), error.message)


def _wheel(key: str, record: Readings, baseline: Mapping[str, Quantity]) -> Wheel:
    axle, side = key.split(".")
    layout = record.words.get(f"{axle}.layout", "")
    toe, camber = (_read(baseline, f"{key}.{name}", f"{axle}.total_{name}") for name in ("toe", "camber"))
    read = {name: angle.value for name, angle in (("toe", toe), ("camber", camber)) if angle}
    changes = (record.quantities.get(f"{where}.height_change") for where in (key, axle))
    change = next((one for one in changes if one), Quantity(0.0))
    angles = (camber.value if camber else 0.0, toe.value if toe else 0.0)
    corner, depth, lacks, problem = _deepest(record, baseline, key, layout, angles)
    doubtful = Doubtful(
        toe.uncertainty if toe else 0.0,
        camber.uncertainty if camber else 0.0,
        change.uncertainty,
        TAPE_UNCERTAINTY if depth == "tape" else POINT_UNCERTAINTY,
    )
    corner, differs = _suited(corner, doubtful.point, slope_read(record, baseline, key))
    adjusters = tuple(adjusters_of(record, axle, side, layout, corner)) if corner else ()
    told = {name: record.quantities.get(f"{key}.target.{name}") for name in TOLERANCES}
    targets = {name: wanted.value for name, wanted in told.items() if wanted}
    if not (corner and corner.layout in ("strut", "double_wishbone")):
        targets.pop("caster", None)
    targets = {"toe": angles[1], **({"camber": angles[0]} if len(adjusters) > 1 else {}), **targets}
    within = {name: record.quantities.get(f"{key}.within.{name}") for name in TOLERANCES}
    return Wheel(
        key,
        corner,
        lacks,
        problem,
        adjusters,
        targets,
        -change.value,
        doubtful,
        read,
        differs,
        depth,
        {name: own.value if own else TOLERANCES[name] for name, own in within.items()},
    )


def _deepest(
    record: Readings, baseline: Mapping[str, Quantity], key: str, layout: str, angles: tuple[float, float]
) -> tuple[Geometry | None, str, tuple[str, ...], str]:
    """A wheel by the deepest of points, tape and slopes that is known, and what its points lack or get wrong."""
    points, lacks, problem = _corner(record, key, layout, angles)
    if points:
        return points, "points", lacks, problem
    caster = baseline.get(f"{key}.caster")
    tape = None if problem else corner_by_tape(record, key, layout, angles, caster.value if caster else 0.0)
    if tape:
        return tape, "tape", lacks, problem
    slopes = _slopes(record, baseline, key, angles) if layout else None
    if slopes:
        return slopes, "slopes", lacks, ""
    return None, "", lacks, problem


def _read(baseline: Mapping[str, Quantity], key: str, both: str) -> Quantity | None:
    if key in baseline:
        return baseline[key]
    total = baseline.get(both)
    return Quantity(total.value / 2, total.uncertainty / 2) if total else None


def _slopes(
    record: Readings, baseline: Mapping[str, Quantity], key: str, angles: tuple[float, float]
) -> Slopes | None:
    """A wheel by its slopes as read, where its points are not known."""
    slope = slope_read(record, baseline, key)
    if slope is None:
        return None
    axle, side = key.split(".")
    gain = baseline.get(f"{key}.camber_slope", Quantity(0.0, CAMBER_GAIN_UNKNOWN))
    effects: dict[str, tuple[float, float]] = {}
    lever, steer = record.quantities.get(f"{key}.tie.lever"), record.words.get(f"{axle}.steer")
    if lever and steer:
        effects["tie"] = (steer_sign(steer) / lever.value, 0.0)
    height = record.quantities.get(f"{key}.joint_height")
    if height:
        effects |= {"upper": (0.0, 1 / height.value), "lower": (0.0, -1 / height.value)}
        effects["strut_top"] = (0.0, -1 / height.value)
    sign = 1 if side == "left" else -1
    return Slopes(sign, *angles, slope.value, gain.value, slope.uncertainty, gain.uncertainty, effects)


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
    >>> from fair_spindle.core.sheet.field import Sheet
    >>> slope_read(Readings(Sheet(), {}, {}), {"front.left.bump_slope": Quantity(2e-5)}, "front.left").value
    2e-05
    """
    return baseline.get(f"{key}.bump_slope") or record.quantities.get(f"{key}.bump_slope")


def _suited(drawn: Geometry | None, doubt: float, read: Quantity | None) -> tuple[Geometry | None, str]:
    """Geometry that holds the bump steer read, and whether its points disagree with it by more than the ±."""
    if read is None or not isinstance(drawn, Corner):
        return drawn, ""
    try:
        corner = suited(drawn, doubt, read)
        slopes = [float(angles_at(one, [0.0]).toe_slope[0]) for one in (drawn, corner)]
    except NoSolution:
        return drawn, ""
    if abs(slopes[0] - read.value) <= COVERAGE * read.uncertainty:
        return corner, ""
    per = [from_core(value, "min_per_10mm") for value in (slopes[0], read.value, slopes[1])]
    words = (
        f"Points give {per[0]:.1f} min per 10 mm of bump steer, {per[1]:.1f} was read; {per[2]:.1f} is taken. "
        "Check the tie rod."
    )
    return corner, words.replace("-", "−")


def _corner(
    record: Readings, key: str, layout: str, angles: tuple[float, float]
) -> tuple[Corner | None, tuple[str, ...], str]:
    if not layout:
        return None, ("layout",), "Say first what this axle is."
    if layout not in LAYOUTS_WITH_POINTS:
        return None, (), f"{find_layout(layout).label}: both wheels move together, see the axle."
    names = [name for name, _ in find_layout(layout).points]
    if layout != "five_link":
        names = list(needed_points(layout))
    lacks = tuple(f"{key}.point.{name}" for name in names if f"{key}.point.{name}" not in record.quantities)
    if lacks:
        return None, lacks, ""
    points = {name: _xyz(record.quantities[f"{key}.point.{name}"]) for name in names}
    links: tuple[Link, ...] = ()
    if layout == "five_link":
        arms = [arm.key for arm in find_layout(layout).arms]
        links = tuple(Link(arm, points[f"{arm}_inner"], points[f"{arm}_outer"]) for arm in arms)
        points = {"wheel_center": points["wheel_center"]}
    try:
        return make_corner(layout, key.split(".")[1], *angles, points, links), (), ""
    except InputError as error:
        return None, (), error.message


def _xyz(point: Quantity) -> tuple[float, float, float]:
    return point.parts["x"], point.parts["y"], point.parts["z"]
