"""A four-wheel job: from points in a CSV file to turns on the floor and the check afterwards."""

import re

import pytest
from playwright.sync_api import expect
from worker import Worker, file_of

from writer import Writer, chosen, typed

pytestmark = pytest.mark.screen

LEFT = {
    "front": {
        "upper_front": (120, 396, 176), "upper_rear": (-154, 397, 183), "upper_ball": (-30, 647, 223),
        "lower_front": (167, 338, -125), "lower_rear": (-224, 355, -139), "lower_ball": (16, 735, -125),
        "tie_inner": (-114, 349, -103), "tie_outer": (-120, 706, -105), "wheel_center": (-2, 760, 0),
    },
    "rear": {
        "upper_front_inner": (-2577, 431, 111), "upper_front_outer": (-2650, 660, 138),
        "upper_rear_inner": (-2799, 421, 129), "upper_rear_outer": (-2725, 656, 138),
        "lower_front_inner": (-2570, 332, -95), "lower_front_outer": (-2643, 695, -111),
        "lower_rear_inner": (-2811, 295, -87), "lower_rear_outer": (-2742, 701, -107),
        "tie_inner": (-2879, 339, -65), "tie_outer": (-2853, 695, -76), "wheel_center": (-2675, 750, 0),
    },
}  # fmt: skip


def table():
    rows = [
        f"{axle},{side},{name},{x},{y if side == 'left' else -y},{z}"
        for axle, points in LEFT.items()
        for side in ("left", "right")
        for name, (x, y, z) in points.items()
    ]
    return "\n".join(["axle,side,point,x_mm,y_mm,z_mm", *rows])


@pytest.fixture
def car(server):
    """A car with an adjustable upper arm and tie rods in front, toe and camber links behind; lower, and wanted so."""
    body = {
        "id": "align-car-01",
        "car": "Sample Coupe 3.2",
        "front_layout": "double_wishbone",
        "rear_layout": "five_link",
    }
    server.client.post("/api/cars", json=body)
    acts = [typed("car.steering_ratio", "15", "ratio")]
    for side in ("left", "right"):
        acts += [chosen(f"front.{side}.{arm}.adjust", "one_thread") for arm in ("upper", "tie")]
        acts += [chosen(f"rear.{side}.{arm}.adjust", "one_thread") for arm in ("upper_front", "tie")]
        acts += [
            typed(f"front.{side}.target.camber", "-1.2", "deg"),
            typed(f"rear.{side}.target.camber", "-1.4", "deg"),
        ]
    acts += [typed(f"{axle}.height_change", "-20", "mm") for axle in ("front", "rear")]
    for act in acts:
        Writer(server.client, "/api/cars/align-car-01").write(**act)
    return body


def corner(tuner, name):
    return tuner.page.get_by_role("region", name=name, exact=True)


def turn_until_there(tuner, wheel):
    """Tap as a tuner would, by the number still wanted."""
    for count in corner(tuner, wheel).get_by_role("group").all():
        for _ in range(80):
            left = count.get_by_role("status").inner_text()
            if "there" in left:
                break
            count.get_by_role("button").nth(1 if "longer" in left else 0).click()
            expect(count.get_by_role("status")).not_to_have_text(left)
        expect(count.get_by_role("status")).to_have_text("✓ there")


def walk_round(tuner):
    page = tuner.page
    tuner.press("It is settled")
    page.get_by_role("button", name="Straight").click()
    for where, camber in (
        ("Front left", "-0.8"),
        ("Front right", "-0.8"),
        ("Rear right", "-1.2"),
        ("Rear left", "-1.2"),
    ):
        heading = page.get_by_role("heading", level=3).first
        for what, text in (("Ride height", "360\n"), ("Toe", "6'\n"), ("Camber", f"{camber}\n")):
            expect(heading).to_have_text(re.compile(rf"^\s*{where}\s+{what}"))
            page.locator("input:focus").wait_for()
            page.keyboard.type(text)
            if what == "Ride height":
                expect(page.get_by_text("reading 2 of 3")).to_be_visible()
                page.keyboard.press("Enter")
        if where.startswith("Front"):
            expect(heading).to_have_text(re.compile(rf"^\s*{where}\s+Caster"))
            page.get_by_label(f"{where} Caster: how it is measured").select_option("angle")
            tuner.enter(f"{where} Caster", "7")
    expect(page.get_by_text("Everything asked before the work is read")).to_be_visible()


def bring_points_in(tuner, car, tmp_path, server):
    page = tuner.page
    page.goto(f"{server.address}/car/{car['id']}/geometry")
    expect(page.get_by_text("Nobody measured this wheel").first).to_be_visible()
    wrong = table().replace("upper_rear,-154,397,183", "upper_rear,-154,797,183")
    for text, name in ((wrong, "wrong.csv"), (table(), "points.csv")):
        tuner.tab("Points")
        (tmp_path / name).write_text(text)
        file_of(page, "points: in from CSV").set_input_files(tmp_path / name)
        expect(page.get_by_text(f"Taken from {name}")).to_be_visible()
        tuner.tab("Geometry")
        if name == "wrong.csv":
            page.get_by_text("2 Front axle").click()
            expect(corner(tuner, "Front left")).to_contain_text("Link 'upper_rear' points inward")
    rear = corner(tuner, "Rear left")
    expect(rear.get_by_role("img", name="Rear left corner, from above")).to_be_visible()
    expect(rear).to_contain_text("Neither toe nor camber of this wheel was read")
    camber = rear.get_by_role("figure").filter(has_text="Camber")
    before = camber.inner_text()
    page.get_by_role("slider", name="Body height change, rear axle").press("Home")
    expect(camber).not_to_have_text(before)
    camber.press("End")
    expect(camber.get_by_role("status")).to_contain_text(re.compile("^80: today −.*, as tried"))
    tuner.press("Turn it in space", rear)
    rear.get_by_role("img", name=re.compile("Rear left corner in space, wheel")).press("ArrowLeft")
    rear.get_by_role("slider", name="Wheel travel").press("End")
    expect(rear).to_contain_text("wheel +60 mm")
    tuner.press("Plain views", rear)
    expect(rear.get_by_role("img", name="Rear left corner, from above")).to_be_visible()


def turn_to_the_plan(tuner):
    worker = Worker(tuner)
    tuner.tab("Floor")
    worker.until("Turn to the plan")
    tuner.tab("Turns")
    for wheel in ("Rear left", "Rear right", "Front left", "Front right"):
        turn_until_there(tuner, wheel)
    straight = re.compile("Steering wheel\\s*[−-]?0[.]\\d")
    expect(tuner.page.get_by_role("listitem").filter(has_text=straight).first).to_be_visible()
    tuner.tab("Floor")
    worker.until("Measure again beside the plan")
    return worker


def check_and_correct(tuner):
    page = tuner.page
    tuner.tab("Check")
    for axle, camber in (("Rear", "-1.4"), ("Front", "-1.2")):
        for side in ("left", "right"):
            name = f"{side} {axle} axle, settled"
            tuner.field(f"{name} Ride height").click()
            page.keyboard.type("340\n")
            page.keyboard.press("Enter")
            tuner.enter(f"{name} Toe", "30'" if name.startswith("left Rear") else "6'")
            tuner.enter(f"{name} Camber", camber)
    rear = corner(tuner, "Rear left")
    expect(rear).to_contain_text("toe read at 0.50°")
    expect(rear.get_by_role("group", name="Toe link").get_by_role("status")).to_contain_text("flat")
    turn_until_there(tuner, "Rear left")
    tuner.field("left Rear axle, settled Toe").fill("")
    tuner.enter("left Rear axle, settled Toe", "6'")
    expect(rear).to_contain_text("✓ toe read at 0.10°")


def test_points_in_turns_out_and_corrected_after_the_check(tuner, car, tmp_path, server):
    page = tuner.page
    bring_points_in(tuner, car, tmp_path, server)
    tuner.tab("The car")
    tuner.field("What it is called, if you like").fill("Upper arms, toe arms, tie rods")
    tuner.press("Start the job")
    for axle in ("front", "rear"):
        tuner.press(f"Toe, camber and caster by adjusters: {axle}")
    tuner.press("Take this plan")
    expect(page.get_by_text("This is the job's plan.")).to_be_visible()
    page.goto(page.url.replace("/order", "/walk"))
    walk_round(tuner)
    worker = turn_to_the_plan(tuner)
    check_and_correct(tuner)
    worker.to_the_end()
    worker.sign()
    expect(page.get_by_text("The log is as it was signed.")).to_be_visible()
