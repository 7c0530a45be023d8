"""Deliberate errors in the calculation modules of the core, one at a time: how many of them a test notices.

``mutants.py`` runs every module of ``DIRECT`` against its direct tests with mutmut, in a copy outside the clone;
``mutants.py NAME …`` some of them; ``mutants.py --swaps N [SEED]`` a sample of swapped sides, axles and signs over
the other rooms, each against the tests.  An error that only changes the words of a message counts apart.
"""

import ast
import difflib
import random
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

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
}
# The quick tests first; what they do not notice is held against the slow ones.
TESTS = (
    ("tests/core", "--deselect", "tests/core/test_hidden_cars.py"),
    ("tests/published", "tests/formats", "tests/records", "tests/api", "tests/core/test_hidden_cars.py"),
)
NOT_COPIED = shutil.ignore_patterns(".venv", ".git", "node_modules", "web_app", "__pycache__")
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
SWAPS = (
    ('"left"', '"right"'), ('"right"', '"left"'), ('"front"', '"rear"'), ('"rear"', '"front"'),
    (".low", ".high"), (".high", ".low"), (" - ", " + "), (" + ", " - "), ("before", "after"), (" <= ", " >= "),
)  # fmt: skip


def module(name: str) -> tuple[int, int, int, list[str]]:
    """Errors put into one module, noticed, those of words alone, and survivors with file and line."""
    with tempfile.TemporaryDirectory() as place:
        copy = Path(place)
        for part in ("src", "tests", "docs"):
            shutil.copytree(
                ROOT / part, copy / part, ignore=shutil.ignore_patterns("web_app", "__pycache__", "screenshots")
            )
        tests = [f"src/fair_spindle/core/{name}.py", *(f"tests/{one}" for one in DIRECT[name])]
        (copy / "pyproject.toml").write_text(CONFIG.format(name=name, tests=", ".join(f'"{one}"' for one in tests)))
        subprocess.run([BIN / "mutmut", "run", "--max-children", "2"], cwd=copy, capture_output=True, check=False)
        told = subprocess.run(
            [BIN / "mutmut", "results", "--all", "true"], cwd=copy, capture_output=True, text=True
        ).stdout
        stood = dict(re.findall(r"^\s+(\S+): (.+)$", told, re.M))
        if not stood or "not checked" in stood.values():
            raise SystemExit(f"core/{name}.py: its tests do not pass as they are, so nothing can be said")
        survived = [one for one, how in stood.items() if how in ("survived", "no tests")]
        found, words = [], 0
        for one in survived:
            diff = subprocess.run([BIN / "mutmut", "show", one], cwd=copy, capture_output=True, text=True).stdout
            gone, come = (re.findall(rf"^\{sign}(?!\{sign})(.*)$", diff, re.M) for sign in "-+")
            if _words_only(gone, come):
                words += 1
            else:
                found.append(f"core/{name}.py:{_line(name, gone)}: {' '.join(come).strip()[:90]}")
        return len(stood), len(stood) - len(survived), words, found


def _words_only(gone: list[str], come: list[str]) -> bool:
    """Whether a change only touches what stands in quotes, or the name an error is given."""

    def bare(lines: list[str]) -> str:
        return re.sub(r'f?"[^"]*"|None', "''", " ".join(lines)).replace(" ", "")

    return bare(gone) == bare(come)


def _line(name: str, gone: list[str]) -> int:
    text = (ROOT / "src/fair_spindle/core" / f"{name}.py").read_text().splitlines()
    close = difflib.get_close_matches(gone[0].strip() if gone else "", [line.strip() for line in text], 1)
    return next((n for n, line in enumerate(text, 1) if close and line.strip() == close[0]), 0)


def swaps(count: int, seed: int = 1) -> None:
    """Swap a side, an axle, a limit or a sign somewhere in the other rooms of the core."""
    rng = random.Random(seed)
    rooms = ("predict", "joblog", "review")
    files = sorted(file for room in rooms for file in (ROOT / "src/fair_spindle/core" / room).glob("[a-z]*.py"))
    sites = [(file, n, old, new) for file in files for n, line in _code(file) for old, new in SWAPS if old in line]
    noticed = 0
    if _fails(None):
        raise SystemExit("the tests do not pass as they are, so nothing can be said")
    for file, n, old, new in rng.sample(sites, count):
        if _fails((file, n, old, new)):
            noticed += 1
        else:
            print(f"not noticed: {file.relative_to(ROOT)}:{n}: {old.strip()} -> {new.strip()}", flush=True)
    print(f"swaps: {noticed} of {count} noticed")


def _fails(swap: tuple[Path, int, str, str] | None) -> bool:
    """Whether a test fails in a copy with one thing swapped."""
    with tempfile.TemporaryDirectory() as place:
        copy = Path(place) / "copy"
        shutil.copytree(ROOT, copy, ignore=NOT_COPIED)
        if swap:
            file, n, old, new = swap
            target = copy / file.relative_to(ROOT)
            lines = target.read_text().splitlines(keepends=True)
            lines[n - 1] = lines[n - 1].replace(old, new, 1)
            target.write_text("".join(lines))
        env = {"PYTHONPATH": str(copy / "src"), "PATH": "/usr/bin"}
        command = [sys.executable, "-m", "pytest", "-x", "-q", "-m", "not screen"]
        return any(
            subprocess.run([*command, *tests], cwd=copy, capture_output=True, env=env).returncode for tests in TESTS
        )


def _code(file: Path) -> list[tuple[int, str]]:
    """Lines of a file that are code, not docstrings or comments."""
    text = file.read_text()
    words = set()
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            words |= set(range(node.lineno, (node.end_lineno or node.lineno) + 1))
    lines = [(n, line) for n, line in enumerate(text.splitlines(), 1) if n not in words]
    return [(n, line) for n, line in lines if not line.lstrip().startswith(("#", "import", "from"))]


def main(asked: list[str]) -> None:
    if asked[:1] == ["--swaps"]:
        swaps(*map(int, asked[1:3]))
        return
    print("| module | errors | noticed | words only | share |\n| --- | --- | --- | --- | --- |", flush=True)
    survivors = []
    for name in asked or DIRECT:
        errors, noticed, words, found = module(name)
        print(
            f"| `core/{name}.py` | {errors} | {noticed} | {words} | {noticed / max(errors - words, 1):.0%} |",
            flush=True,
        )
        survivors += found
    print("\n".join(survivors))


main(sys.argv[1:])
