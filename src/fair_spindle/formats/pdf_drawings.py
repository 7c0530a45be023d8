"""Drawings in the record, as vectors: the map of a joint, the heights of a wheel, a curve."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

MAP_WIDTH, MAP_HEIGHT, EDGE = 150.0, 90.0, 14.0
LADDER_WIDTH, LADDER_HEIGHT = 118.0, 150.0
CURVE_HEIGHT = 110.0
APART = 9.0


def joint_map(joint: Mapping[str, Any]) -> Any:
    """A joint's places where they sit, each with its number; a filled ring is final, an empty one is not."""
    from reportlab.graphics.shapes import Circle, Drawing, String

    drawing = Drawing(MAP_WIDTH, MAP_HEIGHT + 12)
    bolts = joint["bolts"]
    scale = _scale([bolt["x_mm"] for bolt in bolts], MAP_WIDTH), _scale([bolt["y_mm"] for bolt in bolts], MAP_HEIGHT)
    for one in bolts:
        x, y = scale[0](one["x_mm"]), scale[1](one["y_mm"])
        drawing.add(Circle(x, y, 8, strokeWidth=2 if one["final"] else 0.8, fillColor=None))
        drawing.add(String(x, y - 3, str(one["number"]), textAnchor="middle", fontName="SheetBold", fontSize=8))
    drawing.add(String(0, MAP_HEIGHT + 3, joint["label"], fontName="Sheet", fontSize=7))
    return drawing


def height_ladder(label: str, marks: Sequence[tuple[str, float | None]]) -> Any:
    """Heights of one wheel on one scale: before, predicted, wanted, settled."""
    from reportlab.graphics.shapes import Drawing, Line, String

    drawing = Drawing(LADDER_WIDTH, LADDER_HEIGHT)
    told = sorted(((value, words) for words, value in marks if value is not None), key=lambda mark: mark[0])
    drawing.add(String(0, LADDER_HEIGHT - 8, label, fontName="SheetBold", fontSize=8))
    place = _scale([value for value, _ in told], LADDER_HEIGHT - 22)
    drawing.add(Line(20, EDGE, 20, LADDER_HEIGHT - 22 - EDGE / 2, strokeWidth=0.8))
    last = -APART
    for value, words in told:
        y = place(value)
        drawing.add(Line(14, y, 26, y, strokeWidth=1.4))
        last = max(y - 3, last + APART)
        drawing.add(String(30, last, f"{words} {value:.1f}", fontName="Sheet", fontSize=7))
    return drawing


def travel_curve(curve: Mapping[str, Any]) -> Any:
    """Camber and toe of a wheel against its travel, bump to the right, with the ride height marked."""
    from reportlab.graphics.shapes import Drawing, Line, PolyLine, String

    drawing = Drawing(LADDER_WIDTH, CURVE_HEIGHT)
    travel, camber, toe = curve["travel_mm"], curve["camber_deg"], curve["toe_deg"]
    across = _scale(travel, LADDER_WIDTH)
    up = _scale([*camber, *toe, 0.0], CURVE_HEIGHT - 16)
    drawing.add(String(0, CURVE_HEIGHT - 8, curve["label"], fontName="SheetBold", fontSize=8))
    drawing.add(Line(EDGE, up(0.0), LADDER_WIDTH - EDGE, up(0.0), strokeWidth=0.4))
    drawing.add(Line(across(0.0), EDGE, across(0.0), CURVE_HEIGHT - 16 - EDGE, strokeWidth=0.4))
    for angles, dash in ((camber, None), (toe, [3, 2])):
        points = [part for at, angle in zip(travel, angles, strict=True) for part in (across(at), up(angle))]
        drawing.add(PolyLine(points, strokeWidth=1.2, strokeDashArray=dash))
        drawing.add(
            String(LADDER_WIDTH - EDGE + 1, points[-1] - 2, f"{angles[-1]:+.1f}", fontName="Sheet", fontSize=6)
        )
    ends = f"{travel[0]:+.0f} … {travel[-1]:+.0f} mm"
    drawing.add(String(EDGE, 2, ends.replace("-", "−"), fontName="Sheet", fontSize=6))
    return drawing


def in_rows(drawings: Sequence[Any], across: int) -> Any:
    """Drawings beside each other."""
    from reportlab.platypus import Table

    rows = [list(drawings[at : at + across]) for at in range(0, len(drawings), across)]
    rows[-1] += [""] * (across - len(rows[-1]))
    return Table(rows, hAlign="LEFT", style=[("VALIGN", (0, 0), (-1, -1), "TOP")])


def _scale(values: Sequence[float], room: float) -> Any:
    low, high = (min(values), max(values)) if values else (0.0, 0.0)
    if high - low < 1e-9:
        return lambda value: room / 2
    return lambda value: EDGE + (value - low) / (high - low) * (room - 2 * EDGE)
