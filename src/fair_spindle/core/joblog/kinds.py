"""What a log is for: a car's record or a job, and how a job begins."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, Axle
from fair_spindle.core.joblog.log import Act
from fair_spindle.core.planning.template import Reading, Step

# States and templates of jobs by which answers are remembered: one look at a job asks the same of them many times.
KEPT = 100


@value_object
class JobTemplate:
    """What a log is for: its steps as planned, the parts of the work it has, what it measures.

    ``measured`` names what is to be read, before and after, as axle and name; ``axles`` are those it works on,
    ``measures`` the phases it reads in.  ``opening`` holds before the first line, and ``renames`` fields by what they
    were called: jobs begun before 0.2 have both.
    """

    key: str
    title: str
    steps: tuple[Step, ...] = ()
    pages: tuple[str, ...] = ()
    axles: tuple[Axle, ...] = AXLES
    measures: tuple[str, ...] = ("baseline", "check")
    measured: frozenset[str] = frozenset()
    opening: tuple[Act, ...] = ()
    renames: Mapping[str, tuple[str, ...]] = field(default_factory=dict)

    def step(self, key: str) -> Step:
        """The step of that name."""
        for step in self.steps:
            if step.key == key:
                return step
        raise NotFound(f"This job has no step {key!r}.", field="step")

    @property
    def reads(self) -> tuple[Reading, ...]:
        """Every number its steps ask for, each once."""
        return tuple({reading.key: reading for step in self.steps for reading in step.reads}.values())


CAR = JobTemplate("car", "Car")
WORK = JobTemplate("work", "Job", pages=("order", "baseline", "floor", "bolts", "check", "record"), axles=())
