"""Where one corner sits after a change of spring."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import Inconsistent, require
from fair_spindle.core.basics.value_object import value_object

Array = NDArray[np.float64]


@value_object
class Spring:
    """A linear spring as fitted; every member may be an array of the same shape.

    ``rate`` [N/mm], ``free_length`` and ``seat_shift`` (how far its seat stands higher than
    before) [mm], ``gas_force`` of its damper [N].
    """

    rate: ArrayLike
    free_length: ArrayLike
    seat_shift: ArrayLike = 0.0
    gas_force: ArrayLike = 0.0


def loaded_length(spring: Spring, load: ArrayLike, ratio: ArrayLike, damper_ratio: ArrayLike, name: str) -> Array:
    """Length of a spring that carries its share of a wheel's sprung load.

    Parameters
    ----------
    spring : Spring
        The spring and its damper's gas force. [N/mm, mm, N]
    load : array_like
        Sprung load at the wheel, > 0. [N]
    ratio, damper_ratio : array_like
        Spring and damper travel per wheel travel, > 0. [-]
    name : str
        Prefix of the field named in an error. [-]

    Returns
    -------
    ndarray
        Length under load, broadcast shape. [mm]

    Raises
    ------
    OutOfRange
        Rate or free length not above zero, negative gas force.
    Inconsistent
        The gas force alone carries the car, or the spring would be pressed to nothing.

    Notes
    -----
    Spring force = (load − gas · damper ratio) / ratio, by virtual work; friction neglected.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(loaded_length(Spring(50.0, 300.0), 4000.0, 0.8, 0.8, "old"))
    200.0
    """
    rate, free = np.asarray(spring.rate, dtype=float), np.asarray(spring.free_length, dtype=float)
    gas = np.asarray(spring.gas_force, dtype=float)
    _positive(rate, f"{name}.rate_n_per_mm", "The spring rate must be above 0 N/mm")
    _positive(free, f"{name}.free_mm", "The free length must be above 0 mm")
    require(np.all(gas >= 0), f"{name}.gas_force_n", "The gas force cannot be negative", spring.gas_force)
    force = (np.asarray(load, dtype=float) - gas * damper_ratio) / np.asarray(ratio, dtype=float)
    require(
        np.all(force > 0),
        f"{name}.gas_force_n",
        "The spring must carry part of the load",
        "a gas force that carries the whole corner",
        "Check the gas force and the sprung load.",
        kind=Inconsistent,
    )
    length = free - force / rate
    require(
        np.all(length > 0),
        f"{name}.rate_n_per_mm",
        "The spring must be longer than nothing under load",
        "a spring pressed shorter than 0 mm",
        "Check rate, free length and load.",
        kind=Inconsistent,
    )
    return np.asarray(length)


def height_change(
    motion_ratio: ArrayLike,
    sprung_load: ArrayLike,
    old: Spring,
    new: Spring,
    damper_ratio: ArrayLike | None = None,
) -> Array:
    """Ride-height change of one corner when its spring is exchanged.

    Parameters
    ----------
    motion_ratio : array_like
        Spring travel per wheel travel, > 0. [-]
    sprung_load : array_like
        Load of the body on this wheel, > 0. [N]
    old, new : Spring
        Before and after. [N/mm, mm, N]
    damper_ratio : array_like, optional
        Damper travel per wheel travel, > 0; the motion ratio where not given. [-]

    Returns
    -------
    ndarray
        How far the body rises, negative where it drops, broadcast shape. [mm]

    Raises
    ------
    OutOfRange, Inconsistent
        As :func:`loaded_length`.

    Notes
    -----
    Δheight = Δ(loaded length + seat shift) / ratio, at constant load and constant ratio.  The
    other corners, bar and bushings are left out here.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> float(height_change(1.0, 3000.0, Spring(30.0, 300.0), Spring(40.0, 260.0)))
    -15.0
    """
    ratio = np.asarray(motion_ratio, dtype=float)
    damper = ratio if damper_ratio is None else np.asarray(damper_ratio, dtype=float)
    _positive(ratio, "motion_ratio", "The motion ratio must be above 0")
    _positive(damper, "damper_motion_ratio", "The damper's motion ratio must be above 0")
    _positive(np.asarray(sprung_load), "sprung_load_n", "The sprung load must be above 0 N")
    before = loaded_length(old, sprung_load, ratio, damper, "old") + np.asarray(old.seat_shift)
    after = loaded_length(new, sprung_load, ratio, damper, "new") + np.asarray(new.seat_shift)
    return np.asarray((after - before) / ratio)


def ratio_from_two(damper_1: float, height_1: float, damper_2: float, height_2: float) -> float:
    """Motion ratio from damper length and hub-to-arch height, read at two heights.

    Parameters
    ----------
    damper_1, damper_2 : float
        Damper lengths. [mm]
    height_1, height_2 : float
        Hub-to-arch heights at the same time, at least 10 mm apart. [mm]

    Returns
    -------
    float
        Damper travel per wheel travel. [-]

    Raises
    ------
    Inconsistent
        Heights too near each other, or a damper that does not follow.

    Notes
    -----
    Δlength / Δheight.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> ratio_from_two(420.0, 360.0, 450.0, 400.0)
    0.75
    """
    apart = height_2 - height_1
    require(
        abs(apart) >= 10,
        "height_2",
        "The two heights must be at least 10 mm apart",
        f"{abs(apart):g} mm",
        "Lift or lower the body further for the second pair.",
        kind=Inconsistent,
    )
    ratio = (damper_2 - damper_1) / apart
    require(
        ratio > 0,
        "damper_2",
        "The damper must be longer where the body is higher",
        f"{damper_2 - damper_1:+g} mm of damper for {apart:+g} mm of height",
        kind=Inconsistent,
    )
    return ratio


def _positive(value: Array, field: str, required: str) -> None:
    require(np.all(value > 0), field, required, f"{float(np.min(value)):g}")
