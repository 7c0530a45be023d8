"""Springs and joints over HTTP: what is shown, tried, learned and kept; what is refused, and never a 500."""

import pytest
from icalendar import Calendar

from writer import Writer


@pytest.fixture
def job(client):
    """The sample job on coilovers."""
    found = next(one for one in client.get("/api/jobs").json() if one["title"].startswith("Coilovers"))
    return f"/api/jobs/{found['id']}"


def write(client, job, act, key, seen=None):
    return Writer(client, job).send(seen=seen, id=f"api-{key:06}", **act)


def worked(places, to, joint="front-bar-bracket", **more):
    return {"kind": "worked", "joint": joint, "places": places, "to": to, **more}


def test_springs_are_shown_with_their_doubt_and_trying_changes_nothing(client, job):
    version = client.get(f"{job}/version").json()
    shown = client.get(f"{job}/springs?samples=500").json()
    assert not shown["problem"]
    assert not shown["lacks"]
    left = shown["wheels"][0]
    assert left["predicted_mm"] == pytest.approx(left["height_mm"] + left["change_mm"])
    assert left["predicted_plus_minus_mm"] >= left["plus_minus_mm"] > 0
    assert sum(one["load_n"] for one in shown["wheels"]) == pytest.approx(
        sum(one["load_before_n"] for one in shown["wheels"]), abs=0.1
    )
    assert shown["unknowns"][0]["advice"]
    assert shown["correction"]["cross_pct"] == pytest.approx(50, abs=0.2)
    tried = client.post(f"{job}/springs/try", json={"turns": {"front.left": 2}, "holes": {"front": "3"}}).json()
    assert tried["wheels"][0]["change_mm"] > left["change_mm"]
    assert client.get(f"{job}/version").json() == version
    empty = client.post(f"{job}/springs/try", json={}).json()
    assert empty["wheels"][0]["change_mm"] == pytest.approx(left["change_mm"])


@pytest.mark.parametrize(
    "body",
    [
        {"turns": {"front.left": "many"}},
        {"turns": {"middle": 1}},
        {"turns": {"front.left": 1e9}},
        {"rates_pct": {"front": -90}},
        {"holes": {"front": "7"}},
        {"unknown": 1},
    ],
)
def test_what_cannot_be_tried_is_refused_with_its_field(client, job, body):
    answer = client.post(f"{job}/springs/try", json=body)
    assert answer.status_code == 422
    assert answer.json()["field"]


def test_nothing_is_learned_before_the_heights_are_read_and_nothing_taken_twice(client, job):
    body = {"id": "learn-000001", "keys": ["front.new_spring.rate"]}
    refused = client.post(f"{job}/lessons", json=body)
    assert refused.status_code == 409
    assert "after settling" in refused.json()["message"]
    wheels = client.get(f"{job}/springs").json()["wheels"]
    for key, one in enumerate(wheels):
        entry = {"kind": "entered", "key": f"{one['key']}.check_height", "method": "hub_to_arch"}
        height = {"height": {"text": f"{one['predicted_mm'] - 5:.1f}", "unit": "mm"}}
        assert write(client, job, {**entry, "typed": height}, key).status_code == 201
    learned = client.get(f"{job}/lessons").json()
    assert learned["can_take"]
    assert {one["decided"] for one in learned["lessons"]} == {"open"}
    for _ in range(2):
        taken = client.post(f"{job}/lessons", json=body)
        assert taken.status_code == 201
    said = {one["key"]: one["decided"] for one in taken.json()["lessons"]}
    assert said.pop("front.new_spring.rate") == "taken"
    assert set(said.values()) == {"refused"}
    car = client.get(job).json()["car_id"]
    record = client.get(f"/api/cars/{car}").json()["entries"]
    assert record["front.spring.free"]["understood"].startswith("178.0 mm")
    lines = [one for one in client.get(f"/api/cars/{car}/log").json() if "readings after settling" in one["said"]]
    assert len(lines) == 1, "the same request again writes nothing"
    front = {"height": {"text": f"{wheels[0]['predicted_mm'] + 5:.1f}", "unit": "mm"}}
    again = {"kind": "entered", "key": "front.left.check_height", "method": "hub_to_arch", "typed": front}
    assert write(client, job, again, 90).status_code == 201
    later = {one["key"]: one["decided"] for one in client.get(f"{job}/lessons").json()["lessons"]}
    assert later["front.new_spring.rate"] == "open", "read again, and it teaches something else"
    undo = {"kind": "undone", "event": lines[0]["id"]}
    seen = client.get(f"/api/cars/{car}").json()["version"]
    answer = client.post(f"/api/cars/{car}/events", json={"id": "unlearn-0001", "seen": seen, "act": undo})
    assert answer.status_code == 201
    again = client.get(f"{job}/lessons").json()["lessons"]
    assert {one["decided"] for one in again} == {"open"}, "undone in the car's record: open again"


def test_a_job_that_moves_no_height_has_no_springs_page(client):
    other = next(one for one in client.get("/api/jobs").json() if "toe links" in one["title"])
    answer = client.get(f"/api/jobs/{other['id']}/springs")
    assert answer.status_code == 409
    assert "does not plan" in answer.json()["message"]


def test_joints_through_the_log_with_a_conflict_and_a_calendar(client, job):
    shown = {one["key"]: one for one in client.get(f"{job}/joints").json()["joints"]}
    assert len(shown["rear-subframe-collars"]["bolts"]) == 12
    assert shown["front-left-lower-arm"]["waits_for_load"]
    seen = client.get(f"{job}/version").json()["version"]
    assert write(client, job, worked([1, 2, 3], "hand"), 1).status_code == 201
    late = write(client, job, worked([2], "hand"), 2, seen)
    assert late.status_code == 409
    assert late.json()["code"] == "conflict"
    write(client, job, worked([1, 2, 3], "snug"), 3)
    bare = write(client, job, worked([1], "torqued"), 4)
    assert bare.status_code == 422
    assert bare.json()["field"] == "reading"
    wild = write(client, job, worked([1], "torqued", reading={"text": "38", "unit": "kgf_m"}), 5)
    assert wild.status_code == 422
    assert "Is the unit right?" in wild.json()["message"]
    for key, (place, text, unit) in enumerate(((1, "38", "nm"), (2, "17,5", "lb_ft")), 6):
        done = write(client, job, worked([place], "torqued", reading={"text": text, "unit": unit}), key)
        assert done.status_code == 201
    write(client, job, worked([3], "torqued", by_feel="the rack is in the way"), 9)
    messages = [one["message"] for one in client.get(f"{job}/record").json()["findings"]]
    assert "Torque estimated by feel: Front bar bracket, right, place 3 (the rack is in the way)." in messages
    calendar = Calendar.from_ical(client.get(f"{job}/recheck.ics").content)
    entry = next(iter(calendar.walk("VEVENT")))
    assert str(entry["summary"]) == "Check again: Front bar bracket, right"
    pdf = client.get(f"{job}/record.pdf")
    assert pdf.status_code == 200


def test_joints_go_with_the_job_file_and_with_the_car(client, job):
    first = client.get(f"{job}/job.json").content
    joints = client.get(f"{job}/joints").json()
    car = client.get(job).json()["car_id"]
    body = {"id": "next-000001", "title": "Next", "car": "-", "car_id": car}
    assert client.post("/api/jobs", json=body).status_code == 201
    begun = client.get("/api/jobs/next-000001/joints").json()["joints"]
    assert {one["key"] for one in begun} <= {one["key"] for one in joints["joints"]}
    assert "rear-subframe-collars" in {one["key"] for one in begun}
    again = client.post("/api/jobs/import", content=first, headers={"content-type": "application/octet-stream"})
    assert again.json()["outcome"] == "same"


@pytest.mark.parametrize(
    ("query", "field"),
    [
        ("pattern=circle&count=0&width_mm=100", "count"),
        ("pattern=rectangle&count=5&width_mm=100&height_mm=50", "count"),
        ("pattern=rectangle&count=6&width_mm=100", "height_mm"),
        ("pattern=heart&count=6&width_mm=100", "pattern"),
    ],
)
def test_a_pattern_that_cannot_be_laid_out_names_its_field(client, query, field):
    answer = client.get(f"/api/joint-patterns?{query}")
    assert answer.status_code == 422
    assert answer.json()["field"].endswith(field)
    laid = client.get("/api/joint-patterns?pattern=circle&count=4&width_mm=100").json()["places"]
    assert laid[0] == pytest.approx([0, 50])
