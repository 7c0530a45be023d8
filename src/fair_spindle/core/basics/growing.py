"""A sequence that only grows at its end, and shares its beginning with what it grew from."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import islice
from threading import Lock
from typing import TypeVar, overload

T = TypeVar("T")


class Growing(Sequence[T]):
    """A sequence that is never changed; one item more makes another, without copying what stands before it.

    Two that grow from the same one go apart from there: the later of them is copied.

    Examples
    --------
    >>> first = Growing("ab")
    >>> longer, other = first.and_one("c"), first.and_one("d")
    >>> list(first), list(longer), list(other), len(first), first[-1], first[1:], first[::-1]
    (['a', 'b'], ['a', 'b', 'c'], ['a', 'b', 'd'], 2, 'b', ['b'], ['b', 'a'])
    """

    __slots__ = ("_all", "_length", "_lock")

    def __init__(self, items: Iterable[T] = ()) -> None:
        self._all, self._lock = list(items), Lock()
        self._length = len(self._all)

    def and_one(self, item: T) -> Growing[T]:
        """This one with an item more at its end."""
        with self._lock:
            if len(self._all) == self._length:
                self._all.append(item)
                after = Growing[T]()
                after._all, after._length, after._lock = self._all, self._length + 1, self._lock
                return after
        return Growing([*self, item])

    def __len__(self) -> int:
        return self._length

    def __iter__(self) -> Iterator[T]:
        return islice(self._all, self._length)

    @overload
    def __getitem__(self, place: int) -> T: ...
    @overload
    def __getitem__(self, place: slice) -> list[T]: ...
    def __getitem__(self, place: int | slice) -> T | list[T]:
        if isinstance(place, slice):
            begin, end, step = place.indices(self._length)
            return self._all[begin : None if end < 0 else end : step]
        return self._all[range(self._length)[place]]
