"""What a tape reads between the points of a corner: lengths, rises, spans and leads, by the names of their fields."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.geometry.layouts import Layout

Array = NDArray[np.float64]
Place = Callable[[str], Array]


def measure(layout: Layout, side: int, name: str, place: Place) -> Array:
    """Measure one thing at a corner, or at many of them at once.

    Parameters
    ----------
    layout : Layout
        What holds the wheel. [-]
    side : int
        +1 left, −1 right. [-]
    name : str
        Name of a field: ``lower.length``, ``tie.above``, ``joint_height``, ``point.tie_outer.z``. [-]
    place : callable
        From the name of a point to where it is, shape (n, 3). [mm]

    Returns
    -------
    array
        Shape (n,). [mm]

    Raises
    ------
    NotFound
        Nothing of that name can be measured at this layout.

    Notes
    -----
    A wishbone's length and rise are those of the square from its pivot axis to its joint, a swinging arm's those to
    the wheel centre, a link's those between its two joints.  Leads count forward, skew outward.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.geometry.layouts import find_layout
    >>> strut = find_layout("strut")
    >>> at = lambda name: np.array([strut.usual[name]], dtype=float)
    >>> measure(strut, 1, "tie.length", at).round(1).tolist(), measure(strut, 1, "lower.rise", at).round(1).tolist()
    ([345.2], [-19.5])
    """
    part, _, what = name.partition(".")
    if part == "point":
        point, axis = what.split(".")
        return np.asarray(place(point)[:, "xyz".index(axis)])
    if layout.steering_axis and name in _AXIS:
        low, high = (place(end) for end in layout.steering_axis)
        column, sign = _AXIS[name]
        return np.asarray((high - low)[:, column] * (side if column == 1 else 1) * sign)
    if what == "above" and layout.steering_axis:
        return np.asarray(place(f"{part}_outer")[:, 2] - place(layout.steering_axis[0])[:, 2])
    first, last, joint = _ends_of(layout, part, place)
    if what in ("length", "rise"):
        reach = joint - first if last is None else _square(first, last, joint)
        return np.asarray(np.linalg.norm(reach, axis=1) if what == "length" else reach[:, 2])
    if last is None:
        if what == "lead":
            return np.asarray((joint - first)[:, 0])
        raise NotFound(f"A tape reads no {what} of {part} here.")
    between = last - first if layout.guide == "swing" else first - last
    if layout.guide == "swing" and what == "span":
        return np.asarray(np.hypot(between[:, 0], between[:, 1]))
    if layout.guide != "swing" and what == "lead":
        return np.asarray(joint[:, 0] - (first + last)[:, 0] / 2)
    column, sign = {"span": (0, 1), "lead": (0, 1), "skew": (1, side), "tilt": (2, 1)}[what]
    return np.asarray(sign * between[:, column])


@by_identity()
def measures_of(layout: Layout) -> tuple[str, ...]:
    """Everything a tape can read at a wheel of a layout, and the levers its links steer it by.

    Parameters
    ----------
    layout : Layout
        What holds the wheel. [-]

    Returns
    -------
    tuple of str
        Names of fields, as :func:`measure` takes all but the levers. [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    How high a rod's joint stands is read against the lower joint, so only where there is one.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.geometry.layouts import find_layout
    >>> measures_of(find_layout("semi_trailing"))
    ('arm.length', 'arm.rise', 'arm.span', 'arm.lead', 'arm.tilt')
    """
    links = {name for name, *_ in layout.links} | {arm.key for arm in layout.arms if layout.told_links}
    names = [*_AXIS] if layout.steering_axis else []
    for arm in layout.arms:
        link, swung = arm.key in links, f"{arm.key}_front" in links or layout.guide in ("swing", "trailing")
        if link or swung:
            names += [f"{arm.key}.length", f"{arm.key}.rise", *(f"{arm.key}.{told.name}" for told in arm.plan)]
        if link and arm.steers:
            names += [f"{arm.key}.lever", *([f"{arm.key}.above"] if layout.steering_axis else [])]
    return tuple(names)


def _ends_of(layout: Layout, part: str, place: Place) -> tuple[Array, Array | None, Array]:
    """Both ends of a part's pivot axis and its joint, or the two ends of a link with none between, shape (n, 3)."""
    names = [link for link, *_ in layout.links] or [arm.key for arm in layout.arms]
    if f"{part}_front" in names and f"{part}_rear" in names:
        inner, outer = layout.ends_of(f"{part}_front")
        return place(inner), place(layout.ends_of(f"{part}_rear")[0]), place(outer)
    if layout.guide == "swing" and part == "arm":
        return place("arm_inner"), place("arm_outer"), place("wheel_center")
    if layout.guide == "trailing" and part == "trailing":
        return place("trailing_body"), None, place("wheel_center")
    if part in names and layout.guide != "swing":
        inner, outer = layout.ends_of(part)
        return place(inner), None, place(outer)
    raise NotFound(f"A tape reads nothing of {part} here.")


# Upper joint against the lower one: column, and the sign that makes higher, inboard and behind positive.
_AXIS = {"joint_height": (2, 1), "joint_inboard": (1, -1), "joint_back": (0, -1)}


def _square(first: Array, last: Array, joint: Array) -> Array:
    """From a pivot axis square to a joint."""
    axis = last - first
    axis = axis / np.linalg.norm(axis, axis=1)[:, None]
    reach = joint - first
    return np.asarray(reach - np.einsum("ni,ni->n", reach, axis)[:, None] * axis)
