"""The tables: books (jobs and cars) with their logs, instruments, parts, settings, devices, people."""

from __future__ import annotations

from sqlmodel import Field, SQLModel, UniqueConstraint


class BookRow(SQLModel, table=True):
    """Head of a job or of a car's record; everything else about it is in its log.

    ``template`` is the kind of job, or ``car``; ``car`` the car's name, ``car_id`` its record; ``practice`` the
    exercise of a practice job as JSON, empty for every other.
    """

    __tablename__ = "book"

    id: str = Field(primary_key=True)
    template: str
    title: str
    car: str
    created_at: str = Field(index=True)
    car_id: str | None = Field(default=None, foreign_key="book.id", index=True)
    practice: str = ""


class EventRow(SQLModel, table=True):
    """One line of an append-only log; ``act`` is JSON, ``made_by`` the person's name where one was picked.

    ``said`` is the fingerprint of the request, so that another one under the same id is noticed.
    """

    __tablename__ = "event"
    __table_args__ = (UniqueConstraint("book_id", "id"),)

    book_id: str = Field(primary_key=True, foreign_key="book.id")
    seq: int = Field(primary_key=True)
    id: str
    at: str
    kind: str
    act: str
    made_by: str = ""
    said: str = ""


class InstrumentRow(SQLModel, table=True):
    """A measuring instrument; numbers are kept as typed, ``version`` counts its changes."""

    __tablename__ = "instrument"

    id: str = Field(primary_key=True)
    version: int
    name: str
    kind: str
    resolution: str
    uncertainty: str
    unit: str
    calibrated: str
    due: str
    address: str
    note: str
    retired: bool = False


class ShelfRow(SQLModel, table=True):
    """A part saved for use on other cars; ``entries`` is JSON of fields below the part's own key."""

    __tablename__ = "shelf"

    id: str = Field(primary_key=True)
    name: str
    kind: str
    entries: str
    created_at: str


class SettingRow(SQLModel, table=True):
    """One of the workshop's settings; ``value`` is JSON."""

    __tablename__ = "setting"

    key: str = Field(primary_key=True)
    version: int
    value: str


class ProcedureRow(SQLModel, table=True):
    """A procedure of the workshop's own; ``content`` is its file."""

    __tablename__ = "procedure"

    key: str = Field(primary_key=True)
    version: int
    content: str
    changed_at: str


class DeviceRow(SQLModel, table=True):
    """A device that was let in; of its token only the hash is kept."""

    __tablename__ = "device"

    id: str = Field(primary_key=True)
    name: str
    role: str
    token_hash: str
    paired_at: str
    seen_at: str


class PersonRow(SQLModel, table=True):
    """Somebody who works here; ``gone`` where the name stays on old records only."""

    __tablename__ = "person"

    id: str = Field(primary_key=True)
    version: int
    name: str
    initials: str
    gone: bool = False
