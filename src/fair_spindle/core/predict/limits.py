"""What ends the travel of each wheel at the height the car will have, and which part would have to change."""

from __future__ import annotations

from dataclasses import replace
from math import asin, hypot

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.ride_height import Sitting, WheelSits
from fair_spindle.core.springs.travel import Limit, first_limits, joint_travel, travel_budget

LEAST_BUMP = 40.0
LEAST_AT_LOCK = 5.0
LEAST_DROOP = 50.0
_BY_HEIGHT: dict[str, tuple[str, str]] = {
    "hose": ("brake hose tight", "a longer brake hose, or its bracket moved"),
    "wire": ("sensor wire tight", "a longer sensor wire, or its clip moved"),
    "strap": ("limit strap tight", "the strap's length is what is meant to end it; set it before hose and joint"),
    "shaft": ("axle joint at its angle", "a limit strap, or the diff lowered"),
    "spring_off": ("spring leaves its seat", "a helper spring, or a shorter droop by damper or strap"),
    "arch": ("tyre meets the arch", "a longer bump stop, other offset or tyre"),
}


@value_object
class WheelTravel:
    """What ends the bump and the droop of a wheel, the first first; and what else is to be said. [mm]"""

    key: str
    bump: tuple[Limit, ...]
    droop: tuple[Limit, ...]
    warnings: tuple[str, ...]
    lacks: tuple[str, ...]


def wheel_travels(readings: Readings, sitting: Sitting) -> list[WheelTravel]:
    """Hold every limit against the height each wheel will have.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]
    sitting : Sitting
        Where the car will sit. [mm]

    Returns
    -------
    list of WheelTravel
        Four wheels; empty where the sitting is not known.

    Raises
    ------
    Nothing.

    Notes
    -----
    Limits read as hub-to-arch heights stay where they are when the body moves; damper, spring and arm move with it.
    Each carries the ± of its readings and of the height.  Less than 40 mm of bump or 50 mm of droop is told, the
    product's own numbers.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> wheel_travels(readings_now(JobState(), WORK), Sitting())
    []
    """
    return [_wheel(readings, wheel) for wheel in sitting.wheels]


def _wheel(readings: Readings, wheel: WheelSits) -> WheelTravel:
    found, warnings, lacks = _all(readings, wheel)
    bump, droop = first_limits(_surely(readings, wheel, found))
    if wheel.stop_pressed > 0:
        warnings.append(
            f"The car rests on its bump stop, pressed by {wheel.stop_pressed:.0f} mm: that end rides on "
            "rubber. Helps: a shorter stop, or more ride height."
        )
    elif bump and bump[0].travel < LEAST_BUMP:
        warnings.append(f"Only {bump[0].travel:.0f} mm of bump is left: {bump[0].name}. Helps: {bump[0].remedy}.")
    if droop and -droop[0].travel < LEAST_DROOP:
        warnings.append(
            f"Only {-droop[0].travel:.0f} mm of droop is left: {droop[0].name}. Helps: {droop[0].remedy}."
        )
    meant = [one for one in droop if one.name in ("limit strap tight", "damper fully open")]
    sooner = [one for one in droop if meant and one not in meant and one.travel > meant[0].travel]
    warnings += [f"{one.name.capitalize()} before {meant[0].name}. Helps: {one.remedy}." for one in sooner]
    return WheelTravel(wheel.key, bump, droop, tuple(warnings), tuple(lacks))


def _all(readings: Readings, wheel: WheelSits) -> tuple[list[Limit], list[str], list[str]]:
    found: list[Limit] = []
    warnings: list[str] = []
    lacks: list[str] = []
    for add in (_damper, _spring, _heights, _joint):
        add(readings, wheel, found, warnings, lacks)
    return found, warnings, lacks


def _surely(readings: Readings, wheel: WheelSits, found: list[Limit]) -> list[Limit]:
    """The limits with their ±: every reading they rest on moved by its own, and the wheel by what its height has."""
    axle, told = wheel.key.split(".")[0], readings.quantities
    keys = [f"{axle}.{name}" for name in _OF_AXLE] + [f"{wheel.key}.{name}" for name in _OF_WHEEL]
    others = [
        (replace(readings, quantities={**told, key: replace(one, value=one.value + one.uncertainty)}), wheel)
        for key in keys
        if (one := told.get(key)) and one.uncertainty
    ]
    higher, ratio = wheel.plus_minus / COVERAGE, _number(readings, f"{axle}.motion_ratio") or 1.0
    others.append(
        (
            readings,
            replace(
                wheel,
                change=wheel.change + higher,
                spring=wheel.spring + ratio * higher,
                damper_change=wheel.damper_change + ratio * higher,
            ),
        )
    )
    if wheel.height:
        read = replace(wheel.height, value=wheel.height.value + wheel.height.uncertainty)
        others.append((readings, replace(wheel, height=read)))
    travels = [{(one.name, one.droop): one.travel for one in _all(*other)[0]} for other in others]

    def apart(one: Limit) -> float:
        return hypot(*(at.get((one.name, one.droop), one.travel) - one.travel for at in travels))

    return [replace(one, plus_minus=COVERAGE * apart(one)) for one in found]


_OF_AXLE = (
    *(f"{part}.{name}" for part in ("damper", "new_damper") for name in ("open", "closed", "stop")),
    "motion_ratio",
    "damper_ratio",
    "new_top.spacer",
    *(f"new_spring.{name}" for name in ("free", "solid", "helper_free", "helper_solid", "ring")),
)
_OF_WHEEL = (
    "damper_length",
    "lower.length",
    "lower.rise",
    *(f"limit.{name}" for name in ("hose", "wire", "strap", "shaft", "spring_off", "arch", "joint")),
)


def _number(readings: Readings, *keys: str) -> float | None:
    for key in keys:
        if key in readings.quantities:
            return readings.quantities[key].value
    return None


def _damper(readings: Readings, wheel: WheelSits, found: list[Limit], warnings: list[str], lacks: list[str]) -> None:
    axle = wheel.key.split(".")[0]
    names = {
        "open": _number(readings, f"{axle}.new_damper.open", f"{axle}.damper.open"),
        "closed": _number(readings, f"{axle}.new_damper.closed", f"{axle}.damper.closed"),
        "length": _number(readings, f"{wheel.key}.damper_length"),
        "ratio": _number(readings, f"{axle}.damper_ratio", f"{axle}.motion_ratio"),
    }
    keys = {"open": f"{axle}.damper.open", "closed": f"{axle}.damper.closed"}
    lacks += [keys.get(name, f"{wheel.key}.damper_length") for name, one in names.items() if one is None]
    if any(one is None for one in names.values()):
        return
    opened, closed, length, ratio = (float(one) for one in names.values() if one is not None)
    stop = _number(readings, f"{axle}.new_damper.stop", f"{axle}.damper.stop") or 0.0
    spacer = _number(readings, f"{axle}.new_top.spacer") or 0.0
    at_ride = length + wheel.damper_change - spacer
    try:
        budget = travel_budget(opened, closed, at_ride, ratio, stop)
    except InputError as error:
        warnings.append(error.message)
        return
    found.append(
        Limit("damper fully open", -budget.droop, "a damper with a longer stroke, or a longer body", droop=True)
    )
    if stop:
        reached = max(budget.bump_to_stop, 0.0)
        found.append(Limit("bump stop touched", reached, "a shorter bump stop, or more ride height"))
    found.append(
        Limit("damper fully closed", budget.bump_to_metal, "a bump stop that ends it before, or a shorter damper")
    )


def _spring(readings: Readings, wheel: WheelSits, found: list[Limit], warnings: list[str], lacks: list[str]) -> None:
    axle = wheel.key.split(".")[0]
    fit = readings.words.get(f"{axle}.new_spring.fit", "as_before")
    if fit not in ("coil", "two_stage", "stack"):
        return
    ratio = _number(readings, f"{axle}.motion_ratio")
    free, solid = (_number(readings, f"{axle}.new_spring.{name}") for name in ("free", "solid"))
    if ratio is None or free is None:
        return
    helper = [
        _number(readings, f"{axle}.new_spring.{name}") or 0.0 for name in ("helper_free", "helper_solid", "ring")
    ]
    stack = helper if fit == "stack" else [0.0, 0.0, 0.0]
    loose = free + stack[0] + stack[2] - wheel.spring
    found.append(
        Limit("spring loose", -loose / ratio, "a helper spring, or a shorter droop by damper or strap", droop=True)
        if loose > 0
        else Limit("spring loose", 0.0, "a longer spring", droop=True)
    )
    if solid is not None:
        left = wheel.spring - solid - stack[1] - stack[2]
        found.append(Limit("coils touch", max(left / ratio, 0.0), "a spring with fewer coils, or a longer bump stop"))
        if left <= 0:
            warnings.append("The coils touch at ride height already: this spring cannot carry this car.")


def _heights(readings: Readings, wheel: WheelSits, found: list[Limit], warnings: list[str], lacks: list[str]) -> None:
    if wheel.predicted is None:
        return
    for name, (label, remedy) in _BY_HEIGHT.items():
        at = _number(readings, f"{wheel.key}.limit.{name}")
        if at is None:
            continue
        travel = wheel.predicted - at
        if (name == "arch") != (travel >= 0):
            warnings.append(f"{label.capitalize()} at {at:.0f} mm: passed already at ride height. Helps: {remedy}.")
            travel = 0.0
        found.append(Limit(label, travel, remedy, droop=name != "arch"))


def _joint(readings: Readings, wheel: WheelSits, found: list[Limit], warnings: list[str], lacks: list[str]) -> None:
    limit = _number(readings, f"{wheel.key}.limit.joint")
    length, rise = (_number(readings, f"{wheel.key}.lower.{name}") for name in ("length", "rise"))
    if limit is None or length is None or rise is None:
        return
    now = rise - wheel.change
    if abs(now) >= length or abs(asin(now / length)) > limit:
        warnings.append(
            "The lower ball joint is past its angle at ride height. Helps: another joint, or less height change."
        )
        return
    found.append(Limit("lower joint at its angle", joint_travel(length, now, limit, True), "a joint with more angle"))
    found.append(
        Limit(
            "lower joint at its angle", joint_travel(length, now, limit, False), "a limit strap before it", droop=True
        )
    )


def steering_damper(readings: Readings) -> list[str]:
    """Say where a steering damper would end the lock before the stops do.

    A damper that bottoms at full lock breaks its bracket or holds the wheels; 5 mm at either end are wanted, the
    product's own number.

    Common practice, no published source.
    """
    opened, closed = (_number(readings, f"front.steer_damper.{name}") for name in ("open", "closed"))
    said = []
    for side in SIDES:
        at = _number(readings, f"front.steer_damper.at_{side}")
        if opened is None or closed is None or at is None:
            continue
        room = min(opened - at, at - closed)
        end = "open" if opened - at < at - closed else "closed"
        if room < LEAST_AT_LOCK:
            said.append(
                f"▲ Steering damper: {max(room, 0.0):.0f} mm before it is fully {end} at full lock {side}; "
                f"{LEAST_AT_LOCK:.0f} mm are wanted. Move its bracket, or fit one of another stroke."
            )
        else:
            said.append(f"✓ Steering damper: {room:.0f} mm of room at full lock {side}.")
    return said
