"""The workshop's own ways: the order in which one walks round a car."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

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
