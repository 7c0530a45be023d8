"""Tie rod and drag link of a solid front axle: one rod for the toe of both wheels, one for the steering wheel."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot

import numpy as np

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.geometry.drag_link import DragLink, length_to_steer, rod_shift, steered_by_height
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout
from fair_spindle.core.geometry.toe import steer_sign
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.adjusters import shared_adjuster
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.axle_turns import STEERING_WHEEL_WITHIN
from fair_spindle.core.turns.realign import TOLERANCES

WHERE = "front"


@dataclass(frozen=True)
class Rod:
    """A rod of the axle: what it sets, where that stands untouched and where it is wanted [rad], and its turns.

    ``exact`` and ``set_turns`` [turn] with ``plus_minus`` (coverage 2); ``reached`` what the set turns give [rad];
    ``per_turn`` what one turn does to it [rad].
    """

    adjuster: Adjuster
    sets: str
    before: float
    wanted: float
    within: float
    exact: float
    plus_minus: float
    set_turns: float
    reached: float
    per_turn: float

    @property
    def change(self) -> float:
        """Length change of the exact turns, whether or not it can be set. [mm]"""
        return self.adjuster.start + self.exact * self.adjuster.per_turn

    def still(self, read: float) -> int:
        """Steps still wanted where this was read."""
        return round((self.wanted - read) / self.per_turn / self.adjuster.step)


@dataclass(frozen=True)
class SolidSteering:
    """The steering of a solid axle, what is missing for its turns, and what cannot be right."""

    rods: tuple[Rod, ...]
    lacks: tuple[str, ...]
    problem: str


def solid_steering(readings: Readings) -> SolidSteering | None:
    """Plan the turns of tie rod and drag link, for a new body height.

    The tie rod lies on the axle: body height does not move it, its change is lever · Δ(total toe). The drag link goes
    from body to axle: height alone turns the steering wheel, by the road wheels' angle times the ratio, less what a
    Panhard rod moves the whole axle the same way.
    """
    layout = _layout(readings)
    if not layout or layout.guide != "axle":
        return None
    lacks: list[str] = []
    try:
        return SolidSteering((*_tie(readings, lacks), *_drag(readings, lacks)), tuple(lacks), "")
    except (InputError, NoSolution) as error:
        return SolidSteering((), tuple(lacks), error.message)


def _needed(readings: Readings, lacks: list[str], *names: str) -> list[Quantity] | None:
    missing = [name for name in names if name not in readings.quantities]
    lacks += missing
    return None if missing else [readings.quantities[name] for name in names]


def total_toe(readings: Readings, check: str = "") -> Quantity | None:
    """Total toe of the front axle, from both wheels or read as one.

    Parameters
    ----------
    readings : Readings
        The job's readings. [-]
    check : {"", "check_"}, optional
        Before the work or after it. [-]

    Returns
    -------
    Quantity or None
        None where it was not read. [rad]

    Raises
    ------
    Nothing.

    Notes
    -----
    Two wheels read one by one outrank the axle read as one.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.joblog.required_fields import readings_now
    >>> from fair_spindle.core.joblog.state import JobState
    >>> from fair_spindle.core.joblog.kinds import WORK
    >>> total_toe(readings_now(JobState(), WORK)) is None
    True
    """
    both = [readings.quantities.get(f"{WHERE}.{side}.{check}toe") for side in SIDES]
    known = [one for one in both if one]
    if len(known) == len(both):
        return Quantity(sum(one.value for one in known), hypot(*(one.uncertainty for one in known)))
    return readings.quantities.get(f"{WHERE}.total_toe") if not check else None


def _tie(readings: Readings, lacks: list[str]) -> Iterator[Rod]:
    rod, toe = shared_adjuster(readings, WHERE, "tie", "Tie rod"), total_toe(readings)
    steer = readings.words.get(f"{WHERE}.steer")
    if rod is None:
        return
    lacks += [name for name, known in ((f"{WHERE}.total_toe", toe), (f"{WHERE}.steer", steer)) if not known]
    found = _needed(readings, lacks, f"{WHERE}.tie.lever")
    if not found or toe is None or not steer:
        return
    targets = [readings.quantities.get(f"{WHERE}.{side}.target.toe") for side in SIDES]
    wanted = sum(target.value for target in targets if target) if all(targets) else toe.value
    within = readings.quantities.get(f"{WHERE}.within.total_toe")
    per_turn = steer_sign(steer) * rod.per_turn / found[0].value
    near = within.value if within else 2 * TOLERANCES["toe"]
    yield _rod(rod, "total toe", toe.value, wanted, near, per_turn, toe.uncertainty)


def _drag(readings: Readings, lacks: list[str]) -> Iterator[Rod]:
    rod, longer = shared_adjuster(readings, WHERE, "drag", "Drag link"), readings.words.get(f"{WHERE}.drag.longer")
    if rod is None:
        return
    names = [f"{WHERE}.drag.{name}" for name in ("length", "rise", "lever")]
    lacks += [] if longer else [f"{WHERE}.drag.longer"]
    found = _needed(readings, lacks, *names, "car.steering_ratio", "car.wheel_off")
    if not found or not longer:
        return
    length, rise, lever, ratio, off = found
    link = DragLink(length.value, rise.value, lever.value, 1 if longer == "right" else -1)
    change = readings.quantities.get(f"{WHERE}.height_change", Quantity(0.0))
    shift = _axle_shift(readings, change.value, lacks)
    if shift is None:
        return
    # The steering wheel stands where the gear does; steering the road wheels right by the link lets it come left.
    by_height = steered_by_height(link, change.value, shift)
    needed = length_to_steer(link, change.value, off.value / ratio.value, shift)
    per_turn = -link.longer * ratio.value * rod.per_turn / link.lever
    before = off.value - ratio.value * by_height
    within = readings.quantities.get("front.within.steering_wheel")
    above, below = (_axle_shift(readings, change.value + by, []) or 0.0 for by in (0.5, -0.5))
    nudge = steered_by_height(link, change.value + 0.5, above) - steered_by_height(link, change.value - 0.5, below)
    open_ = hypot(off.uncertainty, ratio.value * nudge * change.uncertainty)
    near = within.value if within else STEERING_WHEEL_WITHIN
    yield _rod(rod, "steering wheel", before, 0.0, near, per_turn, open_, rod.turns_to(needed))


def _layout(readings: Readings) -> Layout | None:
    return LAYOUTS.get(readings.words.get(f"{WHERE}.layout", ""))


def _axle_shift(readings: Readings, change: float, lacks: list[str]) -> float | None:
    """How far the axle itself moves away from the drag link's body end; None where its Panhard rod is not known."""
    layout = _layout(readings)
    if not layout or not layout.across or not change:
        return 0.0
    found = _needed(readings, lacks, f"{WHERE}.panhard.length", f"{WHERE}.panhard.rise")
    if not found:
        return None
    shift = rod_shift(found[0].value, found[1].value, change)
    rod_at = readings.words.get(f"{WHERE}.panhard_body", "left")
    # Where it is not told, the link is held by the body on the rod's side, as it has to be to lie beside it.
    return shift if readings.words.get(f"{WHERE}.drag.body", rod_at) == rod_at else -shift


def _rod(
    rod: Adjuster,
    sets: str,
    before: float,
    wanted: float,
    within: float,
    per_turn: float,
    uncertainty: float,
    exact: float | None = None,
) -> Rod:
    turns = (wanted - before) / per_turn + rod.turns_to(0.0) if exact is None else exact
    low, high = np.ceil(rod.turns_to(rod.low) / rod.step - 1e-9), np.floor(rod.turns_to(rod.high) / rod.step + 1e-9)
    set_turns = float(np.clip(round(turns / rod.step), low, high)) * rod.step
    return Rod(
        rod,
        sets,
        before,
        wanted,
        within,
        turns,
        COVERAGE * abs(uncertainty / per_turn),
        set_turns,
        wanted + (set_turns - turns) * per_turn,
        per_turn,
    )
