"""What a new job takes over: from the car's record, and from the car's last baseline to compare with."""

from __future__ import annotations

from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.joblog.kinds import CAR, JobTemplate
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.required_fields import Readings, choices_now, sheet_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.springs.loads import CarLoads, car_loads


def loads_now(state: JobState, readings: Readings) -> CarLoads | None:
    """Wheel loads as they follow from a record or a job.

    Parameters
    ----------
    state : JobState
        What is true now. [-]
    readings : Readings
        Everything read in it. [-]

    Returns
    -------
    CarLoads or None
        None where the car was never weighed.

    Raises
    ------
    Nothing.

    Notes
    -----
    As :func:`fair_spindle.core.springs.loads.car_loads`.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> loads_now(JobState(), readings_now(JobState(), CAR)) is None
    True
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

    Parameters
    ----------
    car : JobState
        The record. [-]
    template : JobTemplate
        The kind of job. [-]

    Returns
    -------
    tuple of Entered
        Those the job asks for too.

    Raises
    ------
    Nothing.

    Notes
    -----
    An entry of a layout the car no longer has stays in its record alone.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> from_record(JobState(), WORK)
    ()
    """
    shape_choices = choices_now(car)
    wanted = _asked(template, shape_choices)
    record = sheet_now(car, CAR).fields
    return tuple(taken.act for key, taken in car.entries.items() if key in wanted and key in record)


def last_baseline(job: JobState, then: JobTemplate, now: JobTemplate) -> tuple[Entered, ...]:
    """Readings of an earlier job on the same car that a new one can be compared with.

    Parameters
    ----------
    job : JobState
        The earlier job. [-]
    then, now : JobTemplate
        Its kind, and the new job's. [-]

    Returns
    -------
    tuple of Entered
        What was read after the job where it was checked, before it otherwise.

    Raises
    ------
    Nothing.

    Notes
    -----
    A reading of the check stands for the baseline of the next job.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> last_baseline(JobState(), WORK, WORK)
    ()
    """
    sheet = sheet_now(job, then).fields
    wanted = _asked(now, choices_now(job))
    found: dict[str, Entered] = {}
    for key, taken in job.entries.items():
        if key in sheet and sheet[key].phase in ("baseline", "check") and not taken.source:
            name = key.replace(".check_", ".")
            if name in wanted and (name not in found or name != key):
                act = taken.act
                found[name] = Entered(name, act.method, act.typed, act.choice, act.plus_minus, act.again, act.gauge)
    return tuple(found.values())


def _asked(template: JobTemplate, choices: dict[str, str]) -> frozenset[str]:
    return frozenset(sheet_for(template.key, shape_of(choices)).fields)
