"""Measure what a user waits for, beside a named baseline of the same run."""

import http.client
import json
import os
import re
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from statistics import median

from bounds import Bounds

COMMAND = Path(sys.executable).parent / "fair-spindle"
ROUNDS = 200
BOARD = "/api/board"


# What an application of the same libraries, with nothing in it, needs to its first answer.
EMPTY = """
import sys, numpy, pydantic, sqlmodel, typer, uvicorn
from fastapi import FastAPI
app = FastAPI()
app.get("/api/health")(lambda: {})
uvicorn.run(app, port=int(sys.argv[1]), log_level="error")
"""


def main() -> None:
    bounds = Bounds()
    with tempfile.TemporaryDirectory() as folder:
        sample = Path(folder) / "sample.sqlite"
        with launched(serving("demo", sample)):
            pass
        # In turns: the machine is not as fast at one moment as at another.
        filled = serving("serve", sample)
        times = []
        for n in range(5):
            own = serving("serve", Path(folder) / f"{n}.sqlite")
            plain = [cold_start(one) for one in (empty_command, own, own)]
            times.append([*plain, cold_start(own, BOARD), cold_start(filled, BOARD)])
        alone, fresh, again, board, full = (median(column) for column in zip(*times, strict=True))
        empty = ("empty FastAPI application, same libraries", alone)
        bounds.line("first start, data made, to first answer", fresh, empty, 2.0)
        bounds.line("start on data that is there, to first answer", again, empty, 1.5)
        bounds.line("the same, to the board's answer", board, empty, 1.5)
        bounds.line("the same, sample workshop, every log read", full, empty, 2.0)
        measure(Path(folder) / "demo.sqlite", bounds)
    bounds.end()


def empty_command(port: int) -> list[str]:
    return [sys.executable, "-c", EMPTY, str(port)]


def serving(mode: str, db: Path) -> Callable[[int], list[str]]:
    return lambda port: [str(COMMAND), mode, "--db", str(db), "--port", str(port)]


def cold_start(command: Callable[[int], list[str]], asks: str = "") -> float:
    """Until it answers [ms], or until what is asked of it then is answered."""
    begun = time.perf_counter()
    with launched(command) as (_, port):
        if asks:
            ask(http.client.HTTPConnection("127.0.0.1", port, timeout=10), "GET", asks)
        return 1000 * (time.perf_counter() - begun)


def measure(db: Path, bounds: Bounds) -> None:
    with launched(serving("demo", db)) as (_, port):
        wire = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
        jobs = json.loads(ask(wire, "GET", "/api/jobs"))
        job = next(line for line in jobs if "Orrowby" in line["car"])
        path = f"/api/jobs/{job['id']}"
        health = ("GET /api/health", timed(lambda n: ask(wire, "GET", "/api/health")))
        view = timed(lambda n: ask(wire, "GET", path))
        bounds.line(f"job view, {job['entries']} log lines", view, health, 10)
        bounds.line("a changed reading written, what changed answered", timed(Rereading(wire, path)), health, 25)
        bounds.line("list of jobs", timed(lambda n: ask(wire, "GET", "/api/jobs")), health, 10)
        bounds.line("record as PDF", timed(lambda n: ask(wire, "GET", f"{path}/record.pdf"), 30), health, 400)


class Rereading:
    """The same field read again and again, each time on top of what was seen last."""

    def __init__(self, wire: http.client.HTTPConnection, path: str) -> None:
        self.wire, self.path = wire, path
        self.seen = json.loads(ask(wire, "GET", f"{path}/version"))["version"]

    def __call__(self, n: int) -> None:
        typed = {"value": {"text": f"{118 + n % 5}", "unit": "mm"}}
        act = {"kind": "entered", "key": "front.left.tie.lever", "method": "typed", "typed": typed}
        body = {"id": f"bench-{n:06}", "seen": self.seen, "act": act}
        answer = ask(self.wire, "POST", f"{self.path}/events", body)
        self.seen = int(re.search(rb'"version":(\d+)', answer)[1])


def timed(work: Callable[[int], object], rounds: int = ROUNDS) -> float:
    times = []
    for n in range(rounds):
        begun = time.perf_counter()
        work(n)
        times.append(1000 * (time.perf_counter() - begun))
    return median(times)


@contextmanager
def launched(command: Callable[[int], list[str]]) -> Iterator[tuple[subprocess.Popen, int]]:
    """A server that answers, and its port; it ends with the bench, also where that is told to end."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(1))
    server = subprocess.Popen(command(port), stdout=subprocess.DEVNULL, env=os.environ)
    try:
        wait_for(port)
        yield server, port
    finally:
        server.terminate()
        server.wait()


def wait_for(port: int) -> None:
    for _ in range(2000):
        try:
            wire = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
            ask(wire, "GET", "/api/health")
            return
        except OSError:
            time.sleep(0.01)
    raise SystemExit("the server did not answer")


def ask(wire: http.client.HTTPConnection, method: str, path: str, body: object = None) -> bytes:
    wire.request(method, path, json.dumps(body) if body else None, {"Content-Type": "application/json"})
    answer = wire.getresponse()
    content = answer.read()
    if answer.status >= 400:
        raise SystemExit(f"{method} {path}: {answer.status} {content[:300]!r}")
    return content


if __name__ == "__main__":
    main()
