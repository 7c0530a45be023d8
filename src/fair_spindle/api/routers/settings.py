"""The workshop's own ways."""

from __future__ import annotations

from fastapi import APIRouter

from fair_spindle.api.dependencies import Db
from fair_spindle.jobs.settings import (
    SchoolsUpdate,
    SchoolsView,
    WalkOrderUpdate,
    WalkOrderView,
    set_schools,
    set_walk_order,
    walk_order,
    workshop_schools,
)

router = APIRouter(prefix="/api/settings", tags=["settings"])


@router.get("/walk")
def see_walk_order(db: Db) -> WalkOrderView:
    """The way one walks round a car."""
    return walk_order(db)


@router.put("/walk")
def change_walk_order(db: Db, wanted: WalkOrderUpdate) -> WalkOrderView:
    """Walk round the car another way."""
    return set_walk_order(db, wanted)


@router.get("/schools")
def see_schools(db: Db) -> SchoolsView:
    """The workshop's way wherever practitioners differ."""
    return workshop_schools(db)


@router.put("/schools")
def change_schools(db: Db, wanted: SchoolsUpdate) -> SchoolsView:
    """Do it another way from now on."""
    return set_schools(db, wanted)
