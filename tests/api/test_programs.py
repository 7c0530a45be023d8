"""The programs of docs/programs.md, run as they stand against a server of their own."""

import contextlib
import io
import json
import re
import threading
import time
import urllib.request
from pathlib import Path

import pytest
import uvicorn

from fair_spindle.api.app import create_app

PAGE = Path(__file__).parents[2] / "docs" / "programs.md"
PROGRAMS = dict(re.findall(r"^## ([^\n]+)\n.*?```python\n(.*?)```", PAGE.read_text(), re.M | re.S))


@pytest.fixture
def address(filled, tmp_path, free_port):
    file = tmp_path / "workshop.sqlite"
    file.write_bytes(filled.read_bytes())
    server = uvicorn.Server(uvicorn.Config(create_app(file), port=free_port, log_level="error"))
    thread = threading.Thread(target=server.run)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{free_port}"
    server.should_exit = True
    thread.join()


def jobs_at(address):
    with urllib.request.urlopen(f"{address}/api/jobs") as answer:
        return json.load(answer)


def run(name, **names):
    said = io.StringIO()
    with contextlib.redirect_stdout(said):
        exec(compile(PROGRAMS[name], name, "exec"), names)
    return said.getvalue()


def test_the_programs_do_what_they_say(address):
    assert set(PROGRAMS) == {"Write a job file", "Read a record", "Send a gauge's reading"}
    assert run("Write a job file", ADDRESS=address) == "Read on the lane 2 True\n"
    came = next(job for job in jobs_at(address) if job["id"] == "from-outside-1")
    assert came["car"] == "Sample Wagon"
    assert re.search(r"^Front left toe .*\d", run("Read a record", ADDRESS=address), re.M)
    assert "-0.85 °" in run("Send a gauge's reading", ADDRESS=address, JOB="from-outside-1")
