"""Bonded rubber that stays clamped while the height changes: it holds the wheel back."""

from __future__ import annotations

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.geometry.layouts import find_layout
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.springs.rubber import BONDED_KINDS

# Of one bushing of a road car's arm; the product's own, a usual one by memory of the trade.
USUAL_TORSION = to_core(1.5, "nm_per_deg")


def bonded_rate(readings: Readings, axle: str) -> Quantity | None:
    """Rate at a wheel of the bonded bushings of its arms.

    Parameters
    ----------
    readings : Readings
        Kinds of bushing, arm lengths, and the rate of what stays clamped where it was told. [N/mm]
    axle : str
        Which axle. [-]

    Returns
    -------
    Quantity or None
        As told; where nothing was told none, within what the bushings of the record could hold; None where the record
        knows of no bonded bushing. [N/mm]

    Raises
    ------
    NotFound
        A layout that does not exist.

    Notes
    -----
    Σ torsional rate / arm², arms near level.  Where nobody said whether the bolts are loosened the rate is taken as
    none with a standard uncertainty of half of that.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.fields.field import Sheet
    >>> words = {"front.layout": "strut", "front.left.lower.bush_front": "bonded_rubber"}
    >>> told = Readings(Sheet(), {"front.left.lower.length": Quantity(330.0)}, words)
    >>> round(bonded_rate(told, "front").uncertainty, 2)
    0.39
    """
    told = readings.quantities.get(f"{axle}.bonded.rate")
    layout = readings.words.get(f"{axle}.layout", "")
    if told or not layout:
        return told
    rates = []
    for side in SIDES:
        sum_ = 0.0
        for arm in find_layout(layout).arms:
            length = readings.quantities.get(f"{axle}.{side}.{arm.key}.length")
            kinds = [readings.words.get(f"{axle}.{side}.{arm.key}.bush_{pivot}") for pivot, _ in arm.pivots]
            if length:
                sum_ += sum(kind in BONDED_KINDS for kind in kinds) * USUAL_TORSION / length.value**2
        rates.append(sum_)
    return Quantity(0.0, max(rates) / 2) if max(rates) > 0 else None
