"""Whether anything but this program wrote in a database file since it was last looked at."""

from __future__ import annotations

import sqlite3
from pathlib import Path
from threading import Lock
from uuid import uuid4

Mark = tuple[str, int]


class Watch:
    """A connection of its own that only asks SQLite whether another one changed the file (``data_version``).

    What this program writes is taken out of the count, so that a mark that is still the same says: whatever was read
    then stands, but for what this program added since.
    """

    def __init__(self, path: Path) -> None:
        self._connection = sqlite3.connect(path, timeout=10, isolation_level=None, check_same_thread=False)
        self._lock, self._name, self._foreign = Lock(), uuid4().hex, 0
        self._seen = self._version()

    def mark(self) -> Mark:
        """Where the file stands; another mark once anything was written that is not told as this program's own."""
        with self._lock:
            if (now := self._version()) != self._seen:
                self._seen, self._foreign = now, self._foreign + 1
            return self._name, self._foreign

    def wrote(self) -> None:
        """What was written just now is this program's own."""
        with self._lock:
            self._seen = self._version()

    def close(self) -> None:
        """Let go of the file."""
        self._connection.close()

    def _version(self) -> int:
        return int(self._connection.execute("PRAGMA data_version").fetchone()[0])
