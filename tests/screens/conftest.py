"""The built application on a port of its own, and Debian's Chromium to drive it."""

import os
import re
import signal
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

import pytest
from playwright.sync_api import expect, sync_playwright

# A busy machine answers late; a page that never does fails all the same.
expect.set_options(timeout=60_000)
COMMAND = Path(sys.executable).parent / "fair-spindle"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


class Server:
    """The server as a user starts it; can be killed and started again on the same data."""

    def __init__(self, db, port):
        self.db, self.port = db, port
        self.address = f"http://127.0.0.1:{port}"
        self.start()

    def start(self):
        command = [COMMAND, "serve", "--db", str(self.db), "--port", str(self.port)]
        self.process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        for _ in range(1200):
            try:
                urllib.request.urlopen(f"{self.address}/api/health", timeout=1)
                return
            except OSError:
                time.sleep(0.05)
        raise AssertionError("the server did not answer")

    def kill(self):
        os.kill(self.process.pid, signal.SIGKILL)
        self.process.wait()


@pytest.fixture
def server(tmp_path, free_port, request):
    """An empty workshop, or with the parameter "demo" a copy of the demo's."""
    file = tmp_path / "data.sqlite"
    if getattr(request, "param", "") == "demo":
        file.write_bytes(request.getfixturevalue("filled").read_bytes())
    running = Server(file, free_port)
    yield running
    running.kill()


@pytest.fixture(scope="session")
def browser():
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


def opened(browser, **more):
    """A page of its own; whatever it throws fails the test."""
    context = browser.new_context(reduced_motion="reduce", **more)
    page = context.new_page()
    page.set_default_timeout(60_000)
    errors = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    yield page
    context.close()
    assert not errors


@pytest.fixture
def page(browser):
    yield from opened(browser, viewport={"width": 1280, "height": 800}, service_workers="block")


@pytest.fixture
def keeping_page(browser):
    """A phone whose browser keeps the pages."""
    yield from opened(browser, viewport={"width": 390, "height": 844})


class Tuner:
    """What a tuner does on the pages, by the words on them."""

    def __init__(self, page, address):
        self.page, self.address = page, address

    def tab(self, name):
        link = self.page.get_by_role("navigation").get_by_role("link", name=name, exact=True)
        link.click()
        expect(link).to_have_class(re.compile("router-link-active"))
        return self

    def field(self, name):
        return self.page.get_by_label(name, exact=True)

    def enter(self, name, text, unit=None):
        if unit:
            self.field(f"{name}: unit").select_option(unit)
        self.field(name).click()
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")

    def type_readings(self, *texts):
        """Type into the field that waits, each with Enter, once the one before was taken."""
        for kept, text in enumerate(texts):
            expect(self.page.locator("input:focus")).to_have_value("" if kept else re.compile(".*"))
            if kept:
                expect(self.page.locator(".field:focus-within .turn")).to_contain_text(f"reading {kept + 1}")
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")

    def saved(self):
        expect(self.page.get_by_text("All saved")).to_be_visible()

    def press(self, name, within=None):
        (within or self.page).get_by_role("button", name=name, exact=True).click()

    def move(self, words):
        button = self.page.get_by_label("Move the car").last.get_by_role("button", name=words)
        button.click()
        expect(button).to_have_attribute("aria-pressed", "true")  # the page no longer shifts under the next tap

    def board(self, name):
        return self.page.get_by_role("region", name=name, exact=True)

    def bring(self, name, *actions):
        for action in actions:
            self.board(name).get_by_role("button", name=re.compile(f"^{action}")).click()

    def torque(self, name, reading):
        self.board(name).get_by_label(f"{name}: torque reading").fill(reading)
        self.bring(name, "Torqued")
        expect(self.board(name).get_by_text("✓ torqued")).to_be_visible()

    def done(self, title):
        expect(self.page.get_by_role("heading", level=2, name=title)).to_be_visible()
        self.press("✓ Done")
        expect(self.page.get_by_role("heading", level=2, name=title)).to_have_count(0)


@pytest.fixture
def tuner(page, server):
    page.goto(server.address)
    return Tuner(page, server.address)
