"""A car through its jobs: what was read and set at each, and what changed between any two."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import field
from math import hypot
from typing import Literal

from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState

SETTINGS = (
    "damper_clicks",
    "perch",
    "perch_up",
    "new_seat",
    "new_top.spacer",
    "new_spring.rate",
    "new_spring.fit",
    "new_bar.hole",
    "new_bar.diameter",
    "bar.hole",
)
READ = ("height", "toe", "camber", "caster", "total_toe", "loads", "odometer")


@value_object
class Moment:
    """How a car stood before or after one job: quantities and words by field, as they would stand in a baseline."""

    phase: Literal["before", "after"]
    at: str
    quantities: Mapping[str, Quantity] = field(default_factory=dict)
    words: Mapping[str, str] = field(default_factory=dict)
    fields: Mapping[str, str] = field(default_factory=dict)


@value_object
class Difference:
    """One field at two moments; ``change`` with its ± where both are numbers. [core unit]"""

    key: str
    change: float | None = None
    plus_minus: float = 0.0
    differs: bool = False


def moments_of(state: JobState, readings: Readings) -> Iterator[Moment]:
    """How the car stood before a job, and after it where it was checked.

    A reading of the check stands under the name of the baseline's. What is set in the job belongs to the moment
    after; where nothing was read after, it is not known whether it was done.
    """
    before = _picked(state, readings, "baseline")
    after = _picked(state, readings, "check")
    if before:
        yield _moment("before", before, state, readings)
    if after:
        set_ = {key: key for key in readings.sheet.fields if key in state.entries and key.endswith(SETTINGS)}
        yield _moment("after", {**set_, **after}, state, readings)


def _picked(state: JobState, readings: Readings, phase: str) -> dict[str, str]:
    """Fields of a phase that were filled in: their own keys by the names they are compared under."""
    found = {}
    for key, asked in readings.sheet.fields.items():
        name = key.replace(".check_", ".")
        wanted = name.endswith(READ) or name.endswith(SETTINGS)
        if asked.phase == phase and wanted and key in state.entries and not state.entries[key].source:
            found[name] = key
    return found


def _moment(
    phase: Literal["before", "after"], picked: Mapping[str, str], state: JobState, readings: Readings
) -> Moment:
    return Moment(
        phase,
        max(state.entries[key].event.at for key in picked.values()),
        {name: readings.quantities[key] for name, key in picked.items() if key in readings.quantities},
        {name: readings.words[key] for name, key in picked.items() if key in readings.words},
        dict(picked),
    )


def differences(first: Moment, then: Moment) -> list[Difference]:
    """What changed between two moments.

    Parameters
    ----------
    first, then : Moment
        The two. [-]

    Returns
    -------
    list of Difference
        For every field that stands in either; a number differs where it changed by more than the ± of both.

    Raises
    ------
    Nothing.

    Notes
    -----
    The ± of a change is the root of the sum of squares, coverage factor 2.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> a = Moment("before", "", {"front.left.height": Quantity(372.0, 0.5)})
    >>> b = Moment("after", "", {"front.left.height": Quantity(345.0, 0.5)})
    >>> [(one.change, round(one.plus_minus, 2), one.differs) for one in differences(a, b)]
    [(-27.0, 1.41, True)]
    """
    found = []
    for key in dict.fromkeys((*first.fields, *then.fields, *first.quantities, *then.quantities)):
        one, two = first.quantities.get(key), then.quantities.get(key)
        if one and two and not one.parts:
            change = two.value - one.value
            open_ = COVERAGE * hypot(one.uncertainty, two.uncertainty)
            found.append(Difference(key, change, open_, abs(change) > open_))
        else:
            found.append(Difference(key, differs=first.words.get(key) != then.words.get(key)))
    return found
