"""The database file: opened, migrated, and handed out in short sessions."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from copy import copy
from pathlib import Path
from threading import Lock
from typing import Any
from uuid import uuid4

from sqlalchemy import Engine, event
from sqlalchemy.pool import QueuePool
from sqlmodel import Session, create_engine

from fair_spindle.core.basics.errors import InputError
from fair_spindle.records.soundness import NEWEST, check_old_tables, check_whole, opened_to_read, version_of
from fair_spindle.records.tables import SettingRow
from fair_spindle.records.watch import Watch

EPOCH = "epoch"
MIGRATIONS = Path(__file__).parent / "migrations"


class Database:
    """One SQLite file with durable writes.

    Reads and writes have sessions of their own; a write holds the file's write lock from its
    first statement, so that two devices cannot overwrite each other.
    """

    def __init__(self, path: Path) -> None:
        self.path = path
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            self._prepare()
            _writable(path)
        except (OSError, sqlite3.OperationalError) as error:
            raise InputError(f"{path} cannot be used: {_reason(error)}.", field="db") from None
        self.made_by = ""
        self._epoch = [""]
        # A session of the ORM takes many times what is asked, and added, with every entry.
        self._asked, self._added = _at_driver(path), _at_driver(path)
        self._asking, self._adding = Lock(), Lock()
        # The list of a thousand jobs looks at two pages of each; by default a quarter of them is kept.
        self._reader = _engine(path, "BEGIN", "cache_size=-16000")
        self._writer = _engine(path, "BEGIN IMMEDIATE")
        self.watch = Watch(path)
        self._begin_epoch()

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """Session that sees one consistent state."""
        with Session(self._reader) as session:
            yield session

    def ask(self, question: str, **told: object) -> list[Any]:
        """Rows that answer a question asked with every entry: at the driver, of what is committed by then."""
        with self._asking:
            return self._asked.execute(question, told).fetchall()

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """Session that is committed when left without an error."""
        with Session(self._writer) as session:
            yield session
            # Asked while the write lock is held: what another program wrote until now is not taken for our own.
            self.watch.mark()
            session.commit()
        self.watch.wrote()

    @contextmanager
    def adding(self) -> Iterator[sqlite3.Connection]:
        """The driver's own connection with the file's write lock; committed when left without an error."""
        with self._adding, self._added:
            self._added.execute("BEGIN IMMEDIATE")
            yield self._added
            self.watch.mark()
        self.watch.wrote()

    def used_by(self, person: str) -> Database:
        """The same database, for entries that are made by that person."""
        theirs = copy(self)
        theirs.made_by = person
        return theirs

    @property
    def epoch(self) -> str:
        """Which life of the database this is: putting an older copy in its place begins another."""
        return self._epoch[0]

    def begin_new_epoch(self) -> None:
        """What was seen before belongs to another life from now on."""
        with self.writing() as session:
            row = session.get(SettingRow, EPOCH) or SettingRow(key=EPOCH, version=1, value="")
            row.value = json.dumps({"epoch": uuid4().hex})
            session.add(row)
        self._begin_epoch()

    def _begin_epoch(self) -> None:
        with self.reading() as session:
            row = session.get(SettingRow, EPOCH)
            self._epoch[0] = json.loads(row.value)["epoch"] if row else ""
        if not self._epoch[0]:
            self.begin_new_epoch()

    def close(self) -> None:
        """Let go of the file."""
        self._reader.dispose()
        self._writer.dispose()
        self._asked.close()
        self._added.close()
        self.watch.close()

    def _prepare(self) -> None:
        """Look at the file without touching it; only one that is ours and whole is brought to today's version."""
        version = None
        if self.path.exists() and self.path.stat().st_size:
            with opened_to_read(self.path) as connection:
                version = version_of(connection)
                (check_whole if version == NEWEST else check_old_tables)(connection)
        if version == NEWEST:
            return
        if version is not None:
            self._copy_aside()
        migrate(self.path)
        with opened_to_read(self.path) as connection:
            check_whole(connection)

    def _copy_aside(self) -> None:
        """Keep the file as it was, with what its write-ahead log still holds."""
        copy = self.path.with_suffix(f".before-{NEWEST}.sqlite")
        with closing(sqlite3.connect(self.path)) as source, closing(sqlite3.connect(copy)) as target:
            source.backup(target)


def migrate(path: Path) -> None:
    """Bring a database file to the newest version."""
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("sqlalchemy.url", f"sqlite:///{path}")
    command.upgrade(config, "head")


def _writable(path: Path) -> None:
    """Take the write lock once and let it go: a read-only file or folder is told at the start."""
    with closing(sqlite3.connect(path, timeout=5, isolation_level=None)) as connection:
        connection.execute("PRAGMA journal_mode=WAL")
        connection.execute("BEGIN IMMEDIATE")
        connection.execute("ROLLBACK")


def _reason(error: Exception) -> str:
    words = str(getattr(error, "strerror", "") or error)
    for sign, reason in (("readonly", "it is read-only"), ("locked", "it is in use by another program")):
        if sign in words:
            return reason
    return words[:1].lower() + words[1:]


def _at_driver(path: Path, *pragmas: str) -> sqlite3.Connection:
    """A connection that begins and ends nothing by itself; what it commits is on the disk."""
    connection = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
    for pragma in ("busy_timeout=10000", "journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON", *pragmas):
        connection.execute(f"PRAGMA {pragma}")
    return connection


def _engine(path: Path, begin: str, *pragmas: str) -> Engine:
    engine = create_engine("sqlite://", creator=lambda: _at_driver(path, *pragmas), poolclass=QueuePool)

    @event.listens_for(engine, "begin")
    def _begun(connection: Any) -> None:
        connection.exec_driver_sql(begin)

    return engine
