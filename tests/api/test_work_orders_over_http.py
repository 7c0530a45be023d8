"""Work orders over HTTP: planned, taken, done by rules, stopped for the night, printed, kept as a file."""

import io
import itertools
import threading

import pytest
from pypdf import PdfReader

from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.formats.procedure_file import shipped
from opened import opened
from writer import IDS, Writer

BRIEF = {"fittings": [{"procedure": "lower_arm", "axle": "front"}, {"procedure": "sway_bars", "axle": "front"}]}


class Job(Writer):
    """A job by a work order."""

    def __init__(self, client, brief=BRIEF):
        super().__init__(client, "/api/jobs/order-00001")
        body = {"id": "order-00001", "title": "Arms and bar", "car": "Sample Saloon"}
        assert client.post("/api/jobs", json=body).status_code == 201
        if brief:
            self.plan(brief)

    def step(self, key):
        return next(step for step in self.view()["steps"] if step["key"] == key)

    def to_the_parts_off(self):
        """Everything up to the first step of putting back."""
        for step in self.view()["steps"]:
            if step["phase"] >= 6:
                return
            if step["key"].startswith("raise"):
                self.write("moved", to="hanging")
            elif step["asks"] or step["key"].startswith("penetrant"):
                self.write("stepped", step=step["key"], outcome="skipped", reason="read before, nothing seized")
            else:
                self.write("stepped", step=step["key"])


@pytest.fixture
def job(client):
    return Job(client)


def test_trying_writes_nothing_and_taking_draws_the_maps(client):
    job = Job(client, brief=None)
    tried = client.post(f"{job.path}/plan/try", json={"brief": BRIEF}).json()
    assert tried["raises"] == 1
    assert {one["key"] for one in tried["questions"]} >= {"wheel_nuts", "bushing", "hole"}
    assert job.view()["version"] == 0
    view = job.plan(BRIEF)
    assert [step["title"] for step in view["steps"]] == [step["title"] for step in tried["steps"]]
    assert view["pages"] == ["order", "baseline", "turns", "floor", "bolts", "check", "record"]
    maps = client.get(f"{job.path}/joints").json()["joints"]
    pivot = next(one for one in maps if one["key"] == "lower_arm.bush.front.left")
    assert pivot["waits_for_load"]
    assert pivot["bolts"][0]["spec"] == "no value entered", "the product never invents a torque"
    again = client.get(f"{job.path}/plan").json()
    assert again["plan"]["taken"]
    assert again["brief"]["fittings"][0]["procedure"] == "lower_arm"


def test_steps_wait_for_the_car_for_what_they_rest_on_and_for_their_bolts(job):
    early = job.send("stepped", step="wheels_off@front")
    assert early.status_code == 409
    assert "hanging on stands" in early.json()["message"]
    job.to_the_parts_off()
    assert job.step("raise.1")["state"] == "done", "moving the car is the step"
    waits = job.send("stepped", step="lower_arm.snug@front.left").json()["message"]
    assert waits == "First: New arm in, both bolts by hand, front left."
    short = job.send("stepped", step="lower_arm.in@front.left").json()["message"]
    assert short == "Not started by hand yet: Lower arm, bushing bolt, front left."
    for joint in ("bush", "ball"):
        job.write("worked", joint=f"lower_arm.{joint}.front.left", places=[1], to="hand")
    old = job.send("stepped", step="lower_arm.in@front.left").json()["message"]
    assert old == "Still to be read: new one in: lower arm, bushing bolt, front left."
    for joint in ("bush", "ball"):
        job.write("entered", key=f"car.new.lower_arm.{joint}.front.left", choice="new")
    assert job.write("stepped", step="lower_arm.in@front.left")


def test_going_back_says_what_is_lost_and_opens_what_rests_on_it(job):
    job.to_the_parts_off()
    asked = {"kind": "stepped", "step": "wheels_off@front", "outcome": "reopened"}
    lost = job.client.post(f"{job.path}/consequences", json={"act": asked}).json()["lost"]
    assert "Open again: Free the bar links, front." in lost
    assert job.step("wheels_off@front")["state"] == "done", "asking changes nothing"
    job.write("stepped", step="wheels_off@front", outcome="reopened")
    assert job.step("links_free@front")["state"] == "open"
    job.write("undone", event=job.view()["last_event"])
    assert job.step("links_free@front")["state"] == "done"
    assert job.send("stepped", step="lower_arm.in@front.left", outcome="reopened").status_code == 409


def test_a_bonded_bolt_loosened_again_opens_its_step_and_asks_for_load(job):
    job.to_the_parts_off()
    arm = "lower_arm.bush.front.left"
    for joint in ("bush", "ball"):
        job.write("entered", key=f"car.new.lower_arm.{joint}.front.left", choice="new")
    for to in ("hand", "snug"):
        job.write("worked", joint=arm, places=[1], to=to)
        job.write("worked", joint="lower_arm.ball.front.left", places=[1], to=to)
        key = {"hand": "in", "snug": "snug"}[to]
        job.write("stepped", step=f"lower_arm.{key}@front.left")
    job.write("worked", joint=arm, places=[1], to="torqued", by_feel="no wrench here", override="shown on purpose")
    loose = {"kind": "worked", "joint": arm, "places": [1], "to": "loose"}
    lost = job.client.post(f"{job.path}/consequences", json={"act": loose}).json()["lost"]
    assert lost[0].endswith("bonded rubber, to be loaded and torqued again at ride height.")
    assert "Open again: Snug: the arm still pivots, front left." in lost
    job.write(**loose)
    assert job.step("lower_arm.snug@front.left")["state"] == "open"


def test_a_raised_car_voids_the_loaded_height(job):
    job.to_the_parts_off()
    job.write("moved", to="corner_carried", corner="left")
    job.write("height_read", side="left", height={"text": "362", "unit": "mm"})
    up = {"kind": "moved", "to": "hanging"}
    lost = job.client.post(f"{job.path}/consequences", json={"act": up}).json()["lost"]
    assert lost == ["The loaded height of 362 mm read at the front left no longer holds: read it again."]


def test_planned_again_keeps_what_was_done_and_never_loses_it(job):
    job.to_the_parts_off()
    more = {"fittings": [*BRIEF["fittings"], {"procedure": "tie_rods", "axle": "front"}]}
    view = job.plan(more)
    done = {step["key"] for step in view["steps"] if step["state"] == "done"}
    assert {"wheels_off@front", "lower_arm.out@front.left"} <= done
    assert "tie_rods.mark@front.left" in {step["key"] for step in view["steps"]} - done
    less = job.order({"fittings": [BRIEF["fittings"][1]]})
    assert less.status_code == 409
    assert "is done already and would vanish" in less.json()["message"]


def test_two_who_plan_at_once_do_not_overwrite_each_other(job):
    seen = job.view()["version"]
    job.plan(BRIEF | {"lift": "one_end"})
    assert job.order(BRIEF, seen=seen - 1).status_code == 409


def test_the_sheet_for_the_night_names_what_is_loose(job):
    assert job.client.get(f"{job.path}/stop").json()["may_be_driven"]
    job.to_the_parts_off()
    job.write("stopped", note="Bolts come tomorrow.")
    left = job.client.get(f"{job.path}/stop").json()
    assert not left["may_be_driven"]
    assert "Wheel nuts, front left, place 1, 2, 3, 4, 5: loose" in left["loose"]
    assert left["next_step"] == "New arm in, both bolts by hand, front left"
    text = "".join(
        page.extract_text() for page in PdfReader(io.BytesIO(job.client.get(f"{job.path}/stop.pdf").content)).pages
    )
    assert "DO NOT DRIVE" in text
    assert "Bolts come tomorrow." in text


def test_the_clipboard_has_a_box_for_every_step_and_fastener(job):
    def text(query=""):
        content = job.client.get(f"{job.path}/clipboard.pdf{query}").content
        return " ".join("".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages).split())

    whole = text()
    for step in job.view()["steps"]:
        assert " ".join(step["title"].split()) in whole
    assert "Car carried at front left" in whole
    assert "Link locknuts" in whole
    assert text("?axle=rear").count("Sway bar") == 0


def test_every_bag_of_fasteners_has_a_label_that_leads_to_its_map(job, monkeypatch):
    nut = {"diameter_mm": 12, "pitch_mm": 1.5, "head": "19 mm"}
    joints = {one["key"]: one for one in job.client.get(f"{job.path}/joints").json()["joints"]}
    key = next(key for key, one in joints.items() if one["label"] == "Wheel nuts, front left")
    change = {"id": next(IDS), "seen": job.view()["version"], "joint": key, "places": [1, 2, 3, 4], **nut}
    assert job.client.post(f"{job.path}/joints/change", json=change).status_code == 201
    codes = []
    monkeypatch.setattr("fair_spindle.formats.labels_pdf._code", lambda text, size: codes.append(text) or "")
    content = job.client.get(f"{job.path}/labels.pdf").content
    said = " ".join("".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages).split())
    assert "Wheel nuts, front left" in said
    assert "4 × M12×1.5, 19 mm" in said
    assert "1 of a thread not told" in said
    assert f"http://127.0.0.1:8613/job/order-00001/bolts?joint={key}" in codes
    assert len(codes) == len(joints)
    job.client.post("/api/jobs", json={"id": "order-00009", "title": "Nothing off", "car": "Sample Saloon"})
    assert job.client.get("/api/jobs/order-00009/labels.pdf").status_code == 409


@pytest.mark.parametrize(
    "brief",
    [
        {"fittings": [{"procedure": "lower_arm", "axle": "middle"}]},
        {"fittings": [{"procedure": "lower_arm", "axle": "rear"}]},
        {"fittings": "many"},
        {"fittings": [], "unknown": 1},
        {"fittings": [{"procedure": "lower_arm", "axle": "front"}], "later": [{"first": "a", "then": "b"}]},
        {
            "fittings": [{"procedure": "lower_arm", "axle": "front"}],
            "added": [{"key": "own.a", "title": "", "phase": 6}],
        },
    ],
)
def test_a_brief_that_cannot_be_names_its_field_and_is_never_a_500(client, brief):
    job = Job(client, brief=None)
    answer = client.post(f"{job.path}/plan/try", json={"brief": brief})
    assert answer.status_code in (404, 422)
    assert answer.json()["field"]


def test_an_edited_plan_is_kept_given_away_taken_in_and_taken_away(client, job):
    brief = {"fittings": [BRIEF["fittings"][0]], "dropped": {"tether@front.left": "on a lift"}}
    body = {"brief": brief, "key": "our_arm", "title": "Lower arm, our way"}
    assert client.post(f"{job.path}/plan/procedure", json=body).status_code == 201
    content = client.get("/api/procedures/our_arm/file").content
    assert [one["key"] for one in client.get("/api/procedures").json() if one["own"]] == ["our_arm"]
    assert client.post("/api/procedures/import", content=content).json()["outcome"] == "same"
    assert client.delete("/api/procedures/our_arm").status_code == 204
    assert client.post("/api/procedures/import", content=content).json()["outcome"] == "new"
    assert "our_arm" not in {one["key"] for one in client.get("/api/procedures").json()}
    assert client.post("/api/procedures/import?apply=true", content=content).json()["applied"]
    changed = content.replace(b"our way", b"another way")
    assert client.post("/api/procedures/import?apply=true", content=changed).status_code == 409
    assert client.post("/api/procedures/import?apply=true&seen=1", content=changed).json()["outcome"] == "changed"
    shipped = client.get("/api/procedures/lower_arm/file").content
    refused = client.post("/api/procedures/import?apply=true", content=shipped)
    assert refused.status_code == 422
    assert refused.json()["field"] == "key"


def test_the_workshops_schools_decide_and_a_job_may_choose_otherwise(client, job):
    now = client.get("/api/settings/schools").json()
    body = {"ways": {"load": "wheels"}, "seen": now["version"]}
    assert client.put("/api/settings/schools", json=body).status_code == 200

    def torqued(**schools):
        plan = client.post(f"{job.path}/plan/try", json={"brief": BRIEF | {"schools": schools}}).json()
        step = next(one for one in plan["steps"] if one["key"] == "lower_arm.bush_torque@front.left")
        return step["where"], step["school"]

    assert torqued()[0] == "on_wheels"
    where, said = torqued(load="jack")
    assert where == "corner_carried"
    assert said.startswith("Loading for the final torque of rubber: jack under the upright. Others:")
    assert client.put("/api/settings/schools", json={"ways": {"load": "magic"}, "seen": 1}).status_code == 422


def test_a_page_hears_within_a_second_that_another_wrote_and_never_of_itself(job):
    address = "/ws/books/order-00001?page=mine"
    with job.client.websocket_connect(address, headers={"host": "127.0.0.1:8613"}) as line:
        heard = []
        listening = threading.Thread(target=lambda: heard.append(line.receive_text()))
        listening.start()
        job.client.headers["X-Page"] = "mine"
        job.write("noted", text="by the page itself")
        listening.join(0.3)
        assert heard == []
        job.client.headers["X-Page"] = "other"
        job.write("noted", text="from the other device")
        listening.join(1)
        assert heard == ["changed"]


def _plans():
    """Every procedure at every axle, in turn with each layout it is for, way of loading and of raising."""
    ways = itertools.cycle([("corner", "both_ends"), ("wheels", "one_end"), ("corner", "one_end")])
    turn = itertools.count()
    for key, procedure in shipped().procedures.items():
        for axle in procedure.axles or ("",):
            fit = [one for one in (procedure.layouts or LAYOUTS) if not axle or axle in LAYOUTS[one].axles]
            yield key, axle, fit[next(turn) % len(fit)] if axle else "", *next(ways)


@pytest.fixture(scope="module")
def one_workshop(tmp_path_factory):
    """One for all plans that are shown: each is a job of its own."""
    file = tmp_path_factory.mktemp("shown") / "workshop.sqlite"
    with opened(file) as client:
        yield client


@pytest.mark.parametrize(("key", "axle", "layout", "load", "lift"), list(_plans()))
def test_every_plan_is_shown_on_every_page(one_workshop, key, axle, layout, load, lift):
    client, own = one_workshop, f"{key.replace('_', '-')}-{axle}"
    layouts = {f"{axle}_layout": layout} if layout else {}
    assert client.post("/api/cars", json={"id": f"car-{own}", "car": "Sample", **layouts}).status_code == 201
    job = client.post("/api/jobs", json={"id": f"shown-{own}", "car": "-", "car_id": f"car-{own}"}).json()
    brief = {"fittings": [{"procedure": key, "axle": axle}], "schools": {"load": load}, "lift": lift}
    brief["added"] = [{"key": "own.look", "title": "Look at it", "phase": 8}]
    body = {"id": "shown-plan-1", "seen": job["version"], "brief": brief}
    assert client.post(f"/api/jobs/shown-{own}/plan", json=body).status_code == 201
    pages = ["", "/sheet", "/joints", "/turns", "/record", "/plan", "/stop", "/explained"]
    if axle != "rear" or key.startswith("rear"):  # the same words again, two thirds of all the work
        pages.append("/clipboard.pdf")
    for page in pages:
        answer = client.get(f"/api/jobs/shown-{own}{page}")
        assert answer.status_code == 200, page
