"""What handlers are given."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Path, Query, Request
from fastapi.concurrency import run_in_threadpool

from fair_spindle.api.doors import EPOCH
from fair_spindle.core.basics.errors import Conflict
from fair_spindle.jobs.append import made_by
from fair_spindle.records.database import Database

PERSON = "X-Made-By"


async def _database(request: Request) -> Database:
    """The workshop's database, for a page that knows it in its present life."""
    database: Database = request.app.state.database
    seen = request.headers.get(EPOCH)
    if seen and seen != database.epoch and request.method != "GET":
        raise Conflict(
            "The workshop was put back to an older state since this page was loaded. Load it again, look at what is "
            "there, then enter yours if it still holds.",
            field="epoch",
        )
    person = request.headers.get(PERSON, "")
    if request.method == "GET" or not person:
        return database
    return await run_in_threadpool(made_by, database, person)


ID = r"^[0-9a-zA-Z-]{8,64}$"
Db = Annotated[Database, Depends(_database)]
JobId = Annotated[str, Path(pattern=ID)]
CarId = Annotated[str, Path(pattern=ID)]
Key = Annotated[str, Query(pattern=ID, description="Idempotency key of the entry.")]
Seen = Annotated[int, Query(ge=0, le=1_000_000, description="Last line of the log that was seen.")]
