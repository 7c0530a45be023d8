"""Solid axle on links: two pairs along, a Panhard rod across."""

from fair_spindle.core.geometry.layouts.layout import WHEEL, ArmKind, Layout

_ENDS = (("body", "body end"), ("axle", "axle end"))

LAYOUT = Layout(
    "solid_links",
    "Solid axle on links",
    (
        ArmKind("lower_link", "Lower link", _ENDS),
        ArmKind("upper_link", "Upper link", _ENDS),
        ArmKind("panhard", "Panhard rod", _ENDS, shared=True),
    ),
    (
        ("lower_body", "Lower link, body end"),
        ("lower_axle", "Lower link, axle end"),
        ("upper_body", "Upper link, body end"),
        ("upper_axle", "Upper link, axle end"),
        ("panhard_end", "Panhard rod, end at this side"),
        WHEEL,
    ),
    camber_usual=(-1.0, 1.5),
    ratio=(0.88, 0.1),
    guide="axle",
    axle_points=("lower_body", "lower_axle", "upper_body", "upper_axle", "panhard_end", "wheel_center"),
    axle_links=(("lower link", "lower_body", "lower_axle"), ("upper link", "upper_body", "upper_axle")),
    across="panhard_end",
)
