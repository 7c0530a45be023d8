"""The floor screen at the wheel arch: refusals, overrides, lost connection, keyboard, paper."""

import re
from datetime import datetime, timedelta

import pytest
from playwright.sync_api import expect
from worker import pick

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]


FIRST = "Lower arm bolt to its torque at load, front left"


@pytest.fixture
def floor(tuner):
    """The demo's job with the left corner carried, on a phone."""
    tuner.page.set_viewport_size({"width": 390, "height": 844})
    tuner.page.get_by_role("link", name="Orrowby Halm").click()
    expect(tuner.page.get_by_role("heading", level=2)).to_have_text(FIRST)
    return tuner


def test_where_the_car_is_stays_in_sight_and_targets_are_large(floor):
    page = floor.page
    page.mouse.wheel(0, 1200)
    expect(page.get_by_label("Position of the car")).to_be_in_viewport()
    small = page.evaluate(
        """() => [...document.querySelectorAll('main button, main a, main input, main select')]
        .filter((one) => one.offsetParent && !['radio', 'checkbox'].includes(one.type))
        .map((one) => [one.textContent.trim() || one.ariaLabel, one.getBoundingClientRect().height])
        .filter(([, height]) => height < 43.5)"""
    )
    assert small == []
    tiny = page.evaluate(
        """() => [...document.querySelectorAll('main *')]
        .filter((one) => one.childElementCount === 0 && one.textContent.trim() && one.offsetParent)
        .map((one) => [one.textContent.trim().slice(0, 30), parseFloat(getComputedStyle(one).fontSize)])
        .filter(([, size]) => size < 15)"""
    )
    assert tiny == []


def work(floor):
    return floor.page.get_by_role("region", name="Work on it")


def test_a_reading_far_from_its_value_is_asked_about_and_kept_only_with_words(floor):
    panel = work(floor)
    panel.get_by_label("Torque reading", exact=True).fill("70")
    floor.press("Torqued", panel)
    expect(panel.get_by_role("alert")).to_contain_text("70 N·m was read, 88 N·m is its value")
    panel.get_by_label("Why this reading stays").fill("wrench at its end")
    floor.press("Keep it", panel)
    expect(floor.page.get_by_role("status").filter(has_text="at its final torque")).to_be_visible()
    floor.tab("Record")
    expect(floor.page.get_by_text("Kept: wrench at its end")).to_be_visible()


def test_what_came_off_is_one_tap_and_comes_back_as_a_step(floor):
    page = floor.page
    page.get_by_text("Something else came off").click()
    pick(page.get_by_label("Clips, screws, nuts"), "8")
    page.get_by_role("group", name="What came off").get_by_role("button", name="Undertray").click()
    back = page.get_by_role("button", name="Back on: Undertray")
    back.click()
    expect(page.get_by_role("article", name="Back on: Undertray")).to_contain_text("8 small fasteners go back in")
    back = page.get_by_role("article", name="Back on: Undertray")
    back.get_by_label("Small fasteners back in", exact=True).fill("7")
    back.get_by_label("Small fasteners back in", exact=True).press("Enter")
    floor.saved()
    assert len(entries(page, "Came off: Undertray with 8 small fasteners")) == 1


def entries(page, words):
    """Lines of the log that hold some words."""
    path = page.url.split("/floor")[0].replace("/job/", "/api/jobs/")
    log = page.evaluate("async (path) => await (await fetch(path)).json()", f"{path}/log")
    return [line for line in log if words in line["said"]]


def test_a_step_can_be_skipped_with_a_reason_and_done_only_when_its_bolts_are(floor):
    page = floor.page
    floor.press("✓ Done")
    expect(page.get_by_role("alert")).to_contain_text(
        "Not at its final torque yet: Lower arm bolt at the subframe, front left"
    )
    floor.press("Skip…")
    page.get_by_role("dialog").get_by_label("Reason, for the record").fill("other shop does it")
    floor.press("Skip this step", page.get_by_role("dialog"))
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_role("heading", level=2)).to_have_text("Carry the corner, front right")
    expect(page.get_by_label("Move the car").first.get_by_role("button", name="Front right carried")).to_be_visible()


def test_the_printed_record_is_black_on_white_without_the_screen_s_furniture(tuner):
    page = tuner.page
    page.get_by_role("link", name="Springs and tie-rod ends, front").click()
    expect(page.get_by_text("Signed by").first).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("navigation")).to_be_hidden()
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(page.get_by_text("Tarvane Ossel 1.6, 2009").last).to_be_visible()
    assert page.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(255, 255, 255)"


def test_a_foot_switch_confirms_a_step_that_is_in_sight_and_goes_back(floor):
    page = floor.page
    title = page.get_by_role("heading", level=2).first
    page.get_by_role("button", name="Skip…").click()
    page.get_by_role("button", name="Not needed on this car").click()
    expect(title).not_to_have_text(FIRST)
    now = title.inner_text()
    page.keyboard.press("PageUp")
    expect(title).to_have_text(FIRST)
    page.get_by_role("button", name="Back to the next open step").click()
    expect(title).to_have_text(now)
    page.get_by_label("Note for the record").click()
    page.keyboard.press("ArrowRight")
    page.wait_for_timeout(700)
    expect(title).to_have_text(now), "whoever types confirms nothing"


def test_a_card_that_has_just_come_is_deaf_to_a_second_tap(browser, server):
    page = browser.new_context(reduced_motion="reduce", service_workers="block").new_page()
    page.clock.install()  # it stands still for all of its context
    page.goto(server.address)
    page.get_by_role("link", name="Orrowby Halm").click()
    done = page.get_by_role("button", name="✓ Done", exact=True)
    expect(done).to_be_enabled()
    page.clock.pause_at(datetime.now() + timedelta(seconds=60))
    page.get_by_role("button", name=re.compile("Carry the corner, front right")).click()
    expect(page.get_by_role("heading", level=2)).to_have_text("Carry the corner, front right")
    page.clock.run_for(400)
    expect(done).to_be_disabled()
    page.clock.run_for(200)
    expect(done).to_be_enabled()
    page.context.close()
