"""How a job or a car stands: its log, what follows from it, and what is computed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field, fields
from functools import cached_property
from typing import Any

from fair_spindle.core.basics.growing import Growing
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.fields.doubts import Doubt
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.corner import Corner as Corner3D
from fair_spindle.core.joblog.findings import Finding, doubts_now, look
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.loading import Windows
from fair_spindle.core.joblog.log import Event, Undone
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.reducer import derive, derive_on
from fair_spindle.core.joblog.required_fields import Readings, choices_now
from fair_spindle.core.joblog.state import JobState, Taken
from fair_spindle.core.joblog.together import together
from fair_spindle.core.predict.aligned import (
    AlignedWheel,
    align_rods,
    follow_plan,
    look_aligned,
    look_rods,
    look_thrust,
    look_wheel_off,
)
from fair_spindle.core.predict.bolted import look_bolts, look_clamped
from fair_spindle.core.predict.clamping import Pivot, WoundUp, pivots_of, windows_of_joints, wound_up
from fair_spindle.core.predict.ends import look_ends
from fair_spindle.core.predict.height_model import HeightModel
from fair_spindle.core.predict.limits import wheel_travels
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.predict.settled import heights_after, look_settled
from fair_spindle.core.predict.sides import sides_apart
from fair_spindle.core.predict.sprung_car import SprungCar
from fair_spindle.core.predict.turning import CarPlan
from fair_spindle.core.springs.loads import CarLoads
from fair_spindle.formats.job_file import BookHead
from fair_spindle.formats.job_kinds import find_kind
from fair_spindle.jobs.outlook import Outlook
from fair_spindle.jobs.wording import names_in
from fair_spindle.records.tables import BookRow

_PARTS = frozenset(one.name for one in fields(JobState))
_STEPS = frozenset({"plan", "joints", "taken_off"})
_READ = _STEPS | {"entries", "counts"}
_AT_BOLTS = _STEPS | {"bolts", "overrides", "choices"}
# What each result rests on: a line that changes none of these parts of the state leaves it as it is. Of what is
# entered, "choices" are those alone that no number decides.
RESTS_ON: Mapping[str, frozenset[str]] = {
    "template": _STEPS,
    "step_views": _STEPS,
    "work_views": (_PARTS | {"choices"}) - {"entries", "before", "before_from", "notes", "attached", "stopped"},
    "outlook": _READ,
    "choice_views": _STEPS | {"choices"},
    "entry_views": _STEPS | {"choices"},
    "read_views": _READ | {"before", "settled"},
    "doubts": _READ | {"before", "settled"},
    "aligned": _READ | {"turned", "replaced", "before", "settled"},
    "predicted": _READ | {"turned", "replaced", "before", "settled"},
    "ends_by_geometry": _READ | {"turned", "replaced", "before", "settled"},
    "found_in_readings": _READ | {"turned", "replaced", "before", "settled"},
    "found_at_bolts": _AT_BOLTS,
    "finished_together": _AT_BOLTS,
    "pivots": _READ | {"before", "settled"},
    "wound": _PARTS - {"notes", "attached", "stopped", "steps"},
    "note_views": frozenset({"notes"}),
    "findings": _PARTS - {"notes", "attached", "stopped"},
    "state_views": _PARTS - {"notes", "attached", "stopped"},
}


def head_of(book: BookRow) -> BookHead:
    """What stands at the head of its file."""
    return BookHead(
        id=book.id,
        template=book.template,
        title=book.title,
        car=book.car,
        created_at=book.created_at,
        car_id=book.car_id,
    )


@value_object
class Predicted:
    """Where the car will sit, what its wheels' angles come to, how sure that is; axles whose heights the work
    moves."""

    sitting: Sitting
    readings: Readings
    wheels: Mapping[str, AlignedWheel]
    moved: frozenset[str]


@value_object
class Standing:
    """A job or car with its log and the workshop's limits; the rest is worked out when it is asked for."""

    book: BookRow
    log: Sequence[Event]
    limits: Mapping[str, float] = field(default_factory=dict)

    @property
    def kind(self) -> JobTemplate:
        """Its kind, as every job of it begins."""
        return find_kind(self.book.template)

    @cached_property
    def template(self) -> JobTemplate:
        """Its kind with the steps that were planned."""
        return template_now(self.state, self.kind)

    @cached_property
    def step_views(self) -> dict[str, tuple[object, Any]]:
        """Steps as they were shown last with these steps and joints, by key, each with what decided it then."""
        return {}

    @cached_property
    def work_views(self) -> list[tuple[tuple[Taken | None, ...], Any]]:
        """Steps as they were shown last with this work done, each with what had been read for it then."""
        return []

    @cached_property
    def state_views(self) -> dict[str, Any]:
        """Steps as they were shown last, where no more than a note was written since."""
        return {}

    @cached_property
    def read_views(self) -> dict[str, Any]:
        """What was read, as it was shown last with these readings: entries, wheels, loads."""
        return {}

    @cached_property
    def entry_views(self) -> dict[str, tuple[Taken, Doubt | None, Any]]:
        """Entries as they were shown last among these fields, by key, each with what decided it then."""
        return {}

    @cached_property
    def note_views(self) -> dict[str, Any]:
        """The notes as they were shown last, where none was written since."""
        return {}

    @cached_property
    def choice_views(self) -> dict[str, Any]:
        """What choices alone decide, as it was shown last with these: the way round the car."""
        return {}

    @cached_property
    def choices(self) -> Mapping[str, str]:
        """Every choice that was made in it."""
        return choices_now(self.state)

    @property
    def changes_springs(self) -> bool:
        """Whether springs are changed in it, so that the car will sit elsewhere."""
        return "springs" in self.template.pages

    @property
    def version(self) -> int:
        """Length of the log."""
        return self.log[-1].seq if self.log else 0

    @cached_property
    def state(self) -> JobState:
        """What follows from the log."""
        return derive(self.log, self.kind)

    def then(self, event: Event) -> Standing:
        """How it stands after one more line; what is known already is not derived again."""
        log = self.log if isinstance(self.log, Growing) else Growing(self.log)
        after = Standing(self.book, log.and_one(event), self.limits)
        after.__dict__["state"] = derive_on(self.state, after.log, self.kind)
        after.__dict__["names"] = {**self.names, **names_in([event.act])}
        same = {name for name in _PARTS if getattr(after.state, name) is getattr(self.state, name)}
        if after.choices == self.choices:
            same.add("choices")
        after.__dict__.update(
            {name: self.__dict__[name] for name, rests in RESTS_ON.items() if name in self.__dict__ and rests <= same}
        )
        return after

    def titled(self, title: str) -> Standing:
        """The same under another title."""
        named = Standing(BookRow(**{**self.book.model_dump(), "title": title}), self.log, self.limits)
        named.__dict__["state"] = self.state
        return named

    @cached_property
    def names(self) -> Mapping[str, str]:
        """Names of the joints and fasteners its log ever knew, by key."""
        return names_in((*self.kind.opening, *(event.act for event in self.log)))

    @cached_property
    def outlook(self) -> Outlook:
        """What is worked out of its readings alone."""
        return Outlook(self.state, self.template, self.limits)

    @property
    def readings(self) -> Readings:
        """Everything read in it."""
        return self.outlook.readings

    @property
    def sheet(self) -> Sheet:
        """The fields asked now."""
        return self.readings.sheet

    @property
    def corner_points(self) -> Mapping[str, Corner3D]:
        """Wheels whose points are known, by axle and side."""
        return self.outlook.corner_points

    @property
    def sprung(self) -> SprungCar:
        """What decides where the car sits."""
        return self.outlook.sprung

    @property
    def height_model(self) -> HeightModel | None:
        """What decides the wheels' heights, where springs are changed."""
        return self.outlook.height_model if self.changes_springs else None

    @property
    def sitting(self) -> Sitting:
        """Where the car will sit, and how sure that is."""
        return self.outlook.sitting

    @property
    def aligning(self) -> Readings:
        """Readings that toe and camber are planned from: with the heights the springs bring, or those read since."""
        return self.outlook.aligning

    @cached_property
    def aligned(self) -> tuple[CarPlan, dict[str, AlignedWheel]]:
        """The turns of every wheel, without how sure they are."""
        plan = self.outlook.plan
        return plan, follow_plan(plan, self.state, self.aligning)

    @cached_property
    def predicted(self) -> Predicted:
        """Heights and angles as they are to come out, with how sure that is."""
        sitting = self.sitting if self.changes_springs else Sitting()
        foreseen = self.outlook.foreseen
        wheels = follow_plan(self.outlook.foreseen_plan, self.state, foreseen)
        return Predicted(sitting, foreseen, wheels, self.outlook.axles_moved if self.changes_springs else frozenset())

    @cached_property
    def pivots(self) -> tuple[dict[str, Pivot], dict[str, str]]:
        """Clamp windows of the rubber pivots on its maps, and what is missing for the others."""
        return pivots_of(self.state, self.readings, self.sitting if self.changes_springs else None)

    @cached_property
    def wound(self) -> list[WoundUp]:
        """Bolts whose rubber was clamped off the height the car lives at."""
        return wound_up(self.state, self.readings, self.pivots[0], self.sprung)

    @property
    def windows(self) -> Windows:
        """Between which heights rubber may be clamped, by joint."""
        return windows_of_joints(self.pivots[0])

    @cached_property
    def findings(self) -> list[Finding]:
        """What a look at the job finds."""
        found = look(self.state, self.readings, self.template)
        found += self.found_at_bolts
        found += look_clamped(self.state, self.readings, self.wound)
        found += look_ends(self.state, self.readings, self.ends_by_geometry)
        return found + self.found_in_readings

    @cached_property
    def found_at_bolts(self) -> list[Finding]:
        """What a look at its bolts alone finds."""
        return look_bolts(self.state)

    @cached_property
    def finished_together(self) -> Mapping[str, str]:
        """What one button says that brings all fasteners of a step there, by step."""
        return {step.key: together(step, self.state) for step in self.template.steps}

    @cached_property
    def found_in_readings(self) -> list[Finding]:
        """What a look at its readings, and at what is foreseen from them, finds."""
        found: list[Finding] = []
        if self.changes_springs:
            travels = wheel_travels(self.readings, self.sitting)
            found += look_settled(self.readings, self.sitting, heights_after(self.readings), travels)
        if "turns" in self.template.pages:
            wheels = self.aligned[1]
            read = {key: wheel.read for key, wheel in wheels.items()}
            found += look_aligned(wheels, sides_apart(self.readings.quantities, read))
            found += look_thrust(wheels, self.readings)
            rods = align_rods(self.state, self.aligning)
            found += look_rods(rods) if rods else look_wheel_off(self.readings)
        return found

    @property
    def blocking(self) -> list[str]:
        """What keeps it from being signed."""
        return [finding.message for finding in self.findings if finding.severity == "blocks"]

    @cached_property
    def ends_by_geometry(self) -> frozenset[str]:
        """Threaded ends whose turns on follow from the wheel's geometry."""
        if "turns" not in self.template.pages:
            return frozenset()
        # Where nothing moves and nothing else is wanted, the count that keeps the rod's length is all there is to
        # tell.
        wheels = (one.plan.wheel for one in self.aligned[1].values())
        corrected = (wheel for wheel in wheels if wheel.travel or not wheel.as_read)
        return frozenset(one.part for wheel in corrected for one in wheel.adjusters if one.from_no_thread)

    @cached_property
    def doubts(self) -> list[Doubt]:
        """Readings that are out of line."""
        return doubts_now(self.state, self.readings)

    @property
    def loads(self) -> CarLoads | None:
        """What stands on the four wheels."""
        return self.outlook.loads

    @cached_property
    def last_undoable(self) -> Event | None:
        """The entry that undo takes back."""
        gone: set[str] = set()
        for event in reversed(self.log):
            if event.id in gone:
                continue
            if isinstance(event.act, Undone):
                gone.add(event.act.event)
            elif event.act.kind not in ("signed", "reopened"):
                return event
        return None
