"""Kinds of log the tests write: a whole car that is measured and moved, and the strut job of before 0.2."""

from dataclasses import replace

from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.formats.job_kinds import kinds

NAMES = ("height", "toe", "camber", "caster")
WHOLE_CAR = replace(
    WORK,
    axles=("front", "rear"),
    measured=frozenset(f"{axle}.{name}" for axle in ("front", "rear") for name in NAMES),
)
OLD_STRUT = kinds()["front_strut"]
