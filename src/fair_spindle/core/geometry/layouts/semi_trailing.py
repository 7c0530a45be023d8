"""Semi-trailing arm: the wheel swings about one slanted axis."""

from fair_spindle.core.geometry.layouts.layout import ENDS, WHEEL, ArmKind, Layout, PlanMeasure

_PLAN = (
    PlanMeasure("span", "Between its pivots", 60, 900),
    PlanMeasure("lead", "Outer pivot ahead of the inner", -400, 400),
    PlanMeasure("tilt", "Outer pivot higher than the inner", -200, 200),
)

LAYOUT = Layout(
    "semi_trailing",
    "Semi-trailing arm",
    (ArmKind("arm", "Semi-trailing arm", ENDS, sprung=True, plan=_PLAN),),
    (("arm_inner", "Arm, inner pivot"), ("arm_outer", "Arm, outer pivot"), WHEEL),
    camber_usual=(-4.5, 1.0),
    guide="swing",
    axles=("rear",),
    guide_points=("arm_inner", "arm_outer"),
    movable="arm",
    usual={"wheel_center": (0, 755, 315), "arm_inner": (345, 185, 245), "arm_outer": (400, 525, 250)},
)
