"""Invented jobs: one being measured, one measured all round, one on the stands, one signed.

Cars, parts, sources and numbers are made up for the demo; the torque values belong to cars
that do not exist and must not be used on any that does.
"""

from __future__ import annotations

from collections.abc import Iterable
from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.floor.log import (
    Act,
    Counted,
    Entered,
    HeightRead,
    Moved,
    Noted,
    Settled,
    Signed,
    Specified,
    Stepped,
    Tightened,
    Turned,
    Typed,
)
from fair_spindle.core.outlook.corners import corners_of, plans_of
from fair_spindle.core.planning.align import ALIGN
from fair_spindle.core.planning.front_strut import FRONT_STRUT
from fair_spindle.core.planning.kinds import WORK
from fair_spindle.core.planning.measure import MEASURE
from fair_spindle.core.planning.template import SIDES, JobTemplate, Side, Stage
from fair_spindle.core.planning.whole_car import SPRINGS
from fair_spindle.core.threads import FLAT
from fair_spindle.demo.bench import GAUGES, fill_bench
from fair_spindle.demo.cars import fill_cars
from fair_spindle.demo.desk import Desk
from fair_spindle.demo.entering import enter, enter_camber, enter_heights, enter_toe
from fair_spindle.demo.order import fill_order
from fair_spindle.demo.settled import fill_settled
from fair_spindle.jobs.book import start_job
from fair_spindle.jobs.models import JobCreate
from fair_spindle.records.database import Database

SOURCE = "Orrowby shop sheet F-12 (invented for the demo)"
_SPECS = {
    "wheel": ("105", "nm", 12.0, 1.5, ""),
    "link": ("48", "nm", 10.0, 1.5, "8.8"),
    "arm_front": ("88", "nm", 12.0, 1.25, "10.9"),
    "arm_rear": ("96", "nm", 12.0, 1.25, "10.9"),
    "jam": ("52", "nm", 14.0, 1.5, "8.8"),
    "tie_end": ("41", "nm", 12.0, 1.25, "8.8"),
    "strut_clamp": ("70", "lb_ft", 12.0, 1.25, "10.9"),
    "strut_top": ("24", "nm", 8.0, 1.25, "8.8"),
    "centre": ("55", "nm", 12.0, 1.25, "10.9"),
}
_LOWER = ("strut_top", "strut_clamp", "link", "arm_front", "arm_rear")
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


def fill(database: Database) -> None:
    """Make the sample workshop: instruments, cars, and jobs on some of them."""
    fill_bench(database)
    cars = fill_cars(database)
    _measuring(_desk(database, "measuring", "Front springs, tie-rod ends", cars["ossel"]))
    _measured(_desk(database, "measured", "Baseline before the five-link arms", cars["vessik"], MEASURE))
    _hanging(_desk(database, "hanging", "Front springs 27 mm lower", cars["halm"]))
    fill_settled(_desk(database, "settled", "Lowered all round, read again", cars["vessik"], ALIGN))
    _aligned(_desk(database, "aligned", "Rear camber and toe links", cars["vessik"], ALIGN))
    _coilovers(_desk(database, "coilovers", "Coilovers with helper springs", cars["rill"], SPRINGS))
    _finished(_desk(database, "finished", "Springs and tie-rod ends, front", cars["vessik"]))
    fill_order(_desk(database, "ordered", "Front arms, bar and tie-rod ends", cars["rill"], WORK))


def _desk(database: Database, name: str, title: str, car_id: str, kind: JobTemplate = FRONT_STRUT) -> Desk:
    job_id = str(uuid5(NAMESPACE_URL, f"demo/{name}"))
    start_job(database, JobCreate(id=job_id, title=title, car="-", car_id=car_id, template=kind.key))  # type: ignore[arg-type]
    return Desk(database, job_id)


def baseline() -> list[Act]:
    """A whole baseline for both front corners, on a settled car."""
    acts: list[Act] = [Settled(), Entered("front.steer", choice="behind")]
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


def specifications() -> list[Act]:
    """Every fastener group's invented specification."""
    return [
        Specified(group, Typed(text, unit), SOURCE, diameter, pitch, grade)  # type: ignore[arg-type]
        for group, (text, unit, diameter, pitch, grade) in _SPECS.items()
    ]


def done(*steps: str) -> list[Act]:
    """Steps done."""
    return [Stepped(step) for step in steps]


def bring(group: str, *stages: Stage, sides: Iterable[Side] = SIDES) -> list[Act]:
    """Bring a group through stages at the given sides; final torque reads what is specified."""
    text, unit = _SPECS[group][:2]
    places = FRONT_STRUT.group(group)
    return [
        Tightened(places.places(side), stage, Typed(text, unit) if stage == "torqued" else None)
        for stage in stages
        for side in sides
    ]


def to_the_stands() -> list[Act]:
    """From the settled car to old ends counted off."""
    return [
        *done("baseline", "straight", "compare", "crack"),
        Moved("hanging"),
        *done("raise", "wheels_off", "wires", "links", "arms_slack", "tapers"),
        Counted("left", "off", 6 * 21 + 2),
        Counted("right", "off", 6 * 20 + 5),
        *done("count_off"),
    ]


def ends_to_snug(on: dict[Side, int]) -> list[Act]:
    """From new ends on to everything snug."""
    return [
        *bring("jam", "hand"),
        *(Counted(side, "on", flats) for side, flats in on.items()),
        *done("ends_on"),
        *bring("tie_end", "hand", "snug", "torqued"),
        *done("taper_torque", "struts_out"),
        *bring("centre", "hand", "snug", "torqued"),
        *done("springs"),
        *(
            act
            for group in ("strut_top", "strut_clamp", "link", "arm_front", "arm_rear")
            for act in bring(group, "hand")
        ),
        *done("by_hand"),
        *(
            act
            for group in ("strut_top", "strut_clamp", "link", "arm_front", "arm_rear")
            for act in bring(group, "snug")
        ),
        *done("snug"),
        *bring("strut_top", "torqued"),
        *bring("strut_clamp", "torqued"),
        *done("torque_hanging", "wires_back"),
        *bring("wheel", "hand", "snug"),
        *done("wheels_on"),
    ]


def clamp(side: Side, height: str) -> list[Act]:
    """Carry a corner, read it, clamp its arm."""
    return [
        Moved("corner_carried", side),
        HeightRead(side, Typed(height, "mm")),
        *bring("arm_front", "torqued", sides=(side,)),
        *bring("arm_rear", "torqued", sides=(side,)),
        *done(f"clamp_{side}"),
    ]


def down_and_checked() -> list[Act]:
    """From the stands to the road test."""
    return [
        Moved("on_wheels"),
        *done("lower"),
        *bring("wheel", "torqued"),
        *done("wheel_torque"),
        *bring("link", "torqued"),
        *done("link_torque"),
        Settled(),
        enter_heights("front.left.check_height", ("347", "348", "348")),
        enter_heights("front.right.check_height", ("344", "345", "344")),
        enter_toe("front.left.check_toe", "7"),
        enter_toe("front.right.check_toe", "6"),
        *done("measure"),
        *bring("jam", "snug", "torqued"),
        *done("jams", "road", "after"),
    ]


def _measuring(desk: Desk) -> None:
    desk.write(*baseline()[:10], enter_toe("front.left.toe", "0°06'", "deg"))


def _measured(desk: Desk) -> None:
    """Four corners of a five-link car, read with the workshop's gauges; one reading is out of line."""
    level, height = GAUGES["level"], GAUGES["height"]
    desk.write(Settled(), *done("settle"), Entered("car.wheel_straight", choice="straight"))
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
    desk.write(Settled(), *done("settle"), enter("car.odometer", "129050", "km"))
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
    desk.write(*done("walk", "mark"), Moved("hanging"), *done("raise", "open"))
    desk.write(Turned("rear.left", "Upper front link", 4))


def _coilovers(desk: Desk) -> None:
    """Read all round and on four scales; coilovers chosen for both axles, heights wanted."""
    desk.write(Settled(), *done("settle"), enter("car.odometer", "204310", "km"))
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
    desk.write(enter("front.bar.gap", "6", "mm"), *done("walk", "bench"))


def _planned_flats(desk: Desk) -> dict[Side, int]:
    plans = plans_of(corners_of(desk.state, desk.now.readings))
    return {side: round(plan.turns.set_turns / FLAT) for side, plan in plans.items() if plan.turns}


def _hanging(desk: Desk) -> None:
    desk.write(*baseline(), *specifications(), *to_the_stands())
    desk.write(*ends_to_snug(_planned_flats(desk)))
    desk.write(Noted("Right outer boot is dry: look again next year.", "wires_back"))
    desk.write(Moved("corner_carried", "left"), HeightRead("left", Typed("352", "mm")))


def _finished(desk: Desk) -> None:
    desk.write(*baseline(), *specifications(), *to_the_stands())
    desk.write(*ends_to_snug(_planned_flats(desk)))
    desk.write(*clamp("left", "344"), *clamp("right", "341"), *down_and_checked(), Signed("R. Sample"))
