"""The built application on a port of its own, and Debian's Chromium to drive it."""

import re
import sys
from contextlib import contextmanager
from pathlib import Path
from socket import create_server
from threading import Thread

import pytest
from chromium import open_chromium
from httpx import Client
from playwright.sync_api import expect, sync_playwright

from fair_spindle.api.app import create_app
from fair_spindle.network.serving import server_for
from writer import Writer

# A busy machine answers late; a page that never does fails all the same.
expect.set_options(timeout=60_000)
COMMAND = Path(sys.executable).parent / "fair-spindle"


class Server:
    """The application on a port, in a thread: its modules are read once for all tests of a worker."""

    def __init__(self, db, listener):
        self.address = f"http://127.0.0.1:{listener.getsockname()[1]}"
        self.client = Client(base_url=self.address, timeout=60)
        self._server = server_for(create_app(db))
        self._thread = Thread(target=self._server.run, kwargs={"sockets": [listener]})
        self._thread.start()

    def stop(self):
        self.client.close()
        self._server.should_exit = True
        self._thread.join()


@pytest.fixture(scope="session")
def port(find_port):
    """One for all tests of a worker: the browser keeps what it has read of the pages."""
    return find_port()


@pytest.fixture
def server(tmp_path, port, request, quick_gauges):
    """An empty workshop, or with the parameter "demo" a copy of the demo's."""
    file = tmp_path / "data.sqlite"
    if getattr(request, "param", "") == "demo":
        file.write_bytes(request.getfixturevalue("filled").read_bytes())
    running = Server(file, create_server(("127.0.0.1", port)))
    yield running
    running.stop()


@pytest.fixture(scope="session")
def browser():
    with sync_playwright() as playwright:
        browser = open_chromium(playwright)
        yield browser
        browser.close()


@contextmanager
def opened(context):
    """A page; whatever it throws fails the test."""
    page = context.new_page()
    page.set_default_timeout(60_000)
    errors = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    yield page
    page.close()
    assert not errors


@contextmanager
def forgetting(context, server):
    """A page that knows nothing of the tests before, in a browser that has read the pages themselves."""
    with opened(context) as page:
        wire = context.new_cdp_session(page)
        yield page
        told = {"origin": server.address, "storageTypes": "cookies,local_storage,indexeddb"}
        wire.send("Storage.clearDataForOrigin", told)


@pytest.fixture(scope="session")
def bench(browser):
    """The browser at the bench, for all tests of a worker: it has read the pages before."""
    return browser.new_context(
        reduced_motion="reduce", viewport={"width": 1280, "height": 800}, service_workers="block"
    )


@pytest.fixture
def page(bench, server):
    """A page at the bench."""
    with forgetting(bench, server) as page:
        yield page


@pytest.fixture(scope="session")
def pocket(browser):
    """The browser of a phone, which keeps the pages, for all tests of a worker."""
    return browser.new_context(reduced_motion="reduce", viewport={"width": 390, "height": 844})


@pytest.fixture
def keeping_page(pocket, server):
    """A page on a phone that opens without a connection."""
    with forgetting(pocket, server) as page:
        yield page
        pocket.set_offline(False)
        page.evaluate("caches.delete('last-seen')")


class Tuner:
    """What a tuner does on the pages, by the words on them."""

    def __init__(self, page, server):
        self.page, self.server, self.address = page, server, server.address

    def job(self):
        """The job on the page, read and written beside the screen."""
        return Writer(self.server.client, f"/api/jobs/{self.page.url.split('/job/')[1].split('/')[0]}")

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
        self.page.get_by_text("All saved").wait_for()

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
    return Tuner(page, server)
