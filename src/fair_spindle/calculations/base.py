"""What every published calculation shares: strict models and how one is run."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from fair_spindle.core.basics.errors import OutOfRange
from fair_spindle.core.basics.value_object import value_object

Positive = Annotated[float, Field(gt=0)]
NotNegative = Annotated[float, Field(ge=0)]
ToeDegrees = Annotated[float, Field(gt=-90, lt=90)]
STEP = 1 / 6


class Values(BaseModel):
    """Numbers with their unit in the key; nothing unknown, nothing converted silently."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, frozen=True, defer_build=True)


@value_object
class Calculation:
    """One published calculation: its name, what it answers, its models and its rule.

    A ``sparse`` answer leaves out what does not apply, another says null.
    """

    name: str
    title: str
    takes: type[Values]
    gives: type[Values]
    run: Callable[[Any], Values]
    sparse: bool = True

    def schema(self) -> dict[str, Any]:
        """Input and output JSON Schema."""
        return {
            "calculation": self.name,
            "title": self.title,
            "input": self.takes.model_json_schema(),
            "output": self.gives.model_json_schema(mode="serialization"),
        }


def answer(calculation: Calculation, values: Values) -> dict[str, Any]:
    """Run a calculation and give its answer as plain data."""
    try:
        return calculation.run(values).model_dump(exclude_none=calculation.sparse)
    except (ValidationError, OverflowError, ZeroDivisionError):
        raise OutOfRange("The numbers are too large or too small for a finite answer; check the units.") from None


def exactly_one(values: Values, names: tuple[str, ...]) -> str:
    """Name of the one field given among `names`; ValueError where it is not exactly one."""
    given = [name for name in names if getattr(values, name) is not None]
    if len(given) != 1:
        came = ", ".join(given) or "none"
        raise ValueError(f"give exactly one of {', '.join(names)}; got {came}")
    return given[0]
