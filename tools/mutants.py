"""Deliberate errors in the calculation modules of the core, one at a time: how many of them a test notices.

``mutants.py`` runs every module of ``DIRECT`` against its direct tests with mutmut, in a copy outside the clone;
``mutants.py NAME …`` some of them; ``mutants.py --swaps N [SEED]`` a sample of swapped sides, axles and signs over
the other rooms, each against the tests that run its line.  An error that only changes the
words of a message counts apart, and so does one that cannot matter: ``cannot_matter.toml`` lists these, each with
its reason.
"""

import ast
import difflib
import io
import json
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
import tokenize
import tomllib
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from touching import ROOMS, touching_tests

ROOT = Path(__file__).parent.parent
BIN = Path(sys.executable).parent
DIRECT = {
    "bolts/fasteners": [
        "published/test_threads.py",
        "published/test_bolts.py",
        "published/test_guards.py",
        "published/test_rubber_edges.py",
    ],
    "bolts/tightening": ["published/test_bolts.py", "published/test_guards.py"],
    "geometry/drag_link": ["published/test_solid_axle.py", "published/test_guards.py"],
    "springs/travel": ["published/test_travel_edges.py"],
    "springs/sway_bar": ["published/test_springs.py", "published/test_guards.py"],
    "springs/rubber": [
        "core/test_rubber_and_heights.py",
        "published/test_guards.py",
        "published/test_rubber_edges.py",
    ],
    "basics/bounded": ["published/test_edges.py"],
    "springs/springs": [
        "published/test_springs.py",
        "published/test_edges.py",
        "published/test_guards.py",
        "published/test_curves.py",
    ],
    "geometry/toe": ["published/test_cases.py", "published/test_geometry.py", "published/test_guards.py"],
    "turns/threads": ["published/test_cases.py", "published/test_thread_edges.py"],
    "springs/heights": ["published/test_cases.py", "published/test_height_edges.py"],
    "basics/gauging": ["published/test_gauging.py"],
    "geometry/wheel_angles": ["published/test_geometry.py", "published/test_guards.py"],
    "geometry/corner": ["published/test_by_hand.py", "published/test_cases.py", "published/test_geometry.py"],
    "geometry/kinematics": ["published/test_cases.py", "published/test_geometry.py", "published/test_refusals.py"],
    "geometry/measures": ["core/test_geometry_of_cars.py"],
    "geometry/solid_axle": [
        "published/test_by_hand.py",
        "published/test_cases.py",
        "published/test_solid_axle.py",
        "published/test_refusals.py",
    ],
    "geometry/twist_beam": ["published/test_cases.py", "published/test_solid_axle.py", "published/test_refusals.py"],
    "springs/loads": ["published/test_by_hand.py"],
    "springs/perches": [
        "published/test_by_hand.py",
        "published/test_guards.py",
        "published/test_springs.py",
        "published/test_edges.py",
    ],
    "springs/car_heights": [
        "published/test_by_hand.py",
        "published/test_cases.py",
        "published/test_springs.py",
        "published/test_edges.py",
    ],
    "turns/adjuster": ["published/test_turns_by_hand.py"],
    "turns/axle_turns": ["published/test_turns_by_hand.py"],
    "turns/monte_carlo": ["published/test_turns_by_hand.py"],
    "turns/realign": [
        "published/test_turns_by_hand.py",
        "published/test_cases.py",
        "published/test_geometry.py",
        "published/test_edges.py",
    ],
    "basics/refit": ["published/test_springs.py"],
    "basics/units": ["published/test_units.py", "core/test_readings.py"],
    "basics/spelling": ["published/test_units.py", "core/test_readings.py"],
}
CANNOT_MATTER = tomllib.loads((Path(__file__).parent / "cannot_matter.toml").read_text())
# Errors tried in one module; a longer one is sampled.
MOST = 120
TESTS = ("src/fair_spindle/core", "tests/core", "tests/published", "tests/formats", "tests/records", "tests/api")
NOT_COPIED = shutil.ignore_patterns(".venv", ".git", "node_modules", "__pycache__")
CONFIG = """
[project]
name = "copy"
version = "0"
[tool.mutmut]
source_paths = ["src"]
only_mutate = ["src/fair_spindle/core/{name}.py"]
pytest_add_cli_args_test_selection = [{tests}]
pytest_add_cli_args = [
  "--noconftest", "-p", "no:cacheprovider", "--hypothesis-profile=ci", "--doctest-modules", "-x", "-q",
]
also_copy = ["src", "tests", "docs", "web/src/api"]
[tool.pytest.ini_options]
pythonpath = ["src", "tests/published", "tests/core", "tests"]
markers = ["published: x", "identity: x", "screen: x"]
"""
SWAPS = {
    '"left"': '"right"', '"right"': '"left"', '"front"': '"rear"', '"rear"': '"front"', "low": "high", "high": "low",
    "-": "+", "+": "-", "<=": ">=", "before": "after",
}  # fmt: skip


@dataclass(frozen=True)
class Site:
    """A place where one token can be swapped: file, line (from 1), column, what stands there and what would."""

    file: Path
    line: int
    column: int
    old: str
    new: str

    def __str__(self) -> str:
        return f"{self.file.relative_to(ROOT)}:{self.line}: {self.old} -> {self.new}"

    def swapped(self) -> str:
        """The line as it would stand."""
        line = self.file.read_text().splitlines(keepends=True)[self.line - 1]
        return f"{line[: self.column]}{self.new}{line[self.column + len(self.old) :]}"

    def cannot_matter(self) -> bool:
        """Whether the list says why no answer changes."""
        known = CANNOT_MATTER["swaps"].get(
            str(self.file.relative_to(ROOT / "src/fair_spindle/core").with_suffix("")), {}
        )
        return any(part in self.swapped() for part in known)


def module(name: str) -> tuple[int, int, int, int, list[str]]:
    """Errors put into one module, noticed, of words alone, that cannot matter, and survivors with file and line."""
    with tempfile.TemporaryDirectory() as place:
        copy = Path(place)
        for part in ("src", "tests", "docs"):
            shutil.copytree(
                ROOT / part, copy / part, ignore=shutil.ignore_patterns("web_app", "__pycache__", "screenshots")
            )
        tests = [f"src/fair_spindle/core/{name}.py", *(f"tests/{one}" for one in DIRECT[name])]
        (copy / "pyproject.toml").write_text(CONFIG.format(name=name, tests=", ".join(f'"{one}"' for one in tests)))
        drawn = _drawn(copy)
        subprocess.run(
            [BIN / "mutmut", "run", "--max-children", "2", *drawn], cwd=copy, capture_output=True, check=False
        )
        told = subprocess.run(
            [BIN / "mutmut", "results", "--all", "true"], cwd=copy, capture_output=True, text=True
        ).stdout
        stood = {one: how for one, how in re.findall(r"^\s+(\S+): (.+)$", told, re.M) if one in drawn}
        if not stood or "not checked" in stood.values():
            raise SystemExit(f"core/{name}.py: its tests do not pass as they are, so nothing can be said")
        survived = [one for one, how in stood.items() if how in ("survived", "no tests")]
        found, words, idle = [], 0, 0
        for one in survived:
            diff = subprocess.run([BIN / "mutmut", "show", one], cwd=copy, capture_output=True, text=True).stdout
            gone, come = (re.findall(rf"^\{sign}(?!\{sign})(.*)$", diff, re.M) for sign in "-+")
            if _words_only(gone, come):
                words += 1
            elif _cannot_matter(name, one, " ".join(come)):
                idle += 1
            else:
                found.append(f"core/{name}.py:{_line(name, gone)}: {' '.join(come).strip()[:90]}")
        return len(stood), len(stood) - len(survived), words, idle, found


def _drawn(copy: Path) -> list[str]:
    """Names of the errors to try: all of a module, of a long one a sample that is the same each time."""
    nothing = [BIN / "mutmut", "run", "--max-children", "2", "only to have the errors made"]
    subprocess.run(nothing, cwd=copy, capture_output=True, check=False)
    made = [
        one for file in (copy / "mutants").rglob("*.meta") for one in json.loads(file.read_text())["exit_code_by_key"]
    ]
    return sorted(random.Random(1).sample(sorted(made), min(MOST, len(made))))


def _words_only(gone: list[str], come: list[str]) -> bool:
    """Whether a change only touches what stands in quotes, or the name an error is given."""

    def bare(lines: list[str]) -> str:
        return re.sub(r'f?"[^"]*"|None', "''", " ".join(lines)).replace(" ", "")

    return bare(gone) == bare(come)


def _cannot_matter(name: str, mutant: str, line: str) -> bool:
    """Whether the list says why: a function that only says where a search begins, or a line as it would stand."""
    known = CANNOT_MATTER.get(name, {})
    function = re.split(r"[.ǁ]x?_?", mutant.split("__mutmut")[0])[-1]
    return function in known.get("functions", {}) or any(
        re.search(shape, " ".join(line.split()))
        for shape in known.get("lines", {}) | CANNOT_MATTER["anywhere"]["lines"]
    )


def _line(name: str, gone: list[str]) -> int:
    text = (ROOT / "src/fair_spindle/core" / f"{name}.py").read_text().splitlines()
    close = difflib.get_close_matches(gone[0].strip() if gone else "", [line.strip() for line in text], 1)
    return next((n for n, line in enumerate(text, 1) if close and line.strip() == close[0]), 0)


def swaps(count: int, seed: int = 1) -> None:
    """Swap a side, an axle, a limit or a sign in the other rooms, each held against the tests that run its line."""
    files = sorted(file for room in ROOMS for file in (ROOT / "src/fair_spindle/core" / room).glob("[a-z]*.py"))
    drawn = random.Random(seed).sample([site for file in files for site in _sites(file)], count)
    with tempfile.TemporaryDirectory() as place:
        copy, seen = Path(place) / "copy", Path(place) / "seen"
        shutil.copytree(ROOT, copy, ignore=NOT_COPIED)
        seen.mkdir()
        touching = touching_tests(copy, seen, TESTS)
        tests = [_touching(touching, site) for site in drawn]
        with ThreadPoolExecutor(os.cpu_count()) as hands:
            noticed = list(hands.map(_fails, [Path(place)] * count, drawn, tests))
    idle = [not by and site.cannot_matter() for site, by in zip(drawn, noticed, strict=True)]
    for site, by, ran, cannot in zip(drawn, noticed, tests, idle, strict=True):
        if not by:
            print(f"{'cannot matter' if cannot else 'not noticed'}, by {len(ran)} tests: {site}")
    share = sum(noticed) / max(count - sum(idle), 1)
    print(f"swaps: {sum(noticed)} of {count} noticed, {sum(idle)} cannot matter: {share:.0%}")


def _sites(file: Path) -> Iterator[Site]:
    """Tokens of a file that can be swapped: no words, no imports, no annotation, at most one of a kind in a line."""
    text = file.read_text()
    apart = [node for node in ast.walk(ast.parse(text)) if _is_no_code(node)]
    apart += [node.annotation for node in ast.walk(ast.parse(text)) if getattr(node, "annotation", None)]
    passed: set[tuple[int, str]] = set()
    for token in tokenize.generate_tokens(io.StringIO(text).readline):
        (line, column), old = token.start, token.string
        if token.type == tokenize.OP and not token.line[:column].endswith(" "):
            continue  # a sign of one number, not a sum
        if old in SWAPS and (line, old) not in passed and not any(_holds(node, token) for node in apart):
            passed.add((line, old))
            yield Site(file, line, column, old, SWAPS[old])


def _is_no_code(node: ast.AST) -> bool:
    words = isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
    return (
        words
        or isinstance(node, (ast.Import, ast.ImportFrom))
        or (isinstance(node, ast.AnnAssign) and not node.value)
    )


def _holds(node: Any, token: tokenize.TokenInfo) -> bool:
    return bool((node.lineno, node.col_offset) <= token.start < (node.end_lineno, node.end_col_offset))


def _touching(touching: dict[tuple[str, int], dict[str, float]], site: Site) -> list[str]:
    """Tests that run a statement, quickest first; of a line that is run at import, those of its whole file."""
    name = str(site.file.relative_to(ROOT))
    at = max((line for of, line in touching if of == name and line <= site.line), default=0)
    found = touching.get((name, at)) or {
        test: took for (of, _), each in touching.items() if of == name for test, took in each.items()
    }
    return sorted(found, key=found.__getitem__)


def _fails(place: Path, site: Site, tests: list[str]) -> bool:
    """Whether one of the tests fails in a copy with one thing swapped."""
    if not tests:
        return False
    with tempfile.TemporaryDirectory(dir=place) as own:
        copy = Path(own) / "copy"
        shutil.copytree(place / "copy", copy)
        target = copy / site.file.relative_to(ROOT)
        lines = target.read_text().splitlines(keepends=True)
        lines[site.line - 1] = site.swapped()
        target.write_text("".join(lines))
        (copy / "wanted").write_text("\n".join(tests))
        env = {"PYTHONPATH": str(copy / "src"), "PATH": "/usr/bin"}
        command = [sys.executable, "-m", "pytest", "-x", "-q", "@wanted"]
        failed = bool(subprocess.run(command, cwd=copy, capture_output=True, env=env).returncode)
        print(f"{'noticed' if failed else 'NOT noticed'}: {site}", flush=True)
        return failed


def main(asked: list[str]) -> None:
    if asked[:1] == ["--swaps"]:
        swaps(*map(int, asked[1:3]))
        return
    print("| module | errors | noticed | words only | cannot matter | share |", flush=True)
    print("| --- | --- | --- | --- | --- | --- |", flush=True)
    survivors = []
    for name in asked or DIRECT:
        errors, noticed, words, idle, found = module(name)
        share = noticed / max(errors - words - idle, 1)
        print(f"| `core/{name}.py` | {errors} | {noticed} | {words} | {idle} | {share:.0%} |", flush=True)
        survivors += found
    print("\n".join(survivors))


if __name__ == "__main__":
    main(sys.argv[1:])
