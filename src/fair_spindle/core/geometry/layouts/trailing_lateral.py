"""Trailing arm with lateral links: the upright is one piece with the arm, which turns in one joint."""

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.geometry.layouts.layout import BUMP_STEER_KEPT, ENDS, WHEEL, ArmKind, Layout, ends_of_arms

_ACROSS = (
    ArmKind("lateral_front", "Front lateral link", ENDS, steers=True),
    ArmKind("lateral_rear", "Rear lateral link", ENDS),
    ArmKind("upper", "Upper link", ENDS),
)

LAYOUT = Layout(
    "trailing_lateral",
    "Trailing arm with lateral links",
    (ArmKind("trailing", "Trailing arm", (("body", "body bushing"),), own_work=True), *_ACROSS),
    (("trailing_body", "Trailing arm, body pivot"), *ends_of_arms(_ACROSS), WHEEL),
    camber_usual=(-3.5, 0.5),
    guide="trailing",
    axles=("rear",),
    links=tuple((arm.key, f"{arm.key}_inner", f"{arm.key}_outer") for arm in _ACROSS),
    guide_points=("trailing_body",),
    # An arm stiff across the car steers its wheel by where its links lie: they vary more in what they do.
    kept=(("lateral_front.lever", 30.0), BUMP_STEER_KEPT, ("camber_slope", to_core(9, "min_per_10mm"))),
    usual={
        "wheel_center": (0, 755, 315),
        "trailing_body": (420, 560, 290),
        "lateral_front_inner": (90, 330, 215),
        "lateral_front_outer": (95, 690, 205),
        "lateral_rear_inner": (-110, 320, 218),
        "lateral_rear_outer": (-105, 690, 208),
        "upper_inner": (-10, 410, 440),
        "upper_outer": (-5, 660, 455),
    },
)
