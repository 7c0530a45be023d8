"""Plan a job's work order: try it, take it into the job, see it again."""

from __future__ import annotations

import logging
from collections.abc import Iterator, Mapping
from dataclasses import fields, is_dataclass

from fair_spindle.core.basics.errors import InputError, NotAllowed, SpindleError
from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.joblog.going_back import consequences
from fair_spindle.core.joblog.log import Act, Event, Planned
from fair_spindle.core.joblog.overnight import stands_now
from fair_spindle.core.joblog.plain import build
from fair_spindle.core.joblog.plan_now import MOVES
from fair_spindle.core.joblog.required_fields import choices_now
from fair_spindle.core.joblog.wording import position_words
from fair_spindle.core.planning.cautions import CAUTIONS
from fair_spindle.core.planning.part_graph import moved_on
from fair_spindle.core.planning.part_map import MapPart, parts_of_axle
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting, Library, Procedure
from fair_spindle.core.planning.schools import SCHOOLS
from fair_spindle.core.planning.template import Step
from fair_spindle.core.planning.vocabulary import named_by, sought_by
from fair_spindle.core.planning.work_order import WorkOrder, measured_by, plan_work
from fair_spindle.core.predict.foreseen import Foreseen, foresee
from fair_spindle.formats.acts import Strict, model_of
from fair_spindle.formats.procedure_file import shipped
from fair_spindle.formats.sheets_pdf import write_clipboard, write_stop_sheet
from fair_spindle.jobs import planning_models as m
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.book_models import ChoiceView
from fair_spindle.jobs.joints import show_joint
from fair_spindle.jobs.procedures import library_of, save_own
from fair_spindle.jobs.settings import workshop_bay, workshop_schools
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.views import show_findings, show_job
from fair_spindle.records.database import Database


def see_plan(database: Database, job_id: str) -> m.PlanOfJobView:
    """The brief of a job, the procedures that can be chosen, and the plan as it was taken."""
    now = standing(database, job_id)
    library, versions = library_of(database)
    taken = now.state.plan
    brief = taken.brief if taken else Brief(())
    plan = None
    if taken:
        known = known_of(database, now, brief, library)
        try:
            plan = _show(plan_work(known), known, now, taken)
        except SpindleError:  # a procedure of the workshop's own that is gone; the steps stand as they were taken
            plan = _show(_as_taken(taken), known, now, taken)
    return m.PlanOfJobView(
        brief=_model(brief),
        procedures=[
            _procedure(procedure, choices_now(now.state), versions) for procedure in library.procedures.values()
        ],
        plan=plan,
    )


def see_parts(database: Database, book_id: str, *, car: bool = False) -> list[m.AxleMapView]:
    """Both axles as they are drawn, of a job's car or of a car's record: by its layouts, corrections and points."""
    now = standing(database, book_id, car=car)
    told, library = choices_now(now.state), library_of(database)[0]
    return [
        m.AxleMapView(
            axle=axle,
            layout=LAYOUTS[told[f"{axle}.layout"]].label if told.get(f"{axle}.layout") in LAYOUTS else "",
            choices=[ChoiceView(value=one.key, label=one.label) for one in LAYOUTS.values() if axle in one.axles],
            parts=[
                m.MapPartView(**_plain_part(part)) for part in parts_of_axle(axle, told, library, now.corner_points)
            ],
        )
        for axle in AXLES
    ]


def _plain_part(part: MapPart) -> dict[str, object]:
    lines = {name: [list(point) for point in getattr(part, name)] for name in ("line", "side_line")}
    return {**vars(part), **lines}


def all_procedures(database: Database) -> list[m.ProcedureView]:
    """Every kind of job there is."""
    library, versions = library_of(database)
    return [_procedure(procedure, {}, versions) for procedure in library.procedures.values()]


def try_plan(database: Database, job_id: str, wanted: m.TryPlan) -> m.PlanView:
    """Plan a brief without writing anything."""
    now = standing(database, job_id)
    known = known_of(database, now, brief_of(wanted.brief), library_of(database)[0])
    return _show(plan_work(known), known, now, None)


def take_plan(database: Database, job_id: str, wanted: m.TakePlan) -> Standing:
    """Write the plan of a brief into the job."""
    now = standing(database, job_id)
    known = known_of(database, now, brief_of(wanted.brief), library_of(database)[0])
    act = planned(known)
    _shows(now, act)
    return write_act(database, job_id, wanted.id, wanted.seen, act, asked=wanted.model_dump(exclude={"seen"}))


def _shows(now: Standing, act: Planned) -> None:
    """Show a plan once before it is taken: what cannot be shown is not stored."""
    after = now.then(Event("", now.version + 1, now_utc(), act))
    try:
        show_job(after)
        show_findings(after)
        for joint in after.state.joints.values():
            show_joint(joint, after)
    except SpindleError:
        raise
    except Exception as error:
        logging.getLogger(__name__).exception("a plan that cannot be shown")
        raise InputError(
            "This plan cannot be shown, so it was not taken; the job is as it was. Leave a part out and try again, "
            "and send the log of the program to whoever keeps it.",
            field="brief",
        ) from error


def planned(known: Known) -> Planned:
    """The plan of a brief as a line of the log."""
    return _as_act(plan_work(known), known)


def _as_act(order: WorkOrder, known: Known) -> Planned:
    changes = [
        change
        for fitting in known.brief.fittings
        for change in known.moves(known.library.find(fitting.procedure), fitting.axle)
    ]
    return Planned(
        known.brief,
        order.steps,
        order.joints,
        order.lists,
        order.remarks,
        tuple(dict.fromkeys(changes)),
        measured_by(known, order.joints),
        asks_new=True,
    )


def save_plan(database: Database, job_id: str, wanted: m.SaveProcedure) -> m.ProcedureView:
    """Keep an edited plan as a procedure of the workshop's own."""
    now = standing(database, job_id)
    known = known_of(database, now, brief_of(wanted.brief), library_of(database)[0])
    procedure = save_own(database, known, wanted.key, wanted.title, wanted.seen)
    return _procedure(procedure, choices_now(now.state), library_of(database)[1])


def see_consequences(database: Database, job_id: str, act: Act) -> m.ConsequencesView:
    """What would no longer hold after an act."""
    now = standing(database, job_id)
    return m.ConsequencesView(lost=list(consequences(act, now.state, now.kind)))


def see_stop(database: Database, job_id: str) -> m.StopView:
    """How the car stands for the night."""
    return _stop(standing(database, job_id))


def _stop(now: Standing) -> m.StopView:
    left, stopped = stands_now(now.state, now.kind), now.state.stopped
    return m.StopView.of(
        left,
        loose=[f"{one.what}: {one.how}" for one in left.loose],
        begun=list(left.begun),
        note=stopped[1].note if stopped else "",
        at=stopped[0].at if stopped else "",
    )


def stop_sheet(database: Database, job_id: str) -> bytes:
    """The sheet that lies on the seat overnight."""
    now = standing(database, job_id)
    return write_stop_sheet(now.book.car, now.book.title, _stop(now).model_dump())


def clipboard(database: Database, job_id: str, axle: str) -> bytes:
    """The whole plan, or that of one axle, for a clipboard."""
    now = standing(database, job_id)
    steps = [step for step in now.template.steps if not axle or step.axle in ("", axle)]
    if not steps:
        raise NotAllowed("There is no plan to print yet.")
    lists = now.state.plan.lists if now.state.plan else ()
    return write_clipboard(
        now.book.car,
        now.book.title + (f", {axle} axle" if axle else ""),
        [_step(step).model_dump() | {"done": step.key in now.state.steps} for step in steps],
        [vars(one) for one in lists],
        [
            (joint.label, [bolt.number for bolt in joint.bolts])
            for joint in now.state.joints.values()
            if not axle or joint.axle in ("", axle)
        ],
    )


def fitted(now: Standing) -> list[str]:
    """What a job fits, in words, by the plan it has."""
    return [_say_fitting(fitting, shipped()) for fitting in now.state.plan.brief.fittings] if now.state.plan else []


def brief_of(model: Strict) -> Brief:
    """A brief as the core takes it."""
    return build(Brief, model.model_dump())


def _model(brief: Brief) -> Strict:
    return model_of(Brief).model_validate(_plain(brief))


def _plain(one: object) -> object:
    if is_dataclass(one):
        return {member.name: _plain(getattr(one, member.name)) for member in fields(one)}
    if isinstance(one, tuple):
        return [_plain(part) for part in one]
    return {key: _plain(value) for key, value in one.items()} if isinstance(one, dict) else one


def known_of(database: Database, now: Standing, brief: Brief, library: Library) -> Known:
    """A brief with what decides its conditions: the job's choices, the workshop's schools and its bay."""
    car = choices_now(now.state)
    return Known(
        brief,
        library,
        car,
        workshop_schools(database).ways,
        workshop_bay(database).bay(),
        moved_on(car, now.corner_points),
    )


def _as_taken(taken: Planned) -> WorkOrder:
    minutes = [step.minutes or (0.0, 0.0) for step in taken.steps]
    total = (sum(minute[0] for minute in minutes), sum(minute[-1] for minute in minutes))
    raises = sum(step.key.startswith("raise.") for step in taken.steps)
    helper = any(step.two_people for step in taken.steps)
    return WorkOrder(taken.steps, taken.joints, taken.lists, (), taken.remarks, total, (0.0, 0.0), raises, helper)


def _procedure(one: Procedure, car: Mapping[str, str], versions: Mapping[str, int]) -> m.ProcedureView:
    any_ = one.layouts[0] if one.layouts else ""
    fitting = [axle for axle in one.axles if not any_ or car.get(f"{axle}.layout", any_) in one.layouts]
    fits = bool(fitting) or not one.axles
    return m.ProcedureView.of(
        one,
        named=named_by(one),
        sought=sought_by(one),
        axles=list(fitting or one.axles),
        by_side=one.per == "side",
        fits=fits,
        why_not="" if fits else f"For {', '.join(LAYOUTS[key].label.lower() for key in one.layouts)}.",
        own=one.key in versions,
        version=versions.get(one.key, 0),
        operations=len(one.operations),
        checks=[m.PartCheckView(**vars(check)) for check in one.checks],
    )


def _show(order: WorkOrder, known: Known, now: Standing, taken: Planned | None) -> m.PlanView:
    chosen = known.ways
    used = {step.school for step in order.steps if step.school}
    return m.PlanView(
        steps=[_step(step) for step in order.steps],
        lists=[m.ListingView(**vars(one)) for one in order.lists],
        sizes=_sizes(now),
        questions=[
            m.QuestionView.of(
                question, choices=[ChoiceView(value=choice.value, label=choice.label) for choice in question.choices]
            )
            for question in order.questions
        ],
        remarks=[m.RemarkView(**vars(remark)) for remark in order.remarks],
        schools=[
            m.SchoolView(
                key=key,
                question=school.question,
                ways=[ChoiceView(value=way, label=words) for way, words in school.ways.items()],
                way=chosen[key],
                said=school.said,
            )
            for key, school in SCHOOLS.items()
            if any(line.startswith(school.question) for line in used) or key in ("load", "free_pivots")
        ],
        fittings=[_say_fitting(fitting, known.library) for fitting in known.brief.fittings],
        time_said=say_hours(order.minutes[0] / 60, order.minutes[1] / 60),
        wait_said=say_hours(*order.wait_h) if order.wait_h[1] else "",
        raises=order.raises,
        helper=order.helper,
        foreseen=[m.ForeseenView(**vars(one)) for one in _foreseen(now, order, known)],
        taken=taken is not None,
    )


def _foreseen(now: Standing, order: WorkOrder, known: Known) -> Iterator[Foreseen]:
    """What the job would know with this plan, by what was read so far."""
    act = now.state.plan if now.state.plan and now.state.plan.steps == order.steps else _as_act(order, known)
    after = now if act is now.state.plan else now.then(Event("", now.version + 1, now_utc(), act))
    car = (after.sprung, after.sitting) if after.changes_springs else None
    wheels = (
        {key: wheel.wheel for key, wheel in after.aligned[0].wheels.items()}
        if "turns" in after.template.pages
        else {}
    )
    return foresee(after.state, after.readings, after.template, wheels, car, after.pivots[1])


def _say_fitting(one: Fitting, library: Library) -> str:
    title = library.procedures[one.procedure].title if one.procedure in library.procedures else one.procedure
    sides = "" if len(one.sides) == 2 else f" {one.sides[0]}"
    return f"{title}{f', {one.axle}' if one.axle else ''}{sides}"


def _sizes(now: Standing) -> list[str]:
    """Drives and sizes as they were entered at the places of the job's maps."""
    found: set[str] = set()
    for joint in now.state.joints.values():
        for bolt in joint.bolts:
            told = [bolt.head, f"nut {bolt.nut}" if bolt.nut else "", f"hold {bolt.hold}" if bolt.hold else ""]
            said = ", ".join(filter(None, told))
            if said:
                found.add(f"{joint.label}: {said}")
    return sorted(found)


def say_hours(low: float, high: float) -> str:
    """A range of hours in words."""
    if high < 1:
        return f"{low * 60:.0f} to {high * 60:.0f} min"
    return f"{low:.1f} to {high:.1f} h"


def _step(step: Step) -> m.PlanStepView:
    minutes = step.minutes
    return m.PlanStepView.of(
        step,
        where_said=position_words(step.where, step.corner, step.carried_axle),
        tools=list(step.tools),
        cautions=[CAUTIONS[key] for key in step.cautions],
        minutes=f"{minutes[0]:g}–{minutes[-1]:g} min" if minutes and minutes[-1] else "",
        wait=say_hours(step.wait_h[0], step.wait_h[-1]) if step.wait_h else "",
        why=list(step.why),
        by=list(step.by),
        may_go=not step.key.startswith(MOVES),
    )
