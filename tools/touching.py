"""Which tests run which lines of the core: a pytest plugin that notes it, and the table read back.

``touching_tests`` runs the suite once in a copy of the clone, each line with the tests that ran it (`coverage`, one
context a test), so that a deliberate error is held only against tests that could notice it, quickest first.
"""

import json
import os
import subprocess
import sys
from collections import defaultdict
from pathlib import Path

import coverage
import pytest

PLACE = "TOUCHING_PLACE"
ROOMS = ("predict", "joblog", "review")

_watch: coverage.Coverage | None = None
_took: dict[str, float] = {}


def pytest_configure(config: pytest.Config) -> None:
    """Watch the core's rooms from the first import on, in every worker for itself."""
    global _watch
    if PLACE in os.environ and (hasattr(config, "workerinput") or not config.getoption("numprocesses", 0)):
        place = Path(os.environ[PLACE])
        sources = [f"src/fair_spindle/core/{room}" for room in ROOMS]
        _watch = coverage.Coverage(data_file=place / f"lines.{os.getpid()}", source=sources, config_file=False)
        _watch.start()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_protocol(item: pytest.Item) -> object:
    """Lines run from here on were run by this test."""
    if _watch:
        _watch.switch_context(item.nodeid)
    return (yield)


def pytest_runtest_logreport(report: pytest.TestReport) -> None:
    """How long a test took, its fixtures included."""
    if _watch:
        _took[report.nodeid] = _took.get(report.nodeid, 0.0) + report.duration


def pytest_unconfigure() -> None:
    """Keep what was seen."""
    if _watch:
        _watch.stop()
        _watch.save()
        (Path(os.environ[PLACE]) / f"took.{os.getpid()}.json").write_text(json.dumps(_took))


def touching_tests(copy: Path, place: Path, tests: tuple[str, ...]) -> dict[tuple[str, int], dict[str, float]]:
    """Tests that run a line, with the seconds each takes: by file (from the copy's root) and line number.

    Raises SystemExit where the tests do not pass as they are.
    """
    env = {"PYTHONPATH": f"{copy / 'src'}:{copy / 'tools'}", "PATH": os.environ["PATH"], PLACE: str(place)}
    command = [sys.executable, "-m", "pytest", "-p", "touching", "-n", "auto", "-q", "-m", "not screen", *tests]
    ran = subprocess.run(command, cwd=copy, env=env, capture_output=True, text=True)
    if ran.returncode:
        raise SystemExit(f"the tests do not pass as they are, so nothing can be said\n{ran.stdout[-2000:]}")
    took: dict[str, float] = {}
    for file in place.glob("took.*.json"):
        took |= json.loads(file.read_text())
    found: dict[tuple[str, int], dict[str, float]] = defaultdict(dict)
    for file in place.glob("lines.*"):
        data = coverage.CoverageData(str(file))
        data.read()
        for source in data.measured_files():
            name = str(Path(source).relative_to(copy))
            for line, contexts in data.contexts_by_lineno(source).items():
                found[name, line] |= {one: took.get(one, 0.0) for one in contexts if one}
    return found
