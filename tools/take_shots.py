"""Refresh docs/screenshots from a fresh sample workshop."""

import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

COMMAND = Path(sys.executable).parent / "fair-spindle"
SHOTS = Path(__file__).parent.parent / "docs" / "screenshots"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
DESK, PHONE = (1280, 800), (390, 844)
VIEWS = [
    ("workshop", "", None, DESK),
    ("baseline", "Orrowby", "Baseline", DESK),
    ("plan", "Orrowby", "Plan", DESK),
    ("floor", "Orrowby", "Floor", DESK),
    ("floor-phone", "Orrowby", "Floor", PHONE),
    ("counter-phone", "Orrowby", "Floor > Turn the new ends on to the count", PHONE),
    ("check", "Springs and tie-rod ends, front", "Check", DESK),
    ("record", "Quenlow", "Record", DESK),
]


def main() -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    with tempfile.TemporaryDirectory() as folder:
        command = [COMMAND, "demo", "--db", f"{folder}/demo.sqlite", "--port", str(port)]
        server = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        try:
            _wait(port)
            _take(f"http://127.0.0.1:{port}")
        finally:
            server.terminate()
            server.wait()


def _wait(port: int) -> None:
    for _ in range(200):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=1)
            return
        except OSError:
            time.sleep(0.05)


def _take(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        for name, car, where, (width, height) in VIEWS:
            page = browser.new_page(viewport={"width": width, "height": height}, reduced_motion="reduce")
            page.goto(address)
            page.get_by_role("link", name="Orrowby").wait_for()
            if where:
                _go(page, car, where)
            page.wait_for_load_state("networkidle")
            page.screenshot(path=SHOTS / f"{name}.png", animations="disabled")
            page.close()
        browser.close()


def _go(page: Page, car: str, where: str) -> None:
    page.get_by_role("link", name=car).click()
    tab, _, step = where.partition(" > ")
    page.get_by_role("navigation").get_by_role("link", name=tab, exact=True).click()
    page.get_by_role("heading", level=2).first.wait_for()
    if step:
        page.get_by_role("button", name=step).click()
        page.get_by_role("heading", level=2, name=step).wait_for()


if __name__ == "__main__":
    main()
