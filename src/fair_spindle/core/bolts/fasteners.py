"""Torque, the tension it makes, and whether a specification is plausible for its thread."""

from __future__ import annotations

import math

from fair_spindle.core.basics.errors import InputError, require
from fair_spindle.core.basics.tables import iso_pitches, unified_threads
from fair_spindle.core.basics.units import UNITS, from_core, to_core, units_of
from fair_spindle.core.basics.value_object import value_object

TYPICAL_NUT_FACTOR = 0.2
USUAL_SHARE = (0.10, 0.85)
PROPERTY_CLASSES = ("8.8", "10.9", "12.9")
# What an unmarked bolt of a car may be, the weakest first; 12.9 is always marked.
UNMARKED = ("8.8", "10.9")
READING_TOLERANCE = 0.05


@value_object
class TorqueDoubt:
    """Why a torque looks wrong for its thread, and the unit that would look right, if any."""

    message: str
    share_of_proof: float
    likelier_unit: str | None


def tensile_stress_area(diameter: float, pitch: float) -> float:
    """Stress area of a metric thread.

    Parameters
    ----------
    diameter : float
        Nominal diameter, above the pitch. [mm]
    pitch : float
        Thread pitch, > 0. [mm]

    Returns
    -------
    float
        Stress area. [mm²]

    Raises
    ------
    OutOfRange
        A pitch or diameter no thread can have.

    Notes
    -----
    π/4 · (d − 0.9382 P)².

    Source
    ------
    iso-898-1

    Examples
    --------
    >>> round(tensile_stress_area(12.0, 1.75), 1)
    84.3
    """
    require(pitch > 0, "pitch_mm", "The thread pitch must be above 0 mm", pitch)
    require(diameter > pitch, "diameter_mm", "The diameter must exceed the pitch", diameter)
    return math.pi / 4 * (diameter - 0.9382 * pitch) ** 2


def proof_stress(property_class: str, diameter: float) -> float:
    """Stress under proof load of a property class.

    Parameters
    ----------
    property_class : {"8.8", "10.9", "12.9"}
        Marking on the head. [-]
    diameter : float
        Nominal diameter; 8.8 is stronger above M16. [mm]

    Returns
    -------
    float
        Proof stress. [MPa]

    Raises
    ------
    InputError
        A class this table does not hold.

    Notes
    -----
    8.8: 580 to M16, 600 above; 10.9: 830; 12.9: 970.

    Source
    ------
    iso-898-1

    Examples
    --------
    >>> proof_stress("10.9", 12.0)
    830.0
    """
    if property_class not in PROPERTY_CLASSES:
        raise InputError(
            f"Property class must be one of {', '.join(PROPERTY_CLASSES)}; got {property_class!r}.",
            field="property_class",
        )
    if property_class == "8.8":
        return 580.0 if diameter <= 16 else 600.0
    return 830.0 if property_class == "10.9" else 970.0


def share_of_proof(torque: float, diameter: float, pitch: float, property_class: str) -> float:
    """Share of the proof load that a torque pulls on a dry or lightly oiled thread.

    Parameters
    ----------
    torque : float
        Tightening torque, > 0. [N·mm]
    diameter, pitch : float
        Thread. [mm]
    property_class : str
        As :func:`proof_stress`. [-]

    Returns
    -------
    float
        Tension over proof load. [-]

    Raises
    ------
    InputError, OutOfRange
        As :func:`tensile_stress_area` and :func:`proof_stress`.

    Notes
    -----
    F = T / (K d) with nut factor K = 0.2, the handbook's value for plain threads.

    Source
    ------
    shigley

    Examples
    --------
    >>> round(share_of_proof(100e3, 12.0, 1.75, "10.9"), 2)
    0.6
    """
    tension = torque / (TYPICAL_NUT_FACTOR * diameter)
    return tension / (tensile_stress_area(diameter, pitch) * proof_stress(property_class, diameter))


def assumed_class(torque: float, diameter: float, pitch: float, property_class: str | None) -> str:
    """The class a fastener is judged by: its own, or the weakest that makes sense of its torque.

    Parameters
    ----------
    torque : float
        Tightening torque, > 0. [N·mm]
    diameter, pitch : float
        Thread. [mm]
    property_class : str, optional
        Marking on the head, where it was told. [-]

    Returns
    -------
    str
        A property class.

    Raises
    ------
    InputError, OutOfRange
        As :func:`share_of_proof`.

    Notes
    -----
    8.8 unless the torque would be more than usual for it; then 10.9.  Every message goes by this one answer.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> assumed_class(80e3, 12.0, 1.75, None), assumed_class(110e3, 12.0, 1.75, None)
    ('8.8', '10.9')
    """
    if property_class:
        return property_class
    shares = {name: share_of_proof(torque, diameter, pitch, name) for name in UNMARKED}
    return next((name for name, share in shares.items() if share <= USUAL_SHARE[1]), UNMARKED[-1])


def doubt_torque(
    number: float, unit: str, diameter: float, pitch: float, property_class: str | None
) -> TorqueDoubt | None:
    """Say why a torque looks wrong for its thread, or None; never refuses.

    Parameters
    ----------
    number : float
        Torque as typed, > 0. [unit]
    unit : str
        Its unit. [-]
    diameter, pitch : float
        Thread. [mm]
    property_class : str, optional
        Class of the bolt; where unknown as :func:`assumed_class`. [-]

    Returns
    -------
    TorqueDoubt or None
        Reason, share of proof load, and the torque unit in which the same number would be
        usual.

    Raises
    ------
    InputError, OutOfRange
        As :func:`share_of_proof`.

    Notes
    -----
    Between 10 % and 85 % of proof load is usual: a handbook's advice for reused bolts is 75 %
    of proof; the width of the band is the product's own.

    Source
    ------
    shigley

    Examples
    --------
    >>> doubt_torque(120.0, "nm", 12.0, 1.25, "10.9") is None
    True
    >>> doubt_torque(120.0, "lb_ft", 12.0, 1.25, "10.9").likelier_unit
    'nm'
    """
    assumed = assumed_class(to_core(number, unit), diameter, pitch, property_class)
    share = share_of_proof(to_core(number, unit), diameter, pitch, assumed)
    if USUAL_SHARE[0] <= share <= USUAL_SHARE[1]:
        return None
    others = [other.key for other in units_of("torque") if other.key != unit]
    shares = {o: share_of_proof(to_core(number, o), diameter, pitch, assumed) for o in others}
    usual = {o: abs(s - 0.65) for o, s in shares.items() if USUAL_SHARE[0] <= s <= USUAL_SHARE[1]}
    likelier = min(usual, key=lambda o: usual[o]) if usual else None
    side = "more" if share > USUAL_SHARE[1] else "less"
    kind = f"class {assumed}" if property_class else f"class {assumed} (assumed)"
    question = f" Was {number:g} {UNITS[likelier].label} meant?" if likelier else ""
    return TorqueDoubt(
        f"{number:g} {UNITS[unit].label} would pull an {thread_name(diameter, pitch)} {kind} to "
        f"{share:.0%} of its proof load, {side} than usual ({USUAL_SHARE[0]:.0%} to {USUAL_SHARE[1]:.0%})."
        f"{question} Check the unit and the row of the table.",
        share,
        likelier,
    )


def thread_name(diameter: float, pitch: float) -> str:
    """A thread as the trade writes it.

    Parameters
    ----------
    diameter, pitch : float
        Thread. [mm]

    Returns
    -------
    str
        Metric, or by inch and threads per inch where the diameter is one of the inch series.

    Raises
    ------
    Nothing.

    Notes
    -----
    An inch size is told by a diameter within 0.02 mm of it.

    Source
    ------
    asme-b1-1

    Examples
    --------
    >>> thread_name(12.0, 1.75), thread_name(12.7, 1.27)
    ('M12×1.75', '1/2-20')
    """
    size = _inch_size(diameter)
    return f"{size}-{25.4 / pitch:.3g}" if size and pitch else f"M{diameter:g}×{pitch:g}"


def _inch_size(diameter: float) -> str:
    return next((size for size, (wide, _) in unified_threads().items() if abs(wide - diameter) < 0.02), "")


def odd_thread(diameter: float, pitch: float) -> str:
    """Say that a thread is none of the standard ones of its diameter; empty where it is.

    Parameters
    ----------
    diameter, pitch : float
        Thread as typed. [mm]

    Returns
    -------
    str
        A question in words; empty for a standard thread and for diameters the tables lack.

    Raises
    ------
    Nothing.

    Notes
    -----
    The tables run from M5 to M30 and from 1/4 to 1 inch.

    Source
    ------
    iso-261

    Examples
    --------
    >>> odd_thread(12.0, 1.4)
    'M12×1.4 is no standard thread; M12 has 1.75, 1.5, 1.25, 1 mm. Check the pitch.'
    >>> odd_thread(12.7, 1.5)
    '1/2-16.9 is no standard thread; 1/2 inch has 13, 20 threads per inch. Check the pitch.'
    """
    size = _inch_size(diameter)
    if size:
        _, pitches = unified_threads()[size]
        if any(abs(pitch - one) < 0.01 for one in pitches):
            return ""
        listed = ", ".join(f"{25.4 / one:g}" for one in pitches)
        return (
            f"{thread_name(diameter, pitch)} is no standard thread; {size} inch has {listed} threads per inch. "
            "Check the pitch."
        )
    known = iso_pitches().get(diameter)
    if known is None or pitch in known:
        return ""
    listed = ", ".join(f"{one:g}" for one in known)
    return f"M{diameter:g}×{pitch:g} is no standard thread; M{diameter:g} has {listed} mm. Check the pitch."


def reading_matches(reading: float, specified: float) -> bool:
    """Whether a torque reading meets its specification.

    Parameters
    ----------
    reading, specified : float
        Torque read and torque wanted, > 0. [N·mm]

    Returns
    -------
    bool
        True within 5 %, the product's own default.

    Raises
    ------
    Nothing.

    Notes
    -----
    Close to the ±4 % a hand torque tool may be off.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> reading_matches(98.0, 100.0), reading_matches(80.0, 100.0)
    (True, False)
    """
    return abs(reading - specified) <= READING_TOLERANCE * specified


def state_torque(torque: float) -> dict[str, float]:
    """State a torque in every unit of the trade.

    Parameters
    ----------
    torque : float
        Torque. [N·mm]

    Returns
    -------
    dict
        By unit key: ``nm``, ``lb_ft``, ``lb_in``, ``kgf_m``.

    Raises
    ------
    Nothing.

    Notes
    -----
    Exact definitions.

    Source
    ------
    nist-sp-811

    Examples
    --------
    >>> round(state_torque(1000.0)["lb_in"], 4)
    8.8507
    """
    return {unit.key: from_core(torque, unit.key) for unit in units_of("torque")}
