"""Springs on the screen: coilovers with helpers, a strut-top spacer, leaf and shackle, rings corrected by scales."""

import re

import pytest
from playwright.sync_api import expect

from writer import IDS, Writer, chosen, fitted, typed

pytestmark = pytest.mark.screen
KGF = {"front_left": "352", "front_right": "348", "rear_left": "262", "rear_right": "258"}


def scales(key, loads):
    return {"kind": "entered", "key": key, "method": "four_scales",
            "typed": {name: {"text": text, "unit": "kgf"} for name, text in loads.items()}}  # fmt: skip


@pytest.fixture
def start(server, tuner):
    """A job on springs: a car of these layouts and numbers, its heights read, the Springs page open."""

    def begin(front, rear, *more, heights=("362", "360", "371", "370")):
        car, job = next(IDS), next(IDS)
        body = {"id": car, "car": "Sample Estate 2.0", "front_layout": front, "rear_layout": rear}
        server.client.post("/api/cars", json=body)
        tuner.car, tuner.own = Writer(server.client, f"/api/cars/{car}"), Writer(server.client, f"/api/jobs/{job}")
        told = [scales("car.loads", KGF), typed("car.wheelbase", "2640")]
        for axle, ratio, rate, free in (("front", "0.95", "27", "390"), ("rear", "0.8", "34", "330")):
            told += [
                typed(f"{axle}.track", "1500"), typed(f"{axle}.unsprung", "42", "kgf"),
                typed(f"{axle}.motion_ratio", ratio, "spring_per_wheel"),
                typed(f"{axle}.spring.rate", rate, "n_per_mm"), typed(f"{axle}.spring.free", free),
            ]  # fmt: skip
        for act in (*told, *more):
            tuner.car.write(**act)
        server.client.post("/api/jobs", json={"id": job, "title": "Springs", "car": "-", "car_id": car})
        tuner.own.plan(fitted("springs", "front", "rear"))
        corners = ("front.left", "front.right", "rear.left", "rear.right")
        for key, height in zip(corners, heights, strict=True):
            enter_height(f"{key}.height", height)
        tuner.page.goto(f"{tuner.address}/job/{job}/springs")
        expect(tuner.page.get_by_role("heading", level=2, name="Springs")).to_be_visible()
        return tuner

    def enter_height(key, height):
        tuner.own.write(**typed(key, height, method="hub_to_arch", part="height"))

    tuner.enter_height = enter_height
    return begin


def wheel(tuner, name):
    return tuner.page.get_by_role("region", name=name, exact=True)


def fill(tuner, name, text):
    field = tuner.field(name)
    field.fill(text)
    field.press("Enter")
    tuner.saved()


def part(tuner, name):
    button = tuner.page.get_by_role("button", name=name, exact=True)
    button.click()
    expect(button).to_have_attribute("aria-pressed", "true")


def change(tuner, name):
    """Height change as shown at a wheel."""
    text = wheel(tuner, name).get_by_role("status").inner_text()
    return float(re.match(r"([+−]?[\d.]+) mm", text)[1].replace("−", "-"))


def test_coilovers_with_helper_springs_from_the_bench_to_what_the_heights_taught(start):
    ring = [
        chosen("front.spring.kind", "coilover"), typed("front.spring.perch_pitch", "2", "pitch_mm"),
        *(typed(f"front.perch.{n}", v) for n, v in (("upper", "50"), ("lowest", "120"), ("thread", "110"))),
    ]  # fmt: skip
    tuner = start("strut", "twist_beam", *ring)
    page = tuner.page
    expect(page.get_by_role("region", name="What would tell more")).to_contain_text("Not known yet: front springs")
    group = "Front New springs and dampers"
    page.get_by_role("group", name=f"{group} Springs that go in").get_by_text("Main spring and helper").click()
    for name, text in (
        ("New spring rate", "343 lb/in"), ("New free length", "7 in"), ("Helper rate", "3"),
        ("Helper free length", "60"), ("Helper, coils touching", "14"), ("Ring between them", "4"),
    ):  # fmt: skip
        fill(tuner, f"{group} {name}", text)
    for side in ("left", "right"):
        fill(tuner, f"Front {side} Seats and perches Spring seat higher by", "80")
        fill(tuner, f"Front {side} Heights wanted Height wanted", "335")
    expect(wheel(tuner, "Front left")).to_contain_text("wanted 335.0")
    expect(wheel(tuner, "Front left").get_by_role("status")).to_contain_text("±")
    expect(page.get_by_role("region", name="What matters most")).to_contain_text("% of it.")
    predicted = {name: change(tuner, name) for name in ("Front left", "Front right")}
    expect(page.get_by_role("region", name="Rear left", exact=True)).to_have_count(0)
    page.get_by_role("slider", name="Front left: ring turns to try").press("End")
    expect(wheel(tuner, "Front left").get_by_role("status")).to_contain_text("as tried")
    assert change(tuner, "Front left") > predicted["Front left"]
    tuner.press("As planned")
    part(tuner, "Rings")
    expect(page.get_by_role("region", name="Rings before assembly")).to_contain_text(
        "Not known yet: front left damper, eye to eye"
    )
    corner = {"Front left": 362, "Front right": 360, "Rear left": 371, "Rear right": 370}
    for name, before in corner.items():
        key = name.lower().replace(" ", ".")
        tuner.enter_height(f"{key}.check_height", f"{before + predicted.get(name, 6) - 6:.1f}")
    tuner.tab("Check")
    learned = page.get_by_role("region", name="Learned")
    expect(learned).to_contain_text("By the readings")
    tuner.press("Take what is ticked into the car's record")
    expect(learned).to_contain_text("✓ in the record")
    record = tuner.car.view()["entries"]
    assert record["front.spring.free"]["said"] == "7 in", "the new springs are the car's own from now on"
    assert "±" in record["front.spring.rate"]["understood"]
