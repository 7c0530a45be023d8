"""From an empty workshop and a car with nothing but a name to a signed record, without an override, by whole jobs."""

import re

import pytest
from playwright.sync_api import Locator, expect
from worker import Worker

pytestmark = pytest.mark.screen
PHONE = {"width": 390, "height": 844}


def fits_the_width(page):
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


def test_a_tie_rod_end_by_counted_turns_in_at_most_sixty_touches(tuner):
    page = tuner.page
    page.set_viewport_size(PHONE)
    worker = Worker(tuner)
    worker.start("Sample Wagon", "Tie-rod end or rack boot: front", sides=[("Tie-rod end", "Right")])
    known = page.get_by_role("region", name="What will be known")
    expect(known).to_contain_text("until both ends and the thread are measured with a caliper (2 min)")
    known.get_by_text("Tell it here").first.click()
    for label, text in (("Thread pitch", "1.5"), ("Old end", "84"), ("New end", "87.5")):
        field = known.get_by_label(re.compile(f"^front left {label}[^:]*$")).first
        field.fill(text)
        field.press("Enter")
        tuner.saved()
    expect(known).to_contain_text("told when the old one is counted off")
    fits_the_width(page)
    worker.counts |= {"Turns on": "26 2/6"}
    worker.values = {"castle nut": "35", "Wheel nuts": "105", "jam nut": "52"}
    tuner.tab("Floor")
    worker.until("Turn the end on")
    expect(worker.card()).to_contain_text("Put on 26 turns 2 flats ±")
    expect(worker.card()).to_contain_text(
        "it is 3.5 mm longer. The 24 turns that came off would leave the rod 3.5 mm"
    )
    fits_the_width(page)
    worker.to_the_end()
    worker.sign()
    assert worker.touches <= 60
    view, record = tuner.job().view(), tuner.job().get("/record")
    assert view["overrides"] == []
    assert record["turns"][0]["planned"] == "on 26 turns 2 flats"
    assert record["turns"][0]["given"] == "off 24 turns, on 26 turns 2 flats"
    toe = next(one for one in record["beside"] if one["label"] == "Front left toe")
    assert (toe["before"][:3], toe["measured"][:3], toe["change"][:7]) == ("6.0", "6.0", "0.0 min")


def all_by_the_rules(tuner):
    """Every step done, nothing overridden, rubber clamped where the car stands; the joints."""
    view, joints = tuner.job().view(), tuner.job().get("/joints")["joints"]
    assert view["overrides"] == []
    assert {step["state"] for step in view["steps"]} == {"done"}
    rubber = [bolt for joint in joints if joint["waits_for_load"] for bolt in joint["bolts"]]
    assert all("settled on its wheels" in bolt["said"] for bolt in rubber)
    return joints


def by_key(found, **_):
    """Focus and press, in place of a click: what takes no focus cannot be reached so."""
    expect(found).to_be_enabled()
    found.evaluate("(one) => (one.closest('a, button, input, select, textarea, [tabindex]') ?? one).focus()")
    kind = found.page.evaluate("document.activeElement.type ?? ''")
    found.page.keyboard.press("Space" if kind in ("radio", "checkbox") else "Enter")


def pick_by_key(choice, words):
    choice.press("Enter")
    while choice.page.locator(".is-hovering").inner_text() != words:
        choice.press("ArrowDown")
    choice.press("Enter")


def test_a_brace_with_going_back_by_keyboard_alone(tuner, monkeypatch):
    monkeypatch.setattr(Locator, "click", by_key)
    monkeypatch.setattr("worker.pick", pick_by_key)
    page, worker, first = tuner.page, Worker(tuner), "Exhaust: clearance, hangers, engine mounts"
    worker.start("Sample Wagon", "Under-body braces: add", answers=[("Bolts of the brace", "10")])
    tuner.tab("Floor")
    worker.until("Snug crosswise")
    page.get_by_role("button", name=re.compile(first)).click()
    tuner.press("↶ Open this step again")
    expect(page.get_by_role("alertdialog")).to_contain_text("Open again: Braces up, all bolts by hand")
    tuner.press("Go back all the same")
    expect(page.get_by_role("article", name=first)).to_contain_text("✓ Done")
    tuner.press("↶ Undo")
    expect(page.get_by_role("article", name=first)).to_contain_text("✓ done")
    tuner.press("◐ Stop for the day")
    expect(page.get_by_role("list", name="Loose right now")).to_contain_text("Brace bolts, place 1, 2")
    expect(page.get_by_text("Not to be driven.")).to_be_visible()
    page.reload()
    worker.to_the_end()
    worker.sign()
    brace = next(joint for joint in all_by_the_rules(tuner) if joint["label"].startswith("Brace"))
    assert len(brace["bolts"]) == 10


BOTH_AXLES = (
    "Springs: front", "Springs: rear", "Dampers: rear", "Lower arm, one bushing and one ball joint: front",
    "Sway bar with adjustable links: front", "Sway bar with adjustable links: rear",
    "Tie-rod end or rack boot: front",
)  # fmt: skip
MOST_TOUCHES = 300


def test_springs_dampers_arms_bars_and_tie_rod_ends_of_both_axles_in_one_job(tuner):
    worker = Worker(tuner)
    worker.values = {"": "88"}
    worker.start("Sample Wagon", *BOTH_AXLES, ways=[("Loading for", "on its wheels or on ramps")])
    worker.to_the_end()
    worker.sign()
    assert worker.touches <= MOST_TOUCHES, "each value typed from its sheet"
    assert any("lower" in joint["key"] for joint in all_by_the_rules(tuner))
