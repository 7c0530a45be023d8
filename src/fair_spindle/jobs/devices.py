"""Devices that come in over the network, and what they may do."""

from __future__ import annotations

import secrets
from typing import Literal
from uuid import uuid4

from fair_spindle.jobs.book import now_utc
from fair_spindle.jobs.book_models import View
from fair_spindle.records.database import Database
from fair_spindle.records.devices import device_with, find_device, hash_of, list_devices
from fair_spindle.records.tables import DeviceRow

Role = Literal["owner", "floor"]
ROLE_WORDS = {"owner": "everything, as at the bench", "floor": "work on the floor"}


class DeviceView(View):
    """A device that was let in."""

    id: str
    name: str
    role: Role
    role_said: str
    paired_at: str
    seen_at: str


def let_in(database: Database, name: str, role: Role) -> tuple[DeviceView, str]:
    """Let a device in; the token it is known by from now on is told once."""
    token = secrets.token_urlsafe(32)
    row = DeviceRow(
        id=str(uuid4()),
        name=name.strip(),
        role=role,
        token_hash=hash_of(token),
        paired_at=now_utc(),
        seen_at=now_utc(),
    )
    with database.writing() as session:
        session.add(row)
        return _show_device(row), token


def known_device(database: Database, token: str) -> DeviceView | None:
    """The device that holds a token; that it was here is noted, once an hour at most."""
    with database.reading() as session:
        row = device_with(session, token)
        found = _show_device(row) if row else None
    if found and found.seen_at[:13] != now_utc()[:13]:
        with database.writing() as session:
            if row := session.get(DeviceRow, found.id):
                row.seen_at = now_utc()
                session.add(row)
    return found


def all_devices(database: Database) -> list[DeviceView]:
    """Every device that was let in."""
    with database.reading() as session:
        return [_show_device(row) for row in list_devices(session)]


def change_role(database: Database, device_id: str, role: Role) -> list[DeviceView]:
    """Let a device do more, or less."""
    with database.writing() as session:
        row = find_device(session, device_id)
        row.role = role
        session.add(row)
    return all_devices(database)


def take_off(database: Database, device_id: str) -> list[DeviceView]:
    """Take a device off: its token opens nothing from now on."""
    with database.writing() as session:
        session.delete(find_device(session, device_id))
    return all_devices(database)


def _show_device(row: DeviceRow) -> DeviceView:
    role: Role = "owner" if row.role == "owner" else "floor"
    return DeviceView.of(row, role=role, role_said=ROLE_WORDS[role])
