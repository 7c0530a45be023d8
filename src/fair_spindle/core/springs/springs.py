"""Springs of every kind as one thing: a force that grows with compression."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import Inconsistent, InputError, require
from fair_spindle.core.basics.value_object import value_object

Array = NDArray[np.float64]
# Once coils touch, or past the end of a table: rigid, as far as any reading can tell. [N/mm]
BOUND = 1e7
SHEAR_MODULUS = 79300.0
YOUNGS_MODULUS = 207000.0


@value_object
class Coil:
    """One linear coil spring: rate [N/mm], free and solid length [mm]."""

    rate: float
    free: float
    solid: float = 0.0


@value_object
class Curve:
    """Force over compression in straight pieces, both from zero and rising; ``free`` is the unloaded length.

    ``compressions`` [mm] and ``forces`` [N], shape (k,); past the last point it is bound.
    """

    free: float
    compressions: Array
    forces: Array

    @cached_property
    def _pieces(self) -> tuple[Array, Array, Array]:
        """Where each piece begins, its force there and its rate; the first is loose, the last bound."""
        slopes = np.diff(self.forces) / np.diff(self.compressions)
        return (
            np.concatenate([[0.0], self.compressions]),
            np.concatenate([[0.0], self.forces]),
            np.concatenate([[0.0], slopes, [BOUND]]),
        )

    def force(self, compression: ArrayLike) -> tuple[Array, Array]:
        """Force [N] and rate [N/mm] at compressions of any shape; none where it is not compressed."""
        begins, forces, rates = self._pieces
        pressed = np.asarray(compression, dtype=float)
        piece = np.searchsorted(self.compressions, pressed)
        rate = rates[piece]
        return forces[piece] + rate * (pressed - begins[piece]), rate

    def compression(self, force: ArrayLike) -> Array:
        """Compression that gives a force, of any shape. [mm]"""
        given = np.asarray(force, dtype=float)
        beyond = np.maximum(given - self.forces[-1], 0.0) / BOUND
        return np.asarray(np.interp(given, self.forces, self.compressions) + beyond)


@value_object
class Stacked:
    """Springs in series under a load: each length [mm], which are solid, and the rate of the whole [N/mm]."""

    lengths: tuple[float, ...]
    total: float
    at_solid: tuple[bool, ...]
    rate: float | None


def coil_rate(wire: float, mean_diameter: float, active_coils: float, shear_modulus: float = SHEAR_MODULUS) -> float:
    """Rate of a round-wire compression spring.

    Parameters
    ----------
    wire, mean_diameter : float
        Wire thickness and mean coil diameter, > 0. [mm]
    active_coils : float
        Coils that move, > 0. [-]
    shear_modulus : float, optional
        Of the wire, > 0. [MPa]

    Returns
    -------
    float
        Rate. [N/mm]

    Raises
    ------
    OutOfRange
        A number that is not above zero, or wire as thick as the coil.

    Notes
    -----
    k = G d⁴ / (8 D³ n).

    Source
    ------
    shigley

    Examples
    --------
    >>> round(coil_rate(12.0, 110.0, 6.0), 2)
    25.74
    """
    for name, value in (("wire_mm", wire), ("mean_diameter_mm", mean_diameter), ("active_coils", active_coils)):
        require(value > 0, name, f"{name} must be above 0", value)
    require(shear_modulus > 0, "shear_modulus_mpa", "The shear modulus must be above 0 MPa", shear_modulus)
    require(
        mean_diameter > wire, "mean_diameter_mm", f"The coil must be wider than its {wire:g} mm wire", mean_diameter
    )
    return shear_modulus * wire**4 / (8 * mean_diameter**3 * active_coils)


def stack_under_load(springs: Sequence[Coil], load: float) -> Stacked:
    """Lengths of coil springs standing on each other.

    Parameters
    ----------
    springs : sequence of Coil
        At least one. [N/mm, mm]
    load : float
        On the stack, >= 0. [N]

    Returns
    -------
    Stacked
        Each spring's length; no rate where every spring is solid.

    Raises
    ------
    InputError
        No spring.
    OutOfRange
        A rate that is not above zero, a solid length past the free length, a load below zero.

    Notes
    -----
    All carry the same load; none gets shorter than solid.  1/k = Σ 1/kᵢ over those that still move.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> stack_under_load([Coil(50.0, 200.0, 90.0), Coil(3.0, 70.0, 15.0)], 1000.0).lengths
    (180.0, 15.0)
    """
    require(springs, "springs", "At least one spring is needed", "none", kind=InputError)
    require(load >= 0, "load_n", "The load cannot pull", load)
    for place, one in enumerate(springs):
        _coil_checked(one, f"springs.{place}")
    lengths = tuple(max(spring.free - load / spring.rate, spring.solid) for spring in springs)
    solid = tuple(spring.free - load / spring.rate <= spring.solid for spring in springs)
    give = sum(1 / spring.rate for spring, bound in zip(springs, solid, strict=True) if not bound)
    return Stacked(lengths, sum(lengths), solid, 1 / give if give else None)


def coil_curve(one: Coil) -> Curve:
    """A linear coil spring as a curve, bound once its coils touch.

    Parameters
    ----------
    one : Coil
        The spring. [N/mm, mm]

    Returns
    -------
    Curve
        From free to solid.

    Raises
    ------
    OutOfRange
        As :func:`stack_under_load`.

    Notes
    -----
    A solid length that is not known counts as zero.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> coil_curve(Coil(50.0, 200.0, 90.0)).force(20.0)[0].item()
    1000.0
    """
    _coil_checked(one, "spring")
    most = one.free - one.solid
    return Curve(one.free, np.array([0.0, most]), np.array([0.0, most * one.rate]))


def two_stage_curve(first: float, second: float, switch: float, free: float, solid: float = 0.0) -> Curve:
    """A spring that gets stiffer once.

    Parameters
    ----------
    first, second : float
        Rates before and after, > 0. [N/mm]
    switch : float
        Force at which the second rate begins, > 0. [N]
    free, solid : float
        Lengths. [mm]

    Returns
    -------
    Curve
        From free to solid.

    Raises
    ------
    OutOfRange
        A rate or force that is not above zero, or a spring that is solid before its second rate begins.

    Notes
    -----
    Straight pieces.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> two_stage_curve(20.0, 50.0, 1000.0, 300.0).force(60.0)[0].item()
    1500.0
    """
    for name, value in (("rate_n_per_mm", first), ("second_rate_n_per_mm", second), ("switch_n", switch)):
        require(value > 0, name, f"{name} must be above 0", value)
    bend, most = switch / first, free - solid
    require(bend < most, "switch_n", "The second rate must begin before the spring is solid", switch)
    forces = np.array([0.0, switch, switch + (most - bend) * second])
    return Curve(free, np.array([0.0, bend, most]), forces)


def table_curve(lengths: Sequence[float], forces: Sequence[float]) -> Curve:
    """A spring by a table of force against length, as a test bench prints it.

    Parameters
    ----------
    lengths : sequence of float
        At least two, falling. [mm]
    forces : sequence of float
        As many, rising, the first >= 0. [N]

    Returns
    -------
    Curve
        Straight between the points; to the free length at the first rate where the table begins under load.

    Raises
    ------
    InputError
        Too few points, or lists of different size.
    Inconsistent
        Lengths that do not fall, or forces that do not rise.

    Notes
    -----
    Past the end of the table the spring is taken as bound.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> curve = table_curve([300.0, 280.0, 250.0], [0.0, 500.0, 2000.0])
    >>> curve.force(curve.free - 265.0)[0].item()
    1250.0
    """
    if len(lengths) != len(forces) or len(lengths) < 2:
        raise InputError("A table needs two points or more, a length and a force each.", field="table")
    at, force = np.array(lengths, dtype=float), np.array(forces, dtype=float)
    if np.any(np.diff(at) >= 0) or np.any(np.diff(force) <= 0) or force[0] < 0:
        raise Inconsistent("In a table the lengths fall while the forces rise, from 0 N or more.", field="table")
    free = float(at[0] + force[0] * (at[0] - at[1]) / (force[1] - force[0]))
    if force[0] > 0:
        at, force = np.append(free, at), np.append(0.0, force)
    return Curve(free, free - at, force)


def in_series(curves: Sequence[Curve], spacers: float = 0.0) -> Curve:
    """Springs standing on each other as one curve.

    Parameters
    ----------
    curves : sequence of Curve
        At least one. [mm, N]
    spacers : float, optional
        Thickness of rings between them, >= 0. [mm]

    Returns
    -------
    Curve
        The stack.

    Raises
    ------
    InputError
        No curve.

    Notes
    -----
    At every force the compressions add up; the stack ends where all are bound.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> stack = in_series([coil_curve(Coil(50.0, 200.0, 90.0)), coil_curve(Coil(3.0, 70.0, 15.0))])
    >>> round(float(stack.free - stack.compression(1000.0)), 1)
    195.0
    """
    require(curves, "springs", "At least one spring is needed", "none", kind=InputError)
    forces = np.unique(np.concatenate([curve.forces for curve in curves]))
    pressed = np.sum([curve.compression(forces) for curve in curves], axis=0)
    return Curve(sum(curve.free for curve in curves) + spacers, pressed, forces)


def stop_curve(free: float) -> Curve:
    """A bump stop of which only the free height is known.

    Parameters
    ----------
    free : float
        Free height, > 0. [mm]

    Returns
    -------
    Curve
        A usual progressive stop of foamed polyurethane.

    Raises
    ------
    OutOfRange
        A height that is not above zero.

    Notes
    -----
    Force by share pressed: 0.2, 0.4, 0.55, 0.67, 0.75 of its height at 350, 1,100, 2,600, 6,000, 12,000 N.  The
    product's own, a usual one by memory of the trade; a stop's own table stands instead where it is told.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> stop_curve(60.0).force(12.0)[0].item()
    350.0
    """
    require(free > 0, "damper.stop", "A bump stop must be higher than 0 mm", free)
    return Curve(
        free, free * np.array([0.0, 0.2, 0.4, 0.55, 0.67, 0.75]), np.array([0, 350, 1100, 2600, 6000, 12000.0])
    )


def torsion_curve(rate: float, arm: float, below: float, carried: float, key: float = 0.0) -> tuple[Curve, float]:
    """A torsion bar at the end of its arm, by the angle the arm really stands at.

    Parameters
    ----------
    rate : float
        At the end of a level arm, > 0. [N/mm]
    arm : float
        Length of the arm, > 0. [mm]
    below : float
        How far the arm stands below level at ride height, within 80°. [rad]
    carried : float
        Force at the arm's end at ride height, > 0. [N]
    key : float, optional
        Turned on since, the way that lifts positive. [rad]

    Returns
    -------
    tuple
        Force over the vertical travel of the arm's end, and its compression where the arm stands as before. [mm]

    Raises
    ------
    OutOfRange
        An arm, rate or force that is not above zero, an angle out of range.

    Notes
    -----
    The bar twists by the arm's angle from where it is free: F L cos α = k_t (α_free − α), k_t = rate · L².  As the
    body rises the arm hangs steeper, its lever shortens, and the same load twists the bar less.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> curve, at = torsion_curve(25.0, 380.0, np.radians(25.0), 3000.0)
    >>> turned, was = torsion_curve(25.0, 380.0, np.radians(25.0), 3000.0, np.radians(3.0))
    >>> round(float(was - turned.compression(3000.0)), 1), round(380.0 * float(np.radians(3.0)), 1)
    (20.7, 19.9)
    """
    require(rate > 0 and carried > 0, "spring.rate", "Rate and force must be above 0", min(rate, carried))
    require(arm > 0, "torsion.arm", "The arm must be longer than 0 mm", arm)
    require(abs(below) <= np.radians(80), "torsion.angle", "The arm stands within 80° of level", np.degrees(below))
    torsion = rate * arm**2
    steepest = below + carried * arm * np.cos(below) / torsion + key
    angles = np.linspace(min(steepest, np.radians(85)), np.radians(-85), 240)
    drops = arm * (np.sin(below) - np.sin(angles))
    forces = torsion * (steepest - angles) / (arm * np.cos(angles))
    # Steep arms with much twist grow softer as they rise; what lies beyond the softest place is never reached.
    kept = np.concatenate([[True], forces[1:] > np.maximum.accumulate(forces)[:-1]])
    drops, forces = drops[kept], forces[kept]
    first = drops[0] - forces[0] * (drops[1] - drops[0]) / (forces[1] - forces[0]) if forces[0] > 1e-9 else drops[0]
    at, pulls = drops - first, forces
    if at[0] > 0:
        at, pulls = np.append(0.0, at), np.append(0.0, pulls)
    return Curve(float(2 * arm), at, np.where(at == 0, 0.0, pulls)), float(-first)


def leaf_rate(
    width: float, thickness: float, leaves: int, full_length: int, span: float, modulus: float = YOUNGS_MODULUS
) -> float:
    """Rate of a semi-elliptic leaf pack, loaded in its middle.

    Parameters
    ----------
    width, thickness : float
        Of one leaf, > 0. [mm]
    leaves, full_length : int
        How many, and how many of them run the whole length. [-]
    span : float
        Eye to eye, straight, > 0. [mm]
    modulus : float, optional
        Young's modulus. [MPa]

    Returns
    -------
    float
        Rate. [N/mm]

    Raises
    ------
    OutOfRange
        A number that is not above zero, or more full-length leaves than leaves.

    Notes
    -----
    End deflection under F at each eye, half span l: δ = 12 F l³ / (b t³ E (3 n_full + 2 n_graduated)), k = 2F/δ.
    Clamping at the axle seat and friction stiffen a real pack.

    Source
    ------
    leaf-springs

    Examples
    --------
    >>> round(leaf_rate(60.0, 8.0, 5, 1, 1200.0), 1)
    54.0
    """
    for name, value in (
        ("width_mm", width),
        ("thickness_mm", thickness),
        ("span_mm", span),
        ("modulus_mpa", modulus),
    ):
        require(value > 0, name, f"{name} must be above 0", value)
    require(1 <= full_length <= leaves, "full_length", "One leaf at least runs the whole length", full_length)
    shape = 3 * full_length + 2 * (leaves - full_length)
    return 2 * modulus * width * thickness**3 * shape / (12 * (span / 2) ** 3)


def torsion_bar_rate(
    diameter: float, length: float, arm: float, bore: float = 0.0, shear_modulus: float = SHEAR_MODULUS
) -> float:
    """Rate of a torsion bar at the end of a level arm.

    Parameters
    ----------
    diameter, length, arm : float
        Bar, and its arm, > 0. [mm]
    bore : float, optional
        Of a hollow bar, below the diameter. [mm]
    shear_modulus : float, optional
        Of the bar. [MPa]

    Returns
    -------
    float
        Force at the arm's end per its travel. [N/mm]

    Raises
    ------
    OutOfRange
        A number that is not above zero, a bore as wide as the bar.

    Notes
    -----
    G J / (arm² · length), J = π (d⁴ − b⁴)/32.

    Source
    ------
    shigley

    Examples
    --------
    >>> round(torsion_bar_rate(24.0, 1000.0, 350.0), 2)
    21.09
    """
    require(length > 0, "bar_length_mm", "The twisting length must be above 0 mm", length)
    require(arm > 0, "arm_lengths_mm", "An arm must be longer than 0 mm", arm)
    return shear_modulus * polar_moment(diameter, bore) / (arm**2 * length)


def polar_moment(diameter: float, bore: float = 0.0) -> float:
    """Polar second moment of area of a round bar.

    Parameters
    ----------
    diameter, bore : float
        Outside, > 0, and inside, below it. [mm]

    Returns
    -------
    float
        J. [mm⁴]

    Raises
    ------
    OutOfRange
        As named.

    Notes
    -----
    J = π (d⁴ − b⁴)/32.

    Source
    ------
    shigley

    Examples
    --------
    >>> round(polar_moment(20.0))
    15708
    """
    require(diameter > 0, "outer_diameter_mm", "The diameter must be above 0 mm", diameter)
    require(0 <= bore < diameter, "inner_diameter_mm", "The bore must be smaller than the bar", bore)
    return float(np.pi * (diameter**4 - bore**4) / 32)


def _coil_checked(one: Coil, name: str) -> None:
    require(one.rate > 0, f"{name}.rate_n_per_mm", "The spring rate must be above 0 N/mm", one.rate)
    require(one.free > 0, f"{name}.free_mm", "The free length must be above 0 mm", one.free)
    require(
        0 <= one.solid < one.free, f"{name}.solid_mm", f"Solid is shorter than the free {one.free:g} mm", one.solid
    )
