"""An answer that says what changed makes the view its reader has the one there is."""

import itertools
from copy import deepcopy

import pytest

from fair_spindle.api import view_patches

ACTS = (
    {"kind": "noted", "text": "a/b ~ c", "step": ""},
    {"kind": "settled"},
    {"kind": "entered", "key": "front.left.toe", "method": "angle", "typed": {"toe": {"text": "6", "unit": "min"}}},
    {"kind": "entered", "key": "front.left.toe", "method": "angle", "typed": {"toe": {"text": "7", "unit": "min"}}},
    {"kind": "moved", "to": "hanging"},
    {"kind": "cleared", "key": "front.left.toe"},
    {"kind": "stopped", "note": "left hanging"},
)


def applied(view, patch):
    """RFC 6902, as far as it is used: add, replace, remove; ~1 and ~0 stand for / and ~."""
    view = deepcopy(view)
    for op in patch:
        *way, last = (part.replace("~1", "/").replace("~0", "~") for part in op["path"][1:].split("/"))
        place = view
        for part in way:
            place = place[part]
        if isinstance(place, list):
            if last == "-":
                assert op["op"] == "add"
                place.append(op["value"])
            else:
                assert op["op"] == "replace"
                place[int(last)] = op["value"]
        elif op["op"] == "remove":
            del place[last]
        else:
            assert (op["op"] == "add") == (last not in place)
            place[last] = op["value"]
    return view


@pytest.fixture
def planned(client):
    job = client.post("/api/jobs", json={"id": "patched-001", "car": "Sample"}).json()
    brief = {"fittings": [{"procedure": key, "axle": "front"} for key in ("tie_rods", "springs", "sway_bars")]}
    body = {"id": "patched-plan", "seen": job["version"], "brief": brief}
    assert client.post("/api/jobs/patched-001/plan", json=body).status_code == 201
    return client


def test_what_is_answered_makes_the_view_there_is(planned):
    client, path = planned, "/api/jobs/patched-001"
    first = client.get(path)
    view, tag, ids = first.json(), first.headers["X-View-Tag"], itertools.count()
    whole = len(first.content)
    open_step = next(step for step in view["steps"] if step["where"] == "on_wheels" and not step["why_not"])
    acts = [*ACTS, {"kind": "moved", "to": "on_wheels"}, {"kind": "stepped", "step": open_step["key"]}]
    for act in [*acts, {"kind": "undone", "event": "last"}, {"kind": "noted", "text": "again", "step": ""}]:
        told = {**act, "event": view["last_event"]} if act["kind"] == "undone" else act
        body = {"id": f"patched-{next(ids):04}", "seen": view["version"], "act": told}
        answer = client.post(f"{path}/events", json=body, headers={"X-View-Base": tag})
        assert answer.status_code == 201, answer.json()
        assert answer.headers["content-type"] == view_patches.PATCH
        view, tag = applied(view, answer.json()), answer.headers["X-View-Tag"]
        assert view == client.get(path).json(), act
        assert len(answer.content) < whole


def test_who_has_no_view_that_is_kept_here_gets_a_whole_one(planned, monkeypatch):
    client, path = planned, "/api/jobs/patched-001"
    tag = client.get(path).headers["X-View-Tag"]

    def note(base, number):
        version = client.get(f"{path}/version").json()["version"]
        body = {"id": f"whole-{number:05}", "seen": version, "act": ACTS[0]}
        return client.post(f"{path}/events", json=body, headers={"X-View-Base": base})

    assert note(tag, 1).headers["content-type"] == view_patches.PATCH
    for number, base in enumerate((tag, "no-such-view", ""), 2):
        answer = note(base, number)
        assert answer.headers["content-type"] == "application/json"
        assert answer.json() == client.get(path).json()
    car = client.post("/api/cars", json={"id": "patched-car", "car": "Sample"}).json()
    fact = {"kind": "entered", "key": "front.layout", "choice": "strut"}
    body = {"id": "patched-fact", "seen": car["version"], "act": fact}
    job_tag = client.get(path).headers["X-View-Tag"]
    other = client.post("/api/cars/patched-car/events", json=body, headers={"X-View-Base": job_tag})
    assert other.headers["content-type"] == "application/json", "a job's view is no base of a car's"
    monkeypatch.setattr(view_patches, "MOST", 2)
    old = client.get(path).headers["X-View-Tag"]
    for _ in range(3):
        client.get(path)
    assert note(old, 9).headers["content-type"] == "application/json", "only the last ones are kept"
