"""A car's record at the screen: any layout, one side copied to the other, parts, tables in and out."""

import re

import pytest
from playwright.sync_api import expect
from worker import file_of, pick

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]


def read_from_the_chalk_lines(tuner):
    page = tuner.page
    ball = "right Front axle Upper ball joint"
    tuner.field(f"{ball}: how it is measured").select_option("from_centre")
    for name, text in (("ahead of the line across", "-12.5"), ("plumb mark to the car's centre line", "668")):
        tuner.field(f"{ball}, {name}").fill(text)
    tuner.enter(f"{ball}, above the floor", "330")
    expect(page.get_by_text("✓ x −12.5, y −668.0, z 330.0 mm")).to_be_visible()
    expect(page.get_by_role("img", name="Front right corner, from behind")).to_be_visible()


def test_a_new_car_from_its_axles_to_its_points_in_a_table(tuner, tmp_path):
    page = tuner.page
    page.get_by_role("link", name="Cars").click()
    expect(page.get_by_role("heading", name="New car")).to_be_visible()
    tuner.field("Car").fill("Sample Hauler 4.0")
    tuner.press("Add the car")
    axles = page.get_by_role("region", name="Axles")
    axles.get_by_role("group", name="Front Layout").get_by_label("Double wishbone").check()
    axles.get_by_role("group", name="Rear Layout").get_by_label("Solid axle on leaf springs").check()
    expect(page.get_by_text("Double wishbone front, solid axle on leaf springs rear")).to_be_visible()
    page.get_by_label("The car Wheel loads: how it is measured").select_option("two_axles")
    tuner.enter("The car Wheel loads, front axle", "1050")
    tuner.enter("The car Wheel loads, rear axle", "2000 lb")
    loads = page.get_by_role("region", name="Wheel loads", exact=True)
    expect(loads).to_contain_text("≈ 5148 N")
    expect(loads).to_contain_text("Front 53.6 %")

    tuner.tab("Front axle")
    tuner.enter("Front left Upper arm Length", "9 3/4 in")
    tuner.enter("Front left Upper arm Rise", "22")
    page.get_by_role("group", name="Front left Upper arm Adjusted by").get_by_role("combobox").select_option("sleeve")
    expect(page.get_by_label("Front left Upper arm Thread pitch, other end", exact=True)).to_be_visible()
    tuner.press("Copy left to right")
    expect(tuner.field("Front right Upper arm Length")).to_have_value("9 3/4 in")
    expect(page.get_by_text("3 entries from the left side")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(tuner.field("Front right Upper arm Length")).to_have_value("")

    arm = page.get_by_role("region", name="Front Upper arm")
    arm.get_by_role("button", name="Shelf…").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Save it under a name").fill("Long upper arm")
    tuner.press("Put on the shelf", dialog)
    expect(dialog.get_by_text("“Long upper arm” is on the shelf.")).to_be_visible()
    pick(dialog.get_by_role("combobox", name="Which one"), re.compile("front right upper", re.I))
    dialog.locator(".part", has_text="Long upper arm").get_by_role("button", name="Fit").click()
    expect(dialog.get_by_text("is fitted at front right upper")).to_be_visible()
    page.keyboard.press("Escape")
    expect(tuner.field("Front right Upper arm Rise")).to_have_value("22")

    tuner.tab("Points")
    table = "axle;side;point;x_mm;y_mm;z_mm\nfront;left;upper_ball;-12,5;668;330\nfront;left;wheel_center;0;752;0\n"
    (tmp_path / "points.csv").write_text(table, encoding="utf-8-sig")
    file_of(page, "points: in from CSV").set_input_files(tmp_path / "points.csv")
    expect(page.get_by_text("Taken from points.csv")).to_be_visible()
    expect(page.get_by_text("✓ x −12.5, y 668.0, z 330.0 mm")).to_be_visible()
    (tmp_path / "bad.csv").write_text(table.replace("upper_ball", "upper_bell"))
    file_of(page, "points: in from CSV").set_input_files(tmp_path / "bad.csv")
    expect(page.get_by_role("alert")).to_contain_text("Line 2: this car has no point 'upper_bell'")
    read_from_the_chalk_lines(tuner)
    with page.expect_download() as download:
        page.get_by_role("link", name="Out as CSV").click()
    assert 'front,left,upper_ball,"-12,5",668,330' in download.value.path().read_text()


def test_fasteners_are_listed_doubted_and_struck_off(tuner):
    page = tuner.page
    page.goto(f"{tuner.address}/cars")
    page.get_by_role("link", name="Orrowby Halm").click()
    tuner.tab("Fasteners")
    tuner.field("Holds").fill("Arm to subframe")
    tuner.field("Thread").fill("12 x 1.25")
    pick(page.get_by_role("combobox", name="Class", exact=True), "10.9")
    page.get_by_label("Torque", exact=True).fill("120")
    page.get_by_label("Torque: unit").select_option("lb_ft")
    tuner.press("Put on the list")
    expect(page.get_by_role("alert")).to_contain_text("The source of the torque")
    tuner.field("Source").fill("Sheet 4, invented")
    tuner.press("Put on the list")
    row = page.get_by_role("row", name="Arm to subframe")
    expect(row).to_contain_text("Was 120 N·m meant?")
    row.get_by_role("button", name="Change").click()
    page.get_by_label("Torque: unit").select_option("nm")
    tuner.press("Save the change")
    expect(row).to_contain_text("M12 × 1.25, 10.9, 120 N·m")
    expect(row).not_to_contain_text("meant?")
    expect(page.locator("datalist option[value='Sheet 4, invented']")).to_have_count(1)
    row.get_by_role("button", name="Strike").click()
    expect(page.get_by_text("Nothing listed yet")).to_be_visible()
    page.goto(f"{tuner.address}/car/of/an/older/version")
    page.get_by_role("link", name="To the workshop's board").click()
    expect(page.get_by_role("heading", name="In work")).to_be_visible()


def test_readings_come_in_from_a_file_with_a_preview(tuner, tmp_path):
    page = tuner.page
    page.get_by_role("link", name="Tarvane Ossel").last.click()
    tuner.tab("Baseline")
    rows = ['front.left.camber,,,-0.55,deg,"Level, bay 1"', 'front.left.camber,,,-0.60,deg,"Level, bay 1"']
    good = "\n".join(["reading,method,part,value,unit,gauge", *rows, "front.right.height,,,368,mm,"])
    (tmp_path / "bad.csv").write_text(f"{good}\nfront.right.toe,,,40,deg,\n")
    file_of(page, "Readings from a CSV file").set_input_files(tmp_path / "bad.csv")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Line 5: Toe must lie between -10 and 10 °; got 40 °")
    expect(dialog.get_by_role("button", name="Take all")).to_be_disabled()
    tuner.press("Leave it", dialog)
    (tmp_path / "good.csv").write_text(good)
    file_of(page, "Readings from a CSV file").set_input_files(tmp_path / "good.csv")
    expect(dialog).to_contain_text("−0.57° ± 0.10, 2 readings, spread 0.05°")
    tuner.press("Take all 2", dialog)
    expect(page.get_by_text("Last: 2 entries from a file of readings")).to_be_visible()
    camber = page.locator(".field", has=page.get_by_label("Front left Camber", exact=True))
    expect(camber).to_contain_text("with Level, bay 1")
