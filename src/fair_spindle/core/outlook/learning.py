"""What the heights after a job say about the car: its motion ratios and loads, for the next one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.car_heights import settle_car
from fair_spindle.core.errors import InputError, NoSolution
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.outlook.sitting import (
    CORNERS,
    SprungCar,
)
from fair_spindle.core.refit import refit

Array = NDArray[np.float64]
LEARNABLE = ("motion_ratio", "damper_ratio", "load", "spring.rate", "new_spring.rate")
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
    told = [
        Learned(
            key, values[n], COVERAGE * spreads[n], float(found.values[n]), COVERAGE * float(found.uncertainties[n])
        )
        for n, key in enumerate(keys)
        if found.uncertainties[n] < WORTH_TELLING * spreads[n] and key.endswith(LEARNABLE)
    ]
    return sorted(told, key=lambda one: one.after_plus_minus / one.before_plus_minus)
