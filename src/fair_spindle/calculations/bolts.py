"""Bolts: adapters, tension, tightening order, castle nuts, as published."""

from __future__ import annotations

from math import degrees, radians
from typing import Annotated, Literal

from pydantic import Field, model_validator

from fair_spindle.calculations.base import Calculation, NotNegative, Positive, Values
from fair_spindle.core.basics.units import from_core, to_core
from fair_spindle.core.bolts import tightening

PropertyClass = Literal["8.8", "10.9", "12.9"]


class AdapterTorqueIn(Values):
    """A torque wrench with an adapter on it."""

    target_nm: Positive
    wrench_length_mm: Positive
    adapter_length_mm: NotNegative
    angle_deg: Annotated[float, Field(ge=-180, le=180)] = 0.0


class AdapterTorqueOut(Values):
    """What to set."""

    set_nm: float


def adapter_torque(given: AdapterTorqueIn) -> AdapterTorqueOut:
    """What to set on a wrench with an adapter."""
    found = tightening.set_with_adapter(
        to_core(given.target_nm, "nm"), given.wrench_length_mm, given.adapter_length_mm, radians(given.angle_deg)
    )
    return AdapterTorqueOut(set_nm=from_core(found, "nm"))


class BoltTensionIn(Values):
    """A bolt and its torque, with one factor or with the friction of thread and head."""

    diameter_mm: Positive
    pitch_mm: Positive
    torque_nm: Positive
    property_class: PropertyClass
    nut_factor: Positive | None = None
    thread_friction: NotNegative | None = None
    bearing_friction: NotNegative | None = None
    bearing_diameter_mm: Positive | None = None

    @model_validator(mode="after")
    def _one_form(self) -> BoltTensionIn:
        three = (self.thread_friction, self.bearing_friction, self.bearing_diameter_mm)
        given = [one is not None for one in three]
        if (self.nut_factor is None) != all(given) or (self.nut_factor is not None and any(given)):
            raise ValueError(
                "give nut_factor, or thread_friction, bearing_friction and bearing_diameter_mm together, not both"
            )
        return self


class BoltTensionOut(Values):
    """What it does to the bolt."""

    stress_area_mm2: float
    tension_n: float
    stress_mpa: float
    proof_mpa: float
    percent_of_proof: float


def bolt_tension(given: BoltTensionIn) -> BoltTensionOut:
    """Tension and share of proof load."""
    torque = to_core(given.torque_nm, "nm")
    bolt = (torque, given.diameter_mm, given.pitch_mm, given.property_class)
    if given.nut_factor is not None:
        found = tightening.tension_by_nut_factor(*bolt, given.nut_factor)
    else:
        assert given.thread_friction is not None
        assert given.bearing_friction is not None
        assert given.bearing_diameter_mm is not None
        found = tightening.tension_by_friction(
            *bolt, given.thread_friction, given.bearing_friction, given.bearing_diameter_mm
        )
    return BoltTensionOut(
        stress_area_mm2=found.area,
        tension_n=found.force,
        stress_mpa=found.stress,
        proof_mpa=found.proof,
        percent_of_proof=100 * found.share,
    )


class PlaceIn(Values):
    """Where a fastener sits on the plan."""

    x_mm: float
    y_mm: float


class TightenOrderIn(Values):
    """Places of a joint, the rule, and the passes."""

    places: Annotated[list[PlaceIn], Field(min_length=1, max_length=60)]
    order: Literal["cross", "star", "spiral", "row"]
    passes_pct: Annotated[list[Positive], Field(min_length=1, max_length=6)] = Field(default_factory=lambda: [100.0])
    torque_nm: Positive | None = None


class PassOut(Values):
    """One pass: places counted from 1, in order; its torque where the final one was given."""

    percent: float
    places: list[int]
    torque_nm: float | None = None


class TightenOrderOut(Values):
    """Order and passes."""

    order: list[int]
    passes: list[PassOut]


def tighten_order(given: TightenOrderIn) -> TightenOrderOut:
    """In which order and passes a joint is tightened."""
    places = [(place.x_mm, place.y_mm) for place in given.places]
    order = [one + 1 for one in tightening.tighten_order(places, given.order)]
    torques = tightening.pass_torques(given.torque_nm or 1.0, given.passes_pct)
    return TightenOrderOut(
        order=order,
        passes=[
            PassOut(percent=percent, places=order, torque_nm=torque if given.torque_nm else None)
            for percent, torque in zip(given.passes_pct, torques, strict=True)
        ],
    )


class CastleNutIn(Values):
    """A castle nut past its torque, its slot not at the hole yet."""

    slots: Annotated[int, Field(ge=2, le=12)] = 6
    past_deg: NotNegative
    diameter_mm: Positive
    pitch_mm: Positive
    grip_mm: Positive
    torque_nm: Positive
    nut_factor: Positive = 0.2
    torque_max_nm: Positive | None = None


class CastleNutOut(Values):
    """How far on, what it adds, and whether the likely torque stays inside."""

    extra_angle_deg: float
    extra_tension_n: float
    torque_nm: float
    inside: bool


def castle_nut(given: CastleNutIn) -> CastleNutOut:
    """Forward to the next slot."""
    found = tightening.castle_nut(
        given.slots,
        radians(given.past_deg),
        given.pitch_mm,
        tightening.joint_stiffness(given.diameter_mm, given.pitch_mm, given.grip_mm),
        to_core(given.torque_nm, "nm"),
        given.diameter_mm,
        given.nut_factor,
        None if given.torque_max_nm is None else to_core(given.torque_max_nm, "nm"),
    )
    return CastleNutOut(
        extra_angle_deg=degrees(found.extra_angle),
        extra_tension_n=found.extra_tension,
        torque_nm=from_core(found.torque, "nm"),
        inside=found.inside,
    )


CALCULATIONS = (
    Calculation("adapter-torque", "What to set with an adapter", AdapterTorqueIn, AdapterTorqueOut, adapter_torque),
    Calculation("bolt-tension", "Tension and share of proof load", BoltTensionIn, BoltTensionOut, bolt_tension),
    Calculation("tighten-order", "Order and passes of a joint", TightenOrderIn, TightenOrderOut, tighten_order),
    Calculation("castle-nut", "A castle nut on to its next slot", CastleNutIn, CastleNutOut, castle_nut),
)
