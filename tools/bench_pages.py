"""The first page and coming back to one, in Chromium on a slow phone.

A phone over a workshop's network is taken as 10 Mbit/s, 40 ms away, four times slower than this machine.
"""

import json
import sys
import tempfile
from pathlib import Path
from statistics import median

from bench import launched, serving
from bounds import Bounds
from chromium import open_chromium
from playwright.sync_api import Browser, Page, sync_playwright

LINE = {"offline": False, "latency": 40, "downloadThroughput": 10e6 / 8, "uploadThroughput": 5e6 / 8}
SLOWER = 4
PHONE = {"width": 390, "height": 844}
# Longer than a machine whose host takes it away for a while needs.
PATIENCE_MS = 180_000
# Times a page without scripts over the same line; frames; kB packed.
FIRST_BOUND, FRAMES_BOUND, SIZE_BOUND, CHUNK_BOUND = 2.5, 2.0, 300.0, 120.0
PAINTED = """() => new Promise((done) => new PerformanceObserver((list) => {
  const last = list.getEntries().at(-1); setTimeout(() => done(last.startTime), 300)
}).observe({ type: 'largest-contentful-paint', buffered: true }))"""
# Until the first car of the board stands on the screen: found in the page, and its frame painted.
CARS_STAND = """window.carsStand = new Promise((done) => {
  const { port1, port2 } = new MessageChannel()
  port1.onmessage = () => done(performance.now())
  const look = new MutationObserver(() => {
    if (!document.querySelector('main article')) return
    look.disconnect(); requestAnimationFrame(() => port2.postMessage(''))
  })
  look.observe(document, { childList: true, subtree: true })
})"""
SIZES = """() => performance.getEntriesByType('resource').filter((one) => /\\.(js|css)$/.test(one.name))
  .map((one) => [one.name.split('/').at(-1), one.encodedBodySize])"""
# From the tap on a link until what the page showed before stands there again, in frames of the screen.
FRAMES = """([link, words]) => new Promise((done) => {
  const there = () => document.querySelector('main').textContent.includes(words)
  const begun = performance.now(); let frames = 0
  const look = () => (there() ? done([frames, performance.now() - begun]) : (frames++, requestAnimationFrame(look)))
  document.querySelector(link).click(); requestAnimationFrame(look)
})"""


def phone(browser: Browser) -> Page:
    page = browser.new_page(viewport=PHONE, service_workers="block")
    page.set_default_timeout(PATIENCE_MS)
    wire = page.context.new_cdp_session(page)
    wire.send("Network.enable")
    wire.send("Network.emulateNetworkConditions", LINE)
    wire.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    return page


def bare_page(browser: Browser, address: str) -> float:
    """Until the largest part of a page of text is painted [ms]."""
    page = phone(browser)
    page.goto(f"{address}/licences.txt")
    painted: float = page.evaluate(PAINTED)
    page.close()
    return painted


def first_page(browser: Browser, address: str) -> tuple[float, list[tuple[str, int]]]:
    """Until the board's first car is painted [ms], and the scripts and styles taken till then [bytes packed]."""
    page = phone(browser)
    page.add_init_script(CARS_STAND)
    page.goto(address)
    painted = page.evaluate("() => window.carsStand")
    sizes = page.evaluate(SIZES)
    page.close()
    return painted, sizes


def come_back(browser: Browser, address: str, job: str) -> tuple[float, float]:
    """Frames and time [ms] until a page that was left shows again what it showed."""
    page = phone(browser)
    page.goto(f"{address}/job/{job}/turns")
    page.get_by_role("heading", name="Front", exact=False).first.wait_for()
    page.wait_for_load_state("networkidle")
    link, words = f'nav a[href="/job/{job}/turns"]', "Rear"
    for other in ("check", "turns", "check"):
        page.locator(f'nav a[href="/job/{job}/{other}"]').click()
        page.wait_for_load_state("networkidle")
    frames, took = page.evaluate(FRAMES, [link, words])
    page.close()
    return frames, took


def main() -> None:
    bounds = Bounds()
    with (
        tempfile.TemporaryDirectory() as folder,
        sync_playwright() as playwright,
        launched(serving("demo", Path(folder) / "pages.sqlite")) as (_, port),
        open_chromium(playwright) as browser,
    ):
        address = f"http://127.0.0.1:{port}"
        page = browser.new_page()
        jobs = json.loads(page.goto(f"{address}/api/jobs").text())
        job = next(one["id"] for one in jobs if "again" not in one["title"] and "camber" in one["title"])
        page.close()
        # In turns: the machine is not as fast at one moment as at another.
        pairs = [(bare_page(browser, address), *first_page(browser, address)) for _ in range(7)]
        bare, painted = (median(column) for column in list(zip(*pairs, strict=True))[:2])
        sizes = pairs[0][2]
        bounds.line("the board on a slow phone", painted, ("a page of text alone", bare), FIRST_BOUND)
        total = sum(size for _, size in sizes) / 1000
        bounds.line("its scripts and styles, packed", total, ("one kB", 1.0), SIZE_BOUND, "kB")
        largest = max(size for _, size in sizes) / 1000
        bounds.line("the largest of them", largest, ("one kB", 1.0), CHUNK_BOUND, "kB")
        frames, took = come_back(browser, address, job)
        bounds.line("a page come back to", max(frames, 1), ("one frame", 1.0), FRAMES_BOUND, "frames")
        print(f"that is {took:.0f} ms on the slow phone")
    bounds.end()


if __name__ == "__main__":
    sys.exit(main())
