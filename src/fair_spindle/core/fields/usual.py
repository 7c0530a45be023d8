"""What numbers of a car usually are, by the name of their field: what lies outside is asked once more, never refused.

The product's own, from what cars show; common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.fields.field import Field

# Lowest and highest, and their unit; of a field whose name ends so.
USUAL: Mapping[str, tuple[float, float, str]] = {
    "wheelbase": (1900, 4200, "mm"),
    "track": (1150, 2000, "mm"),
    "steering_ratio": (9, 26, "ratio"),
    "motion_ratio": (0.35, 1.4, "spring_per_wheel"),
    "spring.rate": (8, 250, "n_per_mm"),
    "spring.free": (120, 700, "mm"),
    "new_spring.rate": (8, 250, "n_per_mm"),
    "new_spring.free": (100, 700, "mm"),
    "new_top.spacer": (-40, 80, "mm"),
    "tie.lever": (70, 240, "mm"),
    "tie.pitch": (1.0, 2.2, "pitch_mm"),
    "tie.end": (40, 180, "mm"),
    "new_end.length": (40, 180, "mm"),
    "lower.length": (180, 560, "mm"),
    "upper.length": (140, 460, "mm"),
    "lower.rise": (-130, 130, "mm"),
    "height_change": (-90, 90, "mm"),
    "bump_slope": (-35, 35, "min_per_10mm"),
}


def with_usual(field: Field) -> Field:
    """A field with what its numbers usually are, where nothing nearer is known of it."""
    told = USUAL.get(field.name)
    if told is None or field.usual or not field.methods:
        return field
    low, high, unit = told
    return replace(field, usual=(to_core(low, unit), to_core(high, unit)))
