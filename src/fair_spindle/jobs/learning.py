"""What a job taught about its car: before and after, taken into the car's record or refused."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from pydantic import Field

from fair_spindle.core.basics.errors import NotAllowed
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import UNITS, from_core
from fair_spindle.core.basics.wheels import WHEELS, Wheel
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.joblog.log import Entered, Filled, Noted
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import effective
from fair_spindle.core.predict.settled import heights_after
from fair_spindle.core.predict.steering import steered_within
from fair_spindle.core.review.height_lessons import Learned, learn
from fair_spindle.core.review.toe_lessons import learn_toe
from fair_spindle.core.review.toe_readings import toe_stories
from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.car_facts import fitted_facts
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_input, say_input_name
from fair_spindle.records.database import Database

Decision = Literal["open", "taken", "refused"]
NEW, LOADS = ".new_spring.", "car.loads"


class Decide(Strict):
    """Which lessons are taken into the car's record; the others are refused."""

    id: Identity
    keys: Annotated[list[Text], Field(max_length=40)]


class LessonView(View):
    """One input of the car: as it was believed, as the readings say, and what was decided about it."""

    key: str
    label: str
    before: str
    after: str
    decided: Decision


class LessonsView(View):
    """What a job taught; ``can_take`` where the job's car has a record."""

    lessons: list[LessonView]
    can_take: bool


def see_lessons(database: Database, job_id: str) -> LessonsView:
    """What the readings after a job say about its car."""
    now = standing(database, job_id)
    found = _lessons(now)
    record = standing(database, now.book.car_id, car=True) if found and now.book.car_id else None
    decided = _decided(record, now) if record else None
    told = {entry.key: entry for entry in _entries(found, now, record.sheet)} if record else {}
    return LessonsView(
        lessons=[_show(one, now, _said(one, told, decided)) for one in found],
        can_take=bool(now.book.car_id),
    )


def decide_lessons(database: Database, job_id: str, wanted: Decide) -> LessonsView:
    """Write what the job fitted, and the lessons taken, into the car's record, each as one entry."""
    now = standing(database, job_id)
    if not now.book.car_id:
        raise NotAllowed("This job was started without a car's record: there is nothing to write it to.")
    found = _lessons(now)
    if not found:
        raise NotAllowed("There is nothing to learn yet: read heights or toe again after settling.")
    car, record = now.book.car_id, standing(database, now.book.car_id, car=True)
    version, asked = record.version, wanted.model_dump()
    fitted, _ = fitted_facts(now, record)
    if fitted:
        act = Filled(tuple(fitted), f"{now.book.title}, parts fitted", "part")
        version = write_act(database, car, f"{wanted.id[:58]}-parts", version, act, car=True, asked=asked).version
    entries = _entries([one for one in found if one.key in wanted.keys], now, record.sheet)
    decided = Filled(tuple(entries), _source(now)) if entries else Noted(_refusal(now))
    write_act(database, car, wanted.id, version, decided, car=True, asked=asked)
    return see_lessons(database, job_id)


def _lessons(now: Standing) -> list[Learned]:
    told = now.readings.quantities
    before: dict[str, Quantity] = {key: told[name] for key in WHEELS if (name := f"{key}.height") in told}
    heights = learn(now.height_model, before, heights_after(now.readings))
    stories = toe_stories(now.log, now.state, now.readings)
    toe = [one for axle, pair in stories.items() for one in learn_toe(pair, steered_within(axle, told))]
    return [*heights, *toe]


def _said(one: Learned, told: Mapping[str, Entered], decided: Mapping[str, Entered] | None) -> Decision:
    """What was decided about a lesson; open again where the readings have taught something else since."""
    if decided is None:
        return "open"
    key = _record_key(one.key)
    if key not in decided:
        return "refused"
    parts = (Wheel(one.key.removesuffix(".load")).number,) if key == LOADS else tuple(decided[key].typed)
    return "taken" if all(decided[key].typed[name] == told[key].typed.get(name) for name in parts) else "open"


def _show(one: Learned, now: Standing, decided: Decision) -> LessonView:
    return LessonView(
        key=one.key,
        label=say_input_name(one.key, now.sheet),
        before=say_input(one.key, Quantity(one.before, one.before_plus_minus / COVERAGE), now.sheet),
        after=say_input(one.key, Quantity(one.after, one.after_plus_minus / COVERAGE), now.sheet),
        decided=decided,
    )


def _record_key(key: str) -> str:
    """Where a lesson stands in the car's record."""
    return LOADS if key.endswith(".load") else key.replace(NEW, ".spring.")


def _decided(record: Standing, now: Standing) -> dict[str, Entered] | None:
    """What this job's lessons wrote into the car's record; None while nobody decided."""
    taken = None
    for event in effective(record.log):
        if isinstance(event.act, Filled) and event.act.source == _source(now):
            taken = {entry.key: entry for entry in event.act.entries}
        elif isinstance(event.act, Noted) and event.act.text == _refusal(now):
            taken = {}
    return taken


def _source(now: Standing) -> str:
    """Where the car's record has its lesson from: the job, told apart from others of its name."""
    return f"{now.book.title} ({now.book.created_at[:16]}), readings after settling"


def _refusal(now: Standing) -> str:
    return f"Nothing taken over from {_source(now)}"


def _entries(found: Sequence[Learned], now: Standing, sheet: Sheet) -> list[Entered]:
    """What was learned, as entries of the car's record."""
    entries = []
    loads = {one.key: one.after for one in found if one.key.endswith(".load")}
    if loads and now.loads:
        told = {wheel.number: loads.get(f"{wheel}.load", load.force) for wheel, load in now.loads.wheels.items()}
        entries.append(
            Entered(LOADS, "learned", {number: Typed(f"{force:.0f}", "n") for number, force in told.items()})
        )
    for one in found:
        asked = sheet.fields.get(_record_key(one.key))
        if asked is None or not asked.methods or one.key.endswith(".load"):
            continue
        unit = asked.methods[0].parts[0].unit
        entries.append(
            Entered(
                asked.key,
                asked.methods[0].name,
                {asked.methods[0].parts[0].name: Typed(f"{from_core(one.after, unit):.5g}", unit)},
                plus_minus=Typed(f"{one.after_plus_minus / abs(UNITS[unit].factor):.3g}", unit),
            )
        )
    return entries
