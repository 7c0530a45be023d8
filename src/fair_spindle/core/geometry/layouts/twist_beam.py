"""Twist beam: both wheels swing about the line through its body pivots; in roll each half about its own axis."""

from fair_spindle.core.geometry.layouts.layout import WHEEL, ArmKind, Layout

LAYOUT = Layout(
    "twist_beam",
    "Twist beam",
    (ArmKind("beam", "Trailing half of the beam", (("body", "body bushing"),), own_work=True),),
    (("beam_pivot", "Beam, body pivot"), ("cross_beam", "Cross beam, where it meets the arm"), WHEEL),
    camber_usual=(-2.5, 0.5),
    ratio=(0.88, 0.1),
    guide="beam",
    axles=("rear",),
    guide_points=("beam_pivot",),
    axle_points=("beam_pivot", "cross_beam", "wheel_center"),
)
