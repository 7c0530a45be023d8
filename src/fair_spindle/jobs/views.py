"""From a job's log to what the interface shows."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import degrees
from typing import TypeVar

from fair_spindle.core.fasteners import odd_thread
from fair_spindle.core.floor.asking import missing_fields
from fair_spindle.core.floor.deriving import effective
from fair_spindle.core.floor.findings import doubt_specification
from fair_spindle.core.floor.hindrance import step_hindrance
from fair_spindle.core.floor.loading import Windows, clamp_gate, needs_load
from fair_spindle.core.floor.log import Event, Specified, Undone
from fair_spindle.core.floor.plan_now import reopened
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.floor.state import JobState, PlaceState
from fair_spindle.core.floor.wording import position_words
from fair_spindle.core.front_axle import RULES, Check, Computed, TurnPlan, Window
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.outlook.corners import windows_of
from fair_spindle.core.planning.cautions import CAUTIONS
from fair_spindle.core.planning.template import SIDES, FastenerGroup, JobTemplate, Side, Step
from fair_spindle.core.sheet.field import Sheet
from fair_spindle.core.threads import FLAT, tally
from fair_spindle.formats.job_file import digest
from fair_spindle.jobs import models as m
from fair_spindle.jobs.book_models import BySide, LogLineView
from fair_spindle.jobs.book_views import show_book, show_loads, show_typed, show_wheels
from fair_spindle.jobs.saying import names_in, say_act, say_field, say_quantity, say_toe, say_turns, say_typed
from fair_spindle.jobs.standing import Standing

T = TypeVar("T")


def show_job(now: Standing, walks: Mapping[str, list[str]] | None = None) -> m.JobView:
    """Everything about a job, for the interface, with the order in which one walks round the car."""
    state, template = now.state, now.template
    windows = windows_of(now.plans)
    return m.JobView(
        **show_book(now),
        kind=template.key,
        pages=list(template.pages),
        car_id=now.book.car_id,
        settled=state.settled,
        walks=dict(walks or {}),
        missing={phase: list(missing_fields(state, template, phase)) for phase in ("baseline", "check")},
        before_from=state.before_from,
        wheels=show_wheels(now),
        loads=show_loads(now),
        pictures=[
            m.PictureView(subject=act.subject, sha256=act.sha256, name=act.name, at=event.at)
            for event, act in state.attached
        ],
        position=state.position,
        corner=state.corner,
        carried_axle=state.carried_axle,
        position_said=position_words(state.position, state.corner, state.carried_axle),
        corners=_both(lambda side: _corner(now, side)),
        gates=_both(lambda side: _gate(side, state, windows)),
        counts=_both(lambda side: _counts(state, side)),
        steps=[_step(step, state, template) for step in template.steps],
        groups=[_group(group, state) for group in template.groups],
        findings=[m.FindingView(**vars(finding)) for finding in now.findings],
        notes=[m.NoteView(text=act.text, step=act.step, at=event.at) for event, act in state.notes],
        overrides=[m.OverrideView(places=list(o.places), reason=o.reason, at=o.at) for o in state.overrides],
        signature=_signature(now),
    )


def show_log(now: Standing) -> list[LogLineView]:
    """The log in words, oldest first."""
    counting = {event.id for event in effective(now.log)}
    names = names_in(now.log)
    words = {event.id: say_act(event.act, now.template, now.sheet, names) for event in now.log}
    return [
        LogLineView(
            id=event.id,
            seq=event.seq,
            at=event.at,
            kind=event.act.kind,
            said=f"Undone: {words[event.act.event]}" if isinstance(event.act, Undone) else words[event.id],
            undone=event.id not in counting and not isinstance(event.act, Undone),
        )
        for event in now.log
    ]


def _both(show: Callable[[Side], T]) -> BySide[T]:
    return BySide(left=show("left"), right=show("right"))


def _gate(side: Side, state: JobState, windows: Windows) -> m.GateView:
    evidence, reason = clamp_gate(side, state, windows)
    return m.GateView(open=evidence is not None, reason=reason, height_mm=state.loaded_heights.get(f"front.{side}"))


def _turns(flats: int) -> m.TurnsView:
    count = tally(flats * FLAT)
    return m.TurnsView(
        turns=count.turns, flats=count.flats, back=count.back, total_flats=flats, said=say_turns(flats)
    )


def _flats(turns: float) -> int:
    return round(turns / FLAT)


def _counts(state: JobState, side: Side) -> m.CountsView:
    return m.CountsView(
        off=_turns(state.flats(side, "off")),
        on=_turns(state.flats(side, "on")),
        correct=_turns(state.flats(side, "correct")),
    )


class _Numbers:
    """Computed numbers of one corner, with the inputs they came from."""

    def __init__(self, now: Standing, side: Side) -> None:
        self._corner = now.corners[side]
        self._sheet = now.sheet
        self._side = side
        self._said: dict[str, tuple[str, str, str]] = {}

    def length(self, computed: Computed | None) -> m.NumberView | None:
        """A length in mm."""
        return None if computed is None else self._number(computed, computed.value, computed.plus_minus, "mm")

    def toe(self, computed: Computed) -> m.NumberView:
        """A toe in minutes."""
        size = degrees(computed.value) * 60
        return self._number(computed, size, degrees(computed.plus_minus) * 60, "'", say_toe(computed.value))

    def turns(self, computed: Computed) -> m.NumberView:
        """Turns, as a decimal number."""
        return self._number(computed, computed.value, computed.plus_minus, "turns")

    def _number(self, computed: Computed, value: float, pm: float, unit: str, also: str = "") -> m.NumberView:
        names = sorted(computed.inputs, key=lambda name: -computed.shares.get(name, 0.0))
        return m.NumberView(
            value=value,
            plus_minus=pm,
            unit=unit,
            also=also,
            rule=RULES[computed.rule],
            inputs=[self._input(name, computed.shares.get(name, 0.0)) for name in names],
        )

    def _input(self, name: str, share: float) -> m.InputView:
        if name not in self._said:
            self._said[name] = self._say(name)
        key, label, shown = self._said[name]
        return m.InputView(key=key, label=label, shown=shown, share_pct=100 * share)

    def _say(self, name: str) -> tuple[str, str, str]:
        """Key, label and value of an input; many numbers rest on the same ones."""
        key = field_key(name, self._side, self._sheet)
        read = self._corner.quantities.get(name)
        return key, say_field(key, self._sheet), say_quantity(self._sheet.find(key), read) if read else ""


def field_key(name: str, side: Side, sheet: Sheet) -> str:
    """Full key of a front corner's input from its short name."""
    return f"front.{name}" if f"front.{name}" in sheet.fields else f"front.{side}.{name}"


def _toe(angle: float, uncertainty: float = 0.0) -> m.NumberView:
    """A toe that was read or wanted, in minutes."""
    spread = degrees(COVERAGE * uncertainty) * 60
    return m.NumberView(value=degrees(angle) * 60, plus_minus=spread or None, unit="'", also=say_toe(angle))


def _read_height(height: Quantity | None) -> m.NumberView | None:
    if height is None:
        return None
    return m.NumberView(value=height.value, plus_minus=COVERAGE * height.uncertainty, unit="mm")


def _corner(now: Standing, side: Side) -> m.CornerView:
    corner, plan, numbers = now.corners[side], now.plans[side], _Numbers(now, side)
    height, toe = plan.height_now, corner.quantities.get("toe")
    return m.CornerView(
        height_now=_read_height(height),
        height_readings_mm=list(height.repeats) if height else [],
        height_spread_mm=height.spread if height else None,
        height_change=numbers.length(plan.height_change),
        height_predicted=numbers.length(plan.height_predicted),
        toe_now=_toe(toe.value, toe.uncertainty) if toe else None,
        toe_target=None if plan.toe_target is None else _toe(plan.toe_target),
        toe_from_height=plan.toe_from_height and numbers.toe(plan.toe_from_height),
        toe_untouched=plan.toe_untouched and numbers.toe(plan.toe_untouched),
        window=_window(plan.window, height.value if height else None) if plan.window else None,
        turns=_turn_plan(plan.turns, numbers) if plan.turns else None,
        check=_check(plan.check, numbers),
        missing={what: [field_key(name, side, now.sheet) for name in names] for what, names in plan.missing.items()},
        problem=plan.problem,
    )


def _window(window: Window, today: float | None) -> m.WindowView:
    twist = window.twist_today
    return m.WindowView(
        low=window.low,
        high=window.high,
        about=window.about,
        measured=window.measured,
        today=today,
        twist_today_deg=None if twist is None else degrees(twist),
    )


def _turn_plan(turns: TurnPlan, numbers: _Numbers) -> m.TurnPlanView:
    return m.TurnPlanView(
        off=_turns(_flats(turns.turns_off)),
        on=_turns(_flats(turns.set_turns)),
        exact=numbers.turns(turns.turns_on),
        engagement_mm=turns.engagement,
        min_engagement_mm=turns.min_engagement,
        engagement_ok=turns.engagement_ok,
        toe_reached=numbers.toe(turns.toe_reached),
        plain=_turns(_flats(turns.turns_off)),
        plain_toe=_toe(turns.plain_toe),
        plain_error=_toe(turns.plain_error),
    )


def _check(check: Check, numbers: _Numbers) -> m.CheckView:
    toe = check.toe
    return m.CheckView(
        height=_read_height(check.height),
        height_miss_mm=check.height_miss,
        height_explained=check.height_explained,
        toe=_toe(toe.value, toe.uncertainty) if toe else None,
        toe_predicted=check.toe_predicted and numbers.toe(check.toe_predicted),
        toe_miss_min=None if check.toe_miss is None else degrees(check.toe_miss) * 60,
        toe_explained=check.toe_explained,
        toe_in_tolerance=check.toe_in_tolerance,
        correction=None if check.correction is None else _turns(_flats(check.correction)),
        corrected_toe=None if check.corrected_toe is None else _toe(check.corrected_toe),
    )


def _step(step: Step, state: JobState, template: JobTemplate) -> m.StepView:
    event, act = state.steps.get(step.key, (None, None))
    return m.StepView(
        key=step.key,
        title=step.title,
        detail=step.detail,
        where=step.where,
        corner=step.corner,
        where_said=position_words(step.where, step.corner, step.axle or "front"),
        tools=list(step.tools),
        cautions=[CAUTIONS[key] for key in step.cautions],
        brings=dict(step.brings),
        frees=list(step.frees),
        asks=step.asks,
        sides=list(step.sides),
        two_people=step.two_people,
        axle=step.axle,
        phase=step.phase,
        joints=[goal.joint for goal in step.brings_joints if goal.joint in state.joints],
        goals={goal.joint: goal.to for goal in step.brings_joints},
        why=list(step.why),
        school=step.school,
        wait_h=list(step.wait_h),
        reopens=_reopens(step, state, template) if act else [],
        state="skipped" if act and act.outcome == "skipped" else "done" if act else "open",
        reason=act.reason if act else "",
        at=event.at if event else "",
        why_not=step_hindrance(step, state, template),
    )


def _reopens(step: Step, state: JobState, template: JobTemplate) -> list[str]:
    """Titles of the steps that are open again with it."""
    gone = reopened(state, template, [step.key]) - {step.key}
    return [one.title for one in template.steps if one.key in gone]


def _spec(event: Event, spec: Specified) -> m.SpecView:
    doubt = doubt_specification(spec)
    thread = "" if spec.affirmed else odd_thread(spec.diameter_mm, spec.pitch_mm)
    return m.SpecView(
        torque=show_typed(spec.torque),
        said=say_typed(spec.torque),
        source=spec.source,
        diameter_mm=spec.diameter_mm,
        pitch_mm=spec.pitch_mm,
        property_class=spec.property_class,
        affirmed=spec.affirmed,
        doubt=" ".join(filter(None, (thread, doubt.message if doubt else ""))),
        likelier_unit=doubt.likelier_unit if doubt else None,
        event=event.id,
    )


def _group(group: FastenerGroup, state: JobState) -> m.GroupView:
    return m.GroupView(
        key=group.key,
        label=group.label,
        role=group.role,
        tools=group.tools,
        orientation=group.orientation,
        tied=group.tied,
        needs_load=_both(lambda side: needs_load(group, side, state)),
        spec=_spec(*state.specs[group.key]) if group.key in state.specs else None,
        places=[
            _place(place, number, side, state)
            for side in SIDES
            for number, place in enumerate(group.places(side), start=1)
        ],
    )


def _place(key: str, number: int, side: Side, state: JobState) -> m.PlaceView:
    now = state.places.get(key, PlaceState())
    overrides = [o.reason for o in state.overrides if key in o.places]
    clamp = now.clamp
    return m.PlaceView(
        key=key,
        number=number,
        side=side,
        stage=now.stage,
        reading=say_typed(now.reading),
        by_feel=now.by_feel,
        clamp=f"{clamp.height_mm:.1f} mm in {clamp.low_mm:.0f}–{clamp.high_mm:.0f} mm" if clamp else "",
        overridden=overrides[-1] if overrides else "",
    )


def _signature(now: Standing) -> m.SignatureView | None:
    if now.state.signature is None:
        return None
    event, act = now.state.signature
    before = [line for line in now.log if line.seq < event.seq]
    return m.SignatureView(
        name=act.name,
        at=event.at,
        digest=act.digest,
        intact=digest(before) == act.digest,
        listed=list(act.listed),
    )
