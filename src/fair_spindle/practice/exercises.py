"""The exercises: what is wrong with each car, what it teaches, in the order in which they teach."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import field
from functools import cache
from importlib.resources import files

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES


@value_object
class Exercise:
    """One exercise: its words, the job it is, and what is true of its car that nobody told. [mm, °]

    ``rings`` are axles on threaded seats, ``stack`` new springs with a helper by axle, ``lower_to_mm`` how far below
    today an axle is wanted, ``also_read`` and ``read_again`` the fields it needs before and after the work beside
    what the job asks.
    ``as_claimed`` draws springs, ratios and loads as far apart as the record's own ± says; ``unlisted`` is for the
    examiner alone.
    """

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
    rings: tuple[str, ...] = ()
    stack: Mapping[str, Mapping[str, float]] = field(default_factory=dict)
    cross_shift_n: float = 0.0
    lower_to_mm: Mapping[str, float] = field(default_factory=dict)
    play_deg: Mapping[str, float] = field(default_factory=dict)
    shackle_lean_deg: float = 0.0
    shackle_stop_deg: float = 0.0
    string_deg: float = 0.0
    tyre_n_per_mm: float = 0.0
    also_read: tuple[str, ...] = ()
    read_again: tuple[str, ...] = ()
    as_claimed: bool = False
    unlisted: bool = False


@cache
def exercises() -> dict[str, Exercise]:
    """Every exercise by its key, in the order in which they teach."""
    text = files("fair_spindle.practice").joinpath("exercises.toml").read_text(encoding="utf-8")
    rows = tomllib.loads(text)["exercise"]
    return {row["key"]: Exercise(**row | {"fittings": tuple(row["fittings"])}) for row in rows}


OWN_CAR = "own_car"
_ON_OWN_CAR = {
    "align": ("Toe and camber set", ("align",), 40),
    "springs": ("New springs, toe and camber brought through", ("springs", "align"), 75),
}


def own_exercise(car: str = "one of our cars", work: str = "align") -> Exercise:
    """Free practice on a copy of a car of the workshop: a piece of work, nothing wrong but what nobody knows."""
    title, procedures, minutes = _ON_OWN_CAR[work]
    return Exercise(
        OWN_CAR,
        f"A copy of {car}",
        "How sure the record makes you: its truth lies inside the ± of what was read, and the debrief shows where.",
        f"{title}, on a copy of {car}. Its adjusters are the bay's own threads.",
        minutes,
        tuple({"procedure": one, "axle": axle} for one in procedures for axle in AXLES),
    )


def find_exercise(key: str) -> Exercise:
    """The exercise of that name."""
    if key not in exercises():
        raise NotFound(f"There is no exercise {key!r}.", field="exercise")
    return exercises()[key]
