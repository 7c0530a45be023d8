"""A middling corner of each layout, for what can be said of a car whose points nobody has measured.

Points of a left wheel at ride height, x forward, y left, z up. [mm]
The product's own, drawn for middling proportions; common practice, no published source.
"""

from __future__ import annotations

from functools import cache

from fair_spindle.core.geometry.corner import Corner, Link, make_corner

Point = tuple[float, float, float]
_WHEEL: Point = (0, 755, 315)
_LOWER: dict[str, Point] = {
    "lower_front": (90, 360, 198),
    "lower_rear": (-240, 365, 196),
    "lower_ball": (10, 705, 178),
}
_TIE: dict[str, Point] = {"tie_inner": (-120, 345, 240), "tie_outer": (-128, 690, 232)}
_POINTS: dict[str, dict[str, Point]] = {
    "strut": {"strut_top": (-22, 575, 860), "strut_low": (2, 625, 415), **_LOWER, **_TIE},
    "double_wishbone": {
        "upper_front": (115, 400, 500),
        "upper_rear": (-150, 402, 500),
        "upper_ball": (-25, 655, 530),
        **_LOWER,
        **_TIE,
    },
    "trailing_lateral": {
        "trailing_body": (420, 560, 290),
        "lateral_front_inner": (90, 330, 215),
        "lateral_front_outer": (95, 690, 205),
        "lateral_rear_inner": (-110, 320, 218),
        "lateral_rear_outer": (-105, 690, 208),
        "upper_inner": (-10, 410, 440),
        "upper_outer": (-5, 660, 455),
    },
    "semi_trailing": {"arm_inner": (345, 185, 245), "arm_outer": (400, 525, 250)},
}
_FIVE: dict[str, tuple[Point, Point]] = {
    "upper_front": ((112, 400, 498), (-5, 650, 538)),
    "upper_rear": ((-155, 402, 500), (-40, 648, 542)),
    "lower_front": ((150, 345, 196), (22, 725, 188)),
    "lower_rear": ((-215, 355, 186), (-10, 728, 186)),
    "tie": ((-118, 348, 228), (-125, 705, 222)),
}


@cache
def usual_corner(layout: str) -> Corner | None:
    """The middling left corner of a layout with links of its own; None for one without."""
    if layout == "five_link":
        links = tuple(Link(name, inner, outer) for name, (inner, outer) in _FIVE.items())
        return make_corner(layout, "left", 0.0, 0.0, {"wheel_center": _WHEEL}, links)
    if layout not in _POINTS:
        return None
    return make_corner(layout, "left", 0.0, 0.0, {**_POINTS[layout], "wheel_center": _WHEEL})
