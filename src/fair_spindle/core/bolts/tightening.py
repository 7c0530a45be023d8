"""Bolts as they are tightened: what to set with an adapter, the tension, the order, the castle nut's slot."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Literal

import numpy as np

from fair_spindle.core.basics.errors import InputError, require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.fasteners import proof_stress, tensile_stress_area

Order = Literal["cross", "star", "spiral", "row"]
ORDERS: dict[str, str] = {
    "cross": "Crosswise, opposite next",
    "star": "In a star, opposite first",
    "spiral": "From the middle outward",
    "row": "Along the row, from its middle",
}
YOUNGS_MODULUS = 207000.0


@value_object
class Tension:
    """What a torque does to a bolt: stress area [mm²], tension [N], stresses [MPa], share of proof load [-]."""

    area: float
    force: float
    stress: float
    proof: float

    @property
    def share(self) -> float:
        """Tension over proof load."""
        return self.stress / self.proof


def set_with_adapter(target: float, wrench: float, adapter: float, angle: float = 0.0) -> float:
    """What to set on a torque wrench that carries an adapter.

    Parameters
    ----------
    target : float
        Torque wanted at the bolt, > 0. [N·mm]
    wrench, adapter : float
        Grip to square drive, and square drive to bolt, > 0 and >= 0. [mm]
    angle : float, optional
        Adapter off the wrench's line; a right angle leaves the torque as it is. [rad]

    Returns
    -------
    float
        Torque to set. [N·mm]

    Raises
    ------
    OutOfRange
        A number that is not above zero, or an adapter that points back past the grip.

    Notes
    -----
    T · L / (L + E cos angle).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> set_with_adapter(100e3, 400.0, 100.0)
    80000.0
    """
    require(target > 0, "target_nm", "The torque wanted must be above 0", target)
    require(wrench > 0, "wrench_length_mm", "The wrench must be longer than 0 mm", wrench)
    require(adapter >= 0, "adapter_length_mm", "The adapter cannot be shorter than 0 mm", adapter)
    reach = wrench + adapter * math.cos(angle)
    require(reach > 0, "angle_deg", "The adapter must not point back past the grip", f"{math.degrees(angle):g}°")
    return target * wrench / reach


def tension_by_nut_factor(
    torque: float, diameter: float, pitch: float, property_class: str, nut_factor: float
) -> Tension:
    """Tension a torque makes, by one factor for all friction.

    Parameters
    ----------
    torque : float
        Tightening torque, > 0. [N·mm]
    diameter, pitch : float
        Thread. [mm]
    property_class : {"8.8", "10.9", "12.9"}
        Of the bolt. [-]
    nut_factor : float
        K, > 0. [-]

    Returns
    -------
    Tension
        What it does.

    Raises
    ------
    InputError, OutOfRange
        A class the table does not hold, a number that is not above zero.

    Notes
    -----
    F = T/(K d).

    Source
    ------
    shigley

    Examples
    --------
    >>> round(tension_by_nut_factor(100e3, 12.0, 1.75, "10.9", 0.2).share, 2)
    0.6
    """
    require(torque > 0, "torque_nm", "The torque must be above 0", torque)
    require(nut_factor > 0, "nut_factor", "The nut factor must be above 0", nut_factor)
    return _tension(torque / (nut_factor * diameter), diameter, pitch, property_class)


def tension_by_friction(
    torque: float,
    diameter: float,
    pitch: float,
    property_class: str,
    thread_friction: float,
    bearing_friction: float,
    bearing_diameter: float,
) -> Tension:
    """Tension a torque makes, by the friction of thread and head.

    Parameters
    ----------
    torque : float
        Tightening torque, > 0. [N·mm]
    diameter, pitch : float
        Thread. [mm]
    property_class : {"8.8", "10.9", "12.9"}
        Of the bolt. [-]
    thread_friction, bearing_friction : float
        Coefficients, >= 0. [-]
    bearing_diameter : float
        Mean diameter of the face that turns, > 0. [mm]

    Returns
    -------
    Tension
        What it does.

    Raises
    ------
    InputError, OutOfRange
        A class the table does not hold, a number out of range.

    Notes
    -----
    F = T/(P/2π + 0.5774 d₂ μ_t + D_b μ_b/2), d₂ = d − 0.6495 P.

    Source
    ------
    vdi-2230

    Examples
    --------
    >>> round(tension_by_friction(85e3, 12.0, 1.75, "8.8", 0.12, 0.12, 15.5).force / 1e3)
    43
    """
    require(torque > 0, "torque_nm", "The torque must be above 0", torque)
    require(thread_friction >= 0, "thread_friction", "Friction cannot be negative", thread_friction)
    require(bearing_friction >= 0, "bearing_friction", "Friction cannot be negative", bearing_friction)
    require(bearing_diameter > 0, "bearing_diameter_mm", "The bearing diameter must be above 0 mm", bearing_diameter)
    flank = diameter - 0.6495 * pitch
    lever = pitch / (2 * math.pi) + 0.5774 * flank * thread_friction + bearing_diameter * bearing_friction / 2
    return _tension(torque / lever, diameter, pitch, property_class)


def _tension(force: float, diameter: float, pitch: float, property_class: str) -> Tension:
    area = tensile_stress_area(diameter, pitch)
    return Tension(area, force, force / area, proof_stress(property_class, diameter))


def tighten_order(places: Sequence[tuple[float, float]], order: Order) -> tuple[int, ...]:
    """In which order the places of a joint are tightened, so that it is drawn down evenly.

    Parameters
    ----------
    places : sequence of (float, float)
        Where each sits on a plan, 1 to 60 of them. [mm]
    order : {"cross", "star", "spiral", "row"}
        The rule. [-]

    Returns
    -------
    tuple of int
        Numbers of the places, counted from 0.

    Raises
    ------
    InputError
        No place, too many, or an order that does not exist.

    Notes
    -----
    Cross: the place most opposite the last one, across the middle, that is not done yet.  Star: on an even count the
    opposite place next, then across, the pair that is farthest from those done; on an odd count always the place just
    past the opposite, which meets every place once.  Spiral: the nearest
    to the middle first, then outward.  Row: along the longest way of the places, the middle one first, then by turns
    to either side.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> square = [(0, 0), (0, 10), (10, 10), (10, 0)]
    >>> tighten_order(square, "cross")
    (0, 2, 1, 3)
    """
    require(1 <= len(places) <= 60, "places", "One to sixty places are taken", len(places), kind=InputError)
    require(order in ORDERS, "order", f"The order is one of {', '.join(ORDERS)}", order, kind=InputError)
    at = np.array(places, dtype=float)
    middle = at.mean(axis=0)
    return {"cross": _cross, "star": _star, "spiral": _spiral, "row": _row}[order](at, middle)


def _cross(at: np.ndarray, middle: np.ndarray) -> tuple[int, ...]:
    found, left = [0], set(range(1, len(at)))
    while left:
        opposite = 2 * middle - at[found[-1]]
        best = min(sorted(left), key=lambda one: round(float(np.hypot(*(at[one] - opposite))), 6))
        found.append(best)
        left.remove(best)
    return tuple(found)


def _star(at: np.ndarray, middle: np.ndarray) -> tuple[int, ...]:
    count = len(at)
    angles = np.arctan2(*(at - middle).T[::-1])
    around = np.argsort((angles[0] - angles) % (2 * math.pi), kind="stable")
    half = count // 2
    if count % 2 or count < 4:
        skip = max(half, 1)
        return tuple(int(around[place * skip % count]) for place in range(count))
    found, left = [0, half], list(range(1, half))

    def apart(one: int, other: int) -> int:
        """How many pairs lie between two, the shorter way round."""
        off = abs(one - other) % half
        return min(off, half - off)

    while left:
        last = found[-2]
        first = max(left, key=lambda one: (min(apart(one, done) for done in found), apart(one, last), -one))
        left.remove(first)
        found += [first, first + half]
    return tuple(int(around[place]) for place in found)


def _spiral(at: np.ndarray, middle: np.ndarray) -> tuple[int, ...]:
    away = np.round(np.hypot(*(at - middle).T), 6)
    return tuple(int(one) for one in np.lexsort((np.arange(len(at)), away)))


def _row(at: np.ndarray, middle: np.ndarray) -> tuple[int, ...]:
    if len(at) == 1:
        return (0,)
    _, _, ways = np.linalg.svd(at - middle, full_matrices=False)
    along = np.argsort(
        np.round((at - middle) @ (ways[0] * np.sign(ways[0][np.argmax(np.abs(ways[0]))])), 6), kind="stable"
    )
    start = (len(at) - 1) // 2
    found = [start]
    for by in range(1, len(at)):
        found += [place for place in (start + by, start - by) if 0 <= place < len(at)]
    return tuple(int(along[place]) for place in found)


def pass_torques(final: float, percents: Sequence[float]) -> tuple[float, ...]:
    """Torque of each pass.

    Parameters
    ----------
    final : float
        Torque in the end, > 0. [N·mm]
    percents : sequence of float
        Of the final torque, rising to 100. [%]

    Returns
    -------
    tuple of float
        One for each pass. [N·mm]

    Raises
    ------
    InputError
        No pass, percents that do not rise, or that do not end at 100.

    Notes
    -----
    Staged, so that a joint comes down level.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> pass_torques(80e3, [50, 100])
    (40000.0, 80000.0)
    """
    rising = all(one < other for one, other in pairwise(percents))
    if not percents or not rising or percents[0] <= 0 or percents[-1] != 100:
        raise InputError("Passes are percents that rise to 100, for example 50, 100.", field="passes_pct")
    require(final > 0, "torque_nm", "The torque must be above 0", final)
    return tuple(final * percent / 100 for percent in percents)


@value_object
class CastleNut:
    """How a castle nut comes to its slot: angle on [rad], extra tension [N], torque that is then likely [N·mm]."""

    extra_angle: float
    extra_tension: float
    torque: float
    inside: bool


def castle_nut(
    slots: int,
    past: float,
    pitch: float,
    stiffness: float,
    torque: float,
    diameter: float,
    nut_factor: float,
    most: float | None = None,
) -> CastleNut:
    """Turn a castle nut on to the next slot, forward only.

    Parameters
    ----------
    slots : int
        Slots in the nut, 2 to 12. [-]
    past : float
        How far the last slot is past the hole, 0 to one slot. [rad]
    pitch : float
        Thread, > 0. [mm]
    stiffness : float
        Force per stretch of bolt and joint together, > 0. [N/mm]
    torque : float
        Reached before, > 0. [N·mm]
    diameter : float
        Thread, > 0. [mm]
    nut_factor : float
        K, > 0. [-]
    most : float, optional
        Highest torque allowed. [N·mm]

    Returns
    -------
    CastleNut
        ``inside`` where the likely torque stays within the highest one, or none was told.

    Raises
    ------
    OutOfRange
        A number out of range.

    Notes
    -----
    One slot is 2π/slots; the nut goes on by what is left to the next one, never back.  Extra tension = stiffness ·
    pitch · angle/2π, with the stiffness of bolt and joint together (:func:`joint_stiffness`).

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> import math
    >>> nut = castle_nut(6, math.radians(45), 1.5, 20e3, 50e3, 14.0, 0.2)
    >>> round(math.degrees(nut.extra_angle)), round(nut.extra_tension)
    (15, 1250)
    """
    require(2 <= slots <= 12, "slots", "A castle nut has 2 to 12 slots", slots)
    slot = 2 * math.pi / slots
    require(0 <= past <= slot + 1e-9, "past_deg", f"The angle past lies between 0 and {360 / slots:g}°", past)
    for name, value in (
        ("pitch_mm", pitch),
        ("stiffness_n_per_mm", stiffness),
        ("torque_nm", torque),
        ("diameter_mm", diameter),
        ("nut_factor", nut_factor),
    ):
        require(value > 0, name, f"{name} must be above 0", value)
    extra = slot - past if past > 1e-9 else 0.0
    tension = stiffness * pitch * extra / (2 * math.pi)
    reached = torque + tension * nut_factor * diameter
    return CastleNut(extra, tension, reached, most is None or reached <= most * (1 + 1e-9))


# Share of a bolt's stiffness that it keeps in series with the parts it clamps, and how far off that may be.
JOINT_SHARE, JOINT_SHARE_OPEN = 0.8, 0.15


def joint_stiffness(diameter: float, pitch: float, grip: float) -> float:
    """Force per stretch of a bolt and the parts it clamps together.

    Parameters
    ----------
    diameter, pitch : float
        Thread. [mm]
    grip : float
        Length that stretches, > 0. [mm]

    Returns
    -------
    float
        Stiffness. [N/mm]

    Raises
    ------
    OutOfRange
        As :func:`bolt_stiffness`.

    Notes
    -----
    In series, k_b k_m/(k_b + k_m).  Steel parts are about four times as stiff as their bolt, so 0.8 of the bolt's own
    is left; within ± 0.15, which thin flanges or aluminium may take.

    Source
    ------
    shigley

    Examples
    --------
    >>> round(joint_stiffness(12.0, 1.5, 60.0) / bolt_stiffness(12.0, 1.5, 60.0), 2)
    0.8
    """
    return JOINT_SHARE * bolt_stiffness(diameter, pitch, grip)


def angle_tension(diameter: float, pitch: float, grip: float, angle: float) -> tuple[float, float]:
    """Tension that turning a nut on by an angle adds, as long as the bolt stays elastic.

    Parameters
    ----------
    diameter, pitch : float
        Thread. [mm]
    grip : float
        Length that stretches, > 0. [mm]
    angle : float
        Turned on after the joint is snug, >= 0. [rad]

    Returns
    -------
    tuple of float
        Tension, and its ± (coverage 2). [N]

    Raises
    ------
    OutOfRange
        As :func:`bolt_stiffness`, or an angle below zero.

    Notes
    -----
    Stiffness of bolt and joint · pitch · angle/2π; ± by the joint's share alone.

    Source
    ------
    shigley

    Examples
    --------
    >>> tension, open_ = angle_tension(12.0, 1.75, 60.0, math.radians(90))
    >>> round(tension / 1e3), round(open_ / 1e3)
    (102, 19)
    """
    require(angle >= 0, "angle_deg", "The angle cannot be below 0", angle)
    tension = joint_stiffness(diameter, pitch, grip) * pitch * angle / (2 * math.pi)
    return tension, tension * JOINT_SHARE_OPEN / JOINT_SHARE


def bolt_stiffness(diameter: float, pitch: float, grip: float) -> float:
    """Force per stretch of a bolt over its grip.

    Parameters
    ----------
    diameter, pitch : float
        Thread. [mm]
    grip : float
        Length that stretches, > 0. [mm]

    Returns
    -------
    float
        Stiffness. [N/mm]

    Raises
    ------
    OutOfRange
        A grip that is not above zero.

    Notes
    -----
    A E / l with the stress area and E = 207 000 MPa.

    Source
    ------
    shigley

    Examples
    --------
    >>> round(bolt_stiffness(12.0, 1.5, 60.0) / 1e3)
    304
    """
    require(grip > 0, "grip_mm", "The grip must be longer than 0 mm", grip)
    return tensile_stress_area(diameter, pitch) * YOUNGS_MODULUS / grip
