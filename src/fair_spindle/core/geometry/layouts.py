"""Axle layouts: which arms and links each has, where they pivot, and which points describe them.

Names of points and links are those of the published geometry calculations.
"""

from __future__ import annotations

from dataclasses import dataclass

from fair_spindle.core.basics.errors import NotFound

_FRONT_REAR = (("front", "front bushing"), ("rear", "rear bushing"))
_ENDS = (("inner", "inner end"), ("outer", "outer end"))


@dataclass(frozen=True)
class ArmKind:
    """An arm or link of a layout: key, name, its pivots, whether one serves both sides.

    ``steers`` tells that it holds the toe of the wheel.
    """

    key: str
    label: str
    pivots: tuple[tuple[str, str], ...]
    shared: bool = False
    steers: bool = False


@dataclass(frozen=True)
class Layout:
    """A type of axle.  ``kingpin`` tells that its wheels have a steering axis of their own."""

    key: str
    label: str
    arms: tuple[ArmKind, ...]
    points: tuple[tuple[str, str], ...]
    independent: bool = True
    kingpin: bool = False
    axles: tuple[str, ...] = ("front", "rear")


_WHEEL = ("wheel_center", "Wheel centre")
_TIE = ArmKind("tie", "Tie rod", (), steers=True)
_TIE_POINTS = (("tie_inner", "Tie rod, inner joint"), ("tie_outer", "Tie rod, outer joint"))
_LOWER_POINTS = (
    ("lower_front", "Lower arm, front pivot"),
    ("lower_rear", "Lower arm, rear pivot"),
    ("lower_ball", "Lower ball joint"),
)
_FIVE = (
    ArmKind("upper_front", "Upper front link", _ENDS),
    ArmKind("upper_rear", "Upper rear link", _ENDS),
    ArmKind("lower_front", "Lower front link", _ENDS),
    ArmKind("lower_rear", "Lower rear link", _ENDS),
    ArmKind("tie", "Toe link", _ENDS, steers=True),
)


def _ends_of(arms: tuple[ArmKind, ...]) -> tuple[tuple[str, str], ...]:
    return tuple((f"{arm.key}_{end}", f"{arm.label}, {end} joint") for arm in arms for end in ("inner", "outer"))


_TRAILING = (
    ArmKind("trailing", "Trailing arm", (("body", "body bushing"),)),
    ArmKind("lateral_front", "Front lateral link", _ENDS, steers=True),
    ArmKind("lateral_rear", "Rear lateral link", _ENDS),
    ArmKind("upper", "Upper link", _ENDS),
)
_PANHARD = ArmKind("panhard", "Panhard rod", (("body", "body end"), ("axle", "axle end")), shared=True)

LAYOUTS: dict[str, Layout] = {
    one.key: one
    for one in (
        Layout(
            "strut",
            "Strut",
            (ArmKind("lower", "Lower arm", _FRONT_REAR), _TIE),
            (
                ("strut_top", "Strut top"),
                *_LOWER_POINTS,
                ("strut_low", "Strut axis, lower point"),
                *_TIE_POINTS,
                _WHEEL,
            ),
            kingpin=True,
        ),
        Layout(
            "double_wishbone",
            "Double wishbone",
            (ArmKind("upper", "Upper arm", _FRONT_REAR), ArmKind("lower", "Lower arm", _FRONT_REAR), _TIE),
            (
                ("upper_front", "Upper arm, front pivot"),
                ("upper_rear", "Upper arm, rear pivot"),
                ("upper_ball", "Upper ball joint"),
                *_LOWER_POINTS,
                *_TIE_POINTS,
                _WHEEL,
            ),
            kingpin=True,
        ),
        Layout("five_link", "Five-link", _FIVE, (*_ends_of(_FIVE), _WHEEL)),
        Layout(
            "semi_trailing",
            "Semi-trailing arm",
            (ArmKind("arm", "Semi-trailing arm", _ENDS),),
            (("arm_inner", "Arm, inner pivot"), ("arm_outer", "Arm, outer pivot"), _WHEEL),
            axles=("rear",),
        ),
        Layout(
            "trailing_lateral",
            "Trailing arm with lateral links",
            _TRAILING,
            (("trailing_body", "Trailing arm, body pivot"), *_ends_of(_TRAILING[1:]), _WHEEL),
            axles=("rear",),
        ),
        Layout(
            "twist_beam",
            "Twist beam",
            (ArmKind("beam", "Trailing half of the beam", (("body", "body bushing"),)),),
            (("beam_pivot", "Beam, body pivot"), ("cross_beam", "Cross beam, where it meets the arm"), _WHEEL),
            independent=False,
            axles=("rear",),
        ),
        Layout(
            "solid_leaf",
            "Solid axle on leaf springs",
            (
                ArmKind("leaf", "Leaf spring", (("front", "front eye"), ("rear", "rear eye"))),
                ArmKind("shackle", "Shackle", (("body", "body end"),)),
            ),
            (
                ("leaf_front", "Leaf, front eye"),
                ("leaf_rear", "Leaf, rear eye"),
                ("shackle_top", "Shackle, upper pivot"),
                ("axle_seat", "Spring seat on the axle"),
                _WHEEL,
            ),
            independent=False,
            kingpin=True,
        ),
        Layout(
            "solid_links",
            "Solid axle on links",
            (
                ArmKind("lower_link", "Lower link", (("body", "body end"), ("axle", "axle end"))),
                ArmKind("upper_link", "Upper link", (("body", "body end"), ("axle", "axle end"))),
                _PANHARD,
            ),
            (
                ("lower_body", "Lower link, body end"),
                ("lower_axle", "Lower link, axle end"),
                ("upper_body", "Upper link, body end"),
                ("upper_axle", "Upper link, axle end"),
                ("panhard_end", "Panhard rod, end at this side"),
                _WHEEL,
            ),
            independent=False,
            kingpin=True,
        ),
    )
}

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
        return tuple(ArmKind("tie", "Toe link", _ENDS, steers=True) if arm is _TIE else arm for arm in layout.arms)
    if not layout.independent:
        return (*layout.arms, *_STEERED_SOLID)
    return (*layout.arms, *(_STEERED_SOLID[1:] if linkage == "drag_link" else ()))
