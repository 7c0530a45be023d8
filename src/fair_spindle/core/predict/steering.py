"""Tie rod and drag link of a solid front axle: one rod for the toe of both wheels, one for the steering wheel."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from math import hypot

import numpy as np

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.geometry.drag_link import DragLink, length_to_steer, rod_shift, steered_by_height
from fair_spindle.core.geometry.layouts import LAYOUTS, Layout
from fair_spindle.core.geometry.toe import steer_sign
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.predict.adjusters import shared_adjuster
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.axle_turns import STEERING_WHEEL_WITHIN, USUAL_RATIO
from fair_spindle.core.turns.realign import TOLERANCES

WHERE = "front"
# Lever of a solid axle's knuckle that nobody measured.  The product's own, common practice. [mm]
USUAL_LEVER = Quantity(150.0, 25.0)


@value_object
class Rod:
    """A rod of the axle: what it sets, where that stands untouched and where it is wanted [rad], and its turns.

    ``exact`` and ``set_turns`` [turn] with ``plus_minus`` (coverage 2); ``reached`` what the set turns give [rad];
    ``per_turn`` what one turn does to it [rad], ``by_toe`` what total toe does to it. [-]
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
    by_toe: float = 0.0

    @property
    def change(self) -> float:
        """Length change of the exact turns, whether or not it can be set. [mm]"""
        return self.adjuster.start + self.exact * self.adjuster.per_turn

    def still(self, read: float, toe: float = 0.0) -> int:
        """Steps still wanted where this was read, and total toe will change by so much [rad]; none inside what it may
        be off."""
        off = self.wanted - read - self.by_toe * toe
        return 0 if abs(off) <= self.within else round(off / self.per_turn / self.adjuster.step)


@value_object
class SolidSteering:
    """The steering of a solid axle, what is missing for its turns, and what cannot be right."""

    rods: tuple[Rod, ...]
    lacks: tuple[str, ...]
    problem: str


def solid_steering(readings: Readings) -> SolidSteering | None:
    """Plan the turns of tie rod and drag link, for a new body height.

    The tie rod lies on the axle: body height does not move it, its change is lever · Δ(total toe). The drag link goes
    from body to axle: height alone turns the steering wheel, by the road wheels' angle times the ratio, less what a
    Panhard rod moves the whole axle the same way.  It holds the knuckle across from its gear: what the tie rod does
    to total toe turns the other one, and half of it the steering wheel.
    """
    layout = _layout(readings)
    if not layout or layout.guide != "axle":
        return None
    lacks: list[str] = []
    try:
        tie = next(_tie(readings, lacks), None)
        return SolidSteering((*([tie] if tie else []), *_drag(readings, lacks, tie)), tuple(lacks), "")
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
    lever = readings.quantities.get(f"{WHERE}.tie.lever", USUAL_LEVER)
    if toe is None or not steer:
        return
    targets = [readings.quantities.get(f"{WHERE}.{side}.target.toe") for side in SIDES]
    wanted = sum(target.value for target in targets if target) if all(targets) else toe.value
    within = readings.quantities.get(f"{WHERE}.within.total_toe")
    per_turn = steer_sign(steer) * rod.per_turn / lever.value
    near = within.value if within else 2 * TOLERANCES["toe"]
    # What the lever leaves open of the turns grows with how far they go.
    by_lever = (wanted - toe.value) * lever.uncertainty / lever.value
    yield _rod(rod, "total toe", toe.value, wanted, near, per_turn, hypot(toe.uncertainty, by_lever))


def _drag(readings: Readings, lacks: list[str], tie: Rod | None) -> Iterator[Rod]:
    rod, longer = shared_adjuster(readings, WHERE, "drag", "Drag link"), readings.words.get(f"{WHERE}.drag.longer")
    if rod is None:
        return
    names = [f"{WHERE}.drag.{name}" for name in ("length", "rise", "lever")]
    lacks += [] if longer else [f"{WHERE}.drag.longer"]
    found = _needed(readings, lacks, *names, "car.steering_ratio", "car.wheel_off")
    if not found or not longer:
        return
    told = dict(zip(("length", "rise", "lever", "ratio", "off"), found, strict=True))
    told["change"] = _axle_change(readings)
    layout = _layout(readings)
    if layout and layout.across and told["change"].value:
        panhard = _needed(readings, lacks, f"{WHERE}.panhard.length", f"{WHERE}.panhard.rise")
        if not panhard:
            return
        told |= zip(("rod_length", "rod_rise"), panhard, strict=True)
    gear = readings.words.get(f"{WHERE}.drag.body", readings.words.get(f"{WHERE}.panhard_body", "left"))
    beside = gear == readings.words.get(f"{WHERE}.panhard_body", "left")
    toe = tie.reached - tie.before if tie else 0.0
    at = _Steered(1 if longer == "right" else -1, beside, toe, gear == "left")
    sizes = {name: size.value for name, size in told.items()}
    before, needed = at.untouched(sizes), at.needed(sizes)
    per_turn = -at.longer * sizes["ratio"] * rod.per_turn / sizes["lever"]
    near = straight_within(readings.quantities)
    planned = _rod(rod, "steering wheel", before, 0.0, near, per_turn, 0.0, rod.turns_to(needed), at.by_toe(sizes))
    turned = (planned.set_turns - rod.turns_to(0.0)) * rod.per_turn

    def ends(name: str, by: float) -> float:
        return at.reached({**sizes, name: sizes[name] + by}, turned)

    spread = [(ends(name, size.uncertainty) - ends(name, -size.uncertainty)) / 2 for name, size in told.items()]
    yield replace(planned, plus_minus=COVERAGE * abs(hypot(*spread) / per_turn))


@value_object
class _Steered:
    """How a drag link lies: which way it steers made longer, whether beside a Panhard rod, its gear at the left, and
    by how much the tie rod changes total toe [rad].  Sizes go by name. [mm, rad]"""

    longer: int
    beside: bool
    toe: float
    left: bool

    def by_toe(self, size: Mapping[str, float]) -> float:
        """What total toe does to the steering wheel: the knuckle the link holds stays, the other one turns. [-]"""
        return (-1 if self.left else 1) * size["ratio"] / 2

    def untouched(self, size: Mapping[str, float]) -> float:
        """Where the steering wheel stands by the height and the tie rod alone. [rad]

        It stands where the gear does; steering the road wheels right by the link lets it come left.
        """
        by_height = steered_by_height(self._link(size), size["change"], self._shift(size))
        return size["off"] - size["ratio"] * by_height + self.by_toe(size) * self.toe

    def needed(self, size: Mapping[str, float]) -> float:
        """Change of the link's length that straightens it. [mm]"""
        steer = (size["off"] + self.by_toe(size) * self.toe) / size["ratio"]
        return length_to_steer(self._link(size), size["change"], steer, self._shift(size))

    def reached(self, size: Mapping[str, float], turned: float) -> float:
        """Where it stands with the link so much longer. [rad]"""
        return self.untouched(size) - self.longer * size["ratio"] * turned / size["lever"]

    def _link(self, size: Mapping[str, float]) -> DragLink:
        return DragLink(size["length"], size["rise"], size["lever"], self.longer)

    def _shift(self, size: Mapping[str, float]) -> float:
        """How far the axle itself moves away from the drag link's end on the gear, by its Panhard rod. [mm]"""
        if "rod_length" not in size:
            return 0.0
        shift = rod_shift(size["rod_length"], size["rod_rise"], size["change"])
        return shift if self.beside else -shift


def _axle_change(readings: Readings) -> Quantity:
    """Height change of the front: of both its wheels, whose heights err together, or as told for the axle. [mm]"""
    left, right = (readings.quantities.get(f"{WHERE}.{side}.height_change") for side in SIDES)
    if left and right:
        return Quantity((left.value + right.value) / 2, (left.uncertainty + right.uncertainty) / 2)
    return readings.quantities.get(f"{WHERE}.height_change", Quantity(0.0))


def _layout(readings: Readings) -> Layout | None:
    return LAYOUTS.get(readings.words.get(f"{WHERE}.layout", ""))


def _rod(
    rod: Adjuster,
    sets: str,
    before: float,
    wanted: float,
    within: float,
    per_turn: float,
    uncertainty: float,
    exact: float | None = None,
    by_toe: float = 0.0,
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
        by_toe,
    )


def steered_within(axle: str, told: Mapping[str, Quantity]) -> float:
    """How straight the road wheels stand when the steering wheel is set straight by eye.

    Parameters
    ----------
    axle : {"front", "rear"}
        Which axle. [-]
    told : mapping of Quantity
        The car's record: steering ratio, and how far the steering wheel may stand off. [-, rad]

    Returns
    -------
    float
        Standard uncertainty; 0 at the rear. [rad]

    Raises
    ------
    Nothing.

    Notes
    -----
    The half width is what a steering wheel may stand off, over √3 (rectangular); a ratio of 15
    where none was told, common practice, no published source.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> from math import degrees
    >>> round(degrees(steered_within("front", {})), 3)
    0.038
    """
    if axle != "front":
        return 0.0
    ratio = told.get("car.steering_ratio")
    return straight_within(told) / 3**0.5 / (ratio.value if ratio else USUAL_RATIO)


def straight_within(told: Mapping[str, Quantity]) -> float:
    """How far the steering wheel may stand off, running straight; the house's own where nothing is told. [rad]"""
    within = told.get("front.within.steering_wheel")
    return within.value if within else STEERING_WHEEL_WITHIN
