"""Debian's Chromium, as tests, pictures and benches drive it."""

import shutil

from playwright.sync_api import Browser, Playwright

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def open_chromium(playwright: Playwright) -> Browser:
    """Start it without a window; the build that knows none, which is the quicker one, where it is there."""
    path = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
    return playwright.chromium.launch(executable_path=path, args=FLAGS)
