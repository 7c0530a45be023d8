"""What keeps a step from being done now."""

from __future__ import annotations

from fair_spindle.core.bolts.stages import STAGES
from fair_spindle.core.fields.catalogue import reading_field
from fair_spindle.core.fields.field import MEASURING
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.plan_now import short_goals, short_places
from fair_spindle.core.joblog.readings import Quantity, read_entry
from fair_spindle.core.joblog.required_fields import missing_fields, sheet_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.wording import label_field, position_words
from fair_spindle.core.planning.template import Reading, Step


def step_hindrance(step: Step, state: JobState, template: JobTemplate) -> str:
    """What keeps a step from being done now; empty where nothing does.

    Position of the car, then stages of its fasteners, then readings and counts it asks for.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> step_hindrance(Step("raise", "Raised", "hanging", ""), JobState(), WORK)
    'This step needs the car hanging on stands; it is on its wheels.'
    """
    elsewhere = step.corner and (step.corner, step.carried_axle) != (state.corner, state.carried_axle)
    if step.where != state.position or elsewhere:
        return (
            f"This step needs the car {position_words(step.where, step.corner, step.carried_axle)}; "
            f"it is {position_words(state.position, state.corner, state.carried_axle)}."
        )
    return _resting(step, state, template) or _joints_short(step, state) or say_unread(step, state, template)


def _resting(step: Step, state: JobState, template: JobTemplate) -> str:
    open_ = [template.step(key).title for key in step.rests_on if key not in state.steps]
    return f"First: {listing(open_)}." if open_ else ""


def _joints_short(step: Step, state: JobState) -> str:
    for goal in short_goals(step, state):
        joint = state.joints[goal.joint]
        places = ", ".join(str(number) for number in short_places(goal, state))
        where = f", place {places}" if len(joint.bolts) > 1 else ""
        return f"Not {STAGES[goal.to].wanted} yet: {joint.label}{where}."
    return ""


def say_unread(step: Step, state: JobState, template: JobTemplate) -> str:
    """What a step still asks to be read; empty where nothing is left."""
    own = [reading for reading in step.reads if reading.required and not is_read(reading, state)]
    if own:
        where = " ".join(filter(None, (own[0].axle, own[0].side)))
        return f"Still to be read: {own[0].label.lower()}{f', {where}' if where else ''}."
    if other := next((said for reading in step.reads if (said := _other_number(reading, state))), ""):
        return other
    if step.asks in MEASURING:
        sheet = sheet_now(state, template)
        missing = missing_fields(state, template, step.asks)
        names = [label_field(sheet.find(key)).lower() for key in missing]
        return f"Still to be read: {listing(names)}." if missing else ""
    return ""


def _other_number(reading: Reading, state: JobState) -> str:
    """What to do about a number that is not the one there has to be; empty where it is, or is not known."""
    if reading.expected is None or reading.key not in state.entries:
        return ""
    found = read_entry(state.entries[reading.key].act, reading_field(reading))
    if not isinstance(found, Quantity) or found.value == reading.expected:
        return ""
    said = f"{reading.label}: {found.value:g}, and it has to be {reading.expected:g}."
    return f"{said} Find the difference, or skip the step with the reason."


def is_read(reading: Reading, state: JobState) -> bool:
    """Whether a number that a step asks for was typed, or counted turn by turn."""
    end, _, direction = reading.key.partition(".turns_")
    return reading.key in state.entries or bool(direction and state.flats(end, direction))


def listing(names: list[str]) -> str:
    """Name the first four things of a list, and how many more there are.

    More than four are not read on the floor.

    Examples
    --------
    >>> listing(["a", "b", "c", "d", "e"])
    'a, b, c, d and 1 more'
    """
    more = f" and {len(names) - 4} more" if len(names) > 4 else ""
    return ", ".join(names[:4]) + more
