"""After an exercise: truth beside belief, where the difference came from, and a score with its rule."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.log import Entered, Event
from fair_spindle.practice.car import DEGREE, WANTED, TrueCar
from fair_spindle.practice.world import World

RULE = (
    "100 to begin with. Off for each wheel: toe beyond 0.1°, 3 for each further 0.05°, at most 10; camber beyond "
    "0.25°, 2 for each further 0.1°, at most 6; rubber wound by more than 15 mm, 15. Off once: a steering wheel more "
    "than 3° crooked, 10; each thing that had to be refused or was overridden, 5; each raise beyond the plan's, 5; "
    "each step skipped, 1."
)
TOE_FREE, CAMBER_FREE, WOUND_FREE, STRAIGHT_FREE = 0.1, 0.25, 15.0, 3.0


@dataclass(frozen=True)
class Share:
    """A part of a miss: where it came from, and how much of it. [°, mm]"""

    cause: str
    value: float


@dataclass(frozen=True)
class Row:
    """One angle or height of a wheel: wanted, true, as last read; None where nothing was wanted or read. [°, mm]"""

    wheel: str
    what: str
    unit: str
    wanted: float | None
    truth: float
    read: float | None
    shares: tuple[Share, ...]


@dataclass(frozen=True)
class Debrief:
    """What came of an exercise: rows, the steering wheel before and after [°], rubber wound up [mm], the score."""

    rows: tuple[Row, ...]
    steering: tuple[float, float]
    wound: Mapping[str, float]
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
    crooked = world.steering()
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
        rows.append(_row(key, "height", "mm", None, car.corners[key].arch + rises[key], seen))
    wound = {key: rises[key] - at for key, at in world.clamped.items()}
    steering = world.steering(rises)
    score = _score(rows, steering, wound, faults, max(0, world.moves - planned_moves), skipped)
    return Debrief(tuple(rows), (crooked, steering), wound, world.moves, score)


def _note(act: Entered, world: World, seen: dict[str, _Seen]) -> None:
    wheel = ".".join(act.key.split(".")[:2])
    name = act.key.rpartition(".")[2].removeprefix("check_")
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
    rows: Sequence[Row], steering: float, wound: Mapping[str, float], faults: int, raises: int, skipped: int
) -> int:
    lost = 0.0
    for row in rows:
        if row.wanted is None:
            continue
        off = abs(row.truth - row.wanted)
        if row.what == "toe":
            lost += min(10.0, 3 * max(0.0, off - TOE_FREE) / 0.05)
        else:
            lost += min(6.0, 2 * max(0.0, off - CAMBER_FREE) / 0.1)
    lost += 15 * sum(abs(one) > WOUND_FREE for one in wound.values())
    lost += 10 * (abs(steering) > STRAIGHT_FREE) + 5 * (faults + raises) + skipped
    return int(np.clip(round(100 - lost), 0, 100))
