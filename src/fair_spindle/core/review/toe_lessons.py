"""What the toe after a job says about the car: bump steer and steering lever, for the next one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.basics.refit import refit
from fair_spindle.core.review.height_lessons import Learned, told_apart
from fair_spindle.core.review.toe_readings import ToeRead, ToeStory

Array = NDArray[np.float64]
LEAST = 1e-5
BEFORE = "straight.before"


def learn_toe(wheels: Sequence[ToeStory], steered: float) -> list[Learned]:
    """Refit bump steer and steering lever of an axle's wheels to the toe as it came out.

    Parameters
    ----------
    wheels : sequence of ToeStory
        One or both wheels of the axle. [-]
    steered : float
        Standard uncertainty of how straight the road wheels stood at a reading; 0 where they do not steer. [rad]

    Returns
    -------
    list of Learned
        What got surer, the most first; empty where nothing was read.

    Raises
    ------
    Nothing.

    Notes
    -----
    toe = start + expected + (s − s₀)·travel + (L₀/L − 1)·by rod + fit ± steering: the steering wheel not straight
    turns both wheels, left out and right in, and is one unknown more at the baseline and at every walk after it.
    Least squares over what was read and what was believed, as :func:`~fair_spindle.core.basics.refit.refit`.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> learn_toe([], 0.0)
    []
    """
    wheels = [wheel for wheel in wheels if wheel.slope.uncertainty and wheel.reads]
    if not wheels:
        return []
    names, values, spreads = _believed(wheels, steered)
    at = {name: place for place, name in enumerate(names)}
    reads = [(wheel, read) for wheel in wheels for read in wheel.reads]

    def toes(rows: Array) -> Array:
        return np.stack([_toe(one, read, rows, at) for one, read in reads], axis=1)

    measured = np.array([read.toe.value for _, read in reads])
    noise = [hypot(read.toe.uncertainty, one.slope.value * read.travel_open, LEAST) for one, read in reads]
    try:
        found = refit(toes, np.array(values), np.array(spreads), measured, np.array(noise))
    except NoSolution:
        return []
    car = [place for place, name in enumerate(names) if name.endswith(("bump_slope", "tie.lever"))]
    return told_apart(
        [names[n] for n in car],
        np.array(values)[car],
        np.array(spreads)[car],
        found.values[car],
        found.uncertainties[car],
    )


def _believed(wheels: Sequence[ToeStory], steered: float) -> tuple[list[str], list[float], list[float]]:
    """Names, values and standard uncertainties of all that is not known for sure."""
    found: list[tuple[str, float, float]] = []
    for one in wheels:
        found.append((f"{one.key}.start", one.start.value, max(one.start.uncertainty, LEAST)))
        found.append((f"{one.key}.bump_slope", one.slope.value, one.slope.uncertainty))
        if one.lever and one.lever.uncertainty and any(read.by_rod for read in one.reads):
            found.append((f"{one.key}.tie.lever", one.lever.value, one.lever.uncertainty))
        if one.fit:
            found.append((f"{one.key}.fit", 0.0, one.fit))
    if steered:
        walks = sorted({read.walk for wheel in wheels for read in wheel.reads})
        found += [(f"straight.{walk}", 0.0, steered) for walk in walks]
        found.append((BEFORE, 0.0, steered))
    names, values, spreads = zip(*found, strict=True)
    return list(names), list(values), list(spreads)


def _toe(one: ToeStory, read: ToeRead, rows: Array, at: Mapping[str, int]) -> Array:
    toe = rows[:, at[f"{one.key}.start"]] + read.expected
    toe = toe + (rows[:, at[f"{one.key}.bump_slope"]] - one.slope.value) * read.travel
    lever = at.get(f"{one.key}.tie.lever")
    if lever is not None and one.lever:
        toe = toe + (one.lever.value / rows[:, lever] - 1) * read.by_rod
    if one.fit:
        toe = toe + rows[:, at[f"{one.key}.fit"]]
    if BEFORE in at:
        turned = rows[:, at[f"straight.{read.walk}"]] - rows[:, at[BEFORE]]
        toe = toe - turned if one.key.endswith("left") else toe + turned
    return np.asarray(toe)
