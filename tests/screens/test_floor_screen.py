"""The floor screen at the wheel arch: refusals, overrides, lost connection, keyboard, paper."""

import re

import pytest
from playwright.sync_api import expect

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]


@pytest.fixture
def floor(tuner):
    """The demo's job with the left corner carried, on a phone."""
    tuner.page.set_viewport_size({"width": 390, "height": 844})
    tuner.page.get_by_role("link", name="Orrowby Halm").click()
    expect(tuner.page.get_by_role("heading", level=2)).to_have_text("Left corner: load it and clamp the arm")
    return tuner


def test_where_the_car_is_stays_in_sight_and_targets_are_large(floor):
    page = floor.page
    page.mouse.wheel(0, 1200)
    expect(page.get_by_label("Position of the car")).to_be_in_viewport()
    small = page.evaluate(
        """() => [...document.querySelectorAll('main button, main a, main input, main select')]
        .filter((one) => one.offsetParent && one.type !== 'radio')
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


def test_moving_the_car_closes_the_gate_until_the_height_is_read_again(floor):
    corner = floor.board("left corner height")
    expect(corner.get_by_role("status")).to_contain_text("inside the window")
    floor.move("Hanging on stands")
    expect(floor.page.get_by_label("Position of the car")).to_contain_text("hanging on stands")
    expect(corner.get_by_role("status")).to_contain_text("The left corner is hanging")
    floor.move("Left corner carried")
    expect(corner.get_by_role("status")).to_contain_text("No height has been read since the car was last moved")
    bolt = floor.board("Left lower arm, rear bushing bolt")
    expect(bolt.get_by_text("Not yet.")).to_be_visible()
    corner.get_by_label("Hub to arch now, left", exact=True).fill("13 5/8 in")
    corner.get_by_label("Hub to arch now, left", exact=True).press("Enter")
    expect(corner.get_by_role("status")).to_contain_text("346.075 mm is inside")
    floor.torque("Left lower arm, rear bushing bolt", "96")


def test_an_override_asks_for_words_and_stands_on_the_record(floor):
    page = floor.page
    floor.move("Hanging on stands")
    bolt = floor.board("Left lower arm, front bushing bolt")
    bolt.get_by_label("torque reading").fill("88")
    floor.press("Override…", bolt)
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("button", name="Override and record")).to_be_disabled()
    dialog.get_by_label("Reason, for the record").fill("trailer leaves in an hour")
    floor.press("Override and record", dialog)
    expect(bolt.get_by_text("override", exact=True)).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(bolt.get_by_role("button", name=re.compile("snug"))).to_be_visible()
    floor.tab("Record")
    expect(page.get_by_text("trailer leaves in an hour").first).to_be_visible()


def test_a_reading_far_from_its_specification_is_taken_and_listed(floor):
    bolt = floor.board("Left lower arm, front bushing bolt")
    bolt.get_by_label("torque reading").fill("70")
    floor.bring("Left lower arm, front bushing bolt", "Torqued")
    expect(bolt.get_by_text("✓ torqued")).to_be_visible()
    floor.tab("Record")
    expect(floor.page.get_by_text("70 N·m against 88 N·m")).to_be_visible()


def test_entries_made_without_a_connection_arrive_once_in_order_also_after_a_reload(floor, server):
    page = floor.page
    page.get_by_role("button", name="Turn the new ends on to the count").click()
    counter = floor.board("Left tie-rod end, on")
    server.kill()
    expect(page.get_by_text("Connection lost")).to_be_visible()
    for _ in range(3):
        floor.press("+ 1 flat", counter)
    page.get_by_label("Note for the record").fill("in the dark")
    floor.press("Add note")
    expect(page.get_by_text("4 waiting")).to_be_visible()
    server.start()
    expect(counter.get_by_text("24 turns", exact=True)).to_be_visible()
    floor.saved()
    page.reload()
    page.get_by_role("button", name="Turn the new ends on to the count").click()
    expect(page.get_by_text("✎ in the dark")).to_have_count(1)
    expect(counter.get_by_text("24 turns", exact=True)).to_be_visible()
    expect(counter.get_by_text("3 flats too many")).to_be_visible()


def test_a_step_can_be_skipped_with_a_reason_and_done_only_when_its_bolts_are(floor):
    page = floor.page
    floor.press("✓ Done")
    expect(page.get_by_role("alert")).to_contain_text("Not torqued yet: left lower arm, front bushing bolt")
    floor.press("Skip…")
    page.get_by_role("dialog").get_by_label("Reason, for the record").fill("other shop does it")
    floor.press("Skip this step", page.get_by_role("dialog"))
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_role("heading", level=2)).to_have_text("Right corner: load it and clamp the arm")
    expect(page.get_by_label("Move the car").first.get_by_role("button", name="Right corner carried")).to_be_visible()


def test_the_baseline_is_walked_with_the_keyboard_alone(tuner):
    page = tuner.page
    page.get_by_role("link", name="Tarvane Ossel").focus()
    page.keyboard.press("Enter")
    tuner.tab("Baseline")
    tuner.field("Left Camber").focus()
    for name, text in (
        ("Left Camber", "-0.5"),
        ("Left Toe wanted", ""),
        ("Right Ride height", "14,5 in"),
    ):
        expect(page.locator(":focus")).to_have_attribute("aria-label", name)
        page.keyboard.type(text)
        page.keyboard.press("Enter")
        if not name.endswith("height"):
            expect(tuner.field(name)).not_to_be_focused()
    expect(page.get_by_text("reading 2 of 3")).to_be_visible()
    page.keyboard.type("368.5")
    page.keyboard.press("Enter")
    expect(page.get_by_text("✓ 368.4 mm ± 2.6, 2 readings, spread 0.2 mm")).to_be_visible()
    expect(page.get_by_text("✓ −0.50° ± 0.12")).to_be_visible()
    expect(tuner.field("Left Sprung load")).to_have_value("3132")  # from the car's record
    tuner.field("Left Old end length").focus()
    page.keyboard.type("85")
    page.keyboard.press("Enter")
    expect(page.get_by_text("✓ 85.0 mm ± 0.6")).to_be_visible()


def test_the_printed_record_is_black_on_white_without_the_screen_s_furniture(tuner):
    page = tuner.page
    page.get_by_role("link", name="Springs and tie-rod ends, front").click()
    expect(page.get_by_text("Signed by").first).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("navigation")).to_be_hidden()
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(page.get_by_text("Quenlow Vessik 2.2, 2014").last).to_be_visible()
    assert page.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(255, 255, 255)"
