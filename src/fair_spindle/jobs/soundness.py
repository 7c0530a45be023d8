"""Whether what stands in a database can be read: every act, every log, every setting."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from pathlib import Path

from pydantic import ValidationError

from fair_spindle.core.basics.errors import InputError, SpindleError
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.formats.job_kinds import kinds
from fair_spindle.records.books import Line, read_lines
from fair_spindle.records.kept_copies import copy_folder, list_copies
from fair_spindle.records.soundness import NEWEST, opened_to_read, version_of

# A book with its log, so that it is known again: how many lines, how long they are, the last one's id.
_LIKE = """
    SELECT b.id, b.template, b.title, count(e.seq), total(length(e.act)),
           (SELECT id FROM event WHERE book_id = b.id ORDER BY seq DESC LIMIT 1)
    FROM book b LEFT JOIN event e ON e.book_id = b.id GROUP BY b.id
"""
_JSON = (("shelf", "id", "entries"), ("setting", "key", "value"))


def check_before_start(path: Path) -> None:
    """Read whatever changed since the newest kept copy, which was read whole when it was kept.

    InputError as from :func:`check_content`.  A file that is not there yet, or of an older version, is left to those
    who make or migrate it.
    """
    if not path.is_file() or not path.stat().st_size:
        return
    with opened_to_read(path) as connection:
        if version_of(connection) != NEWEST:
            return
        check_content(connection, _alike(connection, path))


def _alike(connection: sqlite3.Connection, path: Path) -> frozenset[str]:
    """Books that stand in the newest kept copy as they are now."""
    copies = list_copies(path)
    if not copies:
        return frozenset()
    try:
        with opened_to_read(copy_folder(path) / copies[0].name) as copy:
            kept = set(copy.execute(_LIKE))
    except (InputError, sqlite3.DatabaseError):
        return frozenset()
    return frozenset(row[0] for row in connection.execute(_LIKE) if row in kept)


def check_content(connection: sqlite3.Connection, known: frozenset[str] = frozenset()) -> None:
    """Read everything once; InputError says which job, car or setting cannot be read, and at which line.

    Books that are ``known`` were read before.
    """
    for key, template, title, lines in _books(connection, known):
        if template not in kinds():
            raise InputError(f"“{title[:60]}” ({key}) is of a kind that never was: {template[:40]!r}.", field="db")
        where = 0
        try:
            for line in lines:
                where = line[1]
                read_lines([line])
            where = lines[-1][1] if lines else 0
            derive(read_lines(lines), kinds()[template])
        except SpindleError as error:
            raise InputError(f"“{title[:60]}”, line {where} of its log: {error.message}", field="db") from error
        except (ValidationError, ValueError, TypeError, KeyError, AttributeError, RecursionError) as error:
            raise InputError(f"“{title[:60]}”, line {where} of its log cannot be read.", field="db") from error
    for table, name, column in _JSON:
        for row, value in connection.execute(f"SELECT {name}, {column} FROM {table}"):
            try:
                json.loads(value)
            except (ValueError, TypeError, RecursionError):
                raise InputError(f"{table} {str(row)[:60]!r} cannot be read.", field="db") from None


def _books(connection: sqlite3.Connection, known: frozenset[str]) -> Iterator[tuple[str, str, str, list[Line]]]:
    wanted = "SELECT id, seq, at, act, made_by FROM event WHERE book_id = ? ORDER BY seq"
    for key, template, title in connection.execute("SELECT id, template, title FROM book").fetchall():
        if key in known:
            continue
        yield key, template, title, connection.execute(wanted, (key,)).fetchall()
