"""Conversions between the units of the trade and the core's own; nothing else converts.

Inside, everything is mm, N, N·mm, MPa, radians; shares are of 1.  A :class:`Unit` says how many core units
one of it is; an inverse unit (threads per inch, wheel travel per spring travel) is `factor`
divided by the number.
"""

from __future__ import annotations

import math

from fair_spindle.core.basics.errors import InputError, OutOfRange
from fair_spindle.core.basics.value_object import value_object

MM_PER_INCH = 25.4
N_PER_KGF = 9.80665
N_PER_LBF = 0.45359237 * N_PER_KGF


@value_object
class Unit:
    """One unit: its key, what it measures, its size in core units, how people write it."""

    key: str
    quantity: str
    factor: float
    label: str
    spellings: tuple[str, ...] = ()
    inverse: bool = False


_RATE_LB_IN = N_PER_LBF / MM_PER_INCH
_DEGREE = math.pi / 180

UNITS: dict[str, Unit] = {
    unit.key: unit
    for unit in (
        Unit("mm", "length", 1.0, "mm"),
        Unit("cm", "length", 10.0, "cm"),
        Unit("in", "length", MM_PER_INCH, "in", ('"', "″", "inch", "inches")),
        Unit("deg", "angle", _DEGREE, "°", ("°", "degree", "degrees")),
        Unit("min", "angle", _DEGREE / 60, "min", ("'", "\u2032", "arcmin", "minute", "minutes")),
        Unit("rad", "angle", 1.0, "rad"),
        Unit("n", "force", 1.0, "N", ("newton",)),
        Unit("kn", "force", 1000.0, "kN"),
        Unit("kgf", "force", N_PER_KGF, "kg", ("kg", "kgf", "kp")),
        Unit("lbf", "force", N_PER_LBF, "lb", ("lb", "lbs", "lbf")),
        Unit("n_per_mm", "rate", 1.0, "N/mm", ("n/mm",)),
        Unit("kgf_per_mm", "rate", N_PER_KGF, "kgf/mm", ("kg/mm", "kgf/mm", "k")),
        Unit("lbf_per_in", "rate", _RATE_LB_IN, "lb/in", ("lb/in", "lbf/in", "lbs/in")),
        Unit("nm_per_deg", "torsion", 1000.0 / _DEGREE, "N·m per °", ("n·m/°", "nm/deg", "n·m/deg")),
        Unit("nm", "torque", 1000.0, "N·m", ("n·m", "n.m", "n m", "newton metre")),
        Unit("lb_ft", "torque", N_PER_LBF * 304.8, "lb·ft", ("lb·ft", "lb-ft", "lb ft", "ft-lb", "ft lb")),
        Unit("lb_in", "torque", N_PER_LBF * MM_PER_INCH, "lb·in", ("lb·in", "lb-in", "lb in", "in-lb")),
        Unit("kgf_m", "torque", N_PER_KGF * 1000, "kgf·m", ("kgf·m", "kg·m", "kgm", "kg m", "kp·m")),
        Unit("pitch_mm", "pitch", 1.0, "mm", ("mm",)),
        Unit("tpi", "pitch", MM_PER_INCH, "threads/in", ("tpi", "/in"), inverse=True),
        Unit("spring_per_wheel", "motion_ratio", 1.0, "spring ÷ wheel", ("s/w",)),
        Unit("wheel_per_spring", "motion_ratio", 1.0, "wheel ÷ spring", ("w/s",), inverse=True),
        Unit("deg_per_mm", "slope", _DEGREE, "° per mm", ("deg/mm", "°/mm")),
        Unit("min_per_mm", "slope", _DEGREE / 60, "min per mm", ("min/mm", "'/mm")),
        Unit("min_per_10mm", "slope", _DEGREE / 600, "min per 10 mm", ("min/10mm", "'/10mm")),
        Unit("pct", "share", 0.01, "%", ("percent",)),
        Unit("ratio", "ratio", 1.0, ": 1", (":1",)),
        Unit("bar", "pressure", 0.1, "bar"),
        Unit("kpa", "pressure", 0.001, "kPa"),
        Unit("psi", "pressure", N_PER_LBF / MM_PER_INCH**2, "psi", ("lb/in²",)),
        Unit("km", "distance", 1e6, "km"),
        Unit("mi", "distance", 1e6 * 1.609344, "mi", ("mile", "miles")),
        Unit("piece", "pieces", 1.0, "", ("pcs",)),
        Unit("click", "clicks", 1.0, "clicks", ("click", "c")),
        Unit("turn", "count", 1.0, "turns", ("t", "turns")),
        Unit("flat", "count", 1 / 6, "flats", ("f", "flats")),
    )
}


def to_core(value: float, unit: str) -> float:
    """Turn a value in a named unit into the core's unit.

    Parameters
    ----------
    value : float
        Number in `unit`; not zero where the unit is an inverse one. [any]
    unit : str
        A key of ``UNITS``. [-]

    Returns
    -------
    float
        Value in mm, N, N·mm, N/mm or radians, by what the unit measures.

    Raises
    ------
    InputError
        The unit is unknown.
    OutOfRange
        Zero in an inverse unit.

    Notes
    -----
    1 in = 25.4 mm and 1 lb = 0.45359237 kg are exact definitions; standard gravity is
    9.80665 m/s².

    Source
    ------
    nist-sp-811

    Examples
    --------
    >>> to_core(1, "in")
    25.4
    >>> round(to_core(20, "tpi"), 4)
    1.27
    """
    found = _unit(unit)
    if not found.inverse:
        return value * found.factor
    if value == 0:
        raise OutOfRange(f"0 {found.label} means nothing; enter a number above zero.", field=unit)
    return found.factor / value


def from_core(value: float, unit: str) -> float:
    """Turn a value in the core's unit into a named unit; the inverse of :func:`to_core`.

    Parameters
    ----------
    value : float
        Number in the core's unit. [mm, N, N·mm, N/mm, rad]
    unit : str
        A key of ``UNITS``. [-]

    Returns
    -------
    float
        The same quantity in `unit`.

    Raises
    ------
    InputError
        The unit is unknown.
    OutOfRange
        Zero in an inverse unit.

    Notes
    -----
    Exact definitions, as in :func:`to_core`.

    Source
    ------
    nist-sp-811

    Examples
    --------
    >>> round(from_core(1000.0, "lb_ft"), 6)
    0.737562
    """
    found = _unit(unit)
    return to_core(value, unit) if found.inverse else value / found.factor


def units_of(quantity: str) -> tuple[Unit, ...]:
    """List the units that measure one quantity, the product's preferred one first.

    Parameters
    ----------
    quantity : str
        Name of the quantity, for example ``"length"``. [-]

    Returns
    -------
    tuple of Unit
        Empty for a quantity nobody measures.

    Raises
    ------
    Nothing.

    Notes
    -----
    The order is that of the table ``UNITS``.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> [unit.key for unit in units_of("length")]
    ['mm', 'cm', 'in']
    """
    return tuple(unit for unit in UNITS.values() if unit.quantity == quantity)


def _unit(key: str) -> Unit:
    try:
        return UNITS[key]
    except KeyError:
        raise InputError(f"Unknown unit {key!r}; use one of {', '.join(UNITS)}.", field="unit") from None
