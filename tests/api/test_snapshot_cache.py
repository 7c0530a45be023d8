"""What is worked out of a log is shared by its pages, and never outlives the log it came from."""

import sqlite3
from collections import OrderedDict
from contextlib import closing

from fair_spindle.core.joblog import replay
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Event, Noted, Reopened
from fair_spindle.jobs import snapshot_cache
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.snapshot import Standing


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
    assert list(standing(database, job).log) == list(first.log)
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


def test_what_a_write_worked_out_is_what_the_next_reader_gets_and_an_added_line_is_gone_on_from(database, client):
    job = client.get("/api/jobs").json()[0]["id"]
    before = standing(database, job)
    if before.state.signature:
        before = write_act(database, job, "again-0001", before.version, Reopened("to look again"))
    after = write_act(database, job, "note-0001", before.version, Noted("one"))
    assert standing(database, job) is after
    act = '{"kind": "noted", "text": "two", "step": ""}'
    line = (job, after.version + 1, "beside-01", "2026-11-27T08:00:00.000Z", "noted", act, "", "")
    write(database, f"INSERT INTO event VALUES ({', '.join('?' * len(line))})", *line)
    beside = standing(database, job)
    assert beside.log[:-1] == list(after.log)
    assert [note.text for _, note in beside.state.notes][-2:] == ["one", "two"]
    assert beside.state == Standing(beside.book, beside.log, beside.limits).state, "the same as worked out anew"


def test_an_undo_looks_only_at_what_came_after(monkeypatch):
    asked = []
    monkeypatch.setattr(replay, "permit", lambda act, *_: asked.append(act) or act)
    log = [Event(f"line-{n:04}", n + 1, "", Noted(str(n))) for n in range(400)]
    replay.undoing("line-0390", log, WORK)
    assert [act.text for act in asked] == [str(n) for n in range(391, 400)]
