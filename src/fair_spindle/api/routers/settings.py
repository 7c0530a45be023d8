"""The workshop's own ways, and the whole of it as one file."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Path, Query, Response

from fair_spindle.api.dependencies import Db
from fair_spindle.api.downloads import download
from fair_spindle.api.gate import OWNER
from fair_spindle.jobs import backup
from fair_spindle.jobs.backup import CopyView, RestoreView
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
backup_router = APIRouter(prefix="/api", tags=["settings"], dependencies=OWNER)


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


@backup_router.get("/backup", response_class=Response)
def back_up(db: Db, practice: Annotated[bool, Query()] = False) -> Response:
    """The whole workshop as one file, checked, while it is in use; practice jobs only where they are wanted."""
    return download(backup.back_up(db, practice=practice), "application/zip", "fair-spindle-workshop.zip")


@backup_router.post("/restore")
def restore(
    db: Db,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
    apply: Annotated[bool, Query()] = False,
) -> RestoreView:
    """Check a backup; only with ``apply`` is it put in the place of what is here."""
    return backup.restore(db, content, apply)


@backup_router.get("/backups")
def list_copies(db: Db) -> list[CopyView]:
    """The copies the workshop keeps of itself, newest first."""
    return backup.kept_copies(db)


@backup_router.post("/backups", status_code=201)
def keep_a_copy(db: Db) -> list[CopyView]:
    """Keep a checked copy now, unless nothing changed since the last one."""
    return backup.keep_a_copy(db)


@backup_router.post("/backups/{name}/restore")
def restore_copy(
    db: Db, name: Annotated[str, Path(max_length=40)], apply: Annotated[bool, Query()] = False
) -> RestoreView:
    """Check a kept copy; only with ``apply`` is it put in the place of what is here."""
    return backup.restore_copy(db, name, apply)
