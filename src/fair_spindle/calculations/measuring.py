"""Published calculations of measuring: caster from a sweep, repeats combined with an instrument."""

from __future__ import annotations

from math import degrees, isinf, radians
from typing import Annotated

from pydantic import Field

from fair_spindle.calculations.base import Calculation, NotNegative, Positive, Values
from fair_spindle.core.basics.gauging import COVERAGE, combine_repeats, expand, instrument_uncertainty
from fair_spindle.core.geometry.wheel_angles import caster_from_sweep

Camber = Annotated[float, Field(gt=-45, lt=45)]


class CasterSweepIn(Values):
    """Camber read with the wheel steered out and in by the same angle."""

    camber_toed_out_deg: Camber
    camber_toed_in_deg: Camber
    steer_deg: Annotated[float, Field(gt=0, lt=60)]


class CasterSweepOut(Values):
    """Caster of the wheel."""

    caster_deg: float


def caster_sweep(given: CasterSweepIn) -> CasterSweepOut:
    """Caster from a sweep."""
    out, back = radians(given.camber_toed_out_deg), radians(given.camber_toed_in_deg)
    return CasterSweepOut(caster_deg=degrees(caster_from_sweep(out, back, radians(given.steer_deg))))


class GaugeCombineIn(Values):
    """Repeats of one reading, and what is known of the instrument, all in one unit of the caller's."""

    readings: Annotated[list[float], Field(min_length=1, max_length=10_000)]
    resolution: NotNegative = 0.0
    half_width: NotNegative = 0.0
    expanded_uncertainty: NotNegative = 0.0
    coverage_factor: Positive = COVERAGE


class GaugeCombineOut(Values):
    """The reading with about 95 % confidence; no degrees of freedom where they are without limit."""

    mean: float
    spread: float
    type_a: float
    type_b: float
    combined: float
    degrees_of_freedom: float | None = None
    coverage_factor: float
    plus_minus: float


def gauge_combine(given: GaugeCombineIn) -> GaugeCombineOut:
    """Combine repeats with the instrument's uncertainty, as in the GUM."""
    type_b = instrument_uncertainty(
        given.half_width, given.resolution, given.expanded_uncertainty, given.coverage_factor
    )
    reading = combine_repeats(given.readings, type_b)
    stated = expand(reading, type_b)
    return GaugeCombineOut(
        mean=reading.mean,
        spread=reading.spread,
        type_a=stated.type_a,
        type_b=type_b,
        combined=reading.uncertainty,
        degrees_of_freedom=None if isinf(stated.freedom) else stated.freedom,
        coverage_factor=stated.coverage,
        plus_minus=stated.plus_minus,
    )


CALCULATIONS = (
    Calculation("caster-sweep", "Caster from camber read twice", CasterSweepIn, CasterSweepOut, caster_sweep),
    Calculation("gauge-combine", "Repeats and instrument combined", GaugeCombineIn, GaugeCombineOut, gauge_combine),
)
