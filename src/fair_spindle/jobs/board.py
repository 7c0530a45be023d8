"""The workshop's board: every car that is in work, what is next on it, what is due; and the day laid out."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from typing import Literal

from fair_spindle.core.basics.errors import NotAllowed
from fair_spindle.core.joblog.agenda import blocks_left, clock_from
from fair_spindle.core.joblog.overnight import stands_now
from fair_spindle.core.joblog.waits import waits_of
from fair_spindle.core.joblog.wording import position_words
from fair_spindle.core.planning.clock import passing
from fair_spindle.core.planning.day import Means, Work, plan_day
from fair_spindle.core.planning.template import Position
from fair_spindle.formats.csv_rows import write_rows
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.instruments import all_instruments
from fair_spindle.jobs.joints import rechecks_due
from fair_spindle.jobs.models import WorksView
from fair_spindle.jobs.settings import workshop_bay
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.views import show_works
from fair_spindle.records.books import list_books
from fair_spindle.records.database import Database

MOST_CARS, MOST_LOOKED_AT = 24, 200
WORKDAY = 9 * 60.0


class BoardStep(View):
    """A step of a car's line, as far as the line draws it."""

    key: str
    title: str
    where: Position
    state: Literal["open", "done", "skipped"]


class BoardLine(View):
    """A car in work: where it stands, what is next, what is loose, what works by itself, who was last at it."""

    id: str
    title: str
    car: str
    planned: bool
    position: Position
    position_said: str
    steps: list[BoardStep]
    next_step: str
    loose: list[str]
    works: list[WorksView]
    by: str
    last_at: str
    may_be_driven: bool


class DueView(View):
    """Something with a day: what, of which car and job, and whether it is past."""

    job_id: str
    car: str
    what: str
    day: str
    overdue: bool


class BoardView(View):
    """The workshop's board; ``more`` cars are in work beside those shown."""

    lines: list[BoardLine]
    more: int
    rechecks: list[DueView]
    booked: list[DueView]
    gauges: list[DueView]


class NeedView(View):
    """A line of the list over every job: what, how many, for which cars."""

    sort: str
    name: str
    count: int
    cars: list[str]


class PassingView(View):
    """A turning point of a job: between which hours it is reached."""

    what: str
    low: datetime
    high: datetime


class SlotView(View):
    """A part of a job in the day: where the car is, from when to when."""

    where: Position
    hands: int
    begin: datetime
    end: datetime


class DayJobView(View):
    """A job in the day."""

    id: str
    title: str
    car: str
    slots: list[SlotView]


class DayView(View):
    """The day laid out over the cars in work; times in minutes, ``bound`` what no order can beat."""

    begin: datetime
    people: int
    jobs: list[DayJobView]
    minutes: float
    one_after_other: float
    saved: float
    bound: float
    exact: bool
    said: str


def in_work(database: Database) -> tuple[list[Standing], int]:
    """The jobs that are not signed, last touched first, and how many more there are."""
    with database.reading() as session:
        lines = [line for line in list_books(session, MOST_LOOKED_AT, cars=False) if not line.signed]
        ids = [line.book.id for line in lines]
    return [standing(database, key) for key in ids[:MOST_CARS]], len(ids[MOST_CARS:])


def only_when_empty(database: Database) -> None:
    """Refuse where the workshop has jobs or cars of its own."""
    with database.reading() as session:
        if list_books(session, 1, cars=False) or list_books(session, 1, cars=True):
            raise NotAllowed("The sample workshop goes into an empty one only; this one has jobs or cars of its own.")


def see_board(database: Database) -> BoardView:
    """The board as it stands now."""
    jobs, more = in_work(database)
    today = datetime.now(UTC).date()
    return BoardView(
        lines=[_line(now) for now in jobs],
        more=more,
        rechecks=sorted(_rechecks(database, today), key=lambda one: one.day),
        booked=[
            DueView(job_id=now.book.id, car=now.book.car, what=one.name, day="", overdue=False)
            for now in jobs
            for one in (now.state.plan.lists if now.state.plan else ())
            if one.sort == "book"
        ],
        gauges=[
            DueView(job_id="", car="", what=instrument.name, day=instrument.due, overdue=instrument.overdue)
            for instrument in all_instruments(database)
            if instrument.due and instrument.due <= (today + timedelta(days=30)).isoformat()
        ],
    )


def _line(now: Standing) -> BoardLine:
    state, template = now.state, now.template
    left = stands_now(state, now.kind)
    return BoardLine.of(
        now.book,
        planned=bool(template.steps),
        position=state.position,
        position_said=position_words(state.position, state.corner, state.carried_axle),
        steps=[
            BoardStep(
                key=step.key,
                title=step.title,
                where=step.where,
                state="open" if step.key not in state.steps else _outcome(now, step.key),
            )
            for step in template.steps
        ],
        next_step=left.next_step,
        loose=[f"{one.what}: {one.how}" for one in left.loose],
        works=[shown for wait in waits_of(state, template) if (shown := show_works(wait))],
        by=next((event.by for event in reversed(now.log) if event.by), ""),
        last_at=now.log[-1].at if now.log else now.book.created_at,
        may_be_driven=left.may_be_driven,
    )


def _outcome(now: Standing, key: str) -> Literal["done", "skipped"]:
    return "skipped" if now.state.steps[key][1].outcome == "skipped" else "done"


def _rechecks(database: Database, today: date) -> Iterator[DueView]:
    """What the jobs signed of late want checked again."""
    with database.reading() as session:
        lines = [line for line in list_books(session, MOST_LOOKED_AT, cars=False) if line.signed]
        ids = [line.book.id for line in lines[:MOST_CARS]]
    for key in ids:
        now = standing(database, key)
        days = rechecks_due(now)
        if days:
            what = f"{len(days)} joints after the first drives" if len(days) > 1 else days[0][1]
            day = min(day for day, _ in days)
            yield DueView(job_id=key, car=now.book.car, what=what, day=day.isoformat(), overdue=day < today)


def see_needs(database: Database) -> list[NeedView]:
    """One list of what to buy, lay out and book over every job in work."""
    found: dict[tuple[str, str], tuple[int, list[str]]] = {}
    for now in in_work(database)[0]:
        for one in now.state.plan.lists if now.state.plan else ():
            count, cars = found.get((one.sort, one.name), (0, []))
            # A tool serves every car; what is bought is used up.
            total = max(count, one.count) if one.sort == "tool" else count + one.count
            found[one.sort, one.name] = (total, [*cars, *([now.book.car] if now.book.car not in cars else [])])
    order = ("buy", "chemical", "tool", "book", "leftover")
    rows = sorted(found.items(), key=lambda row: (order.index(row[0][0]), row[0][1]))
    return [NeedView(sort=sort, name=name, count=count, cars=cars) for (sort, name), (count, cars) in rows]


def needs_csv(database: Database) -> bytes:
    """The same as a table."""
    rows = ({**need.model_dump(), "cars": "; ".join(need.cars)} for need in see_needs(database))
    return write_rows(("sort", "name", "count", "cars"), rows)


def see_clock(database: Database, job_id: str, begin: datetime, people: int) -> list[PassingView]:
    """When a job gets where, begun or gone on with at an hour."""
    now, at = standing(database, job_id), begin.isoformat()
    low, high = (list(passing(clock_from(now.state, now.template, at, people, which))) for which in ("least", "most"))
    return [
        PassingView(what=what, low=begin + timedelta(minutes=soon), high=begin + timedelta(minutes=late))
        for (what, soon), (_, late) in zip(low, high, strict=True)
    ]


def see_day(database: Database, begin: datetime, people: int | None = None) -> DayView:
    """Lay every planned job in work out over one day."""
    bay = workshop_bay(database).bay()
    hands = people or bay.people
    means = Means(hands, 1 if bay.lift else max(1, bay.stands // 4), bay.carriers)
    jobs = {now.book.id: now for now in in_work(database)[0] if now.state.plan}
    works = [
        Work(
            key,
            blocks_left(now.state, now.template, begin.isoformat()),
            now.book.car_id or key,
            now.state.position != "on_wheels",
        )
        for key, now in jobs.items()
    ]
    day = plan_day(works, means)
    saved = max(0.0, day.one_after_other - day.length)
    return DayView.of(
        day,
        begin=begin,
        people=hands,
        jobs=[
            DayJobView(
                id=key,
                title=now.book.title,
                car=now.book.car,
                slots=[
                    SlotView(
                        where=slot.block.where,
                        hands=slot.block.hands,
                        begin=_hour(begin, slot.begin),
                        end=_hour(begin, slot.end, ends=True),
                    )
                    for slot in day.slots
                    if slot.key == key
                ],
            )
            for key, now in jobs.items()
        ],
        minutes=day.length,
        saved=saved,
        said=_say_day(day.length, saved, day.bound, len(jobs)),
    )


def _hour(begin: datetime, minutes: float, *, ends: bool = False) -> datetime:
    """The hour of a minute of work: after a day's work it goes on at the same hour of the next day."""
    days, rest = divmod(minutes, WORKDAY)
    if ends and days and not rest:
        days, rest = days - 1, WORKDAY
    return begin + timedelta(days=days, minutes=rest)


def _say_day(length: float, saved: float, bound: float, jobs: int) -> str:
    if not jobs:
        return "No car in work has a plan yet."
    said = f"{_hours(length)} in all"
    if jobs > 1:
        said += f", {_hours(saved)} less than one car after the other; nothing can beat {_hours(bound)}"
    return f"{said}."


def _hours(minutes: float) -> str:
    hours, rest = divmod(round(minutes / 5) * 5, 60)
    return f"{hours:.0f} h {rest:02.0f} min" if hours else f"{rest:.0f} min"
