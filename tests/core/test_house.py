"""The house's own rules: imports run one way, public core functions are fully described."""

import ast
import importlib
import inspect
import pkgutil
import re
from pathlib import Path

import fair_spindle.core

ROOT = Path(fair_spindle.core.__file__).parents[1]
FLOORS = {
    "core": 0,
    "records": 1,
    "formats": 1,
    "calculations": 1,
    "stand_ins": 1,
    "practice": 1,
    "network": 1,
    "jobs": 2,
    "demo": 3,
    "api": 4,
    "examiner": 5,
    "cli": 6,
}
# The rooms of the core, each resting on those before it alone.
CORE = ("basics", "geometry", "turns", "springs", "bolts", "planning", "fields", "joblog", "predict", "review")
SOURCES = (ROOT.parents[1] / "docs" / "sources.md").read_text()
PARTS = ("Parameters", "Returns", "Raises", "Notes", "Source", "Examples")


def _imports(file):
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            yield node.module
        elif isinstance(node, ast.Import):
            yield from (name.name for name in node.names)


def test_imports_run_one_way():
    wrong = []
    for file in ROOT.rglob("*.py"):
        room = file.relative_to(ROOT).parts[0].removesuffix(".py")
        for module in _imports(file):
            parts = module.split(".")
            if parts[0] != "fair_spindle" or len(parts) < 2 or room not in FLOORS:
                continue
            if parts[1] != room and FLOORS[parts[1]] >= FLOORS[room]:
                wrong.append(f"{file.relative_to(ROOT)} -> {module}")
    assert not wrong


def test_rooms_of_the_core_rest_on_those_before_them():
    rooms = {part.name for part in (ROOT / "core").iterdir() if not part.name.startswith("__")}
    assert rooms == set(CORE), "every module of the core has a room"
    wrong = []
    for file in (file for room in CORE for file in (ROOT / "core" / room).rglob("*.py")):
        room = file.relative_to(ROOT / "core").parts[0]
        for module in _imports(file):
            parts = module.split(".")
            if parts[:2] == ["fair_spindle", "core"] and CORE.index(parts[2]) > CORE.index(room):
                wrong.append(f"{file.relative_to(ROOT)} -> {module}")
    assert not wrong


def test_core_needs_numpy_and_the_standard_library_only():
    import sys

    allowed = sys.stdlib_module_names | {"numpy", "fair_spindle", "__future__"}
    found = {module.split(".")[0] for file in (ROOT / "core").rglob("*.py") for module in _imports(file)}
    assert found <= allowed
    assert not found & {"sqlite3", "socket", "http", "time", "random"}
    clocks = re.compile(r"\.(now|today|utcnow)\(\)")
    assert not [file.name for file in (ROOT / "core").rglob("*.py") if clocks.search(file.read_text())]


# Rooms without equations of their own: a line or two say what the name cannot; the rest is described in full.
IN_SHORT = (
    "joblog.",
    "predict.",
    "review.",
    "planning.",
    "fields.",
    "basics.wheels",
    "basics.remember",
    "basics.value_object",
    "geometry.layouts.layout",
)


def _public_functions():
    for info in pkgutil.walk_packages(fair_spindle.core.__path__, "fair_spindle.core."):
        module = importlib.import_module(info.name)
        for name, function in vars(module).items():
            own = inspect.isfunction(function) and function.__module__ == info.name
            if own and not name.startswith("_") and name != "require":
                yield f"{info.name.removeprefix('fair_spindle.core.')}.{name}", function


def _not_told(function):
    """What is missing in the description of a function."""
    text = inspect.getdoc(function) or ""
    short = function.__module__.removeprefix("fair_spindle.core.").startswith(IN_SHORT)
    if short and "\nParameters\n" not in text and "\nReturns\n" not in text:
        return [] if len(text) > 15 else ["anything"]
    takes = bool(inspect.signature(function).parameters)
    missing = [part for part in PARTS if f"\n{part}\n---" not in text and (takes or part != "Parameters")]
    if missing:
        return missing
    source = re.search(r"\nSource\n-+\n(.+)", text).group(1).strip()
    if f"| `{source}` |" not in SOURCES:
        missing.append(f"{source} among the keys of docs/sources.md")
    if takes:
        block = text.split("\nParameters\n")[1].split("\nReturns\n")[0]
        entries = re.findall(r"^\S.* : .*$", block, re.M)
        if not entries or block.count("[") < len(entries):
            missing.append("the unit of every parameter in brackets")
    return missing


def test_every_public_core_function_is_described():
    functions = dict(_public_functions())
    assert len(functions) > 300
    assert not {name: missing for name, function in functions.items() if (missing := _not_told(function))}
