"""The database file and the command line around it."""

import json
import os
import signal
import sqlite3
import subprocess
import time
import urllib.request

import pytest

from fair_spindle.core.basics.errors import InputError
from fair_spindle.records.database import MIGRATIONS, NEWEST, Database
from opened import COMMAND

PRAGMAS = ("journal_mode", "synchronous", "foreign_keys")


def run(*arguments, given=""):
    return subprocess.run([COMMAND, *arguments], input=given, capture_output=True, text=True, timeout=60, check=False)


def test_migrates_to_the_newest_and_refuses_what_is_not_ours(tmp_path):
    database = Database(tmp_path / "new.sqlite")
    with database.writing() as session:
        settings = [session.connection().exec_driver_sql(f"PRAGMA {name}").scalar() for name in PRAGMAS]
    assert settings == ["wal", 2, 1]
    database.close()
    with sqlite3.connect(tmp_path / "new.sqlite") as connection:
        assert connection.execute("SELECT version_num FROM alembic_version").fetchone() == (NEWEST,)
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    assert max(file.name[:4] for file in (MIGRATIONS / "versions").glob("0*.py")) == NEWEST
    with pytest.raises(InputError, match="newer version"):
        Database(tmp_path / "new.sqlite")
    (tmp_path / "text.sqlite").write_text("not a database at all " * 100)
    with pytest.raises(InputError, match="no database"):
        Database(tmp_path / "text.sqlite")


def start(db, port):
    server = subprocess.Popen(
        [COMMAND, "serve", "--db", str(db), "--port", str(port)], stdout=subprocess.PIPE, text=True
    )
    assert server.stdout.readline().strip() == f"Fair Spindle: http://127.0.0.1:{port}"
    for _ in range(100):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=1)
            return server
        except OSError:
            time.sleep(0.05)
    raise AssertionError("the server did not answer")


def post(port, path, body):
    request = urllib.request.Request(
        f"http://127.0.0.1:{port}{path}", json.dumps(body).encode(), {"Content-Type": "application/json"}
    )
    with urllib.request.urlopen(request, timeout=5) as answer:
        return json.load(answer)


def test_every_acknowledged_entry_survives_kill_9_and_a_taken_port_is_told_in_one_line(tmp_path, free_port):
    db = tmp_path / "own.sqlite"
    server = start(db, free_port)
    try:
        second = run("serve", "--db", str(tmp_path / "x.sqlite"), "--port", str(free_port))
        assert second.returncode == 1
        assert len(second.stderr.strip().splitlines()) == 1
        assert "--port" in second.stderr
        post(free_port, "/api/jobs", {"id": "job-00000001", "title": "Springs", "car": "Sample"})
        for n in range(30):
            act = {"kind": "counted", "side": "left", "direction": "off", "flats": 1}
            post(free_port, "/api/jobs/job-00000001/events", {"id": f"count-{n:04}", "seen": n, "act": act})
    finally:
        os.kill(server.pid, signal.SIGKILL)
        server.wait()
    server = start(db, free_port)
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{free_port}/api/jobs/job-00000001", timeout=5) as answer:
            assert json.load(answer)["version"] == 30
    finally:
        server.kill()
        server.wait()


def test_calc_on_the_command_line():
    given = '{"front_gap_mm": 52, "rear_gap_mm": 50, "measured_across_mm": 500}'
    assert json.loads(run("calc", "string-toe", given=given).stdout)["toe_deg"] == pytest.approx(0.2291838)
    refused = run("calc", "string-toe", given='{"front_gap_mm": NaN}')
    assert (refused.returncode, len(refused.stderr.strip().splitlines())) == (2, 1)
