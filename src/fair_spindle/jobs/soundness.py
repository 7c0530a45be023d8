"""Whether what stands in a database can be read: every act, every log, every setting."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator

from pydantic import ValidationError

from fair_spindle.core.basics.errors import InputError, SpindleError
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.formats.job_kinds import kinds
from fair_spindle.records.books import Line, read_lines

_JSON = (("shelf", "id", "entries"), ("setting", "key", "value"))


def check_content(connection: sqlite3.Connection) -> None:
    """Read everything once; InputError says which job, car or setting cannot be read, and at which line."""
    for key, template, title, lines in _books(connection):
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


def _books(connection: sqlite3.Connection) -> Iterator[tuple[str, str, str, list[Line]]]:
    wanted = "SELECT id, seq, at, act, made_by FROM event WHERE book_id = ? ORDER BY seq"
    for key, template, title in connection.execute("SELECT id, template, title FROM book").fetchall():
        yield key, template, title, connection.execute(wanted, (key,)).fetchall()
