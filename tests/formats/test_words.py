"""One word per thing: what the glossary rules out stands in no text of the core, of a procedure or of a page."""

import re
import tomllib
from pathlib import Path

from test_letters import shown

import fair_spindle

CODE = Path(fair_spindle.__file__).parent
ROOT = CODE.parent.parent
# What people type: every name of the trade finds its work and its row.
TYPED = {"vocabulary.py", "torque_list.py"}
SEARCHED = {"words", "key"}


def told(value, name=""):
    """Texts of a procedure that are shown."""
    if isinstance(value, dict):
        return [text for key, one in value.items() if key not in SEARCHED for text in told(one, key)]
    if isinstance(value, list):
        return [text for one in value for text in told(one, name)]
    return [value] if isinstance(value, str) and (" " in value or value[:1].isupper()) else []


def texts():
    for file in CODE.rglob("*.py"):
        if file.name not in TYPED:
            yield file, " ¶ ".join(text for text in shown(file) if " " in text)
    for file in CODE.rglob("*.toml"):
        yield file, " ¶ ".join(told(tomllib.loads(file.read_text())))
    for file in (ROOT / "web/src").rglob("*.vue"):
        yield file, re.sub(r"<style.*", "", file.read_text(), flags=re.S)


def test_no_text_uses_a_word_that_the_glossary_rules_out():
    rows = re.findall(r"^\| [^|]+ \| [^|]+ \| ([^|]+) \|$", (ROOT / "docs/glossary.md").read_text(), re.M)
    ruled_out = [word.strip() for row in rows[2:] for word in row.split(",")]
    assert len(ruled_out) > 25
    search = re.compile("|".join(rf"\b{re.escape(word)}s?\b" for word in ruled_out), re.I)
    found = [f"{file.name}: {match.group()}" for file, text in texts() for match in search.finditer(text)]
    assert not found, found
