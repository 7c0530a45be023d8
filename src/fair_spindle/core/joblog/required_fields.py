"""Which fields a log asks for now, and which of them are still empty."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.field import MEASURING, Field, Phase, Sheet
from fair_spindle.core.fields.shape import Shape, shape_of
from fair_spindle.core.joblog.kinds import KEPT, JobTemplate
from fair_spindle.core.joblog.readings import Quantity, read_all
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import TURNS_ON, with_counts, with_untold_ends


def shape_now(state: JobState) -> Shape:
    """The car's deciding choices as they stand in a log.

    Later choices outrank earlier ones.
    """
    return shape_of(choices_now(state))


@by_identity(most=KEPT)
def choices_now(state: JobState) -> Mapping[str, str]:
    """Every choice made in a log, as it stands.

    Fields that hold numbers are left out.
    """
    return {key: taken.act.choice for key, taken in state.entries.items() if taken.act.choice}


@by_identity(most=KEPT)
def sheet_now(state: JobState, template: JobTemplate) -> Sheet:
    """The fields a log asks for as things stand.

    Choices such as an axle's layout decide what else is asked.

    Raises NotFound: A layout that does not exist; accepted choices always do.
    """
    return _sheet(shape_now(state), template)


@by_identity(most=KEPT)
def _sheet(shape: Shape, template: JobTemplate) -> Sheet:
    return sheet_for("car" if template.key == "car" else "work", shape, template.reads)


@value_object
class Readings:
    """The fields asked now, and everything read in them: quantities and words by field key."""

    sheet: Sheet
    quantities: Mapping[str, Quantity]
    words: Mapping[str, str]


def readings_now(state: JobState, template: JobTemplate) -> Readings:
    """Understand everything that is filled in.

    Everything computed about a job starts from this.

    Raises NotFound: A layout that does not exist; accepted choices always do.

    Examples
    --------
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> len(readings_now(JobState(), WORK).quantities)
    0
    """
    sheet = sheet_now(state, template)
    quantities, words = read_all({key: taken.act for key, taken in state.entries.items()}, sheet)
    swapped = [reading.key.removesuffix(TURNS_ON) for reading in template.reads if reading.key.endswith(TURNS_ON)]
    return Readings(sheet, with_untold_ends(with_counts(state, quantities), swapped), words)


def with_limits(readings: Readings, limits: Mapping[str, float]) -> Readings:
    """Readings with the workshop's limits wherever the car has none of its own.

    Parameters
    ----------
    readings : Readings
        Everything read. [-]
    limits : mapping
        Values by the ending of the fields they stand in for. [core unit]

    Returns
    -------
    Readings
        The same where there are none.

    Raises
    ------
    Nothing.

    Notes
    -----
    They carry no uncertainty.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> read = with_limits(readings_now(JobState(), WORK), {"twist_limit": 0.03})
    >>> read.quantities["car.twist_limit"].value
    0.03
    """
    if not limits:
        return readings
    places = {"car.twist_limit": "twist_limit"}
    places |= {key: name for name in limits for key in readings.sheet.keys_by_name.get(name, ())}
    told = {key: Quantity(limits[name], 0.0) for key, name in places.items() if name in limits}
    return Readings(readings.sheet, {**told, **readings.quantities}, readings.words)


@by_identity(most=KEPT)
def missing_fields(state: JobState, template: JobTemplate, phase: Phase) -> tuple[str, ...]:
    """Required fields of a phase that nobody has filled in.

    Of what every wheel has only what the plan moves is required, and only where it can be read to a purpose: no toe
    or camber of a solid rear axle. Total toe of an axle stands for the toe of both its wheels, how far the steering
    wheel is off for where it points.

    Examples
    --------
    >>> from dataclasses import replace
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> missing_fields(JobState(), replace(WORK, measured=frozenset({"front.toe"})), "check")[:2]
    ('front.left.check_toe', 'front.right.check_toe')
    """
    if phase != "car" and phase not in template.measures:
        return ()
    required = _required(sheet_now(state, template), template, phase, shape_now(state))
    return tuple(key for key, instead in required if key not in state.entries and instead not in state.entries)


@by_identity(most=KEPT)
def _required(sheet: Sheet, template: JobTemplate, phase: Phase, shape: Shape) -> tuple[tuple[str, str], ...]:
    """Keys of what cannot be done without, each with the key of what may stand in its place."""
    return tuple(
        (one.key, f"{one.axle or 'car'}.{one.instead}" if one.instead else "")
        for one in sheet.of_phase(phase)
        if is_required(one, template, shape)
    )


def is_asked(asked: Field, template: JobTemplate, shape: Shape) -> bool:
    """Whether this job has a use for a reading: what it cannot do without, and what else its plan moves."""
    if asked.phase not in MEASURING:
        return True
    name = asked.name.removeprefix("check_")
    if name == "total_toe":
        name = "toe"
    if f"{asked.axle}.{name}" in template.measured or is_required(asked, template, shape):
        return True
    heights_move = any(one.endswith(".height") for one in template.measured)
    return {
        "bar_gap": heights_move and asked.axle in template.axles,
        "wheel_off": "front.toe" in template.measured,
    }.get(name, False)


def axles_moved(measured: Collection[str]) -> frozenset[str]:
    """Axles whose heights a plan moves, by what it measures."""
    return frozenset(
        axle for axle in AXLES if f"{axle}.height" in measured and f"{axle}.height_stays" not in measured
    )


AT_EVERY_WHEEL = ("height", "toe", "camber", "caster")
STRAIGHT = "wheel_straight"


def is_required(asked: Field, template: JobTemplate, shape: Shape) -> bool:
    """Whether this job cannot do without a reading."""
    if asked.phase not in MEASURING:
        return asked.required
    if asked.phase not in template.measures:
        return False
    name = asked.name.removeprefix("check_")
    if name == STRAIGHT:
        return asked.key.replace("check_", "") in template.measured
    if name not in AT_EVERY_WHEEL:
        return False
    layout = shape.layout(asked.axle) if asked.axle else None
    stiff = asked.axle == "rear" and layout is not None and layout.guide == "axle" and name != "height"
    if asked.phase == "baseline" and name == "height" and f"{asked.axle}.ride_height" in template.measured:
        return True
    return f"{asked.axle}.{name}" in template.measured and not stiff


def promised(sheet: Sheet, template: JobTemplate, shape: Shape) -> tuple[str, ...]:
    """What a plan reads of wheels before and after, by name: what it cannot do without, and no more.

    One list for what is promised, asked before, asked after and shown.
    """
    asked = {one.name for one in sheet.of_phase("baseline") if is_required(one, template, shape)}
    after = {one.name.removeprefix("check_") for one in sheet.of_phase("check") if is_required(one, template, shape)}
    return tuple(name for name in AT_EVERY_WHEEL if name in asked & after)
