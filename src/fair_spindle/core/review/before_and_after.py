"""Heights and angles after the work, as read, beside baseline, target and prediction."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from math import hypot
from typing import Literal

import numpy as np

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.aligned import AlignedWheel
from fair_spindle.core.predict.bump_steer import TIE, bump_steer
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.turns.adjuster import changes_by_link

Name = Literal["height", "toe", "camber", "caster"]
NAMES: tuple[Name, ...] = ("height", "toe", "camber", "caster")


@value_object
class Beside:
    """A height or an angle after the work, and what it stands beside; None what is not known. [mm, rad]

    ``key`` is the wheel, ``open`` the ± of the prediction, coverage factor 2.
    """

    key: str
    name: Name
    before: Quantity | None
    wanted: float | None
    predicted: float | None
    open: float
    read: Quantity | None

    @property
    def miss(self) -> float | None:
        """Read less predicted."""
        return self.read.value - self.predicted if self.read and self.predicted is not None else None

    @property
    def change(self) -> Quantity | None:
        """Read after the work less read before it."""
        if not (self.read and self.before):
            return None
        return Quantity(self.read.value - self.before.value, hypot(self.read.uncertainty, self.before.uncertainty))

    @property
    def plus_minus(self) -> float:
        """± of the miss, coverage factor 2."""
        return hypot(self.open, COVERAGE * self.read.uncertainty) if self.read else self.open

    @property
    def beyond(self) -> bool:
        """Missed by more than its ±."""
        return self.miss is not None and abs(self.miss) > self.plus_minus


@value_object
class MovesToe:
    """What moves a wheel's toe: one turn of its rod, None where none can be turned [rad]; height [rad/mm].

    ``by_slope`` is what the uncertainty of its bump steer leaves open over the travel planned, ``turned`` the toe
    that was brought by what was turned. [rad]
    """

    per_turn: float | None
    per_height: float
    by_slope: float = 0.0
    turned: float = 0.0


def beside_sitting(sitting: Sitting, told: Mapping[str, Quantity]) -> list[Beside]:
    """Heights read after settling beside where the springs were to put the car.

    Parameters
    ----------
    sitting : Sitting
        The prediction, with its ±. [mm]
    told : mapping of Quantity
        Everything read in the job. [core unit]

    Returns
    -------
    list of Beside
        For every wheel that was predicted.

    Raises
    ------
    Nothing.

    Notes
    -----
    The wheels' own heights, hub to arch.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> beside_sitting(Sitting(), {})
    []
    """
    found = []
    for wheel in sitting.wheels:
        read, target = told.get(f"{wheel.key}.check_height"), told.get(f"{wheel.key}.target.height")
        if wheel.predicted is not None:
            before, wanted = told.get(f"{wheel.key}.height"), target.value if target else None
            found.append(
                Beside(wheel.key, "height", before, wanted, wheel.predicted, wheel.predicted_plus_minus, read)
            )
    return found


def beside_read(wheel: str, told: Mapping[str, Quantity], known: Iterable[str] = ()) -> list[Beside]:
    """What was read of a wheel before or after the work, where nothing predicts it; but those ``known`` already."""
    found = []
    for name in NAMES:
        before, after = told.get(f"{wheel}.{name}"), told.get(f"{wheel}.check_{name}")
        target = told.get(f"{wheel}.target.{name}")
        if name not in known and (before or after):
            found.append(Beside(wheel, name, before, target.value if target else None, None, 0.0, after))
    return found


def beside_wheel(one: AlignedWheel, readings: Readings, *, with_height: bool) -> tuple[list[Beside], MovesToe]:
    """A wheel by its geometry: toe and camber beside their prediction, and what moves its toe.

    Parameters
    ----------
    one : AlignedWheel
        The wheel through the job, with how sure its plan is. [rad]
    readings : Readings
        Everything read in the job. [core unit]
    with_height : bool
        Whether its height is told too: where no spring says where it will stand. [-]

    Returns
    -------
    tuple
        Readings, and what moves the toe.

    Raises
    ------
    Nothing.

    Notes
    -----
    Predicted for the planned height and for what was turned before the reading, or is planned while there is none.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.predict.aligned import align_car
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> bare = readings_now(JobState(), WORK)
    >>> beside_wheel(align_car(JobState(), bare)[1]["rear.left"], bare, with_height=True)[0]
    []
    """
    wheel, told = one.plan.wheel, readings.quantities
    found, moves = [], MovesToe(None, 0.0)
    height, settled = told.get(f"{wheel.key}.height"), told.get(f"{wheel.key}.check_height")
    if with_height and height:
        open_ = COVERAGE * hypot(height.uncertainty, wheel.doubtful.travel)
        found.append(Beside(wheel.key, "height", height, None, height.value - wheel.travel, open_, settled))
    if wheel.corner is not None:
        try:
            moves = _moves(one)
            found += _angles(one, told, moves)
        except NoSolution:
            pass
    return found, moves


def _angles(one: AlignedWheel, told: Mapping[str, Quantity], moves: MovesToe) -> Iterator[Beside]:
    wheel, sure = one.plan.wheel, one.plan.sureness
    assert wheel.corner is not None
    steps = one.turned_when_read if one.read else one.planned
    set_to = [each.changed(steps.get(each.name, 0)) for each in wheel.adjusters]
    angles = angles_at(wheel.corner, [wheel.travel], changes_by_link(wheel.adjusters, np.array([set_to])))
    names: tuple[Name, ...] = ("toe", "camber", "caster")
    for name in names:
        open_ = sure.angles.get(name) if sure else None
        if open_ is None and name == "toe":
            open_ = COVERAGE * hypot(wheel.doubtful.toe, moves.per_height * wheel.doubtful.travel, moves.by_slope)
        if name not in wheel.read or open_ is None:
            continue
        before, predicted = told.get(f"{wheel.key}.{name}"), float(getattr(angles, name)[0])
        read, wanted = told.get(f"{wheel.key}.check_{name}"), one.plan.targets.get(name)
        yield Beside(wheel.key, name, before, wanted, predicted, open_, read)


def _moves(one: AlignedWheel) -> MovesToe:
    wheel = one.plan.wheel
    assert wheel.corner is not None
    at = angles_at(wheel.corner, [wheel.travel + 1.0, wheel.travel - 1.0]).toe
    per_height = -float(at[0] - at[1]) / 2
    slope = bump_steer(wheel)
    by_slope = abs(wheel.travel) * slope.uncertainty if slope else 0.0
    rod = next((each for each in wheel.adjusters if each.moves(TIE)), None)
    if rod is None:
        return MovesToe(None, per_height, by_slope)
    half, steps = rod.per_turn / 2, one.turned_when_read if one.read else one.planned
    # Counted on from no thread, a new end's turns are what it took to be there: only what is beside the old rod
    # turns.
    before = 0.0 if rod.from_no_thread else rod.start
    changes = np.array([half, -half, rod.changed(steps.get(rod.name, 0)), before])
    toe = angles_at(wheel.corner, [wheel.travel] * 4, {TIE: changes}).toe
    return MovesToe(float(toe[0] - toe[1]), per_height, by_slope, float(toe[2] - toe[3]))
