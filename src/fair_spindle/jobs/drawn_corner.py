"""A corner as lines: its links, axes and wheel as it stands, and as they move through travel and steer."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import pairwise

import numpy as np

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.geometry.corner import Array, Corner
from fair_spindle.core.geometry.kinematics import Poses, solve_poses
from fair_spindle.core.geometry.layouts.layout import Layout
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.turns.adjuster import changes_by_link
from fair_spindle.jobs.geometry_models import LinkageView, MotionView, SegmentView

RIM = 200.0  # mm, in the drawings only
SPINDLE = 90.0
ON_BODY = frozenset({"strut_top", "arm_inner", "arm_outer", "beam_pivot", "trailing_body"})
LINES = (
    ("strut_low", "strut_top", "strut"),
    ("arm_inner", "arm_outer", "axis"),
    ("arm_inner", "wheel_center", "arm"),
    ("arm_outer", "wheel_center", "arm"),
    ("beam_pivot", "wheel_center", "arm"),
    ("trailing_body", "wheel_center", "arm"),
    ("lower_ball", "upper_ball", "upright"),
    ("lower_ball", "strut_low", "upright"),
)
TRAVEL = np.arange(-60.0, 61.0, 10.0)
RACK = np.arange(-50.0, 51.0, 10.0)

# An end of a line: where it is at ride height, and whether it goes with the upright.
End = tuple[Array, bool]
Line = tuple[str, str, End, End]


def drawn(corner: Corner) -> list[SegmentView]:
    """Links, axes and the wheel as lines, as they stand at ride height."""
    return [
        SegmentView(name=name, kind=kind, start=start[0].tolist(), end=end[0].tolist())
        for name, kind, start, end in _lines(corner)
    ]


def sketched(layout: Layout, points: Mapping[str, Array]) -> list[SegmentView]:
    """What can be drawn of a corner while its points are being read: lines between what is known, else the point."""
    ends = [(arm.key, *layout.ends_of(arm.key)) for arm in layout.arms] if layout.told_links else layout.links
    pairs = [(name, first, second, "link") for name, first, second in ends]
    pairs += [(f"{first} to {second}", first, second, kind) for first, second, kind in LINES]
    lines = [
        SegmentView(name=name, kind=kind, start=points[first].tolist(), end=points[second].tolist())
        for name, first, second, kind in pairs
        if first in points and second in points
    ]
    drawn_ends = {tuple(end) for line in lines for end in (line.start, line.end)}
    return lines + [
        SegmentView(name=name, kind="point", start=at.tolist(), end=at.tolist())
        for name, at in points.items()
        if tuple(at.tolist()) not in drawn_ends
    ]


def changes_of(wheel: Wheel, turns: Mapping[str, float]) -> Mapping[str, Array]:
    """What turns of a wheel's adjusters do to its links and tops; InputError for one it does not have."""
    strange = next((name for name in turns if name not in {one.name for one in wheel.adjusters}), "")
    if strange:
        raise InputError(f"This wheel has no adjuster {strange!r}.", field=f"turns.{wheel.key}.{strange}")
    row = np.array([[one.start + turns.get(one.name, 0.0) * one.per_turn for one in wheel.adjusters]])
    return changes_by_link(wheel.adjusters, row) if wheel.adjusters else {}


def linkage_of(wheel: Wheel, label: str, turns: Mapping[str, float]) -> LinkageView:
    """A corner's lines through travel as it is and as turned, and through steer where a rod steers it."""
    corner = wheel.corner
    if corner is None:
        raise InputError(wheel.problem or "Nothing of this wheel can be drawn in space.", field="wheel")
    turned = changes_of(wheel, turns)

    def upright(changes: Mapping[str, Array]) -> Callable[[Array], Poses]:
        return lambda travel: solve_poses(corner, travel, changes)

    return LinkageView(
        key=wheel.key,
        label=label,
        lines=drawn(corner),
        before=_motion(corner, TRAVEL, upright({})),
        after=_motion(corner, TRAVEL, upright(turned)),
        steer=_steer(corner, turned),
    )


def _steer(corner: Corner, changes: Mapping[str, Array]) -> MotionView:
    rod = next((arm.key for arm in corner.kind.arms if arm.steers), "")
    if not rod or corner.steering_axis is None:
        return MotionView(at_mm=[], frames=[])
    inner, outer = corner.kind.ends_of(rod)
    along = corner.point(outer) - corner.point(inner)

    def steered(rack: Array) -> Poses:
        # A moved point alone would be another car with another rod: the rod keeps the length it has.
        kept = np.linalg.norm(along) - np.linalg.norm(along - _aside(rack), axis=1)
        lengths = {**changes, rod: changes.get(rod, 0.0) + kept}
        return solve_poses(corner, np.zeros(len(rack)), lengths, {inner: _aside(rack)})

    return _motion(corner, RACK, steered, inner)


def _aside(rack: Array) -> Array:
    return np.stack([np.zeros(len(rack)), rack, np.zeros(len(rack))], axis=1)


def _motion(corner: Corner, wanted: Array, solve: Callable[[Array], Poses], racked: str = "") -> MotionView:
    """The lines at every place the linkage reaches; those beyond where it locks are left out."""
    kept, poses = wanted, None
    while poses is None and len(kept):
        try:
            poses = solve(kept)
        except NoSolution:
            kept = kept[1:-1]
    if poses is None:
        return MotionView(at_mm=[], frames=[])
    shift = _aside(kept) if racked else np.zeros((len(kept), 3))
    at = corner.points[racked] if racked else None
    ends = [
        _follow(corner, poses, end, shift if at is not None and np.allclose(end[0], at) else None)
        for *_, start, far in _lines(corner)
        for end in (start, far)
    ]
    return MotionView(at_mm=kept.tolist(), frames=np.concatenate(ends, axis=1).round(2).tolist())


def _follow(corner: Corner, poses: Poses, end: End, shift: Array | None) -> Array:
    """Where an end of a line is at each pose, shape (n, 3)."""
    point, turns = end
    if turns:
        return poses.wheel + poses.rotation @ (point - corner.wheel)
    still = np.broadcast_to(point, poses.wheel.shape)
    if "strut_top" in corner.points and np.allclose(point, corner.points["strut_top"]):
        return still + poses.top_shift
    return still if shift is None else still + shift


def _lines(corner: Corner) -> list[Line]:
    """Every line: name, kind, and its two ends."""
    found: list[Line] = [
        (link.name, "link", (np.array(link.inner), False), (np.array(link.outer), True)) for link in corner.links
    ]
    for first, second, kind in LINES:
        if first in corner.points and second in corner.points:
            ends = [(corner.point(name), name not in ON_BODY) for name in (first, second)]
            found.append((f"{first} to {second}", kind, ends[0], ends[1]))
    hub, out = corner.wheel, corner.spindle
    if not any(kind == "upright" for _, kind, *_ in found):
        found += [
            (f"upright to {link.name}", "upright", (hub, True), (np.array(link.outer), True)) for link in corner.links
        ]
    found += [("wheel", "rim", (start, True), (end, True)) for start, end in pairwise(_rim(hub, out))]
    found.append(("spindle", "spindle", (hub, True), (hub + SPINDLE * out, True)))
    return found


def _rim(hub: Array, out: Array) -> Array:
    """A circle in the wheel's plane, to show its lean; its size is the drawing's, not the car's."""
    ahead = np.cross(out, [0.0, 0.0, 1.0])
    ahead /= np.linalg.norm(ahead)
    turn = np.linspace(0.0, 2.0 * np.pi, 25)[:, None]
    around: Array = hub + RIM * (np.cos(turn) * ahead + np.sin(turn) * np.cross(out, ahead))
    return around
