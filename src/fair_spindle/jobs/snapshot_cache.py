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

MOST = 24
_lock = Lock()
_kept: OrderedDict[bytes, Standing] = OrderedDict()


def stand(book: BookRow, lines: Sequence[Line], limits: Mapping[str, float]) -> Standing:
    """How a book stands by what is written in it; known by its content, so that a changed line is never missed."""
    told = json.dumps([book.model_dump(), lines, limits], sort_keys=True).encode()
    key = hashlib.blake2b(told, digest_size=16).digest()
    with _lock:
        found = _kept.get(key)
        if found is not None:
            _kept.move_to_end(key)
            return found
    made = Standing(book, read_lines(lines), limits)
    with _lock:
        _kept[key] = made
        while len(_kept) > MOST:
            _kept.popitem(last=False)
    return made
