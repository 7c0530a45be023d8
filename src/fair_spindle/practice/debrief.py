"""After an exercise: truth beside belief, where the difference came from, and a score with its rule."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.log import Event
from fair_spindle.practice.car import DEGREE, WANTED, TrueCar
from fair_spindle.practice.layouts import wanted_at
from fair_spindle.practice.misses import KINDS, Notebook, Row, rows_of
from fair_spindle.practice.world import World

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


@value_object
class Debrief:
    """What came of an exercise: rows, the steering wheel before and after [°], rubber wound up [mm], how far each
    shackle is from its bracket before and after [mm of bump], how many bolts went by the wrench, the score."""

    rows: tuple[Row, ...]
    steering: tuple[float, float]
    wound: Mapping[str, float]
    shackles: Mapping[str, tuple[float, float]]
    torqued: int
    moves: int
    score: int


def debrief(
    car: TrueCar,
    events: Sequence[Event],
    sets_angles: bool,
    faults: int,
    skipped: int,
    planned_moves: int,
    foreseen: Mapping[str, float] | None = None,
) -> Debrief:
    """Hold the end of an exercise against its truth.

    ``sets_angles`` tells that angles were to be set to what the record wants; else they were to be kept as they came.
    ``foreseen`` are the height changes that the record led to expect. [mm]
    """
    world, notebook = World(car, clamped=dict(car.clamped_at)), Notebook()
    came = {
        key: dict(zip(KINDS, (angles / DEGREE).tolist(), strict=True)) for key, angles in world.all_angles().items()
    }
    crooked, hung = world.steering(), world.shackle_bump()
    for event in events:
        notebook.note(event.act, world)
        world.take(event.act)
    world.position, world.settled = "on_wheels", True
    rises = world.stands()
    wanted = dict(came)
    for key in WHEELS if sets_angles else ():
        can = wanted_at(key.axle, car.corners[key].wheel.layout)
        wanted[key] = came[key] | {name: WANTED[name] for name in can}
    rows = list(rows_of(world, notebook.seen, wanted, foreseen or {}))
    wound = {key: rises[key] - at for key, at in world.clamped.items()}
    steering = world.steering(rises)
    shackles = {key: (hung[key], left) for key, left in world.shackle_bump().items()}
    short = sum(left < BUMP_NEEDED for _, left in shackles.values())
    score = _score(rows, steering, wound, short, faults + max(0, world.moves - planned_moves), skipped)
    return Debrief(tuple(rows), (crooked, steering), wound, shackles, world.torqued, world.moves, score)


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
