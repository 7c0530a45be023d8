"""A job that missed its prediction: explained, corrected, learned from, signed, taken away, brought back."""

import json
import re

import pytest
from playwright.sync_api import expect
from worker import file_of

pytestmark = [pytest.mark.screen, pytest.mark.parametrize("server", ["demo"], indirect=True)]
RATIO_WRONG_BY = {"Front axle": ("11.4", "11.2"), "Rear axle": ("0.4", "-0.2")}


@pytest.fixture
def coilovers(tuner):
    """The sample job on coilovers, settled, its heights off as a wrong front motion ratio leaves them."""
    page = tuner.page
    page.get_by_role("link", name=re.compile("Coilovers with helper")).first.click()
    page.wait_for_url("**/job/**")
    tuner.own = tuner.job()
    wheels = tuner.own.get("/springs?samples=500")["wheels"]
    predicted = {one["key"]: one["predicted_mm"] for one in wheels}
    tuner.tab("Check")
    for axle, misses in RATIO_WRONG_BY.items():
        for side, miss in zip(("left", "right"), misses, strict=True):
            height = predicted[f"{axle.split()[0].lower()}.{side}"] + float(miss)
            field = tuner.field(f"{side} {axle}, settled Ride height")
            field.fill(f"{height:.1f}")
            field.press("Enter")
            tuner.saved()
    return tuner


def file_now(job):
    return job.client.get(f"{job.path}/job.json").text


def test_explained_corrected_learned_signed_taken_away_and_brought_back(coilovers, tmp_path):
    tuner, page = coilovers, coilovers.page
    table = page.get_by_role("region", name="Before and after")
    expect(table.get_by_role("row", name=re.compile("Front left height"))).to_contain_text("▲ +11.4 mm ±")
    expect(table.get_by_role("row", name=re.compile("Rear left height"))).not_to_contain_text("▲")
    causes = page.get_by_role("region", name="What could explain it")
    expect(causes).to_contain_text("the motion ratio is otherwise than entered")
    expect(causes).to_contain_text("Jack that wheel by 30 mm")
    tuner.press("Make the short work order")
    expect(page.get_by_role("article", name="Correction after measuring").first).to_be_visible()
    expect(
        page.get_by_role("button", name=re.compile("Perch ring turned by what is still wanted, front left"))
    ).to_be_visible()
    page.goto(tuner.address + tuner.own.path.replace("/api/jobs/", "/job/") + "/check")
    learned = page.get_by_role("region", name="Learned")
    front = learned.get_by_role("row", name=re.compile("Front new spring rate"))
    expect(front).to_be_visible()
    learned.get_by_role("checkbox", name="Take Rear new spring rate").locator("xpath=ancestor::label").click()
    tuner.press("Take what is ticked into the car's record", learned)
    expect(front).to_contain_text("✓ in the record")
    expect(learned.get_by_role("row", name=re.compile("Rear new spring rate"))).to_contain_text("✕ refused")
    tuner.tab("Record")
    tuner.field("Your name").fill("O. Reader")
    page.get_by_role("button", name=re.compile("^Sign")).click()
    expect(page.get_by_text("The log is as it was signed.")).to_be_visible()
    before, content = tuner.own.view(), file_now(tuner.own)
    with page.expect_download() as download:
        page.get_by_role("link", name="With its pictures (ZIP)").click()
    archive = tmp_path / "job.zip"
    download.value.save_as(archive)
    tuner.press("Take this job away…")
    tuner.press("Take it away")
    expect(page.get_by_role("heading", level=2, name="In work")).to_be_visible()
    own = page.locator(f"main a[href*='{tuner.own.path.rpartition('/')[2]}']")
    expect(page.get_by_role("link", name=re.compile("Correction: Coilovers"))).to_be_visible()
    expect(own).to_have_count(0)
    changed = tmp_path / "changed.json"
    document = json.loads(content)
    entry = next(
        line["act"] for line in reversed(document["log"]) if line["act"].get("key") == "rear.right.check_height"
    )
    entry["typed"]["height"]["text"] = "333.3"
    changed.write_text(json.dumps(document))
    files = file_of(page, "Job file (JSON or ZIP)")
    files.set_input_files(changed)
    expect(page.get_by_role("alert")).to_contain_text("changed after it was signed")
    files.set_input_files(archive)
    expect(page.get_by_text("The job would be added.")).to_be_visible()
    expect(page.get_by_role("radio", name="It is this car")).to_be_checked()
    tuner.press("Add this job")
    own.click()
    expect(page.get_by_text("The log is as it was signed.")).to_be_visible()
    assert tuner.own.view() == before
    assert file_now(tuner.own) == content


def test_nobody_signs_before_what_is_open_stands_beside_it(tuner):
    page, held = tuner.page, []
    page.route("**/record", lambda route: held.append(route))
    page.get_by_role("link", name="Front springs, tie-rod ends").first.click()
    tuner.tab("Record")
    sign = page.get_by_role("button", name=re.compile("^Sign"))
    expect(sign).to_be_disabled()
    for route in held:
        route.continue_()
    expect(sign).to_have_text(re.compile(r"Sign with \d+ open"))
    expect(sign).to_be_enabled()


def test_a_backup_saved_and_put_back_while_the_workshop_is_open(tuner, tmp_path):
    page = tuner.page
    page.goto(f"{tuner.address}/ways")
    with page.expect_download() as download:
        page.get_by_role("link", name="Save a backup").click()
    saved = tmp_path / "backup.zip"
    download.value.save_as(saved)
    client = tuner.server.client
    listed = client.get("/api/jobs").json()
    gone = f"/api/jobs/{listed[0]['id']}?seen={listed[0]['entries']}"
    assert client.delete(gone).status_code == 204
    file_of(page, "Put a backup back (ZIP)").set_input_files(saved)
    expect(page.get_by_text("the copy is whole")).to_be_visible()
    tuner.press("Put it in the place of what is here")
    expect(page.get_by_text("It is in place now")).to_be_visible()
    assert client.get("/api/jobs").json() == listed
