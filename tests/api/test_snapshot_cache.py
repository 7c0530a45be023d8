"""What is worked out of a log is shared by its pages, and never outlives the log it came from."""

import sqlite3
from collections import OrderedDict
from contextlib import closing

import pytest

from fair_spindle.jobs import snapshot_cache
from fair_spindle.jobs.book import standing
from fair_spindle.records.database import Database


@pytest.fixture
def database(filled, tmp_path):
    file = tmp_path / "kept.sqlite"
    file.write_bytes(filled.read_bytes())
    opened = Database(file)
    yield opened
    opened.close()


def write(database, statement, *values):
    with closing(sqlite3.connect(database.path)) as connection:
        connection.execute(statement, values)
        connection.commit()


def test_pages_of_the_same_log_share_it_and_every_change_beside_the_program_is_seen(database, client):
    job = client.get("/api/jobs").json()[0]["id"]
    first = standing(database, job)
    assert standing(database, job) is first
    at = "SELECT seq, act FROM event WHERE book_id = ? AND kind = 'entered' ORDER BY seq DESC"
    with closing(sqlite3.connect(database.path)) as connection:
        seq, act = connection.execute(at, (job,)).fetchone()
    write(database, "UPDATE event SET act = ? WHERE book_id = ? AND seq = ?", act.replace("turn", "flat"), job, seq)
    changed = standing(database, job)
    assert changed is not first, "a line of the same length, changed behind our back"
    assert changed.log[seq - 1] != first.log[seq - 1]
    write(database, "UPDATE event SET act = ? WHERE book_id = ? AND seq = ?", act, job, seq)
    assert standing(database, job) is first
    write(database, "UPDATE book SET title = 'Another name' WHERE id = ?", job)
    assert standing(database, job).book.title == "Another name"
    limits = '{"units": {}, "twist_deg": 3.0}'
    write(database, "INSERT INTO setting (key, version, value) VALUES ('measures', 1, ?)", limits)
    assert standing(database, job).limits != first.limits


def test_only_the_last_ones_looked_at_are_kept(database, client, monkeypatch):
    monkeypatch.setattr(snapshot_cache, "MOST", 2)
    monkeypatch.setattr(snapshot_cache, "_kept", OrderedDict())
    ids = [one["id"] for one in client.get("/api/jobs").json()][:4]
    first = standing(database, ids[0])
    for job in ids[1:]:
        standing(database, job)
    assert len(snapshot_cache._kept) == 2
    assert standing(database, ids[0]) is not first
