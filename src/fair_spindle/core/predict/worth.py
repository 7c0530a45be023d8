"""What one more reading of a wheel's geometry would be worth: the ± it leaves, for its minutes."""

from __future__ import annotations

from collections.abc import Iterator
from math import hypot

from fair_spindle.core.basics.errors import NoSolution
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.measures import measures_of
from fair_spindle.core.predict.geometry import AT_OTHER_HEIGHT, Wheel
from fair_spindle.core.predict.linkage_fit import MODEL, Row, points_of, spread_of, worth_of
from fair_spindle.core.predict.turn_effect import rod_of, steering_link

# How far away toe and camber are read again [mm], and the share of the ± that must go for a reading to be told.  The
# product's own.
ANOTHER, WORTH_READING = 30.0, 0.8
# Travel below which a wheel stands where it was read. [mm]
STAYS = 1.0
# What an ordinary reading leaves open, standard: a tape along a lever or an arm, points, a swept bump steer.
TAPE, BY_POINTS, SWEPT = 1.75, 2.0, to_core(0.7, "min_per_10mm")
# What a helper, a tape and a jack take. [min]
MINUTES = {"lever": 1, "arms": 5, "swept": 10, "heights": 12, "points": 40}
PER_MINUTE = 0.25


@value_object
class Worth:
    """One way to be surer: how, the fields to fill, in how many minutes [min], and the ± of toe and camber at the end
    of the work, now and then [rad]; ``turns`` the same of the turns of its rod, where it has one. [turn]
    """

    said: str
    fields: tuple[str, ...]
    minutes: int
    toe: tuple[float, float]
    camber: tuple[float, float]
    turns: tuple[float, float] | None = None

    @property
    def left(self) -> float:
        """The least share of a ± that is left."""
        return min((then / now for now, then in (self.toe, self.camber) if now > 0), default=1.0)


def worth_of_readings(wheel: Wheel, turned: float, read: float | None = None) -> list[Worth]:
    """Readings that would narrow what is said of a wheel, first those that narrow it most for their minutes.

    ``turned`` is by how much the rod that sets its toe is still to be made longer [mm]; ``read`` the ± of its toe
    where it was read after the work [rad]: then nothing but what a turn does is open.  Empty where the wheel stays
    where it was read and nothing is turned on it, or no reading would bring much.
    """
    if wheel.corner is None or wheel.doubtful.cloud is None:
        return []
    try:
        found = [_worth(wheel, turned, read, *way) for way in _ways(wheel, moves=read is None)]
    except NoSolution:
        return []
    worth = [one for one in found if one.left < WORTH_READING]
    return sorted(worth, key=lambda one: one.left * one.minutes**PER_MINUTE)


def _worth(
    wheel: Wheel, turned: float, read: float | None, said: str, fields: tuple[str, ...], minutes: int, rows: list[Row]
) -> Worth:
    corner, cloud = wheel.corner, wheel.doubtful.cloud
    assert corner is not None
    assert cloud is not None
    wanted = [Row("", kind, wheel.travel, 0.0, 1.0) for kind in ("toe", "camber")]
    rod = rod_of(wheel)
    if rod is None:
        toe, camber = (pair for pair in zip(*worth_of(corner, cloud, rows, wanted), strict=True))
        return Worth(said, fields, minutes, toe, camber)
    kind = f"{steering_link(corner)}.lever"
    lever = spread_of(corner, cloud, kind)[0]
    toe, camber, levers = zip(*worth_of(corner, cloud, rows, [*wanted, Row("", kind, 0.0, 0.0, 1.0)]), strict=True)
    # What is turned goes wrong by as much as the lever it is turned by; a thread nobody told stays open all the same.
    stands = toe if read is None else (read, read)
    thread = 2 * rod.turn_open / rod.per_turn * abs(turned) / lever
    open_ = [hypot(now, turned * by / lever**2, thread) for now, by in zip(stands, levers, strict=True)]
    ends = (open_[0], open_[1])
    turns = (ends[0] * lever / rod.per_turn, ends[1] * lever / rod.per_turn)
    return Worth(said, fields, minutes, ends, camber, turns)


def _ways(wheel: Wheel, *, moves: bool) -> Iterator[tuple[str, tuple[str, ...], int, list[Row]]]:
    """What could be read of a wheel that was not: in words, its fields, minutes, and what it would tell."""
    corner, cloud, key = wheel.corner, wheel.doubtful.cloud, wheel.key
    assert corner is not None
    assert cloud is not None
    side, read = key.split(".")[1], {name for name, _ in cloud.sources}
    measures = measures_of(corner.kind)
    if wheel.depth == "points":
        measures = ()
    for link in filter(None, [steering_link(corner)]):
        name = f"{link}.lever"
        if name in measures and f"{side} {link.replace('_', ' ')} lever" not in read:
            yield (
                "The steering lever, by tape",
                (f"{key}.{name}",),
                MINUTES["lever"],
                [Row(name, name, 0.0, 0.0, TAPE)],
            )
    if not moves or abs(wheel.travel) < STAYS:
        return
    taped = [
        name
        for name in measures
        if name.endswith((".length", ".rise")) and f"{side} {name.replace('.', ' ').replace('_', ' ')}" not in read
    ]
    if taped:
        rows = [Row(name, name, 0.0, 0.0, TAPE) for name in taped]
        yield (
            "Length and rise of arms and rods, by tape",
            tuple(f"{key}.{one}" for one in taped),
            MINUTES["arms"],
            rows,
        )
    if f"{side} bump steer" not in read:
        row = Row("", "toe_slope", 0.0, 0.0, SWEPT)
        yield "Bump steer, toe read at two heights", (f"{key}.bump_slope",), MINUTES["swept"], [row]
    if not any(name.startswith(f"{side} toe at") for name in read):
        rows = [
            Row(kind, kind, travel, 0.0, hypot(AT_OTHER_HEIGHT[kind], MODEL))
            for travel in (-ANOTHER, ANOTHER)
            for kind in AT_OTHER_HEIGHT
        ]
        said = f"Toe and camber with the body {ANOTHER:.0f} mm lower and {ANOTHER:.0f} mm higher"
        yield said, (f"{key}.angles_lower", f"{key}.angles_higher"), MINUTES["heights"], rows
    if wheel.depth != "points":
        points = points_of(corner)
        rows = [Row(f"{one} {axis}", f"point.{one}.{axis}", 0.0, 0.0, BY_POINTS) for one in points for axis in "xyz"]
        fields = tuple(f"{key}.point.{name}" for name in ("wheel_center", *points))
        yield "The points of the wheel", fields, MINUTES["points"], rows
