"""The built application on a port of its own, and Debian's Chromium to drive it."""

from contextlib import contextmanager
from socket import create_server
from threading import Thread

import pytest
from chromium import open_chromium
from httpx import Client
from playwright.sync_api import expect, sync_playwright
from tuner import Tuner

from fair_spindle.api.app import create_app
from fair_spindle.network.serving import server_for

# A busy machine answers late; a page that never does fails all the same.
expect.set_options(timeout=60_000)


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


@pytest.fixture
def tuner(page, server):
    page.goto(server.address)
    return Tuner(page, server)
