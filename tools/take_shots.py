"""Refresh docs/screenshots from a fresh sample workshop."""

import tempfile
from pathlib import Path

from bench import launched, serving
from chromium import open_chromium
from playwright.sync_api import Page, sync_playwright

SHOTS = Path(__file__).parent.parent / "docs" / "screenshots"
DESK, PHONE = (1280, 800), (390, 844)
GEOMETRY = ["Quenlow Vessik", "Geometry"]
VIEWS = [
    ("workshop", "", [], DESK),
    ("car", "cars", ["Brannock Rill", "Front axle", "pick Front axle: Upper arm"], DESK),
    ("geometry", "cars", [*GEOMETRY, "press Try the plan", "pick Turn it in space", "scroll 420"], DESK),
    ("day", "day", [], DESK),
    ("order", "", ["Front arms, bar and tie-rod ends", "Order", "scroll 10"], DESK),
    ("turns", "", ["Rear camber and toe links", "Turns"], DESK),
    ("springs", "", ["Coilovers with helper", "Springs"], DESK),
    ("rings", "", ["Coilovers with helper", "Springs", "part Rings", "scroll 150"], DESK),
    ("walk", "", ["Baseline before"], DESK),
    ("walk-phone", "", ["Baseline before", "scroll 250"], PHONE),
    ("baseline", "", ["Front springs 27 mm lower", "Baseline", "scroll 330"], DESK),
    ("bay", "practice", ["begin A bushing clamped in the air"], DESK),
    ("debrief", "practice", ["begin A level out of calibration", "read", "give up"], DESK),
    ("floor", "", ["Front springs 27 mm lower"], DESK),
    ("floor-phone", "", ["Front springs 27 mm lower"], PHONE),
    ("bolts", "", ["Coilovers with helper", "Bolts", "scroll 220"], DESK),
    ("check", "", ["Lowered all round, read again", "Check", "to Before and after"], DESK),
    ("history", "cars", ["Quenlow Vessik", "History"], DESK),
    ("record", "", ["Springs and tie-rod ends, front", "Record"], DESK),
]


def main() -> None:
    with (
        tempfile.TemporaryDirectory() as folder,
        launched(serving("demo", Path(folder) / "demo.sqlite")) as (_, port),
    ):
        _take(f"http://127.0.0.1:{port}")


def _take(address: str) -> None:
    with sync_playwright() as playwright:
        browser = open_chromium(playwright)
        for name, start, steps, (width, height) in VIEWS:
            page = browser.new_page(viewport={"width": width, "height": height}, reduced_motion="reduce")
            page.goto(f"{address}/{start}")
            page.get_by_role("heading", level=2).first.wait_for()
            for step in steps:
                _go(page, step)
            page.wait_for_load_state("networkidle")
            page.screenshot(path=SHOTS / f"{name}.png", animations="disabled")
            page.close()
        browser.close()


def _go(page: Page, step: str) -> None:
    verb, _, what = step.partition(" ")
    if verb == "scroll":
        page.mouse.wheel(0, int(what))
        page.wait_for_timeout(200)
    elif verb == "step":
        page.get_by_role("button", name=what).click()
        page.get_by_role("heading", level=2, name=what).wait_for()
    elif verb == "press":
        page.get_by_role("button", name=what).click()
        page.get_by_text("Chance of this wheel ending inside").first.wait_for()
    elif verb == "pick":
        page.get_by_role("button", name=what).first.press("Enter")
        page.wait_for_timeout(200)
    elif verb == "part":
        page.get_by_role("button", name=what, exact=True).click()
    elif verb == "to":
        region = page.get_by_role("region", name=what)
        region.wait_for()
        region.evaluate("(one) => window.scrollTo(0, one.getBoundingClientRect().top + window.scrollY - 150)")
        page.wait_for_timeout(400)
    elif verb == "begin":
        page.get_by_role("button", name=f"Begin: {what}").click()
        page.get_by_role("region", name="Practice").get_by_text("What it is about").click()
    elif verb == "read":
        page.get_by_role("button", name="Read with the bay").click()
        page.get_by_role("button", name="All is read").wait_for()
    elif verb == "give":
        page.get_by_role("link", name="Debrief").click()
        page.get_by_role("button", name="Give up and show the truth").click()
        page.get_by_role("region", name="Where each angle ended").wait_for()
        page.get_by_role("region", name="Practice").get_by_text("What it is about").click()
    else:
        page.get_by_role("link", name=step).first.click()
        page.get_by_role("navigation", name="Parts of the").wait_for()
        page.get_by_role("heading", level=2).first.wait_for()
        # What is drawn by samples follows the page.
        page.wait_for_timeout(1500)


if __name__ == "__main__":
    main()
