"""The smallest requests that were found to break a server: each is answered in words, and nothing is written."""

import io
import sqlite3
import struct
import subprocess
import zipfile
from unittest.mock import Mock

import pytest
from sqlalchemy.exc import OperationalError

from fair_spindle.api.app import create_app
from fair_spindle.api.mishaps import log_file_of
from fair_spindle.formats.csv_rows import read_rows, write_rows
from fair_spindle.formats.procedure_file import shipped, write_procedure
from opened import COMMAND, within

DIGITS = "9" * 5000
FORM = {"code", "message", "field", "details"}


def zipped(spoil=lambda content: content, packing=zipfile.ZIP_DEFLATED):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", packing) as archive:
        archive.writestr("job.json", b'{"format": "fair-spindle/job"}' * 200)
    return spoil(out.getvalue())


def damaged_stream(content):
    return content[:60] + b"\xff" * 20 + content[80:]


def bad_name(content):
    return content.replace(b"job.json", b"\xff\xfe\xfd.json").replace(
        struct.pack("<H", 0x0314), struct.pack("<H", 0x0B14)
    )


def bad_offset(content):
    at = content.rfind(b"PK\x05\x06") + 16
    return content[:at] + struct.pack("<I", 2**31) + content[at + 4 :]


SMALLEST = {
    "a path of 300 letters": ("GET", "/" + "a" * 300, {}),
    "an API path of 3,000 letters": ("GET", "/api/" + "a" * 3000, {}),
    "an origin that is no address": ("POST", "/api/jobs", {"headers": {"Origin": "http://[evil"}, "content": b"{}"}),
    "an integer of 5,000 digits": ("POST", "/api/jobs", {"content": f'{{"id": {DIGITS}}}'}),
    "the same in a job file": ("POST", "/api/jobs/import", {"content": f'{{"format": "x", "version": {DIGITS}}}'}),
    "the same in a procedure": ("POST", "/api/procedures/import?seen=0", {"content": f"key = {DIGITS}"}),
    "a procedure nested 900 deep": (
        "POST", "/api/procedures/import?seen=0", {"content": "a = " + "[" * 900 + "]" * 900},
    ),
    "the same over 900 lines": (
        "POST", "/api/procedures/import?seen=0", {"content": "a = " + "[\n" * 900 + "]" * 900},
    ),
    "a name of 900 parts": ("POST", "/api/procedures/import?seen=0", {"content": ".".join("a" * 900) + " = 1"}),
    "a document nested 100,000 deep": ("POST", "/api/jobs", {"content": "[" * 100_000}),
    "a damaged stream in a zip": ("POST", "/api/jobs/import", {"content": zipped(damaged_stream)}),
    "a name in a zip that is no text": ("POST", "/api/jobs/import", {"content": zipped(bad_name)}),
    "an offset in a zip beyond its end": ("POST", "/api/restore", {"content": zipped(bad_offset)}),
    "a zip cut in its middle": ("POST", "/api/restore", {"content": zipped(lambda content: content[:-40])}),
    "a body larger than it says": ("POST", "/api/jobs", {"content": (b"x" * 2**20 for _ in range(9))}),
    "a length that is no number": ("POST", "/api/jobs", {"headers": {"Content-Length": "-1"}, "content": b""}),
    "a file of pages that is not there": ("GET", "/assets/old-0123.js", {}),
}  # fmt: skip


@pytest.mark.parametrize("name", SMALLEST)
def test_the_smallest_bad_request_is_refused_in_the_one_shape(client, name):
    way, path, body = SMALLEST[name]
    before = client.get("/api/jobs").json()
    answer = client.request(way, path, **body)
    if name == "a path of 300 letters":
        assert answer.status_code == 200, "any other path is a page"
        return
    assert 400 <= answer.status_code < 500, answer.text
    assert set(answer.json()) == FORM
    assert answer.json()["message"].endswith(".")
    assert client.get("/api/jobs").json() == before


def test_every_answer_carries_what_keeps_other_pages_out(client, jobs):
    paths = ("/", "/api/jobs", "/api/nothing", f"/api/jobs/{jobs['finished']}/record.pdf")
    answers = [client.get(path) for path in paths] + [client.get("/api/jobs", headers={"Host": "evil.example"})]
    for answer in answers:
        policy = answer.headers["content-security-policy"]
        assert "default-src 'self'" in policy
        assert "frame-ancestors 'none'" in policy
        assert "unsafe" not in policy
        told = {name: answer.headers[name] for name in ("x-content-type-options", "referrer-policy")}
        assert told == {"x-content-type-options": "nosniff", "referrer-policy": "no-referrer"}
        assert "geolocation=()" in answer.headers["permissions-policy"]


def test_a_zip_is_bounded_by_what_it_unpacks_to(client, monkeypatch):
    monkeypatch.setattr("fair_spindle.formats.job_zip.LARGEST_ARCHIVE", 3000)
    answer = client.post("/api/restore", content=zipped())
    assert (answer.status_code, "more than" in answer.json()["message"]) == (422, True)


def test_what_nobody_foresaw_is_answered_in_words_with_a_reference_into_the_log(client, jobs, monkeypatch):
    def fall(*_, **__):
        raise RuntimeError("the fall itself")

    monkeypatch.setattr("fair_spindle.jobs.book.list_books", fall)
    answer = client.get("/api/jobs")
    told = answer.json()
    assert (answer.status_code, told["code"], set(told)) == (500, "mishap", FORM)
    assert told["details"]["reference"] in told["message"]
    log = log_file_of(client.app.state.database.path).read_text()
    assert told["details"]["reference"] in log
    assert "the fall itself" in log
    assert "the fall itself" not in answer.text


@pytest.mark.parametrize(
    ("words", "code", "status"),
    [
        ("database or disk is full", "full", 507),
        ("database is locked", "busy", 503),
        ("attempt to write a readonly database", "read_only", 503),
    ],
)
def test_a_full_disk_a_lock_and_a_read_only_file_have_words_of_their_own(
    client, jobs, monkeypatch, words, code, status
):
    told = sqlite3.OperationalError(words)
    refused = {"add_line": told, "append": OperationalError("INSERT", {}, told)}
    for name, error in refused.items():
        monkeypatch.setattr(f"fair_spindle.jobs.append.{name}", Mock(side_effect=error))
    car = client.get("/api/cars").json()[0]["id"]
    act = {"kind": "noted", "text": "x"}
    for book in (f"/api/jobs/{jobs['hanging']}", f"/api/cars/{car}"):
        seen = client.get(f"{book}/version").json()["version"]
        answer = client.post(f"{book}/events", json={"id": "refused-01", "seen": seen, "act": act})
        assert (answer.status_code, answer.json()["code"]) == (status, code), book
        assert "lost" not in answer.json()["message"]
        assert client.get(f"{book}/version").json()["version"] == seen


@pytest.mark.parametrize("cell", ["\tx", "\r=1", "=1+1", "@x", "-x"])
def test_no_cell_of_a_table_is_a_formula_and_each_comes_back(cell):
    written = write_rows(("a", "b"), [{"a": cell, "b": "1"}])
    assert b"'" + cell.replace("\r", "\n").encode()[:2] in written
    assert read_rows(written, ("a",), ("a", "b"))[0][1]["a"].strip() == cell.strip()


BAD_PROCEDURES = {
    "a template that is none": (b'known_from = "{axle}.{side}.lower.bush_front"', b'known_from = "{axle.__class__}"'),
    "a key that is no slug": (b'key = "lower_arm"', b'key = "Lower arm!"'),
}


@pytest.mark.parametrize("name", BAD_PROCEDURES)
def test_a_procedure_with_a_template_or_key_that_cannot_be_is_refused(client, name):
    old, new = BAD_PROCEDURES[name]
    told = write_procedure(shipped().procedures["lower_arm"])
    told = told.replace(b'key = "lower_arm"', b'key = "my_arm"', 1) if old != b'key = "lower_arm"' else told
    assert old in told
    answer = client.post("/api/procedures/import?seen=0&apply=true", content=told.replace(old, new, 1))
    assert answer.status_code == 422
    assert ("known_from" if b"known" in old else "small letters") in answer.json()["message"]


def test_a_procedure_that_no_layout_can_be_planned_with_is_refused(client):
    told = """key = "ring"
title = "A ring"
about = "Waits for itself."
[[operations]]
key = "first"
title = "First"
phase = 6
needs = ["second"]
[[operations]]
key = "second"
title = "Second"
phase = 6
needs = ["first"]
"""
    answer = client.post("/api/procedures/import?seen=0&apply=true", content=told)
    assert (answer.status_code, "cannot be planned on any layout" in answer.json()["message"]) == (422, True)
    assert client.get("/api/procedures/ring/file").status_code == 404


def test_an_older_state_put_back_is_noticed_by_a_page_that_knew_more(client, jobs):
    job = f"/api/jobs/{jobs['hanging']}"
    backup = client.get("/api/backup").content
    epoch = client.get("/api/jobs").headers["x-workshop-epoch"]
    seen = client.get(f"{job}/version").json()["version"]
    note = {"id": "later-0001", "seen": seen, "act": {"kind": "noted", "text": "written after the backup"}}
    assert client.post(f"{job}/events", json=note).status_code == 201
    assert client.post("/api/restore?apply=true", content=backup).json()["applied"]
    beyond = client.post(f"{job}/events", json={**note, "id": "later-0002", "seen": seen + 1})
    assert (beyond.status_code, beyond.json()["field"]) == (409, "seen")
    again = {**note, "id": "later-0003"}
    other_life = client.post(f"{job}/events", json=again, headers={"X-Workshop-Epoch": epoch})
    assert (other_life.status_code, "put back" in other_life.json()["message"]) == (409, True)
    now = client.get("/api/jobs").headers["x-workshop-epoch"]
    assert client.post(f"{job}/events", json=again, headers={"X-Workshop-Epoch": now}).status_code == 201


@pytest.mark.parametrize("pair", ["280 " + "9" * 380, "9" * 380 + " 20", "280 1e400"])
def test_a_table_of_a_spring_with_a_number_no_spring_has_is_refused(client, pair):
    client.post("/api/cars", json={"id": "table-car-1", "car": "Any"})
    typed = {"value": {"text": f"300 0; {pair}", "unit": ""}}
    act = {"kind": "entered", "key": "front.damper.stop_table", "method": "typed", "typed": typed}
    answer = client.post("/api/cars/table-car-1/events", json={"id": "table-0001", "seen": 0, "act": act})
    assert (answer.status_code, answer.json()["field"]) == (422, "front.damper.stop_table")


def test_the_same_id_with_another_body_is_a_conflict(client, jobs):
    job = f"/api/jobs/{jobs['hanging']}"
    seen = client.get(f"{job}/version").json()["version"]

    def post(path, body):
        return client.post(path, json=body).status_code

    note = {"id": "twice-0001", "seen": seen, "act": {"kind": "noted", "text": "one"}}
    assert [post(f"{job}/events", note) for _ in range(2)] == [201, 201]
    assert post(f"{job}/events", {**note, "act": {"kind": "noted", "text": "two"}}) == 409
    car = {"id": "twice-car-1", "car": "First"}
    assert [post("/api/cars", car), post("/api/cars", car), post("/api/cars", {**car, "car": "Second"})] == [
        201,
        201,
        409,
    ]
    started = {"id": "twice-job-1", "title": "One", "car": "Some car"}
    assert [post("/api/jobs", started), post("/api/jobs", {**started, "car": "Another"})] == [201, 409]


@pytest.fixture
def spoiled(filled, tmp_path):
    """A copy of the sample workshop with one statement run over it."""

    def spoil(statement):
        file = tmp_path / "spoiled.sqlite"
        file.write_bytes(filled.read_bytes())
        with sqlite3.connect(file) as connection:
            connection.executescript(statement)
        connection.close()
        return file

    return spoil


SPOILED = {
    "a trigger": ("CREATE TRIGGER t AFTER INSERT ON event BEGIN DELETE FROM book; END", "trigger 't'"),
    "a view": ("CREATE VIEW v AS SELECT 1", "view 'v'"),
    "a foreign table": ("CREATE TABLE other (a)", "table 'other'"),
    "no index": ("DROP INDEX ix_book_car_id", "index 'ix_book_car_id'"),
    "a missing column": ("ALTER TABLE shelf DROP COLUMN kind", "kind"),
    "a gap in a log": ("DELETE FROM event WHERE seq = 2", "lines missing"),
    "a log of nothing": ("UPDATE event SET book_id = 'nobody' || book_id", "belongs to no job"),
    "no version": ("DELETE FROM alembic_version", "0 versions"),
    "two versions": ("INSERT INTO alembic_version VALUES ('0001')", "2 versions"),
    "a version of null": (
        "DROP TABLE alembic_version; CREATE TABLE alembic_version (version_num); "
        "INSERT INTO alembic_version VALUES (NULL)", "never was",
    ),
    "version 0000": ("UPDATE alembic_version SET version_num = '0000'", "never was"),
    "another program's": ("DROP TABLE alembic_version", "another program"),
}  # fmt: skip
UNREADABLE = {
    "an act that is none": ("UPDATE event SET act = '{}' WHERE seq = 1", "line 1"),
    "an act that is no JSON": ("UPDATE event SET act = '{' WHERE seq = 2", "line 2"),
    "a kind that never was": ("UPDATE book SET template = 'other' WHERE template <> 'car'", "kind that never was"),
    "a setting that is no JSON": ("UPDATE setting SET value = '{'", "setting"),
}


@pytest.mark.parametrize("name", SPOILED)
def test_a_database_that_is_not_wholly_ours_is_refused_and_left_as_it_is(spoiled, name, client):
    statement, words = SPOILED[name]
    file = spoiled(statement)
    before, beside = file.read_bytes(), sorted(file.parent.iterdir())
    with pytest.raises(Exception, match=words), within(create_app(file)):
        pass
    assert file.read_bytes() == before
    assert sorted(file.parent.iterdir()) == beside
    refused = client.post("/api/restore", content=backup_of(file))
    assert (refused.status_code, words in refused.json()["message"]) == (422, True)


@pytest.mark.parametrize(
    ("content", "more"),
    [(b"no database at all", []), (b"SQLite format 3\x00" + b"\xff" * 5000, ["--plain-http"]), (None, [])],
)
def test_a_start_on_a_file_that_cannot_be_served_is_one_plain_line_and_status_2(tmp_path, free_port, content, more):
    file = tmp_path / "wrong.sqlite"
    if content is None:
        with sqlite3.connect(file) as connection:
            connection.execute("CREATE TABLE other (a)")
        connection.close()
    else:
        file.write_bytes(content)
    before = file.read_bytes()
    command = [COMMAND, "serve", "--db", str(file), "--port", str(free_port), *more]
    ended = subprocess.run(command, capture_output=True, text=True, timeout=120, check=False)
    assert (ended.returncode, ended.stdout, len(ended.stderr.strip().splitlines())) == (2, "", 1), ended.stderr
    assert (file.read_bytes(), [one.name for one in tmp_path.iterdir()]) == (before, ["wrong.sqlite"])


@pytest.mark.parametrize("name", UNREADABLE)
def test_a_backup_that_cannot_be_read_is_refused_with_what_and_where(spoiled, name, client):
    statement, words = UNREADABLE[name]
    refused = client.post("/api/restore?apply=true", content=backup_of(spoiled(statement)))
    assert (refused.status_code, words in refused.json()["message"]) == (422, True)
    assert client.get("/api/jobs").status_code == 200


def backup_of(file):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("workshop.sqlite", file.read_bytes())
    return out.getvalue()
