"""Types of axle, each in a file of its own; which arms and links an axle has with what steers it."""

from __future__ import annotations

from dataclasses import replace

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.geometry.layouts import (
    double_wishbone,
    five_link,
    semi_trailing,
    solid_leaf,
    solid_links,
    strut,
    trailing_lateral,
    twist_beam,
)
from fair_spindle.core.geometry.layouts.layout import ENDS, ArmKind, Layout
from fair_spindle.core.geometry.layouts.wishbones import TIE

__all__ = ["LAYOUTS", "ArmKind", "Layout", "arms_of", "find_layout"]

LAYOUTS: dict[str, Layout] = {
    file.LAYOUT.key: file.LAYOUT
    for file in (
        strut, double_wishbone, five_link, semi_trailing, trailing_lateral, twist_beam, solid_leaf, solid_links,
    )
}  # fmt: skip
_STEERED_SOLID = (
    ArmKind("tie", "Tie rod", (), shared=True, steers=True),
    ArmKind("drag", "Drag link", (), shared=True),
)


def find_layout(key: str) -> Layout:
    """Look a layout up.

    Parameters
    ----------
    key : str
        Key of ``LAYOUTS``. [-]

    Returns
    -------
    Layout
        The layout.

    Raises
    ------
    NotFound
        No such layout.

    Notes
    -----
    Keys are those of the published geometry calculations where these have one.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> find_layout("strut").kingpin
    True
    """
    if key not in LAYOUTS:
        raise NotFound(f"There is no layout {key!r}; there are {', '.join(LAYOUTS)}.", field="layout")
    return LAYOUTS[key]


def arms_of(layout: Layout, axle: str, linkage: str = "rack") -> tuple[ArmKind, ...]:
    """Arms and links of an axle, with what steers it.

    Parameters
    ----------
    layout : Layout
        Type of axle. [-]
    axle : {"front", "rear"}
        Which one. [-]
    linkage : {"rack", "drag_link"}, optional
        How the front wheels are steered. [-]

    Returns
    -------
    tuple of ArmKind
        A drag link joins where one is used; a steered solid axle has one tie rod for both sides.

    Raises
    ------
    Nothing.

    Notes
    -----
    At the rear the link that holds the toe is called toe link.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> [arm.key for arm in arms_of(find_layout("solid_leaf"), "front", "drag_link")]
    ['leaf', 'shackle', 'tie', 'drag']
    >>> arms_of(find_layout("strut"), "rear")[-1].label
    'Toe link'
    """
    if axle == "rear":
        return tuple(replace(arm, label="Toe link", pivots=ENDS) if arm is TIE else arm for arm in layout.arms)
    if not layout.independent:
        return (*layout.arms, *_STEERED_SOLID)
    return (*layout.arms, *(_STEERED_SOLID[1:] if linkage == "drag_link" else ()))
