"""What a turn really does to a wheel's toe: believed by its lever and thread, and read by turning it."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import replace
from math import hypot

import numpy as np

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.readings import Quantity, read_all
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import steps_turned
from fair_spindle.core.predict.geometry import Wheel
from fair_spindle.core.predict.linkage_fit import spread_of
from fair_spindle.core.turns.adjuster import Adjuster

# What a linkage leaves open of a turn at the least: compliance, a joint that sticks.  The product's own.
TURN_AT_BEST = 0.02
# How far off the believed one an effect that was read may lie before it is no effect but something that went wrong,
# in standard uncertainties.  The product's own.
NOT_AN_EFFECT = 4.0
# The least share of what it should do that a turn is taken to have done: less of it, and something slipped.
LEAST_EFFECT = 0.3


@value_object
class ToeThen:
    """A toe as it was read, how many steps its rod had been turned by then, and how often it was read so. [rad]"""

    toe: Quantity
    steps: int
    times: int = 1


def rod_of(wheel: Wheel) -> Adjuster | None:
    """What sets the toe of a wheel; None where nothing does."""
    link = steering_link(wheel.corner) if wheel.corner else ""
    return next((one for one in wheel.adjusters if link and one.moves(link)), None)


def steering_link(corner: Corner) -> str:
    """The link that holds the toe; empty where a wheel is steered by none."""
    return next((arm.key for arm in corner.kind.arms if arm.steers), "")


@by_identity()
def lever_of(wheel: Wheel) -> Quantity | None:
    """Lever that the rod of a wheel steers it by, as all that was read of its linkage has it [mm]; None without
    one."""
    corner, cloud = wheel.corner, wheel.doubtful.cloud
    if corner is None or cloud is None or not any(link.name == steering_link(corner) for link in corner.links):
        return None
    try:
        return Quantity(*spread_of(corner, cloud, f"{steering_link(corner)}.lever"))
    except NoSolution:
        return None


def believed(wheel: Wheel, rod: Adjuster) -> float:
    """Standard uncertainty of what a turn does, as a share of it, before it was read."""
    lever = lever_of(wheel)
    return hypot(lever.uncertainty / lever.value if lever else 0.0, rod.turn_open / rod.per_turn, TURN_AT_BEST)


def toes_then(state: JobState, readings: Readings, wheel: Wheel, rod: Adjuster) -> list[ToeThen]:
    """Every toe of a wheel that was read with its rod turned by so much, in the order of the log.

    The baseline belongs to them where neither the height nor a part of that axle is another since.
    """
    key = f"{wheel.key}.check_toe"
    now, taken = readings.quantities.get(key), state.entries.get(key)
    if now is None or taken is None:
        return []
    every = steps_turned(state, wheel.key, rod)
    found = []
    before = readings.quantities.get(f"{wheel.key}.toe")
    opened = {joint.role for joint in state.joints.values() if joint.axle == wheel.key.split(".")[0]}
    if before and not wheel.travel and opened <= {"jam"}:
        found.append(ToeThen(before, 0))
    for seq, toe in (*_replaced(state, readings, key), (taken.event.seq, now)):
        steps = every - steps_turned(state, wheel.key, rod, seq)
        # Read again with nothing turned between, the later one stands for both.
        times = 1 + (found.pop().times if found and found[-1].steps == steps else 0)
        found.append(ToeThen(toe, steps, times))
    return found


def _replaced(state: JobState, readings: Readings, key: str) -> Iterator[tuple[int, Quantity]]:
    """Readings of a field that a later one took the place of, each with its place in the log."""
    for taken in state.replaced.get(key, ()):
        quantities, _ = read_all({key: taken.act}, readings.sheet)
        if key in quantities:
            yield taken.event.seq, quantities[key]


def effect_read(toes: Sequence[ToeThen], step: float) -> Quantity | None:
    """What a step did, as a share of what it was to do, from toes read with the rod turned by different counts.

    Parameters
    ----------
    toes : sequence of ToeThen
        In the order they were read. [rad]
    step : float
        Toe that one step was to bring. [rad]

    Returns
    -------
    Quantity or None
        None where nothing was turned between two readings. [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    Least squares over the differences of readings that follow each other, each by the ± of both.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> read = [ToeThen(Quantity(0.0100, 2e-4), 0), ToeThen(Quantity(0.0040, 2e-4), -3)]
    >>> round(effect_read(read, 0.0021).value, 3)
    0.952
    """
    weight = product = 0.0
    for first, second in itertools.pairwise(toes):
        turned = (second.steps - first.steps) * step
        open_ = hypot(first.toe.uncertainty, second.toe.uncertainty)
        if turned and open_:
            weight += (turned / open_) ** 2
            product += turned * (second.toe.value - first.toe.value) / open_**2
    return Quantity(product / weight, weight**-0.5) if weight else None


def went_against(prior: float, read: Quantity | None) -> bool:
    """Whether turning brought about as much as it should, the other way: a rod on the other side of the axle, turns
    given the wrong way round, or a toe that was read wrong."""
    if read is None or read.value > -LEAST_EFFECT:
        return False
    return abs(read.value + 1) <= NOT_AN_EFFECT * hypot(prior, read.uncertainty)


def learned(prior: float, read: Quantity | None) -> Quantity:
    """What a turn does, as a share of what it was to do: believed to be 1 ± ``prior``, and read.

    A reading that no lever could explain teaches nothing about the lever: something else went wrong.
    """
    strays = read is None or abs(read.value - 1) > NOT_AN_EFFECT * hypot(prior, read.uncertainty)
    if read is None or strays or read.value < LEAST_EFFECT:
        return Quantity(1.0, prior)
    share = prior**2 / (prior**2 + read.uncertainty**2)
    return Quantity(1 + share * (read.value - 1), hypot(prior * (1 - share) ** 0.5, TURN_AT_BEST))


def as_turned(state: JobState, readings: Readings, wheel: Wheel) -> tuple[Wheel, float]:
    """A wheel whose rod turns as it was seen to turn, and what that leaves open, as a share of every turn."""
    rod = rod_of(wheel)
    if rod is None or wheel.corner is None:
        return wheel, TURN_AT_BEST
    prior = believed(wheel, rod)
    toes, read = _effect(state, readings, wheel, rod)
    if read is None:
        return wheel, prior
    way = 1
    if went_against(prior, read) and (_side_of_the_axle_open(readings, wheel) or toes[-1].times > 1):
        way, read = -1, replace(read, value=-read.value)
    effect = learned(prior, read)
    acts_on = tuple((name, way * share) for name, share in rod.acts_on)
    turns = replace(rod, acts_on=acts_on, per_turn=rod.per_turn * effect.value, turn_open=0.0)
    adjusters = tuple(turns if one is rod else one for one in wheel.adjusters)
    return replace(wheel, adjusters=adjusters), effect.uncertainty


def turned_against(state: JobState, readings: Readings, wheel: Wheel) -> bool:
    """Whether the last turns of a wheel went against what they should bring, and nobody has read it twice since."""
    rod = rod_of(wheel)
    if rod is None or wheel.corner is None or _side_of_the_axle_open(readings, wheel):
        return False
    toes, read = _effect(state, readings, wheel, rod)
    return went_against(believed(wheel, rod), read) and toes[-1].times == 1


def _effect(
    state: JobState, readings: Readings, wheel: Wheel, rod: Adjuster
) -> tuple[list[ToeThen], Quantity | None]:
    """Toes as they were read, and what a step did by them; None where none was turned or the wheel locks."""
    toes = toes_then(state, readings, wheel, rod)
    if len(toes) < 2 or wheel.corner is None:
        return toes, None
    try:
        return toes, effect_read(toes, toe_of_a_step(wheel.corner, wheel.travel, rod))
    except NoSolution:
        return toes, None


def _side_of_the_axle_open(readings: Readings, wheel: Wheel) -> bool:
    """Whether nobody said on which side of the axle the rod lies."""
    return f"{wheel.key.split('.')[0]}.steer" not in readings.words and wheel.depth != "points"


def toe_of_a_step(corner: Corner, travel: float, rod: Adjuster) -> float:
    """What one step of a rod does to the toe of its wheel. [rad]"""
    half = rod.per_turn * rod.step / 2
    changes = {name: np.array([half, -half]) * share for name, share in rod.acts_on}
    toe = angles_at(corner, [travel, travel], changes).toe
    return float(toe[0] - toe[1])
