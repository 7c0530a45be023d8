"""An axle as parts and joints: by its layout, as the car's record corrects it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import wheels_at
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout, arms_of
from fair_spindle.core.planning.car_parts import ALONG, KINDS, CarPart, PartJoint, parts_of
from fair_spindle.core.planning.part_effects import Effect, effects_at, moved_by, usual_effects
from fair_spindle.core.planning.procedure import Measured

_CARRIED = {"upright": "the upright, tied up", "arm": "the arm, on a jack", "axle": "the axle, on a jack"}
# What holds the parts that are no arm, from the body outwards.
_HELD: dict[str, tuple[str, ...]] = {
    "bar": ("brackets on the body", "a link at each end"),
    "spring": ("its seats",),
    "damper": ("upper mount", "lower eye"),
    "hose": ("bracket on the body", "bracket on the strut or arm", "the caliper"),
    "hub": ("its bearing",),
}


@value_object
class GraphPart:
    """A part of an axle: what joins it to what, what is carried while it is out, what runs along it, what it moves.

    ``swap`` is the part whose work is put together from these joints, None where it has work of its own.
    """

    key: str
    label: str
    joints: tuple[str, ...]
    carries: str = ""
    along: str = ""
    effects: tuple[Effect, ...] = ()
    shared: bool = False
    swap: CarPart | None = None


def graph_of(axle: str, car: Mapping[str, str], corners: Mapping[str, Corner] | None = None) -> tuple[GraphPart, ...]:
    """The parts of an axle with their joints.

    Parameters
    ----------
    axle : {"front", "rear"}
        Which one. [-]
    car : mapping
        The car's choices by field: its layout, and what differs from it. [-]
    corners : mapping, optional
        Corners with points by axle and side; others are a middling one of the layout. [mm]

    Returns
    -------
    tuple of GraphPart
        Arms and links first; nothing where the layout is not told.

    Raises
    ------
    Nothing.

    Notes
    -----
    Both sides are alike; a side with points stands for both.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> strut = graph_of("front", {"front.layout": "strut", "front.lower.kind_ball": "clamp"})
    >>> strut[0].label, strut[0].joints[0]
    ('Lower arm', 'ball joint: clamp with a pinch bolt')
    """
    layout = _layout_of(axle, car)
    if layout is None:
        return ()
    swaps = {arm: corrected(part, axle, car) for arm, part in parts_of(layout.key).items()}
    effects = effects_of(axle, layout.key, corners or {})
    arms = [
        GraphPart(
            arm.key,
            arm.label,
            tuple(_say_joint(joint) for joint in swaps[arm.key].joints)
            if arm.key in swaps
            else tuple(label for _, label in arm.pivots),
            _CARRIED[swaps[arm.key].carried] if arm.key in swaps else "",
            ALONG[swaps[arm.key].along].lower() if arm.key in swaps and swaps[arm.key].along != "none" else "",
            tuple(effects.get(arm.key, ())),
            arm.shared,
            swaps.get(arm.key),
        )
        for arm in arms_of(layout, axle, car.get("front.linkage", "rack"))
    ]
    return (*arms, *_others(axle, car))


def corrected(part: CarPart, axle: str, car: Mapping[str, str]) -> CarPart:
    """A part as the car's record has it: its joints' kinds, what runs along it, whether a spring stands on it."""

    def told(name: str, usual: str) -> str:
        return car.get(f"{axle}.{part.arm}.{name}", "") or usual

    joints = tuple(
        replace(joint, kind=next((kind for kind in joint.kinds if kind == told(f"kind_{joint.key}", "")), joint.kind))
        for joint in part.joints
    )
    sprung = part.carried != "axle" and told("sprung", "yes" if part.sprung else "no") == "yes"
    carried = part.carried if part.carried == "axle" else "arm" if sprung else "upright"
    along = told("along", part.along)
    return replace(part, joints=joints, sprung=sprung, carried=carried, along=along if along in ALONG else "none")


def effects_of(axle: str, layout: str, corners: Mapping[str, Corner]) -> Mapping[str, tuple[Effect, ...]]:
    """What the parts of an axle do to its wheels: by points where a side has them, else by its layout."""
    corner = next((corners[wheel] for wheel in wheels_at(axle) if wheel in corners), None)
    return effects_at(corner) if corner is not None else usual_effects(layout)


def moved_on(car: Mapping[str, str], corners: Mapping[str, Corner]) -> dict[str, tuple[Measured, ...]]:
    """What each part moves on a car whose points are known, by axle and part."""
    found: dict[str, tuple[Measured, ...]] = {}
    for axle in {key.partition(".")[0] for key in corners}:
        layout = _layout_of(axle, car)
        for arm, effects in effects_of(axle, layout.key, corners).items() if layout else ():
            found[f"{axle}.{arm}"] = moved_by(effects, layout.kingpin if layout else False)
    return found


def _layout_of(axle: str, car: Mapping[str, str]) -> Layout | None:
    return LAYOUTS.get(car.get(f"{axle}.layout", ""))


def _others(axle: str, car: Mapping[str, str]) -> Iterator[GraphPart]:
    labels = {
        "bar": "Sway bar and its links",
        "spring": "Spring",
        "damper": "Damper",
        "hose": "Brake hose",
        "hub": "Hub bearing and upright",
    }
    missing = {"bar"} if car.get(f"{axle}.bar.fitted") == "none" else set()
    layout = _layout_of(axle, car)
    if layout and layout.leaves:
        missing.add("spring")  # the leaves are the springs
    for key, label in labels.items():
        if key not in missing:
            yield GraphPart(key, label, _HELD[key], shared=key == "bar")


def _say_joint(joint: PartJoint) -> str:
    return f"{joint.label}: {KINDS[joint.kind][0].lower()}{KINDS[joint.kind][1:]}"
