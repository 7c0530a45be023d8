"""The command line: published calculations in and out, and refusals that say what to do."""

import json
import socket
from pathlib import Path

import pytest
from typer.testing import CliRunner

from fair_spindle.calculations import CALCULATIONS
from fair_spindle.cli import app
from fair_spindle.core.basics.errors import SpindleError

CASES = json.loads((Path(__file__).parent.parent / "published" / "calculation-cases.json").read_text())
RUN = CliRunner()


def calc(name, data):
    return RUN.invoke(app, ["calc", name], input=data if isinstance(data, bytes) else json.dumps(data))


@pytest.mark.published
@pytest.mark.parametrize("name", ["toe-convert", "sway-bar", "bolt-tension"])
def test_a_calculation_answers_as_its_published_cases_say(name):
    """Source: the independent check values that ship beside the calculations."""
    for case in (one for one in CASES if one["calculation"] == name):
        found = calc(name, case["input"])
        assert found.exit_code == 0, found.stderr
        told = json.loads(found.stdout)
        for key, value in case["output"].items():
            assert told[key] == pytest.approx(value, rel=1e-6), key


def test_every_calculation_is_listed_and_tells_its_schema():
    listed = RUN.invoke(app, ["calc", "--list"]).stdout
    for name in CALCULATIONS:
        assert name in listed
        told = json.loads(RUN.invoke(app, ["calc", name, "--schema"]).stdout)
        assert told["input"]["type"] == told["output"]["type"] == "object"


@pytest.mark.parametrize(
    ("name", "data", "words"),
    [
        ("nothing-like-it", {}, "nothing-like-it"),
        ("axle-toe", b"{", "JSON"),
        ("string-toe", b"", "JSON"),
        ("string-toe", {"front_gap_mm": 52, "rear_gap_mm": 50, "measured_across_mm": 1}, "exceed the 1 mm"),
        ("axle-toe", {}, "Field required"),
        ("string-toe", {"front_gap_mm": -5, "rear_gap_mm": 50, "measured_across_mm": 400}, "front_gap_mm"),
    ],
)
def test_what_cannot_be_calculated_ends_with_one_line_and_status_2(name, data, words):
    found = calc(name, data)
    assert found.exit_code == 2
    assert found.stdout == ""
    assert len(found.stderr.splitlines()) == 1
    assert words in found.stderr


def test_the_demo_never_writes_over_a_file_and_a_taken_port_is_named(tmp_path):
    file = tmp_path / "mine.sqlite"
    file.write_bytes(b"a workshop")
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = str(taken.getsockname()[1])
        busy = RUN.invoke(app, ["serve", "--port", port, "--db", str(file)])
    assert busy.exit_code == 1
    assert f"port {port}" in busy.stderr
    assert "--port" in busy.stderr
    refused = RUN.invoke(app, ["demo", "--port", port, "--db", str(file)])
    assert refused.exit_code == 2
    assert "exists already" in refused.stderr
    assert file.read_bytes() == b"a workshop"


def command(*words):
    return RUN.invoke(app, [str(word) for word in words])


def test_a_job_goes_out_of_one_workshop_and_into_another(filled, tmp_path):
    ours, theirs, file = tmp_path / "ours.sqlite", tmp_path / "theirs.sqlite", tmp_path / "job.zip"
    ours.write_bytes(filled.read_bytes())
    unsure = command("export", "front", file, "--db", ours)
    assert unsure.exit_code == 2
    assert "jobs fit" in unsure.stderr
    assert not file.exists()
    sure = command("export", "27 mm halm", file, "--db", ours)
    assert (sure.exit_code, sure.stderr) == (0, "")
    again = command("export", "27 mm halm", file, "--db", ours)
    assert "exists already" in again.stderr
    came = command("import", file, "--db", theirs)
    assert came.exit_code == 0, came.stderr
    assert "Front springs 27 mm lower" in came.stdout
    twice = command("import", file, "--db", theirs)
    assert "here already" in twice.stdout + twice.stderr
    with pytest.raises(SpindleError, match="no text file"):
        RUN.invoke(app, ["import", str(ours), "--db", str(theirs)], catch_exceptions=False)


def test_the_robot_is_asked_for_layouts_it_knows():
    refused = RUN.invoke(app, ["blind", "--layout", "hover"])
    assert (refused.exit_code, "got hover" in refused.stderr) == (2, True)
