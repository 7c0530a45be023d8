"""Takes a plan into a demo job and works it off: what is next, by the rules of the floor, with invented values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import BoltSpec, Joint
from fair_spindle.core.joblog.bolt_needs import needed_stages, next_work
from fair_spindle.core.joblog.log import Drawn, Entered, HeightRead, Moved, Stepped, Turned, Worked
from fair_spindle.core.joblog.plan_now import MOVES, short_goals
from fair_spindle.core.joblog.required_fields import choices_now
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief
from fair_spindle.core.planning.template import JointGoal, Step
from fair_spindle.core.turns.threads import tally
from fair_spindle.demo.desk import Desk
from fair_spindle.demo.entering import enter
from fair_spindle.formats.procedure_file import shipped
from fair_spindle.jobs.planning import planned

SOURCE = "Orrowby shop sheet F-12 (invented for the demo)"
# Torque, unit, thread and class by the end of a joint's key; invented like the cars.
SPECS = {
    "wheel": ("105", "nm", 12.0, 1.5, ""),
    "link": ("48", "nm", 10.0, 1.5, "8.8"),
    "arm": ("88", "nm", 12.0, 1.25, "10.9"),
    "jam": ("52", "nm", 14.0, 1.5, "8.8"),
    "taper": ("41", "nm", 12.0, 1.25, "8.8"),
    "unit": ("70", "lb_ft", 12.0, 1.25, "10.9"),
    "top": ("24", "nm", 8.0, 1.25, "8.8"),
    "rod": ("55", "nm", 12.0, 1.25, "10.9"),
}


def take(desk: Desk, brief: Brief) -> None:
    """Plan a brief and take it into the job."""
    desk.write(planned(Known(brief, shipped(), choices_now(desk.state), {})))


def specify(desk: Desk) -> None:
    """Every fastener of the plan with its invented value."""
    plan = desk.state.plan
    desk.write(*(Drawn(_specified(joint)) for joint in (plan.joints if plan else ())))


def _specified(joint: Joint) -> Joint:
    text, unit, diameter, pitch, grade = SPECS[joint.key.split(".")[1]]
    spec = BoltSpec(torque=Typed(text, unit), source=SOURCE)
    told = {"diameter_mm": diameter, "pitch_mm": pitch, "property_class": grade, "spec": spec}
    return replace(joint, bolts=tuple(replace(bolt, **told) for bolt in joint.bolts))  # type: ignore[arg-type]


def follow(
    desk: Desk,
    counted: Mapping[str, str],
    until: str = "",
    loaded: Mapping[str, str] | None = None,
    check: tuple[Entered, ...] = (),
) -> None:
    """Do step after step, up to one: turns off as counted by side, heights at load by side, readings of the check."""
    for step in desk.now.template.steps if desk.state.plan else ():
        if step.key == until:
            return
        if step.key in desk.state.steps:
            continue
        if step.key.startswith(MOVES):
            desk.write(Moved(step.where, step.corner, step.carried_axle))
            continue
        if step.asks == "height" and step.corner:
            desk.write(HeightRead(step.corner, Typed((loaded or {})[step.corner], "mm"), step.carried_axle))
        if step.asks == "check":
            desk.write(*check)
        for goal in short_goals(step, desk.state):
            _bring(desk, goal)
        _count(desk, step, counted)
        desk.write(Stepped(step.key))


def _bring(desk: Desk, goal: JointGoal) -> None:
    joint = desk.state.joints[goal.joint]
    step = Step("", "", desk.state.position, "", brings_joints=(goal,))
    while short_goals(step, desk.state):
        wanted = next_work(joint, desk.state)
        assert wanted.to is not None
        places = tuple(bolt.number for bolt in joint.bolts if wanted.to in needed_stages(bolt).stages)
        reading = joint.bolts[0].spec.torque if wanted.to == "torqued" and joint.bolts[0].spec else None
        desk.write(Worked(joint.key, places, wanted.to, reading))


def _count(desk: Desk, step: Step, counted: Mapping[str, str]) -> None:
    """Turns off as told, turns on as planned."""
    for reading in step.reads:
        wheel = f"{reading.axle}.{reading.side}"
        if reading.required and reading.choices:
            desk.write(Entered(reading.key, choice=reading.choices[0]))
        if reading.name == "tie.turns_off":
            desk.write(enter(reading.key, counted[reading.side], "turn"))
        elif reading.name == "tie.turns_on":
            aligned = desk.now.aligned[1][wheel]
            adjuster = next(adjuster for adjuster in aligned.plan.wheel.adjusters if adjuster.part == f"{wheel}.tie")
            count = tally(abs(aligned.planned[adjuster.name]) * adjuster.step)
            desk.write(enter(reading.key, f"{count.turns} {count.flats}/6", "turn"))


def turn_to_plan(desk: Desk) -> None:
    """Every adjuster turned by what is planned."""
    for key, wheel in desk.now.aligned[1].items():
        for name, steps in wheel.planned.items():
            if steps:
                desk.write(Turned(key, name, steps))  # type: ignore[arg-type]
