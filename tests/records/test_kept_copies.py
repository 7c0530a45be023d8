"""Copies the workshop keeps of itself, and bringing one back on an empty machine."""

import contextlib
import hashlib
import io
import multiprocessing
import random
import shutil
import sqlite3
import threading
import time
from contextlib import closing

import pytest
from PIL import Image

from fair_spindle.core.joblog.log import Noted
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import all_jobs, standing, start_job
from fair_spindle.jobs.models import JobCreate
from fair_spindle.jobs.pictures import attach
from fair_spindle.jobs.soundness import check_content
from fair_spindle.records.database import Database
from fair_spindle.records.kept_copies import _too_many, copy_folder, keep_copy, list_copies
from fair_spindle.records.pictures import load_picture, picture_folder
from fair_spindle.records.soundness import check_whole
from opened import opened


def picture(colour="red"):
    out = io.BytesIO()
    Image.new("RGB", (8, 8), colour).save(out, "png")
    return out.getvalue()


def test_a_copy_is_kept_at_the_start_and_none_where_nothing_changed(filled, tmp_path, monkeypatch):
    monkeypatch.setattr("fair_spindle.api.app.FIRST_PAGE_SECONDS", 0)
    file = tmp_path / "own.sqlite"
    shutil.copy(filled, file)
    for _ in range(2):
        with opened(file, keeps_copies=True) as client:
            for _ in range(100):
                if client.get("/api/backups").json():
                    break
                time.sleep(0.05)
            assert len(client.get("/api/backups").json()) == 1
            time.sleep(0.3)


def test_ten_are_kept_and_three_of_a_day():
    days = [f"2026-03-{day:02}T{hour:02}0000Z.sqlite" for day in range(20, 0, -1) for hour in range(18, 12, -1)]
    gone = set(_too_many(days))
    kept = [name for name in days if name not in gone]
    assert len(kept) == 10
    assert [name[8:13] for name in kept[:4]] == ["20T18", "20T17", "20T16", "19T18"]


def test_a_copy_is_brought_back_on_an_empty_machine_with_its_pictures(client, jobs, tmp_path):
    path = f"/api/jobs/{jobs['measured']}"
    seen = client.get(f"{path}/version").json()["version"]
    query = f"key=picture-0001&seen={seen}&subject=baseline&name=hub.png"
    assert client.post(f"{path}/pictures?{query}", content=picture()).status_code == 201
    before = client.get(path).json()
    name = client.post("/api/backups").json()[0]["name"]
    empty = tmp_path / "elsewhere" / "empty.sqlite"
    empty.parent.mkdir()
    shutil.copytree(copy_folder(client.app.state.database.path), copy_folder(empty))
    with opened(empty) as other:
        assert other.get("/api/jobs").json() == []
        looked = other.post(f"/api/backups/{name}/restore").json()
        assert (looked["applied"], other.get("/api/jobs").json()) == (False, [])
        assert other.post(f"/api/backups/{name}/restore?apply=true").json()["applied"]
        assert other.get(path).json() == before
        sha = before["pictures"][-1]["sha256"]
        assert other.get(f"{path}/pictures/{sha}").status_code == 200
        assert other.post("/api/backups/..%2Fx/restore").status_code in (404, 405)
        assert other.post("/api/backups/2026-01-01T000000Z.sqlite/restore").status_code == 404


def test_a_copy_that_does_not_hold_is_not_kept(filled, tmp_path):
    file = tmp_path / "own.sqlite"
    shutil.copy(filled, file)
    database = Database(file)
    with database.writing() as session:
        session.connection().exec_driver_sql("UPDATE event SET act = '{' WHERE seq = 1")
    with pytest.raises(Exception, match="line 1"):
        keep_copy(database, check_content)
    assert list_copies(file) == []
    database.close()


def test_database_and_log_copied_at_any_moment_open_with_every_entry_acknowledged_before(tmp_path):
    """What a loss of power leaves: the files as they lie, taken while entries are written."""
    file = tmp_path / "live.sqlite"
    database = Database(file)
    start_job(database, JobCreate(id="power-0001", title="Power", car="Any"))
    acknowledged, over = [0], threading.Event()

    def write():
        while not over.is_set():
            n = acknowledged[0]
            write_act(database, "power-0001", f"entry-{n:06}", n, Noted(f"entry {n}"))
            acknowledged[0] = n + 1

    writer = threading.Thread(target=write)
    writer.start()
    chance = random.Random(4)
    try:
        for moment in range(25):
            time.sleep(chance.uniform(0.005, 0.05))
            known = acknowledged[0]
            copied = tmp_path / f"copy-{moment}.sqlite"
            for ending in ("-wal", ""):
                # The log first: what a checkpoint moves meanwhile stands in both.
                source = file.with_name(f"{file.name}{ending}")
                if source.exists():
                    shutil.copy(source, copied.with_name(f"{copied.name}{ending}"))
            check_copy(copied, known)
    finally:
        over.set()
        writer.join()
        database.close()
    assert acknowledged[0] > 25


def check_copy(copied, known):
    with closing(sqlite3.connect(copied)) as connection:
        check_whole(connection)
        assert connection.execute("SELECT count(*) FROM event").fetchone()[0] >= known


def work_until_killed(file, pipe, moment):
    """Everything that writes, one after the other; each is told once it is acknowledged."""
    database = Database(file)
    for n in range(100_000):
        key = f"kill-{moment:02}-{n:06}"
        if n % 5 == 4:
            keep_copy(database, check_content)
        elif n % 5 == 3:
            start_job(database, JobCreate(id=key, title="Another", car="Any"))
            pipe.send(("job", key))
        else:
            if n % 5 == 2:
                seen = standing(database, "killed-0001").version
                attach(
                    database, "killed-0001", key, seen, "front.left.height", "hub.png", picture((n % 200, moment, 9))
                )
            else:
                note = Noted(f"{moment} {n}")
                write_act(database, "killed-0001", key, standing(database, "killed-0001").version, note)
            pipe.send(("entry", key))


def test_everything_acknowledged_survives_a_kill_at_any_moment(tmp_path):
    file = tmp_path / "killed.sqlite"
    database = Database(file)
    start_job(database, JobCreate(id="killed-0001", title="Killed", car="Any"))
    database.close()
    chance, told = random.Random(7), []
    forking = multiprocessing.get_context("fork")
    for moment in range(24):
        ours, theirs = forking.Pipe(duplex=False)
        worker = forking.Process(target=work_until_killed, args=(file, theirs, moment))
        worker.start()
        theirs.close()
        assert ours.poll(120), "the one who writes came to nothing"
        told.append(ours.recv())
        time.sleep(chance.uniform(0, 0.4))
        worker.kill()
        worker.join()
        with contextlib.suppress(EOFError):
            while True:
                told.append(ours.recv())
    database = Database(file)
    now = standing(database, "killed-0001")
    written = {event.id for event in now.log}
    assert {key for kind, key in told if kind == "entry"} <= written
    assert [event.seq for event in now.log] == list(range(1, len(now.log) + 1))
    there = {line.id for line in all_jobs(database, 200_000)}
    assert {key for kind, key in told if kind == "job"} <= there
    for _, act in now.state.attached:
        kept = load_picture(picture_folder(file), act.sha256)
        assert hashlib.sha256(kept).hexdigest() == act.sha256
    assert len(list_copies(file)) <= 10
    database.close()
    assert len(told) > 72
