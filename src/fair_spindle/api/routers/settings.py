"""The workshop's own ways."""

from __future__ import annotations

from fastapi import APIRouter

from fair_spindle.api.dependencies import Db
from fair_spindle.jobs.settings import WalkOrderUpdate, WalkOrderView, set_walk_order, walk_order

router = APIRouter(prefix="/api/settings", tags=["settings"])


@router.get("/walk")
def see_walk_order(db: Db) -> WalkOrderView:
    """The way one walks round a car."""
    return walk_order(db)


@router.put("/walk")
def change_walk_order(db: Db, wanted: WalkOrderUpdate) -> WalkOrderView:
    """Walk round the car another way."""
    return set_walk_order(db, wanted)
