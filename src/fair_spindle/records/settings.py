"""The workshop's settings in the database."""

from __future__ import annotations

import json
from typing import Any

from sqlmodel import Session

from fair_spindle.core.basics.errors import Conflict
from fair_spindle.records.database import Database
from fair_spindle.records.tables import SettingRow


def load_setting(session: Session, key: str) -> tuple[dict[str, Any], int]:
    """A setting and its version; empty and 0 where it was never made."""
    row = session.get(SettingRow, key)
    return (json.loads(row.value), row.version) if row else ({}, 0)


def read_setting(database: Database, key: str) -> tuple[dict[str, Any], int]:
    """The same as it stands now, for what is asked with every entry."""
    value, version = written_setting(database, key)
    return json.loads(value), version


def written_setting(database: Database, key: str) -> tuple[str, int]:
    """The same as it is written, by which what follows from it is remembered."""
    found: list[tuple[str, int]] = database.ask("SELECT value, version FROM setting WHERE key = :key", key=key)
    return found[0] if found else ("{}", 0)


def save_setting(session: Session, key: str, value: dict[str, Any], seen: int) -> None:
    """Write a setting over the version that was seen; Conflict where another came between."""
    found, version = load_setting(session, key)
    if version != seen and found != value:
        raise Conflict("Somebody else changed this setting meanwhile.", theirs=found, yours=value)
    if found == value:
        return
    row = session.get(SettingRow, key) or SettingRow(key=key, version=0, value="")
    row.version, row.value = version + 1, json.dumps(value, ensure_ascii=False)
    session.add(row)
