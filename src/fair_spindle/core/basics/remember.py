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
        answer: Callable[..., R] = function

        def make(key: int | tuple[int, ...], args: tuple[object, ...]) -> tuple[tuple[object, ...], R]:
            if len(known) >= most:
                known.clear()
            found = known[key] = (args, answer(*args))
            return found

        def of_one(one: object) -> R:
            return (known.get(id(one)) or make(id(one), (one,)))[1]

        def of_several(*args: object) -> R:
            key = tuple(map(id, args))
            return (known.get(key) or make(key, args))[1]

        # Some are asked a hundred times with every entry: those of one argument do without what several need.
        return wraps(function)(of_one if function.__code__.co_argcount == 1 else of_several)

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
