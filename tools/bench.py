"""Measure what a user waits for, beside a named baseline of the same run."""

import http.client
import json
import os
import re
import socket
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

COMMAND = Path(sys.executable).parent / "fair-spindle"
ROUNDS = 200


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        fresh = [cold_start(Path(folder) / f"{n}.sqlite") for n in range(5)]
        again = [cold_start(Path(folder) / "0.sqlite") for _ in range(5)]
        for name, times in (("first start, data made", fresh), ("start on data that is there", again)):
            print(f"{name}, to first answer: median {statistics.median(times):.2f} s, worst {max(times):.2f} s")
        measure(Path(folder) / "demo.sqlite")


def cold_start(db: Path) -> float:
    begun = time.perf_counter()
    server, port = launch("serve", db)
    took = time.perf_counter() - begun
    stop(server)
    assert port
    return took


def measure(db: Path) -> None:
    server, port = launch("demo", db)
    try:
        wire = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
        jobs = json.loads(ask(wire, "GET", "/api/jobs"))
        job = next(line for line in jobs if "Orrowby" in line["car"])
        path = f"/api/jobs/{job['id']}"
        baseline = report(
            "baseline: GET /api/health, an answer without work", lambda n: ask(wire, "GET", "/api/health")
        )
        report(f"job view, {job['entries']} log lines", lambda n: ask(wire, "GET", path), baseline)
        report("recalculation: a changed reading written, whole job answered", Rereading(wire, path), baseline)
        report("list of jobs", lambda n: ask(wire, "GET", "/api/jobs"), baseline)
        report("record as PDF", lambda n: ask(wire, "GET", f"{path}/record.pdf"), baseline, 30)
    finally:
        stop(server)


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


def report(name: str, work, baseline: float | None = None, rounds: int = ROUNDS) -> float:
    times = []
    for n in range(rounds):
        begun = time.perf_counter()
        work(n)
        times.append(1000 * (time.perf_counter() - begun))
    median, p95 = statistics.median(times), statistics.quantiles(times, n=20)[18]
    ratio = f", {median / baseline:.1f} × baseline" if baseline else ""
    print(f"{name}: median {median:.1f} ms, p95 {p95:.1f} ms{ratio}")
    return median


def launch(mode: str, db: Path) -> tuple[subprocess.Popen, int]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = subprocess.Popen(
        [COMMAND, mode, "--db", db, "--port", str(port)], stdout=subprocess.DEVNULL, env=os.environ
    )
    for _ in range(2000):
        try:
            wire = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
            ask(wire, "GET", "/api/health")
            return server, port
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


def stop(server: subprocess.Popen) -> None:
    server.terminate()
    server.wait()


if __name__ == "__main__":
    main()
