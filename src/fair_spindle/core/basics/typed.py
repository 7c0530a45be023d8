"""A number as somebody typed it; :mod:`fair_spindle.core.basics.spelling` understands it."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Typed:
    """A number as typed, and the unit meant where the text names none."""

    text: str
    unit: str
