"""What the heights after a job say about the car: its motion ratios and loads, for the next one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.car_heights import settle_car
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.front_axle import HEIGHT_INPUTS, Corner
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.outlook.sitting import (
    CORNERS,
    SprungCar,
)
from fair_spindle.core.planning.template import Side
from fair_spindle.core.refit import refit

Array = NDArray[np.float64]
_HEIGHTS = ("height", "check_height")
LEARNABLE = ("motion_ratio", "damper_ratio", "load", "spring.rate")
WORTH_TELLING = 0.97


@dataclass(frozen=True)
class Learned:
    """One input before and after the heights were read; ± with coverage factor 2. [core unit]"""

    key: str
    before: float
    before_plus_minus: float
    after: float
    after_plus_minus: float


def learn(car: SprungCar, before: Mapping[str, Quantity], after: Mapping[str, Quantity]) -> list[Learned]:
    """Refit what was uncertain to the heights as they came out.

    Parameters
    ----------
    car : SprungCar
        Inputs with their uncertainties. [-]
    before, after : mapping of Quantity
        Hub-to-arch heights by wheel, read in the baseline and after settling. [mm]

    Returns
    -------
    list of Learned
        What got surer, the most first; empty where a height is missing.

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
    >>> learn(SprungCar({}, lambda values: None, ("car.loads",)), {}, {})
    []
    """
    keys = car.uncertain
    if car.lacks or car.problem or not keys or any(key not in before or key not in after for key in CORNERS):
        return []
    changes = np.array([after[key].value - before[key].value for key in CORNERS])
    noise = np.array([np.hypot(after[key].uncertainty, before[key].uncertainty) for key in CORNERS])
    values = np.array([car.inputs[key].value for key in keys])
    spreads = np.array([car.inputs[key].uncertainty for key in keys])

    def heights(rows: Array) -> Array:
        held = car.build({key: rows[:, place] for place, key in enumerate(keys)})
        return settle_car(held.stance, held.loads, held.unsprung, held.legs).height_change

    try:
        found = refit(heights, values, spreads, changes, np.maximum(noise, 0.1))
    except (InputError, NoSolution):
        return []
    own = [place for place, key in enumerate(keys) if _stays(key, keys)]
    return told_apart([keys[n] for n in own], values[own], spreads[own], found.values[own], found.uncertainties[own])


def learn_corners(corners: Mapping[Side, Corner]) -> list[Learned]:
    """Refit the springs of a strut axle to the heights its two corners came out at.

    Parameters
    ----------
    corners : mapping
        Inputs of both corners, with the heights of baseline and check. [mm, N, N/mm]

    Returns
    -------
    list of Learned
        Motion ratio and spring rates of the axle, what got surer; empty where a height or an input is missing.

    Raises
    ------
    Nothing.

    Notes
    -----
    Both corners share all but their loads.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> learn_corners({})
    []
    """
    read = {side: one for side, one in corners.items() if not one.lacks((*HEIGHT_INPUTS, *_HEIGHTS))}
    inputs = {
        (side if name == "sprung_load" else "", name): one.quantities[name]
        for side, one in read.items()
        for name in (*HEIGHT_INPUTS, "new_spring.seat")
        if name in one.quantities
    }
    open_ = [where for where, quantity in inputs.items() if quantity.uncertainty]
    if not read or not open_:
        return []
    values = np.array([inputs[where].value for where in open_])
    spreads = np.array([inputs[where].uncertainty for where in open_])
    before, after = ([one.quantities[name] for one in read.values()] for name in _HEIGHTS)
    changes = np.array([now.value - then.value for then, now in zip(before, after, strict=True)])
    noise = np.array([np.hypot(now.uncertainty, then.uncertainty) for then, now in zip(before, after, strict=True)])

    def heights(rows: Array) -> Array:
        tried = {where: np.full(len(rows), quantity.value) for where, quantity in inputs.items()}
        tried |= {where: rows[:, place] for place, where in enumerate(open_)}
        of = [{name: at for (own, name), at in tried.items() if own in ("", side)} for side in read]
        return np.stack([Corner.height_change(q) for q in of], axis=1)

    try:
        found = refit(heights, values, spreads, changes, np.maximum(noise, 0.1))
    except (InputError, NoSolution):
        return []
    own = [place for place, (_, name) in enumerate(open_) if name in ("motion_ratio", "new_spring.rate")]
    names = [f"front.{open_[place][1]}" for place in own]
    return told_apart(names, values[own], spreads[own], found.values[own], found.uncertainties[own])


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
