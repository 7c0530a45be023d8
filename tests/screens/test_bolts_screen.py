"""Joints on the screen with the simulated wrench: collars, a bracket by feel, torque and angle in rubber, a slot."""

import re
import urllib.request

import pytest
from playwright.sync_api import expect
from worker import pick, shown

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]


NEAR_NM = 4.0  # the wrench errs by 0.4 N·m and scatters by 0.3


@pytest.fixture
def bolts(tuner):
    """The sample job on coilovers at its bolts, the simulated wrench paired."""
    page = tuner.page
    page.goto(f"{tuner.address}/gauges")
    wrench = page.get_by_role("region", name="Torque wrench 40–200", exact=True)
    wrench.get_by_role("button", name="Pair").click()
    expect(page.get_by_role("region", name="Gauge Torque wrench 40–200")).to_contain_text("steady")
    page.goto(tuner.address)
    page.get_by_role("link", name=re.compile("Coilovers with helper")).first.click()
    tuner.tab("Bolts")
    return tuner


def joint(tuner, name):
    button = tuner.page.get_by_role("group", name=re.compile("^Joints, ")).get_by_role(
        "button", name=re.compile(f"^✓? ?{name}")
    )
    button.click()
    expect(button).to_have_attribute("aria-pressed", "true")


def works(tuner):
    return tuner.page.get_by_role("region", name="Work on it")


def press(tuner, what, says):
    """Press, once the panel says what comes next, and see that it went on."""
    panel = works(tuner)
    expect(panel.get_by_role("heading", level=3)).to_have_text(says)
    panel.get_by_role("button", name=what, exact=True).click()
    expect(panel.get_by_role("heading", level=3)).not_to_have_text(says)


def pull(tuner, says, near):
    """Take the simulated wrench's reading once it rests at what is to be set."""
    panel = works(tuner)
    expect(panel.get_by_role("heading", level=3)).to_have_text(says)
    gauge = panel.get_by_role("region", name=re.compile("^Gauge"))
    expect(gauge).to_contain_text("steady")
    field = panel.get_by_label("Torque reading", exact=True)
    for _ in range(20):
        gauge.get_by_role("button", name="Take it").click()
        if abs(float(field.input_value() or 0) - near) < NEAR_NM:
            break
        tuner.page.wait_for_timeout(250)
    press(tuner, "Torqued", says)


BY_HAND = (("Started by hand", "start it by hand"), ("Snug", "make it snug"))


def stages(tuner, name):
    joints = tuner.job().get("/joints")["joints"]
    return next(one for one in joints if one["label"].startswith(name))["bolts"]


def test_twelve_collars_by_hand_then_in_two_passes_with_the_wrench(bolts):
    joint(bolts, "Rear subframe")
    order = [1, 7, 4, 10, 2, 8, 5, 11, 3, 9, 6, 12]
    for words, order_said in BY_HAND:
        for number in order[:2]:
            press(bolts, words, f"Place {number}: {order_said}")
        together = "All 10 by hand" if words == "Started by hand" else "All 10 snug"
        press(bolts, together, f"Place {order[2]}: {order_said}")
    for percent, tail in ((40, ", pass of 40 %"), (100, "")):
        for number in order:
            final = 52 if number in (3, 4, 9, 10) else 118
            pull(bolts, f"Place {number}: torque it{tail}", final * percent / 100)
    expect(works(bolts).get_by_role("heading", level=3)).to_have_text("✓ every place is final")
    done = stages(bolts, "Rear subframe")
    assert all(one["final"] for one in done)
    assert float(re.fullmatch(r"torqued, ([\d.]+) N·m", done[0]["said"])[1]) == pytest.approx(118, abs=NEAR_NM)
    expect(bolts.page.get_by_role("region", name="After the drive")).to_contain_text("Rear subframe")
    with urllib.request.urlopen(
        bolts.page.get_by_role("link", name="Into the calendar").evaluate("a => a.href")
    ) as file:
        assert b"BEGIN:VEVENT" in file.read()


def test_two_torques_an_adapter_and_one_place_by_feel(bolts):
    joint(bolts, "Front bar bracket")
    for words, order_said in BY_HAND:
        for number in (2, 3, 1):
            press(bolts, words, f"Place {number}: {order_said}")
    panel = works(bolts)
    expect(panel).to_contain_text("set the wrench to 23.7 N·m")
    panel.get_by_text("No wrench fits, or an adapter is on it").click()
    bolts.field("Wrench length").fill("400")
    bolts.field("Adapter length").fill("100")
    expect(panel).to_contain_text("set the wrench to 19.0 N·m with the adapter")
    bolts.field("Torque reading").fill("19")
    press(bolts, "Torqued", "Place 2: torque it")
    expect(bolts.page.get_by_role("region", name="Every place")).to_contain_text("24 N·m at the bolt (19 N·m read)")
    bolts.field("Wrench length").fill("")
    expect(bolts.field("By feel, because")).to_have_value("the rack is in the way")
    press(bolts, "Torqued by feel: estimated for ever", "Place 3: torque it")
    bolts.field("Torque reading").fill("380")
    panel.get_by_role("button", name="Torqued", exact=True).click()
    expect(panel.get_by_role("alert")).to_contain_text("far past the 40 N·m")
    bolts.field("Torque reading").fill("38")
    press(bolts, "Torqued", "Place 1: torque it")
    bolts.tab("Record")
    expect(
        bolts.page.get_by_text(re.compile("Torque estimated by feel: Front bar bracket, right, place 3"))
    ).to_be_visible()


def test_rubber_with_torque_and_angle_is_refused_off_its_height_and_a_castle_nut_goes_forward(bolts):
    page, panel = bolts.page, works(bolts)
    joint(bolts, "Front left lower arm")
    bolts.move("Hanging on stands")
    for words, order_said in BY_HAND:
        for number in (2, 1):
            press(bolts, words, f"Place {number}: {order_said}")
    expect(panel).to_contain_text("The front left corner is hanging. Load it first")
    expect(panel.get_by_role("button", name="Torqued", exact=True)).to_be_disabled()
    bolts.move("Front left carried")
    height = bolts.field("Front left lower arm, pivots: hub to arch now")
    height.fill("392")
    height.press("Enter")
    expect(panel).to_contain_text("392.0 mm is outside the clamp window. The wheel has to go up")
    height.fill("349")
    height.press("Enter")
    expect(panel).to_contain_text("✓ 349.0 mm is inside the clamp window")
    for number in (2, 1):
        pull(bolts, f"Place {number}: torque it", 70)
    for number in (2, 1):
        press(bolts, "Turned on by its angle", f"Place {number}: turn it on by its angle")
    expect(panel.get_by_role("heading", level=3)).to_have_text("✓ every place is final")
    page.get_by_role("button", name=re.compile("^Place 1:")).click()
    panel.get_by_role("button", name="Paint mark on it").click()
    expect(page.get_by_role("region", name="Every place")).to_contain_text("marked")
    joint(bolts, "Front left upper ball joint")
    press(bolts, "Started by hand", "Place 1: start it by hand")
    press(bolts, "Snug", "Place 1: make it snug")
    bolts.field("Torque reading").fill("80")
    press(bolts, "Torqued", "Place 1: torque it")
    bolts.field("Degrees turned on").fill("-10")
    panel.get_by_role("button", name="Locked").click()
    expect(panel.get_by_role("alert")).to_contain_text("A castle nut only goes forward to its slot")
    bolts.field("Degrees turned on").fill("14")
    press(bolts, "Locked", "Place 1: lock it")
    assert stages(bolts, "Front left upper")[0]["final"]


def test_a_joint_is_drawn_by_rows_and_on_the_grid(bolts):
    page = bolts.page
    bolts.press("+ Draw a joint")
    form = page.get_by_role("form", name="New joint")
    form.get_by_label("Holds").fill("Rear brace")
    pick(form.get_by_role("combobox", name="Pattern"), "by coordinates")
    form.get_by_label("Places").fill("-80; 40; M10 x 1.25; 38; by hand only\n80; 40")
    form.get_by_role("img", name=re.compile("Grid")).click(position={"x": 100, "y": 150})
    expect(form.get_by_label("Places")).to_have_value(re.compile(r"-80; 40.*\n80; 40\n-?\d+; -?\d+", re.S))
    form.get_by_label("Thread", exact=False).first.fill("12 x 1.25")
    pick(form.get_by_role("combobox", name="Class"), "10.9")
    form.get_by_label("Torque", exact=True).fill("120")
    form.get_by_label("Torque: unit").select_option("lb_ft")
    bolts.press("Draw it")
    expect(form.get_by_role("alert")).to_contain_text("Say where the value comes from")
    form.get_by_label("Source").fill("sheet 12")
    bolts.press("Draw it")
    expect(page.get_by_role("group", name="Map of Rear brace").get_by_role("button")).to_have_count(3)
    page.get_by_role("button", name=re.compile("^Place 2:")).click()
    expect(works(bolts)).to_contain_text("Was 120 N·m meant?")
    change = page.get_by_role("form", name="Change places")
    change.get_by_label("Torque of the place", exact=True).fill("88")
    change.get_by_label("Torque of the place: unit").select_option("nm")
    change.get_by_label("Which way round").fill("head rearward")
    bolts.press("Save the change")
    every = page.get_by_role("region", name="Every place")
    expect(every).to_contain_text("head rearward")
    expect(every).to_contain_text("88 N·m")
    bolts.press("Keep its map in the car's record")
    expect(page.get_by_text("✓ The next job on this car begins with it.")).to_be_visible()


def test_a_pasted_torque_list_is_matched_asked_about_and_taken(tuner):
    page = tuner.page
    page.get_by_role("link", name="Front springs, tie-rod ends").first.click()
    expect(page.get_by_role("navigation", name="Parts of the")).to_be_visible()
    tuner.tab("Bolts")
    tuner.press("Paste a torque list")
    page.get_by_label("The list", exact=True).fill("Lower arm bolt at the subframe 88 Nm\nDrain plug 30 Nm")
    page.get_by_label("Where the list stands").fill("sheet 12")
    tuner.press("Read it")
    expect(shown(page.get_by_role("combobox", name="Place of line 1"))).to_contain_text(
        "Lower arm bolt at the subframe"
    )
    expect(page.get_by_role("list", name="Rows of the list")).to_contain_text("No place of this job fits it")
    tuner.press("Take 1 of 2 rows")
    page.get_by_role("button", name="Lower arm bolt at the subframe, front right").click()
    expect(page.get_by_role("region", name="Every place")).to_contain_text("88 N·m")
