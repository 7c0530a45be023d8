"""The exercises: what is wrong with each car, what it teaches, in the order in which they teach."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files

from fair_spindle.core.basics.errors import NotFound


@dataclass(frozen=True)
class Exercise:
    """One exercise: its words, the job it is, and what is true of its car that nobody told. [mm, °]"""

    key: str
    title: str
    learn: str
    brief: str
    minutes: int
    fittings: tuple[Mapping[str, str], ...]
    layouts: Mapping[str, str] = field(default_factory=dict)
    paper: str = ""
    new_end_mm: float = 0.0
    ratio_share: Mapping[str, float] = field(default_factory=dict)
    clamped_at_mm: Mapping[str, float] = field(default_factory=dict)
    bar_gap_mm: Mapping[str, float] = field(default_factory=dict)
    front_shift_deg: float = 0.0
    rear_shift_deg: float = 0.0
    camber_bias_deg: float = 0.0
    floor_deg: float = 0.0
    friction_mm: float = 2.0
    lowered_mm: float = 0.0


@cache
def exercises() -> dict[str, Exercise]:
    """Every exercise by its key, in the order in which they teach."""
    text = files("fair_spindle.practice").joinpath("exercises.toml").read_text(encoding="utf-8")
    rows = tomllib.loads(text)["exercise"]
    return {row["key"]: Exercise(**row | {"fittings": tuple(row["fittings"])}) for row in rows}


def find_exercise(key: str) -> Exercise:
    """The exercise of that name."""
    if key not in exercises():
        raise NotFound(f"There is no exercise {key!r}.", field="exercise")
    return exercises()[key]
