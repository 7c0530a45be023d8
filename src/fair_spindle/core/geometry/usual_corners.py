"""A middling corner of each layout, for what can be said of a car whose points nobody has measured."""

from __future__ import annotations

from functools import cache

from fair_spindle.core.geometry.corner import Corner, Link, make_corner
from fair_spindle.core.geometry.layouts import find_layout


@cache
def usual_corner(layout: str) -> Corner | None:
    """The middling left corner of a layout; None for an axle whose wheels move together."""
    kind = find_layout(layout)
    if not kind.usual:
        return None
    if not kind.told_links:
        return make_corner(layout, "left", 0.0, 0.0, kind.usual)
    links = tuple(Link(arm.key, *(kind.usual[end] for end in kind.ends_of(arm.key))) for arm in kind.arms)
    return make_corner(layout, "left", 0.0, 0.0, {name: kind.usual[name] for name in kind.needed}, links)
