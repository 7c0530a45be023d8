"""Cars, parts, instruments, pictures and simulated gauges through the API."""

import hashlib
import io
import json
import sqlite3
import zipfile

import numpy as np
import pytest
from alembic import command
from alembic.config import Config
from PIL import Image
from starlette.websockets import WebSocketDisconnect

from fair_spindle.records.database import MIGRATIONS
from opened import opened
from writer import IDS, Writer, typed

HOST = {"host": "127.0.0.1:8613"}


def picture_of(size=(40, 30), kind="png", **more):
    out = io.BytesIO()
    Image.linear_gradient("L").resize(size).convert("RGB").save(out, kind, **more)
    return out.getvalue()


PNG = picture_of()
ORIENTATION, MADE_BY = 0x0112, 0x013B  # tags of the Exif standard (CIPA DC-008)


@pytest.fixture
def cars(client):
    return {line["car"].split()[1].lower(): line["id"] for line in client.get("/api/cars").json()}


def newest(client, path):
    return client.get(f"{path}/version").json()["version"]


def write(client, car, act, seen=None, event=None):
    return Writer(client, f"/api/cars/{car}").send(seen=seen, id=event, **act)


def test_a_changed_layout_changes_what_is_asked_and_loses_nothing(client, cars):
    car = cars["halm"]
    before = client.get(f"/api/cars/{car}").json()
    changed = write(client, car, {"kind": "entered", "key": "rear.layout", "choice": "five_link"}).json()
    assert changed["shape"] != before["shape"]
    assert changed["title"] == "Strut front, five-link rear"
    assert "rear.left.beam.length" not in changed["entries"]
    undone = write(client, car, {"kind": "undone", "event": changed["last_event"]}).json()
    assert (undone["shape"], undone["entries"], undone["title"]) == (
        before["shape"],
        before["entries"],
        before["title"],
    )


def test_two_devices_on_one_car_and_what_does_not_belong_in_a_record(client, cars):
    car = cars["halm"]
    seen = client.get(f"/api/cars/{car}").json()["version"]
    assert write(client, car, typed("car.wheelbase", "2620"), seen).status_code == 201
    late = write(client, car, typed("car.wheelbase", "2630"), seen)
    assert late.status_code == 409
    assert "Theirs: Wheelbase: 2620.0 mm" in late.json()["message"]
    assert write(client, car, {"kind": "moved", "to": "hanging"}).status_code == 409
    assert write(client, car, typed("front.left.wing", "1")).json()["field"] == "key"
    assert client.get(f"/api/jobs/{car}").status_code == 404
    cleared = write(client, car, {"kind": "cleared", "key": "car.wheelbase"}).json()
    assert "car.wheelbase" not in cleared["entries"]


def test_copies_of_cars_sides_and_parts(client, cars):
    copy = client.post(f"/api/cars/{cars['rill']}/copy", json={"id": "copied-car-1", "car": "Second Rill"}).json()
    first = client.get(f"/api/cars/{cars['rill']}").json()
    said = lambda view: {key: one["understood"] for key, one in view["entries"].items()}  # noqa: E731
    assert said(copy) == said(first)
    assert {one["group"] for one in copy["fasteners"]} > {"Rear subframe to body", "Front left lower arm, pivots"}
    assert [{**one, "key": ""} for one in copy["fasteners"]] == [{**one, "key": ""} for one in first["fasteners"]]
    write(client, "copied-car-1", typed("front.left.upper.length", "255"))
    second = "/api/cars/copied-car-1"
    side = {"id": next(IDS), "seen": newest(client, second), "side": "left"}
    over = client.post(f"{second}/copy-side", json=side).json()
    assert over["entries"]["front.right.upper.length"]["typed"]["value"]["text"] == "255"
    assert over["entries"]["front.right.point.upper_ball"]["typed"]["y"]["text"] == "-668"
    shelf = client.get("/api/parts").json()
    arm = next(part for part in shelf if part["kind"] == "upper")
    fit = {"id": next(IDS), "seen": newest(client, second), "part_id": arm["id"], "prefix": "front.left.upper"}
    fitted = client.post("/api/cars/copied-car-1/fit-part", json=fit).json()
    assert fitted["entries"]["front.left.upper.length"]["source"] == f"“{arm['name']}” from the shelf"
    wrong = client.post(
        "/api/cars/copied-car-1/fit-part", json={**fit, "id": next(IDS), "prefix": "front.left.lower"}
    )
    assert wrong.status_code == 422
    assert client.delete(f"/api/parts/{arm['id']}").status_code == 204
    assert client.post("/api/cars/copied-car-1/fit-part", json={**fit, "id": next(IDS)}).status_code == 404


def test_a_job_begins_with_its_car_s_record_and_last_baseline(client, cars):
    body = {"id": "job-on-ossel", "title": "Again", "car": "-", "car_id": cars["ossel"]}
    job = client.post("/api/jobs", json=body).json()
    assert job["car"] == "Tarvane Ossel 1.6, 2009"
    assert job["before_from"].startswith("Springs and tie-rod ends, front")
    assert job["entries"]["front.left.lower.length"]["source"] == "the car's record"
    assert job["loads"]["wheels"][0]["estimated"]
    low = {
        "kind": "entered",
        "key": "front.left.height",
        "method": "hub_to_arch",
        "typed": {"height": {"text": "330", "unit": "mm"}},
    }
    lower = {"id": next(IDS), "seen": job["version"], "act": low}
    told = client.post("/api/jobs/job-on-ossel/events", json=lower).json()
    assert told["entries"]["front.left.height"]["doubt"] == "−17.7 mm against the last baseline."
    assert client.post("/api/jobs", json={**body, "id": "job-on-nothing", "car_id": "no-such-car"}).status_code == 404


def test_geometry_is_planned_and_tried_out_and_changes_nothing(client, cars):
    path = f"/api/cars/{cars['vessik']}"
    version = client.get(f"{path}/version").json()
    plan = client.get(f"{path}/geometry?samples=200").json()
    wheels = {one["key"]: one for one in plan["wheels"]}
    assert all(one["depth"] == "points" and one["targets"] for one in wheels.values())
    assert all(0 <= one["chance_pct"] <= 100 for one in wheels.values())
    for one in plan["axles"]:
        assert 0 <= one["chance_pct"] <= 100
        assert one["shares"][0]["share_pct"] > 0
        assert one["together"][0]["name"] == "total toe"
    assert plan["order"][0].startswith("Rear axle")
    reached = {(key, goal["name"]): goal["after_deg"] for key, one in wheels.items() for goal in one["targets"]}
    assert {(one["axle"], one["name"]): one["difference_deg"] for one in plan["sides"]} == pytest.approx(
        {("rear", "camber"): reached["rear.left", "camber"] - reached["rear.right", "camber"]}
    ), "the car's record limits how far its rear cambers may stand apart"
    turns = {key: {a["name"]: a["set_turns"] for a in one["adjusters"]} for key, one in wheels.items()}
    tried = client.post(f"{path}/what-if", json={"turns": turns}).json()
    for one in tried["wheels"]:
        after = {target["name"]: target["after_deg"] for target in wheels[one["key"]]["targets"]}
        assert one["angles"]["toe_deg"] == pytest.approx(after["toe"], abs=1e-6), "the plan, set, is what it says"
    assert {a["axle"]: a["total_deg"] for a in tried["axles"]} == pytest.approx(
        {a["axle"]: a["total_deg"] for a in plan["axles"]}, abs=1e-6
    )
    level = client.post(f"{path}/what-if", json={"heights_mm": {"front": 0, "rear": 0}}).json()["wheels"][0]
    assert level["angles"]["toe_deg"] == pytest.approx(wheels[level["key"]]["angles"]["toe_deg"], abs=1e-9)
    for wrong in ({"turns": {"front.left": {"wing": 1}}}, {"heights_mm": {"front": 900}}, {"turn": {}}):
        assert client.post(f"{path}/what-if", json=wrong).status_code == 422
    assert client.get(f"{path}/version").json() == version
    solid = client.get(f"/api/cars/{cars['cragg']}/geometry").json()["solid"]
    assert [one["axle"] for one in solid] == ["front", "rear"]
    assert solid[0]["shift_per_heave"] == pytest.approx(0, abs=1e-9), "leaf springs hold the axle sideways"
    assert all(one["roll_steer"] != 0 and one["problem"] == "" for one in solid)


def test_a_corner_moves_in_space_with_its_links_as_long_as_they_are(client, cars):
    """A rigid link keeps its length, a turned one its new length; common geometry, no published source."""
    path = f"/api/cars/{cars['vessik']}/linkage"
    found = client.post(path, json={"wheel": "front.left", "turns": {"Tie rod": 2.0}}).json()
    names = [line["name"] for line in found["lines"]]
    moved = {
        part: np.array(found[part]["frames"]).reshape(-1, len(names), 2, 3) for part in ("before", "after", "steer")
    }
    lengths = {part: np.linalg.norm(ends[:, :, 0] - ends[:, :, 1], axis=2) for part, ends in moved.items()}
    own = [float(np.linalg.norm(np.subtract(line["end"], line["start"]))) for line in found["lines"]]
    rod, strut = names.index("tie"), names.index("strut_low to strut_top")
    rigid = [n for n in range(len(names)) if n not in (rod, strut)]
    assert lengths["before"][:, [*rigid, rod]] == pytest.approx(
        np.broadcast_to(np.array(own)[[*rigid, rod]], (13, len(rigid) + 1)), abs=0.02
    )
    assert lengths["after"][:, rigid] == pytest.approx(lengths["before"][:, rigid], abs=0.02)
    assert np.ptp(lengths["after"][:, rod]) < 0.02, "turned, and of one length through the travel"
    assert lengths["after"][0, rod] - own[rod] == pytest.approx(3.0, abs=0.02), "two turns of 1.5 mm"
    hub = moved["before"][:, names.index("spindle"), 0]
    assert (hub - hub[6])[:, 2] == pytest.approx(found["before"]["at_mm"], abs=0.02), "the wheel goes by its travel"
    rack = moved["steer"][:, rod, 0]
    assert (rack - rack[5]) == pytest.approx(np.array(found["steer"]["at_mm"])[:, None] * [0, 1, 0], abs=0.02)
    assert lengths["steer"][:, rod] == pytest.approx(lengths["after"][0, rod], abs=0.02)
    assert found["after"]["frames"][6] != found["before"]["frames"][6]
    assert client.post(path, json={"wheel": "rear.left"}).json()["steer"] == {"at_mm": [], "frames": []}
    far = client.post(path, json={"wheel": "front.left", "turns": {"Tie rod": 200}}).json()
    assert far["after"] == {"at_mm": [], "frames": []}, "nothing is drawn where the linkage cannot be"
    for wrong in ({"wheel": "spare"}, {"wheel": "front.left", "turns": {"wing": 1}}, {}):
        assert client.post(path, json=wrong).status_code == 422
    ossel = client.post(f"/api/cars/{cars['ossel']}/linkage", json={"wheel": "rear.left"}).json()
    assert ossel["lines"], "drawn as a middling wheel of its layout, also where nobody measured it"


def test_points_are_drawn_as_far_as_they_are_read(client):
    client.post("/api/cars", json={"id": "taped-car", "car": "Ondar Wend", "front_layout": "strut"})

    def point(name, *at):
        act = typed(f"front.right.point.{name}", "")
        typed_row = dict(zip(("ahead", "aside", "up"), ({"text": str(one), "unit": "mm"} for one in at), strict=True))
        write(client, "taped-car", {**act, "method": "from_centre", "typed": typed_row})
        return client.get("/api/cars/taped-car/points").json()

    assert client.get("/api/cars/taped-car/points").json() == []
    (alone,) = point("lower_front", 90, 360, 198)
    assert alone["label"] == "Front right"
    assert alone["segments"] == [
        {"name": "lower_front", "kind": "point", "start": [90, -360, 198], "end": [90, -360, 198]}
    ]
    (joined,) = point("lower_ball", 10, 705, 178)
    assert joined["segments"] == [
        {"name": "lower_front", "kind": "link", "start": [90, -360, 198], "end": [10, -705, 178]}
    ]
    (strut,) = point("strut_top", -22, 575, 860)
    assert [line["kind"] for line in strut["segments"]] == ["link", "point"]


def test_a_job_file_brings_its_car_and_leaves_a_different_one_alone(client, cars, jobs, tmp_path):
    content = client.get(f"/api/jobs/{jobs['measured']}/job.json").content
    with opened(tmp_path / "other.sqlite") as other:
        said = other.post("/api/jobs/import?apply=true", content=content).json()["said"]
        assert "comes with it as a new car" in said
        car = other.get("/api/cars").json()[0]["id"]
        assert other.get(f"/api/cars/{car}").json() == client.get(f"/api/cars/{car}").json()
        write(other, car, typed("car.wheelbase", "2700"))
        assert "newer entries; they stay" in other.post("/api/jobs/import?apply=true", content=content).json()["said"]
    write(client, cars["vessik"], typed("car.wheelbase", "2701"))
    newer = client.get(f"/api/jobs/{jobs['measured']}/job.json").content
    spoilt = json.loads(newer)
    spoilt["car"]["log"][0]["act"]["entries"][0]["choice"] = "hover"
    refused = client.post("/api/jobs/import", content=json.dumps(spoilt).encode())
    assert refused.status_code == 422
    assert refused.json()["field"].startswith("car/log")


def test_a_car_that_is_here_already_is_asked_about(client, cars, jobs):
    document = client.get(f"/api/jobs/{jobs['measured']}/job.json").json()
    count = iter(range(100))

    def bring(answer=None, **changes):
        """The job as from another workshop, its car's record changed; asked, or answered."""
        new = json.loads(json.dumps(document))
        new["job"]["id"] = f"brought-{next(count):05}"
        for key, value in changes.items():
            new["car"][key] = value
        new["job"]["car_id"] = new["car"]["head"]["id"]
        query = "" if answer is None else f"?apply=true&car={answer}"
        answered = client.post(f"/api/jobs/import{query}", content=json.dumps(new).encode()).json()
        return answered, new["job"]["id"]

    def car_of(job):
        return client.get(f"/api/jobs/{job}").json()["car_id"]

    def length(car):
        return client.get(f"/api/cars/{car}").json()["version"]

    log, head, own = document["car"]["log"], document["car"]["head"], cars["vessik"]
    asked = bring()[0]
    assert [one["value"] for one in asked["answers"]] == ["leave", "second"]
    assert bring("car:elsewhere")[0]["field"] == "car"
    note = {"kind": "noted", "text": "written elsewhere", "step": ""}
    more = [*log, {"id": "elsewhere-01", "seq": len(log) + 1, "at": "2030-01-01T00:00:00Z", "act": note}]
    assert [one["value"] for one in bring(log=more)[0]["answers"]] == ["update", "leave", "second"]
    for answer, grows in (("leave", 0), ("update", 1)):
        before = length(own)
        assert car_of(bring(answer, log=more)[1]) == own
        assert length(own) == before + grows
    other = [*log[:-1], {**more[-1], "seq": len(log)}]
    assert "another record" in bring(log=other)[0]["said"]
    second = car_of(bring("second", log=other)[1])
    assert second != own
    assert client.get(f"/api/cars/{second}").json()["car"].endswith("second record")
    stranger = {**head, "id": "another-car-1"}
    asked = bring(head=stranger)[0]
    assert [one["value"] for one in asked["answers"]] == ["new", f"car:{own}"]
    assert car_of(bring(f"car:{own}", head=stranger)[1]) == own
    assert client.get("/api/cars/another-car-1").status_code == 404
    assert car_of(bring("new", head=stranger)[1]) == "another-car-1"


def test_the_parts_of_a_car_are_drawn_corrected_and_followed_by_its_plans(client):
    car = client.post("/api/cars", json={"id": next(IDS), "car": "Sample Strut", "front_layout": "strut"}).json()
    job = client.post("/api/jobs", json={"id": next(IDS), "car": "-", "car_id": car["id"]}).json()

    def lower(path):
        (axle,) = (one for one in client.get(f"/api/{path}/parts").json() if one["parts"])
        return next(one for one in axle["parts"] if one["key"] == "lower")

    def planned():
        brief = {"fittings": [{"procedure": "swap_lower_arm", "axle": "front"}]}
        return {
            one["key"]
            for one in client.post(f"/api/jobs/{job['id']}/plan/try", json={"brief": brief}).json()["steps"]
        }

    assert lower(f"cars/{car['id']}")["joints"][0] == "ball joint: taper and castle nut"
    assert "toe 0.4" in lower(f"cars/{car['id']}")["moves"]
    assert "swap_lower_arm.ball_free@front.left" in planned()
    told = {"front.lower.kind_ball": "clamp", "front.lower.along": "sensor", "front.lower.sprung": "yes"}
    for key, choice in told.items():
        body = {
            "id": next(IDS),
            "seen": newest(client, f"/api/cars/{car['id']}"),
            "act": {"kind": "entered", "key": key, "choice": choice},
        }
        assert client.post(f"/api/cars/{car['id']}/events", json=body).status_code == 201
    for path in (f"cars/{car['id']}", f"jobs/{job['id']}"):
        arm = lower(path)
        assert arm["joints"][0] == "ball joint: clamp with a pinch bolt"
        assert (arm["along"], arm["carries"]) == ("level sensor's rod", "the arm, on a jack")
    steps = planned()
    assert "swap_lower_arm.ball_free@front.left" not in steps
    assert {
        f"swap_lower_arm.{key}@front.left" for key in ("ball_clamp_free", "along_off", "along_back", "carry_arm")
    } <= steps


def test_instruments_are_kept_changed_and_flagged(client, jobs):
    gauges = {one["name"]: one for one in client.get("/api/instruments").json()}
    assert gauges["Level, bay 2"]["overdue"]
    assert not gauges["Level, bay 1"]["overdue"]
    old = gauges["Level, bay 2"]
    camber = {
        "kind": "entered", "key": "front.left.camber", "method": "angle",
        "typed": {"value": {"text": "-0.6", "unit": "deg"}}, "gauge": old["gauge"],
    }  # fmt: skip
    body = {"id": next(IDS), "seen": newest(client, f"/api/jobs/{jobs['measured']}"), "act": camber}
    entry = client.post(f"/api/jobs/{jobs['measured']}/events", json=body).json()["entries"]["front.left.camber"]
    assert entry["flags"] == ["calibration ran out on 2025-01-15"]
    assert entry["understood"] == "−0.60° ± 0.21", "U = 0.2° and 0.1° resolution: 2 √(0.1² + 0.1²/12)"
    record = {
        key: old[key]
        for key in ("name", "kind", "unit", "resolution", "uncertainty", "calibrated", "address", "note")
    }
    changed = client.put(f"/api/instruments/{old['id']}", json={**record, "due": "2099-01-01", "seen": 1}).json()
    assert (changed["overdue"], changed["version"]) == (False, 2)
    assert client.put(f"/api/instruments/{old['id']}", json={**record, "due": "", "seen": 1}).status_code == 409
    for wrong in (
        {"unit": "furlong"},
        {"resolution": "-1"},
        {"resolution": "x"},
        {"due": "2026-13-01"},
        {"due": "2020-01-01"},
        {"address": "http://x"},
    ):
        assert (
            client.post("/api/instruments", json={**record, "id": next(IDS), "due": "", **wrong}).status_code == 422
        )
    assert client.put(f"/api/instruments/{old['id']}", json={**record, "seen": 2, "retired": True}).status_code == 200
    assert "Level, bay 2" not in [one["name"] for one in client.get("/api/instruments").json()]


def test_pictures_are_known_by_their_content(client, jobs):
    path = f"/api/jobs/{jobs['measured']}/pictures"

    def attach(content, subject="front.left.camber", name="cam.png"):
        seen = newest(client, f"/api/jobs/{jobs['measured']}")
        return client.post(f"{path}?key={next(IDS)}&seen={seen}&subject={subject}&name={name}", content=content)

    picture = attach(PNG).json()["pictures"][0]
    kept = client.get(f"{path}/{picture['sha256']}")
    assert (kept.headers["content-type"], kept.headers["x-content-type-options"]) == ("image/png", "nosniff")
    assert hashlib.sha256(kept.content).hexdigest() == picture["sha256"]
    upside = Image.Exif()
    upside[ORIENTATION], upside[MADE_BY] = 6, "a camera that tells where it was"
    turned = attach(picture_of(kind="jpeg", exif=upside), name="turned.jpg").json()["pictures"][-1]
    shown = Image.open(io.BytesIO(client.get(f"{path}/{turned['sha256']}").content))
    assert (shown.format, shown.size, dict(shown.getexif())) == ("JPEG", (30, 40), {}), "upright, and nothing told"
    assert "pixels" in attach(picture_of((8000, 7000))).json()["message"]
    assert "cut short" in attach(PNG[:-30]).json()["message"]
    assert attach(PNG, name="bell%07").status_code == 422
    assert attach(b"<svg onload='alert(1)'/>").status_code == 422
    assert attach(PNG + bytes(7_000_000)).status_code == 422
    assert attach(PNG, subject="baseline").status_code == 201
    assert attach(PNG, subject="nowhere").status_code == 404
    assert client.get(f"{path}/{'0' * 64}").status_code == 404


def test_a_picture_of_0_1_leaves_the_house_without_what_its_camera_noted(client, jobs, tmp_path, monkeypatch):
    monkeypatch.setattr("fair_spindle.jobs.pictures.clean_picture", lambda content: (content, "image/jpeg"))
    there = Image.Exif()
    there[ORIENTATION], there[MADE_BY] = 6, "where it was"
    job, noted = f"/api/jobs/{jobs['measured']}", picture_of(kind="jpeg", exif=there)
    seen = newest(client, job)
    query = f"key={next(IDS)}&seen={seen}&subject=baseline&name=old.jpg"
    assert client.post(f"{job}/pictures?{query}", content=noted).status_code == 201
    name = hashlib.sha256(noted).hexdigest()
    assert client.get(f"{job}/pictures/{name}").content == noted

    out = client.get(f"{job}/job.zip").content
    inside = zipfile.ZipFile(io.BytesIO(out))
    (file,) = (one for one in inside.namelist() if one.startswith("pictures/"))
    assert file == f"pictures/{name}.{hashlib.sha256(inside.read(file)).hexdigest()}.jpeg"
    assert not Image.open(io.BytesIO(inside.read(file))).getexif()
    forged = io.BytesIO()
    with zipfile.ZipFile(forged, "w") as archive:
        archive.writestr("job.json", inside.read("job.json"))
        archive.writestr(file, noted)
    with opened(tmp_path / "other.sqlite") as other:
        assert other.post("/api/jobs/import?apply=true", content=forged.getvalue()).status_code == 422
        assert other.post("/api/jobs/import?apply=true", content=out).status_code == 200
        assert other.get(f"{job}/pictures/{name}").content == inside.read(file)
        assert other.get(f"{job}/job.zip").content == out
        whole = other.get("/api/backup").content
    with opened(tmp_path / "third.sqlite") as third:
        assert third.post("/api/restore?apply=true", content=whole).status_code == 200
        assert third.get(f"{job}/pictures/{name}").content == inside.read(file)


def test_the_way_round_the_car_is_kept_and_not_overwritten_silently(client, jobs):
    order = {"corners": ["rear.left", "rear.right", "front.right", "front.left"], "by": "reading", "seen": 0}
    assert client.put("/api/settings/walk", json=order).json()["version"] == 1
    walk = client.get(f"/api/jobs/{jobs['measured']}").json()["walks"]["baseline"]
    assert next(key for key in walk if key.endswith("height")) == "rear.left.height"
    assert client.put("/api/settings/walk", json={**order, "by": "wheel"}).status_code == 409
    twice = {**order, "corners": ["rear.left"] * 4, "seen": 1}
    assert client.put("/api/settings/walk", json=twice).status_code == 422


@pytest.mark.parametrize("kind", ["level", "height", "caliper", "scales", "wrench"])
def test_a_simulated_gauge_speaks_lines_of_json_and_fails_on_demand(client, kind):
    with client.websocket_connect(f"/ws/stand-ins/{kind}", headers=HOST) as gauge:
        hello = json.loads(gauge.receive_text())
        assert (hello["type"], hello["stand_in"]) == ("hello", True)
        gauge.send_text('{"type":"aim","at":"front.left.camber"}\nnonsense\n[1]\n')
        readings = [json.loads(gauge.receive_text()) for _ in range(15)]
        assert [one["seq"] for one in readings] == list(range(1, 16))
        assert readings[-1]["stable"]
        values = readings[-1].get("values") or {"": readings[-1]["value"]}
        assert set(values) == set(hello["channels"] or [""])
        assert all(abs(v / hello["resolution"] - round(v / hello["resolution"])) < 1e-6 for v in values.values())
        gauge.send_text('{"type":"simulate","fault":"battery_flat"}\n')
        last = next(one for one in iter(lambda: json.loads(gauge.receive_text()), None) if one["type"] == "fault")
        assert last["code"] == "battery_flat"


def test_a_gauge_answers_only_to_this_workshop_s_pages(client):
    for headers in ({**HOST, "origin": "http://elsewhere.example"}, {"host": "elsewhere.example"}):
        with (
            pytest.raises(WebSocketDisconnect),
            client.websocket_connect("/ws/stand-ins/level", headers=headers) as one,
        ):
            one.receive_text()
    with pytest.raises(WebSocketDisconnect), client.websocket_connect("/ws/stand-ins/nothing", headers=HOST) as one:
        one.receive_text()


def test_a_workshop_of_the_first_version_comes_up_with_its_jobs(tmp_path):
    file = tmp_path / "old.sqlite"
    config = Config(stdout=io.StringIO())
    config.set_main_option("script_location", str(MIGRATIONS))
    config.set_main_option("sqlalchemy.url", f"sqlite:///{file}")
    command.upgrade(config, "0001")
    act = json.dumps({"kind": "noted", "text": "from before", "step": ""})
    toe = {"toe": {"text": "6", "unit": "min"}}
    old = json.dumps({"kind": "entered", "key": "left.toe", "method": "angle", "typed": toe, "choice": ""})
    with sqlite3.connect(file) as connection:
        connection.execute(
            "INSERT INTO job VALUES ('old-job-0001', 'front_strut', 'Springs', 'Old', '2026-01-01T00:00:00Z')"
        )
        for seq, text in enumerate((act, old), 1):
            row = ("old-job-0001", seq, f"e{seq}", "2026-01-01T00:00:00Z", json.loads(text)["kind"], text)
            connection.execute("INSERT INTO event VALUES (?, ?, ?, ?, ?, ?)", row)
    with opened(file) as client:
        assert client.get("/api/jobs/old-job-0001").json()["notes"][0]["text"] == "from before"
        assert [line["said"] for line in client.get("/api/jobs/old-job-0001/log").json()] == [
            "Note: from before",
            "left.toe: 6 min",
        ]
    assert file.with_suffix(".before-0005.sqlite").exists()
