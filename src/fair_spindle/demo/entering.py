"""Fields as the demo fills them in."""

from __future__ import annotations

from collections.abc import Sequence

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import Entered, Gauge


def enter(key: str, text: str, unit: str) -> Entered:
    """One single-valued field."""
    return Entered(key, "typed", {"value": Typed(text, unit)})


def enter_heights(key: str, readings: Sequence[str], gauge: Gauge | None = None) -> Entered:
    """Repeated hub-to-arch heights."""
    first, *again = ({"height": Typed(reading, "mm")} for reading in readings)
    return Entered(key, "hub_to_arch", first, again=tuple(again), gauge=gauge)


def enter_toe(key: str, text: str, unit: str = "min") -> Entered:
    """Toe as an angle."""
    return Entered(key, "angle", {"toe": Typed(text, unit)})


def enter_camber(key: str, text: str, unit: str = "deg", gauge: Gauge | None = None) -> Entered:
    """Camber by digital level."""
    return Entered(key, "angle", {"value": Typed(text, unit)}, gauge=gauge)
