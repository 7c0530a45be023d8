"""Facts of the car are the car's wherever they are entered; what a job fitted becomes the car's when it is signed."""

import pytest

from writer import IDS, Writer, typed


@pytest.fixture
def car(client):
    body = {"id": "facts-car-01", "car": "Sample Wagon", "front_layout": "strut"}
    assert client.post("/api/cars", json=body).status_code == 201
    return "/api/cars/facts-car-01"


def job_on(client, name, *fittings):
    client.post("/api/jobs", json={"id": name, "car": "-", "car_id": "facts-car-01"})
    job = Writer(client, f"/api/jobs/{name}")
    job.plan({"fittings": [{"procedure": one, "axle": "front"} for one in fittings]})
    return job.path


def write(client, path, act):
    return Writer(client, path).write(**act)


def said(client, path, key):
    entry = client.get(path).json()["entries"].get(key)
    return entry and entry["said"]


def test_a_fact_entered_in_a_job_is_the_car_s_and_its_open_jobs_but_no_reading_is(client, car):
    first, second = job_on(client, "facts-job-1", "tie_rods"), job_on(client, "facts-job-2", "springs")
    write(client, first, typed("front.left.lower.length", "331"))
    write(client, first, typed("front.left.tie.turns_off", "24", "turn"))
    assert said(client, car, "front.left.lower.length") == said(client, second, "front.left.lower.length") == "331 mm"
    assert said(client, car, "front.left.tie.turns_off") is said(client, second, "front.left.tie.turns_off") is None
    write(client, car, typed("front.left.lower.length", "333"))
    assert said(client, second, "front.left.lower.length") == "333 mm", "as the car is now"
    assert said(client, first, "front.left.lower.length") == "331 mm", "its own reading stands"


def undo(client, path):
    last = client.get(path).json()["last_event"]
    write(client, path, {"kind": "undone", "event": last})
    return last


def test_a_fact_taken_back_where_it_was_entered_is_taken_back_everywhere_and_comes_again(client, car):
    first, second = job_on(client, "facts-job-7", "tie_rods"), job_on(client, "facts-job-8", "springs")
    key = "front.left.lower.length"
    everywhere = (first, car, second)
    write(client, first, typed(key, "331"))
    write(client, first, typed(key, "341"))
    undo(client, first)
    assert [said(client, path, key) for path in everywhere] == ["331 mm"] * 3
    undone = next(line for line in reversed(client.get(f"{first}/log").json()) if not line["undone"])
    write(client, first, {"kind": "undone", "event": undone["id"]})
    assert [said(client, path, key) for path in everywhere] == ["341 mm"] * 3, "the undoing is undone"
    write(client, car, typed(key, "350"))
    undo(client, car)
    assert said(client, second, key) == "341 mm"
    write(client, second, typed(key, "360"))
    write(client, car, typed("front.left.lower.rise", "-12"))
    undo(client, car)
    assert [said(client, path, key) for path in everywhere] == ["341 mm", "360 mm", "360 mm"]
    assert said(client, second, "front.left.lower.rise") is None


def test_what_a_job_fitted_and_its_values_are_the_car_s_once_it_is_signed(client, car):
    path = job_on(client, "facts-job-3", "tie_rods")
    write(client, path, typed("front.left.new_end.length", "87.5"))
    told = {"torque": {"text": "35", "unit": "nm"}, "source": "sheet 4", "note": "down"}
    Writer(client, path).change("tie_rods.taper.front.left", [1], other_side=True, **told)
    joints = {one["key"]: one["bolts"][0] for one in client.get(f"{path}/joints").json()["joints"]}
    both = [joints[f"tie_rods.taper.front.{side}"] for side in ("left", "right")]
    assert [one["spec"] for one in both] == ["35 N·m", "35 N·m"], "entered once for both sides"
    assert [one["note"] for one in both] == ["down", ""], "which way round it stands is its own"
    told = client.get(f"{path}/record").json()["car_learns"]
    assert "Front left old end, thread mouth to stud centre: 87.5 mm" in told
    assert "Tie-rod end castle nut, front right: 35 N·m" in told
    write(client, path, {"kind": "entered", "key": "front.left.tie.adjust", "choice": "one_thread"})
    write(client, path, {"kind": "signed", "name": "A. Tester"})
    record = client.get(f"{car}").json()
    kept = job_on(client, "facts-job-4", "tie_rods")
    bolts = {one["key"]: one["bolts"][0]["spec"] for one in client.get(f"{kept}/joints").json()["joints"]}
    assert bolts["tie_rods.taper.front.right"] == "35 N·m", "the next job begins with it"
    assert record["version"] > 2


def test_several_places_are_changed_in_what_was_edited_alone(client, car):
    job = Writer(client, job_on(client, "facts-job-5", "springs"))
    joint = "springs.top.front.left"
    for place, words in ((1, "mark outward"), (2, "mark rearward")):
        job.change(joint, [place], note=words)
    job.change(joint, [1, 2, 3], torque={"text": "24", "unit": "nm"}, source="sheet 4")
    bolts = job.joint(joint)["bolts"]
    assert [one["note"] for one in bolts] == ["mark outward", "mark rearward", ""]
    assert {one["spec"] for one in bolts} == {"24 N·m"}


def test_a_step_is_finished_with_all_its_fasteners_and_never_past_a_value_nobody_told(client, car):
    path = job_on(client, "facts-job-6", "springs")
    view = client.get(path).json()
    together = {step["key"]: step["together"] for step in view["steps"]}
    assert together["springs.in@front.left"] == "All by hand"
    assert together["springs.torque_hanging@front.left"] == "", "no value is told yet"
    finished = {"kind": "finished", "step": "springs.torque_hanging@front.left"}
    refused = client.post(f"{path}/events", json={"id": next(IDS), "seen": view["version"], "act": finished})
    assert refused.status_code == 409
    for key in ("springs.top", "springs.unit"):
        job, joint = Writer(client, path), f"{key}.front.left"
        places = [one["number"] for one in job.joint(joint)["bolts"]]
        job.change(joint, places, source="sheet 4", torque={"text": "24", "unit": "nm"})
    steps = {step["key"]: step["together"] for step in client.get(path).json()["steps"]}
    assert steps["springs.torque_hanging@front.left"] == "As specified"
    assert steps["springs.arm_torque@front.left"] == "", "rubber waits for its load, one by one"
