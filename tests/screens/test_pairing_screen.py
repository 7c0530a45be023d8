"""The workshop shared in its network: a phone is let in by the bench's code, works beside it, and is taken off."""

import re
import ssl
import subprocess
import time
import urllib.request
from ipaddress import ip_address

import pytest
from playwright.sync_api import expect
from worker import pick

from fair_spindle.demo.workshop import fill
from fair_spindle.network.addresses import own_addresses
from fair_spindle.records.database import Database
from opened import COMMAND

pytestmark = pytest.mark.screen
OUTSIDE = own_addresses().usual


@pytest.fixture
def workshop(tmp_path, free_port):
    """The sample workshop, served over TLS as a user shares it."""
    file = tmp_path / "shared.sqlite"
    database = Database(file)
    fill(database)
    database.close()
    command = [COMMAND, "serve", "--shared", "--db", str(file), "--port", str(free_port)]
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    trusting = ssl.create_default_context(cafile=None)
    trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE
    for _ in range(300):
        try:
            urllib.request.urlopen(f"https://localhost:{free_port}/api/health", timeout=1, context=trusting)
            break
        except OSError:
            time.sleep(0.05)
    yield free_port
    server.terminate()
    server.wait()


@pytest.fixture
def at(browser):
    """Opens a page of a device of its own."""
    contexts = []

    def opened(address, width, height):
        context = browser.new_context(
            viewport={"width": width, "height": height},
            reduced_motion="reduce",
            service_workers="block",
            ignore_https_errors=True,
        )
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(30_000)
        page.goto(address)
        return page

    yield opened
    for context in contexts:
        context.close()


@pytest.mark.skipif(ip_address(OUTSIDE).is_loopback, reason="this machine has no address but its own")
def test_a_phone_is_let_in_works_beside_the_bench_and_is_taken_off(workshop, at):
    bench = at(f"https://localhost:{workshop}/devices", 1280, 800)
    outside = f"[{OUTSIDE}]" if ":" in OUTSIDE else OUTSIDE
    phone = at(f"https://{outside}:{workshop}/", 390, 844)
    expect(phone.get_by_role("heading", name="Let this device in")).to_be_visible()
    expect(phone.get_by_text("Orrowby")).to_have_count(0)
    bench.get_by_label("Name", exact=True).fill("Ada Grint")
    bench.get_by_label("Initials").fill("AG")
    bench.get_by_role("button", name="Add", exact=True).click()
    expect(bench.get_by_label("People").get_by_text("Ada Grint")).to_be_visible()
    bench.get_by_role("button", name="Let a device in").click()
    digits = bench.get_by_label("Let a device in").get_by_text(re.compile(r"^\d{6}$"))
    code = digits.inner_text()
    phone.get_by_label("The six digits").fill(code)
    phone.get_by_label("What to call this device").fill("Phone, bay 2")
    phone.get_by_role("button", name="Let it in").click()
    phone.get_by_role("link", name="Orrowby Halm").click()
    expect(phone.get_by_role("heading", level=2)).to_contain_text("Lower arm bolt")
    pick(phone.get_by_role("combobox", name="Who works on this device"), "AG · Ada Grint")
    phone.get_by_label("Note for the record").fill("from the phone")
    phone.get_by_role("button", name="Add note").click()
    expect(phone.get_by_text("All saved")).to_be_visible()
    job = phone.url.split("/job/")[1].split("/")[0]
    bench.goto(f"https://localhost:{workshop}/job/{job}/record")
    bench.get_by_text("Floor log").click()
    expect(bench.get_by_role("listitem").filter(has_text="from the phone")).to_contain_text("Ada Grint")
    phone.get_by_label("Move the car").last.get_by_role("button", name="Hanging on stands").click()
    phone.get_by_role("button", name="Go back all the same").click()
    expect(bench.get_by_label("Position of the car")).to_contain_text("hanging on stands")
    bench.goto(f"https://localhost:{workshop}/devices")
    listed = bench.get_by_label("Devices let in").get_by_role("listitem")
    expect(listed).to_contain_text("Phone, bay 2")
    listed.get_by_role("button", name="Take off").click()
    expect(phone.get_by_role("heading", name="Let this device in")).to_be_visible()
    expect(phone.get_by_text("Orrowby")).to_have_count(0)
