"""What the robot leaves, as a table."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

import numpy as np

from fair_spindle.examiner.desk import open_desk
from fair_spindle.examiner.ends import WAYS, examine_ends
from fair_spindle.examiner.robot import SOLID_IN_FRONT, examine
from fair_spindle.practice.layouts import SOLID, TYPICAL

LAYOUTS = (*TYPICAL, *(f"{one}{SOLID_IN_FRONT}" for one in SOLID))
STAGES = {
    "untouched": "lowered, untouched",
    "planned": "after the plan",
    "corrected": "after one correction",
    "best": "best with the same readings",
    "floor": "steps and gauges alone",
}
HEAD = ("layout", *STAGES.values(), "bands")


def report(count: int, layouts: Sequence[str] = LAYOUTS, *, ends: bool = True) -> Iterator[str]:
    """Lines of the tables, those of a layout when its cars are done; toe and camber in degrees, 95 of 100.

    Springs all round with toe and camber brought through, and, where wanted, tie-rod ``ends`` of another length.
    """
    yield f"| {' | '.join(HEAD)} |"
    yield f"|{' --- |' * len(HEAD)}"
    for layout in layouts:
        with tempfile.TemporaryDirectory() as place, open_desk(Path(place)) as desk:
            yield from _rows(layout, examine(desk, layout, count))

    if ends:
        yield ""
        yield from _of_ends(count)


def _of_ends(count: int) -> Iterator[str]:
    yield f"| tie-rod ends, toe left | {' | '.join(WAYS.values())} | bands |"
    yield f"|{' --- |' * (len(WAYS) + 2)}"
    with tempfile.TemporaryDirectory() as place, open_desk(Path(place)) as desk:
        found = examine_ends(desk, count)
    yield f"| | {' | '.join(f'{found[way]:.3f}' for way in WAYS)} | count {found['held']:.0%} |"


def _rows(layout: str, found: dict[str, Any]) -> Iterator[str]:
    bands = ", ".join(f"{name} {share:.0%}" for name, share in found["bands"].items())
    yield f"| {layout} | {' | '.join(_pair(found[name]) for name in STAGES)} | {bands} |"
    half = found["medians"]
    yield (
        f"|  | height foreseen within {found['heights']:.1f} mm (by the record's numbers in the bay's own energy "
        f"{found['by_record']:.1f} mm, by spring length {found['by_length']:.1f} mm), "
        f"steering wheel {found['steering'][0]:.2f}° before, {found['steering'][1]:.2f}° after; one of two within "
        f"{_pair(half['planned'])} after the plan, {_pair(half['corrected'])} after one correction, height "
        f"{half['heights']:.1f} mm |{' |' * len(STAGES)}"
    )


def _pair(angles: Sequence[float]) -> str:
    return " and ".join("–" if np.isnan(one) else f"{one:.3f}" for one in angles)
