"""Entries a device has made and not yet sent: what they are called, and what is not known while they wait."""

from __future__ import annotations

from fair_spindle.core.joblog.log import ACTS

# While one of these waits, nobody knows whether rubber is loaded: the car, its height or its settling may be another.
GATE_KINDS = ("moved", "settled", "height_read", "undone", "planned", "drawn")

NAMES = {
    "entered": "Reading",
    "cleared": "Reading taken out",
    "filled": "Readings",
    "moved": "Car moved",
    "settled": "Settled",
    "height_read": "Height at the gate",
    "stepped": "Step",
    "worked": "Fastener",
    "tightened": "Fastener",
    "counted": "Turns counted",
    "undone": "An entry undone",
    "noted": "Note",
    "drawn": "Map of fasteners",
    "erased": "Map of fasteners taken away",
    "signed": "Signature",
    "reopened": "Record opened again",
}


def name_of_kind(kind: str) -> str:
    """What an entry of a kind is called while it waits.

    Examples
    --------
    >>> name_of_kind("moved"), name_of_kind("attached")
    ('Car moved', 'Entry')
    """
    return NAMES.get(kind, "Entry")


def names_of_kinds() -> dict[str, str]:
    """The same for every kind there is."""
    return {act.kind: name_of_kind(act.kind) for act in ACTS}
