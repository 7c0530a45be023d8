"""Entries that waited for a connection: written in order, up to the first that is refused."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from fair_spindle.core.basics.errors import SpindleError
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.formats.acts import Strict
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.entries import write_entry
from fair_spindle.jobs.models import EventCreate
from fair_spindle.records.database import Database


class QueueCreate(Strict):
    """Entries of one device in the order they were made, each with what the device had seen then.

    ``written`` names those of the same queue that were written already: what they changed is the device's own doing.
    """

    entries: Annotated[list[EventCreate], Field(min_length=1, max_length=500)]
    written: Annotated[list[Identity], Field(max_length=5000, default_factory=list)]


@value_object
class Delivered:
    """Ids of the entries that are in the log now, the length of the log, and what was refused, if anything was."""

    written: list[str]
    version: int
    refused: str = ""
    error: SpindleError | None = None


def deliver(database: Database, book_id: str, wanted: QueueCreate, *, car: bool = False) -> Delivered:
    """Write entries in order; the first refusal stops, and what comes after it is not looked at."""
    mine = frozenset(entry.id for entry in wanted.entries) | frozenset(wanted.written)
    written: list[str] = []
    version = 0
    for entry in wanted.entries:
        try:
            version = write_entry(database, book_id, entry, car=car, mine=mine).version
        except SpindleError as error:
            return Delivered(written, version, entry.id, error)
        written.append(entry.id)
    return Delivered(written, version)
