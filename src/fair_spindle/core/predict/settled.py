"""A job on springs through its life: predicted, settled, and what a look at it finds."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.findings import Finding
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.limits import WheelTravel
from fair_spindle.core.predict.ride_height import Sitting

WITHIN_HEIGHT = 3.0


def with_heights(readings: Readings, sitting: Sitting) -> Readings:
    """Readings in which every wheel's height change is what the springs bring.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]
    sitting : Sitting
        Where the car will sit. [mm]

    Returns
    -------
    Readings
        As given where the sitting is not known.

    Raises
    ------
    Nothing.

    Notes
    -----
    So that toe and camber follow the height.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> readings = readings_now(JobState(), WORK)
    >>> with_heights(readings, Sitting()) is readings
    True
    """
    if not sitting.wheels:
        return readings
    changes = {
        f"{wheel.key}.height_change": Quantity(
            wheel.change, wheel.plus_minus / COVERAGE, parts={"apart": wheel.apart}
        )
        for wheel in sitting.wheels
    }
    return replace(readings, quantities={**readings.quantities, **changes})


def with_read_heights(readings: Readings) -> Readings:
    """Readings in which a height read again after settling stands for whatever was foreseen of that wheel."""
    told = readings.quantities
    changes = {
        f"{key}.height_change": Quantity(after.value - before.value, size, parts={"apart": size})
        for key, after in heights_after(readings).items()
        if (before := told.get(f"{key}.height"))
        for size in (float(np.hypot(after.uncertainty, before.uncertainty)),)
    }
    return replace(readings, quantities={**told, **changes}) if changes else readings


def loads_after(readings: Readings) -> dict[str, float]:
    """Wheel loads weighed after settling.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]

    Returns
    -------
    dict
        By wheel; empty where nobody weighed. [N]

    Raises
    ------
    Nothing.

    Notes
    -----
    Those of the check.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> loads_after(readings_now(JobState(), WORK))
    {}
    """
    scales = readings.quantities.get("car.check_loads")
    return {wheel: scales.parts[wheel.number] for wheel in WHEELS} if scales and scales.parts else {}


def heights_after(readings: Readings) -> dict[str, Quantity]:
    """Heights read after settling.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]

    Returns
    -------
    dict
        By wheel. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Those of the check.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> heights_after(readings_now(JobState(), WORK))
    {}
    """
    told = readings.quantities
    return {key: told[name] for key in WHEELS if (name := f"{key}.check_height") in told}


def look_settled(
    readings: Readings, sitting: Sitting, after: Mapping[str, Quantity], travels: Sequence[WheelTravel]
) -> list[Finding]:
    """Say what is off: heights that miss what was wanted or predicted, travel that runs out.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]
    sitting : Sitting
        The prediction. [mm]
    after : mapping of Quantity
        Heights after settling, by wheel. [mm]
    travels : sequence of WheelTravel
        What ends each wheel's travel. [mm]

    Returns
    -------
    list of Finding
        Open items and questions.

    Raises
    ------
    Nothing.

    Notes
    -----
    A height is open where it misses what is wanted by more than 3 mm, the product's own.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> look_settled(readings_now(JobState(), WORK), Sitting(), {}, [])
    []
    """
    found = [Finding("no_heights", "open", sitting.problem, "springs", "derived")] if sitting.problem else []
    for wheel in sitting.wheels:
        name = label_wheel(wheel.key)
        read, target = after.get(wheel.key), readings.quantities.get(f"{wheel.key}.target.height")
        stands = read.value if read else wheel.predicted
        if stands is None:
            continue
        said = "stands" if read else "will stand"
        if target and abs(stands - target.value) > WITHIN_HEIGHT:
            off = f"{stands - target.value:+.1f}".replace("-", "−")
            message = f"{name} {said} {off} mm from the height wanted."
            found.append(Finding("height_off", "open" if read else "question", message, f"{wheel.key}.check_height"))
        if read and wheel.predicted is not None:
            open_ = (wheel.predicted_plus_minus**2 + (COVERAGE * read.uncertainty) ** 2) ** 0.5
            miss = read.value - wheel.predicted
            if abs(miss) > open_:
                message = (
                    f"{name} came out {miss:+.1f} mm from the prediction, more than its ± {open_:.1f} mm. "
                    "Is the spring seated, the ratio right, a bar link forced, rubber clamped off height?"
                ).replace("-", "−", 1)
                found.append(Finding("height_unexplained", "question", message, f"{wheel.key}.check_height"))
    for travel in travels:
        name = label_wheel(travel.key)
        found += [
            Finding("travel", "question", f"{name}: {words}", f"{travel.key}.height") for words in travel.warnings
        ]
    return found
