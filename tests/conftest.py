"""A workshop with the demo's jobs, and a client that talks to it.

The application is read by whoever needs it first: the process that only hands the tests out never does.
"""

import gc
import os
import socket
import sys
from fcntl import LOCK_EX, flock
from pathlib import Path

import pytest
from hypothesis import settings

# The cars with a hidden truth are a tool's own (tools/hidden_cars.py); the suite runs some of them.
sys.path.append(str(Path(__file__).parent.parent / "tools"))
settings.register_profile("any machine", deadline=None, derandomize=True)
settings.register_profile("hunt", deadline=None)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "any machine"))
# Nothing is garbage while tests are collected, and what was read for them stays: looking through it all again took a
# twelfth of the suite's time.
gc.disable()


# By how long a test of a folder may take: what two workers still share at the end is then short.
LONGEST_FIRST = ("screens", "records", "api", "formats", "core", "published")


def pytest_collection_modifyitems(items):
    places = {folder: place for place, folder in enumerate(LONGEST_FIRST)}
    items.sort(key=lambda item: places.get(item.path.parent.name, len(places)))


def pytest_collection_finish():
    gc.freeze()
    gc.set_threshold(20_000, 50, 1000)
    gc.enable()


@pytest.fixture
def quick_gauges(monkeypatch):
    """Simulated gauges come to rest at once, not within three seconds."""
    monkeypatch.setattr("fair_spindle.api.routers.gauges.TICK_SECONDS", 0.02)


@pytest.fixture(scope="session")
def filled(tmp_path_factory, worker_id) -> Path:
    """A database file with the demo's jobs, made by the first worker that asks; copied by whoever changes it."""
    from fair_spindle.demo.workshop import fill
    from fair_spindle.records.database import Database

    own = tmp_path_factory.getbasetemp()
    file = (own if worker_id == "master" else own.parent) / "demo.sqlite"
    with file.with_suffix(".lock").open("w") as lock:
        flock(lock, LOCK_EX)
        if not file.exists():
            database = Database(making := file.with_suffix(".making"))
            fill(database)
            database.close()
            making.rename(file)
    return file


@pytest.fixture
def database(filled, tmp_path):
    """A fresh copy of the demo workshop, opened without a server."""
    from fair_spindle.records.database import Database

    file = tmp_path / "opened.sqlite"
    file.write_bytes(filled.read_bytes())
    opened = Database(file)
    yield opened
    opened.close()


@pytest.fixture
def client(filled, tmp_path, quick_gauges):
    """The API over a fresh copy of the demo workshop."""
    from opened import opened

    file = tmp_path / "workshop.sqlite"
    file.write_bytes(filled.read_bytes())
    with opened(file) as client:
        yield client


@pytest.fixture
def jobs(client):
    """The demo's jobs by how far they are."""
    lines = client.get("/api/jobs").json()
    names = {
        "tie-rod ends": "measuring",
        "27 mm": "hanging",
        "Springs and": "finished",
        "Baseline": "measured",
        "toe links": "aligned",
    }
    return {name: line["id"] for line in lines for word, name in names.items() if word in line["title"]}


@pytest.fixture(scope="session")
def find_port():
    """Finds a port nobody listens on."""

    def find() -> int:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            return int(probe.getsockname()[1])

    return find


@pytest.fixture
def free_port(find_port) -> int:
    """A port nobody listens on."""
    return find_port()
