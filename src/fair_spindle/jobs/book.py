"""The workshop's books, jobs and cars: list them, start one, look at one."""

from __future__ import annotations

import logging
from datetime import UTC, datetime
from uuid import uuid4

from sqlmodel import Session

from fair_spindle.core.basics.errors import Conflict, SpindleError
from fair_spindle.core.fields.field import MEASURING, Phase
from fair_spindle.core.fields.walk import order_walk
from fair_spindle.core.joblog.kinds import CAR, WORK
from fair_spindle.core.joblog.listed_places import drawn_joints
from fair_spindle.core.joblog.log import Act, Drawn, Event, Filled
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import is_asked, shape_now
from fair_spindle.core.joblog.starting import from_record, last_baseline
from fair_spindle.formats.job_kinds import find_kind
from fair_spindle.jobs.book_models import FROM_RECORD, LogLineView, VersionView
from fair_spindle.jobs.book_views import shown_once
from fair_spindle.jobs.models import JobCreate, JobLine, JobView
from fair_spindle.jobs.settings import WalkOrderView, limits_now, walk_order
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.snapshot_cache import stand
from fair_spindle.jobs.views import show_job, show_log
from fair_spindle.records.books import append, jobs_of, lines_of, list_books, load_book, load_log, look_up
from fair_spindle.records.database import Database
from fair_spindle.records.settings import written_setting
from fair_spindle.records.tables import BookRow


def now_utc() -> str:
    """The time now, as it is written in logs."""
    return datetime.now(UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")


def all_jobs(database: Database, limit: int, search: str = "", car: str = "") -> list[JobLine]:
    """Jobs last worked on, newest first; those that hold every word sought, or of one car."""
    with database.reading() as session:
        return [
            JobLine.of(
                line.book,
                kind=line.book.template,
                last_at=line.last_at,
                entries=line.entries,
                signed=line.signed,
                planned=line.planned or bool(find_kind(line.book.template).opening),
            )
            for line in list_books(session, limit, cars=False, words=search.split(), car=car)
        ]


def start_job(database: Database, wanted: JobCreate) -> JobView:
    """Start a job; the same request again gives the same job."""
    with database.writing() as session:
        found = session.get(BookRow, wanted.id)
        if found is None:
            car = load_book(session, wanted.car_id, car=True) if wanted.car_id else None
            row = BookRow(
                created_at=now_utc(),
                template=WORK.key,
                **{
                    **wanted.model_dump(),
                    "title": wanted.title or f"Job of {now_utc()[:10]}",
                    "car": car.car if car else wanted.car,
                },
            )
            begun = _taken_over(session, row)
            session.add(row)
            session.flush()
            append(session, row.id, begun)
        elif _told(wanted, found) != (found.title, found.car, found.car_id):
            raise Conflict("Another job has this id already.", field="id")
    return see_job(database, wanted.id)


def _told(wanted: JobCreate, found: BookRow) -> tuple[str, str, str | None]:
    """What a request says of a job that is there; a car with a record brings its own name."""
    return (wanted.title or found.title, found.car if wanted.car_id else wanted.car, wanted.car_id)


def standing(database: Database, book_id: str, *, car: bool = False) -> Standing:
    """How a job or car stands now."""
    mark = database.watch.mark()  # before anything is read: what comes between is looked at again next time
    row, length = look_up(database, book_id, car=car)
    return stand(row, limits_now(database), mark, length, lambda after: lines_of(database, book_id, after))


def see_job(database: Database, job_id: str) -> JobView:
    """Everything about a job."""
    now = standing(database, job_id)
    try:
        return show_job(now, walk_of(database, now))
    except SpindleError:
        raise
    except Exception:
        logging.getLogger(__name__).exception("a job that cannot be shown")
        return _without_its_last_line(now)


def _without_its_last_line(now: Standing) -> JobView:
    """A job whose last line cannot be shown, as it was before it, so that the line can be undone."""
    last, before = now.log[-1], Standing(now.book, now.log[:-1], now.limits)
    words = "An entry that cannot be shown: undo it, and enter it again in another way"
    return show_job(before).model_copy(update={"version": now.version, "last_event": last.id, "last_said": words})


def walk_of(database: Database, now: Standing) -> dict[str, list[str]]:
    """The workshop's way round the car, before the job and after it; after it only at axles the job worked on."""
    name = f"walks {written_setting(database, 'walk')[0]}"
    walks: dict[str, list[str]] = shown_once(now, name, lambda now: _walks(now, walk_order(database)), "choice_views")
    return walks


def _walks(now: Standing, wanted: WalkOrderView) -> dict[str, list[str]]:
    shape = shape_now(now.state)

    def way(phase: Phase) -> list[str]:
        fields = ((key, now.sheet.fields[key]) for key in order_walk(now.sheet, wanted.corners, wanted.by, phase))
        return [key for key, field in fields if is_asked(field, now.template, shape) or phase == "baseline"]

    return {phase: way(phase) for phase in MEASURING}


def see_version(database: Database, book_id: str, *, car: bool = False) -> VersionView:
    """How long a log is."""
    return VersionView(version=look_up(database, book_id, car=car)[1])


def see_log(database: Database, book_id: str, *, car: bool = False) -> list[LogLineView]:
    """A log in words."""
    return show_log(standing(database, book_id, car=car))


def _taken_over(session: Session, job: BookRow) -> list[Event]:
    """The lines a job begins with: its car's record, and the last baseline to compare with."""
    if not job.car_id:
        return []
    acts: list[Act] = []
    car = derive(load_log(session, job.car_id), CAR)
    entries = from_record(car, WORK)
    if entries:
        acts.append(Filled(entries, FROM_RECORD))
    acts += [Drawn(joint) for joint in drawn_joints(car)]
    last = next(iter(jobs_of(session, job.car_id, 1)), None)
    if last:
        then = find_kind(last.template)
        before = last_baseline(derive(load_log(session, last.id), then), then, WORK)
        if before:
            acts.append(Filled(before, f"{last.title}, {last.created_at[:10]}", "before"))
    return [Event(str(uuid4()), place, now_utc(), act) for place, act in enumerate(acts, start=1)]
