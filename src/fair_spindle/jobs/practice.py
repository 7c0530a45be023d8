"""The practice bay: begin an exercise, read its car with gauges, see what came of it."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from datetime import datetime
from functools import lru_cache
from typing import Any, Literal
from uuid import uuid4

from pydantic_core import to_jsonable_python

from fair_spindle.core.basics.errors import Conflict, InputError, NotAllowed, NotFound, SpindleError
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.joblog.kinds import CAR, WORK
from fair_spindle.core.joblog.log import Act, Entered, Event, Filled
from fair_spindle.core.joblog.plain import build, plain
from fair_spindle.core.joblog.plan_now import MOVES
from fair_spindle.core.joblog.readings import read_all
from fair_spindle.core.joblog.reducer import derive_on, effective, opening
from fair_spindle.core.joblog.required_fields import choices_now, missing_fields
from fair_spindle.core.joblog.rules import permit
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.formats.exercise_file import read_exercise_file, write_exercise_file
from fair_spindle.formats.procedure_file import shipped
from fair_spindle.jobs import practice_models as m
from fair_spindle.jobs.append import accept, made_by, part_of, write_act
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.planning import planned
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.practice.axles import MOST_BUMP
from fair_spindle.practice.car import DEGREE, TrueCar, draw_car
from fair_spindle.practice.debrief import RULE, Debrief, debrief
from fair_spindle.practice.exercises import OWN_CAR, Exercise, exercises, find_exercise, own_exercise
from fair_spindle.practice.gauges import read, true_at
from fair_spindle.practice.layouts import REAR_ONLY, TYPICAL
from fair_spindle.practice.misses import COUNT, FORESEEN, READING, UNREAD, UNSETTLED, Row
from fair_spindle.practice.own_car import copy_car
from fair_spindle.practice.world import World, world_of
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
    score = _scored(row.id, now.version, database) if _is_over(now) else None
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


def _is_over(now: Standing) -> bool:
    """Signed, or driven: the plan's road test is done."""
    return bool(now.state.signature) or "road" in now.state.steps


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
    _marked(now)
    return write_exercise_file(json.loads(now.book.practice))


def _begin(database: Database, job_id: str, told: Mapping[str, Any]) -> m.BegunView:
    exercise = _exercise_of(told)
    for axle, layout in told["layouts"].items():
        if layout not in TYPICAL:
            raise InputError(f"The practice bay knows no layout {layout!r}.", field=f"layouts.{axle}")
        if axle == "front" and layout in REAR_ONLY:
            raise InputError("This layout does not steer: it can be the rear axle only.", field="layouts.front")
    mark = json.dumps(told)
    car = _truth(mark)
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


@lru_cache(maxsize=16)
def _truth(mark: str) -> TrueCar:
    told = json.loads(mark)
    if told["exercise"] != OWN_CAR:
        return draw_car(find_exercise(told["exercise"]), told["seed"], told["layouts"])
    entries = [build(Entered, act) for act in told["record"]]
    choices = {act.key: act.choice for act in entries if act.choice}
    record, words = read_all({act.key: act for act in entries}, sheet_for(CAR.key, shape_of(choices)))
    return copy_car(entries, record, words, told["seed"])


def _copied(database: Database, car_id: str) -> dict[str, object]:
    """What the practice job keeps of a car: its name, and its record as it stood then."""
    if not car_id:
        raise InputError("Say which car is copied into the bay.", field="car")
    now = standing(database, car_id, car=True)
    record = [plain(taken.act) for taken in now.state.entries.values()]
    return {"car_name": now.book.car, "record": to_jsonable_python(record)}


def _exercise_of(told: Mapping[str, Any]) -> Exercise:
    if told["exercise"] == OWN_CAR:
        return own_exercise(told["car_name"], told["work"])
    return find_exercise(told["exercise"])


def _marked(now: Standing) -> tuple[Exercise, int, bool]:
    if not now.book.practice:
        raise NotFound("This is no practice job.", field="job_id")
    mark = json.loads(now.book.practice)
    return _exercise_of(mark), mark["seed"], mark["bare"]


def _world(now: Standing) -> World:
    _marked(now)
    return world_of(_truth(now.book.practice), effective(now.log))


def see_bay(database: Database, job_id: str) -> m.BayPicture:
    """The practice car as it stands in the bay."""
    now = standing(database, job_id)
    exercise, seed, bare = _marked(now)
    world = _world(now)
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
    exercise, _, _ = _marked(now)
    return exercise.also_read if phase == "baseline" else exercise.read_again


def read_with_gauges(database: Database, job_id: str, wanted: m.ReadWithGauges) -> Standing:
    """Read fields with the gauges of the bay, each an entry of its own."""
    now = standing(database, job_id)
    _, seed, _ = _marked(now)
    theirs = made_by(database, wanted.by)
    world = _world(now)
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
    return true_at(_world(now), key) if now.book.practice else None


def see_debrief(database: Database, job_id: str, *, give_up: bool = False) -> m.DebriefView:
    """Truth beside belief, where the difference came from, what was done out of order, and the score.

    Before the car was driven or the record signed only who gives up sees it, and there is no score.
    """
    now = standing(database, job_id)
    exercise, _, _ = _marked(now)
    if not (_is_over(now) or give_up):
        raise NotAllowed("The debrief shows the truth once the car was driven, or the record is signed.")
    faults = list(_faults(now))
    skipped = sum(act.outcome == "skipped" for _, act in now.state.steps.values())
    moves = sum(step.key.startswith(MOVES) for step in now.template.steps)
    sets_angles = any(fitting["procedure"] == "align" for fitting in exercise.fittings)
    truth, foreseen = _truth(now.book.practice), {wheel.key: wheel.change for wheel in now.sitting.wheels}
    found = debrief(truth, effective(now.log), sets_angles, len(faults), skipped, moves, foreseen)
    begun, ended = (datetime.fromisoformat(event.at) for event in (now.log[0], now.log[-1]))
    return m.DebriefView(
        title=exercise.title,
        learn=exercise.learn,
        score=found.score if _is_over(now) else None,
        rule=RULE,
        rows=[_debriefed(row) for row in found.rows],
        steering_before=found.steering[0],
        steering_after=found.steering[1],
        wound=[
            f"{label_wheel(key)}: rubber wound by {abs(by):.0f} mm of wheel travel"
            for key, by in found.wound.items()
            if abs(by) > 5
        ],
        shackles=[
            f"{label_wheel(key)}: the shackle met its bracket after {before:.0f} mm of bump, now "
            f"{'not at all' if left >= MOST_BUMP else f'after {left:.0f} mm'}"
            for key, (before, left) in found.shackles.items()
        ],
        wrench=_say_wrench(truth.wrench, found.torqued),
        faults=faults,
        minutes_taken=(ended - begun).total_seconds() / 60,
        minutes_given=exercise.minutes,
        pays_most=_pays_most(found),
    )


def _say_wrench(share: float, bolts: int) -> str:
    """What the bay's wrench really gives, where bolts were tightened by its reading."""
    if not bolts:
        return ""
    more = "more" if share > 0 else "less"
    carry = "1 torque carries" if bolts == 1 else f"{bolts} torques carry"
    return f"The bay's wrench gives {abs(100 * share):.1f} % {more} than it shows; {carry} that."


# How much fills a bar from its middle to its end, by unit.
_FULL = {"°": 0.5, "mm": 15.0, "%": 3.0, "N": 200.0}


def _debriefed(row: Row) -> m.DebriefRow:
    off = 0.0 if row.wanted is None else row.truth - row.wanted
    bar = 2 * _FULL[row.unit]
    return m.DebriefRow(
        where=label_wheel(row.wheel) if row.wheel in WHEELS else "Whole car",
        **{name: getattr(row, name) for name in ("what", "unit", "wanted", "truth", "read")},
        off=off,
        drawn=off / bar,
        shares=[m.ShareView(cause=one.cause, value=one.value, drawn=abs(one.value) / bar) for one in row.shares],
    )


def _faults(now: Standing) -> Iterator[str]:
    """What the rules would have refused, in its order, and what was overridden."""
    state = opening(now.kind)
    log: list[Event] = []
    for event in effective(now.log):
        try:
            permit(event.act, state, now.kind, Standing(now.book, list(log), now.limits).windows)
        except SpindleError as error:
            yield f"Would have been refused: {error.message}"
        log.append(event)
        state = derive_on(state, log, now.kind)
    yield from (f"Overridden: {', '.join(override.places)}: {override.reason}" for override in now.state.overrides)


def _pays_most(found: Debrief) -> str:
    """Where most of what is off came from, and which reading would have found it."""
    shares: dict[str, float] = {}
    for row in found.rows:
        for share in row.shares:
            shares[share.cause] = shares.get(share.cause, 0.0) + abs(share.value) / _FULL[row.unit]
    if any(abs(one) > 15 for one in found.wound.values()):
        return "Hub-to-arch height before each rubber bolt is torqued: two minutes, and no rubber is wound."
    if not shares:
        return ""
    worst = max(shares, key=lambda cause: shares[cause])
    return {
        READING: "Each angle twice, with the gauge turned round: what it adds to every wheel shows.",
        UNSETTLED: "The same readings after rolling it a car's length and bouncing both ends.",
        UNREAD: "Toe and camber again when the car is down and settled.",
        COUNT: "The new end beside the old one, eye to thread, before it goes on: two minutes with a caliper.",
        FORESEEN: "Motion ratio by two pairs of damper length and height: five minutes, and the height is foreseen.",
    }.get(worst, "Toe and camber once more after turning: what a turn really does shows at once.")
