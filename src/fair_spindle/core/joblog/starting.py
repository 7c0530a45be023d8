"""What a new job takes over: from the car's record, and from the car's last baseline to compare with."""

from __future__ import annotations

from collections.abc import Mapping

from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.field import MEASURING
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.joblog.kinds import CAR, JobTemplate
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.required_fields import Readings, choices_now, sheet_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.springs.loads import CarLoads, car_loads


def loads_now(state: JobState, readings: Readings) -> CarLoads | None:
    """Wheel loads as they follow from a record or a job.

    As :func:`fair_spindle.core.springs.loads.car_loads`.
    """
    quantities = readings.quantities
    if "car.loads" not in quantities:
        return None
    unsprung: dict[str, float] = {
        axle: quantities[key].value for axle in AXLES if (key := f"{axle}.unsprung") in quantities
    }
    return car_loads(state.entries["car.loads"].act.method, quantities["car.loads"].parts, unsprung)


def from_record(car: JobState, template: JobTemplate) -> tuple[Entered, ...]:
    """Entries that a job takes over from the car's record.

    An entry of a layout the car no longer has stays in its record alone.
    """
    shape_choices = choices_now(car)
    wanted = _asked(template, shape_choices)
    record = sheet_now(car, CAR).fields
    return tuple(taken.act for key, taken in car.entries.items() if key in wanted and key in record)


def last_baseline(job: JobState, then: JobTemplate, now: JobTemplate) -> tuple[Entered, ...]:
    """Readings of an earlier job on the same car that a new one can be compared with.

    A reading of the check stands for the baseline of the next job.
    """
    sheet = sheet_now(job, then).fields
    wanted = _asked(now, choices_now(job))
    found: dict[str, Entered] = {}
    for key, taken in job.entries.items():
        if key in sheet and sheet[key].phase in MEASURING and not taken.source:
            name = key.replace(".check_", ".")
            if name in wanted and (name not in found or name != key):
                act = taken.act
                found[name] = Entered(name, act.method, act.typed, act.choice, act.plus_minus, act.again, act.gauge)
    return tuple(found.values())


def _asked(template: JobTemplate, choices: Mapping[str, str]) -> frozenset[str]:
    return frozenset(sheet_for(template.key, shape_of(choices)).fields)
