"""Count how much of the repository is tests: lines of both, without docstrings, blank lines and generated files.

Code is what is written by hand in ``src`` and ``web/src``, procedures with it; tests are those of Python in ``tests``
and of the pages beside their modules.
"""

import ast
import subprocess
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parent.parent
BY_HAND = (".py", ".toml", ".ts", ".vue", ".css")
GENERATED = "web/src/api/schema.d.ts"


def docstrings(source: str) -> Iterator[int]:
    """Numbers of the lines that docstrings take, from 1."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef):
            first = node.body[0] if node.body else None
            if ast.get_docstring(node, clean=False) is not None and first and first.end_lineno:
                yield from range(first.lineno, first.end_lineno + 1)


def lines(file: Path) -> int:
    """Lines of a file that count."""
    source = file.read_text(encoding="utf-8")
    told = set(docstrings(source)) if file.suffix == ".py" else set()
    return sum(1 for number, line in enumerate(source.split("\n"), 1) if line.strip() and number not in told)


def kind_of(name: str) -> str:
    """Tests, code, or neither."""
    if not name.endswith(BY_HAND) or name == GENERATED:
        return ""
    if name.startswith("tests/") or name.endswith(".test.ts"):
        return "tests"
    return "code" if name.startswith(("src/", "web/src/")) else ""


def main() -> None:
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True)
    found = Counter[str]()
    for name in listed.stdout.splitlines():
        if kind := kind_of(name):
            found[kind] += lines(ROOT / name)
    print(f"{found['tests']} lines of tests, {found['code']} of code: {found['tests'] / found['code']:.3f}")


if __name__ == "__main__":
    main()
