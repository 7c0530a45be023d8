"""Double wishbone: two of them and the tie rod."""

from dataclasses import replace

from fair_spindle.core.geometry.layouts.layout import (
    BUMP_STEER_KEPT,
    CAMBER_GAIN_KEPT,
    FRONT_REAR,
    WHEEL,
    ArmKind,
    Layout,
)
from fair_spindle.core.geometry.layouts.wishbones import (
    KEPT,
    LOWER,
    LOWER_LINKS,
    LOWER_POINTS,
    TIE,
    TIE_LINK,
    TIE_POINTS,
    USUAL,
    WISHBONE_PLAN,
)

LAYOUT = Layout(
    "double_wishbone",
    "Double wishbone",
    (ArmKind("upper", "Upper arm", FRONT_REAR, ball=True, plan=WISHBONE_PLAN), replace(LOWER, sprung=True), TIE),
    (
        ("upper_front", "Upper arm, front pivot"),
        ("upper_rear", "Upper arm, rear pivot"),
        ("upper_ball", "Upper ball joint"),
        *LOWER_POINTS,
        *TIE_POINTS,
        WHEEL,
    ),
    camber_usual=(-4.0, 1.5),
    links=(
        ("upper_front", "upper_front", "upper_ball"),
        ("upper_rear", "upper_rear", "upper_ball"),
        *LOWER_LINKS,
        TIE_LINK,
    ),
    steering_axis=("lower_ball", "upper_ball"),
    # With these on a lower arm the motion ratio follows from the points.
    spring_points=(
        ("spring_top", "Spring or damper, upper end"),
        ("spring_low", "Spring or damper, lower end on the arm"),
    ),
    joint_inboard=0.04,
    kept=(*KEPT, BUMP_STEER_KEPT, CAMBER_GAIN_KEPT),
    usual={"upper_front": (115, 400, 500), "upper_rear": (-150, 402, 500), "upper_ball": (-25, 655, 530), **USUAL},
)
