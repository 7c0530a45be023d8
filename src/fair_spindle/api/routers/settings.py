"""The workshop's own ways."""

from __future__ import annotations

from fastapi import APIRouter

from fair_spindle.api.dependencies import Db
from fair_spindle.jobs.settings import (
    BayUpdate,
    BayView,
    MeasuresUpdate,
    MeasuresView,
    SchoolsUpdate,
    SchoolsView,
    WalkOrderUpdate,
    WalkOrderView,
    set_bay,
    set_measures,
    set_schools,
    set_walk_order,
    walk_order,
    workshop_bay,
    workshop_measures,
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


@router.get("/bay")
def see_bay(db: Db) -> BayView:
    """What the workshop has to raise and carry a car with."""
    return workshop_bay(db)


@router.put("/bay")
def change_bay(db: Db, wanted: BayUpdate) -> BayView:
    """Say what there is now."""
    return set_bay(db, wanted)


@router.get("/measures")
def see_measures(db: Db) -> MeasuresView:
    """Units the workshop types in, and its limits."""
    return workshop_measures(db)


@router.put("/measures")
def change_measures(db: Db, wanted: MeasuresUpdate) -> MeasuresView:
    """Type in other units, or hold other limits."""
    return set_measures(db, wanted)
