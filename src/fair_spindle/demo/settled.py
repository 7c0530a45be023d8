"""The demo's job that came out otherwise: lowered, turned to the plan, settled, read again; the front toe missed."""

from __future__ import annotations

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import Entered, Settled, Stepped
from fair_spindle.demo.bench import GAUGES
from fair_spindle.demo.desk import Desk
from fair_spindle.demo.entering import enter, enter_camber, enter_heights, enter_toe
from fair_spindle.demo.following import follow, turn_to_plan

BEFORE = (
    ("front.left", "370.5", "6", "-0.60"),
    ("front.right", "369.5", "5", "-0.65"),
    ("rear.right", "364.0", "9", "-1.45"),
    ("rear.left", "365.0", "8", "-1.40"),
)
AFTER = (
    ("front.left", "344.5", "19", "-0.95"),
    ("front.right", "343.0", "18", "-1.00"),
    ("rear.right", "345.0", "9", "-1.35"),
    ("rear.left", "346.0", "8", "-1.30"),
)


def fill_settled(desk: Desk) -> None:
    """Read, turn every adjuster to the plan, come down, settle, read again."""
    desk.write(Settled(), Stepped("settle"), enter("car.odometer", "121300", "km"))
    desk.write(Entered("car.wheel_straight", choice="straight"))
    for corner, height, toe, camber in BEFORE:
        desk.write(*_read(corner, "", height, toe, camber))
    for side in ("left", "right"):
        desk.write(Entered(f"front.{side}.caster", "angle", {"value": Typed("3.4", "deg")}))
    follow(desk, {}, until="align.turn@front.left")
    turn_to_plan(desk)
    follow(desk, {}, until="measure")
    for corner, height, toe, camber in AFTER:
        desk.write(*_read(corner, "check_", height, toe, camber))


def _read(corner: str, when: str, height: str, toe: str, camber: str) -> tuple[Entered, ...]:
    return (
        enter_heights(f"{corner}.{when}height", (height,), GAUGES["height"]),
        enter_toe(f"{corner}.{when}toe", toe),
        enter_camber(f"{corner}.{when}camber", camber, gauge=GAUGES["level"]),
    )
