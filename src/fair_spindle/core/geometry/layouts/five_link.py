"""Five-link: five links hold the upright, each with its two joints."""

from fair_spindle.core.geometry.layouts.layout import (
    BUMP_STEER_KEPT,
    CAMBER_GAIN_KEPT,
    ENDS,
    LEVER_KEPT,
    WHEEL,
    ArmKind,
    Layout,
    ends_of_arms,
)

_LINKS = (
    ArmKind("upper_front", "Upper front link", ENDS),
    ArmKind("upper_rear", "Upper rear link", ENDS),
    ArmKind("lower_front", "Lower front link", ENDS),
    ArmKind("lower_rear", "Lower rear link", ENDS, sprung=True),
    ArmKind("tie", "Toe link", ENDS, steers=True),
)

LAYOUT = Layout(
    "five_link",
    "Five-link",
    _LINKS,
    (*ends_of_arms(_LINKS), WHEEL),
    camber_usual=(-4.0, 1.0),
    told_links=True,
    kept=(LEVER_KEPT, BUMP_STEER_KEPT, CAMBER_GAIN_KEPT),
    usual={
        "wheel_center": (0, 755, 315),
        "upper_front_inner": (112, 400, 498),
        "upper_front_outer": (-5, 650, 538),
        "upper_rear_inner": (-155, 402, 500),
        "upper_rear_outer": (-40, 648, 542),
        "lower_front_inner": (150, 345, 196),
        "lower_front_outer": (22, 725, 188),
        "lower_rear_inner": (-215, 355, 186),
        "lower_rear_outer": (-10, 728, 186),
        "tie_inner": (-118, 348, 228),
        "tie_outer": (-125, 705, 222),
    },
)
