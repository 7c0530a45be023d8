"""Ride height, bushings and torque units, as published."""

from __future__ import annotations

from math import degrees, radians
from typing import Annotated

from pydantic import Field, model_validator

from fair_spindle.calculations.base import Calculation, NotNegative, Positive, Values, exactly_one
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.bolts.fasteners import state_torque
from fair_spindle.core.springs import heights, rubber

_TORQUE_SPELLINGS = ("torque_nm", "torque_lb_ft", "torque_lb_in", "torque_kgf_m")


class FittedSpring(Values):
    """A spring as fitted."""

    rate_n_per_mm: Positive
    free_mm: Positive
    seat_shift_mm: float = 0.0
    gas_force_n: NotNegative = 0.0

    def core(self) -> heights.Spring:
        """As the core takes it."""
        return heights.Spring(self.rate_n_per_mm, self.free_mm, self.seat_shift_mm, self.gas_force_n)


class HeightChangeIn(Values):
    """One corner before and after."""

    motion_ratio: Positive
    sprung_load_n: Positive
    old: FittedSpring
    new: FittedSpring
    damper_motion_ratio: Positive | None = None


class HeightChangeOut(Values):
    """How far the body rises."""

    height_change_mm: float


def height_change(given: HeightChangeIn) -> HeightChangeOut:
    """Ride-height change of one corner."""
    change = heights.height_change(
        given.motion_ratio, given.sprung_load_n, given.old.core(), given.new.core(), given.damper_motion_ratio
    )
    return HeightChangeOut(height_change_mm=float(change))


class BushingTwistIn(Values):
    """An arm, and where its bolt was clamped."""

    arm_length_mm: Positive
    outer_above_inner_mm: float
    travel_at_clamp_mm: float
    joint_travel_ratio: Positive = 1.0
    rate_nm_per_deg: Positive | None = None
    twist_limit_deg: Annotated[float, Field(gt=0, lt=90)] = 2.0


class BushingTwistOut(Values):
    """Wind-up at ride height, and the window that keeps it small."""

    twist_deg: float
    within_limit: bool
    clamp_window_mm: list[float]
    torque_nm: float | None = None
    wheel_force_n: float | None = None


def bushing_twist(given: BushingTwistIn) -> BushingTwistOut:
    """Wind-up of a bonded bushing."""
    arm = rubber.Arm(given.arm_length_mm, given.outer_above_inner_mm, given.joint_travel_ratio)
    limit = radians(given.twist_limit_deg)
    twist = float(rubber.bushing_twist(arm, given.travel_at_clamp_mm))
    torque_nm = None if given.rate_nm_per_deg is None else given.rate_nm_per_deg * degrees(twist)
    force = None if torque_nm is None else float(rubber.wind_up_force(arm, to_core(torque_nm, "nm")))
    return BushingTwistOut(
        twist_deg=degrees(twist),
        within_limit=abs(twist) <= limit,
        clamp_window_mm=list(rubber.clamp_window(arm, limit)),
        torque_nm=torque_nm,
        wheel_force_n=force,
    )


class TorqueConvertIn(Values):
    """A torque in one unit."""

    torque_nm: float | None = None
    torque_lb_ft: float | None = None
    torque_lb_in: float | None = None
    torque_kgf_m: float | None = None

    @model_validator(mode="after")
    def _one_spelling(self) -> TorqueConvertIn:
        exactly_one(self, _TORQUE_SPELLINGS)
        return self


class TorqueConvertOut(Values):
    """The same torque in every unit."""

    torque_nm: float
    torque_lb_ft: float
    torque_lb_in: float
    torque_kgf_m: float


def torque_convert(given: TorqueConvertIn) -> TorqueConvertOut:
    """A torque from any unit to all."""
    name = exactly_one(given, _TORQUE_SPELLINGS)
    torque = to_core(getattr(given, name), name.removeprefix("torque_"))
    return TorqueConvertOut(**{f"torque_{unit}": size for unit, size in state_torque(torque).items()})


CALCULATIONS = (
    Calculation("height-change", "Ride-height change of one corner", HeightChangeIn, HeightChangeOut, height_change),
    Calculation("bushing-twist", "Wind-up of a bonded bushing", BushingTwistIn, BushingTwistOut, bushing_twist),
    Calculation("torque-convert", "A torque in every unit", TorqueConvertIn, TorqueConvertOut, torque_convert),
)
