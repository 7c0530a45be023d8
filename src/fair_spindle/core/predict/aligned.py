"""A job that brings wheel angles back: what is planned, turned, read again, and still wanted."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import field, replace
from math import degrees, hypot

from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES, wheels_at
from fair_spindle.core.joblog.findings import Finding
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import steps_turned
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.correcting import Again, AsSteered, Corrected, correct_axle
from fair_spindle.core.predict.geometry import wheels_of, with_usual_front
from fair_spindle.core.predict.sides import SidesApart
from fair_spindle.core.predict.steering import WHERE, Rod, solid_steering, steered_within, straight_within, total_toe
from fair_spindle.core.predict.turn_effect import as_turned, rod_of
from fair_spindle.core.predict.turning import CarPlan, WheelPlan, aim_of, plan_car, thrust_as_read
from fair_spindle.core.turns.axle_turns import RATIO_OPEN, USUAL_RATIO, Across
from fair_spindle.core.turns.realign import TOLERANCES

WHEEL_OFF = "car.check_wheel_off"


@value_object
class AlignedWheel:
    """One wheel through the job, in steps of each adjuster; ``still`` is None until it was read again.

    ``turned_when_read`` leaves out what was turned since; ``beyond`` is how far the turns that would meet the targets
    pass a stop, for adjusters that do [mm]; ``stands`` how it stands with what was turned so far, and ``comes_to``
    what the steps still wanted bring, with ± [rad]; ``open_steps`` the ± of those steps of what sets its toe.
    """

    plan: WheelPlan
    planned: Mapping[str, int]
    turned: Mapping[str, int]
    turned_when_read: Mapping[str, int]
    still: Mapping[str, int] | None
    read: Mapping[str, float]
    beyond: Mapping[str, float]
    stands: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    comes_to: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    open_steps: Mapping[str, float] = field(default_factory=dict)


def align_car(state: JobState, readings: Readings, samples: int = 0) -> tuple[CarPlan, dict[str, AlignedWheel]]:
    """Plan the turns of a job and hold them against what was turned and read.

    The travel after the work is what the heights say, where they were read again.
    """
    plan = plan_wheels(readings, samples)
    return plan, follow_plan(plan, state, readings)


def plan_wheels(readings: Readings, samples: int = 0) -> CarPlan:
    """The turns of every wheel by what was read, how sure they are where samples are drawn.

    A toe alone gives its turns, a camber alone those of a camber; what was not read is not aimed at.
    """
    ratio = readings.quantities.get("car.steering_ratio")
    wheels = wheels_of(with_usual_front(readings), readings.quantities)
    return plan_car(wheels, ratio.value if ratio else None, samples, readings.quantities)


def follow_plan(plan: CarPlan, state: JobState, readings: Readings) -> dict[str, AlignedWheel]:
    """Hold planned turns against what was turned and read again, the rear axle first."""
    stood = thrust_as_read({key: wheel.wheel for key, wheel in plan.wheels.items()})
    through: dict[str, AlignedWheel] = {}
    # The front is set to the thrust line that the rear axle comes to with its own correction.
    thrust = plan.axles["rear"].toe.thrust if "rear" in plan.axles else 0.0
    for axle in ("rear", "front"):
        keys = [key for key in plan.wheels if key.startswith(axle)]
        aimed = [replace(plan.wheels[key], targets=aim_of(plan.wheels[key].wheel, thrust, stood)) for key in keys]
        across = plan.axles[axle].across if axle in plan.axles else ()
        steered = _as_steered(plan, state, readings) if axle == "front" else None
        through |= dict(zip(keys, _through(aimed, across, state, readings, steered), strict=True))
        toes = [_comes_to_toe(through[key]) for key in keys]
        if axle == "rear" and len(toes) == 2 and toes[0] is not None and toes[1] is not None:
            thrust = (toes[0] - toes[1]) / 2
    return {key: through[key] for key in plan.wheels}


def _as_steered(plan: CarPlan, state: JobState, readings: Readings) -> AsSteered | None:
    """What the steering wheel says of both front toes, as it stood running straight after the work.

    Wheel = −ratio · (half of left toe less right − thrust).  None where it was not read, or where the rear axle,
    which steers the car, was turned since its own reading; one that cannot be turned stands as it was read last.
    """
    off, rear = readings.quantities.get(WHEEL_OFF), [key for key in wheels_at("rear") if key in plan.wheels]
    if off is None or WHEEL_OFF not in state.entries or len(rear) != len(SIDES):
        return None
    seq = state.entries[WHEEL_OFF].event.seq

    def turned(key: str, after: int) -> dict[str, int]:
        return {one.name: steps_turned(state, key, one, after) for one in plan.wheels[key].wheel.adjusters}

    toes = []
    for key in rear:
        again = f"{key}.check_toe"
        toe = readings.quantities.get(again if turned(key, 0) or again in state.entries else f"{key}.toe")
        read_at = state.entries[again].event.seq if again in state.entries else 0
        if toe is None or turned(key, read_at) != turned(key, seq):
            return None
        toes.append(toe)
    ratio = readings.quantities.get("car.steering_ratio", Quantity(USUAL_RATIO, RATIO_OPEN))
    held = off.value / ratio.value
    half = Quantity(
        (toes[0].value - toes[1].value) / 2 - held, hypot(off.uncertainty, held * ratio.uncertainty) / ratio.value
    )
    left, right = (turned(key, seq) if key in plan.wheels else {} for key in wheels_at("front"))
    others = hypot(hypot(*(toe.uncertainty for toe in toes)) / 2, steered_within("front", readings.quantities))
    return AsSteered(half, others, (left, right))


def _comes_to_toe(one: AlignedWheel) -> float | None:
    """Toe a rear wheel ends at: read and corrected, or as planned, or as it was read before."""
    if "toe" in one.comes_to:
        return one.comes_to["toe"][0]
    if "toe" in one.read:
        return one.read["toe"]
    if one.plan.plan and "toe" in one.plan.wheel.read:
        return one.plan.plan.after["toe"]
    return one.plan.wheel.read.get("toe")


@value_object
class AlignedRod:
    """A rod of a solid axle through the job, in its steps; ``still`` is None until the axle was read again."""

    rod: Rod
    turned: int
    read: float | None
    still: int | None

    @property
    def planned(self) -> int:
        """Steps planned."""
        return round(self.rod.set_turns / self.rod.adjuster.step)


def align_rods(state: JobState, readings: Readings) -> tuple[AlignedRod, ...]:
    """Hold the planned turns of tie rod and drag link against what was turned and read again.

    What was turned after the reading is taken off what the reading still wants.
    """
    steering = solid_steering(readings)
    if steering is None:
        return ()
    toe, wheel = total_toe(readings, "check_"), readings.quantities.get(WHEEL_OFF)
    read = {"total toe": toe.value if toe else None, "steering wheel": wheel.value if wheel else None}
    keys = {
        "total toe": ("front.left.check_toe", "front.right.check_toe"),
        "steering wheel": (WHEEL_OFF,),
    }
    found: list[AlignedRod] = []
    for rod in steering.rods:
        now = read[rod.sets]
        seq = max((state.entries[key].event.seq for key in keys[rod.sets] if key in state.entries), default=0)
        still = None
        if now is not None:
            # What the tie rod was turned since, and is still to be, reaches the steering wheel, too.
            toe_to_come = sum(
                (steps_turned(state, WHERE, tie.rod.adjuster, seq) + (tie.still or 0))
                * tie.rod.adjuster.step
                * tie.rod.per_turn
                for tie in found
            )
            still = rod.still(now, toe_to_come) - steps_turned(state, WHERE, rod.adjuster, seq)
        found.append(AlignedRod(rod, steps_turned(state, WHERE, rod.adjuster), now, still))
    return tuple(found)


def look_rods(rods: Sequence[AlignedRod]) -> list[Finding]:
    """Say which rods of a solid axle are not where they are wanted.

    Before the check by what was turned, after it by what was read.
    """
    found = []
    for rod in rods:
        name = rod.rod.adjuster.name
        if rod.read is None:
            if rod.turned != rod.planned:
                message = f"Front axle, {name.lower()}: {rod.turned} of {rod.planned} planned steps turned."
                found.append(Finding("turns_left", "open", message, "front.turns"))
        elif abs(rod.read - rod.rod.wanted) > rod.rod.within + 1e-12:
            off = degrees(rod.read - rod.rod.wanted)
            message = f"Front {rod.rod.sets} is {off:+.2f}° from where it is wanted.".replace("-", "−")
            field = WHEEL_OFF if rod.rod.sets == "steering wheel" else "front.left.check_toe"
            found.append(Finding("angle_off", "open", message, field))
    return found


def look_wheel_off(readings: Readings) -> list[Finding]:
    """Say that the steering wheel is off straight by more than it may be, where each front wheel has its own rod."""
    off = readings.quantities.get(WHEEL_OFF)
    if off is None or abs(off.value) <= straight_within(readings.quantities) + 1e-12:
        return []
    message = f"Running straight, the steering wheel is {degrees(off.value):+.1f}° off.".replace("-", "−")
    return [Finding("angle_off", "open", message, WHEEL_OFF)]


def look_aligned(wheels: Mapping[str, AlignedWheel], apart: Sequence[SidesApart] = ()) -> list[Finding]:
    """Say what differs from the plan, and what is still outside its tolerance.

    Parameters
    ----------
    wheels : mapping
        Each wheel through the job. [-]
    apart : sequence of SidesApart, optional
        Left against right as read, where a limit is told. [rad]

    Returns
    -------
    list of Finding
        Open items only.

    Raises
    ------
    Nothing.

    Notes
    -----
    A wheel that was corrected after the check is judged by what it was read at.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> look_aligned({})
    []
    """
    found = [finding for key, wheel in wheels.items() for finding in _findings(key, wheel)]
    return found + [_uneven(one) for one in apart if not one.inside]


def look_thrust(wheels: Mapping[str, AlignedWheel], readings: Readings) -> list[Finding]:
    """Say that the rear axle points beside the car's centre line where nothing on it can turn it back: the car runs
    crabwise, and only a bent or shifted part explains it.

    Raises Nothing.

    Common practice, no published source.
    """
    toes = [
        readings.quantities.get(f"rear.{side}.check_toe", readings.quantities.get(f"rear.{side}.toe"))
        for side in SIDES
    ]
    if any(rod_of(wheel.plan.wheel) for key, wheel in wheels.items() if key.startswith("rear")):
        return []
    if toes[0] is None or toes[1] is None:
        return []
    thrust = (toes[0].value - toes[1].value) / 2
    open_ = COVERAGE * hypot(toes[0].uncertainty, toes[1].uncertainty) / 2
    within = readings.quantities.get("rear.within.thrust")
    limit = within.value if within else TOLERANCES["toe"]
    if abs(thrust) <= max(limit, open_) + 1e-12:
        return []
    side, of = "right" if thrust > 0 else "left", "on it" if "rear.layout" in readings.words else "told of it"
    message = (
        f"The rear axle points {abs(degrees(thrust)):.2f}° to the {side} of the car's centre line, and nothing {of} "
        "can be turned: the car runs crabwise. The front is set to this line; look for a bent beam or arm, a worn "
        "bushing or an axle that sits askew."
    )
    return [Finding("thrust_off", "open", message, "rear.left.check_toe")]


def _uneven(one: SidesApart) -> Finding:
    message = (
        f"{one.axle.capitalize()} {one.name}: left and right are {abs(degrees(one.difference)):.2f}° apart; "
        f"at most {degrees(one.limit):.2f}° is wanted."
    )
    return Finding("sides_apart", "open", message, f"{one.axle}.left.check_{one.name}")


def _through(
    plans: Sequence[WheelPlan],
    across: Sequence[Across],
    state: JobState,
    readings: Readings,
    steered: AsSteered | None,
) -> list[AlignedWheel]:
    """The wheels of an axle through the job."""
    read_again = [_read_again(plan, state, readings) for plan in plans]
    try:
        corrections = correct_axle(read_again, across, steered)
    except (InputError, NoSolution):
        corrections = [None for _ in plans]
    return [_wheel(one, more) for one, more in zip(read_again, corrections, strict=True)]


def _read_again(plan: WheelPlan, state: JobState, readings: Readings) -> Again:
    key, quantities = plan.wheel.key, readings.quantities
    wheel, turning_open = as_turned(state, readings, plan.wheel)
    plan = plan if wheel is plan.wheel else replace(plan, wheel=wheel)
    read = {
        name: quantities[f"{key}.check_{name}"] for name in ("toe", "camber") if f"{key}.check_{name}" in quantities
    }
    read_at = max((state.entries[f"{key}.check_{name}"].event.seq for name in read), default=0)
    turned = {adjuster.name: steps_turned(state, key, adjuster) for adjuster in plan.wheel.adjusters}
    since = {adjuster.name: steps_turned(state, key, adjuster, read_at) for adjuster in plan.wheel.adjusters}
    before, after = quantities.get(f"{key}.height"), quantities.get(f"{key}.check_height")
    travel = before.value - after.value if before and after else plan.wheel.travel
    return Again(plan, turned, since, read, travel, turning_open)


def _wheel(again: Again, more: Corrected | None) -> AlignedWheel:
    plan, adjusters = again.turned, again.turned.wheel.adjusters
    planned = {}
    if plan.plan:
        turns = zip(adjusters, plan.plan.set_turns, strict=True)
        planned = {one.name: round(float(turned) / one.step) for one, turned in turns}
    best = more.plan if more else plan.plan
    exact = zip(adjusters, best.exact, strict=True) if best and not all(best.reached.values()) else ()
    return AlignedWheel(
        plan,
        planned,
        again.steps,
        {name: steps - again.since[name] for name, steps in again.steps.items()},
        more.steps if more else None,
        {name: one.value for name, one in again.read.items()},
        {one.name: over for one, change in exact if (over := one.beyond(float(change)))},
        more.stands if more else {},
        more.comes_to if more else {},
        more.open_steps if more else {},
    )


def _findings(key: str, one: AlignedWheel) -> Iterator[Finding]:
    name = label_wheel(key)
    if not one.read:
        for adjuster, wanted in one.planned.items():
            if one.turned[adjuster] != wanted:
                message = f"{name}, {adjuster.lower()}: {one.turned[adjuster]} of {wanted} planned steps turned."
                yield Finding("turns_left", "open", message, f"{key}.turns")
    for angle, value in one.read.items():
        target = one.plan.targets.get(angle)
        if target is not None and abs(value - target) > one.plan.wheel.tolerances[angle] + 1e-12:
            off = degrees(value - target)
            message = f"{name} {angle} is {off:+.2f}° from its target.".replace("-", "−")
            yield Finding("angle_off", "open", message, f"{key}.check_{angle}")
