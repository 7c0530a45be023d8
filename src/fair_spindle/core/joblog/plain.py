"""Acts as plain data, the way they are stored and carried, and back."""

from __future__ import annotations

import types
from collections.abc import Callable, Hashable
from dataclasses import asdict, is_dataclass
from functools import cache
from typing import Any, TypeVar, Union, cast, get_args, get_origin, get_type_hints

from fair_spindle.core.joblog.log import ACTS, Act

Made = TypeVar("Made")
# Members of a step before 0.2, empty in every plan.
GONE = ("frees", "brings")
_KINDS: dict[str, type[Act]] = {kind.kind: kind for kind in ACTS}


def plain(act: Act) -> dict[str, Any]:
    """Write an act as plain data, its kind first.

    :func:`act_of` is the inverse.

    Examples
    --------
    >>> from fair_spindle.core.joblog.log import Undone
    >>> plain(Undone("a"))
    {'kind': 'undone', 'event': 'a'}
    """
    data = asdict(act)
    return {"kind": data.pop("kind"), **data}


def act_of(data: dict[str, Any]) -> Act:
    """Make an act from plain data that was checked before.

    Does no checking of its own: what comes from outside is checked where it comes in.

    Raises KeyError: An unknown kind.

    Examples
    --------
    >>> act_of({"kind": "undone", "event": "a"})
    Undone(event='a', kind='undone')
    """
    data = as_read_today(data)
    act: Act = _builder(cast(Hashable, _KINDS[data["kind"]]))(data)
    return act


def as_read_today(data: dict[str, Any]) -> dict[str, Any]:
    """An act as written by any version, without what acts no longer hold: steps of a plan named groups once."""
    if data.get("kind") != "planned" or not isinstance(data.get("steps"), list):
        return data
    steps = [
        {name: value for name, value in step.items() if name not in GONE or value} if isinstance(step, dict) else step
        for step in data["steps"]
    ]
    return {**data, "steps": steps}


def build(kind: type[Made], data: dict[str, Any]) -> Made:
    """Make one of the core's dataclasses from plain data that was checked before.

    Lists become tuples, down to the last member.

    Raises TypeError: An unknown member.
    """
    made: Made = _builder(cast(Hashable, kind))(data)
    return made


@cache
def _builder(hint: Hashable) -> Callable[[Any], Any]:
    """How a value of one type is made from plain data; worked out once per type."""
    origin, inside = get_origin(hint), get_args(hint)
    if hint is float:
        return float
    if is_dataclass(hint):
        members = {name: _builder(part) for name, part in get_type_hints(hint).items()}
        kind = cast(Callable[..., Any], hint)
        return lambda data: kind(**{name: members[name](value) for name, value in data.items()})
    if origin in (Union, types.UnionType):
        some = _builder(next(part for part in inside if part is not type(None)))
        return lambda value: None if value is None else some(value)
    if origin is tuple:
        each = _builder(inside[0])
        return lambda items: tuple(each(item) for item in items)
    if origin is dict:
        member = _builder(inside[1])
        return lambda data: {key: member(value) for key, value in data.items()}
    return _as_it_is


def _as_it_is(value: Any) -> Any:
    return value
