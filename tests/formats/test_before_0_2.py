"""Databases and job files of 0.1, of every kind: they open, go out as they came, and are worked on as any job."""

import gzip
import json
import warnings
from pathlib import Path

import pytest

from opened import opened

FOLDER = Path(__file__).parents[1] / "fixtures" / "made_by_0_1"
FILES = sorted(FOLDER.glob("*.json.gz"))
PAGES = ("", "/sheet", "/log", "/joints", "/turns", "/lessons", "/record", "/explained", "/plan", "/stop")
TABLES = ("readings.csv", "tightenings.csv", "record.pdf", "clipboard.pdf", "stop.pdf", "job.zip")


@pytest.fixture(scope="module")
def workshop(tmp_path_factory):
    """The database of 0.1, opened by today's program."""
    file = tmp_path_factory.mktemp("old") / "workshop.sqlite"
    file.write_bytes(gzip.decompress((FOLDER / "workshop.sqlite.gz").read_bytes()))
    with warnings.catch_warnings(), opened(file) as client:
        yield client


def of(workshop, words):
    return next(one for one in workshop.get("/api/jobs").json() if words in one["title"])


def test_every_kind_is_there():
    assert {file.name.split("-")[0] for file in FILES} == {"align", "front_strut", "measure", "springs", "work"}


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.name.removesuffix(".json.gz"))
def test_a_job_shows_on_every_page_and_goes_out_byte_for_byte(workshop, file):
    content = gzip.decompress(file.read_bytes())
    path = f"/api/jobs/{json.loads(content)['job']['id']}"
    for page in PAGES:
        assert workshop.get(f"{path}{page}").status_code == 200, page
    for table in TABLES:
        assert workshop.get(f"{path}/{table}").status_code == 200, table
    assert workshop.get(f"{path}/job.json").content == content


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.name.removesuffix(".json.gz"))
def test_a_job_file_comes_into_an_empty_workshop_and_out_again(tmp_path, file):
    content = gzip.decompress(file.read_bytes())
    with opened(tmp_path / "new.sqlite") as empty:
        taken = empty.post("/api/jobs/import?apply=true", content=content).json()
        assert taken.get("applied"), taken
        assert empty.get(f"/api/jobs/{taken['job_id']}/job.json").content == content


def test_what_was_worked_out_then_is_worked_out_now(workshop):
    """The strut job of 0.1 said: 345.8 and 342.1 mm, each wheel by itself (a tenth otherwise in a whole car), 23
    turns 3 flats and 23 turns, all joints final, signed."""
    job = of(workshop, "Springs and tie-rod ends")
    view = workshop.get(f"/api/jobs/{job['id']}").json()
    assert view["signature"]["intact"]
    assert {step["state"] for step in view["steps"]} == {"done"}
    record = workshop.get(f"/api/jobs/{job['id']}/record").json()
    predicted = {one["label"]: one["predicted"].split(" mm")[0] for one in record["beside"]}
    assert (predicted["Front left height"], predicted["Front right height"]) == ("345.7", "342.2")
    assert [one["given"].split(" on")[0] for one in record["turns"]] == ["23 turns 3 flats", "23 turns"]
    assert all(one["final"] for one in record["tightened"])
    assert {one["source"] for one in record["tightened"]} == {"Orrowby shop sheet F-12 (invented for the demo)"}
    lower = workshop.get(f"/api/jobs/{of(workshop, '27 mm lower')['id']}").json()
    assert sum(step["state"] == "done" for step in lower["steps"]) == 20


def test_an_old_job_is_worked_on_in_the_words_of_then_and_of_now(workshop):
    job = of(workshop, "27 mm lower")
    path = f"/api/jobs/{job['id']}"

    def write(n, **act):
        seen = workshop.get(f"{path}/version").json()["version"]
        return workshop.post(f"{path}/events", json={"id": f"late-{n:05}", "seen": seen, "act": act})

    reading = {"text": "88", "unit": "nm"}
    refused = write(1, kind="tightened", places=["right.arm_front.1"], to="torqued", reading=reading)
    assert "hanging" in refused.json()["message"]
    height = {"text": "346", "unit": "mm"}
    assert write(2, kind="height_read", side="left", height=height).status_code == 201
    then = write(3, kind="tightened", places=["left.arm_front.1"], to="torqued", reading=reading)
    rear = {"text": "96", "unit": "nm"}
    now = write(4, kind="worked", joint="left.arm_rear", places=[1], to="torqued", reading=rear)
    assert (then.status_code, now.status_code) == (201, 201)
    joints = {one["key"]: one for one in workshop.get(f"{path}/joints").json()["joints"]}
    for key in ("left.arm_front", "left.arm_rear"):
        assert joints[key]["bolts"][0]["final"]
        assert "at 346 mm" in joints[key]["bolts"][0]["said"]
    log = workshop.get(f"{path}/log").json()
    assert log[-2]["said"].startswith("Lower arm, front bushing bolt, front left, place 1: torqued 88 N·m")
