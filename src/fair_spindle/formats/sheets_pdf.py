"""Sheets for the clipboard and the driver's seat: boxes to tick, big words."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from fair_spindle.formats.pdf_pages import lines, pages, rows_of, table, words

SORTS = {
    "tool": "Tools",
    "chemical": "Chemicals",
    "buy": "To buy",
    "leftover": "Left over, as it should be",
    "book": "To book",
}


def write_clipboard(
    car: str,
    title: str,
    steps: Sequence[Mapping[str, Any]],
    lists: Sequence[Mapping[str, Any]],
    joints: Sequence[tuple[str, Sequence[int]]],
) -> bytes:
    """Lay a plan out with a box for each step and each fastener."""
    story = [words(car, "head"), words(title), *_steps(steps), *_bolts(joints), *_lists(lists)]
    return pages(f"{car}: {title}", story)


def write_stop_sheet(car: str, title: str, left: Mapping[str, Any]) -> bytes:
    """Lay out how a car was left: what is loose, in big words, and that it must not be driven."""
    verdict = "Nothing is loose." if left["may_be_driven"] else "DO NOT DRIVE"
    story = [
        words(verdict, "large"),
        words(f"{car}: {title}", "head"),
        words(f"The car is {left['position']}. Stopped {left['at'][:16].replace('T', ' ')} UTC.", "floor"),
        *_floor("Loose right now", left["loose"]),
        *_floor("Begun and not closed", left["begun"]),
        *_floor("Goes on with", [left["next_step"]] if left["next_step"] else []),
        *_floor("Note", [left["note"]] if left["note"] else []),
    ]
    return pages(f"{car}: stopped", story)


def _floor(title: str, said: Sequence[str]) -> list[Any]:
    return [words(title, "part"), *(words(f"☐ {one}", "floor") for one in said)] if said else []


def _steps(steps: Sequence[Mapping[str, Any]]) -> Iterator[Any]:
    where = ""
    rows: list[tuple[str, ...]] = []
    for number, step in enumerate(steps, start=1):
        if step["where_said"] != where:
            yield from _stretch(where, rows)
            where, rows = step["where_said"], []
        box = "☒" if step["done"] else "☐"
        tail = " Two people." if step["two_people"] else ""
        warned = "\n".join(f"▲ {one}" for one in step["cautions"])
        rows.append((f"{box} {number}", step["title"] + tail, step["detail"], ", ".join(step["tools"]), warned))
    yield from _stretch(where, rows)


def _stretch(where: str, rows: Sequence[tuple[str, ...]]) -> Iterator[Any]:
    if rows:
        yield words(f"Car {where}", "part")
        yield rows_of(rows)


def _bolts(joints: Sequence[tuple[str, Sequence[int]]]) -> list[Any]:
    if not joints:
        return []
    rows = [(label, "   ".join(f"☐ {number}" for number in places), "", "") for label, places in joints]
    return [words("Fasteners", "part"), table(("Joint", "Place", "Torque, with its source", "Read"), rows)]


def _lists(lists: Sequence[Mapping[str, Any]]) -> Iterator[Any]:
    for sort, title in SORTS.items():
        said = [
            f"☐ {one['count']} × {one['name']}" if one["count"] > 1 else f"☐ {one['name']}"
            for one in lists
            if one["sort"] == sort
        ]
        yield from lines(title, said)
