"""A field's key is written in many places and defined in one: every one that is written is one that can be asked for.

A key that no sheet has would silently mean "not read"; here it is an error.
"""

import ast
import re
from functools import cache
from pathlib import Path

from planner import LIBRARY

import fair_spindle
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import DECIDING, shape_of
from fair_spindle.core.geometry.layouts import LAYOUTS

ROOT = Path(fair_spindle.__file__).parent
ROOMS = ("core/fields", "core/joblog", "core/predict", "core/review", "jobs", "demo")
WHERE = re.compile(r"^(front|rear|car)\.((left|right)\.?)?")
# What is named after a place and is no field: inputs of a calculation, parts of an entry or of a bolt in an error.
NO_FIELDS = {
    "", "dead", "dead_share", "front_share", "gauge", "height_stays", "left", "load", "load_apart", "mass",
    "new_spring.set", "new_spring.typed", "plus_minus", "ratio_slope", "ride_height", "right", "set", "start",
    "turns", "typed",
}  # fmt: skip
ABOUT_BOLTS = {"joint_maps.py"}


@cache
def _known():
    """Parts of the names of all fields there can be, below axle and side: whole ones, and how they begin."""
    found = set()
    for layout in LAYOUTS:
        for turn in range(7):
            choices = {f"{axle}.layout": layout for axle in ("front", "rear")}
            while True:
                fields = {**sheet_for("work", shape_of(choices)).fields, **sheet_for("car", shape_of(choices)).fields}
                found |= {WHERE.sub("", key) for key in fields}
                deciding = {
                    key: field.choices[turn % len(field.choices)][0]
                    for key, field in fields.items()
                    if field.choices and key.endswith(DECIDING) and not key.endswith(".layout")
                }
                if deciding.items() <= choices.items():
                    break
                choices |= deciding
    found |= {one.name for kind in LIBRARY.procedures.values() for op in kind.operations for one in op.reads}
    whole = {
        ".".join(parts[low:high])
        for parts in (name.split(".") for name in found)
        for low in range(len(parts))
        for high in range(low + 1, len(parts) + 1)
    }
    return whole, {part[:end] for part in whole for end in range(1, len(part) + 1)}


def _written(tree):
    """Keys and parts of keys in a module: (line, text, whether the key ends with it)."""
    inside = set()
    for node in ast.walk(tree):
        if not isinstance(node, ast.JoinedStr):
            continue
        for place, part in enumerate(node.values):
            inside.add(id(part))
            text = part.value if isinstance(part, ast.Constant) else ""
            if place and re.fullmatch(r"\.[a-z_.]+", text):
                yield node.lineno, text[1:], place == len(node.values) - 1
    plain = (node for node in ast.walk(tree) if isinstance(node, ast.Constant) and id(node) not in inside)
    for node in plain:
        if isinstance(node.value, str) and re.fullmatch(r"(front|rear|car|left|right)(\.[a-z_]+)+", node.value):
            yield node.lineno, WHERE.sub("", node.value), True


def _unknown(tree):
    whole, begun = _known()
    for line, text, ends in _written(tree):
        name = re.sub(r"^(left|right)\.", "", text)
        if name.rstrip(".") not in (whole if ends else begun) and name not in NO_FIELDS:
            yield line, text


def test_every_key_that_is_written_is_one_that_can_be_asked_for():
    files = [file for room in ROOMS for file in sorted((ROOT / room).glob("*.py")) if file.name not in ABOUT_BOLTS]
    assert [(file.name, *wrong) for file in files for wrong in _unknown(ast.parse(file.read_text()))] == []
    slips = (
        'quantities[f"{axle}.spring.rat"]',
        'entries.get(f"front.{side}.tie.levr")',
        'q["front.left.bump_slop"]',
        'f"{wheel}.chek_{name}"',
        'read("car.wheel_base")',
    )
    for slip in slips:
        assert list(_unknown(ast.parse(slip))), "a slip is found"
