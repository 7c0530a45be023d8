"""Work orders planned and carried out on the screen: two whole jobs on a phone, one by two devices at once."""

import re

import pytest
from playwright.sync_api import expect

from conftest import Tuner

pytestmark = pytest.mark.screen
PHONE = {"width": 390, "height": 844}


def plan(tuner, title, *parts):
    """Start a job on a new car, choose what is fitted, take the plan."""
    page = tuner.page
    tuner.field("What is done").fill(title)
    page.get_by_label("Kind of job").select_option("work")
    tuner.field("Car").fill("Sample Saloon 1.8")
    tuner.press("Start the job")
    for part in parts:
        page.get_by_role("button", name=part, exact=True).click()
    tuner.press("Take this plan")
    expect(page.get_by_text("This is the job's plan.")).to_be_visible()


def heading(page):
    return page.get_by_role("heading", level=2).first


def bring(page, article):
    """Bring every joint of a step where the step wants it; torque by feel, with the reason."""
    work = article.get_by_role("region", name="Work on it")
    joints = article.get_by_role("group", name="Fasteners of this step").get_by_role("button")
    expect(joints.first).to_be_visible()
    for one in joints.all():
        one.click()
        for _ in range(40):
            if "✓" in one.inner_text():
                break
            torque = work.get_by_role("button", name="Torqued by feel: estimated for ever")
            if work.get_by_role("button", name="Torqued", exact=True).count():
                if not torque.is_visible():
                    work.get_by_text("No wrench fits").click()
                work.get_by_label("By feel, because").fill("No value at hand for this sample car")
                button = torque
            elif work.get_by_label("Degrees turned on").count():
                work.get_by_label("Degrees turned on").fill("20")
                button = work.get_by_role("button", name="Locked", exact=True)
            else:
                button = work.get_by_role("button").first
            with page.expect_response(lambda answer: answer.url.endswith("/joints")):
                button.click()
            page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        expect(one).to_contain_text("✓")


def do_step(tuner):
    """Do the step that stands first, as a tuner would: move the car, bring the bolts, skip what is not read."""
    page = tuner.page
    title = heading(page).inner_text()
    article = page.get_by_role("article", name=title)
    wanted = article.get_by_label("Move the car").get_by_role("button", pressed=False)
    if article.get_by_label("Move the car").count():
        marked = wanted.filter(has=page.locator("xpath=self::*[contains(@class, 'wanted')]"))
        marked.click()
        expect(heading(page)).not_to_have_text(title)
        return
    if article.get_by_role("group", name="Fasteners of this step").count():
        bring(page, article)
    if article.get_by_text("still to be read").count():
        article.get_by_role("button", name="Skip…").click()
        page.get_by_role("dialog").get_by_role("textbox").fill("Nothing here moves a wheel")
        page.get_by_role("dialog").get_by_role("button", name="Skip this step").click()
    else:
        article.get_by_role("button", name="✓ Done").click()
    expect(heading(page)).not_to_have_text(title)


def steps_of(page):
    """How many steps the plan has, by the card of the one that is shown."""
    card = page.get_by_role("article").filter(has_text=re.compile(r"Step \d+ of")).first
    return int(re.search(r"Step \d+ of (\d+)", card.inner_text())[1])


def carry_out(tuner):
    """Every step that is open, to the last; then sign."""
    page = tuner.page
    tuner.tab("Floor")
    total, at = steps_of(page), 0
    while at < total:
        card = page.get_by_role("article").filter(has_text=re.compile(r"Step \d+ of")).first
        at = int(re.search(r"Step (\d+) of", card.inner_text())[1])
        if at < total:
            do_step(tuner)
    article = page.get_by_role("article").first
    article.get_by_role("button", name="✓ Done").click()
    expect(article).to_contain_text("✓ done")
    tuner.tab("Record")
    tuner.field("Your name").fill("O. Reader")
    page.get_by_role("button", name=re.compile("^Sign")).click()
    expect(page.get_by_text("The log is as it was signed.")).to_be_visible()


def fits_the_width(page):
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


def test_braces_from_the_bench_to_the_signature_on_a_phone(tuner):
    tuner.page.set_viewport_size(PHONE)
    plan(tuner, "Under-body braces", "Under-body braces: add")
    fits_the_width(tuner.page)
    tuner.tab("Floor")
    fits_the_width(tuner.page)
    carry_out(tuner)


def test_one_tie_rod_end_with_going_back_on_a_phone(tuner):
    page = tuner.page
    page.set_viewport_size(PHONE)
    plan(tuner, "Left tie-rod end", "Rack boot or tie-rod end: front")
    page.get_by_role("article", name="Rack boot or tie-rod end").get_by_role("button", name="Right").click()
    tuner.press("Take the new plan")
    expect(page.get_by_text("This is the job's plan.")).to_be_visible()
    tuner.tab("Floor")
    steps_of(page)
    while "Turn the end off and count" not in heading(page).inner_text():
        do_step(tuner)
    page.get_by_role("button", name=re.compile("Wheels off, front")).click()
    tuner.press("↶ Open this step again")
    expect(page.get_by_role("alertdialog")).to_contain_text("Open again: Mark the jam nut")
    tuner.press("Go back all the same")
    expect(page.get_by_role("article", name="Wheels off, front")).to_contain_text("✓ Done")
    page.get_by_role("button", name="↶ Undo").click()
    expect(page.get_by_role("article", name="Wheels off, front")).to_contain_text("✓ done")
    page.get_by_role("button", name="◐ Stop for the day").click()
    expect(page.get_by_role("list", name="Loose right now")).to_contain_text("Tie-rod jam nut, front left: loose")
    expect(page.get_by_text("Not to be driven.")).to_be_visible()
    page.reload()
    carry_out(tuner)


def test_two_devices_on_one_job_with_a_connection_cut(tuner, browser):
    page = tuner.page
    plan(
        tuner,
        "Bar and lower arms",
        "Sway bar with adjustable links: front",
        "Lower arm, one bushing and one ball joint: front",
    )
    tuner.tab("Floor")
    context = browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
    other = context.new_page()
    other.goto(page.url)
    expect(heading(other)).to_have_text("Settle the car")
    page.get_by_role("button", name="✓ Done").click()
    expect(heading(other)).to_have_text("Take the baseline")
    context.set_offline(True)
    other.get_by_label("Note for the record").fill("Written under the car, without a connection")
    other.get_by_role("button", name="Add note").click()
    expect(other.get_by_text("Connection lost: 1 waiting")).to_be_visible()
    do_step(tuner)
    context.set_offline(False)
    expect(other.get_by_text("All saved")).to_be_visible()
    expect(heading(other)).not_to_have_text("Take the baseline")
    other.reload()
    expect(other.get_by_text("All saved")).to_be_visible()
    log = other.evaluate(
        "async () => (await (await fetch(location.pathname.replace('/job/', '/api/jobs/').replace('/floor', '/log')))"
        ".json()).filter((line) => line.said.includes('without a connection')).length"
    )
    assert log == 1, "delivered once"
    devices = [tuner, Tuner(other, tuner.address)]
    total = steps_of(page)
    for turn in range(total - 3):
        mine, yours = devices[turn % 2].page, devices[1 - turn % 2].page
        expect(heading(mine)).to_have_text(heading(yours).inner_text())
        if "final torque" in heading(mine).inner_text():
            break
        do_step(devices[turn % 2])
        expect(heading(yours)).to_have_text(heading(mine).inner_text())
    expect(page.get_by_role("region", name="Work on it")).to_contain_text("The clamp window needs")
    expect(page.get_by_role("button", name="Torqued", exact=True)).to_be_disabled()
    context.close()
