"""Turns of a solid axle, readings and tightenings as tables, loads that are learned: over HTTP."""

import csv
import io

import pytest

from writer import Writer, typed

CSV = {"Content-Type": "text/csv"}


class Job(Writer):
    """A job as a page writes in it."""

    def __init__(self, client, job_id):
        super().__init__(client, f"/api/jobs/{job_id}")

    def enter(self, key, text, unit, method="typed", part="value"):
        return self.write(**typed(key, text, unit, method, part))

    def turns(self):
        return self.client.get(f"{self.path}/turns").json()

    def table(self, name):
        content = self.client.get(f"{self.path}/{name}.csv").content.decode("utf-8-sig")
        return list(csv.DictReader(io.StringIO(content)))


def test_readings_go_out_as_a_table_and_into_another_job_with_their_instruments(client, jobs):
    first = Job(client, jobs["measured"])
    content = client.get(f"{first.path}/readings.csv").content
    body = {"id": "table-job-01", "title": "Again", "car": "-", "car_id": first.view()["car_id"]}
    assert client.post("/api/jobs", json=body).status_code == 201
    second = Job(client, "table-job-01")
    query = f"{second.path}/readings.csv?key=table-in-01&seen={second.view()['version']}"
    looked = client.post(query, content=content, headers=CSV).json()
    assert (looked["problems"], looked["applied"]) == (0, False)
    assert second.table("readings") == [], "looking changes nothing"
    assert client.post(f"{query}&apply=true", content=content, headers=CSV).json()["applied"]
    assert second.table("readings") == first.table("readings")
    before, after = first.view()["entries"], second.view()["entries"]
    for key in ("front.left.height", "rear.left.camber", "front.right.caster"):
        assert after[key]["understood"] == before[key]["understood"], "repeats, method and gauge come with it"
    again = client.post(query.replace("-in-01", "-in-02"), content=content, headers=CSV).json()
    height = next(one for one in again["readings"] if one["key"] == "front.left.height")
    assert height["replaces"] == height["understood"]


def test_a_table_with_one_bad_line_is_told_and_none_of_it_is_taken(client, jobs):
    job = Job(client, jobs["measured"])
    content = client.get(f"{job.path}/readings.csv").content.replace(b",371.4,mm,", b",371.4,nm,")
    version = job.view()["version"]
    query = f"{job.path}/readings.csv?key=table-in-03&seen={version}"
    looked = client.post(query, content=content, headers=CSV).json()
    assert looked["problems"] == 1
    told = next(one["problem"] for one in looked["readings"] if one["problem"])
    assert "Line 4" in told
    refused = client.post(f"{query}&apply=true", content=content, headers=CSV)
    assert refused.status_code == 422
    assert told in refused.json()["message"]
    assert job.view()["version"] == version


def test_tightenings_on_a_map_say_wrench_pass_angle_and_specification(client):
    line = next(one for one in client.get("/api/jobs").json() if one["title"].startswith("Coilovers"))
    job = Job(client, line["id"])
    for to in ("hand", "snug"):
        job.write(kind="worked", joint="front-bar-bracket", places=[1, 2, 3], to=to)
    job.write(
        kind="worked", joint="front-bar-bracket", places=[1], to="torqued", reading={"text": "38", "unit": "nm"}
    )
    job.write(kind="worked", joint="front-bar-bracket", places=[2], to="torqued", by_feel="no room")
    rows = {(row["place"], row["to"]): row for row in job.table("tightenings")}
    final, felt = rows["1", "torqued"], rows["2", "torqued"]
    bolt = next(
        one
        for joint in client.get(f"{job.path}/joints").json()["joints"]
        for one in joint["bolts"]
        if (joint["key"], one["number"]) == ("front-bar-bracket", 1)
    )
    assert (final["reading"], final["reading_unit"], final["percent"]) == ("38", "nm", "100")
    assert final["source"]
    assert final["specified"]
    assert bolt["number"] == int(final["place"])
    assert (felt["reading"], felt["by_feel"]) == ("", "no room")


def test_the_record_says_turns_planned_and_given_and_places_that_stand_alike_in_one_line(client, jobs):
    line = next(one for one in client.get("/api/jobs").json() if one["title"].startswith("Coilovers"))
    job = Job(client, line["id"])
    gauge = {"name": "Torque wrench 40–200", "resolution": None, "uncertainty": None, "due": ""}
    for to in ("hand", "snug"):
        job.write(kind="worked", joint="front-bar-bracket", places=[1, 2, 3], to=to)
    reading = {"text": "38", "unit": "nm"}
    job.write(kind="worked", joint="front-bar-bracket", places=[1], to="torqued", reading=reading, gauge=gauge)
    record = client.get(f"{job.path}/record").json()
    lines = [one for one in record["tightened"] if one["joint"].startswith("Front bar bracket")]
    assert lines[0]["places"] == "1"
    assert lines[0]["how"] == "car on its wheels, Torque wrench 40–200"
    assert lines[0]["source"]
    assert "38 N·m" in lines[0]["said"]
    work = next(one for one in client.get("/api/jobs").json() if one["title"].startswith("Front arms"))
    alike = client.get(f"/api/jobs/{work['id']}/record").json()["tightened"]
    assert next(one for one in alike if one["joint"].startswith("Wheel nuts"))["places"] == "1, 2, 3, 4, 5"
    other = Job(client, jobs["aligned"])
    turns = {(one["where"], one["name"]): one for one in client.get(f"{other.path}/record").json()["turns"]}
    link = turns["Rear left", "Upper front link"]
    assert link["given"] == "4 flats longer"
    assert link["planned"].endswith("longer")
    assert turns["Front left", "Tie rod"]["given"] == "not turned"
    strut = client.get(f"/api/jobs/{jobs['finished']}/record").json()
    assert strut["turns"][0]["given"].startswith("23 turns 3 flats on, from no thread")
    assert [one["label"] for one in strut["beside"]][:2] == ["Front left height", "Front left toe"]


def test_wheel_loads_that_heights_correct_go_into_the_record_as_loads(client):
    line = next(one for one in client.get("/api/jobs").json() if one["title"].startswith("Coilovers"))
    job = Job(client, line["id"])
    guess = {
        name: {"text": text, "unit": unit} for name, text, unit in (("total", "1480", "kgf"), ("share", "52", "pct"))
    }
    job.write(kind="entered", key="car.loads", method="total_and_share", typed=guess)
    for one in client.get(f"{job.path}/springs?samples=300").json()["wheels"]:
        off = -9 if one["key"].startswith("rear") else 0
        job.enter(f"{one['key']}.check_height", f"{one['predicted_mm'] + off:.1f}", "mm", "hub_to_arch", "height")
    lessons = client.get(f"{job.path}/lessons").json()["lessons"]
    loads = [one for one in lessons if one["key"].endswith(".load")]
    assert loads, "a guessed load is open enough to learn about"
    assert all(one["before"].endswith(" N") for one in loads)
    body = {"id": "learn-load-01", "keys": [one["key"] for one in loads]}
    said = client.post(f"{job.path}/lessons", json=body).json()["lessons"]
    assert {one["decided"] for one in said if one["key"].endswith(".load")} == {"taken"}
    car = client.get(f"/api/cars/{job.view()['car_id']}").json()
    told = {one["key"]: float(one["after"].split()[0]) for one in loads}
    kept = {wheel["label"]: wheel for wheel in car["loads"]["wheels"]}
    for key, force in told.items():
        assert kept[key.removesuffix(".load").replace(".", " ").capitalize()]["load_n"] == pytest.approx(force, abs=1)


def test_what_a_car_of_which_nothing_is_told_lacks_is_said_in_words(client):
    body = {"id": "table-job-04", "title": "Nothing told", "car": "Any"}
    assert client.post("/api/jobs", json=body).status_code == 201
    for wheel in Job(client, "table-job-04").turns()["wheels"]:
        rear = wheel["key"].startswith("rear")
        assert ("Say first what this axle hangs on" if rear else "Neither toe nor camber") in wheel["problem"]
        assert wheel["lacks"] == []
