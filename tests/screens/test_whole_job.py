"""One whole job in Chromium: from the first reading to the printed record, with a killed server."""

import io
import json
import re
import urllib.request

import pypdf
import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.screen

SIDE_FIELDS = {
    "thread pitch": "1.5",
    "old end length": "84",
    "new end length": "87,5",
    "least thread engagement": "18",
    "steering lever": "118",
    "bump steer": "-3",
    "lower arm length": "332",
    "lower arm rise": "-14",
    "sprung load": "3200",
}
SPECS = {
    "Wheel nuts": ("105", "12 x 1.5"),
    "Bar link, upper nut": ("48", "10 x 1.5"),
    "Lower arm, front bushing bolt": ("88", "12 x 1.25"),
    "Lower arm, rear bushing bolt": ("96", "12 x 1.25"),
    "Tie-rod jam nut": ("52", "14 x 1.5"),
    "Tie-rod end castle nut": ("41", "12 x 1.25"),
    "Strut to upright, clamp bolts": ("95", "12 x 1.25"),
    "Strut top nuts": ("24", "8 x 1.25"),
    "Damper rod nut": ("55", "12 x 1.25"),
}
HAND, SNUG = "Started by hand", "Snug"


def take_baseline(tuner):
    page = tuner.page
    tuner.press("It is settled")
    page.get_by_label("Behind the axle").check()
    for place in ("Front", "Rear"):
        page.get_by_role("group", name=f"Left {place} bushing").get_by_label("Bonded rubber", exact=True).check()
    for name, text, unit in (
        ("Motion ratio", "1.04", "wheel_per_spring"),
        ("Old spring rate", "28", None),
        ("Old free length", "385", None),
        ("New spring rate", "34", None),
        ("New free length", "338", None),
    ):
        tuner.enter(name, text, unit)
    expect(page.get_by_text("✓ 0.962 spring ÷ wheel ± 0.023")).to_be_visible()
    tuner.field("Left Ride height").click()
    tuner.type_readings("372", "373", "372")
    expect(page.get_by_text("✓ 372.3 mm ± 2.7, 3 readings, spread 1.0 mm")).to_be_visible()
    tuner.field("Right Ride height").click()
    tuner.type_readings("14 9/16 in", "14 9/16 in", "14 9/16 in")
    page.get_by_label("Right Toe: how it is measured").select_option("strings")
    for part, text in (("front gap", "51.4"), ("rear gap", "50.2"), ("measured across", "640")):
        tuner.enter(f"Right Toe, {part}", text)
    tuner.enter("Left Toe", "0°06'")
    for name, text in SIDE_FIELDS.items():
        tuner.enter(f"Left {name.capitalize()}", text)
    same = page.get_by_role("button", name="Same as left")
    for left in range(len(SIDE_FIELDS) + 2, 0, -1):
        expect(same).to_have_count(left)
        same.first.click()
    expect(page.get_by_text("32 of 32 read")).to_be_visible()


def read_plan(tuner):
    tuner.tab("Plan")
    left = tuner.board("left front")
    expect(left.get_by_text("−27.1 mm")).to_be_visible()
    expect(left.get_by_text("clamp window needs")).to_have_count(0)
    expect(left.get_by_text("Turns need turns counted off.")).to_be_visible()
    left.get_by_text("Where from").first.click()
    expect(left.get_by_role("cell", name="Motion ratio").first).to_be_visible()
    for group, (torque, thread) in SPECS.items():
        row = tuner.page.locator(".spec", has=tuner.page.get_by_text(group, exact=True))
        row.get_by_role("button", name="Enter").click()
        tuner.field(f"{group}: torque").fill(torque)
        tuner.field(f"{group}: thread").fill(thread)
        tuner.field(f"{group}: source").fill("Sheet 4, invented")
        if group.startswith("Strut to upright"):
            tuner.field(f"{group}: torque unit").select_option("lb_ft")
            tuner.field(f"{group}: torque").fill("120")
        row.get_by_role("button", name="Save").click()
        if group.startswith("Strut to upright"):
            expect(row.get_by_text("Was 120 N·m meant?")).to_be_visible()
            row.get_by_role("button", name="It is 120 N·m").click()
            expect(row.get_by_role("alert")).to_have_count(0)
        expect(row.get_by_role("button", name="Change")).to_be_visible()


def strip_and_count(tuner):
    tuner.tab("Floor")
    for title in (
        "Settle the car and take the baseline",
        "Steering wheel straight and held",
        "Lay old beside new, set out the hardware",
        "Chock the rear, slacken the wheel nuts",
    ):
        tuner.done(title)
    tuner.move("Hanging on stands")
    expect(tuner.page.get_by_label("Position of the car")).to_contain_text("hanging on stands")
    for title in (
        "Raise the front, both sides",
        "Wheels off",
        "Unclip wires and hoses first",
        "Free the bar links",
        "Slacken the lower arm bolts",
        "Slacken the jam nuts, free the tapers",
    ):
        tuner.done(title)
    for side, turns, flats in (("Left", 21, 2), ("Right", 20, 5)):
        counter = tuner.board(f"{side} tie-rod end, off")
        for _ in range(turns):
            tuner.press("+ 1 turn", counter)
        for _ in range(flats):
            tuner.press("+ 1 flat", counter)
    expect(tuner.board("Left tie-rod end, off").get_by_text("21 turns 2 flats")).to_be_visible()
    tuner.saved()


def rods_on(tuner):
    tuner.done("Turn the old ends off and count")
    for side in ("Left", "Right"):
        counter = tuner.board(f"{side} tie-rod end, on")
        while True:
            wanted = counter.locator(".target").inner_text()
            if "there" in wanted:
                break
            togo = re.search(r"· (?:(\d+) turns?)? ?(?:(\d+) flats?)? ?to go", wanted)
            turns = int(togo[1] or 0)
            tuner.press("+ 1 turn" if turns else "+ 1 flat", counter)
            expect(counter.locator(".target")).not_to_have_text(wanted)
        tuner.bring(f"{side} tie-rod jam nut", HAND)
    tuner.done("Turn the new ends on to the count")
    for side in ("Left", "Right"):
        tuner.bring(f"{side} tie-rod end castle nut", HAND, SNUG)
        tuner.torque(f"{side} tie-rod end castle nut", "41")
    tuner.done("Tie-rod tapers: torque and pin")
    tuner.done("Struts out")
    for side in ("Left", "Right"):
        tuner.bring(f"{side} damper rod nut", HAND, SNUG)
        tuner.torque(f"{side} damper rod nut", "55")
    tuner.done("Change the springs on the bench")


LOWER = (
    "strut top nuts",
    "strut to upright, clamp bolts",
    "bar link, upper nut",
    "lower arm, front bushing bolt",
    "lower arm, rear bushing bolt",
)


def assemble(tuner):
    for stage, title in ((HAND, "Struts in, every fastener by hand"), (SNUG, "Snug, evenly")):
        for side in ("Left", "Right"):
            for group in LOWER:
                tuner.bring(f"{side} {group}", stage)
        tuner.done(title)
    for side in ("Left", "Right"):
        tuner.torque(f"{side} strut top nuts", "24")
        tuner.torque(f"{side} strut to upright, clamp bolts", "120")
    tuner.done("Torque what may hang")
    tuner.done("Wires and hoses back")
    for side in ("Left", "Right"):
        tuner.bring(f"{side} wheel nuts", HAND, SNUG)
    tuner.done("Wheels on, nuts by hand, then snug")


def clamp_arms(tuner):
    page = tuner.page
    front = tuner.board("Left lower arm, front bushing bolt")
    front.get_by_label("torque reading").fill("88")
    tuner.press("Torqued", front)
    expect(front.get_by_role("alert")).to_contain_text("hanging. Load it first")
    tuner.move("Left corner carried")
    expect(front.get_by_role("status")).to_contain_text("No height has been read")
    corner = tuner.board("left corner height")
    corner.get_by_label("Hub to arch now, left", exact=True).fill("372")
    tuner.press("Record height", corner)
    expect(corner.get_by_role("status")).to_contain_text("outside the clamp window")
    tuner.press("Torqued", front)
    expect(front.get_by_role("alert")).to_contain_text("outside the clamp window")
    corner.get_by_label("Hub to arch now, left", exact=True).fill("347")
    tuner.press("Record height", corner)
    expect(corner.get_by_role("status")).to_contain_text("inside the window")
    tuner.torque("Left lower arm, front bushing bolt", "88")
    tuner.torque("Left lower arm, rear bushing bolt", "96")
    tuner.done("Left corner: load it and clamp the arm")
    tuner.move("Right corner carried")
    corner = tuner.board("right corner height")
    corner.get_by_label("Hub to arch now, right", exact=True).fill("346")
    tuner.press("Record height", corner)
    tuner.torque("Right lower arm, front bushing bolt", "88")
    rear = tuner.board("Right lower arm, rear bushing bolt")
    tuner.press("By feel…", rear)
    page.get_by_role("dialog").get_by_label("Reason, for the record").fill("no wrench reaches")
    tuner.press("Record by feel", page.get_by_role("dialog"))
    expect(rear.get_by_text("by feel", exact=True)).to_be_visible()
    tuner.done("Right corner: load it and clamp the arm")


def lower_and_check(tuner):
    tuner.move("On its wheels")
    tuner.done("Down on its wheels")
    for side in ("Left", "Right"):
        tuner.torque(f"{side} wheel nuts", "105")
    tuner.done("Wheel nuts, final")
    for side in ("Left", "Right"):
        tuner.torque(f"{side} bar link, upper nut", "48")
    tuner.done("Bar links, final")
    tuner.tab("Check")
    tuner.press("It is settled")
    for side in ("Left front", "Right front"):
        tuner.field(f"{side}, settled Ride height").click()
        tuner.type_readings("347", "348", "347")
    tuner.enter("Left front, settled Toe", "24'")
    tuner.enter("Right front, settled Toe", "6'")
    left = tuner.board("Left front")
    expect(left.get_by_text(re.compile(r"Turn the rod 2 flats shorter"))).to_be_visible()
    counter = tuner.board("Left tie-rod end, correct")
    for _ in range(2):
        tuner.press("− 1 flat shorter", counter)
    expect(left.get_by_text("No turn is wanted.")).to_be_visible()
    tuner.field("Left front, settled Toe").fill("")
    tuner.enter("Left front, settled Toe", "7'")
    expect(left.get_by_text("✓ 7.0 min")).to_be_visible()


def close_and_sign(tuner):
    page = tuner.page
    tuner.tab("Record")
    page.get_by_label("Your name").fill("A. Tester")
    page.get_by_role("button", name=re.compile("^Sign with")).click()
    expect(page.get_by_role("alert")).to_contain_text("jam nut is open")
    tuner.tab("Floor")
    tuner.done("Settle and measure again")
    for side in ("Left", "Right"):
        tuner.bring(f"{side} tie-rod jam nut", SNUG)
        tuner.torque(f"{side} tie-rod jam nut", "52")
    tuner.done("Close the jam nuts")
    tuner.done("Paint stripe and road test")
    tuner.press("Skip…")
    page.get_by_role("dialog").get_by_label("Reason, for the record").fill("customer books the rack")
    tuner.press("Skip this step", page.get_by_role("dialog"))
    expect(page.get_by_text("– skipped: customer books the rack")).to_be_visible()
    tuner.tab("Record")
    page.get_by_label("Your name").fill("A. Tester")
    page.get_by_role("button", name=re.compile("^Sign with")).click()
    expect(page.get_by_text("The log is as it was signed.")).to_be_visible()
    expect(page.get_by_text(re.compile("by feel: right lower arm, rear bushing bolt")).first).to_be_visible()


def fetch(server, path):
    with urllib.request.urlopen(f"{server.address}{path}", timeout=60) as answer:
        return answer.read()


def test_a_whole_job_with_the_server_killed_in_the_middle(tuner, server):
    page = tuner.page
    tuner.field("What is done").fill("Front springs and tie-rod ends")
    page.get_by_label("Kind of job").select_option("front_strut")
    tuner.field("Car").fill("Sample Wagon 2.0")
    tuner.press("Start the job")
    take_baseline(tuner)
    read_plan(tuner)
    strip_and_count(tuner)
    job_id = re.search(r"/job/([^/]+)/", page.url)[1]
    before = json.loads(fetch(server, f"/api/jobs/{job_id}/job.json"))["log"]

    server.kill()
    expect(page.get_by_text("Connection lost")).to_be_visible()
    tuner.press("+ 1 flat", tuner.board("Left tie-rod end, off"))
    expect(page.get_by_text("1 waiting")).to_be_visible()
    server.start()
    expect(tuner.board("Left tie-rod end, off").get_by_text("21 turns 3 flats")).to_be_visible()
    tuner.press("− 1 flat", tuner.board("Left tie-rod end, off"))
    tuner.saved()
    after = json.loads(fetch(server, f"/api/jobs/{job_id}/job.json"))["log"]
    assert after[: len(before)] == before
    assert [line["act"]["flats"] for line in after[len(before) :]] == [1, -1]

    page.reload()
    rods_on(tuner)
    assemble(tuner)
    clamp_arms(tuner)
    lower_and_check(tuner)
    close_and_sign(tuner)
    pdf = pypdf.PdfReader(io.BytesIO(fetch(server, f"/api/jobs/{job_id}/record.pdf")))
    text = " ".join(" ".join(page.extract_text() for page in pdf.pages).split())
    assert "Signed by A. Tester" in text
    assert "no wrench reaches" in text
