"""The workshop's own ways: the order in which one walks round a car, and its schools."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import fields
from functools import lru_cache
from typing import Literal

from pydantic import Field, model_validator

from fair_spindle.core.basics.units import to_core, units_of
from fair_spindle.core.basics.wheels import WheelKey
from fair_spindle.core.fields.walk import WALK_ROUND
from fair_spindle.core.planning.bay import Bay
from fair_spindle.core.planning.schools import SCHOOLS, ways_of
from fair_spindle.formats.acts import Strict
from fair_spindle.records.database import Database
from fair_spindle.records.settings import read_setting, save_setting, written_setting

CHOOSABLE = ("length", "angle", "force", "rate", "torque", "pressure", "distance")


class WalkOrder(Strict):
    """The way round the car: its corners in order, wheel by wheel or reading by reading."""

    corners: list[WheelKey] = Field(default_factory=lambda: list(WALK_ROUND), min_length=4, max_length=4)
    by: Literal["wheel", "reading"] = "wheel"

    @model_validator(mode="after")
    def _each_once(self) -> WalkOrder:
        if set(self.corners) != set(WALK_ROUND):
            raise ValueError("name each of the four wheels once")
        return self


class WalkOrderView(WalkOrder):
    """The order as it stands, with its version."""

    version: int


class WalkOrderUpdate(WalkOrder):
    """A new order, over the version that was seen."""

    seen: int


def walk_order(database: Database) -> WalkOrderView:
    """The order as it stands."""
    value, version = read_setting(database, "walk")
    return WalkOrderView(**value, version=version)


def set_walk_order(database: Database, wanted: WalkOrderUpdate) -> WalkOrderView:
    """Change the order."""
    with database.writing() as session:
        save_setting(session, "walk", {"corners": wanted.corners, "by": wanted.by}, wanted.seen)
    return walk_order(database)


class Schools(Strict):
    """The workshop's way wherever practitioners differ; a question left out takes the usual way."""

    ways: dict[str, str] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _known_ways(self) -> Schools:
        for key, way in self.ways.items():
            if key not in SCHOOLS:
                raise ValueError(f"there is no question {key!r}")
            if way not in SCHOOLS[key].ways:
                raise ValueError(f"the ways of {key!r} are {', '.join(SCHOOLS[key].ways)}")
        return self


class SchoolsView(Schools):
    """The ways as they stand, with their version, and the questions in words."""

    version: int
    questions: dict[str, str]
    choices: dict[str, dict[str, str]]
    said: dict[str, str]


class SchoolsUpdate(Schools):
    """New ways, over the version that was seen."""

    seen: int


def workshop_schools(database: Database) -> SchoolsView:
    """The workshop's ways."""
    value, version = read_setting(database, "schools")
    return SchoolsView(
        ways=ways_of(value.get("ways", {}), {}),
        version=version,
        questions={key: school.question for key, school in SCHOOLS.items()},
        choices={key: dict(school.ways) for key, school in SCHOOLS.items()},
        said={key: school.said for key, school in SCHOOLS.items()},
    )


def set_schools(database: Database, wanted: SchoolsUpdate) -> SchoolsView:
    """Change the workshop's ways; jobs that are planned keep theirs."""
    with database.writing() as session:
        save_setting(session, "schools", {"ways": wanted.ways}, wanted.seen)
    return workshop_schools(database)


class BaySetting(Strict):
    """What the workshop raises and carries a car with."""

    lift: bool = False
    jacks: int = Field(default=1, ge=0, le=12)
    stands: int = Field(default=4, ge=0, le=24)
    poles: int = Field(default=0, ge=0, le=6)
    people: int = Field(default=1, ge=1, le=12)

    def bay(self) -> Bay:
        """The same as the core takes it."""
        return Bay(**{member.name: getattr(self, member.name) for member in fields(Bay)})


class BayView(BaySetting):
    """The bay as it stands, with its version."""

    version: int


class BayUpdate(BaySetting):
    """A new bay, over the version that was seen."""

    seen: int


def workshop_bay(database: Database) -> BayView:
    """What the workshop has to raise and carry a car with."""
    value, version = read_setting(database, "bay")
    return BayView(**value, version=version)


def set_bay(database: Database, wanted: BayUpdate) -> BayView:
    """Change the bay; jobs that are planned keep their plan."""
    with database.writing() as session:
        save_setting(session, "bay", wanted.model_dump(exclude={"seen"}), wanted.seen)
    return workshop_bay(database)


class Measures(Strict):
    """Units in which the workshop types, by quantity, and its limits wherever a car's record has none of its own."""

    units: dict[str, str] = Field(default_factory=dict)
    twist_deg: float = Field(default=2.0, ge=0.5, le=8)
    toe_deg: float = Field(default=0.05, ge=0.01, le=1)
    camber_deg: float = Field(default=0.1, ge=0.02, le=2)
    caster_deg: float = Field(default=0.25, ge=0.05, le=3)

    @model_validator(mode="after")
    def _known_units(self) -> Measures:
        for quantity, unit in self.units.items():
            if quantity not in CHOOSABLE:
                raise ValueError(f"units are chosen for {', '.join(CHOOSABLE)}; got {quantity!r}")
            known = [unit.key for unit in units_of(quantity)]
            if unit not in known:
                raise ValueError(f"the units of {quantity} are {', '.join(known)}")
        return self

    def limits(self) -> dict[str, float]:
        """The limits as the core takes them, by the ending of the field they stand in for. [rad]"""
        told = {"twist_limit": self.twist_deg, "within.toe": self.toe_deg, "within.camber": self.camber_deg}
        told["within.caster"] = self.caster_deg
        return {name: to_core(value, "deg") for name, value in told.items()}


class MeasuresView(Measures):
    """Units and limits as they stand, with their version and the units to choose from."""

    version: int
    choices: dict[str, dict[str, str]]


class MeasuresUpdate(Measures):
    """New units and limits, over the version that was seen."""

    seen: int


def limits_now(database: Database) -> Mapping[str, float]:
    """The workshop's limits as the core takes them; the very same while they do not change."""
    return _limits(written_setting(database, "measures")[0])


@lru_cache(maxsize=8)
def _limits(written: str) -> Mapping[str, float]:
    return Measures(**json.loads(written)).limits()


def workshop_measures(database: Database) -> MeasuresView:
    """The workshop's units and limits, to be changed."""
    value, version = read_setting(database, "measures")
    choices = {quantity: {unit.key: unit.label for unit in units_of(quantity)} for quantity in CHOOSABLE}
    return MeasuresView(**value, version=version, choices=choices)


def set_measures(database: Database, wanted: MeasuresUpdate) -> MeasuresView:
    """Change units and limits; what was entered stays as it was typed."""
    with database.writing() as session:
        save_setting(session, "measures", wanted.model_dump(exclude={"seen"}), wanted.seen)
    return workshop_measures(database)
