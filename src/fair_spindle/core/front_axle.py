"""One strut corner through the job: height, toe, clamp window, turns, and what is left to correct."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from math import pi

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.errors import InputError
from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.gauging import COVERAGE, Shifted, propagate, shift_inputs
from fair_spindle.core.heights import Spring, height_change
from fair_spindle.core.rubber import DEFAULT_TWIST_LIMIT, Arm, arm_angle, bushing_twist, clamp_window
from fair_spindle.core.threads import FLAT, RodEnd, joint_to_stud, nearest_step
from fair_spindle.core.toe import Steer, rod_change_for_toe, toe_for_rod_change

Array = NDArray[np.float64]
Inputs = Mapping[str, Array]
Rule = Callable[[Inputs], Array]

HEIGHT_INPUTS = ("motion_ratio", "sprung_load", "spring.rate", "spring.free", "new_spring.rate", "new_spring.free")
TOE_INPUTS = (*HEIGHT_INPUTS, "toe", "bump_slope")
WINDOW_INPUTS = (*HEIGHT_INPUTS, "height", "lower.length", "lower.rise")
TURN_INPUTS = (
    *TOE_INPUTS,
    "tie.lever",
    "steer",
    "tie.pitch",
    "tie.end",
    "new_end.length",
    "tie.turns_off",
    "tie.engagement",
)
TOE_TOLERANCE = pi / 180 * 0.05


@dataclass(frozen=True)
class Computed:
    """A computed number: value, ±, which inputs the ± comes from, the rule and its inputs."""

    value: float
    plus_minus: float
    rule: str
    inputs: tuple[str, ...]
    shares: Mapping[str, float]


@dataclass(frozen=True)
class Window:
    """Clamp window in hub-to-arch height [mm], about a predicted or a measured ride height."""

    low: float
    high: float
    about: float
    measured: bool
    twist_today: float | None


@dataclass(frozen=True)
class TurnPlan:
    """Turns for the new tie-rod end, beside what counting alone would have given.

    Turns are turns of thread engagement; toe in rad, lengths in mm.
    """

    turns_off: float
    turns_on: Computed
    set_turns: float
    engagement: float
    min_engagement: float
    toe_reached: Computed
    plain_toe: float
    plain_error: float

    @property
    def engagement_ok(self) -> bool:
        """Whether the thread is deep enough."""
        return self.engagement >= self.min_engagement


@dataclass(frozen=True)
class Check:
    """What was measured after settling, beside the prediction, and the turns still wanted.

    ``correction`` lengthens the rod where positive. [turn]
    """

    height: Quantity | None
    height_miss: float | None
    height_explained: bool | None
    toe: Quantity | None
    toe_predicted: Computed | None
    toe_miss: float | None
    toe_explained: bool | None
    toe_in_tolerance: bool | None
    correction: float | None
    corrected_toe: float | None


@dataclass(frozen=True)
class CornerPlan:
    """Everything computed about one corner; a result that lacks inputs is None and named in ``missing``."""

    height_now: Quantity | None
    height_change: Computed | None
    height_predicted: Computed | None
    toe_now: float | None
    toe_target: float | None
    toe_from_height: Computed | None
    toe_untouched: Computed | None
    window: Window | None
    turns: TurnPlan | None
    check: Check
    missing: Mapping[str, tuple[str, ...]]
    problem: str


@dataclass(frozen=True)
class Corner:
    """One corner's read inputs: quantities and choices by short name, and the counted flats.

    ``flats_corrected`` were turned before the last toe reading, ``flats_since`` after it.
    """

    quantities: Mapping[str, Quantity]
    choices: Mapping[str, str]
    flats_on: int = 0
    flats_corrected: int = 0
    flats_since: int = 0

    @property
    def steer(self) -> Steer:
        """Where the tie rods are."""
        return "ahead" if self.choices["steer"] == "ahead" else "behind"

    def lacks(self, names: tuple[str, ...]) -> tuple[str, ...]:
        """Which of the named inputs are not there."""
        return tuple(n for n in names if n not in self.quantities and n not in self.choices)

    def values(self) -> dict[str, float]:
        """Best values."""
        return {name: quantity.value for name, quantity in self.quantities.items()}

    @cached_property
    def shifted(self) -> Shifted:
        """All inputs as they are propagated, with the height change they lead to."""
        spread = {name: quantity.uncertainty for name, quantity in self.quantities.items()}
        shifted = shift_inputs(self.values(), spread)
        if self.lacks(HEIGHT_INPUTS):
            return shifted
        return replace(shifted, inputs={**shifted.inputs, "height_change": self.height_change(shifted.inputs)})

    @staticmethod
    def height_change(q: Inputs) -> Array:
        """Change of the body's height over the wheel for inputs by short name, shape (n,) each. [mm]"""
        old = Spring(q["spring.rate"], q["spring.free"])
        new = Spring(q["new_spring.rate"], q["new_spring.free"], q.get("new_spring.seat", np.zeros(1)))
        return height_change(q["motion_ratio"], q["sprung_load"], old, new)

    def compute(self, rule: str, function: Rule, names: tuple[str, ...]) -> Computed:
        """Carry the uncertainty of the inputs through a rule that rests on the named ones."""
        out = propagate(function, self.shifted)
        used = tuple(name for name in names if name in self.quantities)
        return Computed(out.value, out.plus_minus, rule, used, out.shares)


def plan_corner(corner: Corner) -> CornerPlan:
    """Plan one corner from whatever has been read so far.

    Parameters
    ----------
    corner : Corner
        Inputs in core units. [mm, N, N/mm, rad]

    Returns
    -------
    CornerPlan
        Results whose inputs are complete; the others are None, with what is missing.

    Raises
    ------
    Nothing: inputs that contradict each other are told in ``problem``.

    Notes
    -----
    Height change by :func:`height_change`; toe follows it by the bump-steer slope; the rod's
    length is changed by lever · Δtoe; engagement carries the new end's length.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> plan_corner(Corner({}, {})).missing["height"][0]
    'motion_ratio'
    """
    missing = {
        "height": corner.lacks(HEIGHT_INPUTS),
        "predicted": corner.lacks(("height", *HEIGHT_INPUTS)),
        "toe": corner.lacks(TOE_INPUTS),
        "window": corner.lacks(WINDOW_INPUTS),
        "turns": corner.lacks(TURN_INPUTS),
    }
    try:
        return _plan(corner, missing)
    except InputError as error:
        nothing = Check(None, None, None, None, None, None, None, None, None, None)
        height = corner.quantities.get("height")
        return CornerPlan(height, None, None, None, None, None, None, None, None, nothing, missing, error.message)


def clamped_twist(corner: Corner, plan: CornerPlan, height_at_clamp: float) -> float | None:
    """Wind-up that a bolt clamped at a height carries at the best known ride height.

    Parameters
    ----------
    corner : Corner
        The corner's inputs. [mm]
    plan : CornerPlan
        Its plan, with a clamp window. [-]
    height_at_clamp : float
        Hub-to-arch height at which the bolt was clamped. [mm]

    Returns
    -------
    float or None
        Twist, positive holds the body up, None where the window is not known. [rad]

    Raises
    ------
    OutOfRange
        The arm cannot reach that height.

    Notes
    -----
    Measured ride height where there is one, predicted otherwise.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> clamped_twist(Corner({}, {}), plan_corner(Corner({}, {})), 360.0) is None
    True
    """
    if plan.window is None:
        return None
    arm = _arm_at(corner, plan.window.about)
    return float(bushing_twist(arm, plan.window.about - height_at_clamp))


def _plan(corner: Corner, missing: Mapping[str, tuple[str, ...]]) -> CornerPlan:
    quantities = corner.quantities
    change = None
    if not missing["height"]:
        change = corner.compute("height-change", lambda q: q["height_change"], (*HEIGHT_INPUTS, "new_spring.seat"))
    predicted = None
    if change and "height" in quantities:
        predicted = corner.compute(
            "predicted-height",
            lambda q: q["height"] + q["height_change"],
            ("height", *HEIGHT_INPUTS, "new_spring.seat"),
        )
    from_height = untouched = None
    if not missing["toe"]:
        names = (*TOE_INPUTS, "new_spring.seat")
        from_height = corner.compute("toe-from-height", _toe_from_height, names)
        untouched = corner.compute("toe-untouched", lambda q: q["toe"] + _toe_from_height(q), names)
    turns = None if missing["turns"] else _turn_plan(corner)
    return CornerPlan(
        quantities.get("height"),
        change,
        predicted,
        quantities["toe"].value if "toe" in quantities else None,
        _target(corner),
        from_height,
        untouched,
        None if missing["window"] else _window(corner, predicted),
        turns,
        _check(corner, predicted, turns),
        missing,
        "",
    )


def _toe_from_height(q: Inputs) -> Array:
    return -q["bump_slope"] * q["height_change"]


def _target(corner: Corner) -> float | None:
    wanted = corner.quantities.get("toe_target") or corner.quantities.get("toe")
    return wanted.value if wanted else None


def _turn_plan(corner: Corner) -> TurnPlan:
    quantities, names = corner.quantities, (*TURN_INPUTS, "new_spring.seat")
    exact = corner.compute("turns-on", _turns_on(corner), names)
    set_turns = nearest_step(exact.value, FLAT)
    turns_off = quantities["tie.turns_off"].value
    plain = corner.compute("plain-counting", _toe_with(corner.steer, turns_off), names).value
    return TurnPlan(
        turns_off,
        exact,
        set_turns,
        set_turns * quantities["tie.pitch"].value,
        quantities["tie.engagement"].value,
        corner.compute("toe-reached", _toe_with(corner.steer, set_turns), names),
        plain,
        plain - (_target(corner) or 0.0),
    )


def _turns_on(corner: Corner) -> Rule:
    wanted = "toe_target" if "toe_target" in corner.quantities else "toe"

    def turns_on(q: Inputs) -> Array:
        change = rod_change_for_toe(q[wanted] - q["toe"] - _toe_from_height(q), q["tie.lever"], corner.steer)
        return np.asarray(
            (q["new_end.length"] - q["tie.end"] + q["tie.turns_off"] * q["tie.pitch"] - change) / q["tie.pitch"]
        )

    return turns_on


def _toe_with(steer: Steer, turns: float) -> Rule:
    """Toe at the new height with a number of turns on the new end."""

    def toe(q: Inputs) -> Array:
        old = joint_to_stud(RodEnd(q["tie.pitch"], q["tie.end"]), q["tie.turns_off"])
        new = joint_to_stud(RodEnd(q["tie.pitch"], q["new_end.length"]), turns)
        return np.asarray(q["toe"] + _toe_from_height(q) + toe_for_rod_change(new - old, q["tie.lever"], steer))

    return toe


def _arm_at(corner: Corner, height: float) -> Arm:
    """The arm as it stands at a ride height, from its rise at today's."""
    values = corner.values()
    return Arm(values["lower.length"], values["lower.rise"] + values["height"] - height)


def _window(corner: Corner, predicted: Computed | None) -> Window | None:
    if predicted is None:
        return None
    measured = corner.quantities.get("check_height")
    about = measured.value if measured else predicted.value
    arm = _arm_at(corner, about)
    limit = corner.quantities.get("twist_limit")
    low, high = clamp_window(arm, limit.value if limit else DEFAULT_TWIST_LIMIT)
    today = corner.quantities["height"].value
    twist = float(arm_angle(arm, 0.0) - arm_angle(arm, about - today))
    return Window(about - high, about - low, about, measured is not None, twist)


def _check(corner: Corner, predicted: Computed | None, turns: TurnPlan | None) -> Check:
    height, toe = corner.quantities.get("check_height"), corner.quantities.get("check_toe")
    height_miss = height.value - predicted.value if height and predicted else None
    expected = _toe_expected(corner) if turns and corner.flats_on else (turns.toe_reached if turns else None)
    toe_miss = toe.value - expected.value if toe and expected else None
    target = _target(corner)
    correction = reached = within = None
    if toe and target is not None:
        within = abs(toe.value - target) <= TOE_TOLERANCE
        correction, reached = _correction(corner, toe.value, target)
    return Check(
        height,
        height_miss,
        _explained(height_miss, height, predicted),
        toe,
        expected,
        toe_miss,
        _explained(toe_miss, toe, expected),
        within,
        correction,
        reached,
    )


def _correction(corner: Corner, toe: float, target: float) -> tuple[float | None, float | None]:
    """Turns still wanted after those made since the reading, and the toe they would give."""
    if corner.lacks(("tie.lever", "steer", "tie.pitch")):
        return None, None
    pitch, lever = corner.quantities["tie.pitch"].value, corner.quantities["tie.lever"].value
    made = corner.flats_since * FLAT
    wanted = float(rod_change_for_toe(target - toe, lever, corner.steer)) / pitch - made
    correction = nearest_step(wanted, FLAT)
    return correction, toe + float(toe_for_rod_change((made + correction) * pitch, lever, corner.steer))


def _toe_expected(corner: Corner) -> Computed:
    """Toe predicted for the turns that were in fact put on and corrected."""
    on = (corner.flats_on - corner.flats_corrected) * FLAT
    return corner.compute("toe-reached", _toe_with(corner.steer, on), (*TURN_INPUTS, "new_spring.seat"))


def _explained(miss: float | None, read: Quantity | None, predicted: Computed | None) -> bool | None:
    if miss is None or read is None or predicted is None:
        return None
    return bool(abs(miss) <= float(np.hypot(predicted.plus_minus, COVERAGE * read.uncertainty)))


RULES: dict[str, str] = {
    "height-change": "Spring force = sprung load ÷ motion ratio. "
    "Height change = change of loaded spring length ÷ ratio.",
    "predicted-height": "Today's ride height plus the height change.",
    "toe-from-height": "Bump-steer slope times wheel travel; the wheel moves up by as much as the body drops.",
    "toe-untouched": "Today's toe plus what the height change does to it, with the rod left as it was.",
    "turns-on": "Rod length change = lever × toe change wanted. Turns on carry the new end's length, the height "
    "change and the toe wanted: rod + end − turns × pitch.",
    "toe-reached": "Toe at the new height with the turns set in whole flats.",
    "plain-counting": "The same turns on as came off, whatever the new end's length and the height do.",
}
