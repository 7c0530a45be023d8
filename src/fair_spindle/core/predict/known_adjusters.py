"""Whether what was turned is there to be turned: the adjusters that a wheel has, by the car's record and points."""

from __future__ import annotations

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.log import Act, Turned
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.geometry import adjusters_known, with_usual_front
from fair_spindle.core.predict.steering import solid_steering


def hold_turns(act: Act, state: JobState, template: JobTemplate) -> None:
    """Refuse turns of an adjuster that the wheel does not have; every other act passes."""
    if not isinstance(act, Turned):
        return
    readings = readings_now(state, template)
    if act.wheel == "front":
        steering = solid_steering(readings)
        known = tuple(rod.adjuster.name for rod in steering.rods) if steering else ()
    else:
        known = adjusters_known(with_usual_front(readings), act.wheel)
    if act.adjuster not in known:
        told = ", ".join(known) or "none, by its record and points"
        raise InputError(f"Adjusters of this wheel: {told}; got {act.adjuster!r}.", field="adjuster")
