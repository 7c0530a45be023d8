"""Answers that say what changed: a large view as a patch (RFC 6902) of the one its reader has already."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator, Mapping
from threading import Lock
from typing import Annotated, Any
from uuid import uuid4

from fastapi import Header
from fastapi.responses import Response
from pydantic import BaseModel
from pydantic_core import to_json

PATCH = "application/json-patch+json"
TAG = "X-View-Tag"
# A view of a large job takes a megabyte or two; whoever's is no longer kept gets a whole one.
MOST = 24
# The tag of the view that a page has, as the answer with it told.
Base = Annotated[str, Header(alias="X-View-Base", max_length=40)]
_lock = Lock()
_kept: OrderedDict[str, BaseModel] = OrderedDict()


def shown_again(view: BaseModel, status: int = 200, base: str = "") -> Response:
    """A view with a tag to know it by; where its reader has a ``base`` that is kept here, what changed since."""
    tag = uuid4().hex
    with _lock:
        before = _kept.pop(base, None)
        _kept[tag] = view
        while len(_kept) > MOST:
            _kept.popitem(last=False)
    headers = {TAG: tag}
    if before is None or type(before) is not type(view):
        return Response(view.model_dump_json(), status, headers, "application/json")
    return Response(to_json(list(patch_between(before, view))), status, headers, PATCH)


def patch_between(before: BaseModel, after: BaseModel) -> Iterator[dict[str, Any]]:
    """Operations that make the one view the other: members, and parts of lists and mappings, that differ."""
    for name, new in after:
        old = getattr(before, name)
        if old is new:
            continue
        path = f"/{name}"
        if isinstance(old, list) and isinstance(new, list) and len(old) <= len(new):
            yield from _of_list(path, old, new)
        elif isinstance(old, dict) and isinstance(new, dict):
            yield from _of_mapping(path, old, new)
        elif old != new:
            yield _put("replace", path, new)


def _of_list(path: str, old: list[Any], new: list[Any]) -> Iterator[dict[str, Any]]:
    pairs = enumerate(zip(old, new, strict=False))
    changed = [place for place, (one, other) in pairs if one is not other and one != other]
    if len(changed) * 2 > len(new):
        yield _put("replace", path, new)
        return
    yield from (_put("replace", f"{path}/{place}", new[place]) for place in changed)
    yield from (_put("add", f"{path}/-", one) for one in new[len(old) :])


def _of_mapping(path: str, old: Mapping[str, Any], new: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    yield from ({"op": "remove", "path": f"{path}/{_escaped(key)}"} for key in old if key not in new)
    for key, one in new.items():
        if key not in old:
            yield _put("add", f"{path}/{_escaped(key)}", one)
        elif old[key] is not one and old[key] != one:
            yield _put("replace", f"{path}/{_escaped(key)}", one)


def _put(op: str, path: str, value: object) -> dict[str, Any]:
    return {"op": op, "path": path, "value": value}


def _escaped(key: str) -> str:
    return key.replace("~", "~0").replace("/", "~1")
