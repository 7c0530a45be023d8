"""What layouts with a wishbone below share: its pivots, its points, the tie rod behind it."""

from __future__ import annotations

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.geometry.layouts.layout import FRONT_REAR, LEVER_KEPT, ArmKind, PlanMeasure, Point

WISHBONE_PLAN = (
    PlanMeasure("span", "Between its pivots, fore and aft", 40, 900),
    PlanMeasure("lead", "Outer joint ahead of the middle of its pivots", -500, 500),
    PlanMeasure("skew", "Front pivot farther out than the rear", -300, 300),
    PlanMeasure("tilt", "Front pivot higher than the rear", -300, 300),
)
LOWER = ArmKind("lower", "Lower arm", FRONT_REAR, ball=True, plan=WISHBONE_PLAN)
LOWER_POINTS = (
    ("lower_front", "Lower arm, front pivot"),
    ("lower_rear", "Lower arm, rear pivot"),
    ("lower_ball", "Lower ball joint"),
)
LOWER_LINKS = (("lower_front", "lower_front", "lower_ball"), ("lower_rear", "lower_rear", "lower_ball"))
TIE = ArmKind(
    "tie", "Tie rod", (), steers=True, plan=(PlanMeasure("lead", "Outer joint ahead of the inner", -200, 200),)
)
TIE_POINTS = (("tie_inner", "Tie rod, inner joint"), ("tie_outer", "Tie rod, outer joint"))
TIE_LINK = ("tie", "tie_inner", "tie_outer")
# How far the lean of a steering axis and the lever it is steered by vary. [rad, mm]
KEPT = (("caster", to_core(3, "deg")), LEVER_KEPT)
USUAL: dict[str, Point] = {
    "wheel_center": (0, 755, 315),
    "lower_front": (90, 360, 198),
    "lower_rear": (-240, 365, 196),
    "lower_ball": (10, 705, 178),
    "tie_inner": (-120, 345, 240),
    "tie_outer": (-128, 690, 232),
}
