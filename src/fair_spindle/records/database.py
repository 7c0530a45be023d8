"""The database file: opened, migrated, and handed out in short sessions."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

from sqlalchemy import Engine, event
from sqlmodel import Session, create_engine

from fair_spindle.core.basics.errors import InputError

MIGRATIONS = Path(__file__).parent / "migrations"
NEWEST = "0003"


class Database:
    """One SQLite file with durable writes.

    Reads and writes have sessions of their own; a write holds the file's write lock from its
    first statement, so that two devices cannot overwrite each other.
    """

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        self.path = path
        self._migrate()
        self._reader = _engine(path, "BEGIN")
        self._writer = _engine(path, "BEGIN IMMEDIATE")

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """Session that sees one consistent state."""
        with Session(self._reader) as session:
            yield session

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """Session that is committed when left without an error."""
        with Session(self._writer) as session:
            yield session
            session.commit()

    def close(self) -> None:
        """Let go of the file."""
        self._reader.dispose()
        self._writer.dispose()

    def _migrate(self) -> None:
        found = self._version()
        if found == NEWEST:
            return
        if found is not None and found > NEWEST:
            raise InputError(f"{self.path} was written by a newer version of this product.", field="db")
        if found is not None:
            self._copy_aside()
        migrate(self.path)

    def _copy_aside(self) -> None:
        """Keep the file as it was, with what its write-ahead log still holds."""
        copy = self.path.with_suffix(f".before-{NEWEST}.sqlite")
        with closing(sqlite3.connect(self.path)) as source, closing(sqlite3.connect(copy)) as target:
            source.backup(target)

    def _version(self) -> str | None:
        if not self.path.exists() or self.path.stat().st_size == 0:
            return None
        try:
            with closing(sqlite3.connect(self.path)) as connection:
                tables = connection.execute(
                    "SELECT name FROM sqlite_master WHERE name = 'alembic_version'"
                ).fetchall()
                rows = connection.execute("SELECT version_num FROM alembic_version").fetchall() if tables else []
                return rows[0][0] if rows else None
        except sqlite3.DatabaseError:
            raise InputError(f"{self.path} is no database of this product.", field="db") from None


def migrate(path: Path) -> None:
    """Bring a database file to the newest version."""
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("sqlalchemy.url", f"sqlite:///{path}")
    command.upgrade(config, "head")


def _engine(path: Path, begin: str) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"check_same_thread": False})

    @event.listens_for(engine, "connect")
    def _connected(connection: Any, _: object) -> None:
        connection.isolation_level = None
        for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON", "busy_timeout=5000"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _begun(connection: Any) -> None:
        connection.exec_driver_sql(begin)

    return engine
