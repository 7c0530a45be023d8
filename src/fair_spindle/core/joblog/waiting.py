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
    "finished": "Step with all its fasteners",
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


def names_of_kinds() -> dict[str, str]:
    """What an entry of each kind is called while it waits.

    A kind without words of its own is an entry.

    Examples
    --------
    >>> names_of_kinds()["moved"], names_of_kinds()["attached"]
    ('Car moved', 'Entry')
    """
    return {**{act.kind: "Entry" for act in ACTS}, **NAMES}
