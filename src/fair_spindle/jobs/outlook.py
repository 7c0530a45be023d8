"""What is worked out of a log's readings: each result is kept while the readings it rests on do not change."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Iterable, Mapping
from functools import cached_property
from threading import Lock
from typing import TypeVar

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.required_fields import Readings, axles_moved, readings_now, with_limits
from fair_spindle.core.joblog.starting import loads_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.aligned import plan_wheels
from fair_spindle.core.predict.bars import BarOfAxle, bars_of
from fair_spindle.core.predict.geometry import wheels_of
from fair_spindle.core.predict.height_model import HeightModel, model_of_car
from fair_spindle.core.predict.perching import Correction, correct_perches
from fair_spindle.core.predict.ride_height import Sitting, sit
from fair_spindle.core.predict.settled import heights_after, loads_after, with_heights, with_read_heights
from fair_spindle.core.predict.sprung_car import SprungCar, sprung_car
from fair_spindle.core.predict.turning import CarPlan
from fair_spindle.core.springs.loads import CarLoads

SAMPLES = 600
# Readings that reach what a car sits on through its points alone, which they turn.
ANGLES = (".toe", ".camber", ".caster", ".total_toe")
MOST = 160
Result = TypeVar("Result")
_lock = Lock()
# What some readings say, with the kind of job and the workshop's limits.
Told = tuple[object, frozenset[str]]
_kept: OrderedDict[tuple[Told, str], object] = OrderedDict()


class Outlook:
    """Readings, where the car will sit, the turns that are planned; each worked out when it is first asked for.

    What is foreseen rests on nothing that is read after the work; the turns on the heights of it alone.
    """

    def __init__(self, state: JobState, template: JobTemplate, limits: Mapping[str, float]) -> None:
        self._state, self._template, self._limits = state, template, limits

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
        wheels = _once(self._before, "wheels", lambda: wheels_of(self.readings, self.readings.quantities))
        return {key: wheel.corner for key, wheel in wheels.items() if wheel.corner and wheel.depth == "points"}

    @cached_property
    def sprung(self) -> SprungCar:
        """What decides where the car sits."""
        return _once(
            self._sat_on,
            "sprung",
            lambda: sprung_car(self.readings, self.loads, self.corner_points, self.axles_moved),
        )

    @property
    def axles_moved(self) -> frozenset[str]:
        """Axles whose heights the plan moves."""
        return axles_moved(self._template.measured)

    @property
    def sitting(self) -> Sitting:
        """Where the car will sit, and how sure that is."""
        return self.sitting_drawn(SAMPLES)

    def sitting_drawn(self, samples: int) -> Sitting:
        """Where the car will sit, with so many drawn cars to say how sure that is."""
        return _once(self._sat_on, f"sitting {samples}", lambda: self._sit(samples))

    def _sit(self, samples: int) -> Sitting:
        return sit(self.sprung, self.readings.quantities, samples)

    @property
    def height_model(self) -> HeightModel | None:
        """What decides the heights of the wheels whose springs' change is known."""
        return model_of_car(self.sprung)

    @cached_property
    def foreseen(self) -> Readings:
        """Readings with the heights that new springs are to bring."""
        return with_heights(self.readings, self.sitting) if self.changes_springs else self.readings

    @cached_property
    def aligning(self) -> Readings:
        """Readings that toe and camber are planned from: with the heights foreseen, or those read since."""
        return with_read_heights(self.foreseen)

    @property
    def plan(self) -> CarPlan:
        """The turns of every wheel, without how sure they are."""
        return self.plan_drawn(0)

    def plan_drawn(self, samples: int) -> CarPlan:
        """The turns of every wheel, with so many drawn axles to say how sure they are."""
        return _once(self._with_heights, f"plan {samples}", lambda: plan_wheels(self.aligning, samples))

    @property
    def foreseen_plan(self) -> CarPlan:
        """The turns for the heights that were foreseen, with how sure they are."""
        return _once(self._before, "foreseen plan", lambda: plan_wheels(self.foreseen, SAMPLES))

    @property
    def bars(self) -> list[BarOfAxle]:
        """The sway bars, with what their links are set to."""
        return _once(self._all, "bars", lambda: bars_of(self.readings, self.sprung))

    @property
    def perches(self) -> Correction | None:
        """What the perches still want."""
        return self.perches_drawn(SAMPLES)

    def perches_drawn(self, samples: int) -> Correction | None:
        """What the perches still want, beside so many drawn cars."""
        return _once(self._all, f"perches {samples}", lambda: self._correct(self.sitting_drawn(samples)))

    def _correct(self, sitting: Sitting) -> Correction | None:
        after, weighed = heights_after(self.readings), loads_after(self.readings)
        return correct_perches(self.readings, self.sprung, sitting, after, weighed)

    @cached_property
    def _all(self) -> Told:
        return self._key(self._state.entries)

    @cached_property
    def _before(self) -> Told:
        return self._key(key for key in self._state.entries if ".check_" not in key)

    @cached_property
    def _sat_on(self) -> Told:
        if self.corner_points:
            return self._before
        return self._key(key for key in self._state.entries if ".check_" not in key and not key.endswith(ANGLES))

    @cached_property
    def _with_heights(self) -> Told:
        entries = self._state.entries
        return self._key(key for key in entries if ".check_" not in key or key.endswith("check_height"))

    def _key(self, keys: Iterable[str]) -> Told:
        """What some readings say, so that a change beside the program is seen too."""
        entries, limits = self._state.entries, tuple(sorted(self._limits.items()))
        return (self._template.key, self._template.pages, self._template.measured, limits), frozenset(
            _said(entries[key].act) for key in keys
        )


@by_identity()
def _said(act: Entered) -> str:
    return repr(act)


def _once(key: Told, name: str, make: Callable[[], Result]) -> Result:
    """A result that was worked out of the same readings before, or is now."""
    place = (key, name)
    with _lock:
        if place in _kept:
            _kept.move_to_end(place)
            return _kept[place]  # type: ignore[return-value]  # kept under the name it was made for
    made = make()
    with _lock:
        _kept[place] = made
        while len(_kept) > MOST:
            _kept.popitem(last=False)
    return made
