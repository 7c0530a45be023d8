"""What handlers are given."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Path, Query, Request

from fair_spindle.records.database import Database


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


_ID = r"^[0-9a-zA-Z-]{8,64}$"
Db = Annotated[Database, Depends(_database)]
JobId = Annotated[str, Path(pattern=_ID)]
CarId = Annotated[str, Path(pattern=_ID)]
Key = Annotated[str, Query(pattern=_ID, description="Idempotency key of the entry.")]
Seen = Annotated[int, Query(ge=0, le=1_000_000, description="Last line of the log that was seen.")]
