"""A practice job that the robot follows through the API: it reads with the bay's gauges and writes line by line."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Protocol

from fair_spindle.core.basics.wheels import WHEELS


class Desk(Protocol):
    """Where the robot asks and enters: the API by its paths; RuntimeError where it is refused."""

    def get(self, path: str, **query: object) -> Any:
        """What stands there."""

    def post(self, path: str, body: Mapping[str, object]) -> Any:
        """Enter it."""


class FollowedJob:
    """An exercise that was begun at a desk, in bare mode; ``layouts`` are other axles than its own."""

    def __init__(
        self, desk: Desk, job: str, exercise: str, seed: int, layouts: Mapping[str, str] | None = None
    ) -> None:
        self.desk, self.path, self._n = desk, f"/api/jobs/{job}", 0
        body = {"id": job, "exercise": exercise, "seed": seed, "bare": True, "layouts": dict(layouts or {})}
        desk.post("/api/practice", body)

    def send(self, **act: object) -> None:
        """Write one line of the job's log."""
        seen = self.desk.get(f"{self.path}/version")["version"]
        self.desk.post(f"{self.path}/events", {"id": self._next("line"), "seen": seen, "act": act})

    def read(self, *names: str) -> None:
        """Read these at all wheels with the bay's gauges."""
        self.read_at(*(f"{key}.{name}" for key in WHEELS for name in names))

    def read_at(self, *keys: str) -> None:
        """Read these fields."""
        self.desk.post(f"{self.path}/practice/read", {"id": self._next("read"), "keys": keys})

    def _next(self, kind: str) -> str:
        self._n += 1
        return f"{kind}-{self._n:05}"
