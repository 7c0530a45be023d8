"""Where a threaded spring seat goes before the unit is put together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fair_spindle.core.errors import Inconsistent, require
from fair_spindle.core.springs import Coil, stack_under_load


@dataclass(frozen=True)
class PerchPlace:
    """A perch as it is to be set: lengths [mm] and turns up from the lowest place."""

    damper: float
    springs: float
    from_lower_eye: float
    turns_up: float


def perch_place(
    ratio: float,
    sprung_load: float,
    gas_force: float,
    damper_at_ride: float,
    height_change: float,
    upper_seat: float,
    springs: Sequence[Coil],
    pitch: float,
    lowest: float,
) -> PerchPlace:
    """Find where the lower spring seat must stand for a wanted ride height.

    Parameters
    ----------
    ratio : float
        Spring and damper travel per wheel travel, > 0. [-]
    sprung_load : float
        At the wheel, > 0. [N]
    gas_force : float
        Of the damper, on the spring's axis, >= 0. [N]
    damper_at_ride : float
        Eye to eye before the job, at ride height, > 0. [mm]
    height_change : float
        Wanted of the body, up positive. [mm]
    upper_seat : float
        Upper spring seat below the upper eye, >= 0. [mm]
    springs : sequence of Coil
        The stack. [N/mm, mm]
    pitch : float
        Of the perch thread, > 0. [mm]
    lowest : float
        Lower seat above the lower eye with the perch at the bottom. [mm]

    Returns
    -------
    PerchPlace
        Negative turns where the perch would have to go below its thread.

    Raises
    ------
    OutOfRange
        A number that is not above zero where it must be.
    Inconsistent
        The gas carries the whole corner.

    Notes
    -----
    Damper length = before + ratio · height change; seat to seat = damper length − both offsets = stack under
    load/ratio − gas.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> place = perch_place(1.0, 3000.0, 200.0, 480.0, -20.0, 40.0, [Coil(50.0, 200.0)], 2.0, 150.0)
    >>> place.from_lower_eye, place.turns_up
    (276.0, 63.0)
    """
    require(ratio > 0, "motion_ratio", "The motion ratio must be above 0", ratio)
    require(sprung_load > 0, "sprung_load_n", "The sprung load must be above 0 N", sprung_load)
    require(gas_force >= 0, "gas_force_n", "The gas force cannot be negative", gas_force)
    require(pitch > 0, "pitch_mm", "The thread pitch must be above 0 mm", pitch)
    force = sprung_load / ratio - gas_force
    require(
        force > 0,
        "gas_force_n",
        "The spring must carry part of the load",
        "a gas force that carries the whole corner",
        kind=Inconsistent,
    )
    damper = damper_at_ride + ratio * height_change
    stack = stack_under_load(springs, force).total
    seat = damper - upper_seat - stack
    return PerchPlace(damper, stack, seat, (seat - lowest) / pitch)
