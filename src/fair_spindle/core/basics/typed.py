"""A number as somebody typed it; :mod:`fair_spindle.core.basics.spelling` understands it."""

from __future__ import annotations

from fair_spindle.core.basics.value_object import value_object


@value_object
class Typed:
    """A number as typed, and the unit meant where the text names none."""

    text: str
    unit: str
