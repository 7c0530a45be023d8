"""From a car's record and its last baseline to corners, adjusters and the turns that bring the car back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.axle_turns import STEERING_WHEEL_WITHIN, Across, realign_axle, toe_across
from fair_spindle.core.corner import LAYOUTS_WITH_POINTS, Corner, Link, make_corner, needed_points
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.adjusters import adjusters_of
from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.floor.tape import corner_by_tape
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.layouts import find_layout
from fair_spindle.core.realign import ANGLES, TOLERANCES, Adjuster, Realigned, Wanted, changes_by_link, realign
from fair_spindle.core.sheet.shape import AXLES, SIDES
from fair_spindle.core.slopes import Geometry, Slopes, angles_at
from fair_spindle.core.solid_axle import NEEDED as SOLID
from fair_spindle.core.solid_axle import SolidAxle, make_solid_axle
from fair_spindle.core.sureness import SAMPLES, AxleSureness, Doubtful, Sureness, how_sure
from fair_spindle.core.toe import AxleToe, axle_toe, steer_sign
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


@dataclass(frozen=True)
class WheelPlan:
    """The plan for one wheel: the turns, how sure they are, or why there is no plan.

    ``targets`` are those planned for, with the rear thrust in a front wheel's toe. [rad]
    """

    wheel: Wheel
    plan: Realigned | None
    sureness: Sureness | None
    problem: str
    targets: Mapping[str, float]


@dataclass(frozen=True)
class AxlePlan:
    """The toe an axle ends at; where both its wheels are planned, what they make together and how sure that is."""

    toe: AxleToe
    across: tuple[Across, ...] = ()
    sureness: AxleSureness | None = None


@dataclass(frozen=True)
class CarPlan:
    """The plan for the whole car: each wheel, and each axle."""

    wheels: Mapping[str, WheelPlan]
    axles: Mapping[str, AxlePlan]


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


def plan_car(
    wheels: Mapping[str, Wheel],
    ratio: float | None,
    samples: int = SAMPLES,
    limits: Mapping[str, Quantity] | None = None,
    seed: int = 1,
) -> CarPlan:
    """Plan the turns of every wheel: the rear axle first, then the front to the thrust line it leaves.

    Parameters
    ----------
    wheels : mapping
        Wheels by axle and side. [-]
    ratio : float, optional
        Steering ratio. [-]
    samples : int, optional
        How many axles are drawn to say how sure the plan is; none where 0. [-]
    limits : mapping of Quantity, optional
        The record's limits of what two wheels make together, by field key. [rad]
    seed : int, optional
        Of the random draws, so that the same car gives the same answer. [-]

    Returns
    -------
    CarPlan
        Plans by wheel, toe by axle.

    Raises
    ------
    Nothing: what cannot be planned is told with its wheel.

    Notes
    -----
    The front wheels' wanted toes are turned with the rear thrust, so that the steering wheel
    stands straight: left + thrust, right − thrust.  A rear wheel that is not planned counts as it stands.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> plan_car({}, None).axles
    {}
    """
    generator = np.random.default_rng(seed)
    found: dict[str, WheelPlan] = {}
    axles: dict[str, AxlePlan] = {}
    thrust, drawn = 0.0, None
    for axle in ("rear", "front"):
        pair = [wheels[key] for key in (f"{axle}.{side}" for side in SIDES) if key in wheels]
        aim = thrust if axle == "front" else 0.0
        across = _across(axle, pair, aim, limits, ratio) if len(pair) == len(SIDES) else ()
        turned = _turned(pair, aim, across)
        sure = _surely(turned, across, generator, samples, drawn) if samples else None
        for place, one in enumerate(one for one in turned if one.plan):
            found[one.wheel.key] = replace(one, sureness=sure.wheels[place]) if sure else one
        found |= {one.wheel.key: one for one in turned if not one.plan}
        toes = [at for one in turned if (at := _stands(one)) is not None]
        if len(toes) == len(SIDES):
            toe = axle_toe(toes[0], toes[1], ratio if axle == "front" else None, thrust)
            planned = all(one.plan for one in turned)
            axles[axle] = AxlePlan(toe, across if planned else (), sure if planned else None)
            if axle == "rear":
                thrust = toe.thrust
                drawn = sure.thrust - thrust if sure and planned else None
    return CarPlan({key: found[key] for key in wheels}, axles)


def corrected(
    turned: WheelPlan, steps: Mapping[str, int], since: Mapping[str, int], read: Mapping[str, float], travel: float
) -> dict[str, int] | None:
    """Steps still wanted on each adjuster of a wheel, from what was read after the work.

    Parameters
    ----------
    turned : WheelPlan
        The wheel and its plan. [-]
    steps, since : mapping
        Steps turned so far, and those of them turned after the reading, by adjuster. [step]
    read : mapping
        ``toe`` and ``camber`` as read after settling, any of them. [rad]
    travel : float
        Travel the wheel was read at. [mm]

    Returns
    -------
    dict or None
        Steps by adjuster; None where there is no plan or nothing was read.

    Raises
    ------
    NoSolution
        The linkage locks on the way.

    Notes
    -----
    The wheel angles at the old height are moved by what the reading missed, so that the geometry
    gives what was read; then the plan is made again and what is turned already is taken off.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> wheel = Wheel("", None, (), "", (), {}, 0.0, Doubtful(0, 0, 0, 0), {})
    >>> corrected(WheelPlan(wheel, None, None, "", {}), {}, {}, {}, 0.0) is None
    True
    """
    wheel = turned.wheel
    targets = {name: angle for name, angle in turned.targets.items() if name in read}
    if wheel.corner is None or turned.plan is None or not targets:
        return None
    done = [steps.get(one.name, 0) for one in wheel.adjusters]
    then = [one.changed(at - since.get(one.name, 0)) for one, at in zip(wheel.adjusters, done, strict=True)]
    expected = angles_at(wheel.corner, [travel], changes_by_link(wheel.adjusters, np.array([then])))
    moved = replace(
        wheel.corner,
        toe=wheel.corner.toe + read.get("toe", float(expected.toe[0])) - float(expected.toe[0]),
        camber=wheel.corner.camber + read.get("camber", float(expected.camber[0])) - float(expected.camber[0]),
    )
    plan = realign(moved, travel, wheel.adjusters, targets, wheel.tolerances)
    wanted = zip(wheel.adjusters, plan.set_turns, done, strict=True)
    return {one.name: round(float(turns) / one.step) - at for one, turns, at in wanted}


def _across(
    axle: str, pair: Sequence[Wheel], thrust: float, limits: Mapping[str, Quantity] | None, ratio: float | None
) -> tuple[Across, ...]:
    """What the two wheels of an axle are to make together, and how near."""
    told = {key: one.value for key, one in (limits or {}).items() if one.value > 0}
    left, right = (one.targets.get("toe", 0.0) for one in pair)
    near = sum(one.tolerances["toe"] for one in pair)
    straight = told.get("front.within.steering_wheel", STEERING_WHEEL_WITHIN) / ratio if ratio else near / 2
    within_thrust = straight if axle == "front" else told.get("rear.within.thrust", near / 2)
    toes = toe_across(left + thrust, right - thrust, told.get(f"{axle}.within.total_toe", near), within_thrust)
    apart = [
        Across(f"{name} apart", name, 1.0, -1.0, 0.0, told[f"{axle}.apart.{name}"])
        for name in ANGLES
        if f"{axle}.apart.{name}" in told and all(name in one.targets for one in pair)
    ]
    return (*toes, *apart)


def _turned(pair: Sequence[Wheel], thrust: float, across: Sequence[Across]) -> list[WheelPlan]:
    """The plans of the wheels of an axle, chosen together where both can be planned."""
    asked: list[tuple[Wheel, Wanted | None, str]] = []
    for wheel in pair:
        sign = 1 if wheel.key.endswith("left") else -1
        targets = {name: angle + (sign * thrust if name == "toe" else 0.0) for name, angle in wheel.targets.items()}
        problem = wheel.problem
        if wheel.corner and not wheel.adjusters:
            problem = "Nothing on this wheel can be adjusted, by its record."
        wanted = None
        if wheel.corner:
            wanted = Wanted(wheel.corner, wheel.travel, wheel.adjusters, targets, wheel.tolerances)
        asked.append((wheel, wanted, problem))
    both = [wanted for _, wanted, _ in asked if wanted]
    together: Sequence[Realigned] = ()
    if len(both) == len(SIDES) and any(one.adjusters for one in both):
        try:
            together = realign_axle(both[0], both[1], across)
        except (InputError, NoSolution):
            together = ()  # told below, at the wheel it is about
    found = []
    for place, (wheel, wanted, problem) in enumerate(asked):
        aims = wanted.targets if wanted else {}
        if wanted is None or not wanted.adjusters:
            found.append(WheelPlan(wheel, None, None, problem, aims))
            continue
        try:
            plan = (
                together[place]
                if together
                else realign(wanted.corner, wanted.travel, wanted.adjusters, wanted.targets, wanted.tolerances)
            )
            found.append(WheelPlan(wheel, plan, None, "", aims))
        except (InputError, NoSolution) as error:
            found.append(WheelPlan(wheel, None, None, error.message, aims))
    return found


def _surely(
    turned: Sequence[WheelPlan],
    across: Sequence[Across],
    generator: np.random.Generator,
    samples: int,
    follow: NDArray[np.float64] | None,
) -> AxleSureness | None:
    drawn = []
    for one in turned:
        wheel = one.wheel
        if one.plan and wheel.corner:
            wanted = Wanted(wheel.corner, wheel.travel, wheel.adjusters, one.targets, wheel.tolerances)
            drawn.append((wanted, one.plan, wheel.doubtful))
    try:
        return how_sure(drawn, generator, samples, across, follow) if drawn else None
    except NoSolution:
        return None


def _stands(one: WheelPlan) -> float | None:
    """Toe a wheel ends at: as planned, or, where nothing is planned on it, as read at the height it will have."""
    if one.plan:
        return one.plan.after["toe"]
    if "toe" not in one.wheel.read:
        return None
    if one.wheel.corner is None:
        return one.wheel.read["toe"]
    try:
        return float(angles_at(one.wheel.corner, [one.wheel.travel]).toe[0])
    except NoSolution:
        return None


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
    differs = _differs(corner, baseline.get(f"{key}.bump_slope")) if corner else ""
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
    slope = baseline.get(f"{key}.bump_slope")
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


def _differs(corner: Geometry, read: Quantity | None) -> str:
    """Whether the points' bump steer and the one that was read disagree by more than its ±."""
    if read is None or not isinstance(corner, Corner):
        return ""
    drawn = float(angles_at(corner, [0.0]).toe_slope[0])
    if abs(drawn - read.value) <= COVERAGE * read.uncertainty:
        return ""
    per = [from_core(value, "min_per_10mm") for value in (drawn, read.value)]
    words = f"Points give {per[0]:.1f} min per 10 mm of bump steer, {per[1]:.1f} was read. Check the tie rod."
    return words.replace("-", "−")


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
