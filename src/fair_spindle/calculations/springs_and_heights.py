"""Springs, perches, the whole car's heights, travel and sway bars, as published."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from fair_spindle.calculations.base import Calculation, NotNegative, Positive, Values
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.springs import car_heights, perches, springs, travel
from fair_spindle.core.springs.sway_bar import bar_rates


class SpringRateIn(Values):
    """A round-wire compression spring."""

    wire_mm: Positive
    mean_diameter_mm: Positive
    active_coils: Positive
    shear_modulus_mpa: Positive = springs.SHEAR_MODULUS


class SpringRateOut(Values):
    """Its rate, and the spring index."""

    rate_n_per_mm: float
    index: float


def spring_rate(given: SpringRateIn) -> SpringRateOut:
    """Rate of a coil spring from its wire."""
    rate = springs.coil_rate(given.wire_mm, given.mean_diameter_mm, given.active_coils, given.shear_modulus_mpa)
    return SpringRateOut(rate_n_per_mm=rate, index=given.mean_diameter_mm / given.wire_mm)


class CoilIn(Values):
    """One spring of a stack."""

    rate_n_per_mm: Positive
    free_mm: Positive
    solid_mm: NotNegative

    def core(self) -> springs.Coil:
        """As the core takes it."""
        return springs.Coil(self.rate_n_per_mm, self.free_mm, self.solid_mm)


Stack = Annotated[list[CoilIn], Field(min_length=1, max_length=8)]


class SpringStackIn(Values):
    """Springs standing on each other, and the load on them."""

    springs: Stack
    load_n: NotNegative


class SpringStackOut(Values):
    """Each length; no rate where all are solid."""

    lengths_mm: list[float]
    total_mm: float
    at_solid: list[bool]
    rate_n_per_mm: float | None


def spring_stack(given: SpringStackIn) -> SpringStackOut:
    """A stack of springs under load."""
    found = springs.stack_under_load([spring.core() for spring in given.springs], given.load_n)
    return SpringStackOut(
        lengths_mm=list(found.lengths),
        total_mm=found.total,
        at_solid=list(found.at_solid),
        rate_n_per_mm=found.rate,
    )


class PerchPositionIn(Values):
    """A coilover on the bench, and where the car is to sit."""

    motion_ratio: Positive
    sprung_load_n: Positive
    gas_force_n: NotNegative
    damper_length_at_ride_mm: Positive
    height_change_mm: float
    upper_seat_from_upper_eye_mm: float
    springs: Stack
    pitch_mm: Positive
    lower_seat_at_bottom_mm: float


class PerchPositionOut(Values):
    """Where the perch goes."""

    damper_length_mm: float
    springs_length_mm: float
    lower_seat_from_lower_eye_mm: float
    turns_up: float


def perch_position(given: PerchPositionIn) -> PerchPositionOut:
    """Perch preset for a wanted height."""
    found = perches.perch_place(
        given.motion_ratio,
        given.sprung_load_n,
        given.gas_force_n,
        given.damper_length_at_ride_mm,
        given.height_change_mm,
        given.upper_seat_from_upper_eye_mm,
        [spring.core() for spring in given.springs],
        given.pitch_mm,
        given.lower_seat_at_bottom_mm,
    )
    return PerchPositionOut(
        damper_length_mm=found.damper,
        springs_length_mm=found.springs,
        lower_seat_from_lower_eye_mm=found.from_lower_eye,
        turns_up=found.turns_up,
    )


class SeatedSpring(Values):
    """A spring with its seat and its damper's gas, at one corner."""

    rate_n_per_mm: Positive
    free_mm: Positive
    seat_shift_mm: float = 0.0
    gas_force_n: NotNegative = 0.0


class CornerChange(Values):
    """One corner before and after."""

    motion_ratio: Positive
    before: SeatedSpring
    after: SeatedSpring


class OfWheels(Values):
    """A number for each wheel."""

    FL: float
    FR: float
    RL: float
    RR: float


class PositiveOfWheels(OfWheels):
    """A number above zero for each wheel."""

    FL: Positive
    FR: Positive
    RL: Positive
    RR: Positive


class NotNegativeOfWheels(OfWheels):
    """A number not below zero for each wheel."""

    FL: NotNegative
    FR: NotNegative
    RL: NotNegative
    RR: NotNegative


class Corners(Values):
    """Four corners."""

    FL: CornerChange
    FR: CornerChange
    RL: CornerChange
    RR: CornerChange


class CarHeightsIn(Values):
    """A whole car before and after a change of springs."""

    wheelbase_mm: Positive
    track_front_mm: Positive
    track_rear_mm: Positive
    wheel_loads_n: PositiveOfWheels
    unsprung_n: NotNegativeOfWheels
    corners: Corners
    bar_front_n_per_mm: NotNegative
    bar_rear_n_per_mm: NotNegative
    tyre_rate_n_per_mm: Positive | None


class CarHeightsOut(Values):
    """Where it sits, and what stands on each wheel."""

    height_change_mm: OfWheels
    wheel_loads_n: OfWheels
    cross_weight_before_pct: float
    cross_weight_after_pct: float


def whole_car(given: CarHeightsIn) -> CarHeightsOut:
    """Heights and loads of the whole car."""
    loads = np.array([getattr(given.wheel_loads_n, wheel.letters) for wheel in WHEELS])
    unsprung = np.array([getattr(given.unsprung_n, wheel.letters) for wheel in WHEELS])
    legs = []
    for place, wheel in enumerate(WHEELS):
        corner: CornerChange = getattr(given.corners, wheel.letters)
        old, new = (
            springs.coil_curve(springs.Coil(one.rate_n_per_mm, one.free_mm)) for one in (corner.before, corner.after)
        )
        gas = corner.before.gas_force_n
        length = car_heights.spring_length(old, loads[place] - unsprung[place], corner.motion_ratio, gas)
        shift = corner.before.seat_shift_mm - corner.after.seat_shift_mm
        legs.append(car_heights.Leg(new, length + shift, corner.motion_ratio, corner.after.gas_force_n))
    stance = car_heights.Stance(
        given.wheelbase_mm,
        given.track_front_mm,
        given.track_rear_mm,
        given.bar_front_n_per_mm,
        given.bar_rear_n_per_mm,
        given.tyre_rate_n_per_mm,
    )
    found = car_heights.settle_car(stance, loads, unsprung, legs)
    return CarHeightsOut(
        height_change_mm=_of_wheels(found.height_change[0]),
        wheel_loads_n=_of_wheels(found.loads[0]),
        cross_weight_before_pct=100 * float(car_heights.cross_weight(loads)),
        cross_weight_after_pct=100 * float(car_heights.cross_weight(found.loads[0])),
    )


def _of_wheels(numbers: np.ndarray) -> OfWheels:
    return OfWheels(**{wheel.letters: float(number) for wheel, number in zip(WHEELS, numbers, strict=True)})


class TravelBudgetIn(Values):
    """A damper at ride height."""

    damper_open_mm: Positive
    damper_closed_mm: Positive
    damper_length_at_ride_mm: Positive
    motion_ratio: Positive
    bump_stop_mm: NotNegative


class TravelBudgetOut(Values):
    """Wheel travel left."""

    droop_mm: float
    bump_to_stop_mm: float
    bump_to_metal_mm: float


def travel_budget(given: TravelBudgetIn) -> TravelBudgetOut:
    """Travel that a damper leaves."""
    found = travel.travel_budget(
        given.damper_open_mm,
        given.damper_closed_mm,
        given.damper_length_at_ride_mm,
        given.motion_ratio,
        given.bump_stop_mm,
    )
    return TravelBudgetOut(
        droop_mm=found.droop, bump_to_stop_mm=found.bump_to_stop, bump_to_metal_mm=found.bump_to_metal
    )


class SwayBarIn(Values):
    """A sway bar, solid or hollow."""

    outer_diameter_mm: Positive
    inner_diameter_mm: NotNegative = 0.0
    bar_length_mm: Positive
    arm_lengths_mm: Annotated[list[Positive], Field(min_length=1, max_length=12)]
    shear_modulus_mpa: Positive = springs.SHEAR_MODULUS


class SwayBarOut(Values):
    """Its rate at each hole."""

    rates_n_per_mm: list[float]


def sway_bar(given: SwayBarIn) -> SwayBarOut:
    """Rates of a sway bar."""
    return SwayBarOut(
        rates_n_per_mm=list(
            bar_rates(
                given.outer_diameter_mm,
                given.bar_length_mm,
                given.arm_lengths_mm,
                given.inner_diameter_mm,
                given.shear_modulus_mpa,
            )
        )
    )


CALCULATIONS = (
    Calculation("spring-rate", "Rate of a coil spring from its wire", SpringRateIn, SpringRateOut, spring_rate),
    Calculation(
        "spring-stack", "Springs standing on each other", SpringStackIn, SpringStackOut, spring_stack, sparse=False
    ),
    Calculation(
        "perch-position", "Perch preset for a wanted height", PerchPositionIn, PerchPositionOut, perch_position
    ),
    Calculation("car-heights", "Heights and loads of the whole car", CarHeightsIn, CarHeightsOut, whole_car),
    Calculation("travel-budget", "Travel that a damper leaves", TravelBudgetIn, TravelBudgetOut, travel_budget),
    Calculation("sway-bar", "Rates of a sway bar", SwayBarIn, SwayBarOut, sway_bar),
)
