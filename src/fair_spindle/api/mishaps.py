"""What nobody foresaw, and what the disk refuses: answered in words, with a reference into the log file."""

from __future__ import annotations

import logging
import sqlite3
from logging.handlers import RotatingFileHandler
from pathlib import Path
from uuid import uuid4

from sqlalchemy.exc import DBAPIError
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from fair_spindle.api.errors import ErrorBody, answer

LOGGER = logging.getLogger("fair_spindle")
LOG_BYTES, LOGS_KEPT = 1_000_000, 3
DISK = (
    ("disk is full", 507, "full", "The disk is full: nothing was written. Make room on the machine of the workshop."),
    ("locked", 503, "busy", "The workshop's file is in use by another program just now. Try again in a moment."),
    ("readonly", 503, "read_only", "The workshop's file cannot be written: it or its folder is read-only."),
    ("disk i/o", 503, "disk", "The disk cannot be read or written. Keep the last backup safe, and look at the disk."),
    ("malformed", 503, "damaged", "The workshop's file is damaged. Bring back the last backup."),
)


def log_file_of(database_file: Path) -> Path:
    """Where traces of mishaps are kept: beside the database."""
    return database_file.with_suffix(".log")


def keep_traces(database_file: Path) -> RotatingFileHandler | None:
    """Write traces to a log file that never grows beyond its bound; None where the folder takes none."""
    try:
        handler = RotatingFileHandler(
            log_file_of(database_file), maxBytes=LOG_BYTES, backupCount=LOGS_KEPT, encoding="utf-8", delay=True
        )
    except OSError:
        return None
    handler.setFormatter(logging.Formatter("%(asctime)s %(message)s"))
    LOGGER.addHandler(handler)
    return handler


class Mishaps:
    """The outermost door: whatever is raised inside is answered in the one shape of errors."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on; answer what it raises, unless an answer has begun."""
        begun = False

        async def watched(message: Message) -> None:
            nonlocal begun
            begun = begun or message["type"] == "http.response.start"
            await send(message)

        try:
            await self._app(scope, receive, watched)
        except Exception as error:
            if scope["type"] != "http":
                raise
            status, body = told(error, f"{scope['method']} {scope['path'][:200]}")
            if not begun:
                await answer(status, body)(scope, receive, send)


def told(error: Exception, where: str) -> tuple[int, ErrorBody]:
    """Status and words for an error that nothing else answered; its trace goes to the log under a reference."""
    reference = uuid4().hex[:8]
    LOGGER.error("%s %s", reference, where, exc_info=error)
    words = str(error).lower() if isinstance(error, DBAPIError | sqlite3.Error | OSError) else ""
    if isinstance(error, OSError) and error.errno == 28:
        words = "disk is full"
    for sign, status, code, message in DISK:
        if sign in words:
            return status, ErrorBody(code=code, message=message, details={"reference": reference})
    return 500, ErrorBody(
        code="mishap",
        message=(
            f"Something went wrong in the server, not by your doing. Nothing of this entry was written. "
            f"Its trace is in the log file under {reference}."
        ),
        details={"reference": reference},
    )
