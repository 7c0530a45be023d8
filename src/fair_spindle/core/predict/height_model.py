"""What decides the wheels' heights, as rows of inputs: a whole car on its springs, or the wheels of an axle alone."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from math import hypot

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.gauging import propagate, shift_inputs
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.ride_height import Sitting, WheelSits
from fair_spindle.core.predict.sprung_car import SprungCar, sprung_load
from fair_spindle.core.springs.heights import Spring, height_change, loaded_length
from fair_spindle.core.springs.loads import CarLoads

Array = NDArray[np.float64]
# What a wheel by itself leaves out: the other corners, the bar, rubber; as a share of its change.  The product's own.
LEFT_OUT = 0.1
_OF_AXLE = ("motion_ratio", "spring.rate", "spring.free", "new_spring.rate", "new_spring.free")


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
    """The four wheels of a car on its springs, settling together; None where an input is missing or wrong."""

    def change(values: Mapping[str, Array]) -> Array:
        return car.build(values).settle().height_change

    return None if car.lacks or car.problem else HeightModel(WHEELS, car.inputs, change)


def model_of_wheels(readings: Readings, loads: CarLoads | None = None) -> HeightModel | None:
    """The wheels whose own springs and load are known, each by itself; None where there are none.

    Parameters
    ----------
    readings : Readings
        Motion ratio, rates and free lengths of the axle, sprung load and seat of the wheel. [-, N/mm, mm, N]
    loads : CarLoads, optional
        What stands on the wheels, where no sprung load was told. [N]

    Returns
    -------
    HeightModel or None
        For the wheels that are known.

    Raises
    ------
    Nothing.

    Notes
    -----
    Δheight = Δ(loaded length + seat) / ratio at constant load; the other corners, bar and rubber are left out.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> told = {"front.motion_ratio": 1.0, "front.left.sprung_load": 3000.0, "front.spring.rate": 30.0}
    >>> told |= {"front.spring.free": 300.0, "front.new_spring.rate": 30.0, "front.new_spring.free": 280.0}
    >>> model = model_of_wheels(Readings(Sheet(), {key: Quantity(one) for key, one in told.items()}, {}))
    >>> model.wheels, model.change({}).tolist()
    ((<Wheel.FRONT_LEFT: 'front.left'>,), [[-20.0]])
    """
    sprung = {f"{key}.sprung_load": load for key in WHEELS if (load := sprung_load(readings, loads, key))}
    told = {**readings.quantities, **sprung}
    wheels = tuple(key for key in WHEELS if all(name in told for name in _needed(key)))
    seats = {key: f"{key}.new_seat" for key in wheels if f"{key}.new_seat" in told}
    inputs = {name: told[name] for key in wheels for name in (*_needed(key), *filter(None, [seats.get(key)]))}

    def change(values: Mapping[str, Array]) -> Array:
        rows = max((len(value) for value in values.values()), default=1)
        rested = {key: values.get(key, np.full(rows, one.value)) for key, one in inputs.items()}
        return np.stack([_change(key, rested) for key in wheels], axis=1)

    return HeightModel(wheels, inputs, change) if wheels else None


def _needed(wheel: str) -> Iterator[str]:
    axle = wheel.split(".")[0]
    yield from (f"{axle}.{name}" for name in _OF_AXLE)
    yield f"{wheel}.sprung_load"


def _change(wheel: str, told: Mapping[str, Array]) -> Array:
    axle = wheel.split(".")[0]
    old = Spring(told[f"{axle}.spring.rate"], told[f"{axle}.spring.free"])
    seat = told.get(f"{wheel}.new_seat", np.zeros(1))
    new = Spring(told[f"{axle}.new_spring.rate"], told[f"{axle}.new_spring.free"], seat)
    return height_change(told[f"{axle}.motion_ratio"], told[f"{wheel}.sprung_load"], old, new)


def sit_by_wheels(model: HeightModel, heights: Mapping[str, Quantity]) -> Sitting:
    """Where the wheels of a model will sit, each by itself, with ± of coverage 2.

    Heights before by field key [mm].  To what the inputs leave open comes a tenth of the change for what is left out,
    the product's own.  Springs that cannot carry their load are told as the sitting's problem.
    """
    values = {key: one.value for key, one in model.inputs.items()}
    shifted = shift_inputs(values, {key: one.uncertainty for key, one in model.inputs.items()})
    wheels = []
    try:
        for place, wheel in enumerate(model.wheels):
            out = propagate(lambda told, place=place: model.change(told)[:, place], shifted)  # type: ignore[misc]
            axle = wheel.split(".")[0]
            ratio, load = values[f"{axle}.motion_ratio"], values[f"{wheel}.sprung_load"]
            spring = Spring(values[f"{axle}.new_spring.rate"], values[f"{axle}.new_spring.free"])
            wheels.append(
                WheelSits(
                    wheel,
                    heights.get(f"{wheel}.height"),
                    out.value,
                    hypot(out.plus_minus, LEFT_OUT * out.value),
                    load,
                    load,
                    0.0,
                    float(loaded_length(spring, load, ratio, ratio, "new")),
                    ratio * out.value,
                )
            )
    except InputError as error:
        return Sitting(problem=error.message)
    return Sitting(tuple(wheels))
