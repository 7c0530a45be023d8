"""The jobs and cars looked at last, so that pages about the same log share what was worked out of it."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from threading import Lock

from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import Line, read_lines
from fair_spindle.records.tables import BookRow

# The board alone looks at two dozen open jobs and as many signed ones.
MOST = 64
_lock = Lock()
_kept: OrderedDict[bytes, tuple[tuple[Line, ...], Standing]] = OrderedDict()


def stand(book: BookRow, lines: Sequence[Line], limits: Mapping[str, float]) -> Standing:
    """How a book stands by what is written in it.

    Known by its content, line by line, so that a changed line is never missed; where lines were only added, what was
    worked out before them is gone on from.
    """
    key, told = _key(book, limits), tuple(lines)
    with _lock:
        known, found = _kept.get(key, ((), None))
    if found is not None and known == told:
        made = found
    elif found is not None and known and known == told[: len(known)]:
        made = found
        for event in read_lines(told[len(known) :]):
            made = made.then(event)
    else:
        made = Standing(book, read_lines(told), limits)
    _keep(key, told, made)
    return made


def keep_after(before: Standing, after: Standing, line: Line) -> None:
    """What was worked out for a line just written stands for whoever reads it next."""
    key = _key(before.book, before.limits)
    with _lock:
        known, found = _kept.get(key, ((), None))
    if found is before:
        _keep(_key(after.book, after.limits), (*known, line), after)


def _key(book: BookRow, limits: Mapping[str, float]) -> bytes:
    told = json.dumps([book.model_dump(), limits], sort_keys=True).encode()
    return hashlib.blake2b(told, digest_size=16).digest()


def _keep(key: bytes, lines: tuple[Line, ...], made: Standing) -> None:
    with _lock:
        _kept[key] = (lines, made)
        _kept.move_to_end(key)
        while len(_kept) > MOST:
            _kept.popitem(last=False)
