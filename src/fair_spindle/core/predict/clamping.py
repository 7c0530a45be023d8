"""Clamp windows of the rubber pivots on a job's maps: where the car will live, and how far the rubber may twist."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from math import degrees, hypot
from statistics import NormalDist

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.joblog.bolt_needs import waits_for_load
from fair_spindle.core.joblog.bolt_state import BoltState, bolt_key
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.population import usual_arm
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.predict.sprung_car import SprungCar
from fair_spindle.core.springs.rubber import (
    DEFAULT_TWIST_LIMIT,
    Arm,
    Shackle,
    Swing,
    swing_angle,
    swing_window,
    wind_up_force,
)

# How seldom a height that is shown inside may lie outside, by either edge.
OUTSIDE = 0.05
HALVINGS = 40
# Of the height read at the gate, by tape; of a bushing's rate as typed.  The product's own.
READ_AT_GATE = 0.6
BUSH_RATE = 0.15
# How far a shackle may lean where nobody told. [rad]
UNKNOWN_LEAN = 0.15
# A rigid car on four equal springs follows one corner's force by three quarters of what that spring alone would.
ONE_OF_FOUR = 0.75
Reader = Callable[..., Quantity | None]


@value_object
class Pivot:
    """A rubber pivot's corner: ride height it will live at, what turns there, its clamp window. [mm, hub to arch]

    The window is narrower than the rubber's by what height, arm and reading leave open; ``limit`` is the rubber's
    own [rad].  ``usual`` tells that nobody measured the arm, so that a middling one stands for it.
    """

    ride: Quantity
    swing: Swing
    window: tuple[float, float]
    limit: float = DEFAULT_TWIST_LIMIT
    usual: bool = False

    def twist(self, height: float) -> float:
        """Twist that stays at ride height in a bolt that was clamped at another height. [rad]"""
        clamped = swing_angle(self.swing, self.ride.value - height)
        return float(swing_angle(self.swing, 0.0) - clamped)


@value_object
class WoundUp:
    """A bolt that was clamped off height: its twist at ride height with ± [rad].

    ``lift`` is what all wound-up rubber of that corner together lifts it by, with ± (coverage 2) [mm]; None where
    rates are not known.
    """

    joint: str
    number: int
    height: float
    twist: float
    twist_plus_minus: float
    lift: float | None
    lift_plus_minus: float = 0.0


def pivots_of(
    state: JobState, readings: Readings, sitting: Sitting | None = None
) -> tuple[dict[str, Pivot], dict[str, str]]:
    """Work out the clamp window of every joint that waits for load.

    Parameters
    ----------
    state : JobState
        Its joints. [-]
    readings : Readings
        Heights, arm lengths and rises. [mm]
    sitting : Sitting, optional
        Where the car will sit, in a job that changes its springs; without wheels where that is not known. [mm]

    Returns
    -------
    tuple of dict
        Pivots by joint, and for the others what is missing, in words.

    Raises
    ------
    Nothing.

    Notes
    -----
    The car lives at the height read after settling, or before that where its springs will let it stand; at the height
    read before where nothing changes it.  A height that is wanted is no prediction: where nothing says what the new
    one will be there is no window.  The arm's rise was read at the height before; it falls by as much as the body
    rises; where nobody measured the arm a middling one of its layout stands for it, as wide as cars vary.  The edges
    are drawn in by as many standard uncertainties of height, arm and reading as leave what is shown as inside outside
    in 5 of 100, by either edge together.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> pivots_of(JobState(), readings_now(JobState(), WORK))
    ({}, {})
    """
    found: dict[str, Pivot] = {}
    missing: dict[str, str] = {}
    for joint in state.joints.values():
        if not waits_for_load(joint, state):
            continue
        try:
            pivot = _pivot(joint, readings, sitting)
        except InputError as error:
            missing[joint.key] = error.message
            continue
        if isinstance(pivot, str):
            missing[joint.key] = pivot
        else:
            found[joint.key] = pivot
    return found, missing


def _pivot(joint: Joint, readings: Readings, sitting: Sitting | None) -> Pivot | str:
    wheel = f"{joint.axle}.{joint.side or 'left'}"
    ride = _ride(wheel, readings, sitting)
    if isinstance(ride, str):
        return ride
    before = readings.quantities[f"{wheel}.height"].value if f"{wheel}.height" in readings.quantities else ride.value
    told = readings.quantities.get("car.twist_limit")
    limit = told.value if told else DEFAULT_TWIST_LIMIT
    swings = [one for arm in _arms(joint, readings) if (one := _swing(joint, arm, readings, ride.value - before))]
    usual = not swings
    if usual:
        swings = [_usual_swing(joint, readings, ride.value - before)]
    windows = [window for one, off in swings if (window := _window(one, off, ride, limit))]
    if len(windows) < len(swings):
        return (
            f"the height to be known better: ± {COVERAGE * ride.uncertainty:.0f} mm is more than the rubber allows; "
            "load it on its wheels, settle it and read the height"
        )
    narrowest = min(range(len(windows)), key=lambda place: windows[place][1] - windows[place][0])
    return Pivot(ride, swings[narrowest][0], windows[narrowest], limit, usual)


def _ride(wheel: str, readings: Readings, sitting: Sitting | None) -> Quantity | str:
    """The height a wheel will live at, or what has to be read for it."""
    axle, side = wheel.split(".")
    before, after = (readings.quantities.get(f"{wheel}.{name}") for name in ("height", "check_height"))
    if after:
        return after
    if before is None:
        return f"the ride height of the {axle} {side} wheel"
    if sitting is not None:
        one = next((one for one in sitting.wheels if one.key == wheel), None)
        if one is None or one.predicted is None:
            return (
                f"the new height of the {axle} {side} wheel: give the springs what they need on the Springs page, or "
                "load it on its wheels, settle it and read the height"
            )
        return Quantity(one.predicted, one.predicted_plus_minus / COVERAGE)
    wanted = readings.quantities.get(f"{axle}.height_change")
    if wanted and wanted.value:
        return (
            f"the new height of the {axle} {side} wheel: a change is wanted, nothing yet says what it will come to. "
            "Load it on its wheels, settle it and read the height"
        )
    return before


def _arms(joint: Joint, readings: Readings) -> Iterable[str]:
    """Arms of the layout that a joint's pivot may belong to: its own, or those of the same name on this axle."""
    layout = readings.words.get(f"{joint.axle}.layout", "")
    keys = [arm.key for arm in find_layout(layout).arms] if layout else []
    if joint.arm in keys or not joint.arm or not keys:
        return [joint.arm]
    return [key for key in keys if key.startswith(joint.arm)] or [
        key for key in keys if key in ("arm", "trailing", "beam")
    ]


def _swing(joint: Joint, arm: str, readings: Readings, risen: float) -> tuple[Swing, tuple[Swing, ...]] | None:
    """What turns in a pivot at the new height, and the same with each of its readings off by its uncertainty."""
    told = readings.quantities

    def read(*names: str) -> Quantity | None:
        keys = (f"{where}.{name}" for name in names for where in (f"{joint.axle}.{joint.side}", joint.axle))
        return next((told[key] for key in keys if key in told), None)

    if arm in ("leaf", "shackle"):
        return _of_leaf(joint, arm, read, risen)
    length, rise = read(f"{arm}.length"), read(f"{arm}.rise")
    if length is None or rise is None:
        return None
    best = Arm(length.value, rise.value - risen)
    off = (Arm(length.value + length.uncertainty, best.rise), Arm(length.value, best.rise + rise.uncertainty))
    return best, off


def _of_leaf(joint: Joint, arm: str, read: Reader, risen: float) -> tuple[Swing, tuple[Swing, ...]] | None:
    """A leaf's front eye as a link of three quarters of its half; its rear eye and the shackle by their arc."""
    front, rear, whole = read("leaf.front_half"), read("leaf.rear_half"), read("leaf.length")
    half = front or (whole and replace(whole, value=whole.value / 2))
    # Of a joint's key only its own name: the front eye of a rear axle's leaf is a front eye.
    name = joint.key.removesuffix(f".{joint.axle}.{joint.side}")
    at_rear = arm == "shackle" or "rear" in name or "rear eye" in joint.label.lower()
    if not at_rear:
        if half is None:
            return None
        return Arm(0.75 * half.value, 0.0), (Arm(0.75 * (half.value + half.uncertainty), 0.0),)
    length, lean, arch = read("shackle.length", "shackle.pivots"), read("shackle.lean"), read("leaf.arch")
    behind = rear or half
    if length is None or arch is None or half is None or behind is None:
        raise InputError(
            f"shackle length, both halves of the leaf and its arch at the {joint.axle} {joint.side}",
            field="leaf.arch",
        )
    best = Shackle(
        length.value,
        lean.value if lean else 0.0,
        half.value + behind.value,
        arch.value + risen,
        0.0 if arm == "shackle" else behind.value,
    )
    leaning = lean.uncertainty if lean else UNKNOWN_LEAN
    off = (
        replace(best, length=best.length + length.uncertainty),
        replace(best, lean=best.lean + leaning),
        replace(best, arch=best.arch + arch.uncertainty),
    )
    return best, off


def _usual_swing(joint: Joint, readings: Readings, risen: float) -> tuple[Swing, tuple[Swing, ...]]:
    """A middling arm where nobody measured the joint's own, and the same longer and higher by how far arms vary."""
    layout = readings.words.get(f"{joint.axle}.layout", "")
    arm = next(iter(_arms(joint, readings)), joint.arm)
    length, rise = usual_arm(layout, arm)
    best = Arm(length.value, rise.value - risen)
    return best, (Arm(length.value + length.uncertainty, best.rise), Arm(length.value, best.rise + rise.uncertainty))


def _window(swing: Swing, off: tuple[Swing, ...], ride: Quantity, limit: float) -> tuple[float, float] | None:
    """Lowest and highest height to clamp at, drawn in by what height, arm and reading leave open; None where no
    height is inside as surely as that."""
    low, high = swing_window(swing, limit)
    others = [swing_window(one, limit) for one in off]
    open_ = hypot(ride.uncertainty, READ_AT_GATE)
    below = hypot(open_, *(other[0] - low for other in others))
    above = hypot(open_, *(other[1] - high for other in others))
    inside = drawn_in(high - low, max(below, above))
    return None if inside is None else (ride.value - high + inside * above, ride.value - low - inside * below)


def drawn_in(width: float, open_: float) -> float | None:
    """By how many standard uncertainties either edge of a window is drawn in, so that both together fail in 5 of 100.

    Of a wide window only the nearer edge can fail, 1.645; the narrower it is, the more the other one counts, up to
    1.96 at its middle.  None where even the middle is not that sure.
    """
    normal = NormalDist()
    if not open_:
        return 0.0
    whole = width / open_
    if 2 * normal.cdf(-whole / 2) > OUTSIDE:
        return None
    low, high = -normal.inv_cdf(OUTSIDE), whole / 2
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        fails = normal.cdf(-middle) + normal.cdf(middle - whole)
        low, high = (middle, high) if fails > OUTSIDE else (low, middle)
    return high


def windows_of_joints(pivots: Mapping[str, Pivot]) -> dict[str, tuple[float, float]]:
    """Clamp windows as the rules take them.

    Parameters
    ----------
    pivots : mapping of Pivot
        By joint. [mm]

    Returns
    -------
    dict
        Lowest and highest hub-to-arch height, by the joint's key. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    A joint whose window is not known is left out.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> windows_of_joints({"a": Pivot(Quantity(360.0), Arm(330.0, 0.0), (350.0, 370.0))})
    {'a': (350.0, 370.0)}
    """
    return {key: pivot.window for key, pivot in pivots.items()}


def wound_up(
    state: JobState, readings: Readings, pivots: Mapping[str, Pivot], car: SprungCar | None = None
) -> list[WoundUp]:
    """Bolts whose rubber is wound up more than it should be, now that the height is known.

    Parameters
    ----------
    state : JobState
        What was clamped, and at what height. [-]
    readings : Readings
        Springs of the axle, where the whole car is not known. [N/mm]
    pivots : mapping of Pivot
        By joint, each with the limit its window was drawn by. [mm]
    car : SprungCar, optional
        The car on what is fitted now. [-]

    Returns
    -------
    list of WoundUp
        The worst first.

    Raises
    ------
    Nothing.

    Notes
    -----
    Lift: the car is let down with and without the wind-up forces of all bolts of the corner, each growing back as the
    wheel moves.  Where the whole car is not known, three quarters of force over the wheel rate of what is fitted.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> wound_up(JobState(), readings_now(JobState(), WORK), {})
    []
    """
    found: list[tuple[WoundUp, str, float, float]] = []
    for key, pivot in pivots.items():
        joint = state.joints[key]
        for bolt in joint.bolts:
            now = state.bolts.get(bolt_key(key, bolt.number), BoltState())
            if now.at_height is None or now.stage in (None, "loose", "hand", "snug"):
                continue
            try:
                twist = pivot.twist(now.at_height)
                off = abs(pivot.twist(now.at_height + 1.0) - twist) * hypot(pivot.ride.uncertainty, READ_AT_GATE)
            except InputError:
                continue
            if abs(twist) > pivot.limit + 1e-9:
                force, rate = _pull(joint, pivot, twist)
                one = WoundUp(key, bolt.number, now.at_height, twist, COVERAGE * off, None)
                found.append((one, f"{joint.axle}.{joint.side}", force, rate))
    lifts = {wheel: _lift(wheel, found, readings, car) for wheel in {wheel for _, wheel, *_ in found}}
    told = [
        replace(one, lift=lift[0], lift_plus_minus=lift[1]) if (lift := lifts[wheel]) and force else one
        for one, wheel, force, _ in found
    ]
    return sorted(told, key=lambda one: -abs(one.twist))


def _pull(joint: Joint, pivot: Pivot, twist: float) -> tuple[float, float]:
    """Force at the wheel of a wound-up bushing [N], and how it falls as the wheel gives way [N/mm]."""
    if not joint.bush_rate_nm_per_deg or not isinstance(pivot.swing, Arm):
        return 0.0, 0.0
    torque = to_core(joint.bush_rate_nm_per_deg * degrees(twist), "nm")
    force = float(wind_up_force(pivot.swing, torque))
    per_travel = float(wind_up_force(pivot.swing, 1.0))
    return force, to_core(joint.bush_rate_nm_per_deg, "nm_per_deg") * per_travel**2


def _lift(
    wheel: str, found: list[tuple[WoundUp, str, float, float]], readings: Readings, car: SprungCar | None
) -> tuple[float, float] | None:
    """What the wound-up rubber of one corner lifts it by, with ±; None where rates are not known."""
    force = sum(pull for _, at, pull, _ in found if at == wheel)
    rate = sum(each for _, at, _, each in found if at == wheel)
    if not force:
        return None
    lift = _lift_of_car(wheel, force, rate, car)
    share = COVERAGE * BUSH_RATE
    if lift is None:
        axle = wheel.split(".")[0]
        fitted = readings.words.get(f"{axle}.new_spring.fit", "as_before") != "as_before"
        spring = readings.quantities.get(f"{axle}.{'new_spring' if fitted else 'spring'}.rate")
        ratio = readings.quantities.get(f"{axle}.motion_ratio")
        if spring is None or ratio is None:
            return None
        lift = ONE_OF_FOUR * force / (spring.value * ratio.value**2 + rate)
        share = hypot(share, COVERAGE * 0.2)
    return lift, abs(lift) * share


def _lift_of_car(wheel: str, force: float, rate: float, car: SprungCar | None) -> float | None:
    if car is None or not car.measured:
        return None
    place = WHEELS.index(wheel)
    try:
        held = car.build({})
        free = held.settle().height_change[0, place]
        leg = held.legs[place]
        whole = rate + float(leg.rubber_rate)
        # The wind-up is told at the height where it stands free of it: there it pulls with all its force.
        neutral = (rate * (-free - force / rate) + float(leg.rubber_rate) * float(leg.rubber_neutral)) / whole
        pulled = replace(leg, rubber_rate=whole, rubber_neutral=neutral)
        legs = tuple(pulled if n == place else leg for n, leg in enumerate(held.legs))
        return float(replace(held, legs=legs).settle().height_change[0, place] - free)
    except (InputError, NoSolution):
        return None


def say_twist(one: WoundUp) -> str:
    """How far a bolt's rubber is wound up, with its ±, in degrees."""
    return f"{degrees(abs(one.twist)):.1f}° ± {degrees(one.twist_plus_minus):.1f}°"


def say_lift(one: WoundUp) -> str:
    """What a corner's wound-up rubber lifts it by, with its ±."""
    return f"{abs(one.lift or 0.0):.1f} ± {one.lift_plus_minus:.1f} mm"
