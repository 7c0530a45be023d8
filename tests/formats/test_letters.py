"""Every sign the product can print is in its letters, in those beside them, or told in plain words."""

import ast
from pathlib import Path

import fair_spindle
from fair_spindle.formats.pdf_pages import DINGBATS, PLAIN, _has

ROOT = Path(fair_spindle.__file__).parent


def shown(file):
    """Texts of a file that are no docstrings; of a procedure all of it."""
    if file.suffix == ".toml":
        return [file.read_text()]
    tree = ast.parse(file.read_text())
    words = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    constants = (node for node in ast.walk(tree) if isinstance(node, ast.Constant) and id(node) not in words)
    return [node.value for node in constants if isinstance(node.value, str)]


def test_every_sign_of_every_text_can_be_set():
    files = [*ROOT.rglob("*.toml"), *(file for file in ROOT.rglob("*.py") if file.name != "pdf_pages.py")]
    used = {sign for file in files for text in shown(file) for sign in text if ord(sign) > 126}
    known = lambda sign: sign in DINGBATS or sign in PLAIN or _has("Sheet", sign) or _has("Vera", sign)  # noqa: E731
    assert {sign for sign in used if not known(sign)} == set()
