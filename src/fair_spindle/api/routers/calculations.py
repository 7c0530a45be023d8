"""The published calculations over HTTP: ``POST /api/calc/NAME``."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel

from fair_spindle.calculations import CALCULATIONS, Calculation, answer, find

router = APIRouter(prefix="/api/calc", tags=["calculations"])


class CalculationLine(BaseModel):
    """A published calculation."""

    name: str
    title: str


@router.get("")
def list_calculations() -> list[CalculationLine]:
    """Name the published calculations."""
    return [CalculationLine(name=c.name, title=c.title) for c in CALCULATIONS.values()]


@router.get("/{name}/schema")
def show_schema(name: str) -> dict[str, Any]:
    """Input and output JSON Schema of a calculation."""
    return find(name).schema()


def _handler(calculation: Calculation) -> Callable[..., Any]:
    def run(values: Any) -> dict[str, Any]:
        return answer(calculation, values)

    run.__annotations__ = {"values": calculation.takes, "return": dict[str, Any]}
    return run


for _calculation in CALCULATIONS.values():
    router.post(
        f"/{_calculation.name}",
        summary=_calculation.title,
        operation_id=f"calc_{_calculation.name}",
        responses={200: {"model": _calculation.gives}},
    )(_handler(_calculation))


@router.post("/{name}", include_in_schema=False)
def run_unknown(name: str) -> None:
    """Say which calculations there are."""
    find(name)
