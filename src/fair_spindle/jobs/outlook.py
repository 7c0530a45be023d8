"""What is worked out of a log's readings alone: kept while none of them changes, whatever else is written."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from collections.abc import Mapping
from functools import cached_property
from threading import Lock

from fair_spindle.core.corner import Corner
from fair_spindle.core.floor.asking import Readings, readings_now, with_limits
from fair_spindle.core.floor.starting import loads_now
from fair_spindle.core.floor.state import JobState
from fair_spindle.core.loads import CarLoads
from fair_spindle.core.outlook.aligned import plan_wheels
from fair_spindle.core.outlook.geometry import wheels_of
from fair_spindle.core.outlook.settled import with_heights, with_read_heights
from fair_spindle.core.outlook.sitting import Sitting, sit
from fair_spindle.core.outlook.sprung_car import SprungCar, sprung_car
from fair_spindle.core.outlook.turning import CarPlan
from fair_spindle.core.planning.template import JobTemplate

SAMPLES = 600
MOST = 24
_lock = Lock()
_kept: OrderedDict[bytes, Outlook] = OrderedDict()


class Outlook:
    """Readings, where the car will sit, the turns that are planned; each worked out when it is first asked for."""

    def __init__(self, state: JobState, template: JobTemplate, limits: Mapping[str, float]) -> None:
        self._state, self._template, self._limits = state, template, limits
        self._plans: dict[int, CarPlan] = {}
        self._sittings: dict[int, Sitting] = {}

    @property
    def changes_springs(self) -> bool:
        """Whether springs are changed, so that the car will sit elsewhere."""
        return "springs" in self._template.pages

    @cached_property
    def readings(self) -> Readings:
        """Everything read, with the workshop's limits where the car has none."""
        return with_limits(readings_now(self._state, self._template), self._limits)

    @cached_property
    def loads(self) -> CarLoads | None:
        """What stands on the four wheels."""
        return loads_now(self._state, self.readings)

    @cached_property
    def corner_points(self) -> Mapping[str, Corner]:
        """Wheels whose points are known, by axle and side."""
        wheels = wheels_of(self.readings, self.readings.quantities)
        return {key: one.corner for key, one in wheels.items() if isinstance(one.corner, Corner)}

    @cached_property
    def sprung(self) -> SprungCar:
        """What decides where the car sits."""
        return sprung_car(self.readings, self.loads, self.corner_points)

    @cached_property
    def sitting(self) -> Sitting:
        """Where the car will sit, and how sure that is."""
        return self.sitting_drawn(SAMPLES)

    def sitting_drawn(self, samples: int) -> Sitting:
        """Where the car will sit, with so many drawn cars to say how sure that is."""
        if samples not in self._sittings:
            self._sittings[samples] = sit(self.sprung, self.readings.quantities, samples)
        return self._sittings[samples]

    @cached_property
    def foreseen(self) -> Readings:
        """Readings with the heights that new springs are to bring."""
        return with_heights(self.readings, self.sitting) if self.changes_springs else self.readings

    @cached_property
    def aligning(self) -> Readings:
        """Readings that toe and camber are planned from: with the heights foreseen, or those read since."""
        return with_read_heights(self.foreseen)

    @cached_property
    def plan(self) -> CarPlan:
        """The turns of every wheel, without how sure they are."""
        return self.plan_drawn(0)

    def plan_drawn(self, samples: int) -> CarPlan:
        """The turns of every wheel, with so many drawn axles to say how sure they are."""
        if samples not in self._plans:
            self._plans[samples] = plan_wheels(self.aligning, samples)
        return self._plans[samples]

    @cached_property
    def foreseen_plan(self) -> CarPlan:
        """The turns for the heights that were foreseen, with how sure they are."""
        return plan_wheels(self.foreseen, SAMPLES)


def outlook_of(state: JobState, template: JobTemplate, limits: Mapping[str, float]) -> Outlook:
    """The outlook of a log; the same one for every log with the same readings, known by what they say."""
    entries = sorted((key, repr(taken.act)) for key, taken in state.entries.items())
    told = repr((template.key, template.pages, sorted(limits.items()), entries)).encode()
    key = hashlib.blake2b(told, digest_size=16).digest()
    with _lock:
        found = _kept.setdefault(key, Outlook(state, template, limits))
        _kept.move_to_end(key)
        while len(_kept) > MOST:
            _kept.popitem(last=False)
    return found
