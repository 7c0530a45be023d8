"""The demo's job by a work order: arms, bar and tie-rod ends of one front axle, in the middle of it."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.joblog.log import Act, Moved, Noted, Settled, Stepped, Stopped, Worked
from fair_spindle.core.joblog.required_fields import choices_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Compared, Fitting
from fair_spindle.demo.desk import Desk
from fair_spindle.demo.entering import enter, enter_camber, enter_heights, enter_toe
from fair_spindle.formats.procedure_file import shipped
from fair_spindle.jobs.planning import planned

BRIEF = Brief(
    (
        Fitting(
            "lower_arm",
            "front",
            compared={"length": Compared("341", "341"), "hand": Compared("left, right", "left, right")},
        ),
        Fitting("sway_bars", "front", options={"hole": "soft"}),
        Fitting("tie_rods", "front", compared={"hand": Compared("left, right", "left, right")}),
    ),
    schools={"taper": "separator"},
)
READ = (
    enter_heights("front.left.height", ("358.5", "358")),
    enter_heights("front.right.height", ("356", "356.5")),
    enter_toe("front.left.toe", "6"),
    enter_toe("front.right.toe", "7"),
    enter_camber("front.left.camber", "-0.6"),
    enter_camber("front.right.camber", "-0.5"),
)
LAST_FREED = "tie_rods.count_off@front.right"


def fill_order(desk: Desk) -> None:
    """Plan it, raise the car, take everything off, start the left arm by hand, stop for the day."""
    known = Known(BRIEF, shipped(), choices_now(desk.state), {})
    desk.write(planned(known), Settled(), Stepped("settle"), *READ)
    desk.write(Stepped("baseline", "skipped", "Front axle read; the rear was read last week."))
    for act in _to_parts_off(desk.state):
        desk.write(act)
    arm = "lower_arm.bush.front.left"
    desk.write(
        Worked(arm, (1,), "hand"),
        Noted("Left ball joint was tight in its seat: 20 min with the pry bar."),
        Stopped("New pinch bolts come tomorrow at nine."),
    )


def _to_parts_off(state: JobState) -> Iterator[Act]:
    plan = state.plan
    for step in plan.steps if plan else ():
        if step.key in state.steps:
            continue
        if step.key == "raise.1":
            yield Moved("hanging")
            continue
        for reading in step.reads:
            if reading.required:
                yield enter(reading.key, "22 3/6" if reading.side == "left" else "22 5/6", "turn")
        yield Stepped(step.key)
        if step.key == LAST_FREED:
            return
