"""The API as a second device, a hostile client and a clumsy user would use it."""

import json
import threading

import pytest

from fair_spindle.api.app import create_app
from opened import within
from writer import Writer, typed


def toe(text, unit="deg"):
    return typed("front.left.toe", text, unit, "angle", "toe")


def write(client, job, act, seen=None, event="event-0001"):
    return Writer(client, f"/api/jobs/{job}").send(seen=seen, id=event, **act)


def test_the_same_entry_twice_is_written_once(client, jobs):
    job = jobs["measuring"]
    first = write(client, job, toe("0,2"))
    again = write(client, job, toe("0,2"))
    assert (first.status_code, again.status_code) == (201, 201)
    assert first.json()["version"] == again.json()["version"]
    entry = again.json()["entries"]["front.left.toe"]
    assert entry["typed"]["toe"] == {"text": "0,2", "unit": "deg"}
    assert entry["understood"].startswith("12.0 min")


def test_second_device_is_told_instead_of_overwriting(client, jobs):
    job = jobs["measuring"]
    seen = client.get(f"/api/jobs/{job}").json()["version"]
    assert write(client, job, toe("0.2"), seen, "device-1-a").status_code == 201
    late = write(client, job, toe("0.3"), seen, "device-2-a")
    assert late.status_code == 409
    assert late.json()["code"] == "conflict"
    assert "12.0 min" in late.json()["details"]["theirs"]
    assert "18.0 min" in late.json()["details"]["yours"]
    other = {"kind": "counted", "side": "left", "direction": "off", "flats": 6}
    assert write(client, job, other, seen, "device-2-b").status_code == 201, "counting adds up, it hides nothing"


def test_counts_of_many_threads_all_arrive(client, jobs):
    job, codes = jobs["measuring"], []
    act = {"kind": "counted", "side": "right", "direction": "off", "flats": 1}

    def count(worker):
        for n in range(10):
            codes.append(write(client, job, act, 0, f"worker-{worker}-{n}").status_code)

    threads = [threading.Thread(target=count, args=(worker,)) for worker in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert codes == [201] * 40
    steps = client.get(f"/api/jobs/{job}").json()["steps"]
    reads = {read["key"]: read["counted"] for step in steps for read in step["reads"]}
    assert reads["front.right.tie.turns_off"]["total_flats"] == 40


@pytest.mark.parametrize(
    ("act", "field", "words"),
    [
        (toe("abc"), "front.left.toe.toe", "not a number"),
        (toe("  "), "front.left.toe.toe", "empty"),
        (toe("NaN"), "front.left.toe.toe", "not a number"),
        (toe("40"), "front.left.toe.toe", "between -10 and 10"),
        (toe("5 N"), "front.left.toe.toe", "no unit"),
        (toe("1e999"), "front.left.toe.toe", "no unit"),
        (
            {
                "kind": "entered",
                "key": "front.left.tie.pitch",
                "method": "typed",
                "typed": {"value": {"text": "0", "unit": "pitch_mm"}},
            },
            "front.left.tie.pitch.value",
            "between 0.5 and 4 mm",
        ),
        ({"kind": "entered", "key": "front.steer", "choice": "sideways"}, "front.steer", "choose one of"),
    ],
)
def test_bad_entry_is_refused_at_its_field_and_changes_nothing(client, jobs, act, field, words):
    before = client.get(f"/api/jobs/{jobs['measuring']}").json()["version"]
    refused = write(client, jobs["measuring"], act)
    assert refused.status_code == 422
    assert refused.json()["field"] == field
    assert words in refused.json()["message"]
    assert client.get(f"/api/jobs/{jobs['measuring']}").json()["version"] == before


def test_a_doubtful_unit_is_a_question_and_can_be_affirmed(client, jobs):
    job = jobs["measuring"]
    spec = {"torque": {"text": "120", "unit": "lb_ft"}, "source": "sheet 3"}
    bolt = {"number": 1, "diameter_mm": 12, "pitch_mm": 1.25, "property_class": "10.9", "spec": spec}

    def doubts(event, **more):
        joint = {"key": "own", "label": "Arm", "role": "clamp", "bolts": [{**bolt, "spec": {**spec, **more}}]}
        write(client, job, {"kind": "drawn", "joint": joint}, event=event)
        found = client.get(f"/api/jobs/{job}/record").json()["findings"]
        return [one["message"] for one in found if one["code"] == "torque_doubt"]

    assert "Was 120 N·m meant?" in doubts("spec-0001")[0]
    assert doubts("spec-0002", affirmed=True) == []


COUNT = '{"id": "event-9999", "seen": 0, "act": {"kind": "counted", "side": "left", "direction": "off", "flats": %s}}'
HOSTILE = [
    COUNT % "NaN",
    COUNT % "1e999",
    COUNT % "true",
    ('{"id": "event-9999", "seen": 9223372036854775808, "act": {"kind": "noted", "text": "x"}}'),
    ('{"id": "event-9999", "seen": "0", "act": {"kind": "noted", "text": "x"}}'),
    ('{"id": "event-9999", "seen": 0, "act": {"kind": "noted", "text": "\\ud800"}}'),
    ('{"id": "event-9999", "seen": 0, "act": {"kind": "noted", "text": "a\\u0000b"}}'),
    ('{"id": "event-9999", "seen": 0, "act": {"kind": "noted", "text": "x", "more": 1}}'),
    ('{"id": "event-9999", "seen": 0, "act": {"kind": "guessed"}}'),
    ('{"id": "../../etc", "seen": 0, "act": {"kind": "noted", "text": "x"}}'),
    "{",
    "[" * 5000,
]


@pytest.mark.parametrize("body", HOSTILE, ids=range(len(HOSTILE)))
def test_hostile_body_is_refused_in_the_one_shape(client, jobs, body):
    answer = client.post(
        f"/api/jobs/{jobs['hanging']}/events", content=body, headers={"Content-Type": "application/json"}
    )
    assert answer.status_code in (400, 422)
    assert set(answer.json()) == {"code", "message", "field", "details"}
    assert not (answer.json()["field"] or "").isdigit(), "a place in broken JSON is no field"


def test_foreign_hosts_origins_and_paths_are_refused(client, tmp_path):
    assert client.get("/api/jobs", headers={"Host": "elsewhere.example"}).status_code == 403
    assert client.get("/api/jobs", headers={"Origin": "http://elsewhere.example"}).status_code == 403
    with within(create_app(tmp_path / "lan.sqlite", ["0.0.0.0"]), base_url="http://192.0.2.7:8613") as phone:
        assert phone.get("/api/jobs").status_code == 200
        assert phone.get("/api/jobs", headers={"Host": "elsewhere.example"}).status_code == 403
    assert client.get("/api/nothing").json()["code"] == "not_found"
    assert client.get("/api/jobs/99999999999999999999999").status_code == 404
    assert client.get("/api/jobs/%00").status_code in (404, 422)
    assert "[project]" not in client.get("/..%2f..%2f..%2fpyproject.toml").text


def test_calculation_over_http_names_the_field(client):
    good = client.post("/api/calc/toe-convert", json={"toe_deg": 1, "measured_across_mm": 600})
    assert good.json()["toe_min"] == 60
    for body in ({"toe_deg": 1}, {"toe_deg": 1, "measured_across_mm": 0}, {"toe_deg": 1, "measured_across_mm": "6"}):
        bad = client.post("/api/calc/toe-convert", json=body)
        assert (bad.status_code, bad.json()["field"]) == (422, "measured_across_mm")
    assert client.post("/api/calc/nothing", json={}).status_code == 404
    huge = client.post("/api/calc/toe-convert", json={"toe_mm": 1e308, "measured_across_mm": 1e-308})
    assert huge.status_code == 422


def test_signing_is_blocked_lists_what_is_open_and_shows_a_later_change(client, jobs):
    blocked = write(client, jobs["hanging"], {"kind": "signed", "name": "A. Tester"})
    assert blocked.status_code == 409
    assert any("carried at front left" in item for item in blocked.json()["details"]["items"])
    job = jobs["finished"]
    signed = client.get(f"/api/jobs/{job}").json()
    assert signed["signature"]["intact"]
    assert write(client, job, {"kind": "noted", "text": "later"}, 999).status_code == 409
    file = json.loads(client.get(f"/api/jobs/{job}/job.json").content)
    entry = next(line["act"] for line in file["log"] if line["act"].get("key") == "front.spring.rate")
    entry["typed"]["value"]["text"] = "29"
    file["job"]["id"] = "another-job-0001"
    forged = client.post("/api/jobs/import?apply=true", content=json.dumps(file).encode())
    assert forged.status_code == 422
    assert "changed after" in forged.json()["message"]
