"""Six digits that let one device in: they live two minutes, once, and only so many guesses are heard."""

from __future__ import annotations

import secrets
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from fair_spindle.core.basics.errors import InputError, NotAllowed

Role = Literal["owner", "floor"]
LIVES_SECONDS = 120.0
MOST_TRIES = 5
# After so many wrong guesses in a row nobody is heard for a while, whatever codes are made meanwhile.
SILENT_SECONDS = 60.0


@dataclass
class _Code:
    digits: str
    role: Role
    until: float
    tries: int = 0


class PairingDesk:
    """The one code that is open, if any."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._open: _Code | None = None
        self._silent_until = 0.0
        self._lock = threading.Lock()

    def new_code(self, role: Role) -> str:
        """A new code, in the place of one that was open."""
        with self._lock:
            self._open = _Code(f"{secrets.randbelow(1_000_000):06}", role, self._clock() + LIVES_SECONDS)
            return self._open.digits

    def admit(self, digits: str) -> Role:
        """Take a code; it is used up. InputError for a wrong one, NotAllowed where nobody is heard now."""
        with self._lock:
            now = self._clock()
            if now < self._silent_until:
                raise NotAllowed("Too many wrong codes. Wait a minute, then take a new one at the bench.")
            code = self._open
            if code is None or now > code.until:
                self._open = None
                raise InputError(
                    "There is no code open, or it has run out. Take a new one at the bench.", field="code"
                )
            if not secrets.compare_digest(digits.encode(), code.digits.encode()):
                code.tries += 1
                if code.tries >= MOST_TRIES:
                    self._open, self._silent_until = None, now + SILENT_SECONDS
                raise InputError("This is not the code the bench shows.", field="code")
            self._open = None
            return code.role
