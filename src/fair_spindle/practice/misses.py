"""How far each angle, height and weight of a practice car ended from what was wanted, and what made it so."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.log import Act, Entered, Turned
from fair_spindle.practice.car import CROSS, DEGREE
from fair_spindle.practice.world import Vector, World, cross_of

KINDS = ("toe", "camber")
UNITS = {"toe": "°", "camber": "°", "height": "mm", "load": "N", "cross weight": "%"}
READING, UNSETTLED = "the reading", "read before it had settled"
COUNT, FORESEEN = "the count on the new end, and its length", "the height came out otherwise than foreseen"
TURNS, UNREAD = "turns, and what they were taken to do", "not read afterwards"


@value_object
class Share:
    """A part of a miss: where it came from, and how much of it. [°, mm]"""

    cause: str
    value: float


@value_object
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


@dataclass
class Seen:
    """The last reading of a field, what was true when it was taken, whether the car stood settled then, and whether
    the wheel was turned since."""

    value: float
    truth: float
    settled: bool
    turned: bool = False


class Notebook:
    """What was read last of each field, as the work went on; a reading of several parts is left to the product."""

    def __init__(self) -> None:
        self.seen: dict[str, Seen] = {}

    def note(self, act: Act, world: World) -> None:
        """Take a reading or a turn, before it is done to the car."""
        if isinstance(act, Turned):
            for key, one in self.seen.items():
                one.turned = one.turned or key.startswith(f"{act.wheel}.")
        if not isinstance(act, Entered) or not act.typed:
            return
        wheel = ".".join(act.key.split(".")[:2])
        name = act.key.rpartition(".")[2].removeprefix("check_")
        if name == "loads" and act.method == "four_scales":
            self._weighed(act, world)
        elif wheel in WHEELS and name in ("height", *KINDS) and len(act.typed) == 1:
            self._measured(act, wheel, name, world)

    def _weighed(self, act: Entered, world: World) -> None:
        shown = {str(wheel): act.typed[wheel.number] for wheel in WHEELS}
        read = {key: read_number(one.text, "force", one.unit, act.key).value for key, one in shown.items()}
        true = world.loads()
        for key in WHEELS:
            self.seen[f"{key}.load"] = Seen(read[key], true[key], world.settled)
        self.seen["car.cross weight"] = Seen(cross_of(read), cross_of(true), world.settled)

    def _measured(self, act: Entered, wheel: str, name: str, world: World) -> None:
        typed = next(iter(act.typed.values()))
        number = read_number(typed.text, "length" if name == "height" else "angle", typed.unit, act.key).value
        stands = world.stands()
        if name == "height":
            self.seen[f"{wheel}.{name}"] = Seen(number, world.car.corners[wheel].arch + stands[wheel], world.settled)
        else:
            true = float(world.angles(wheel, stands)[KINDS.index(name)]) / DEGREE
            self.seen[f"{wheel}.{name}"] = Seen(number / DEGREE, true, world.settled)


def rows_of(
    world: World, seen: Mapping[str, Seen], wanted: Mapping[str, Mapping[str, float]], foreseen: Mapping[str, float]
) -> Iterator[Row]:
    """Every angle, height and load at the end beside what was wanted of it.

    ``wanted`` are the angles by wheel [°], ``foreseen`` the height changes that were [mm].
    """
    stands, loads, goals = world.stands(), world.loads(), world.car.goals
    for key, angles in world.all_angles(stands).items():
        causes = dict(_causes(world, key, angles, stands, foreseen))
        for place, name in enumerate(KINDS):
            because = {cause: float(by[place]) / DEGREE for cause, by in causes.items()}
            yield _row(key, name, wanted[key][name], float(angles[place]) / DEGREE, seen, because)
        height = world.car.corners[key].arch + stands[key]
        yield _row(key, "height", goals.get(f"{key}.target.height"), height, seen)
        yield _row(key, "load", None, loads[key], seen)
    if CROSS in goals:
        yield _row("car", "cross weight", goals[CROSS], cross_of(loads), seen)


def _causes(
    world: World, key: str, angles: Vector, stands: Mapping[str, float], foreseen: Mapping[str, float]
) -> Iterator[tuple[str, Vector]]:
    """What of toe and camber comes of counting a new end on, and of a height other than foreseen. [rad]"""
    if key in world.turns_on:
        wheel = world.wheel(key)
        as_before = replace(wheel, rod=wheel.rod - world.counted(key))
        yield COUNT, wheel.angles(-stands[key]) - as_before.angles(-stands[key])
    if key in foreseen and key in world.new_springs:
        yield FORESEEN, angles - world.angles(key, {**stands, key: foreseen[key]})


def _row(
    wheel: str,
    name: str,
    wanted: float | None,
    truth: float,
    seen: Mapping[str, Seen],
    causes: Mapping[str, float] | None = None,
) -> Row:
    last = seen.get(f"{wheel}.{name}")
    told = Row(wheel, name, UNITS[name], wanted, truth, last.value if last else None, ())
    if wanted is None:
        return told
    shares = []
    if last:
        shares.append(Share(READING, -(last.value - last.truth)))
        if not last.settled:
            shares.append(Share(UNSETTLED, truth - last.truth))
    # What was turned to a later reading has taken the count and the height with it.
    if last is None or not last.turned:
        shares += [Share(cause, by) for cause, by in (causes or {}).items()]
    left = truth - wanted - sum(share.value for share in shares)
    return replace(told, shares=(*shares, Share(TURNS if last else UNREAD, left)))
