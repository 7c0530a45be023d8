"""What the documents promise is there: links, rooms, rules, sources, and only invented names in the demo."""

import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

from fair_spindle.core.basics.units import UNITS
from fair_spindle.core.joblog.log import ACTS
from fair_spindle.demo import following

ROOT = Path(__file__).parents[2]
PAGES = [ROOT / "README.md", *sorted((ROOT / "docs").glob("*.md"))]


@pytest.mark.parametrize("page", PAGES, ids=lambda page: page.name)
def test_links_lead_somewhere(page):
    targets = re.findall(r"\]\(([^)#]+)\)|src=\"([^\"]+)\"", page.read_text())
    for target in (first or second for first, second in targets):
        assert (page.parent / target).exists(), target


@pytest.mark.parametrize("page", PAGES, ids=lambda page: page.name)
def test_modules_named_on_a_page_are_there(page):
    named = set(re.findall(r"`((?:core|jobs|formats|records|api)/[a-z_/0-9]+\.py)`", page.read_text()))
    assert [name for name in sorted(named) if not (ROOT / "src" / "fair_spindle" / name).exists()] == []


def test_pictures_are_few_and_all_shown():
    shown = set(re.findall(r"screenshots/([a-z-]+\.png)", (ROOT / "README.md").read_text()))
    assert shown == {file.name for file in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert 6 <= len(shown) < 20


def test_architecture_names_the_rooms_there_are():
    text = (ROOT / "docs" / "architecture.md").read_text()
    for room in (ROOT / "src" / "fair_spindle").iterdir():
        if room.name.startswith("__") or room.name == "web_app":
            continue
        assert room.name.removesuffix(".py") in text, room.name
    core = ROOT / "src" / "fair_spindle" / "core"
    for file in (
        file
        for room in ("joblog", "predict", "review", "fields", "planning")
        for file in core.glob(f"{room}/[a-z]*.py")
    ):
        assert file.stem in text, file.stem


def test_job_file_page_names_every_kind_of_act():
    text = (ROOT / "docs" / "job-file.md").read_text()
    assert {kind.kind for kind in ACTS} <= set(re.findall(r"`(\w+)`", text))


def test_demo_values_say_that_they_are_invented():
    assert "invented" in following.SOURCE
    assert all(unit in UNITS for _, unit, *_ in following.SPECS.values())


def test_no_lock_file_or_page_carries_an_address_of_a_registry():
    for name in ("requirements.lock", "web/package-lock.json", *map(str, PAGES)):
        text = (ROOT / name).read_text()
        assert not re.search(r"https?://(?!127\.0\.0\.1|localhost)[^\s\"]*(?:pypi|npmjs|registry)", text), name


def test_every_tool_finds_what_it_rests_on():
    tools = sorted(map(str, (ROOT / "tools").glob("*.py")))
    look = f"import runpy; [runpy.run_path(tool, run_name='looked at') for tool in {tools}]"
    alone = {**os.environ, "PYTHONPATH": str(ROOT / "tools")}
    found = subprocess.run([sys.executable, "-c", look], cwd="/", env=alone, capture_output=True, text=True)
    assert found.returncode == 0, found.stderr[-600:]
