"""What decides the wheels' heights, as rows of inputs: a whole car on its springs, or the corners of a strut axle."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.front_axle import HEIGHT_INPUTS, Corner
from fair_spindle.core.outlook.sprung_car import SprungCar
from fair_spindle.core.planning.template import Side
from fair_spindle.core.sheet.shape import CORNERS

Array = NDArray[np.float64]
SEAT = "new_spring.seat"


@dataclass(frozen=True)
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
    """The four wheels of a car on its springs.

    Parameters
    ----------
    car : SprungCar
        Inputs with their uncertainties. [-]

    Returns
    -------
    HeightModel or None
        None where an input is missing or cannot be right.

    Raises
    ------
    Nothing.

    Notes
    -----
    The car settles on all four together.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> model_of_car(SprungCar({}, lambda values: None, ("car.loads",))) is None
    True
    """

    def change(values: Mapping[str, Array]) -> Array:
        return car.build(values).settle().height_change

    return None if car.lacks or car.problem else HeightModel(CORNERS, car.inputs, change)


def model_of_corners(corners: Mapping[Side, Corner]) -> HeightModel | None:
    """The front wheels of a strut axle, each by itself.

    Parameters
    ----------
    corners : mapping
        Inputs of the corners. [mm, N, N/mm]

    Returns
    -------
    HeightModel or None
        Those whose inputs are complete; None where neither is.

    Raises
    ------
    Nothing.

    Notes
    -----
    Both share all but their loads.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> model_of_corners({}) is None
    True
    """
    known = {side: one for side, one in corners.items() if not one.lacks(HEIGHT_INPUTS)}
    names = {
        side: {name: _key(name, side) for name in (*HEIGHT_INPUTS, SEAT) if name in one.quantities}
        for side, one in known.items()
    }
    inputs = {key: known[side].quantities[name] for side, keys in names.items() for name, key in keys.items()}

    def change(values: Mapping[str, Array]) -> Array:
        rows = max((len(one) for one in values.values()), default=1)
        told = {key: values.get(key, np.full(rows, one.value)) for key, one in inputs.items()}
        each = [{name: told[key] for name, key in keys.items()} for keys in names.values()]
        return np.stack([Corner.height_change(one) for one in each], axis=1)

    return HeightModel(tuple(f"front.{side}" for side in known), inputs, change) if known else None


def _key(name: str, side: str) -> str:
    return f"front.{side}.{name}" if name == "sprung_load" else f"front.{name}"
