"""The workshop's own ways: the order in which one walks round a car, and its schools."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fair_spindle.core.planning.schools import SCHOOLS, ways_of
from fair_spindle.core.sheet.walk import CORNERS, Corner
from fair_spindle.formats.acts import Strict
from fair_spindle.records.database import Database
from fair_spindle.records.settings import load_setting, save_setting


class WalkOrder(Strict):
    """The way round the car: its corners in order, wheel by wheel or reading by reading."""

    corners: list[Corner] = Field(default_factory=lambda: list(CORNERS), min_length=4, max_length=4)
    by: Literal["wheel", "reading"] = "wheel"

    @model_validator(mode="after")
    def _each_once(self) -> WalkOrder:
        if set(self.corners) != set(CORNERS):
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
    with database.reading() as session:
        value, version = load_setting(session, "walk")
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
    with database.reading() as session:
        value, version = load_setting(session, "schools")
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
