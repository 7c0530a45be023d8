"""After the job: what missed its prediction and why, and a short work order for what is still wanted."""

from __future__ import annotations

from collections.abc import Sequence

from fair_spindle.core.errors import NotAllowed
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.outlook.aligned import align_car
from fair_spindle.core.outlook.explaining import Explanation, Miss, explain_heights, explain_toe, misses_of
from fair_spindle.core.outlook.perching import correct_perches
from fair_spindle.core.outlook.settled import heights_after
from fair_spindle.core.outlook.sitting import CORNERS, Sitting, sit
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.jobs.book import see_job, standing, start_job
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.history import JobFrom
from fair_spindle.jobs.models import JobCreate, JobView
from fair_spindle.jobs.planning import known_of, planned
from fair_spindle.jobs.procedures import library_of
from fair_spindle.jobs.saying import say_field
from fair_spindle.jobs.standing import Standing
from fair_spindle.jobs.writing import write_act
from fair_spindle.records.database import Database

SAMPLES = 1000


class MissView(View):
    """A wheel's height beside baseline, target and prediction. [mm]"""

    label: str
    before: str
    wanted: str
    predicted: str
    measured: str
    miss: str
    beyond: bool


class ExplanationView(View):
    """One thing that could explain it, and the cheapest test."""

    words: str
    where: str
    test: str
    minutes: int
    share_pct: float


class ExplainedView(View):
    """What missed and what could explain it; ``wanted`` is what the readings still ask for, by axle."""

    misses: list[MissView]
    heights: list[ExplanationView]
    toe: dict[str, list[ExplanationView]]
    wanted: dict[str, list[str]]


def see_explained(database: Database, job_id: str) -> ExplainedView:
    """What missed its prediction, and why that could be."""
    now = standing(database, job_id)
    sitting = sit(now.sprung, now.readings.quantities, SAMPLES) if now.changes_springs else Sitting()
    missed = misses_of(sitting, heights_after(now.readings))
    return ExplainedView(
        misses=_misses(now, sitting, missed),
        heights=_heights(now, missed),
        toe=_toe(now) if now.kind.key == "front_strut" else {},
        wanted={axle: sorted(what) for axle, what in _wanted(now).items() if what},
    )


def start_correction(database: Database, job_id: str, wanted: JobFrom) -> JobView:
    """A job with a short work order for what the readings still want: opened, turned, loaded, closed."""
    now = standing(database, job_id)
    asked = _wanted(now)
    fittings = tuple(
        Fitting("correction", axle, options={key: "yes" if key in what else "no" for key in ("toe", "ring", "arms")})  # type: ignore[arg-type]
        for axle, what in asked.items()
        if what
    )
    if not fittings:
        raise NotAllowed("Nothing is still wanted by the readings. Read after settling first.")
    known = known_of(database, now, Brief(fittings), library_of(database)[0])
    begun = start_job(
        database,
        JobCreate(id=wanted.id, title=wanted.title, car=now.book.car, template="work", car_id=now.book.car_id),
    )
    if not begun.steps:
        write_act(database, wanted.id, f"{wanted.id[:50]}-plan", begun.version, planned(known))
    return see_job(database, wanted.id)


def _misses(now: Standing, sitting: Sitting, misses: Sequence[Miss]) -> list[MissView]:
    told = now.readings.quantities
    missed = {one.key: one for one in misses}
    found = []
    for one in sitting.wheels:
        miss = missed.get(one.key)
        found.append(
            MissView(
                label=one.key.replace(".", " ").capitalize(),
                before=_mm(told.get(f"{one.key}.height")),
                wanted=_mm(told.get(f"{one.key}.target.height"), sure=True),
                predicted="" if one.predicted is None else f"{one.predicted:.1f} ± {one.predicted_plus_minus:.1f} mm",
                measured=_mm(told.get(f"{one.key}.check_height")),
                miss=f"{miss.miss:+.1f} ± {miss.plus_minus:.1f} mm".replace("-", "−") if miss else "",
                beyond=bool(miss and miss.beyond),
            )
        )
    return found


def _mm(read: Quantity | None, *, sure: bool = False) -> str:
    if read is None:
        return ""
    return f"{read.value:.1f} mm" if sure else f"{read.value:.1f} ± {2 * read.uncertainty:.1f} mm"


def _heights(now: Standing, missed: Sequence[Miss]) -> list[ExplanationView]:
    told = now.readings.quantities
    before = {key: told[name] for key in CORNERS if (name := f"{key}.height") in told}
    after = heights_after(now.readings)
    misses = [one for one in missed if one.key in before]
    return [_explanation(one, now) for one in explain_heights(now.sprung, before, after, misses)]


def _explanation(one: Explanation, now: Standing) -> ExplanationView:
    where = say_field(one.key, now.sheet) if one.key in now.sheet.fields else one.key.replace(".", " ").capitalize()
    return ExplanationView(
        words=one.cause.words,
        where=f"{where}, by {one.amount:+.3g}".replace("-", "−"),
        test=one.cause.test,
        minutes=one.cause.minutes,
        share_pct=100 * one.share,
    )


def _toe(now: Standing) -> dict[str, list[ExplanationView]]:
    """At the strut job's two wheels."""
    found: dict[str, list[ExplanationView]] = {}
    for side, plan in now.plans.items():
        check, other = plan.check, next(p.check for s, p in now.plans.items() if s != side)
        if check.toe_miss is None or check.toe is None or check.toe_predicted is None:
            continue
        if check.correction is None or check.corrected_toe is None or not check.correction:
            continue
        per_turn = (check.corrected_toe - check.toe.value) / check.correction
        change, toe = plan.height_change, plan.toe_from_height
        slope = toe.value / change.value if change and toe and change.value else 0.0
        open_ = (4 * check.toe.uncertainty**2 + check.toe_predicted.plus_minus**2) ** 0.5
        told = explain_toe(check.toe_miss, open_, per_turn, check.height_miss or 0.0, slope, other.toe_miss)
        found[side] = [
            ExplanationView(words=e.words, where="", test=e.test, minutes=e.minutes, share_pct=100 * e.share)
            for e in told
        ]
    return found


def _wanted(now: Standing) -> dict[str, set[str]]:
    """What the readings after settling still ask for, by axle: toe, ring, arms."""
    found: dict[str, set[str]] = {"front": set(), "rear": set()}
    if now.kind.key == "front_strut":
        if any(plan.check.correction for plan in now.plans.values()):
            found["front"].add("toe")
        return found
    for key, wheel in align_car(now.state, now.aligning)[1].items():
        for name, steps in (wheel.still or {}).items():
            if steps and wheel.read:
                found[key.partition(".")[0]].add("toe" if any(w in name.lower() for w in ("tie", "toe")) else "arms")
    after = heights_after(now.readings)
    if now.changes_springs and len(after) == len(CORNERS):
        correction = correct_perches(now.readings, now.sprung, now.sitting, after, {})
        turns: Sequence[float] = list(
            correction.turns.set_turns if correction and correction.turns is not None else []
        )
        for key, turn in zip(CORNERS, turns, strict=False):
            if abs(float(turn)) > 0.1:
                found[key.partition(".")[0]].add("ring")
    return found
