"""What the heights after a job say about the car: its motion ratios and loads, for the next one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.refit import refit
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.height_model import HeightModel

Array = NDArray[np.float64]
LEARNABLE = (".motion_ratio", ".damper_ratio", ".load", ".spring.rate", ".new_spring.rate")
WORTH_TELLING = 0.97


@value_object
class Learned:
    """One input before and after the heights were read; ± with coverage factor 2. [core unit]"""

    key: str
    before: float
    before_plus_minus: float
    after: float
    after_plus_minus: float


def learn(model: HeightModel | None, before: Mapping[str, Quantity], after: Mapping[str, Quantity]) -> list[Learned]:
    """Refit what was uncertain to the heights as they came out.

    Parameters
    ----------
    model : HeightModel or None
        What decides the heights. [-]
    before, after : mapping of Quantity
        Hub-to-arch heights by wheel, read in the baseline and after settling. [mm]

    Returns
    -------
    list of Learned
        What got surer, the most first; empty where no wheel's heights or the model are known.

    Raises
    ------
    Nothing.

    Notes
    -----
    Least squares over what was read and what was believed, each over its uncertainty.  All that is uncertain takes
    part; only what belongs to the car is told.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> learn(None, {}, {})
    []
    """
    keys = model.uncertain if model else ()
    read = [key for key in (model.wheels if model else ()) if key in before and key in after]
    if model is None or not keys or not read:
        return []
    places = [model.wheels.index(key) for key in read]
    changes = np.array([after[key].value - before[key].value for key in read])
    noise = np.array([np.hypot(after[key].uncertainty, before[key].uncertainty) for key in read])
    values = np.array([model.inputs[key].value for key in keys])
    spreads = np.array([model.inputs[key].uncertainty for key in keys])

    def heights(rows: Array) -> Array:
        return model.change({key: rows[:, place] for place, key in enumerate(keys)})[:, places]

    try:
        found = refit(heights, values, spreads, changes, np.maximum(noise, 0.1))
    except (InputError, NoSolution):
        return []
    own = [place for place, key in enumerate(keys) if _stays(key, keys)]
    return told_apart([keys[n] for n in own], values[own], spreads[own], found.values[own], found.uncertainties[own])


def _stays(key: str, keys: Sequence[str]) -> bool:
    """Whether an input is the car's own after the job; a spring that was changed is not."""
    axle, _, name = key.partition(".")
    changed = any(one.startswith(f"{axle}.new_spring.") for one in keys)
    return key.endswith(LEARNABLE) and not (name == "spring.rate" and changed)


def told_apart(keys: Sequence[str], before: Array, spreads: Array, after: Array, left: Array) -> list[Learned]:
    """What a refit made surer, out of all it took part in.

    Parameters
    ----------
    keys : sequence of str
        Inputs that belong to the car. [-]
    before, spreads, after, left : array
        Values and standard uncertainties before and after, shape (m,) each. [core unit]

    Returns
    -------
    list of Learned
        The most first; what got surer by less than 3 % is left out.

    Raises
    ------
    Nothing.

    Notes
    -----
    3 % is the product's own.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> one = told_apart(["a", "b"], np.ones(2), np.ones(2), np.ones(2), np.array([0.5, 0.99]))
    >>> [(each.key, each.after_plus_minus) for each in one]
    [('a', 1.0)]
    """
    told = [
        Learned(key, *(float(number) for number in row))
        for key, *row in zip(keys, before, COVERAGE * spreads, after, COVERAGE * left, strict=True)
        if row[3] < WORTH_TELLING * row[1]
    ]
    return sorted(told, key=lambda one: one.after_plus_minus / one.before_plus_minus)
