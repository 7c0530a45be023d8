"""What handlers are given."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Path, Request

from fair_spindle.records.database import Database


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


Db = Annotated[Database, Depends(_database)]
JobId = Annotated[str, Path(pattern=r"^[0-9a-zA-Z-]{8,64}$")]
