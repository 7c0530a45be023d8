"""Strut: the upright slides along it, a wishbone below, the tie rod."""

from fair_spindle.core.geometry.layouts.layout import BUMP_STEER_KEPT, CAMBER_GAIN_KEPT, WHEEL, Layout
from fair_spindle.core.geometry.layouts.wishbones import (
    KEPT,
    LOWER,
    LOWER_LINKS,
    LOWER_POINTS,
    TIE,
    TIE_LINK,
    TIE_POINTS,
    USUAL,
)

LAYOUT = Layout(
    "strut",
    "Strut",
    (LOWER, TIE),
    (("strut_top", "Strut top"), *LOWER_POINTS, ("strut_low", "Strut axis, lower point"), *TIE_POINTS, WHEEL),
    camber_usual=(-3.5, 1.5),
    ratio=(0.95, 0.03),
    guide="strut",
    links=(*LOWER_LINKS, TIE_LINK),
    guide_points=("strut_top", "strut_low"),
    steering_axis=("lower_ball", "strut_top"),
    movable="strut_top",
    joint_inboard=0.14,
    kept=(*KEPT, BUMP_STEER_KEPT, CAMBER_GAIN_KEPT),
    usual={"strut_top": (-22, 575, 860), "strut_low": (2, 625, 415), **USUAL},
)
