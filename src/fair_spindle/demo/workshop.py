"""Invented jobs: one being measured, one measured all round, one on the stands, one signed.

Cars, parts, sources and numbers are made up for the demo; the torque values belong to cars
that do not exist and must not be used on any that does.
"""

from __future__ import annotations

from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import Act, Entered, HeightRead, Moved, Noted, Settled, Signed, Stepped, Turned
from fair_spindle.core.planning.procedure import Brief, Compared, Fitting
from fair_spindle.demo.bench import GAUGES, fill_bench
from fair_spindle.demo.cars import fill_cars
from fair_spindle.demo.desk import Desk
from fair_spindle.demo.entering import enter, enter_camber, enter_heights, enter_toe
from fair_spindle.demo.following import follow, specify, take
from fair_spindle.demo.order import fill_order
from fair_spindle.demo.settled import fill_settled
from fair_spindle.jobs.book import start_job
from fair_spindle.jobs.models import JobCreate
from fair_spindle.records.database import Database

_HAND = {"hand": Compared("left, right", "left, right")}
FRONT = Brief((Fitting("springs", "front"), Fitting("tie_rods", "front", compared=_HAND)))
ALIGN = Brief((Fitting("align", "front"), Fitting("align", "rear")))
MEASURE = Brief((Fitting("measure"),))
SPRINGS = Brief((Fitting("springs", "front"), Fitting("springs", "rear")))
_AXLE = {
    "motion_ratio": ("1.04", "wheel_per_spring"),
    "spring.rate": ("28", "n_per_mm"),
    "spring.free": ("385", "mm"),
    "new_spring.rate": ("195", "lbf_per_in"),
    "new_spring.free": ("338", "mm"),
}
_SIDE = {
    "tie.pitch": ("1.5", "pitch_mm"),
    "tie.end": ("84", "mm"),
    "new_end.length": ("87,5", "mm"),
    "tie.engagement": ("21", "mm"),
    "tie.lever": ("118", "mm"),
    "lower.length": ("332", "mm"),
}
_LEFT = {"sprung_load": ("3210", "n"), "lower.rise": ("-14", "mm")}
_RIGHT = {"sprung_load": ("322", "kgf"), "lower.rise": ("-12", "mm")}
_CAMBERS = {"left": ("-0°35'", "deg"), "right": ("-0,7", "deg")}
_HEIGHTS = {"left": ("372", "373", "372"), "right": ("368", "370", "369")}
_COUNTED_OFF = {"left": "21 2/6", "right": "20 5/6"}


def fill(database: Database) -> None:
    """Make the sample workshop: instruments, cars, and jobs on some of them."""
    fill_bench(database)
    cars = fill_cars(database)
    _measuring(_desk(database, "measuring", "Front springs, tie-rod ends", cars["ossel"], FRONT))
    _measured(_desk(database, "measured", "Baseline before the five-link arms", cars["vessik"], MEASURE))
    _hanging(_desk(database, "hanging", "Front springs 27 mm lower", cars["halm"], FRONT))
    fill_settled(_desk(database, "settled", "Lowered all round, read again", cars["vessik"], ALIGN))
    _aligned(_desk(database, "aligned", "Rear camber and toe links", cars["vessik"], ALIGN))
    _coilovers(_desk(database, "coilovers", "Coilovers with helper springs", cars["rill"], SPRINGS))
    _finished(_desk(database, "finished", "Springs and tie-rod ends, front", cars["ossel"], FRONT))
    fill_order(_desk(database, "ordered", "Front arms, bar and tie-rod ends", cars["rill"], None))


def _desk(database: Database, name: str, title: str, car_id: str, brief: Brief | None) -> Desk:
    job_id = str(uuid5(NAMESPACE_URL, f"demo/{name}"))
    start_job(database, JobCreate(id=job_id, title=title, car="-", car_id=car_id))
    desk = Desk(database, job_id)
    if brief:
        take(desk, brief)
    return desk


def baseline() -> list[Act]:
    """A whole baseline for both front corners, on a settled car."""
    acts: list[Act] = [
        Settled(),
        Entered("front.steer", choice="behind"),
        Entered("front.new_spring.fit", choice="coil"),
        Entered("car.wheel_straight", choice="straight"),
    ]
    acts += [enter(f"front.{name}", *typed) for name, typed in _AXLE.items()]
    for side, own in (("left", _LEFT), ("right", _RIGHT)):
        acts.append(enter_heights(f"front.{side}.height", _HEIGHTS[side]))
        acts += [Entered(f"front.{side}.lower.bush_{place}", choice="bonded_rubber") for place in ("front", "rear")]
        acts += [enter(f"front.{side}.{name}", *typed) for name, typed in {**_SIDE, **own}.items()]
        acts.append(enter_camber(f"front.{side}.camber", *_CAMBERS[side]))
    strings = {"front": Typed("51.4", "mm"), "rear": Typed("50.2", "mm"), "across": Typed("640", "mm")}
    two = {
        "height_1": Typed("369", "mm"),
        "toe_1": Typed("7", "min"),
        "height_2": Typed("341", "mm"),
        "toe_2": Typed("-1", "min"),
    }
    slope = {"slope": Typed("-3", "min_per_10mm")}
    return [
        *acts,
        enter_toe("front.left.toe", "0°06'", "deg"),
        Entered("front.right.toe", "strings", strings),
        Entered("front.left.bump_slope", "typed", slope),
        Entered("front.right.bump_slope", "two_heights", two),
    ]


def _measuring(desk: Desk) -> None:
    desk.write(*baseline()[:10], enter_toe("front.left.toe", "0°06'", "deg"))


def _measured(desk: Desk) -> None:
    """Four corners of a five-link car, read with the workshop's gauges; one reading is out of line."""
    level, height = GAUGES["level"], GAUGES["height"]
    desk.write(Settled(), Stepped("settle"), Entered("car.wheel_straight", choice="straight"))
    desk.write(enter("car.odometer", "128400", "km"))
    for corner, heights, toe, camber in (
        ("front.left", ("371.4", "371.9", "371.6"), "6", "-0.60"),
        ("front.right", ("368.7", "369.2", "368.9"), "5", "-0.70"),
        ("rear.right", ("363.8", "363.5", "364.1"), "10", "-1.40"),
        ("rear.left", ("365.0", "365.6", "365.1"), "8", "-0.70"),
    ):
        desk.write(
            enter_heights(f"{corner}.height", heights, height),
            enter_toe(f"{corner}.toe", toe),
            enter_camber(f"{corner}.camber", camber, gauge=level),
        )
    for side, out, back in (("left", "0.45", "-1.80"), ("right", "0.40", "-1.95")):
        swept = {"out": Typed(out, "deg"), "in": Typed(back, "deg"), "steer": Typed("20", "deg")}
        desk.write(Entered(f"front.{side}.caster", "sweep", swept, gauge=level))


def _aligned(desk: Desk) -> None:
    """Read all round, raised, and half turned."""
    desk.write(Settled(), Stepped("settle"), enter("car.odometer", "129050", "km"))
    desk.write(Entered("car.wheel_straight", choice="straight"))
    for corner, height, toe, camber in (
        ("front.left", "371.5", "6", "-0.62"),
        ("front.right", "369.0", "5", "-0.70"),
        ("rear.right", "363.9", "10", "-1.40"),
        ("rear.left", "365.1", "8", "-1.34"),
    ):
        desk.write(
            enter_heights(f"{corner}.height", (height,), GAUGES["height"]),
            enter_toe(f"{corner}.toe", toe),
            enter_camber(f"{corner}.camber", camber, gauge=GAUGES["level"]),
        )
    for side in ("left", "right"):
        desk.write(Entered(f"front.{side}.caster", "angle", {"value": Typed("3.4", "deg")}))
    follow(desk, {}, until="align.turn@front.left")
    desk.write(Turned("rear.left", "Upper front link", 4))


def _coilovers(desk: Desk) -> None:
    """Read all round and on four scales; coilovers chosen for both axles, heights wanted."""
    desk.write(Settled(), Stepped("settle"), enter("car.odometer", "204310", "km"))
    desk.write(Entered("car.wheel_straight", choice="straight"))
    scales = {"front_left": "368", "front_right": "352", "rear_left": "331", "rear_right": "334"}
    desk.write(Entered("car.loads", "four_scales", {name: Typed(text, "kgf") for name, text in scales.items()}))
    for corner, height, toe, camber, damper in (
        ("front.left", "358.5", "5", "-0.55", "421"),
        ("front.right", "356.0", "4", "-0.60", "420"),
        ("rear.right", "352.5", "9", "-1.55", "438"),
        ("rear.left", "354.0", "8", "-1.50", "439"),
    ):
        desk.write(
            enter_heights(f"{corner}.height", (height,), GAUGES["height"]),
            enter_toe(f"{corner}.toe", toe),
            enter_camber(f"{corner}.camber", camber, gauge=GAUGES["level"]),
            enter(f"{corner}.damper_length", damper, "mm"),
        )
    for side in ("left", "right"):
        desk.write(Entered(f"front.{side}.caster", "angle", {"value": Typed("4.1", "deg")}))
    for axle, main, free, low in (("front", "58", "178", "332"), ("rear", "46", "190", "330")):
        desk.write(
            Entered(f"{axle}.new_spring.fit", choice="stack"),
            *(
                enter(f"{axle}.new_spring.{name}", text, unit)
                for name, text, unit in (
                    ("rate", main, "n_per_mm"), ("free", free, "mm"), ("solid", "78", "mm"),
                    ("helper_rate", "3", "n_per_mm"), ("helper_free", "60", "mm"), ("helper_solid", "14", "mm"),
                    ("ring", "4", "mm"),
                )
            ),
            enter(f"{axle}.new_damper.gas", "180", "n"),
            enter(f"{axle}.new_damper.open", "468", "mm"),
            enter(f"{axle}.new_damper.closed", "322", "mm"),
            enter(f"{axle}.new_damper.stop", "28", "mm"),
        )  # fmt: skip
        for side in ("left", "right"):
            desk.write(
                enter(f"{axle}.{side}.target.height", low, "mm"),
                enter(f"{axle}.{side}.new_seat", "118" if axle == "front" else "108", "mm"),
            )
    desk.write(enter("car.target_cross", "50", "pct"))
    for corner, hose, arch in (
        ("front.left", "432", "262"),
        ("front.right", "436", "262"),
        ("rear.left", "418", "268"),
    ):
        desk.write(enter(f"{corner}.limit.hose", hose, "mm"), enter(f"{corner}.limit.arch", arch, "mm"))
    desk.write(enter("front.bar.gap", "6", "mm"), Stepped("baseline"), Stepped("bench"))


def _hanging(desk: Desk) -> None:
    """Everything snug, the left corner carried for its arm bolt."""
    desk.write(*baseline())
    specify(desk)
    follow(desk, _COUNTED_OFF, until="carry.1")
    desk.write(Noted("Right outer boot is dry: look again next year."))
    desk.write(Moved("corner_carried", "left"), HeightRead("left", Typed("348", "mm")))


def _finished(desk: Desk) -> None:
    """Followed to its end, read again, signed."""
    desk.write(*baseline())
    specify(desk)
    follow(desk, _COUNTED_OFF, loaded={"left": "344", "right": "341"}, check=_CHECK)
    desk.write(Signed("R. Sample"))


_CHECK = (
    *(enter_heights(f"front.{side}.check_height", heights) for side, heights in (
        ("left", ("347", "348", "348")), ("right", ("344", "345", "344")),
    )),
    enter_toe("front.left.check_toe", "7"),
    enter_toe("front.right.check_toe", "6"),
    enter_camber("front.left.check_camber", "-0°55'"),
    enter_camber("front.right.check_camber", "-1,05"),
    Entered("car.check_wheel_straight", choice="straight"),
)  # fmt: skip
