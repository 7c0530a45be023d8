"""A pasted torque list over HTTP: shown with its questions, taken as decided, all of it or none."""

import pytest

ARM = "springs.arm.front.left"


def paste(client, job, text, **more):
    return client.post(f"/api/jobs/{job}/torque-list{more.pop('to', '')}", json={"text": text, "unit": "nm", **more})


def version(client, job):
    return client.get(f"/api/jobs/{job}/version").json()["version"]


@pytest.fixture
def job(jobs):
    return jobs["measuring"]


def test_rows_are_matched_asked_and_taken_for_both_sides(client, job):
    text = "Lower arm bolt at the subframe\t88\tN·m\nJam nut 45 lb-ft\nDrain plug 30 Nm"
    shown = paste(client, job, text).json()
    arm, jam, plug = shown["rows"]
    assert (len(arm["joints"]), arm["said"], arm["question"]) == (2, "88 N·m", "")
    assert jam["said"] == "45 lb·ft"
    assert plug["question"].startswith("No place of this job fits")
    before = version(client, job)
    told = {
        "to": "/take",
        "id": "torques-0001",
        "seen": before,
        "source": "sheet 12",
        "chosen": [{"line": 1, "joints": arm["joints"]}],
    }
    taken = paste(client, job, text, **told)
    assert taken.status_code == 201
    assert version(client, job) == before + 2
    joints = {one["key"]: one for one in client.get(f"/api/jobs/{job}/joints").json()["joints"]}
    for key in arm["joints"]:
        assert [(bolt["spec"], bolt["source"]) for bolt in joints[key]["bolts"]] == [("88 N·m", "sheet 12")]
    assert paste(client, job, text, **told).status_code == 201
    assert version(client, job) == before + 2, "the same request again writes nothing"


def test_what_the_car_s_record_lists_is_a_list_like_any_other(client):
    line = next(one for one in client.get("/api/jobs").json() if "Rill" in one["car"])
    own = client.get(f"/api/jobs/{line['id']}/torque-list").json()
    record = client.get(f"/api/cars/{line['car_id']}").json()["fasteners"]
    valued = [one for one in record if one["torque"]]
    assert {one["side"] for one in valued if one["group"] == "Rear subframe to body"} == {"left", "right"}
    rear = next(row for row in own["text"].splitlines() if "Rear subframe" in row)
    assert rear == "rear Rear subframe to body, M14x1.5, Socket 21, 108 N·m, x2", "both sides in one row"
    assert own["source"] == valued[0]["source"]
    rows = paste(client, line["id"], own["text"]).json()["rows"]
    assert [row["said"] for row in rows] == ["108 N·m", "44 lb·ft"]
    assert all(row["joints"] or row["question"] for row in rows), "placed, or asked about"


@pytest.mark.parametrize(
    ("change", "field", "status"),
    [
        ({"source": " "}, "source", 422),
        ({"chosen": [{"line": 7, "joints": [ARM]}]}, "chosen", 422),
        ({"chosen": [{"line": 1, "joints": ["nowhere"]}]}, "chosen", 404),
        ({"chosen": [{"line": 1, "joints": [ARM]}, {"line": 2, "joints": [ARM]}]}, "chosen", 422),
        ({"text": "\n \n"}, "text", 422),
    ],
)
def test_what_cannot_be_taken_changes_nothing_and_names_its_field(client, job, change, field, status):
    before = version(client, job)
    told = {"id": "torques-0002", "seen": before, "source": "sheet 12", "chosen": [{"line": 1, "joints": [ARM]}]}
    told |= {"text": "Lower arm 88 Nm\nLower arm 90 Nm", **change}
    answer = paste(client, job, told.pop("text"), to="/take", **told)
    assert (answer.status_code, answer.json()["field"]) == (status, field)
    assert version(client, job) == before
