"""What decides the wheels' heights, as rows of inputs to a whole car on its springs."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.predict.sprung_car import SprungCar

Array = NDArray[np.float64]


@value_object
class HeightModel:
    """Wheels, the inputs that decide their heights by field key, and the height change that rows of them give.

    ``change`` takes arrays of shape (n,) by key, any left out as they are, and gives shape (n, wheels). [mm]
    """

    wheels: tuple[str, ...]
    inputs: Mapping[str, Quantity]
    change: Callable[[Mapping[str, Array]], Array]

    @property
    def uncertain(self) -> tuple[str, ...]:
        """Keys of the inputs that carry an uncertainty."""
        return tuple(key for key, one in self.inputs.items() if one.uncertainty > 0)


def model_of_car(car: SprungCar) -> HeightModel | None:
    """The wheels of a car whose springs' change is known, settling together; None where there are none."""

    def change(values: Mapping[str, Array]) -> Array:
        return car.build(values).settle().height_change

    places = [WHEELS.index(key) for key in car.stands]
    return HeightModel(car.stands, car.inputs, lambda values: change(values)[:, places]) if places else None
