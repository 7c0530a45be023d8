"""Measuring a whole car: settle it, walk round it, sign what was read.  Nothing is loosened.

Order is common practice in the trade; no published source.
"""

from __future__ import annotations

from fair_spindle.core.planning.template import JobTemplate, Step

_STEPS = (
    Step("settle", "Settle the car", "on_wheels",
         "Level ground, tyre pressures set, load as driven. Roll it a car's length and back, bounce both ends.",
         ("Tyre gauge",), ("service_data",)),
    Step("walk", "Walk round the car", "on_wheels",
         "Height, toe and camber at every wheel, caster where it steers. The app asks again where a reading is "
         "out of line.",
         ("Height gauge or tape", "Digital level", "Toe plates, strings or toe gauge"), asks="baseline"),
)  # fmt: skip

MEASURE = JobTemplate("measure", "Baseline of the whole car", (), _STEPS, ("baseline", "record"))
