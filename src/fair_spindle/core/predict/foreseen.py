"""What a plan will know, and what it will not: for each, what to read, by which fields, in how many minutes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.bolt_needs import waits_for_load
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import carry
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.predict.sprung_car import SprungCar
from fair_spindle.core.predict.step_words import PUT_ON

NAMES = {"height": "height", "toe": "toe", "camber": "camber", "caster": "caster"}
MOST_FIELDS = 12


@value_object
class Foreseen:
    """One thing that will be known or not: in words, how sure, and the fields that would tell it. [min]"""

    what: str
    known: bool
    said: str
    fields: tuple[str, ...] = ()
    minutes: int = 0


def foresee(
    state: JobState,
    readings: Readings,
    template: JobTemplate,
    wheels: Mapping[str, Wheel],
    car: tuple[SprungCar, Sitting] | None,
    missing_windows: Mapping[str, str],
) -> Iterator[Foreseen]:
    """Say what a plan will know with what was read so far.

    The car on its springs only where the plan moves heights, what is missing for clamp windows by joint.
    """
    yield _beside(template)
    yield from _ends(readings, template)
    if car:
        yield _heights(*car)
    if "turns" in template.pages:
        yield from _angles(readings, template, wheels)
    yield from _windows(state, readings, missing_windows)


def _beside(template: JobTemplate) -> Foreseen:
    told = dict.fromkeys(name for one in sorted(template.measured) if (name := one.split(".")[1]) in NAMES)
    if not told:
        return Foreseen("Before and after", True, "nothing here moves a wheel: no reading is asked for")
    names = ", ".join(NAMES[name] for name in NAMES if name in told)
    return Foreseen("Before and after", True, f"{names} and the difference, as they are read")


def _ends(readings: Readings, template: JobTemplate) -> Iterator[Foreseen]:
    for reading in template.reads:
        if not reading.key.endswith(PUT_ON):
            continue
        end = reading.key.removesuffix(PUT_ON)
        wheel = end.removesuffix(".tie")
        what = f"Turns the new end wants, {label_wheel(wheel).lower()}"
        needed = (f"{end}.pitch", f"{end}.end", f"{wheel}.new_end.length")
        lacks = tuple(key for key in needed if key not in readings.quantities)
        carried = carry(readings.quantities, end)
        if carried or not lacks:
            yield Foreseen(what, True, "told when the old one is counted off, ± a flat or so")
        else:
            yield Foreseen(what, False, "until both ends and the thread are measured with a caliper", lacks, 2)


def _heights(car: SprungCar, sitting: Sitting) -> Foreseen:
    if sitting.wheels:
        widest = max(wheel.predicted_plus_minus for wheel in sitting.wheels)
        return Foreseen("Heights the springs bring", True, f"± {widest:.0f} mm before the car comes down")
    said = sitting.problem or "until springs, ratio and load are told; read before and after all the same"
    return Foreseen("Heights the springs bring", False, said, car.lacks[:MOST_FIELDS], 15)


def _angles(readings: Readings, template: JobTemplate, wheels: Mapping[str, Wheel]) -> Iterator[Foreseen]:
    for axle in template.axles:
        own = [wheel for key, wheel in wheels.items() if key.startswith(axle)]
        what = f"Toe and camber in degrees, and turns to the flat, {axle}"
        if all(one.corner and one.adjusters for one in own):
            yield Foreseen(what, True, f"by {own[0].depth}")
            continue
        if f"{axle}.layout" not in readings.words:
            fields: tuple[str, ...] = (f"{axle}.layout",)
        else:
            moved = "height" in {one.split(".")[1] for one in template.measured if one.startswith(axle)}
            names = ("tie.lever", "tie.pitch", *(("bump_slope",) if moved else ()))
            told = {**readings.quantities, **readings.words}
            fields = tuple(
                key
                for key in (f"{axle}.steer", *(f"{one.key}.{name}" for one in own for name in names))
                if key not in told and key in readings.sheet.fields
            )
        if fields:
            yield Foreseen(what, False, "until the steering lever is measured with a tape", fields, 1)


def _windows(state: JobState, readings: Readings, missing: Mapping[str, str]) -> Iterator[Foreseen]:
    bonded = [joint for joint in state.joints.values() if waits_for_load(joint, state)]
    if not bonded:
        return
    open_ = [joint for joint in bonded if joint.key in missing]
    what = f"Clamp windows of {len(bonded)} bonded bolt{'s' if len(bonded) > 1 else ''}"
    if not open_:
        yield Foreseen(what, True, "heights between which rubber may be clamped, jack, ramps or wheels")
        return
    fields = dict.fromkeys(
        key
        for joint in open_
        for key in (
            *(f"{joint.axle}.{joint.side}.{joint.arm}.{name}" for name in ("length", "rise")),
            f"{joint.axle}.{joint.side}.height",
        )
        if joint.side and key in readings.sheet.fields and key not in readings.quantities
    )
    said = f"{len(open_)} not yet: load them on their wheels, settled, or read arm length and rise"
    yield Foreseen(what, False, said, tuple(fields)[:MOST_FIELDS], 2)
