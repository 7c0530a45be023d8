"""People, luggage and fuel that were not aboard when the car was read: what they add to each wheel."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.springs.loads import CarLoads

Array = NDArray[np.float64]
# Where each sits: share of the wheelbase behind the front axle, share of the track off the middle, to the driver's
# side.  Common practice, no published source.
PLACES: Mapping[str, tuple[float, float]] = {
    "driver": (0.53, 0.25),
    "passenger": (0.53, -0.25),
    "boot": (1.1, 0.0),
    "fuel": (0.85, 0.0),
}


def added_loads(readings: Readings, loads: CarLoads | None) -> Array | None:
    """What people, luggage and fuel add to the four wheels.

    Parameters
    ----------
    readings : Readings
        Weights told, and the driver's side. [N]
    loads : CarLoads, optional
        None where the car was not weighed. [N]

    Returns
    -------
    array or None
        FL FR RL RR, shape (4,); None where nothing was told. [N]

    Raises
    ------
    Nothing.

    Notes
    -----
    By levers about the axles and the middle of the car.  How a load off the middle is shared between the axles' own
    left and right does not matter on a rigid body: only the whole moment does.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> from fair_spindle.core.springs.loads import car_loads
    >>> from fair_spindle.core.joblog.readings import Quantity
    >>> told = Readings(Sheet(), {"car.aboard.driver": Quantity(800.0)}, {"car.driver_side": "left"})
    >>> added_loads(told, car_loads("two_axles", {"front": 8e3, "rear": 6e3}, {})).round(1).tolist()
    [282.0, 94.0, 318.0, 106.0]
    """
    told = {name: one for name in PLACES if (one := readings.quantities.get(f"car.aboard.{name}"))}
    if not told or loads is None:
        return None
    to_left = -1.0 if readings.words.get("car.driver_side") == "right" else 1.0
    found = np.zeros(4)
    for name, weight in told.items():
        back, aside = PLACES[name]
        axles = np.array([1 - back, 1 - back, back, back]) / 2
        found += weight.value * axles * (1 + 2 * aside * to_left * np.array([1, -1, 1, -1]))
    return found
