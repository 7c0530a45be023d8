"""The published calculations: a model in, a model out, one call into the core."""

from fair_spindle.calculations import (
    bolts,
    geometry,
    height_and_rubber,
    measuring,
    springs_and_heights,
    toe_and_threads,
)
from fair_spindle.calculations.base import Calculation, Values, answer
from fair_spindle.core.basics.errors import NotFound

CALCULATIONS: dict[str, Calculation] = {
    calculation.name: calculation
    for room in (
        toe_and_threads,
        geometry,
        springs_and_heights,
        height_and_rubber,
        bolts,
        measuring,
    )
    for calculation in room.CALCULATIONS
}


def find(name: str) -> Calculation:
    """Look a calculation up by its published name."""
    try:
        return CALCULATIONS[name]
    except KeyError:
        raise NotFound(
            f"No calculation called {name!r}; there are {', '.join(CALCULATIONS)}.", field="name"
        ) from None


__all__ = ["CALCULATIONS", "Calculation", "Values", "answer", "find"]
