"""Whether a database file is ours and whole: its tables, its logs, and nothing foreign in it."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

from sqlmodel import SQLModel

from fair_spindle.core.basics.errors import InputError
from fair_spindle.records import tables as _tables  # noqa: F401  the metadata is filled by reading them

VERSIONS = ("0001", "0002", "0003", "0004", "0005")
NEWEST = VERSIONS[-1]
_OURS_BEFORE = {"job", "book", "event", "instrument", "shelf", "setting", "procedure"}


@contextmanager
def opened_to_read(path: Path) -> Iterator[sqlite3.Connection]:
    """A connection that cannot change the file; InputError where it is no database."""
    # Without a log beside it nobody has the file open, and nothing needs to be made beside it to read it.
    quiet = "" if path.with_name(f"{path.name}-wal").exists() else "&immutable=1"
    address = f"{path.resolve().as_uri()}?mode=ro{quiet}"
    try:
        with closing(sqlite3.connect(address, uri=True, timeout=5)) as connection:
            yield connection
    except sqlite3.DatabaseError as error:
        words = "it is in use by another program" if "locked" in str(error) else "it is no database, or is damaged"
        raise InputError(f"{path} cannot be read: {words}.", field="db") from None


def version_of(connection: sqlite3.Connection) -> str | None:
    """The version a file was written by; None for an empty file, InputError for one that is not ours."""
    names = {name for (name,) in connection.execute("SELECT name FROM sqlite_master")}
    if not names:
        return None
    if "alembic_version" not in names:
        raise InputError("This is a database of another program; nothing was changed in it.", field="db")
    found = [version for (version,) in connection.execute("SELECT version_num FROM alembic_version")]
    if len(found) != 1:
        raise InputError(f"The database names {len(found)} versions of itself where one belongs.", field="db")
    version = found[0]
    if isinstance(version, str) and version.isdecimal() and len(version) == 4 and version > NEWEST:
        raise InputError("This database was written by a newer version of this product.", field="db")
    if version not in VERSIONS:
        raise InputError(f"The database names a version that never was: {str(version)[:20]!r}.", field="db")
    return str(version)


def check_whole(connection: sqlite3.Connection) -> None:
    """Hold a database of today's version against what it must be; InputError says what does not hold and where."""
    found = connection.execute("PRAGMA quick_check(1)").fetchone()[0]
    if found != "ok":
        raise InputError(f"The database is damaged: {found}.", field="db")
    check_tables(connection)
    check_logs(connection)


def check_tables(connection: sqlite3.Connection) -> None:
    """The tables, columns and indexes of today's version and no others; no triggers and no views."""
    ours = SQLModel.metadata.tables
    wanted = {("table", name) for name in ours} | {("table", "alembic_version")}
    wanted |= {("index", str(index.name)) for table in ours.values() for index in table.indexes}
    there = {
        (kind, name)
        for kind, name in connection.execute("SELECT type, name FROM sqlite_master")
        if not name.startswith("sqlite_")
    }
    for kind, name in sorted(there ^ wanted):
        words = "is not ours" if (kind, name) in there else "is missing"
        raise InputError(f"The {kind} {name[:60]!r} in the database {words}.", field="db")
    for name, table in ours.items():
        columns = {row[1] for row in connection.execute(f'PRAGMA table_info("{name}")')}
        if columns != set(table.columns.keys()):
            odd = ", ".join(sorted(columns ^ set(table.columns.keys())))
            raise InputError(f"The table {name!r} has not the columns it must have: {odd[:100]}.", field="db")


def check_old_tables(connection: sqlite3.Connection) -> None:
    """Before a file is brought to today's version: nothing but tables and indexes of ours in it."""
    for kind, name in connection.execute("SELECT type, name FROM sqlite_master"):
        foreign = kind in ("trigger", "view") or (kind == "table" and name not in _OURS_BEFORE | {"alembic_version"})
        if foreign and not name.startswith("sqlite_"):
            raise InputError(f"The {kind} {name[:60]!r} in the database is not ours.", field="db")


def check_logs(connection: sqlite3.Connection) -> None:
    """Every log without a gap, and belonging to a job or car that is there."""
    gap = connection.execute(
        "SELECT book_id FROM event GROUP BY book_id HAVING min(seq) <> 1 OR max(seq) <> count(*) LIMIT 1"
    ).fetchone()
    if gap:
        raise InputError(f"The log of {str(gap[0])[:64]!r} has lines missing.", field="db")
    lost = connection.execute(
        "SELECT book_id FROM event WHERE book_id NOT IN (SELECT id FROM book) LIMIT 1"
    ).fetchone()
    if lost:
        raise InputError(f"The log of {str(lost[0])[:64]!r} belongs to no job or car.", field="db")
