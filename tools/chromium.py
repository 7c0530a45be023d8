"""Debian's Chromium, as tests, pictures and benches drive it."""

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
    """Start it without a window."""
    return playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
