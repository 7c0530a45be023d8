"""The record of a job: what was fitted, read, turned and tightened; for the screen and as PDF."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import groupby

from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.joblog.bolt_needs import is_final
from fair_spindle.core.joblog.bolt_state import BoltState, bolt_key
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.threaded_ends import ENDS, carry, flats_at
from fair_spindle.core.joblog.wording import label_wheel, position_words
from fair_spindle.core.planning.cautions import CAUTIONS
from fair_spindle.core.planning.part_checks import compared_in
from fair_spindle.core.predict.aligned import align_rods
from fair_spindle.core.predict.step_words import say_flats
from fair_spindle.core.review.at_work import AtWork, read_at_work
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.threads import FLAT
from fair_spindle.formats.procedure_file import shipped
from fair_spindle.formats.record_pdf import write_customer_sheet, write_record
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.car_facts import fitted_facts
from fair_spindle.jobs.checking import BesideView, beside_rows
from fair_spindle.jobs.geometry import curve_of
from fair_spindle.jobs.joints import recheck_lines, say_state, say_thread, show_joint
from fair_spindle.jobs.models import FindingView
from fair_spindle.jobs.planning import fitted
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.springs import see_sits
from fair_spindle.jobs.views import show_findings, show_job
from fair_spindle.jobs.wording import say_entry, say_field, say_numbers, say_quantity, say_set, say_spec, signed
from fair_spindle.records.database import Database


class TurnsGivenView(View):
    """An adjuster's turns: as planned, and as they were given."""

    where: str
    name: str
    planned: str
    given: str


class AtWorkView(View):
    """A number read at a step: before where it stands beside one, after, and the difference."""

    label: str
    before: str
    after: str
    change: str


class TightenedView(View):
    """Places of a joint that stand alike: thread, specification with its source, how they stand.

    ``how`` is the state of the car and the instrument it was done with.
    """

    joint: str
    places: str
    thread: str
    specified: str
    source: str
    said: str
    final: bool
    how: str


class RecordView(View):
    """What a job's record holds beside its readings as taken, and what a look at the job finds."""

    findings: list[FindingView]
    fitted: list[str]
    beside: list[BesideView]
    turns: list[TurnsGivenView]
    at_work: list[AtWorkView]
    tightened: list[TightenedView]
    rechecks: list[str]
    cautions: list[str]
    car_learns: list[str]


def see_record(database: Database, job_id: str) -> RecordView:
    """The record of a job, and what its car will know from it once it is signed."""
    now = standing(database, job_id)
    return _record(now).model_copy(update={"car_learns": _car_learns(database, now)})


def _car_learns(database: Database, now: Standing) -> list[str]:
    if not now.book.car_id or now.state.signature:
        return []
    entries, joints = fitted_facts(now, standing(database, now.book.car_id, car=True))
    told = [f"{say_field(entry.key, now.sheet)}: {say_numbers(entry) or entry.choice}" for entry in entries]
    values = [f"{joint.label}: {say_spec(next(bolt.spec for bolt in joint.bolts if bolt.spec))}" for joint in joints]
    return [*told, *values]


def print_record(database: Database, job_id: str) -> bytes:
    """A job's record as PDF."""
    now = standing(database, job_id)
    curves = [
        {"label": label_wheel(key), **curve_of(corner, {}).model_dump()} for key, corner in now.corner_points.items()
    ]
    shown = show_job(now).model_dump()
    entries = list(shown["entries"].values())
    return write_record(
        shown
        | _record(now).model_dump()
        | {
            "readings": [entry for entry in entries if not entry["carried"]],
            "taken_over": [entry for entry in entries if entry["carried"]],
            "joints": [show_joint(joint, now).model_dump() for joint in now.state.joints.values()],
            "curves": curves,
            "sits": [sit.model_dump() for sit in see_sits(now)],
        }
    )


def print_customer_sheet(database: Database, job_id: str) -> bytes:
    """One page of it for whoever drives the car, as PDF."""
    now = standing(database, job_id)
    return write_customer_sheet(show_job(now).model_dump() | _record(now).model_dump())


def _record(now: Standing) -> RecordView:
    return RecordView(
        findings=show_findings(now),
        fitted=fitted(now),
        beside=beside_rows(now),
        turns=list(_turns(now)),
        at_work=[*_compared(now), *(_at_work(one, now) for one in read_at_work(now.state, now.template))],
        tightened=[one for joint in now.state.joints.values() for one in _tightened(joint, now)],
        rechecks=recheck_lines(now),
        cautions=_cautions(now.template),
        car_learns=[],
    )


def _at_work(one: AtWork, now: Standing) -> AtWorkView:
    entries, asked = now.state.entries, now.sheet.find(one.key)
    return AtWorkView(
        label=say_field(one.key, now.sheet),
        before=say_entry(entries[one.before].act, now.sheet) if one.before else "",
        after=say_entry(entries[one.key].act, now.sheet),
        change=signed(say_quantity(asked, one.change)) if one.change else "",
    )


def _compared(now: Standing) -> Iterator[AtWorkView]:
    """Old part beside new, as they were typed before the car was raised."""
    for fitting in now.state.plan.brief.fittings if now.state.plan else ():
        procedure = shipped().procedures.get(fitting.procedure)
        if procedure is None:
            continue
        for check in procedure.checks:
            for side, pair in compared_in(fitting, check):
                where = ", ".join(filter(None, (procedure.title, fitting.axle, side)))
                yield AtWorkView(label=f"{where}: {check.label.lower()}", before=pair.old, after=pair.new, change="")


def _cautions(template: JobTemplate) -> list[str]:
    return sorted({words for step in template.steps for key in step.cautions if (words := CAUTIONS[key])})


def _turns(now: Standing) -> Iterator[TurnsGivenView]:
    yield from _counted(now)
    if "turns" not in now.template.pages:
        return
    for key, wheel in now.predicted.wheels.items():
        for adjuster in wheel.plan.wheel.adjusters:
            if adjuster.from_no_thread and adjuster.part not in now.ends_by_geometry:
                continue
            yield _turned(
                label_wheel(key), adjuster, wheel.planned.get(adjuster.name, 0), wheel.turned[adjuster.name]
            )
    for rod in align_rods(now.state, now.aligning):
        yield _turned("Front", rod.rod.adjuster, rod.planned, rod.turned)


def _turned(where: str, one: Adjuster, planned: int, given: int) -> TurnsGivenView:
    told = say_set(given * one.step, one) if given else "not turned"
    return _given(where, one.name, say_set(planned * one.step, one), told)


def _counted(now: Standing) -> Iterator[TurnsGivenView]:
    for end in (end for end in ENDS if end not in now.ends_by_geometry):
        counts = [(way, flats_at(now.state, end, way)) for way in ("off", "on")]
        told = [f"{way} {say_flats(flats)}" for way, flats in counts if flats is not None]
        if told:
            carried = carry(now.readings.quantities, end)
            planned = f"on {say_flats(round(carried.on / FLAT))}" if carried else ""
            yield _given(label_wheel(end.removesuffix(".tie")), "Threaded end", planned, ", ".join(told))


def _given(where: str, name: str, planned: str, given: str) -> TurnsGivenView:
    return TurnsGivenView(where=where, name=name, planned=planned, given=given)


def _tightened(joint: Joint, now: Standing) -> Iterator[TightenedView]:
    """Places that were worked on, those that stand alike in one line."""
    lines = []
    for bolt in joint.bolts:
        state = now.state.bolts.get(bolt_key(joint.key, bolt.number), BoltState())
        if state.stage is None:
            continue
        how = ", ".join(filter(None, (_car(state), state.gauge, _by(state, now))))
        source = bolt.spec.source if bolt.spec else ""
        told = (say_thread(bolt), say_spec(bolt.spec), source, say_state(state), is_final(bolt, state), how)
        lines.append((bolt.number, told))
    for (thread, spec, source, said, final, how), alike in groupby(lines, key=lambda line: line[1]):
        places = ", ".join(str(number) for number, _ in alike)
        yield TightenedView(
            joint=joint.label,
            places=places,
            thread=thread,
            specified=spec,
            source=source,
            said=said,
            final=final,
            how=how,
        )


def _by(state: BoltState, now: Standing) -> str:
    event = next((one for one in now.log if one.seq == state.seq), None)
    return f"by {event.by}" if event and event.by else ""


def _car(state: BoltState) -> str:
    return f"car {position_words(state.position, None, '')}" if state.position else ""
