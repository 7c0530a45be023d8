"""Value objects: told apart by what they hold, and replaced instead of changed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, fields
from operator import attrgetter
from typing import Any, TypeVar, dataclass_transform

T = TypeVar("T")


@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def value_object(cls: type[T]) -> type[T]:
    """Make a class a frozen dataclass whose methods but ``__init__`` are shared by all of them.

    A frozen dataclass compiles six methods of its own while its module is read; two hundred of them were a quarter of
    a second before the first answer.  That none is changed is held by the type checker, and nothing by the program.

    Examples
    --------
    >>> @value_object
    ... class Reading:
    ...     text: str
    ...     unit: str = "mm"
    ...     said: str = field(default="", compare=False, repr=False)
    >>> Reading("3"), Reading("3") == Reading("3", said="three"), Reading("3") == Reading("4"), Reading("3") == 3
    (Reading(text='3', unit='mm'), True, False, False)
    >>> len({Reading("3"), Reading("3", said="three"), Reading("3", "in")})
    2
    """
    made = dataclass(repr=False, eq=False)(cls)
    compared = [one.name for one in fields(made) if one.compare]  # type: ignore[arg-type]
    held: Callable[[Any], object] = attrgetter(*compared) if compared else _nothing
    shared = {"_held": held, "__eq__": _alike, "__hash__": _hash_of, "__repr__": _say}
    for name, method in shared.items():
        if name not in cls.__dict__:
            setattr(made, name, method)
    return made


def _nothing(_: object) -> object:
    return ()


def _alike(one: Any, other: Any) -> Any:
    if one is other:
        return True
    return one._held(one) == one._held(other) if type(one) is type(other) else NotImplemented


def _hash_of(one: Any) -> int:
    return hash(one._held(one))


def _say(one: Any) -> str:
    said = ", ".join(f"{part.name}={getattr(one, part.name)!r}" for part in fields(one) if part.repr)
    return f"{type(one).__qualname__}({said})"
