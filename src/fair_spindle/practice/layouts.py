"""The axles of the practice bay: a middling left wheel of each layout, what is on a thread, what can be set. [mm]"""

from __future__ import annotations

from fair_spindle.practice.axles import TOGETHER

TYPICAL: dict[str, dict[str, tuple[float, float, float]]] = {
    "double_wishbone": {
        "upper_front": (120, 396, 496),
        "upper_rear": (-154, 397, 503),
        "upper_ball": (-30, 647, 543),
        "lower_front": (167, 338, 195),
        "lower_rear": (-224, 355, 181),
        "lower_ball": (16, 735, 195),
        "tie_inner": (-114, 349, 217),
        "tie_outer": (-120, 706, 215),
        "wheel_center": (-2, 760, 320),
    },
    "strut": {
        "strut_top": (-20, 571, 865),
        "strut_low": (4, 622, 420),
        "lower_front": (14, 382, 200),
        "lower_rear": (-289, 374, 206),
        "lower_ball": (20, 695, 169),
        "tie_inner": (-127, 337, 263),
        "tie_outer": (-133, 674, 253),
        "wheel_center": (-3, 741, 320),
    },
    "trailing_lateral": {
        "trailing_body": (430, 590, 330),
        "lateral_front_inner": (60, 330, 225),
        "lateral_front_outer": (50, 690, 215),
        "lateral_rear_inner": (-120, 300, 235),
        "lateral_rear_outer": (-110, 695, 225),
        "upper_inner": (-30, 400, 440),
        "upper_outer": (-20, 660, 455),
        "wheel_center": (0, 745, 310),
    },
    "semi_trailing": {"arm_inner": (340, 180, 244), "arm_outer": (394, 520, 248), "wheel_center": (-10, 741, 321)},
    "twist_beam": {"beam_pivot": (410, 560, 320), "cross_beam": (260, 480, 330), "wheel_center": (0, 740, 320)},
    "solid_links": {
        "lower_body": (560, 430, 290),
        "lower_axle": (-10, 480, 265),
        "upper_body": (380, 300, 430),
        "upper_axle": (-20, 220, 420),
        "panhard_end": (-140, 480, 330),
        "wheel_center": (0, 745, 315),
    },
    "solid_leaf": {
        "leaf_front": (620, 500, 340),
        "leaf_rear": (-640, 500, 385),
        "shackle_top": (-600, 500, 475),
        "axle_seat": (0, 500, 290),
        "wheel_center": (0, 745, 315),
    },
    "five_link": {
        "upper_front_inner": (110, 398, 498),
        "upper_front_outer": (-10, 648, 541),
        "upper_rear_inner": (-160, 400, 503),
        "upper_rear_outer": (-45, 645, 546),
        "lower_front_inner": (165, 340, 195),
        "lower_front_outer": (25, 732, 195),
        "lower_rear_inner": (-225, 355, 184),
        "lower_rear_outer": (-12, 738, 192),
        "tie_inner": (-114, 349, 217),
        "tie_outer": (-120, 706, 215),
        "wheel_center": (-2, 760, 320),
    },
}
# What is on a thread, by layout: the field of the link that holds the toe, then of the adjuster beside it.
THREADS: dict[str, tuple[str, ...]] = {
    "strut": ("tie",),
    "double_wishbone": ("tie", "upper"),
    "five_link": ("tie", "upper_front"),
    "trailing_lateral": ("lateral_front", "upper"),
    "semi_trailing": ("arm",),
    **dict.fromkeys(TOGETHER, ()),
}
# Which of a wheel's angles can be brought to what is wanted.
SET: dict[str, tuple[str, ...]] = {"semi_trailing": ("toe",), **dict.fromkeys(TOGETHER, ())}
# Axles whose wheels do not steer.
REAR_ONLY = ("trailing_lateral", "semi_trailing", "twist_beam")
# Axles of one piece, which one tie rod and a drag link steer at the front.
SOLID = ("solid_links", "solid_leaf")
TOE_LINKS = ("Tie rod", "Toe link", "Front lateral link")
# Spring travel per wheel travel; a leaf stands on the axle itself.
RATIO = {"front": 0.95, "rear": 0.8}


def ratio_of(axle: str, layout: str) -> float:
    """Usual motion ratio of a practice car's axle."""
    return 1.0 if layout == "solid_leaf" else RATIO[axle]


def steered_solid(axle: str, layout: str) -> bool:
    """Whether an axle is of one piece and steers."""
    return axle == "front" and layout in SOLID


def wanted_at(axle: str, layout: str) -> tuple[str, ...]:
    """Angles that can be set at a wheel of the layout."""
    return ("toe",) if steered_solid(axle, layout) else SET.get(layout, ("toe", "camber"))
