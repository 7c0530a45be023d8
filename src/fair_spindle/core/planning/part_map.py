"""An axle drawn from its layout: its parts from above, what each hangs on, and what work there is on it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from fair_spindle.core.geometry.layouts import LAYOUTS, arms_of
from fair_spindle.core.planning.car_parts import CarPart, parts_of_layouts
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
_OTHERS: tuple[tuple[str, Sort, str, tuple[Point, ...]], ...] = (
    ("bar", "bar", "Sway bar and its links", ((0, 20), (56, 20), (72, 42))),
    ("spring", "spring", "Spring", ((64, 50),)),
    ("damper", "damper", "Damper", ((52, 58),)),
    ("hose", "hose", "Brake hose", ((92, 28), (70, 30))),
    ("hub", "hub", "Wheel bearing and upright", ((92, 50),)),
)
_WORK: dict[str, tuple[str, ...]] = {
    "lower": ("lower_arm", "mixed_bush_arm", "bolted_ball_joint", "pressed_ball_joint"),
    "tie": ("tie_rods",),
    "drag": ("drag_link",),
    "trailing": ("trailing_arm",),
    "shackle": ("leaf_shackles",),
    "beam": ("pressed_bushings",),
    "upper": ("truck_front",),
    "bar": ("sway_bars", "two_hole_bar"),
    "spring": ("springs", "coilovers"),
    "damper": ("dampers", "coilovers", "strut_spacer", "top_mounts", "cowl_strut", "cabin_unit", "limit_straps"),
    "hose": ("brake_hoses",),
    "hub": ("hub_bearing", "camber_bolts"),
}
_CARRIED = {"upright": "the upright, tied up", "arm": "the arm, on a jack", "axle": "the axle, on a jack"}


@dataclass(frozen=True)
class MapPart:
    """A part on the drawing: its line, the work there is on it, its joints, what is held while it is out."""

    key: str
    sort: Sort
    label: str
    line: tuple[Point, ...]
    work: tuple[str, ...]
    joints: tuple[str, ...] = ()
    carries: str = ""
    shared: bool = False


def parts_of_axle(axle: str, car: Mapping[str, str], library: Library) -> tuple[MapPart, ...]:
    """Every part of an axle that can be worked on; nothing where its layout is not told."""
    layout = LAYOUTS.get(car.get(f"{axle}.layout", ""))
    if layout is None:
        return ()
    found = []
    swaps = {part.arm: part for part in parts_of_layouts() if layout.key in part.layouts}
    for arm in arms_of(layout, axle, car.get("front.linkage", "rack")):
        if arm.key in _LINES:
            part = swaps.get(arm.key)
            keys = (*((part.key,) if part else ()), *_WORK.get(arm.key, ()))
            work = tuple(key for key in keys if _fits(key, axle, layout.key, library))
            joints = tuple(_joints(part)) if part else tuple(label for _, label in arm.pivots)
            held = _CARRIED[part.carried] if part else ""
            found.append(MapPart(arm.key, "arm", arm.label, _LINES[arm.key], work, joints, held, arm.shared))
    for key, sort, label, line in _OTHERS:
        if key == "bar" and car.get(f"{axle}.bar.fitted") == "none":
            continue
        work = tuple(one for one in _WORK[key] if _fits(one, axle, layout.key, library))
        found.append(MapPart(key, sort, label, line, work))
    return tuple(one for one in found if one.work)


def _joints(part: CarPart) -> Iterator[str]:
    words = {"pivot": "pivot", "taper": "ball joint", "plates": "plates"}
    yield from (f"{joint.label} ({words[joint.kind]})" for joint in part.joints)


def _fits(key: str, axle: str, layout: str, library: Library) -> bool:
    one = library.procedures.get(key)
    return one is not None and (not one.axles or axle in one.axles) and (not one.layouts or layout in one.layouts)
