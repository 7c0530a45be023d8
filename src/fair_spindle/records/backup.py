"""Copies of the whole database while it is in use, and putting one back."""

from __future__ import annotations

import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from sqlmodel import SQLModel

from fair_spindle.core.basics.errors import InputError
from fair_spindle.records.database import Database, migrate
from fair_spindle.records.soundness import NEWEST, check_old_tables, check_whole, version_of

DEVICE_COLUMNS = len(SQLModel.metadata.tables["device"].columns)
Check = Callable[[sqlite3.Connection], None]


def copy_database(database: Database, *, practice: bool = True) -> bytes:
    """A checked copy of the database as it stands, made by SQLite's own online backup, with practice jobs or not."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "copy.sqlite"
        with closing(sqlite3.connect(database.path)) as source, closing(sqlite3.connect(copy)) as target:
            source.backup(target)
            if not practice:
                with target:
                    target.execute("DELETE FROM event WHERE book_id IN (SELECT id FROM book WHERE practice != '')")
                    target.execute("DELETE FROM book WHERE practice != ''")
                target.execute("VACUUM")
            _check(target)
        return copy.read_bytes()


def counts_of(content: bytes, also: Check) -> dict[str, int]:
    """What a copy holds, once it has passed its check; InputError where it is damaged, foreign or too new."""
    with _opened(content) as copy:
        also(copy)
        books = copy.execute("SELECT template = 'car', count(*) FROM book GROUP BY 1").fetchall()
        found = {bool(is_car): count for is_car, count in books}
        entries = copy.execute("SELECT count(*) FROM event").fetchone()[0]
    return {"jobs": found.get(False, 0), "cars": found.get(True, 0), "entries": entries}


def put_back(database: Database, content: bytes) -> Path:
    """Put a checked copy in the place of the database; the file as it was is kept beside it, and named."""
    kept = _kept_beside(database.path)
    kept.write_bytes(copy_database(database))
    with _opened(content) as copy, closing(sqlite3.connect(database.path, timeout=20)) as live:
        let_in = live.execute("SELECT * FROM device").fetchall()
        copy.backup(live)
        # Who may come in is as it is now, not as it was then: a device taken off since stays out.
        with live:
            live.execute("DELETE FROM device")
            live.executemany(f"INSERT INTO device VALUES ({', '.join('?' * DEVICE_COLUMNS)})", let_in)
    database.begin_new_epoch()
    return kept


def _kept_beside(path: Path) -> Path:
    number = 1
    while (kept := path.with_suffix(f".before-restore-{number}.sqlite")).exists():
        number += 1
    return kept


@contextmanager
def _opened(content: bytes) -> Iterator[sqlite3.Connection]:
    """A copy in a place of its own, checked and brought to the newest version."""
    if content[:16] != b"SQLite format 3\x00":
        raise InputError("This is no copy of a workshop's database.", field="file")
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "copy.sqlite"
        file.write_bytes(content)
        try:
            with closing(sqlite3.connect(file)) as connection:
                _check(connection)
                is_old = version_of(connection) != NEWEST
                if is_old:
                    check_old_tables(connection)
        except sqlite3.DatabaseError:
            raise InputError("This copy is damaged or of something else. Choose another.", field="file") from None
        if is_old:
            migrate(file)
        with closing(sqlite3.connect(file)) as connection:
            check_whole(connection)
            yield connection


def _check(connection: sqlite3.Connection) -> None:
    found = connection.execute("PRAGMA integrity_check").fetchone()[0]
    if found != "ok":
        raise InputError(f"The check of the copy failed: {found}.", field="file")
