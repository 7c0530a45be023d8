"""Solid axle on leaf springs, which hold it every way."""

from fair_spindle.core.geometry.layouts.layout import WHEEL, ArmKind, Layout

LAYOUT = Layout(
    "solid_leaf",
    "Solid axle on leaf springs",
    (
        ArmKind("leaf", "Leaf spring", (("front", "front eye"), ("rear", "rear eye")), leaf=True),
        ArmKind("shackle", "Shackle", (("body", "body end"),), own_work=True),
    ),
    (
        ("leaf_front", "Leaf, front eye"),
        ("leaf_rear", "Leaf, rear eye"),
        ("shackle_top", "Shackle, upper pivot"),
        ("axle_seat", "Spring seat on the axle"),
        WHEEL,
    ),
    camber_usual=(-1.0, 1.5),
    ratio=(1.0, 0.01),
    guide="axle",
    axle_points=("leaf_front", "leaf_rear", "axle_seat", "wheel_center"),
    leaves=(("leaf_front", "axle_seat", "leaf_rear"),),
)
