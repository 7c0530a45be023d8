"""Measure what keeps entries safe: a write under eight clients and a job of 20,000 lines, beside a named baseline.

Run by ``make bench``; ends with status 1 where a bound is missed by more than half.
"""

import http.client
import json
import statistics
import sys
import tempfile
import threading
import time
from pathlib import Path

from bench import ask, launched, serving

from fair_spindle.records.database import Database

CLIENTS, ENTRIES, LINES = 8, 40, 20_000
# Bounds: a write under eight clients, in times of an answer without work; seconds for the long job.
WRITE_BOUND, IMPORT_BOUND, OPEN_BOUND = 60.0, 10.0, 1.0


def note(n: int) -> dict[str, str]:
    return {"kind": "noted", "text": f"Written while seven others write, number {n}.", "step": ""}


def reading(n: int) -> dict[str, object]:
    typed = {"toe": {"text": str(n % 30), "unit": "min"}}
    side = ("left", "right")[n % 2]
    return {"kind": "entered", "key": f"front.{side}.toe", "method": "angle", "typed": typed}


def one_client(port: int, number: int, times: list[float]) -> None:
    wire = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    job = f"clients-{number % 2:05}"
    for n in range(ENTRIES):
        begun = time.perf_counter()
        seen = json.loads(ask(wire, "GET", f"/api/jobs/{job}/version"))["version"]
        ask(wire, "POST", f"/api/jobs/{job}/events", {"id": f"entry-{number}-{n:04}", "seen": seen, "act": note(n)})
        times.append(time.perf_counter() - begun)


def eight_clients(port: int) -> float:
    wire = http.client.HTTPConnection("127.0.0.1", port, timeout=60)
    health = statistics.median(_timed(lambda: ask(wire, "GET", "/api/health")) for _ in range(200))
    for number in range(2):
        ask(wire, "POST", "/api/jobs", {"id": f"clients-{number:05}", "title": f"Shared {number}", "car": "Any"})
    times: list[float] = []
    threads = [threading.Thread(target=one_client, args=(port, number, times)) for number in range(CLIENTS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    wire.close()  # it stood idle, and the server lets such a one go: the next question connects anew
    lines = sum(
        json.loads(ask(wire, "GET", f"/api/jobs/clients-{number:05}/version"))["version"] for number in range(2)
    )
    if lines != CLIENTS * ENTRIES:
        raise SystemExit(f"{CLIENTS * ENTRIES} entries were acknowledged, {lines} are in the logs")
    worst = statistics.quantiles(times, n=20)[-1]
    print(f"baseline: GET /api/health, an answer without work: {health * 1000:.2f} ms")
    print(
        f"an entry under {CLIENTS} clients on two jobs, none lost: median {statistics.median(times) * 1000:.1f} ms, "
        f"p95 {worst * 1000:.1f} ms, {worst / health / CLIENTS:.0f} × the baseline a client (bound {WRITE_BOUND:.0f})"
    )
    return worst / health / CLIENTS / WRITE_BOUND


def long_job(port: int) -> float:
    wire = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
    at = "2026-05-01T08:00:00.000Z"
    log = [{"id": f"line-{n:06}", "seq": n + 1, "at": at, "act": reading(n)} for n in range(LINES)]
    head = {"id": "long-00001", "template": "work", "title": "Long", "car": "Any", "created_at": at, "car_id": None}
    document = {"format": "fair-spindle/job", "version": 1, "job": head, "car": None, "log": log}
    content = json.dumps(document).encode()
    taken = _timed(lambda: _bring_in(wire, content))
    opened = _timed(lambda: ask(wire, "GET", "/api/jobs/long-00001"))
    undo = {"id": "undo-00001", "seen": LINES, "act": {"kind": "undone", "event": f"line-{LINES - 5:06}"}}
    undone = _timed(lambda: ask(wire, "POST", "/api/jobs/long-00001/events", undo))
    print(f"{LINES} lines: imported {taken:.2f} s (bound {IMPORT_BOUND:.0f}), opened {opened:.2f} s, ", end="")
    print(f"undone {undone:.2f} s (bound {OPEN_BOUND:.0f} each)")
    return max(taken / IMPORT_BOUND, opened / OPEN_BOUND, undone / OPEN_BOUND)


def _bring_in(wire: http.client.HTTPConnection, content: bytes) -> None:
    wire.request("POST", "/api/jobs/import?apply=true", content, {"Content-Type": "application/octet-stream"})
    answer = wire.getresponse()
    if b'"applied":true' not in answer.read():
        raise SystemExit(f"the long job was not taken: {answer.status}")


def _timed(work) -> float:
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "clients.sqlite"
        Database(file).close()
        with launched(serving("serve", file)) as (_, port):
            missed = max(eight_clients(port), long_job(port))
    sys.exit(1 if missed > 1.5 else 0)


if __name__ == "__main__":
    main()
