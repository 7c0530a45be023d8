"""Answers remembered by what they were asked of, for things that are never changed but replaced."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

MOST = 20_000
P = ParamSpec("P")
R = TypeVar("R")


def by_identity(*, most: int = MOST) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Remember a pure function's answers for the very same arguments, given by position, which may not be hashable.

    The arguments are kept with the answer, so that no other thing takes their place in memory; ``most`` of them.

    Examples
    --------
    >>> asked = []
    >>> length = by_identity()(lambda numbers: asked.append(len(numbers)) or len(numbers))
    >>> one, other = [1.0, 2.0], [1.0, 2.0]
    >>> length(one), length(one), length(other), asked
    (2, 2, 2, [2, 2])
    """

    def remembering(function: Callable[P, R]) -> Callable[P, R]:
        known: dict[tuple[int, ...], tuple[tuple[object, ...], R]] = {}

        @wraps(function)
        def remembered(*args: P.args, **kwargs: P.kwargs) -> R:
            key = tuple(map(id, args))
            found = None if kwargs else known.get(key)
            if found is None:
                if len(known) >= most:
                    known.clear()
                found = known[key] = (args, function(*args, **kwargs))
            return found[1]

        return remembered

    return remembering
