"""The whole workshop as one file, and the copies it keeps of itself."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Path, Query, Response

from fair_spindle.api.dependencies import Db
from fair_spindle.api.downloads import download
from fair_spindle.api.gate import OWNER
from fair_spindle.jobs import backup
from fair_spindle.jobs.backup import CopyView, RestoreView

router = APIRouter(prefix="/api", tags=["settings"], dependencies=OWNER)


@router.get("/backup", response_class=Response)
def back_up(db: Db, practice: Annotated[bool, Query()] = False) -> Response:
    """The whole workshop as one file, checked, while it is in use; practice jobs only where they are wanted."""
    return download(backup.back_up(db, practice=practice), "application/zip", "fair-spindle-workshop.zip")


@router.post("/restore")
def restore(
    db: Db,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
    apply: Annotated[bool, Query()] = False,
) -> RestoreView:
    """Check a backup; only with ``apply`` is it put in the place of what is here."""
    return backup.restore(db, content, apply)


@router.get("/backups")
def list_copies(db: Db) -> list[CopyView]:
    """The copies the workshop keeps of itself, newest first."""
    return backup.kept_copies(db)


@router.post("/backups", status_code=201)
def keep_a_copy(db: Db) -> list[CopyView]:
    """Keep a checked copy now, unless nothing changed since the last one."""
    return backup.keep_a_copy(db)


@router.post("/backups/{name}/restore")
def restore_copy(
    db: Db, name: Annotated[str, Path(max_length=40)], apply: Annotated[bool, Query()] = False
) -> RestoreView:
    """Check a kept copy; only with ``apply`` is it put in the place of what is here."""
    return backup.restore_copy(db, name, apply)
