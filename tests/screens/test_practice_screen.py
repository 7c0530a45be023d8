"""The board and the practice bay, used from an empty workshop."""

import re

import pytest
from playwright.sync_api import expect

from writer import typed

pytestmark = pytest.mark.screen


def test_an_empty_workshop_shows_the_way_and_the_board_leads_to_the_next_step(tuner):
    page = tuner.page
    expect(page.get_by_text("Start a job: the car’s name is enough.")).to_be_visible()
    page.get_by_role("button", name="Look round a sample workshop").click()
    car = page.get_by_role("article", name="Brannock Rill 3.0, 1994: Front arms, bar and tie-rod ends")
    expect(car).to_contain_text("hanging on stands")
    expect(car).to_contain_text("14 loose")
    wanted = car.get_by_role("link").locator("b").inner_text()
    car.get_by_role("link").click()
    expect(page.get_by_role("heading", level=2, name=wanted)).to_be_visible()
    page.get_by_role("link", name="All jobs").click()
    page.get_by_role("navigation").get_by_role("link", name="Day", exact=True).click()
    expect(page.get_by_text("less than one car after the other")).to_be_visible()
    expect(page.get_by_role("region", name="For every car in work")).to_contain_text("Damper rod nut")


def test_an_exercise_begun_read_with_gauges_and_given_up_shows_its_truth(tuner):
    page = tuner.page
    page.get_by_role("link", name="Practise on a car with a hidden truth").click()
    page.get_by_label("Number of the car").fill("12")
    page.get_by_role("button", name="Begin: A level out of calibration").click()
    bar = page.get_by_role("region", name="Practice")
    bar.get_by_role("button", name=re.compile("Read with the bay’s gauges: 15")).click()
    expect(bar.get_by_role("button", name="All is read")).to_be_visible()
    bar.get_by_role("link", name="Debrief").click()
    page.get_by_role("button", name="Give up and show the truth").click()
    angles = page.get_by_role("region", name="Where each angle ended")
    expect(angles).to_contain_text("Rear left, camber")
    blamed = [one.get_attribute("aria-label") for one in angles.get_by_role("img").all()]
    cambers = [float(re.search(r"the reading ([+−]\d\.\d+)", one)[1].replace("−", "-")) for one in blamed[1::2]]
    assert all(-0.7 < one < -0.25 for one in cambers), "the level's own error, at every wheel"
    expect(page.get_by_role("region", name="Score")).to_contain_text("no score")


def test_an_exercise_done_well_ends_with_its_score_and_is_handed_on_as_a_file(tuner, tmp_path):
    page = tuner.page
    page.goto(f"{tuner.address}/practice")
    page.get_by_label("Number of the car").fill("4")
    page.get_by_text("Bare: the rules only watch").click()
    page.get_by_role("button", name="Begin: Cross weight by four rings").click()
    bar = page.get_by_role("region", name="Practice")
    bar.get_by_role("button", name="Read with the bay’s gauges: 4").click()
    expect(bar.get_by_role("button", name="All is read")).to_be_visible()
    bar.get_by_role("button", name="What it is about, and the car in the bay").click()
    expect(bar.get_by_text("From above: wheels ten times as far")).to_be_visible()
    page.get_by_role("navigation").get_by_role("link", name="Springs", exact=True).click()
    page.get_by_text("Rings", exact=True).click()
    expect(page.get_by_role("region", name="Ring turns").get_by_text("turns up").first).to_be_visible()
    job = tuner.job()
    for ring in job.get("/springs?samples=50")["correction"]["perches"]:
        job.write(**typed(f"{ring['key']}.perch_up", str(ring["set_turns"]), "turn"))
    for step in ("yard", "road"):
        job.write(kind="stepped", step=step, outcome="done")
    page.goto(page.url.rsplit("/", 1)[0] + "/debrief")
    ended = page.get_by_role("region", name="Where each angle ended")
    expect(ended).to_contain_text(re.compile(r"Whole car, cross weight\s*(49\.[5-9]|50\.[0-5]) % true"))
    assert int(page.get_by_role("region", name="Score").locator("b").first.inner_text()) >= 85
    with page.expect_download() as saved:
        page.get_by_role("link", name="This exercise as a file").click()
    file = tmp_path / "exercise.json"
    saved.value.save_as(file)
    page.goto(f"{tuner.address}/practice")
    page.locator("input[type=file]").set_input_files(file)
    expect(page.get_by_role("region", name="Practice")).to_be_visible()
    assert tuner.job().path != job.path


def test_a_bushing_clamped_in_the_air_in_bare_mode_is_told_in_the_debrief(tuner):
    page = tuner.page
    page.goto(f"{tuner.address}/practice")
    page.get_by_text("Bare: the rules only watch").click()
    page.get_by_role("button", name="Begin: A torque list with two rows swapped").click()
    expect(page.get_by_role("region", name="Practice")).to_be_visible()
    job = tuner.job()
    job.write(kind="moved", to="hanging")
    for to in ("hand", "snug"):
        job.write(kind="worked", joint="lower_arm.bush.front.left", places=[1], to=to)
    clamp = {"joint": "lower_arm.bush.front.left", "places": [1], "to": "torqued", "by_feel": "by hand"}
    job.write(kind="worked", **clamp)
    job.write(kind="moved", to="on_wheels")
    job.write(kind="stepped", step="road", outcome="done")
    page.goto(page.url.rsplit("/", 1)[0] + "/debrief")
    expect(page.get_by_text("Front left: rubber wound by")).to_be_visible()
    expect(page.get_by_text("Would have been refused: The clamp window")).to_be_visible()
    expect(page.get_by_text("Hub-to-arch height before each rubber bolt is torqued")).to_be_visible()
