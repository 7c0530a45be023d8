"""The kinds of log there are: those of jobs, and the car's record."""

from __future__ import annotations

from fair_spindle.core.planning.align import ALIGN
from fair_spindle.core.planning.front_strut import FRONT_STRUT
from fair_spindle.core.planning.measure import MEASURE
from fair_spindle.core.planning.template import JobTemplate
from fair_spindle.core.planning.whole_car import SPRINGS

CAR = JobTemplate("car", "Car")
WORK = JobTemplate(
    "work", "Parts fitted by a work order", pages=("order", "baseline", "floor", "bolts", "check", "record"), axles=()
)
JOB_KINDS = {kind.key: kind for kind in (WORK, FRONT_STRUT, SPRINGS, ALIGN, MEASURE)}
KINDS = {CAR.key: CAR, **JOB_KINDS}
