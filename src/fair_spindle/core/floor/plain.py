"""Acts as plain data, the way they are stored and carried, and back."""

from __future__ import annotations

import types
from dataclasses import asdict, is_dataclass
from typing import Any, Union, get_args, get_origin, get_type_hints

from fair_spindle.core.floor.log import ACTS, Act

_KINDS: dict[str, type[Act]] = {kind.kind: kind for kind in ACTS}
_HINTS = {kind: get_type_hints(kind) for kind in ACTS}


def plain(act: Act) -> dict[str, Any]:
    """Write an act as plain data, its kind first.

    Parameters
    ----------
    act : Act
        Any act. [-]

    Returns
    -------
    dict
        Strings, numbers, lists and dicts only.

    Raises
    ------
    Nothing.

    Notes
    -----
    :func:`act_of` is the inverse.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.log import Undone
    >>> plain(Undone("a"))
    {'kind': 'undone', 'event': 'a'}
    """
    data = asdict(act)
    return {"kind": data.pop("kind"), **data}


def act_of(data: dict[str, Any]) -> Act:
    """Make an act from plain data that was checked before.

    Parameters
    ----------
    data : dict
        As :func:`plain` writes it. [-]

    Returns
    -------
    Act
        Equal to the act that was written.

    Raises
    ------
    KeyError
        An unknown kind.

    Notes
    -----
    Does no checking of its own: what comes from outside is checked where it comes in.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> act_of({"kind": "undone", "event": "a"})
    Undone(event='a', kind='undone')
    """
    kind = _KINDS[data["kind"]]
    return kind(**{name: _built(_HINTS[kind][name], value) for name, value in data.items()})


def _built(hint: Any, value: Any) -> Any:
    origin, inside = get_origin(hint), get_args(hint)
    if hint is float:
        return float(value)
    if is_dataclass(hint):
        return hint(**{name: _built(part, value[name]) for name, part in get_type_hints(hint).items()})  # type: ignore[operator]
    if origin in (Union, types.UnionType):
        return None if value is None else _built(next(part for part in inside if part is not type(None)), value)
    if origin is tuple:
        return tuple(_built(inside[0], item) for item in value)
    if origin is dict:
        return {key: _built(inside[1], item) for key, item in value.items()}
    return value
