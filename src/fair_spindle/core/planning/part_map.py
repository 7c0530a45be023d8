"""An axle drawn from its layout: its parts from above, what each hangs on, and what work there is on it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout
from fair_spindle.core.planning.part_effects import say_effects
from fair_spindle.core.planning.part_graph import GraphPart, graph_of
from fair_spindle.core.planning.procedure import Library

Sort = Literal["arm", "spring", "damper", "bar", "hub", "hose"]
Point = tuple[float, float]

# One side from above: the middle of the car at 0, the wheel at 100; front at 0, rear at 100.  A drawing, no measure.
_LINES: dict[str, tuple[Point, ...]] = {
    "lower": ((22, 30), (86, 50), (22, 76)),
    "upper": ((36, 34), (80, 48), (36, 66)),
    "tie": ((20, 88), (82, 74)),
    "upper_front": ((36, 26), (80, 42)),
    "upper_rear": ((36, 64), (80, 56)),
    "lower_front": ((20, 12), (86, 44)),
    "lower_rear": ((20, 78), (86, 60)),
    "trailing": ((66, 2), (84, 46)),
    "lateral_front": ((14, 38), (84, 46)),
    "lateral_rear": ((14, 72), (84, 62)),
    "arm": ((18, 28), (86, 54), (56, 10)),
    "beam": ((66, 4), (84, 56), (0, 56)),
    "leaf": ((74, 2), (74, 96)),
    "shackle": ((74, 96), (62, 88)),
    "lower_link": ((58, 8), (64, 52)),
    "upper_link": ((26, 14), (22, 52)),
    "panhard": ((0, 64), (68, 60)),
    "drag": ((8, 18), (82, 34)),
}
# What is no arm: from above, and the sort it is drawn as.
_OTHERS: dict[str, tuple[Sort, tuple[Point, ...]]] = {
    "bar": ("bar", ((0, 20), (56, 20), (72, 42))),
    "spring": ("spring", ((64, 50),)),
    "damper": ("damper", ((52, 58),)),
    "hose": ("hose", ((92, 28), (70, 30))),
    "hub": ("hub", ((92, 50),)),
}
# The same side from the left: front at 0, rear at 100; the body's floor at 20, the road at 96.
_FROM_THE_SIDE: dict[str, tuple[Point, ...]] = {
    "lower": ((28, 72), (50, 77), (76, 71)),
    "upper": ((34, 42), (50, 40), (68, 43)),
    "tie": ((70, 64), (80, 66)),
    "upper_front": ((34, 40), (47, 44)),
    "upper_rear": ((68, 41), (53, 44)),
    "lower_front": ((24, 74), (46, 78)),
    "lower_rear": ((78, 73), (54, 78)),
    "trailing": ((6, 58), (50, 62)),
    "lateral_front": ((36, 74), (44, 75)),
    "lateral_rear": ((66, 74), (57, 75)),
    "arm": ((12, 60), (50, 62), (28, 68)),
    "beam": ((8, 58), (50, 62), (40, 70)),
    "leaf": ((4, 56), (50, 72), (90, 52)),
    "shackle": ((90, 52), (97, 62)),
    "lower_link": ((6, 66), (50, 74)),
    "upper_link": ((14, 46), (48, 50)),
    "panhard": ((58, 52), (68, 54)),
    "drag": ((24, 56), (48, 60)),
    "bar": ((20, 66), (34, 66), (40, 76)),
    "spring": ((46, 22), (46, 58)),
    "damper": ((60, 18), (55, 70)),
    "hose": ((74, 26), (62, 48)),
    "hub": ((50, 62),),
}
_WORK: dict[str, tuple[str, ...]] = {
    "lower": ("lower_arm", "mixed_bush_arm", "bolted_ball_joint", "pressed_ball_joint"),
    "tie": ("tie_rods",),
    "drag": ("drag_link",),
    "trailing": ("trailing_arm",),
    "shackle": ("leaf_shackles",),
    "leaf": ("springs",),
    "beam": ("pressed_bushings",),
    "upper": ("truck_front",),
    "bar": ("sway_bars", "two_hole_bar"),
    "spring": ("springs", "coilovers"),
    "damper": ("dampers", "coilovers", "strut_spacer", "top_mounts", "cowl_strut", "cabin_unit", "limit_straps"),
    "hose": ("brake_hoses",),
    "hub": ("hub_bearing", "camber_bolts"),
}


@value_object
class MapPart:
    """A part on the drawing: its line from above and from the side, the work there is on it, and what joins it.

    ``carries`` is held while it is out; ``along`` runs along it; ``moves`` says what 1 mm of it does.
    """

    key: str
    sort: Sort
    label: str
    line: tuple[Point, ...]
    side_line: tuple[Point, ...]
    work: tuple[str, ...]
    joints: tuple[str, ...] = ()
    carries: str = ""
    along: str = ""
    moves: str = ""
    shared: bool = False


def parts_of_axle(
    axle: str, car: Mapping[str, str], library: Library, corners: Mapping[str, Corner] | None = None
) -> tuple[MapPart, ...]:
    """Every part of an axle that can be worked on; nothing where its layout is not told."""
    layout = car.get(f"{axle}.layout", "")
    drawn = (_drawn(part, axle, layout, library) for part in graph_of(axle, car, corners))
    return tuple(one for one in drawn if one and one.work)


def _drawn(part: GraphPart, axle: str, layout: str, library: Library) -> MapPart | None:
    sort, line = _OTHERS.get(part.key) or ("arm", _LINES.get(part.key, ()))
    side_line = _FROM_THE_SIDE.get(part.key, ())
    if not line:
        line, side_line = _by_points(LAYOUTS[layout], part.key)
    if not line:
        return None
    keys = (*((part.swap.key,) if part.swap else ()), *_WORK.get(part.key, ()))
    return MapPart(
        part.key,
        sort,
        part.label,
        line,
        side_line,
        tuple(key for key in keys if _fits(key, axle, layout, library)),
        part.joints,
        part.carries,
        part.along,
        say_effects(part.effects),
        part.shared,
    )


def _by_points(layout: Layout, link: str) -> tuple[tuple[Point, ...], tuple[Point, ...]]:
    """Both views of a link that has no line of its own here, by the layout's middling points."""
    ends = [layout.usual[name] for name in layout.ends_of(link) if name in layout.usual]
    above = tuple((0.12 * y, 50 - 0.14 * x) for x, y, _ in ends)
    return above, tuple((50 - 0.14 * x, 96 - 0.14 * z) for x, _, z in ends)


def _fits(key: str, axle: str, layout: str, library: Library) -> bool:
    one = library.procedures.get(key)
    return one is not None and (not one.axles or axle in one.axles) and (not one.layouts or layout in one.layouts)
