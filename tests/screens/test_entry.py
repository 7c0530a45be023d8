"""Entry at the real form, two devices, and what a phone and a screen reader get."""

import json
import re

import pytest
from axe_playwright_python.base import AXE_SCRIPT
from playwright.sync_api import expect
from worker import file_of, pick

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]


def open_job(tuner, car):
    tuner.page.get_by_role("link", name=car).last.click()
    expect(tuner.page.get_by_label("Position of the car")).to_be_visible()


def test_bad_input_is_told_at_its_field_and_kept(tuner):
    open_job(tuner, "Tarvane Ossel")
    tuner.tab("Baseline")
    for text, words in (
        ("abc", "'abc' is not a number"),
        ("NaN", "'NaN' is not a number"),
        ("40", "must lie between -10 and 10 °; got 40 °"),
    ):
        tuner.field("Front right Toe").fill("")
        tuner.enter("Front right Toe", text)
        expect(tuner.page.get_by_role("alert")).to_contain_text(words)
        expect(tuner.field("Front right Toe")).to_have_value(text)
    tuner.tab("Order").tab("Baseline")
    expect(tuner.field("Front right Toe")).to_have_value("40")
    tuner.field("Front right Toe").fill("")
    tuner.page.keyboard.press("Enter")
    expect(tuner.page.get_by_role("alert")).to_contain_text("empty")


def test_a_job_file_comes_in_with_a_preview_and_a_broken_one_does_not(tuner, tmp_path):
    page = tuner.page
    job_id = page.get_by_role("link", name="Orrowby Halm").get_attribute("href").split("/")[2]
    content = page.request.get(f"{tuner.address}/api/jobs/{job_id}/job.json").text()
    copy = json.loads(content)
    copy["job"] |= {"id": "copied-job-01", "car": "Copied Car"}
    (tmp_path / "good.json").write_text(json.dumps(copy))
    (tmp_path / "cut.json").write_text(content[:9000])
    file_of(page, "Job file (JSON or ZIP)").set_input_files(tmp_path / "cut.json")
    expect(page.get_by_role("alert")).to_contain_text("no whole JSON document: line")
    file_of(page, "Job file (JSON or ZIP)").set_input_files(tmp_path / "good.json")
    expect(page.get_by_text("The job would be added.")).to_be_visible()
    tuner.press("Add this job")
    expect(page.get_by_role("link", name="Copied Car")).to_be_visible()


def test_views_fit_a_phone_and_pass_axe_in_the_light_and_in_the_dark(tuner):
    page = tuner.page
    page.set_viewport_size({"width": 390, "height": 844})
    found = {"workshop": _faults(page)}
    open_job(tuner, "Orrowby Halm")
    for tab in ("Order", "Baseline", "Springs", "Turns", "Floor", "Check", "Record"):
        tuner.tab(tab)
        expect(page.get_by_role("heading", level=2).first).to_be_visible()
        found[tab] = _faults(page)
    paths = (("day", "The day"), ("practice", "Practice bay"), ("gauges", "Gauges"), ("ways", "Procedures"))
    for path, words in (*paths, ("cars", "Cars")):
        page.goto(f"{tuner.address}/{path}")
        expect(page.get_by_role("heading", level=2, name=words)).to_be_visible()
        found[path] = _faults(page)
    page.get_by_role("link", name="Brannock Rill").click()
    for tab in ("The car", "Front axle", "Points", "Fasteners", "History"):
        tuner.tab(tab)
        expect(page.get_by_role("heading", level=2).first).to_be_visible()
        found[tab] = _faults(page)
    page.goto(tuner.address)
    page.get_by_role("link", name="Baseline before").click()
    expect(page.get_by_role("heading", level=2, name="Walk round the car")).to_be_visible()
    found["walk"] = _faults(page)
    page.goto(tuner.address)
    page.get_by_role("link", name="Coilovers with helper").click()
    tuner.tab("Springs")
    for part in ("Heights", "Rings", "Travel", "Bars"):
        tuner.press(part)
        found[part] = _faults(page)
    for tab in ("Turns", "Bolts", "Check", "Record"):
        tuner.tab(tab)
        expect(page.get_by_role("heading", level=2).first).to_be_visible()
        found[f"{tab}, springs"] = _faults(page)
    page.goto(tuner.address)
    page.get_by_role("link", name="Front arms, bar and tie-rod ends").click()
    for tab in ("Floor", "Order"):
        tuner.tab(tab)
        expect(page.get_by_role("heading", level=2).first).to_be_visible()
        page.wait_for_load_state("networkidle")
        found[f"{tab}, planned"] = _faults(page)
    page.goto(tuner.address)
    page.get_by_role("link", name="Coilovers with helper").click()
    tuner.tab("Bolts")
    page.get_by_role("button", name=re.compile("^Place 1:")).click()
    expect(page.get_by_role("form", name="Change places")).to_be_visible()
    found["place"] = _faults(page)
    tuner.press("+ Draw a joint")
    pick(page.get_by_role("combobox", name="Pattern"), "by coordinates")
    found["draw"] = _faults(page)
    assert not any(found.values()), found


def test_the_parts_of_a_long_page_are_one_tap_away(tuner):
    page = tuner.page
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_role("link", name="Coilovers with helper").click()
    tuner.tab("Springs")
    tuner.press("On this page")
    parts = page.get_by_role("dialog", name="On this page")
    expect(parts.get_by_role("button", name="Front Heights wanted")).to_be_visible()
    assert not _faults(page)
    parts.get_by_role("button", name="Front Heights wanted").click()
    expect(parts).to_be_hidden()
    wanted = page.get_by_role("region", name="Front Heights wanted")
    expect(wanted.get_by_role("heading", name="Heights wanted")).to_be_in_viewport()


# Words in one colour and size on one ground are read once: contrast asks 4 ms of each.
ALIKE = """() => {
  const grounds = new Map(), seen = new Set()
  const ground = (one) => {
    if (!one) return ''
    if (!grounds.has(one)) {
      const { backgroundColor, backgroundImage, opacity } = getComputedStyle(one)
      grounds.set(one, `${ground(one.parentElement)}|${backgroundColor} ${backgroundImage} ${opacity}`)
    }
    return grounds.get(one)
  }
  for (const one of document.querySelectorAll('body *')) {
    const { color, fontSize, fontWeight } = getComputedStyle(one)
    const key = [color, fontSize, fontWeight, ground(one), one.disabled].join()
    const last = [...one.children].every((each) => each.matches('option, input'))
    one.toggleAttribute('data-alike', last && seen.has(key))
    if (one.checkVisibility()) seen.add(key)
  }
}"""
RULES = "([told, within]) => axe.run(within, told).then((found) => found.violations)"


def _faults(page):
    wide = page.evaluate("document.documentElement.scrollWidth > document.documentElement.clientWidth")
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE_SCRIPT)
    told = {"resultTypes": ["violations"], "preload": False}
    other = {"runOnly": ["wcag2a", "wcag2aa"], "rules": {"color-contrast": {"enabled": False}}}
    violations = page.evaluate(RULES, [told | other, {"include": ["html"]}])
    for scheme in ("dark", "light"):
        page.emulate_media(color_scheme=scheme)
        page.evaluate(ALIKE)
        within = {"include": ["html"], "exclude": ["[data-alike]"]}
        violations += page.evaluate(RULES, [told | {"runOnly": ["color-contrast"]}, within])
    faults = [
        f"{v['id']}: {v['nodes'][0]['html'][:120]} {v['nodes'][0].get('failureSummary', '')[:200]}"
        for v in violations
    ]
    return faults + (["wider than the phone"] if wide else [])


def test_on_a_phone_the_signs_of_an_angle_stand_under_its_field(tuner, browser):
    open_job(tuner, "Tarvane Ossel")
    tuner.tab("Baseline")
    expect(tuner.field("Front right Camber")).to_be_visible()
    phone = browser.new_context(has_touch=True, is_mobile=True, viewport={"width": 390, "height": 844}).new_page()
    phone.goto(tuner.page.url)
    field = phone.get_by_label("Front right Camber", exact=True)
    field.tap()
    expect(field).to_have_attribute("inputmode", "decimal")
    keys = phone.get_by_role("group", name="Front right Camber: keys")
    for key, digits in (("−", "0"), ("°", "48"), ("′", "")):
        keys.get_by_role("button", name=key).tap()
        phone.keyboard.type(digits)
    expect(field).to_have_value("−0°48′")
    expect(phone.get_by_text("reads as −0.80°")).to_be_visible()
    phone.keyboard.press("Enter")
    expect(phone.get_by_text("✓ −0.80°").first).to_be_visible()
    expect(tuner.page.get_by_role("group", name=re.compile("keys$"))).to_have_count(0)
    phone.context.close()
