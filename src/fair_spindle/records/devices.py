"""Devices that were let in; of a token only its hash is kept."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence

from sqlmodel import Session, col, select

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.records.tables import DeviceRow


def hash_of(token: str) -> str:
    """What is kept of a token; it is long and random, so that one round of SHA-256 hides it."""
    return hashlib.sha256(token.encode()).hexdigest()


def list_devices(session: Session) -> Sequence[DeviceRow]:
    """All of them, as they were let in."""
    return session.exec(select(DeviceRow).order_by(col(DeviceRow.paired_at))).all()


def device_with(session: Session, token: str) -> DeviceRow | None:
    """The device that holds a token."""
    return session.exec(select(DeviceRow).where(DeviceRow.token_hash == hash_of(token))).first()


def find_device(session: Session, device_id: str) -> DeviceRow:
    """A device by its id; NotFound where there is none."""
    row = session.get(DeviceRow, device_id)
    if row is None:
        raise NotFound("There is no such device here any more.", field="device_id")
    return row
