"""After the job: what missed its prediction and why, and a short work order for what is still wanted."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from math import degrees

from fair_spindle.core.basics.errors import NotAllowed
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.wheels import AXLES, SIDES, WHEELS, wheels_at
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.core.predict.aligned import align_rods
from fair_spindle.core.predict.settled import heights_after
from fair_spindle.core.predict.step_words import say_flats
from fair_spindle.core.predict.turn_effect import turned_against
from fair_spindle.core.review.before_and_after import (
    NAMES,
    Beside,
    MovesToe,
    beside_read,
    beside_sitting,
    beside_wheel,
)
from fair_spindle.core.review.corrections import Want, want_links, want_rings, want_wheels
from fair_spindle.core.review.height_causes import Explanation, explain_heights
from fair_spindle.core.review.toe_causes import ToeExplanation, explain_toes
from fair_spindle.core.turns.axle_turns import USUAL_RATIO
from fair_spindle.core.turns.threads import FLAT
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import see_job, standing, start_job
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.history import JobFrom
from fair_spindle.jobs.models import JobCreate, JobView
from fair_spindle.jobs.planning import known_of, planned
from fair_spindle.jobs.procedures import library_of
from fair_spindle.jobs.snapshot import Predicted, Standing
from fair_spindle.jobs.wording import say_beyond, say_input, say_input_name, say_quantity, say_ring, say_set, signed
from fair_spindle.records.database import Database

KINDS_OF_WORK = ("toe", "ring", "arms", "link")
FORESEEN_KEPT = 64
# From which share on a cause is likelier than all others together.
MORE_LIKELY = 0.5


class BesideView(View):
    """One reading after the work, in words, beside baseline, target and prediction."""

    label: str
    before: str
    wanted: str
    predicted: str
    measured: str
    change: str
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
    """What missed and what could explain it; ``wanted`` is what the readings still ask for."""

    readings: list[BesideView]
    heights: list[ExplanationView]
    toe: dict[str, list[ExplanationView]]
    wanted: list[str]


def see_explained(database: Database, job_id: str) -> ExplainedView:
    """What missed its prediction, and why that could be."""
    now = standing(database, job_id)
    besides, moves = _besides(now)
    toes = explained_toes(now, besides, moves)
    return ExplainedView(
        readings=[_beside(beside, now.sheet) for beside in besides],
        heights=_heights(now, besides),
        toe={label_wheel(key): [_toe(one) for one in told] for key, told in toes.items()},
        wanted=_say_wanted(now),
    )


def explained_toes(
    now: Standing, besides: Sequence[Beside], moves: Mapping[str, MovesToe]
) -> dict[str, list[ToeExplanation]]:
    """What could explain each toe that missed, the steering wheel among what is explained."""
    told = now.readings.quantities
    ratio = told.get("car.steering_ratio", Quantity(USUAL_RATIO)).value
    toes = {beside.key: beside for beside in besides if beside.name == "toe"}
    before, after = told.get("car.wheel_off"), told.get("car.check_wheel_off")
    left, right = (toes.get(key) for key in wheels_at("front"))
    steered = None
    pair = [one for one in (left, right) if one and one.before and one.predicted is not None]
    if before and after and len(pair) == len(SIDES):
        by_left, by_right = (
            one.predicted - one.before.value for one in pair if one.before and one.predicted is not None
        )
        steered = after.value - before.value + ratio * (by_left - by_right) / 2
    return explain_toes(besides, moves, steered, ratio)


def doubtful_toes(now: Standing) -> dict[str, str]:
    """Toes that are more likely read wrong than wrong, by wheel, with what to read again: no turn is planned on
    them."""
    if not any(key.endswith(".check_toe") for key in now.state.entries):
        return {}
    found = {
        key: f"More likely {told[0].words} than the wheel being off. {told[0].test}"
        for key, told in explained_toes(now, *_besides(now)).items()
        if told and told[0].of_reading and told[0].share > MORE_LIKELY
    }
    against = (
        key
        for key, wheel in now.predicted.wheels.items()
        if turned_against(now.state, now.aligning, wheel.plan.wheel)
    )
    return found | dict.fromkeys(against, _AGAINST)


_AGAINST = (
    "The last turns moved this toe against what they should: turned the wrong way round, a rod on the other side of "
    "the axle than was told, or a toe read wrong. Read it again before the next turn; what is read then counts."
)


def beside_rows(now: Standing) -> list[BesideView]:
    """Every reading after the work beside baseline, target and prediction, in words."""
    return [*(_beside(beside, now.sheet) for beside in _besides(now)[0]), *_straight(now)]


def _straight(now: Standing) -> Iterator[BesideView]:
    """How the steering wheel stood before and after."""
    said = [_pointing(now, check) for check in ("", "check_")]
    if any(said):
        before, after = said
        empty = {"predicted": "", "change": "", "miss": "", "beyond": False}
        yield BesideView(label="Steering wheel", before=before, wanted="Straight", measured=after, **empty)


def _pointing(now: Standing, check: str) -> str:
    """Where the steering wheel stood, in degrees clockwise where they were read; empty where nobody said."""
    off = now.readings.quantities.get(f"car.{check}wheel_off")
    if off:
        return f"{degrees(off.value):+.1f}°".replace("-", "−")
    asked, entry = now.sheet.fields.get("car.wheel_straight"), now.state.entries.get(f"car.{check}wheel_straight")
    return dict(asked.choices).get(entry.act.choice, "") if asked and entry else ""


def _besides(now: Standing) -> tuple[list[Beside], dict[str, MovesToe]]:
    """Every reading after the work beside its prediction, and what moves the wheels' toe."""
    if "check" not in now.template.measures:
        return [], {}
    told = {key: (list(rows), moves) for key, (rows, moves) in _beside_wheels(now.predicted).items()}
    for one in beside_sitting(now.predicted.sitting, now.predicted.readings.quantities):
        told[one.key][0].insert(0, one)
    for key, (rows, _) in told.items():
        rows += beside_read(key, now.readings.quantities, [row.name for row in rows])
        rows.sort(key=lambda one: NAMES.index(one.name))
    return [row for rows, _ in told.values() for row in rows], {key: moves for key, (_, moves) in told.items()}


@by_identity(most=FORESEEN_KEPT)
def _beside_wheels(predicted: Predicted) -> dict[str, tuple[list[Beside], MovesToe]]:
    """Each wheel's angles beside what was foreseen of them; not to be changed."""
    return {
        key: beside_wheel(wheel, predicted.readings, with_height=key.split(".")[0] not in predicted.moved)
        for key, wheel in predicted.wheels.items()
    }


def _say_wanted(now: Standing) -> list[str]:
    """What the readings still ask for: first of all those again that are doubtful themselves."""
    doubts = doubtful_toes(now)
    again = [f"{label_wheel(key)}: read its toe again first. {said}" for key, said in doubts.items()]
    return [*again, *(_say_want(one) for one in _wanted(now) if not (one.what == "toe" and one.where in doubts))]


def start_correction(database: Database, job_id: str, wanted: JobFrom) -> JobView:
    """A job with a short work order for what the readings still want: opened, turned, loaded, closed."""
    now = standing(database, job_id)
    wants, doubts = _wanted(now), doubtful_toes(now)
    doubtful = next((one.where for one in wants if one.what == "toe" and one.where in doubts), "")
    if doubtful:
        raise NotAllowed(f"Read the toe at the {label_wheel(doubtful).lower()} again first. {doubts[doubtful]}")
    fittings = tuple(
        Fitting("correction", axle, options={kind: "yes" if kind in asked else "no" for kind in KINDS_OF_WORK})
        for axle in AXLES
        if (asked := {want.what for want in wants if want.axle == axle})
    )
    if not fittings:
        raise NotAllowed("Nothing is still wanted by the readings. Read after settling first.")
    known = known_of(database, now, Brief(fittings), library_of(database)[0])
    begun = start_job(
        database,
        JobCreate(id=wanted.id, title=wanted.title, car=now.book.car, car_id=now.book.car_id),
    )
    if not begun.steps:
        write_act(database, wanted.id, f"{wanted.id[:50]}-plan", begun.version, planned(known), asked="correction")
    return see_job(database, wanted.id)


def _beside(one: Beside, sheet: Sheet) -> BesideView:
    asked = sheet.find(f"{one.key}.check_{one.name}")

    def said(value: float | None, plus_minus: float = 0.0) -> str:
        return "" if value is None else say_quantity(asked, Quantity(value, plus_minus / COVERAGE))

    def read(taken: Quantity | None) -> str:
        return said(taken.value, COVERAGE * taken.uncertainty) if taken else ""

    return BesideView(
        label=f"{label_wheel(one.key)} {one.name}",
        before=read(one.before),
        wanted=said(one.wanted),
        predicted=said(one.predicted, one.open),
        measured=read(one.read),
        change=signed(read(one.change)),
        miss=signed(said(one.miss, one.plus_minus)),
        beyond=one.beyond,
    )


def _heights(now: Standing, besides: Sequence[Beside]) -> list[ExplanationView]:
    before = {beside.key: beside.before for beside in besides if beside.name == "height" and beside.before}
    after = heights_after(now.readings)
    missed = [
        beside for beside in besides if beside.name == "height" and beside.key in before and beside.miss is not None
    ]
    return [_explanation(height, now) for height in explain_heights(now.height_model, before, after, missed)]


def _explanation(one: Explanation, now: Standing) -> ExplanationView:
    known = one.key in now.sheet.fields
    unit = "N" if one.key.endswith((".load", ".dead")) else "mm"
    amount = say_input(one.key, Quantity(one.amount), now.sheet) if known else f"{one.amount:.1f} {unit}"
    return ExplanationView.of(
        one.cause,
        where=f"{say_input_name(one.key, now.sheet)}, by {'' if one.amount < 0 else '+'}{amount}".replace("-", "−"),
        share_pct=100 * one.share,
    )


def _toe(one: ToeExplanation) -> ExplanationView:
    return ExplanationView.of(one, where="", share_pct=100 * one.share)


def _wanted(now: Standing) -> list[Want]:
    """What the readings after settling still ask for."""
    found = want_wheels(now.predicted.wheels, align_rods(now.state, now.aligning))
    found += want_links(now.outlook.bars, now.readings.quantities)
    if now.changes_springs and len(heights_after(now.readings)) == len(WHEELS):
        found += want_rings(now.outlook.perches)
    return found


def _say_want(one: Want) -> str:
    if one.what == "ring":
        amount = say_ring(one.amount)
    elif one.what == "link":
        amount = f"set to {one.amount:.1f} mm"
    elif one.adjuster:
        amount = say_set(one.amount, one.adjuster)
    else:
        amount = f"{say_flats(round(abs(one.amount) / FLAT))} {'longer' if one.amount > 0 else 'shorter'}"
    stop = f"; {say_beyond(one.adjuster, one.beyond)}" if one.adjuster and one.beyond else ""
    return f"{label_wheel(one.where)}, {one.name[0].lower()}{one.name[1:]}: {amount}{stop}"
