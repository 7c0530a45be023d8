"""A work order carried out by two devices at once."""

import pytest
from playwright.sync_api import expect
from tuner import Tuner
from worker import Worker

pytestmark = pytest.mark.screen


def heading(page):
    return page.get_by_role("heading", level=2).first


def test_two_devices_on_one_job_with_a_connection_cut(tuner, browser):
    page = tuner.page
    worker = Worker(tuner)
    worker.start("Sample Saloon 1.8", "Lower arm, one bushing and one ball joint: front")
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
    worker.step()
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
    devices = [worker, Worker(Tuner(other, tuner.server))]
    total = worker.place()[1]
    for turn in range(total - 3):
        mine, yours = devices[turn % 2].page, devices[1 - turn % 2].page
        expect(heading(mine)).to_have_text(heading(yours).inner_text())
        if "final torque" in heading(mine).inner_text():
            break
        devices[turn % 2].step()
        expect(heading(yours)).to_have_text(heading(mine).inner_text())
    expect(page.get_by_role("region", name="Work on it")).to_contain_text("No height has been read since")
    expect(page.get_by_role("button", name="Torqued", exact=True)).to_be_disabled()
    context.close()
