"""The practice bay: begin an exercise, read its car with gauges, see what came of it."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from typing import Any, Literal
from uuid import uuid4

from pydantic_core import to_jsonable_python

from fair_spindle.core.basics.errors import Conflict, InputError, NotFound, SpindleError
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Act, Event, Filled
from fair_spindle.core.joblog.plain import plain
from fair_spindle.core.joblog.required_fields import choices_now, missing_fields
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.formats.exercise_file import read_exercise_file, write_exercise_file
from fair_spindle.formats.procedure_file import shipped
from fair_spindle.jobs import practice_models as m
from fair_spindle.jobs.append import accept, made_by, part_of, write_act
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.debriefing import is_over, see_debrief
from fair_spindle.jobs.planning import planned
from fair_spindle.jobs.practice_cars import exercise_of, marked, truth_of, world_now
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.practice.car import DEGREE
from fair_spindle.practice.exercises import OWN_CAR, exercises, own_exercise
from fair_spindle.practice.gauges import read, true_at
from fair_spindle.practice.layouts import REAR_ONLY, TYPICAL
from fair_spindle.practice.world import World
from fair_spindle.records.books import append, list_practice
from fair_spindle.records.database import Database
from fair_spindle.records.tables import BookRow

MOST_TRIES = 100


def list_exercises(database: Database) -> list[m.ExerciseView]:
    """Every exercise in its order, with the times it was done."""
    with database.reading() as session:
        rows = [(row, json.loads(row.practice)) for row in list_practice(session, MOST_TRIES)]
        session.expunge_all()
    return [
        m.ExerciseView(
            **{name: getattr(exercise, name) for name in ("key", "title", "learn", "brief", "minutes")},
            tries=[_try(database, row, mark) for row, mark in rows if mark["exercise"] == exercise.key],
        )
        for exercise in (*exercises().values(), own_exercise())
        if not exercise.unlisted
    ]


def _try(database: Database, row: BookRow, mark: dict[str, object]) -> m.TryView:
    now = standing(database, row.id)
    score = _scored(row.id, now.version, database) if is_over(now) else None
    by = next((event.by for event in reversed(now.log) if event.by), "")
    return m.TryView(
        job_id=row.id, at=row.created_at, by=by, bare=bool(mark["bare"]), seed=int(str(mark["seed"])), score=score
    )


# What a log came to does not change while it has the same length.
_SCORES: dict[tuple[str, int], int | None] = {}


def _scored(job_id: str, version: int, database: Database) -> int | None:
    if (job_id, version) not in _SCORES:
        _SCORES[job_id, version] = see_debrief(database, job_id).score
    return _SCORES[job_id, version]


def begin(database: Database, wanted: m.BeginPractice) -> m.BegunView:
    """Put an exercise's car in the bay: its record, its job and its plan."""
    told = wanted.model_dump(exclude={"id"})
    if wanted.exercise == OWN_CAR:
        told |= _copied(database, wanted.car)
    return _begin(database, wanted.id, told)


def begin_from_file(database: Database, job_id: str, content: bytes) -> m.BegunView:
    """Put the car of an exercise file in the bay."""
    return _begin(database, job_id, read_exercise_file(content).mark())


def export_exercise(database: Database, job_id: str) -> bytes:
    """A practice job's exercise, to be handed on: the same car, as it came."""
    now = standing(database, job_id)
    marked(now)
    return write_exercise_file(json.loads(now.book.practice))


def _begin(database: Database, job_id: str, told: Mapping[str, Any]) -> m.BegunView:
    exercise = exercise_of(told)
    for axle, layout in told["layouts"].items():
        if layout not in TYPICAL:
            raise InputError(f"The practice bay knows no layout {layout!r}.", field=f"layouts.{axle}")
        if axle == "front" and layout in REAR_ONLY:
            raise InputError("This layout does not steer: it can be the rear axle only.", field="layouts.front")
    mark = json.dumps(told)
    car = truth_of(mark)
    row = BookRow(
        id=job_id,
        template=WORK.key,
        title=f"Practice: {exercise.title}",
        car="Practice car",
        created_at=now_utc(),
        practice=mark,
    )
    now = Standing(row, ())
    now = _with(now, Filled(car.record, "the practice car's record", "record"))
    brief = Brief(tuple(Fitting(**fitting) for fitting in exercise.fittings))  # type: ignore[arg-type]
    now = _with(now, planned(Known(brief, shipped(), choices_now(now.state), {})))
    with database.writing() as session:
        found = session.get(BookRow, job_id)
        if found is None:
            session.add(row)
            session.flush()
            append(session, row.id, now.log)
        elif found.practice != mark:
            raise Conflict("Something else has this id already.", field="id")
    return m.BegunView(job_id=job_id)


def _with(now: Standing, act: Act) -> Standing:
    return now.then(Event(str(uuid4()), now.version + 1, now_utc(), accept(act, now)))


def _copied(database: Database, car_id: str) -> dict[str, object]:
    """What the practice job keeps of a car: its name, and its record as it stood then."""
    if not car_id:
        raise InputError("Say which car is copied into the bay.", field="car")
    now = standing(database, car_id, car=True)
    record = [plain(taken.act) for taken in now.state.entries.values()]
    return {"car_name": now.book.car, "record": to_jsonable_python(record)}


def see_bay(database: Database, job_id: str) -> m.BayPicture:
    """The practice car as it stands in the bay."""
    now = standing(database, job_id)
    exercise, seed, bare = marked(now)
    world = world_now(now)
    stands = world.stands()
    return m.BayPicture.of(
        exercise,
        exercise=exercise.key,
        bare=bare,
        seed=seed,
        steering=-round(world.steering(stands) / 2) * 2,
        corners=[
            m.CornerSeen(wheel=key, rise=round(stands[key] / 5) * 5, heading=round(10 * toe[0] / DEGREE / 2) * 2)
            for key, toe in world.all_angles(stands).items()
        ],
        readable=len(list(_readable(now, world, seed))),
    )


def _readable(now: Standing, world: World, seed: int) -> Iterator[str]:
    """What the job asks now and a gauge can tell: the baseline, after the work the check, and what its step asks."""
    step = next((step for step in now.template.steps if step.key not in now.state.steps), None)
    phase: Literal["baseline", "check"] = "check" if step is not None and step.phase > 11 else "baseline"
    keys = list(missing_fields(now.state, now.template, phase))
    keys += [key for key in _also_asked(now, phase) if key not in now.state.entries]
    keys += [reading.key for reading in step.reads if reading.key not in now.state.entries] if step else []
    yield from (key for key in dict.fromkeys(keys) if read(world, key, seed))


def _also_asked(now: Standing, phase: str) -> tuple[str, ...]:
    """What an exercise needs beside what its job asks: before the work and after it."""
    exercise, _, _ = marked(now)
    return exercise.also_read if phase == "baseline" else exercise.read_again


def read_with_gauges(database: Database, job_id: str, wanted: m.ReadWithGauges) -> Standing:
    """Read fields with the gauges of the bay, each an entry of its own."""
    now = standing(database, job_id)
    _, seed, _ = marked(now)
    theirs = made_by(database, wanted.by)
    world = world_now(now)
    for place, key in enumerate(wanted.keys or list(_readable(now, world, seed))):
        entry = read(world, key, seed * 1000 + now.version)
        if entry is None:
            raise NotFound(f"No gauge of the bay reads {key!r}.", field="keys")
        now = write_act(theirs, job_id, part_of(wanted.id, place), now.version, entry, asked=key)
    return now


def true_reading(database: Database, job_id: str, key: str) -> float | None:
    """What a stand-in gauge finds on a practice car at a field [mm, °]; None where the job is no practice."""
    try:
        now = standing(database, job_id)
    except SpindleError:
        return None
    return true_at(world_now(now), key) if now.book.practice else None
