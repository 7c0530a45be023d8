"""Answers remembered by what they were asked of, for things that are never changed but replaced."""

from __future__ import annotations

import hashlib
import pickle
from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from threading import Lock
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
        known: dict[int | tuple[int, ...], tuple[tuple[object, ...], R]] = {}

        @wraps(function)
        def remembered(*args: P.args, **kwargs: P.kwargs) -> R:
            key = id(args[0]) if len(args) == 1 else tuple(map(id, args))
            found = None if kwargs else known.get(key)
            if found is None:
                if len(known) >= most:
                    known.clear()
                found = known[key] = (args, function(*args, **kwargs))
            return found[1]

        return remembered

    return remembering


def by_content(*, most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Remember a pure function's last answers for arguments that say the same, though they were made anew.

    Arguments are told apart by their pickled bytes; the answers are never to be changed.

    Examples
    --------
    >>> asked = []
    >>> total = by_content(most=2)(lambda numbers: asked.append(1) or sum(numbers))
    >>> total([1.0, 2.0]), total([1.0, 2.0]), total([3.0]), len(asked)
    (3.0, 3.0, 3.0, 2)
    """

    def remembering(function: Callable[P, R]) -> Callable[P, R]:
        known: OrderedDict[bytes, R] = OrderedDict()
        lock = Lock()

        @wraps(function)
        def remembered(*args: P.args, **kwargs: P.kwargs) -> R:
            key = hashlib.blake2b(pickle.dumps((args, sorted(kwargs.items())))).digest()
            with lock:
                if key in known:
                    known.move_to_end(key)
                    return known[key]
            answer = function(*args, **kwargs)
            with lock:
                known[key] = answer
                while len(known) > most:
                    known.popitem(last=False)
            return answer

        return remembered

    return remembering
