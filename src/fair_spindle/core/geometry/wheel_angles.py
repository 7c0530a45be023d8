"""Camber and caster from what is read at a wheel, and total toe from two tapes."""

from __future__ import annotations

import math

from fair_spindle.core.basics.errors import Inconsistent, require


def caster_from_sweep(camber_toed_out: float, camber_toed_in: float, steer: float) -> float:
    """Caster of a steered wheel from camber read with the wheel steered either way.

    Parameters
    ----------
    camber_toed_out, camber_toed_in : float
        Camber with the wheel steered out, and in, by the same angle. [rad]
    steer : float
        That angle, between 0 and 60°; small sweeps read poorly. [rad]

    Returns
    -------
    float
        Caster, positive where the steering axis leans rearward at the top. [rad]

    Raises
    ------
    OutOfRange
        A steer angle that is zero, negative or 60° and more.

    Notes
    -----
    (out − in) / (2 sin steer); exact to first order in caster and camber, for equal angles.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(math.degrees(caster_from_sweep(0.02, -0.04, math.radians(20))), 3)
    5.026
    """
    require(
        0 < steer < math.pi / 3,
        "steer_deg",
        "The steer angle each way must lie above 0 and below 60°",
        f"{math.degrees(steer):g}°",
        "Steer 10° to 25° each way from straight ahead.",
    )
    return (camber_toed_out - camber_toed_in) / (2 * math.sin(steer))


def plumb_camber(top_gap: float, bottom_gap: float, span: float) -> float:
    """Camber from the gaps between a plumb line outside the wheel and the rim.

    Parameters
    ----------
    top_gap, bottom_gap : float
        Line to rim at the top and at the bottom, >= 0. [mm]
    span : float
        Height between the two places, > 0. [mm]

    Returns
    -------
    float
        Camber, negative where the top leans in. [rad]

    Raises
    ------
    OutOfRange
        No span.
    Inconsistent
        Gaps that differ by more than the span.

    Notes
    -----
    asin((bottom − top) / span), on level ground.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(math.degrees(plumb_camber(31.0, 23.0, 400.0)), 3)
    -1.146
    """
    require(span > 0, "span", "The height between the two gaps must be above 0 mm", span)
    return _arcsine(bottom_gap - top_gap, span, "top_gap")


def plates_total_toe(front_tape: float, rear_tape: float, across: float) -> float:
    """Total toe of an axle from two tapes held to plates (or a toe bar) at both wheels.

    Parameters
    ----------
    front_tape, rear_tape : float
        Distance between the wheels ahead of and behind the hubs. [mm]
    across : float
        Distance between the two tapes, > 0. [mm]

    Returns
    -------
    float
        Toe of both wheels together, toe-in positive. [rad]

    Raises
    ------
    OutOfRange
        No distance between the tapes.
    Inconsistent
        Tapes that differ by more than twice that distance.

    Notes
    -----
    2 asin((rear − front) / (2 across)): both wheels are taken to toe alike, which is exact to
    second order for any split.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(math.degrees(plates_total_toe(1498.0, 1501.0, 600.0)), 4)
    0.2865
    """
    require(across > 0, "across", "The distance between the tapes must be above 0 mm", across)
    return 2 * _arcsine(rear_tape - front_tape, 2 * across, "front")


def _arcsine(difference: float, length: float, field: str) -> float:
    require(
        abs(difference) < length,
        field,
        "The two readings must differ by less than the distance they are apart",
        f"{difference:g} mm over {length:g} mm",
        "Check both readings and their units.",
        kind=Inconsistent,
    )
    return math.asin(difference / length)
