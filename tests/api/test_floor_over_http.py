"""The floor through the API: evidence cannot be forged, undo keeps the rules, the record tells it all."""

import itertools

import pytest

IDS = (f"floor-{n:05}" for n in itertools.count())


class Job:
    """One job, written to as a device would."""

    def __init__(self, client, job_id):
        self.client, self.path = client, f"/api/jobs/{job_id}"

    def view(self):
        return self.client.get(self.path).json()

    def write(self, **act):
        seen = self.client.get(f"{self.path}/version").json()["version"]
        return self.client.post(f"{self.path}/events", json={"id": next(IDS), "seen": seen, "act": act})

    def refused(self, **act):
        before = self.view()
        answer = self.write(**act)
        assert answer.status_code == 409, answer.text
        assert self.view() == before, "a refusal changes nothing"
        return answer.json()

    def place(self, key):
        return next(p for g in self.view()["groups"] for p in g["places"] if p["key"] == key)


@pytest.fixture
def hanging(client, jobs):
    """Left corner carried and read at 352 mm, everything snug."""
    return Job(client, jobs["hanging"])


@pytest.fixture
def finished(client, jobs):
    return Job(client, jobs["finished"])


READING = {"text": "88", "unit": "nm"}
FRONT, RIGHT = ["left.arm_front.1"], ["right.arm_front.1"]
EVIDENCE = {"height_mm": 345.0, "low_mm": 0.0, "high_mm": 999.0}


def test_a_clamp_sent_by_the_device_is_not_believed(hanging):
    told = hanging.refused(kind="tightened", places=RIGHT, to="torqued", reading=READING, clamp=EVIDENCE)
    assert told["details"]["rule"] == "clamp_at_load"
    assert "right corner is hanging" in told["message"]
    taken = hanging.write(kind="tightened", places=FRONT, to="torqued", reading=READING, clamp=EVIDENCE)
    assert taken.status_code == 201
    assert hanging.place(FRONT[0])["clamp"].startswith("352.0 mm in 334")


def test_raising_the_car_closes_the_gate_and_lowering_it_does_not_open_it(hanging):
    assert hanging.view()["gates"]["left"]["open"]
    hanging.write(kind="moved", to="hanging")
    assert not hanging.view()["gates"]["left"]["open"]
    hanging.write(kind="moved", to="corner_carried", corner="left")
    gate = hanging.view()["gates"]["left"]
    assert (gate["open"], gate["height_mm"]) == (False, None)
    assert (
        "No height has been read"
        in hanging.refused(kind="tightened", places=FRONT, to="torqued", reading=READING)["message"]
    )


def test_an_override_needs_words_and_stays_after_undo_and_on_every_paper(hanging):
    empty = hanging.write(kind="tightened", places=RIGHT, to="torqued", reading=READING, override="  ")
    assert empty.status_code == 422
    hanging.write(kind="tightened", places=RIGHT, to="torqued", reading=READING, override="no second jack")
    assert hanging.place(RIGHT[0])["overridden"] == "no second jack"
    hanging.write(kind="undone", event=hanging.view()["last_event"])
    view = hanging.view()
    assert hanging.place(RIGHT[0])["stage"] == "snug"
    assert view["overrides"][0]["reason"] == "no second jack"
    assert any(f["code"] == "override" for f in view["findings"])


def test_undo_of_a_height_is_refused_while_a_bolt_rests_on_it(hanging):
    height = hanging.view()["last_event"]
    hanging.write(kind="tightened", places=FRONT, to="torqued", reading=READING)
    assert "rests on this one" in hanging.refused(kind="undone", event=height)["message"]
    hanging.write(kind="undone", event=hanging.view()["last_event"])
    assert hanging.write(kind="undone", event=height).status_code == 201
    assert "undone already" in hanging.refused(kind="undone", event=height)["message"]
    log = hanging.client.get(f"{hanging.path}/log").json()
    assert [line["undone"] for line in log if line["id"] == height] == [True]
    assert hanging.write(kind="undone", event="never-was").status_code == 404


def test_torque_without_specification_is_never_made_up(client, jobs):
    job = Job(client, jobs["measuring"])
    place = ["left.link.1"]
    for stage in ("hand", "snug"):
        assert job.write(kind="tightened", places=place, to=stage).status_code == 201
    told = job.refused(kind="tightened", places=place, to="torqued", reading=READING)
    assert "never invents" in told["message"]
    assert job.view()["groups"][1]["spec"] is None
    felt = job.write(kind="tightened", places=place, to="torqued", by_feel="no wrench fits")
    assert felt.status_code == 201
    assert any(f["code"] == "by_feel" and "no wrench fits" in f["message"] for f in job.view()["findings"])


def test_specification_needs_a_source_and_a_thread_that_can_be(client, jobs):
    job = Job(client, jobs["measuring"])
    good = {
        "kind": "specified", "group": "jam", "torque": {"text": "40 lb ft", "unit": "nm"}, "source": "page 3",
        "diameter_mm": 14, "pitch_mm": 1.5,
    }  # fmt: skip
    for wrong, field in (
        ({"source": " "}, "source"),
        ({"pitch_mm": 8.0}, "pitch_mm"),
        ({"diameter_mm": 90.0}, "diameter_mm"),
        ({"torque": {"text": "tight", "unit": "nm"}}, "torque"),
        ({"torque": {"text": "5000", "unit": "nm"}}, "torque"),
        ({"torque": {"text": "40", "unit": "mm"}}, "torque"),
    ):
        answer = job.write(**{**good, **wrong})
        assert (answer.status_code, answer.json()["field"]) == (422, field), wrong
    assert job.write(**{**good, "group": "flux"}).status_code == 404
    job.write(**good)
    spec = next(g["spec"] for g in job.view()["groups"] if g["key"] == "jam")
    assert spec["said"] == "40 lb ft", "shown back as typed"


def test_a_signed_record_takes_only_its_reopening_and_signs_anew(finished):
    for act in (
        {"kind": "noted", "text": "x"},
        {"kind": "moved", "to": "hanging"},
        {"kind": "undone", "event": finished.view()["last_event"]},
        {"kind": "signed", "name": "Again"},
    ):
        assert "signed" in finished.refused(**act)["message"]
    assert finished.write(kind="reopened", reason="").status_code == 422
    finished.write(kind="reopened", reason="jam nut looked at again")
    assert finished.view()["signature"] is None
    finished.write(kind="noted", text="was tight")
    forged = finished.write(kind="signed", name="B. Sample", digest="0" * 64, listed=["nothing"])
    signature = forged.json()["signature"]
    assert signature["intact"]
    assert signature["digest"] != "0" * 64
    assert signature["listed"] == []


def test_every_number_opens_into_inputs_whose_shares_add_up(hanging):
    corner = hanging.view()["corners"]["left"]
    for number in (
        corner["height_change"],
        corner["height_predicted"],
        corner["toe_from_height"],
        corner["turns"]["exact"],
        corner["turns"]["toe_reached"],
    ):
        assert number["rule"]
        assert number["plus_minus"] > 0
        assert sum(one["share_pct"] for one in number["inputs"]) == pytest.approx(100)
        assert all(one["shown"] and one["label"] for one in number["inputs"])
    shares = {one["key"]: one["share_pct"] for one in corner["height_change"]["inputs"]}
    assert set(shares) >= {"front.motion_ratio", "front.left.sprung_load", "front.new_spring.free"}


def test_plan_as_worked_by_hand(hanging):
    """Left corner of the demo, with the rules of docs/formulas.md and a pocket calculator.

    Spring force 3210 × 1.04 = 3338.4 N; old 385 − 3338.4/28 = 265.771 mm; new rate 195 lb/in =
    34.150 N/mm, 338 − 3338.4/34.150 = 240.243 mm; change −25.528 × 1.04 = −26.55 mm.  Toe from
    height: −3' per 10 mm × 26.55 = −8.0'.  Rod: 118 × (8.0' = 0.002317) = 0.2734 mm longer wanted;
    turns on = 21.3333 + (3.5 − 0.2734) / 1.5 = 23.484, nearest flat 23 3/6.
    """
    corner = hanging.view()["corners"]["left"]
    assert corner["height_change"]["value"] == pytest.approx(-26.55, abs=0.005)
    assert corner["toe_from_height"]["value"] == pytest.approx(-7.965, abs=0.005)
    assert corner["turns"]["exact"]["value"] == pytest.approx(23.484, abs=0.001)
    assert corner["turns"]["on"]["said"] == "23 turns 3 flats"
    assert corner["turns"]["engagement_mm"] == pytest.approx(35.25)
    assert corner["turns"]["plain_error"]["value"] == pytest.approx(3.5 / 118 * 3437.747 - 7.965, abs=0.01)


def test_the_state_of_the_job_is_the_same_however_it_is_asked(client, jobs):
    for job_id in jobs.values():
        view = client.get(f"/api/jobs/{job_id}").json()
        assert view["version"] == client.get(f"/api/jobs/{job_id}/version").json()["version"]
        log = client.get(f"/api/jobs/{job_id}/log").json()
        assert [line["seq"] for line in log] == list(range(1, view["version"] + 1))
        assert all(line["said"] for line in log)


def test_a_job_is_started_once_and_bad_names_are_refused(client):
    body = {"id": "job-00000001", "title": "Springs", "car": "Sample"}
    assert client.post("/api/jobs", json=body).status_code == 201
    assert client.post("/api/jobs", json=body).status_code == 201
    assert len(client.get("/api/jobs").json()) == 9
    assert client.post("/api/jobs", json={**body, "title": "Other"}).json()["code"] == "conflict"
    for wrong in ({"title": ""}, {"car": "   "}, {"title": "x" * 200}, {"id": "a"}, {"template": "rear"}):
        assert client.post("/api/jobs", json={**body, "id": "job-00000002", **wrong}).status_code == 422
    assert client.get("/api/jobs?limit=100000").status_code == 422


def test_sheet_describes_every_field_with_units_and_choices(client):
    car = client.get("/api/cars").json()[0]["id"]
    sheet = client.get(f"/api/cars/{car}/sheet").json()
    assert {field["axle"] for field in sheet["fields"]} == {"", "front", "rear"}
    for field in sheet["fields"]:
        assert bool(field["methods"]) != bool(field["choices"])
        for method in field["methods"]:
            for part in method["parts"]:
                assert field["words"] or part["unit"] in {unit["key"] for unit in part["units"]}
    act = {"kind": "entered", "key": "front.motion_ratio", "method": "typed"}
    read = client.post(
        f"/api/cars/{car}/understand",
        json={"act": {**act, "typed": {"value": {"text": "1,25", "unit": "wheel_per_spring"}}}},
    )
    assert read.json()["understood"].startswith("0.800 spring ÷ wheel")
