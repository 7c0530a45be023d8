"""What a look at the job finds: what blocks the signature, what stays open on it, what to ask."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import degrees
from typing import Literal

from fair_spindle.core.fasteners import TorqueDoubt, doubt_torque, odd_thread, reading_matches
from fair_spindle.core.floor.asking import Readings, missing_fields
from fair_spindle.core.floor.loading import needs_load
from fair_spindle.core.floor.log import Specified, Typed
from fair_spindle.core.floor.readings import read_all
from fair_spindle.core.floor.state import JobState, PlaceState, Taken, short_of
from fair_spindle.core.floor.wording import label_field, label_place, position_words
from fair_spindle.core.front_axle import Corner, CornerPlan, clamped_twist
from fair_spindle.core.planning.template import POSITION_NAMES, SIDES, JobTemplate, Side
from fair_spindle.core.rubber import DEFAULT_TWIST_LIMIT
from fair_spindle.core.sheet.doubts import Doubt, Read, doubt_readings
from fair_spindle.core.sheet.field import Sheet
from fair_spindle.core.spelling import read_number
from fair_spindle.core.threads import FLAT, tally
from fair_spindle.core.units import UNITS

Severity = Literal["blocks", "open", "question", "note"]
HEIGHT_SPREAD = 4.0


@dataclass(frozen=True)
class Finding:
    """One thing found: how grave, in words, where, and on what ground."""

    code: str
    severity: Severity
    message: str
    subject: str
    ground: str = "common practice, no published source"


Plans = Mapping[Side, CornerPlan]


def look(
    state: JobState, readings: Readings, corners: Mapping[Side, Corner], plans: Plans, template: JobTemplate
) -> list[Finding]:
    """Look a job over and say everything that is wrong, open or doubtful.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    readings : Readings
        Everything read in it. [-]
    corners, plans : mapping
        Inputs and plan of each corner. [-]
    template : JobTemplate
        The kind of job. [-]

    Returns
    -------
    list of Finding
        What blocks first, then open items, questions and notes.

    Raises
    ------
    Nothing.

    Notes
    -----
    The limit of 4 mm spread is the product's own.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> look(JobState(), readings_now(JobState(), FRONT_STRUT), {}, {}, FRONT_STRUT)[0].severity
    'blocks'
    """
    found = [
        *_position(state),
        *_not_tight(state, template),
        *_threads(state, plans),
        *_steps(state, template),
        *_missing(state, readings.sheet, template),
        *_bonded(state, corners, plans, template),
        *_torques(state, template),
        *_check(plans),
        *_taken(state, readings),
        *_baseline(plans),
    ]
    order: tuple[Severity, ...] = ("blocks", "open", "question", "note")
    return sorted(found, key=lambda finding: order.index(finding.severity))


def doubt_specification(spec: Specified) -> TorqueDoubt | None:
    """Whether a typed specification is plausible for its thread.

    Parameters
    ----------
    spec : Specified
        Torque as typed, thread, class. [N·mm, mm]

    Returns
    -------
    TorqueDoubt or None
        None where it is usual, or where the user said it is right as typed.

    Raises
    ------
    InputError
        A torque that is no number.

    Notes
    -----
    As :func:`fair_spindle.core.fasteners.doubt_torque`.

    Source
    ------
    shigley

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Typed
    >>> doubt_specification(Specified("jam", Typed("60", "nm"), "sheet", 14, 1.5)) is None
    True
    """
    if spec.affirmed:
        return None
    torque = read_number(spec.torque.text, "torque", spec.torque.unit, "torque")
    return doubt_torque(torque.number, torque.unit, spec.diameter_mm, spec.pitch_mm, spec.property_class or None)


def _position(state: JobState) -> Iterator[Finding]:
    if state.position != "on_wheels":
        where = position_words(state.position, state.corner, state.carried_axle)
        yield Finding("not_on_wheels", "blocks", f"The car is {where}.", "position")
    tied = [p for p in ("left.link.1", "right.link.1") if not short_of(state, [p], "hand")]
    if state.position == "corner_carried" and len(tied) == 2:
        yield Finding(
            "bar_tied",
            "note",
            "The sway bar is tied to the hanging side: the stand goes light before this corner carries its "
            "load. Believe the height.",
            "position",
        )


def _not_tight(state: JobState, template: JobTemplate) -> Iterator[Finding]:
    for group in template.groups:
        for side in SIDES:
            short = short_of(state, group.places(side), "torqued")
            if not short:
                continue
            words = ", ".join(f"{p.rsplit('.', 1)[1]} {state.stage(p) or 'as found'}" for p in short)
            what = "The jam nut is open" if group.role == "jam" else "Not finally torqued"
            yield Finding(
                "jam_open" if group.role == "jam" else "not_torqued",
                "blocks",
                f"{what}: {side} {group.label.lower()} ({words}).",
                f"{side}.{group.key}",
            )


def _threads(state: JobState, plans: Plans) -> Iterator[Finding]:
    for side, plan in plans.items():
        if plan.turns is None:
            continue
        pitch = plan.turns.engagement / plan.turns.set_turns if plan.turns.set_turns else 0.0
        flats_on = state.flats(side, "on") - state.flats(side, "correct")
        depth = flats_on * FLAT * pitch if state.flats(side, "on") else plan.turns.engagement
        if depth < plan.turns.min_engagement:
            yield Finding(
                "engagement",
                "blocks",
                f"{side.capitalize()} tie-rod end holds on {depth:.1f} mm of thread; "
                f"{plan.turns.min_engagement:.1f} mm is the least. Fit a longer end.",
                f"{side}.count_on",
            )
        planned = round(plan.turns.set_turns / FLAT)
        if state.flats(side, "on") and state.flats(side, "on") != planned:
            yield Finding(
                "count_differs",
                "open",
                f"{side.capitalize()} tie-rod end: {_turns(planned)} planned, "
                f"{_turns(state.flats(side, 'on'))} counted on.",
                f"{side}.count_on",
            )


def _turns(flats: int) -> str:
    count = tally(flats * FLAT)
    return f"{count.turns} turns {count.flats} flats"


def _steps(state: JobState, template: JobTemplate) -> Iterator[Finding]:
    for step in template.steps:
        if step.key not in state.steps:
            yield Finding("step_open", "open", f"Step not done: {step.title}.", step.key)
        elif (act := state.steps[step.key][1]).outcome == "skipped":
            yield Finding("step_skipped", "open", f"Step skipped: {step.title} ({act.reason}).", step.key)


def _missing(state: JobState, sheet: Sheet, template: JobTemplate) -> Iterator[Finding]:
    for phase in ("baseline", "check"):
        for key in missing_fields(state, template, phase):
            words = label_field(sheet.find(key)).lower()
            yield Finding(f"{phase}_missing", "open", f"Not read in the {phase}: {words}.", key)


def doubts_now(state: JobState, readings: Readings) -> list[Doubt]:
    """Find readings of a job that are out of line.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    readings : Readings
        Everything read in it. [-]

    Returns
    -------
    list of Doubt
        As :func:`fair_spindle.core.sheet.doubts.doubt_readings`.

    Raises
    ------
    Nothing.

    Notes
    -----
    The car's last baseline is the one that was taken into the log when the job began.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.planning.front_strut import FRONT_STRUT
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> doubts_now(JobState(), readings_now(JobState(), FRONT_STRUT))
    []
    """
    sheet = readings.sheet
    before, _ = read_all(state.before, sheet)
    order = {key: taken.event.seq for key, taken in state.entries.items()}
    return doubt_readings(
        {
            key: Read(q.value, q.uncertainty, q.spread, q.count, order[key])
            for key, q in readings.quantities.items()
            if key in order
        },
        {key: Read(q.value, q.uncertainty, q.spread, q.count) for key, q in before.items()},
        sheet,
    )


def unsettled(taken: Taken) -> str:
    """What was wrong with how the car stood when a reading was taken.

    Parameters
    ----------
    taken : Taken
        The filled-in field. [-]

    Returns
    -------
    str
        In words; empty where it stood settled on its wheels.

    Raises
    ------
    Nothing.

    Notes
    -----
    Asked only of readings that depend on it.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Entered, Event
    >>> unsettled(Taken(Event("", 1, "", Entered("front.left.toe")), Entered("front.left.toe"), "hanging", False))
    'read hanging on stands'
    """
    if taken.position != "on_wheels":
        return f"read {POSITION_NAMES[taken.position]}"
    return "" if taken.settled else "read before the car was settled"


def overdue(taken: Taken) -> str:
    """Since when the calibration of the instrument behind a reading had run out.

    Parameters
    ----------
    taken : Taken
        The filled-in field. [-]

    Returns
    -------
    str
        The due date, empty where it had not run out when the reading was taken.

    Raises
    ------
    Nothing.

    Notes
    -----
    Dates are compared as written, year first.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Entered, Event, Gauge
    >>> act = Entered("front.left.camber", gauge=Gauge("Level", due="2026-01-31"))
    >>> overdue(Taken(Event("", 1, "2026-02-01T08:00:00.000Z", act), act, "on_wheels", True))
    '2026-01-31'
    """
    gauge = taken.act.gauge
    return gauge.due if gauge and gauge.due and gauge.due < taken.event.at[:10] else ""


def _taken(state: JobState, readings: Readings) -> Iterator[Finding]:
    sheet = readings.sheet
    loose = {key: words for key, taken in state.entries.items() if (words := unsettled(taken))}
    asked = [key for key in loose if key in sheet.fields and sheet.fields[key].settled]
    if asked:
        names = ", ".join(label_field(sheet.find(key)).lower() for key in asked)
        yield Finding("unsettled", "open", f"The car was not settled on its wheels for: {names}.", asked[0])
    for key, taken in state.entries.items():
        if (day := overdue(taken)) and key in sheet.fields and taken.act.gauge:
            name, gauge = label_field(sheet.fields[key]), taken.act.gauge.name
            yield Finding("overdue", "open", f"{name}: calibration of “{gauge}” ran out on {day}.", key)
    for doubt in doubts_now(state, readings):
        name = label_field(sheet.fields[doubt.key])
        if doubt.answered:
            yield Finding("out_of_line", "note", f"{name}: {doubt.message} Read again, and it stands.", doubt.key)
        else:
            yield Finding("out_of_line", "question", f"{name}: {doubt.message} Read it a second time.", doubt.key)


def _bonded(
    state: JobState, corners: Mapping[Side, Corner], plans: Plans, template: JobTemplate
) -> Iterator[Finding]:
    for override in state.overrides:
        names = ", ".join(label_place(place, template) for place in override.places)
        yield Finding(
            "override",
            "open",
            f"Clamped outside the rule by override: {names} ({override.reason}).",
            override.places[0],
        )
    overridden = {place for override in state.overrides for place in override.places}
    for place, now in state.places.items():
        side, group = template.group_of(place)
        if now.stage != "torqued" or not needs_load(group, side, state):
            continue
        if now.clamp is None:
            if place not in overridden:
                name = label_place(place, template)
                yield Finding(
                    "clamp_unproven", "open", f"Bonded rubber torqued without a loaded height: {name}.", place
                )
            continue
        twist = clamped_twist(corners[side], plans[side], now.clamp.height_mm)
        limit = corners[side].quantities.get("twist_limit")
        most = limit.value if limit else DEFAULT_TWIST_LIMIT
        if twist is not None and abs(twist) > most:
            yield Finding(
                "wound_up",
                "open",
                f"The {label_place(place, template)} was clamped at {now.clamp.height_mm:.0f} mm; at the ride "
                f"height of {plans[side].window.about:.0f} mm it is wound up by {degrees(abs(twist)):.1f}°, "  # type: ignore[union-attr]
                f"more than {degrees(most):.1f}°. Loosen it, settle, torque again.",
                place,
                "derived, see bushing-twist",
            )


def _torques(state: JobState, template: JobTemplate) -> Iterator[Finding]:
    for key, (_, spec) in state.specs.items():
        thread = "" if spec.affirmed else odd_thread(spec.diameter_mm, spec.pitch_mm)
        if thread:
            message = f"{template.group(key).label}: {thread}"
            yield Finding("odd_thread", "question", message, f"spec.{key}", "iso-261")
        doubt = doubt_specification(spec)
        if doubt:
            message = f"{template.group(key).label}: {doubt.message}"
            yield Finding("torque_doubt", "question", message, f"spec.{key}", "shigley, iso-898-1")
    for place, now in state.places.items():
        _, group = template.group_of(place)
        if now.stage != "torqued":
            continue
        name = label_place(place, template)
        if now.by_feel:
            yield Finding("by_feel", "open", f"Torque estimated by feel: {name} ({now.by_feel}).", place)
        elif group.key in state.specs and not _matches(now, state.specs[group.key][1]):
            wanted = state.specs[group.key][1].torque
            yield Finding(
                "reading_off",
                "open",
                f"Reading differs from the specification: {name}, {_said(now.reading)} against {_said(wanted)}.",
                place,
            )


def _matches(now: PlaceState, spec: Specified) -> bool:
    if now.reading is None:
        return False
    read = read_number(now.reading.text, "torque", now.reading.unit, "reading").value
    wanted = read_number(spec.torque.text, "torque", spec.torque.unit, "torque").value
    return reading_matches(read, wanted)


def _said(typed: Typed | None) -> str:
    return f"{typed.text} {UNITS[typed.unit].label}" if typed else "no reading"


def _check(plans: Plans) -> Iterator[Finding]:
    for side, plan in plans.items():
        check = plan.check
        if (
            check.toe_in_tolerance is False
            and check.correction is not None
            and check.toe
            and plan.toe_target is not None
        ):
            off = degrees(check.toe.value - plan.toe_target) * 60
            yield Finding(
                "toe_off",
                "open",
                f"{side.capitalize()} toe is {off:+.1f}' from its target.",
                f"front.{side}.check_toe",
            )
        if check.height_explained is False:
            yield Finding(
                "height_missed",
                "open",
                f"{side.capitalize()} ride height misses its prediction by {check.height_miss:+.0f} mm, more than "
                "both ± explain. Check the motion ratio, the sprung load and that the spring sits in its seats.",
                f"front.{side}.check_height",
            )
        if check.toe_explained is False and check.toe_miss is not None:
            yield Finding(
                "toe_missed",
                "open",
                f"{side.capitalize()} toe misses its prediction by {degrees(check.toe_miss) * 60:+.0f}', more than "
                "both ± explain. Count the exposed thread, look at the bump-steer slope and the lever.",
                f"front.{side}.check_toe",
            )


def _baseline(plans: Plans) -> Iterator[Finding]:
    heights = {side: plan.height_now for side, plan in plans.items() if plan.height_now}
    for side, height in heights.items():
        if height.spread > HEIGHT_SPREAD:
            yield Finding(
                "spread",
                "note",
                f"{side.capitalize()} heights spread over {height.spread:.0f} mm. Settle the car and read again.",
                f"front.{side}.height",
            )
    for side, plan in plans.items():
        if plan.problem:
            yield Finding("no_plan", "open", f"{side.capitalize()}: {plan.problem}", f"{side}.plan", "derived")
