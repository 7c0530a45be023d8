"""The jobs and cars looked at last, so that pages about the same log share what was worked out of it."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from collections.abc import Callable, Mapping, Sequence
from threading import Lock

from fair_spindle.core.basics.growing import Growing
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import Line, read_lines
from fair_spindle.records.tables import BookRow
from fair_spindle.records.watch import Mark


@value_object
class _Kept:
    """Lines as they were read, by which mark of the file, and what was worked out of them."""

    mark: Mark
    lines: Growing[Line]
    made: Standing


# The board alone looks at two dozen open jobs and as many signed ones.
MOST = 64
_lock = Lock()
_kept: OrderedDict[bytes, _Kept] = OrderedDict()


def stand(
    book: BookRow, limits: Mapping[str, float], mark: Mark, length: int, lines_after: Callable[[int], Sequence[Line]]
) -> Standing:
    """How a book stands by what is written in it.

    Lines are read where they are not known: those added since, or the whole log where anything but this program wrote
    in the file, so that a changed line is never missed.  What was worked out before the added ones is gone on from.
    """
    key = _key(book, limits)
    with _lock:
        kept = _kept.get(key)
    if kept is None:
        lines = Growing(lines_after(0))
        made = Standing(book, read_lines(lines), limits)
    else:
        own = kept.mark == mark and len(kept.lines) <= length
        if own and len(kept.lines) == length:
            _keep(key, kept)
            return kept.made
        lines = Growing((*kept.lines, *lines_after(len(kept.lines))) if own else lines_after(0))
        made = kept.made
        if own or list(kept.lines) == lines[: len(kept.lines)]:
            for event in read_lines(lines[len(kept.lines) :]):
                made = made.then(event)
        else:
            made = Standing(book, read_lines(lines), limits)
    _keep(key, _Kept(mark, lines, made))
    return made


def keep_after(before: Standing, after: Standing, line: Line) -> None:
    """What was worked out for a line just written stands for whoever reads it next."""
    with _lock:
        kept = _kept.get(_key(before.book, before.limits))
    if kept is not None and kept.made is before:
        _keep(_key(after.book, after.limits), _Kept(kept.mark, kept.lines.and_one(line), after))


@by_identity(most=2 * MOST)
def _key(book: BookRow, limits: Mapping[str, float]) -> bytes:
    told = json.dumps([book.model_dump(), limits], sort_keys=True).encode()
    return hashlib.blake2b(told, digest_size=16).digest()


def _keep(key: bytes, kept: _Kept) -> None:
    with _lock:
        _kept[key] = kept
        _kept.move_to_end(key)
        while len(_kept) > MOST:
            _kept.popitem(last=False)
