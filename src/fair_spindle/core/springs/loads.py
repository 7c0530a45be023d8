"""What stands on each wheel: weighed, or estimated from what was weighed."""

from __future__ import annotations

from collections.abc import Mapping

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS, Wheel

USUAL_UNSPRUNG_SHARE = 0.12
# What a car of a kind weighs.  Common practice, no published source. [kg]
MASSES: Mapping[str, tuple[str, float]] = {
    "small": ("Small car", 1000.0),
    "middle": ("Middling car or estate", 1400.0),
    "large": ("Large car", 1800.0),
    "off_road": ("Off-road car or van", 2150.0),
    "truck": ("Pick-up or truck", 2400.0),
}


@value_object
class Load:
    """A force, and whether it is an estimate. [N]"""

    force: float
    estimated: bool


@value_object
class CarLoads:
    """Loads of the four wheels, their unsprung and sprung parts, and the shares. [N, -]

    ``cross`` is front right and rear left over the total.
    """

    wheels: Mapping[Wheel, Load]
    unsprung: Mapping[Wheel, Load]
    total: float
    front_share: float
    left_share: float
    cross: float

    def sprung(self, wheel: Wheel) -> Load:
        """What the spring of a wheel carries."""
        load, dead = self.wheels[wheel], self.unsprung[wheel]
        return Load(load.force - dead.force, load.estimated or dead.estimated)


def car_loads(method: str, weighed: Mapping[str, float], unsprung: Mapping[str, float]) -> CarLoads:
    """Complete the wheel loads from what was weighed; what was not is marked as estimated.

    Parameters
    ----------
    method : {"four_scales", "two_axles", "total_and_share", "learned"}
        How the car was weighed. [-]
    weighed : mapping
        Forces by wheel or axle, or ``total`` and the front ``share``. [N, -]
    unsprung : mapping
        Known unsprung weight of one wheel, by axle ``front`` and ``rear``. [N]

    Returns
    -------
    CarLoads
        All four wheels.

    Raises
    ------
    InputError
        An unknown method.

    Notes
    -----
    Left and right are taken as equal where only axles are known.  Unknown unsprung weight is
    taken as 12 % of the wheel load, the product's own value.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> loads = car_loads("two_axles", {"front": 8000.0, "rear": 6000.0}, {"front": 420.0})
    >>> loads.wheels[Wheel.FRONT_LEFT], loads.sprung(Wheel.FRONT_LEFT).force
    (Load(force=4000.0, estimated=True), 3580.0)
    """
    wheels = _wheels(method, weighed)
    dead = {
        wheel: Load(unsprung[wheel.axle], False)
        if wheel.axle in unsprung
        else Load(USUAL_UNSPRUNG_SHARE * load.force, True)
        for wheel, load in wheels.items()
    }
    total = sum(load.force for load in wheels.values())

    def share(*some: Wheel) -> float:
        return sum(wheels[wheel].force for wheel in some) / total

    return CarLoads(
        wheels,
        dead,
        total,
        share(Wheel.FRONT_LEFT, Wheel.FRONT_RIGHT),
        share(Wheel.FRONT_LEFT, Wheel.REAR_LEFT),
        share(Wheel.FRONT_RIGHT, Wheel.REAR_LEFT),
    )


def _wheels(method: str, weighed: Mapping[str, float]) -> dict[Wheel, Load]:
    if method == "four_scales":
        return {wheel: Load(weighed[wheel.number], False) for wheel in WHEELS}
    if method == "learned":
        return {wheel: Load(weighed[wheel.number], True) for wheel in WHEELS}
    if method == "two_axles":
        axles = {"front": weighed["front"], "rear": weighed["rear"]}
    elif method == "total_and_share":
        front = weighed["total"] * weighed["share"]
        axles = {"front": front, "rear": weighed["total"] - front}
    else:
        raise InputError(f"A car is weighed by four scales, two axles or in total; got {method!r}.", field="method")
    return {wheel: Load(axles[wheel.axle] / 2, True) for wheel in WHEELS}
