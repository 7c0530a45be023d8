"""After an exercise: truth beside belief, where the difference came from, and a score with its rule."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.log import Entered, Event
from fair_spindle.practice.car import CROSS, DEGREE, WANTED, TrueCar
from fair_spindle.practice.world import World, cross_of

RULE = (
    "100 to begin with. Off for each wheel: toe beyond 0.1°, 3 for each further 0.05°, at most 10; camber beyond "
    "0.25°, 2 for each further 0.1°, at most 6; a wanted height missed by more than 3 mm, 2 for each further 2 mm, "
    "at most 8; rubber wound by more than 15 mm, 15; a shackle that meets its bracket within 30 mm of bump, 15. Off "
    "once: a wanted cross weight missed by more than 0.5 %, 3 for each further 0.5 %, at most 12; a steering wheel "
    "more than 3° crooked, 10; each thing that had to be refused or was overridden, 5; each raise beyond the plan's, "
    "5; each step skipped, 1."
)
WOUND_FREE, STRAIGHT_FREE, BUMP_NEEDED = 15.0, 3.0, 30.0
# Of each quantity: what may be off for nothing, a further step, what a step costs, and the most it costs.
COSTS = {
    "toe": (0.1, 0.05, 3, 10),
    "camber": (0.25, 0.1, 2, 6),
    "height": (3, 2, 2, 8),
    "cross weight": (0.5, 0.5, 3, 12),
}


@dataclass(frozen=True)
class Share:
    """A part of a miss: where it came from, and how much of it. [°, mm]"""

    cause: str
    value: float


@dataclass(frozen=True)
class Row:
    """An angle or height of a wheel, or the car's cross weight: wanted, true, as last read; None where nothing was
    wanted or read. [°, mm, %]"""

    wheel: str
    what: str
    unit: str
    wanted: float | None
    truth: float
    read: float | None
    shares: tuple[Share, ...]


@dataclass(frozen=True)
class Debrief:
    """What came of an exercise: rows, the steering wheel before and after [°], rubber wound up [mm], how far each
    shackle is from its bracket before and after [mm of bump], the score."""

    rows: tuple[Row, ...]
    steering: tuple[float, float]
    wound: Mapping[str, float]
    shackles: Mapping[str, tuple[float, float]]
    moves: int
    score: int


@dataclass
class _Seen:
    """The last reading of a field, what was true when it was taken, and whether the car stood settled then."""

    value: float
    truth: float
    settled: bool


def debrief(
    car: TrueCar, events: Sequence[Event], sets_angles: bool, faults: int, skipped: int, planned_moves: int
) -> Debrief:
    """Hold the end of an exercise against its truth.

    ``sets_angles`` tells that angles were to be set to what the record wants; else they were to be kept as they came.
    """
    world = World(car, clamped=dict(car.clamped_at))
    seen: dict[str, _Seen] = {}
    start = {key: world.angles(key) / DEGREE for key in WHEELS}
    crooked, hung = world.steering(), world.shackle_bump()
    for event in events:
        if isinstance(event.act, Entered):
            _note(event.act, world, seen)
        world.take(event.act)
    world.position, world.settled = "on_wheels", True
    rises = world.stands()
    rows = []
    for key in WHEELS:
        angles = world.angles(key, rises) / DEGREE
        for place, name in enumerate(("toe", "camber")):
            wanted = WANTED[name] if sets_angles else float(start[key][place])
            rows.append(_row(key, name, "°", wanted, float(angles[place]), seen))
        goal = car.goals.get(f"{key}.target.height")
        rows.append(_row(key, "height", "mm", goal, car.corners[key].arch + rises[key], seen))
    if CROSS in car.goals:
        rows.append(_row("car", "cross weight", "%", car.goals[CROSS], world.cross(), seen))
    wound = {key: rises[key] - at for key, at in world.clamped.items()}
    steering = world.steering(rises)
    shackles = {key: (hung[key], left) for key, left in world.shackle_bump().items()}
    short = sum(left < BUMP_NEEDED for _, left in shackles.values())
    score = _score(rows, steering, wound, short, faults + max(0, world.moves - planned_moves), skipped)
    return Debrief(tuple(rows), (crooked, steering), wound, shackles, world.moves, score)


def _note(act: Entered, world: World, seen: dict[str, _Seen]) -> None:
    wheel = ".".join(act.key.split(".")[:2])
    name = act.key.rpartition(".")[2].removeprefix("check_")
    if name == "loads" and len(act.typed) == len(WHEELS):
        shown = {str(wheel): act.typed[wheel.number] for wheel in WHEELS}
        loads = {key: read_number(one.text, "force", one.unit, act.key).value for key, one in shown.items()}
        seen["car.cross weight"] = _Seen(cross_of(loads), world.cross(), world.settled)
    if wheel not in WHEELS or name not in ("toe", "camber", "height") or not act.typed:
        return
    typed = next(iter(act.typed.values()))
    number = read_number(typed.text, "length" if name == "height" else "angle", typed.unit, act.key).value
    stands = world.stands()
    if name == "height":
        seen[f"{wheel}.{name}"] = _Seen(number, world.car.corners[wheel].arch + stands[wheel], world.settled)
    else:
        angles = world.angles(wheel, stands) / DEGREE
        seen[f"{wheel}.{name}"] = _Seen(number / DEGREE, float(angles[1 if name == "camber" else 0]), world.settled)


def _row(wheel: str, name: str, unit: str, wanted: float | None, truth: float, seen: Mapping[str, _Seen]) -> Row:
    last = seen.get(f"{wheel}.{name}")
    if wanted is None:
        return Row(wheel, name, unit, None, truth, last.value if last else None, ())
    off = truth - wanted
    shares = []
    if last:
        shares.append(Share("the reading", -(last.value - last.truth)))
        if not last.settled:
            shares.append(Share("read before it had settled", truth - last.truth))
        shares.append(Share("turns, and what they were taken to do", off - sum(share.value for share in shares)))
    else:
        shares.append(Share("not read afterwards", off))
    return Row(wheel, name, unit, wanted, truth, last.value if last else None, tuple(shares))


def _score(
    rows: Sequence[Row], steering: float, wound: Mapping[str, float], short: int, faults: int, skipped: int
) -> int:
    lost = 0.0
    for row in rows:
        if row.wanted is not None:
            free, step, cost, most = COSTS[row.what]
            lost += min(most, cost * max(0.0, abs(row.truth - row.wanted) - free) / step)
    lost += 15 * (sum(abs(one) > WOUND_FREE for one in wound.values()) + short)
    lost += 10 * (abs(steering) > STRAIGHT_FREE) + 5 * faults + skipped
    return int(np.clip(round(100 - lost), 0, 100))
