"""The contract: every page of the API answers as it says it does, and nothing that is sent to it ends in a 500."""

import copy
import json
from collections import Counter

import jsonschema
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

HOSTILE = st.sampled_from(
    [
        "", " ", "0", "-0", "-1", "1e308", "1e-308", "9" * 40, "NaN", "inf", "½", "1/0", "1 000", "0x10", "١٢",
        "<script>", "' OR 1=1 --", "\u202e", "a" * 1999, None, True, -1, 0, 2**63, 1e30, [], {},
        [None], {"text": "1"},
    ]
)  # fmt: skip


def answers(client):
    """Every page that is read, with each of the sample workshop's ids in it."""
    schema = client.app.openapi()
    jobs = {(one["kind"], one["signed"]): one["id"] for one in client.get("/api/jobs").json()}.values()
    cars = [one["id"] for one in client.get("/api/cars").json()][:3]
    for path, ways in schema["paths"].items():
        if "get" not in ways:
            continue
        for one in jobs if "{job_id}" in path else cars if "{car_id}" in path else [""]:
            filled = path.replace("{job_id}", one).replace("{car_id}", one)
            if "{" not in filled:
                yield schema, path, filled, ways["get"]


@pytest.mark.referee
def test_every_page_answers_as_the_contract_says(client):
    """Referee: the jsonschema library, over the OpenAPI contract that the interface's types are made from."""
    checked, refused = Counter(), []
    for schema, path, filled, way in answers(client):
        answer = client.get(filled)
        assert answer.status_code < 500, filled
        if answer.status_code != 200:
            refused.append((path, answer.status_code))
            assert set(answer.json()) == {"code", "message", "field", "details"}, filled
            continue
        told = way["responses"]["200"].get("content", {}).get("application/json", {}).get("schema")
        if told and checked[path] < 2 and answer.headers["content-type"].startswith("application/json"):
            whole = {**told, "components": schema["components"]}
            jsonschema.Draft202012Validator(whole).validate(answer.json())
            checked[path] += 1
    assert len(checked) >= 30
    assert {status for _, status in refused} <= {404, 409, 422}


@pytest.mark.referee
def test_every_operation_has_a_summary_and_every_body_an_example_that_fits(client):
    """Referee: the jsonschema library."""
    contract = client.app.openapi()
    assert not {"HTTPValidationError", "ValidationError"} & set(contract["components"]["schemas"])
    for path, ways in contract["paths"].items():
        for way in ways.values():
            assert way["summary"], path
            refusals = {status: one["content"] for status, one in way["responses"].items() if status[0] == "4"}
            assert {"400", "404", "409", "422"} <= set(refusals), path
            shapes = {one["application/json"]["schema"]["$ref"] for one in refusals.values()}
            assert shapes == {"#/components/schemas/ErrorBody"}, path
            body = way.get("requestBody", {}).get("content", {}).get("application/json")
            if body:
                whole = {**body["schema"], "components": contract["components"]}
                jsonschema.Draft202012Validator(whole).validate(body["example"])
            if path.startswith("/api/calc/") and body:
                assert client.post(path, json=body["example"]).status_code == 200, path


def leaves(value, path=()):
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from leaves(inner, (*path, key))
    elif isinstance(value, list):
        for place, inner in enumerate(value):
            yield from leaves(inner, (*path, place))
    else:
        yield path


def spoilt(act, path, value):
    act = copy.deepcopy(act)
    inside = act
    for key in path[:-1]:
        inside = inside[key]
    inside[path[-1]] = value
    return act


@pytest.fixture
def lines(client):
    """Every act in the logs of the sample workshop, with the job it stands in."""
    found = []
    for job in client.get("/api/jobs").json():
        log = json.loads(client.get(f"/api/jobs/{job['id']}/job.json").content)["log"]
        kinds = {}
        for line in log:
            kinds.setdefault(line["act"]["kind"], line["act"])
        found += [(job["id"], act) for act in kinds.values()]
    return found


@pytest.mark.identity
@settings(max_examples=120, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_an_act_with_anything_in_it_is_taken_or_refused_in_words(client, lines, data):
    job, act = data.draw(st.sampled_from(lines))
    places = list(leaves(act))
    broken = spoilt(act, data.draw(st.sampled_from(places)), data.draw(HOSTILE))
    seen = client.get(f"/api/jobs/{job}/version").json()["version"]
    body = {"id": f"fuzz-{data.draw(st.integers(0, 10**9)):010}", "seen": seen, "act": broken}
    answer = client.post(f"/api/jobs/{job}/events", content=json.dumps(body).encode())
    assert answer.status_code in (201, 409, 422), (broken, answer.text)
    if answer.status_code != 201:
        assert answer.json()["message"], broken
        assert client.get(f"/api/jobs/{job}/version").json()["version"] == seen, "what is refused changes nothing"
    assert client.get(f"/api/jobs/{job}").status_code == 200, "whatever was taken, the job can still be read"


BODIES = {
    "springs/try": {"turns": {"front.left": 2}, "seats_mm": {"front.left": 3}, "rates_pct": {"front": 5}},
    "plan/try": {"brief": {"fittings": [{"procedure": "lower_arm", "axle": "front"}], "schools": {"load": "jack"}}},
    "lessons": {"id": "fuzz-lesson-1", "keys": ["front.motion_ratio"]},
    "again": {"id": "fuzz-again-01", "title": "Again"},
    "correction": {"id": "fuzz-correct1", "title": "Correction"},
}


@pytest.mark.identity
@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_a_request_with_anything_in_it_is_answered_in_the_one_shape(client, data):
    jobs = [one["id"] for one in client.get("/api/jobs").json()]
    name = data.draw(st.sampled_from(sorted(BODIES)))
    body = spoilt(BODIES[name], data.draw(st.sampled_from(list(leaves(BODIES[name])))), data.draw(HOSTILE))
    answer = client.post(f"/api/jobs/{data.draw(st.sampled_from(jobs))}/{name}", content=json.dumps(body).encode())
    assert answer.status_code < 500, (name, body, answer.text)
    if answer.status_code >= 400:
        assert set(answer.json()) == {"code", "message", "field", "details"}
