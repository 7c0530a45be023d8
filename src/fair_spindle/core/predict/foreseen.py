"""What a plan will know, and what it will not: for each, what to read, by which fields, in how many minutes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.joblog.bolt_needs import waits_for_load
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.required_fields import Readings, axles_moved, promised, shape_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import TURNS_ON, carry
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.advice import becomes
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.predict.sprung_car import SprungCar
from fair_spindle.core.predict.usual_car import MASS, SHARE

MOST_FIELDS = 12
# The share of a ± that may be left for one more reading to be told, and what that reading takes. [-, min]
WORTH_A_READING, MINUTES_FOR_ONE = 0.85, 5
# Inputs of a car that another field tells.
TOLD_BY = {MASS: "car.loads", SHARE: "car.loads"}


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
    yield _beside(promised(readings.sheet, template, shape_now(state)))
    yield from _ends(readings, template)
    if car:
        yield from _heights(*car, readings, template)
    if "turns" in template.pages:
        yield from _angles(readings, template, wheels)
    yield from _windows(state, readings, missing_windows)


def _beside(names: Sequence[str]) -> Foreseen:
    if not names:
        return Foreseen("Before and after", True, "nothing here moves a wheel: no reading is asked for")
    return Foreseen("Before and after", True, f"{', '.join(names)} and the difference, as they are read")


def _ends(readings: Readings, template: JobTemplate) -> Iterator[Foreseen]:
    for reading in template.reads:
        if not reading.key.endswith(TURNS_ON):
            continue
        end = reading.key.removesuffix(TURNS_ON)
        wheel = end.removesuffix(".tie")
        what = f"Turns the new end wants, {label_wheel(wheel).lower()}"
        needed = (f"{end}.pitch", f"{end}.end", f"{wheel}.new_end.length")
        lacks = tuple(key for key in needed if key not in readings.quantities)
        carried = carry(readings.quantities, end)
        if carried or not lacks:
            yield Foreseen(what, True, "told when the old one is counted off, ± a flat or so")
        else:
            yield Foreseen(what, False, "until both ends and the thread are measured with a caliper", lacks, 2)


def _heights(car: SprungCar, sitting: Sitting, readings: Readings, template: JobTemplate) -> Iterator[Foreseen]:
    """Heights of every axle the plan moves: how sure, and the reading that would narrow them most."""
    for axle in AXLES:
        if axle not in axles_moved(template.measured):
            continue
        what = f"Heights the springs bring, {axle}"
        wheels = [wheel for wheel in sitting.wheels if wheel.key.startswith(axle)]
        if wheels:
            widest = max(wheel.plus_minus for wheel in wheels)
            yield Foreseen(
                what, True, *_surer(f"± {widest:.0f} mm before the car comes down", widest, car, sitting, readings)
            )
            continue
        lacks = tuple(key for key in car.lacks if key.startswith(axle))
        said = sitting.problem or "until it is told what goes in; read before and after all the same"
        yield Foreseen(what, False, said, lacks[:MOST_FIELDS], 5)


def _surer(
    said: str, widest: float, car: SprungCar, sitting: Sitting, readings: Readings
) -> tuple[str, tuple[str, ...], int]:
    """What was said, with the reading that makes it surest, its field and minutes."""
    for key, share in sitting.shares.items():
        told = TOLD_BY.get(key, key)
        asked = readings.sheet.fields.get(told)
        if asked is None or key not in car.inputs:
            continue
        then = becomes(key, car.inputs[key], share, widest)
        if then is not None and then < WORTH_A_READING * widest:
            more = f"; {asked.label[0].lower()}{asked.label[1:]} measured makes it ± {then:.0f} mm"
            return said + more, (told, *(("car.size",) if told == "car.loads" else ())), MINUTES_FOR_ONE
    return said, (), 0


def _angles(readings: Readings, template: JobTemplate, wheels: Mapping[str, Wheel]) -> Iterator[Foreseen]:
    """Turns of every axle in work: by what they are known, and what would make them surer."""
    for axle in template.axles:
        own = [wheel for key, wheel in wheels.items() if key.startswith(axle)]
        what = f"Turns that bring the angles back, {axle}"
        told = {**readings.quantities, **readings.words}
        if not all(one.corner and one.adjusters for one in own):
            fields = tuple(key for key in (f"{axle}.layout",) if key not in told and key in readings.sheet.fields)
            if fields:
                yield Foreseen(what, False, "until it is told what this axle hangs on", fields, 1)
            continue
        if own[0].depth == "points":
            yield Foreseen(what, True, "by points, to the flat")
            continue
        said = {"tape": "by tape", "slopes": "by slopes"}.get(own[0].depth, "by a middling car of its kind")
        names = [f"{axle}.layout", f"{axle}.steer"]
        names += [f"{one.key}.{name}" for one in own for name in ("tie.lever", "tie.pitch")]
        fields = tuple(key for key in names if key not in told and key in readings.sheet.fields)
        lever = "; the steering lever, read by tape, makes them a flat or two" if fields else ""
        yield Foreseen(what, True, f"{said}, and by what the first turn does{lever}", fields, 1 if fields else 0)


def _windows(state: JobState, readings: Readings, missing: Mapping[str, str]) -> Iterator[Foreseen]:
    bonded = [joint for joint in state.joints.values() if waits_for_load(joint, state)]
    if not bonded:
        return
    open_ = [joint for joint in bonded if joint.key in missing]
    what = f"Clamp windows of {len(bonded)} bonded bolt{'s' if len(bonded) > 1 else ''}"
    if not open_:
        yield Foreseen(what, True, "heights between which rubber may be clamped, jack, ramps or wheels")
        return
    # The arm is told or a usual one; only the height the rubber will live at has no stand-in.
    heights = dict.fromkeys(f"{joint.axle}.{joint.side}.height" for joint in open_ if joint.side)
    fields = tuple(key for key in heights if key in readings.sheet.fields and key not in readings.quantities)
    said = (
        f"{len(open_)} not yet: until the ride height is read, before the car is raised"
        if fields
        else f"{len(open_)} not yet: load them on their wheels, settle the car and read the height"
    )
    yield Foreseen(what, False, said, fields[:MOST_FIELDS], 2)
