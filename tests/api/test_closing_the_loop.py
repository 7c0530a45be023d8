"""After the job: a miss explained, corrected, learned; files that bring a job back; history; backup and restore."""

import csv
import io
import json
import zipfile

import jsonschema
import pytest
from pypdf import PdfReader

from fair_spindle.formats.job_file import digest, read_job_file
from opened import opened
from writer import Writer


@pytest.fixture
def springs(client):
    """The sample job on coilovers, as a page writes in it."""
    found = next(one for one in client.get("/api/jobs").json() if one["title"].startswith("Coilovers"))
    return Springs(client, f"/api/jobs/{found['id']}")


class Springs(Writer):
    def settles_off(self, *off):
        """Read after settling, off the prediction by so many mm: front left, front right, rear left, rear right."""
        wheels = self.client.get(f"{self.path}/springs?samples=500").json()["wheels"]
        for wheel, miss in zip(wheels, off, strict=True):
            height = {"height": {"text": f"{wheel['predicted_mm'] + miss:.1f}", "unit": "mm"}}
            self.write(kind="entered", key=f"{wheel['key']}.check_height", method="hub_to_arch", typed=height)

    def explained(self):
        return self.client.get(f"{self.path}/explained").json()


def test_a_car_that_comes_out_as_predicted_needs_no_explanation(springs):
    springs.settles_off(1, -1, 0.5, 0)
    found = springs.explained()
    assert found["heights"] == []
    assert not any(one["beyond"] for one in found["readings"])
    assert "±" in found["readings"][0]["miss"]


def test_what_is_still_wanted_becomes_a_short_work_order_that_closes_what_it_opens(springs):
    springs.settles_off(11, 11, 0, 0)
    assert any(one.startswith("Front left, perch ring: ") for one in springs.explained()["wanted"])
    body = {"id": "correct-00001", "title": "Correction"}
    job = springs.client.post(f"{springs.path}/correction", json=body).json()
    keys = [step["key"] for step in job["steps"]]
    ring = keys.index("correction.ring_turn@front.left")
    assert keys.index("wheels_off@front") < ring < keys.index("wheels_on@front") < keys.index("measure")
    assert keys.index("measure") < keys.index("correction.collar_close@front.left")
    assert not any("jam_open" in key for key in keys)
    again = springs.client.post(f"{springs.path}/correction", json=body).json()
    assert again["version"] == job["version"], "asked twice, made once"


def test_toe_read_again_is_explained_learned_and_where_the_next_job_begins(client):
    line = next(one for one in client.get("/api/jobs").json() if one["title"].endswith("toe links"))
    job = Springs(client, f"/api/jobs/{line['id']}")
    assert client.get(f"{job.path}/lessons").json()["lessons"] == []
    refused = client.post(f"{job.path}/lessons", json={"id": "decide-00001", "keys": []})
    assert refused.status_code == 409
    for side, minutes in (("left", "-39"), ("right", "-40")):
        for name, method, text in (("height", "hub_to_arch", "343"), ("toe", "angle", minutes)):
            typed = {name: {"text": text, "unit": "mm" if name == "height" else "min"}}
            job.write(kind="entered", key=f"front.{side}.check_{name}", method=method, typed=typed)
    found = job.explained()
    row = next(one for one in found["readings"] if one["label"] == "Front left toe")
    assert row["beyond"]
    assert row["wanted"]
    assert [one["words"] for one in found["toe"]["Front left"]]
    lessons = client.get(f"{job.path}/lessons").json()["lessons"]
    slope = next(one for one in lessons if one["key"] == "front.left.bump_slope")
    assert slope["decided"] == "open"
    body = {"id": "decide-00002", "keys": ["front.left.bump_slope"]}
    decided = client.post(f"{job.path}/lessons", json=body).json()["lessons"]
    assert {one["key"]: one["decided"] for one in decided}["front.right.bump_slope"] == "refused"
    assert client.post(f"{job.path}/lessons", json=body).json()["lessons"] == decided, "asked twice, written once"
    car = job.view()["car_id"]
    assert client.get(f"/api/cars/{car}").json()["entries"]["front.left.bump_slope"]["understood"] == slope["after"]
    new = {"id": "after-lesson-1", "title": "Next", "car": "-", "car_id": car}
    begun = client.post("/api/jobs", json=new).json()["entries"]
    assert begun["front.left.bump_slope"]["understood"] == slope["after"]
    assert "front.right.bump_slope" not in begun


def signed(client, jobs):
    return f"/api/jobs/{jobs['finished']}"


def test_a_job_taken_away_comes_back_from_its_archive_as_it_was(client, jobs):
    path = signed(client, jobs)
    seen = client.get(path).json()["version"]
    dot = bytes.fromhex(
        "89504e470d0a1a0a0000000d49484452000000010000000108000000003a7e9b550000000a49444154789c6360000000020001e221bc33"
        "0000000049454e44ae426082"
    )
    client.post(
        f"{path}/events",
        json={"id": "reopen-0001", "seen": seen, "act": {"kind": "reopened", "reason": "a picture is missing"}},
    )
    added = client.post(
        f"{path}/pictures?key=picture-001&seen={seen + 1}&subject=settle&name=hub.png",
        content=dot,
        headers={"Content-Type": "image/png"},
    )
    if added.status_code == 404:
        added = client.post(
            f"{path}/pictures?key=picture-001&seen={seen + 1}&subject=baseline&name=hub.png",
            content=dot,
            headers={"Content-Type": "image/png"},
        )
    assert added.status_code == 201, added.text
    archive = client.get(f"{path}/job.zip").content
    assert client.get(f"{path}/job.zip").content == archive, "the same job gives the same bytes"
    before = client.get(path).json()
    assert client.delete(f"{path}?seen={seen}").status_code == 409, "somebody wrote meanwhile"
    assert client.delete(f"{path}?seen={before['version']}").status_code == 204
    assert client.get(path).status_code == 404
    assert client.post("/api/jobs/import", content=archive).json()["outcome"] == "new"
    assert client.get(path).status_code == 404, "looking changes nothing"
    assert client.post("/api/jobs/import?apply=true", content=archive).json()["applied"]
    assert client.get(path).json() == before
    assert client.get(f"{path}/job.zip").content == archive
    sha = before["pictures"][0]["sha256"]
    assert client.get(f"{path}/pictures/{sha}").status_code == 200


@pytest.mark.parametrize("spoil", [lambda z: z[: len(z) // 2], lambda z: b"PK\x03\x04" + b"x" * 40])
def test_a_damaged_archive_is_refused_in_words(client, jobs, spoil):
    archive = client.get(f"{signed(client, jobs)}/job.zip").content
    answer = client.post("/api/jobs/import", content=spoil(archive))
    assert answer.status_code == 422
    assert "cut short" in answer.json()["message"]


def test_a_picture_that_is_not_what_its_name_says_is_refused(client, jobs):
    archive = io.BytesIO(client.get(f"{signed(client, jobs)}/job.zip").content)
    with zipfile.ZipFile(archive, "a") as opened:
        opened.writestr(f"pictures/{'0' * 64}.png", b"something else")
    answer = client.post("/api/jobs/import", content=archive.getvalue())
    assert answer.status_code == 422
    assert answer.json()["field"].startswith("pictures/")


def test_a_log_changed_after_the_signature_is_seen(client, jobs):
    document = json.loads(client.get(f"{signed(client, jobs)}/job.json").content)
    read = next(line for line in document["log"] if line["act"].get("reading"))
    read["act"]["reading"]["text"] += ".1"
    document["job"]["id"] = "changed-00001"
    answer = client.post("/api/jobs/import", content=json.dumps(document).encode())
    assert answer.status_code == 422
    assert "changed after it was signed" in answer.json()["message"]


def test_a_seal_covers_title_and_car_and_obeys_the_rules_of_signing(client, jobs):
    document = json.loads(client.get(f"{signed(client, jobs)}/job.json").content)
    head = document["job"]
    for other in ({"title": "Other work"}, {"car": "Another car"}):
        forged = {**document, "job": {**head, "id": "changed-00002", **other}}
        answer = client.post("/api/jobs/import", content=json.dumps(forged).encode())
        assert answer.status_code == 422
        assert "changed after it was signed" in answer.json()["message"]
    last = document["log"][-1]
    assert (last["act"]["kind"], last["act"]["over"]) == ("signed", "job")
    early = document["log"][: len(document["log"]) // 2]
    read = read_job_file(json.dumps({**document, "log": early}).encode())
    seal = {**last["act"], "digest": digest(read.job, read.events())}
    early.append({**last, "seq": len(early) + 1, "act": seal})
    forged = {**document, "job": {**head, "id": "changed-00003"}, "log": early}
    answer = client.post("/api/jobs/import", content=json.dumps(forged).encode())
    assert answer.status_code == 422
    assert "was not to be signed" in answer.json()["message"]
    assert answer.json()["field"] == f"log/{len(early)}"


@pytest.mark.referee
def test_every_sample_job_file_is_valid_by_the_published_schema(client, jobs):
    """Referee: the jsonschema library, draft 2020-12."""
    schema = client.get("/api/job-file.schema.json").json()
    jsonschema.Draft202012Validator.check_schema(schema)
    check = jsonschema.Draft202012Validator(schema)
    for line in client.get("/api/jobs").json():
        check.validate(client.get(f"/api/jobs/{line['id']}/job.json").json())
    broken = client.get(f"/api/jobs/{jobs['hanging']}/job.json").json()
    broken["log"][0]["act"]["kind"] = "guessed"
    with pytest.raises(jsonschema.ValidationError):
        check.validate(broken)


def test_tightenings_say_place_specification_source_reading_and_height(client, jobs):
    text = client.get(f"{signed(client, jobs)}/tightenings.csv").content.decode("utf-8-sig")
    final = [row for row in csv.DictReader(io.StringIO(text)) if row["to"] == "torqued"]
    rubber = next(row for row in final if row["joint"].startswith("Lower arm bolt"))
    assert rubber["source"]
    assert rubber["reading"]
    assert float(rubber["window_low_mm"]) <= float(rubber["height_mm"]) <= float(rubber["window_high_mm"])


def test_the_record_of_a_job_on_springs_carries_its_ladders_as_vectors(springs):
    springs.settles_off(1, -1, 0.5, 0)
    reader = PdfReader(io.BytesIO(springs.client.get(f"{springs.path}/record.pdf").content))
    text = "".join(page.extract_text() for page in reader.pages)
    for words in ("Heights and loads", "predicted", "settled", "before", "Cautions", "through the travel"):
        assert words in text
    drawn = b"".join(page.get_contents().get_data() for page in reader.pages)
    assert drawn.count(b" l S") + drawn.count(b" l\n") >= 16, "lines are drawn, not pictures"
    assert not any(page.images for page in reader.pages)


def test_a_car_has_a_time_line_and_two_set_ups_side_by_side(client):
    car = next(one for one in client.get("/api/cars").json() if "Ossel" in one["car"])
    path = f"/api/cars/{car['id']}/history"
    history = client.get(path).json()
    phases = [(one["title"], one["phase"]) for one in history["moments"]]
    before, after = (phases.index(("Springs and tie-rod ends, front", phase)) for phase in ("before", "after"))
    assert before < after
    keys = [history["moments"][place]["key"] for place in (before, after)]
    rows = client.get(f"{path}/compare", params={"first": keys[0], "then": keys[1]}).json()["rows"]
    height = next(row for row in rows if row["key"] == "front.left.height")
    assert height["change"].startswith("−24.7")
    same = client.get(f"{path}/compare", params={"first": keys[0], "then": keys[0]}).json()["rows"]
    assert not any(row["differs"] for row in same)
    gone = client.get(f"{path}/compare", params={"first": keys[0], "then": "nothing-0001:after"})
    assert gone.status_code == 404
    read = next(one for one in client.get("/api/jobs").json() if "Baseline" in one["title"])
    path = f"/api/cars/{read['car_id']}/history"
    moments = client.get(path).json()["moments"]
    assert [one["phase"] for one in moments if one["title"] == read["title"]] == ["before"], "nothing was read after"
    ends = {"first": moments[0]["key"], "then": moments[-1]["key"]}
    changes = {row["key"]: row["change"] for row in client.get(f"{path}/compare", params=ends).json()["rows"]}
    assert (changes["car.odometer"], changes["rear.left.camber"]) == ("+650 km", "−0.64° ± 0.15")


def test_jobs_are_found_by_every_word_in_title_or_car(client):
    def found(words):
        return [one["title"] for one in client.get("/api/jobs", params={"search": words}).json()]

    assert found("vessik toe") == ["Rear camber and toe links"]
    assert found("100%_") == []
    assert len(found("")) == len(client.get("/api/jobs").json())


def test_a_new_job_from_an_old_one_begins_with_its_plan_and_its_values(client):
    old = next(one for one in client.get("/api/jobs").json() if one["kind"] == "work")
    body = {"id": "again-000001", "title": "The same on the other car"}
    made = client.post(f"/api/jobs/{old['id']}/again", json=body).json()
    before = client.get(f"/api/jobs/{old['id']}").json()
    assert [step["key"] for step in made["steps"]] == [step["key"] for step in before["steps"]]
    assert {step["state"] for step in made["steps"]} == {"open"}
    assert client.post(f"/api/jobs/{old['id']}/again", json=body).json()["version"] == made["version"]


def test_a_backup_comes_up_on_an_empty_machine(client, tmp_path):
    backup = client.get("/api/backup").content
    titles = [one["title"] for one in client.get("/api/jobs").json()]
    with opened(tmp_path / "empty" / "new.sqlite") as empty:
        assert empty.get("/api/jobs").json() == []
        looked = empty.post("/api/restore", content=backup).json()
        assert not looked["applied"]
        assert looked["jobs"] == len(titles)
        assert empty.get("/api/jobs").json() == [], "looking changes nothing"
        put = empty.post("/api/restore?apply=true", content=backup).json()
        assert put["applied"]
        assert [one["title"] for one in empty.get("/api/jobs").json()] == titles
        assert (tmp_path / "empty" / put["kept"]).exists()
        note = {"kind": "noted", "text": "written after"}
        job = empty.get("/api/jobs").json()[-1]["id"]
        seen = empty.get(f"/api/jobs/{job}").json()["version"]
        written = empty.post(f"/api/jobs/{job}/events", json={"id": "after-00001", "seen": seen, "act": note})
        assert written.status_code == 201


@pytest.mark.parametrize("content", [b"", b"no archive", b"PK\x03\x04broken"])
def test_what_is_no_backup_is_refused_and_nothing_is_lost(client, content):
    before = client.get("/api/jobs").json()
    assert client.post("/api/restore?apply=true", content=content).status_code == 422
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("workshop.sqlite", b"SQLite format 3\x00" + b"x" * 200)
    refused = client.post("/api/restore?apply=true", content=out.getvalue())
    assert refused.status_code == 422
    assert "damaged" in refused.json()["message"]
    assert client.get("/api/jobs").json() == before
