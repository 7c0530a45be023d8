"""What can go wrong, by what the user can do about it.

::

    SpindleError
    ├ InputError(ValueError)   a value that cannot be taken; names the field
    │  ├ OutOfRange            outside what is physically or practically possible
    │  └ Inconsistent          two inputs that cannot both be true
    ├ NoSolution               nothing satisfies the inputs
    ├ NotAllowed               a rule of the job forbids it now
    ├ Conflict                 somebody else changed it first
    └ NotFound                 no such thing here
"""

from __future__ import annotations

from typing import Any


class SpindleError(Exception):
    """Base of everything this product raises on purpose.

    ``message`` is for the user: what was required, what came, what to do.
    """

    def __init__(self, message: str, *, field: str | None = None, **details: Any) -> None:
        super().__init__(message)
        self.message = message
        self.field = field
        self.details = details


class InputError(SpindleError, ValueError):
    """A value that cannot be taken as it stands."""


class OutOfRange(InputError):
    """A value outside what is physically or practically possible."""


class Inconsistent(InputError):
    """Two inputs that cannot both be true."""


class NoSolution(SpindleError):
    """Nothing satisfies the inputs; the message says what can be changed."""


class NotAllowed(SpindleError):
    """A rule of the job forbids this now; the message says what has to happen first."""


class Conflict(SpindleError):
    """Somebody else changed it first; ``details`` carries both versions."""


class NotFound(SpindleError):
    """No such thing here."""


def require(
    ok: object,
    field: str,
    required: str,
    came: object,
    do: str = "",
    *,
    kind: type[InputError] = OutOfRange,
) -> None:
    """Raise ``kind`` naming field, requirement, what came and what to do, unless `ok`."""
    if not ok:
        advice = f" {do}" if do else ""
        raise kind(f"{required}; got {came}.{advice}", field=field, came=str(came))
