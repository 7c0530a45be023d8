"""How far entries that had waited were written."""

from __future__ import annotations

from pydantic import BaseModel

from fair_spindle.api.errors import ErrorBody, told
from fair_spindle.jobs.queue import Delivered


class RefusedView(BaseModel):
    """The entry that was refused, and why; those after it still wait."""

    id: str
    error: ErrorBody


class DeliveredView(BaseModel):
    """Ids of the entries that are in the log, how long it is now, and the one that was refused."""

    written: list[str]
    version: int
    refused: RefusedView | None = None


def show_delivered(done: Delivered) -> DeliveredView:
    """As it is answered."""
    refused = RefusedView(id=done.refused, error=told(done.error)[1]) if done.error else None
    return DeliveredView(written=done.written, version=done.version, refused=refused)
