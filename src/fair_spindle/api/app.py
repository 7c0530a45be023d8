"""The application: API, errors, guard, and the built web pages."""

from __future__ import annotations

import asyncio
import mimetypes
import warnings
from collections.abc import AsyncIterator, Iterable, Sequence
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response
from pydantic import BaseModel
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware

from fair_spindle.api.changes import Changes, TellChanges
from fair_spindle.api.contract import write_contract
from fair_spindle.api.doors import Doors
from fair_spindle.api.errors import map_errors
from fair_spindle.api.gate import Gate, Sharing
from fair_spindle.api.guard import LocalGuard
from fair_spindle.api.lazy import LazyRouter, read_ahead
from fair_spindle.api.mishaps import LOGGER, Mishaps, keep_traces
from fair_spindle.records.database import Database

# FastAPI hands a body's name on as an alias to models that are not built yet; it has no effect on them.
warnings.filterwarnings("ignore", message="The 'alias' attribute with value")
mimetypes.add_type("application/manifest+json", ".webmanifest")
DAY_SECONDS = 24 * 3600
FIRST_PAGE_SECONDS = 2
# What the first page asks for once its scripts run; told with the page, the browser asks while it still reads them.
ASKED_FIRST = ", ".join(f"<{path}>; rel=preload; as=fetch; crossorigin" for path in ("/api/me", "/api/board"))
WEB_APP = Path(__file__).parent.parent / "web_app"
# What the first page asks for comes first.
ROUTERS = {
    "board": ("/api/board", "/api/demo", "/api/jobs/"),
    "jobs": ("/api/jobs", "/api/choices", "/api/job-file.schema.json", "/api/joint-patterns"),
    "planning": ("/api/jobs/", "/api/cars/", "/api/procedures"),
    "cars": ("/api/cars", "/api/parts"),
    "settings": ("/api/settings/",),
    "devices": ("/api/devices", "/api/me", "/api/pairing", "/api/people"),
    "gauges": ("/api/instruments", "/api/stand-ins", "/ws/stand-ins/"),
    "typed": ("/api/typed",),
    "listening": ("/ws/books/",),
    "calculations": ("/api/calc",),
    "practice": ("/api/practice", "/api/jobs/"),
    "backups": ("/api/backup", "/api/restore"),
}
LOCAL_HOSTS = frozenset({"127.0.0.1", "localhost", "::1"})


class Health(BaseModel):
    """That the server is there."""

    status: str


def create_app(
    database: Path | Database,
    hosts: Iterable[str] = (),
    *,
    keeps_copies: bool = False,
    sharing: Sharing | None = None,
) -> FastAPI:
    """Build the application over one database, opened or its file, answering to `hosts` besides loopback.

    With ``keeps_copies`` it keeps a checked copy of the database at its start and each day; ``sharing`` tells how the
    workshop's network gets in, where it does.
    """

    routers = [LazyRouter(module, *paths) for module, paths in ROUTERS.items()]

    @asynccontextmanager
    async def life(app: FastAPI) -> AsyncIterator[None]:
        app.state.database = database if isinstance(database, Database) else Database(database)
        traces = keep_traces(app.state.database.path)
        after = asyncio.create_task(_after_start(app.state.database, routers, keeps_copies=keeps_copies))
        yield
        after.cancel()
        app.state.database.close()
        if traces:
            LOGGER.removeHandler(traces)
            traces.close()

    app = FastAPI(title="Fair Spindle", lifespan=life, docs_url=None, redoc_url=None)
    app.state.changes = Changes()
    app.state.sharing = sharing or Sharing()
    app.add_middleware(TellChanges, changes=app.state.changes)
    # Level 4 packs a job's view eight times smaller in a third of the default level's time; what an entry changed
    # goes in a packet or two of the network as it is.
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=4)
    app.add_middleware(Gate, sharing=app.state.sharing)
    app.add_middleware(LocalGuard, hosts=LOCAL_HOSTS | frozenset(hosts))
    app.add_middleware(Mishaps)
    app.add_middleware(Doors)
    map_errors(app)
    # A router taken in whole builds each of its routes a second time; they need nothing of the application's.
    app.router.routes.extend(routers)
    write_contract(app)

    @app.get("/api/health")
    def health() -> Health:
        """Say that the server is there."""
        return Health(status="ok")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        return _page(path)

    return app


async def _after_start(database: Database, routers: Sequence[LazyRouter], *, keeps_copies: bool) -> None:
    """What nobody who came early should wait for: the first page's router at once, the others when it is shown."""
    await asyncio.to_thread(read_ahead, routers[:1])
    await asyncio.sleep(FIRST_PAGE_SECONDS)
    await asyncio.to_thread(read_ahead, routers)
    from fair_spindle.jobs.backup import keep_a_copy

    while keeps_copies:
        try:
            await asyncio.to_thread(keep_a_copy, database)
        except Exception:
            LOGGER.exception("no copy of the workshop could be kept")
        await asyncio.sleep(DAY_SECONDS)


def _page(path: str) -> Response:
    if path.split("/")[0] in ("api", "ws") or "\x00" in path:
        raise HTTPException(404, "There is nothing at this address.")
    lasting = path.startswith("assets/")
    if path and (file := _built_file(path)):
        return FileResponse(file, headers={"Cache-Control": "max-age=31536000, immutable" if lasting else "no-cache"})
    if lasting:
        raise HTTPException(404, "There is no such file in this version. Load the page again.")
    index = WEB_APP / "index.html"
    if not index.is_file():
        raise HTTPException(404, "The web pages are not built yet: run make setup.")
    return FileResponse(index, headers={"Cache-Control": "no-cache"} | ({} if path else {"Link": ASKED_FIRST}))


def _built_file(path: str) -> Path | None:
    """A file of the built pages; None where there is none, or nothing of that name can be."""
    try:
        file = (WEB_APP / path).resolve()
        return file if file.is_relative_to(WEB_APP.resolve()) and file.is_file() else None
    except (OSError, ValueError):
        return None
