"""Three invented jobs: one being measured, one on the stands, one signed.

Cars, parts, sources and numbers are made up for the demo; the torque values belong to cars
that do not exist and must not be used on any that does.
"""

from __future__ import annotations

from collections.abc import Iterable
from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.floor.corners import corners_of, plans_of
from fair_spindle.core.floor.log import (
    Act,
    Counted,
    Entered,
    Event,
    HeightRead,
    Moved,
    Noted,
    Signed,
    Specified,
    Stepped,
    Tightened,
    Typed,
)
from fair_spindle.core.floor.state import JobState, advance
from fair_spindle.core.planning.front_strut import FRONT_STRUT
from fair_spindle.core.planning.template import SIDES, Side, Stage
from fair_spindle.core.threads import FLAT
from fair_spindle.jobs.book import now_utc, start_job
from fair_spindle.jobs.models import JobCreate
from fair_spindle.jobs.writing import accept
from fair_spindle.records.database import Database
from fair_spindle.records.jobs import append

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
    "old_rate": ("28", "n_per_mm"),
    "old_free": ("385", "mm"),
    "new_rate": ("195", "lbf_per_in"),
    "new_free": ("338", "mm"),
}
_SIDE = {
    "pitch": ("1.5", "pitch_mm"),
    "end_old": ("84", "mm"),
    "end_new": ("87,5", "mm"),
    "min_engagement": ("21", "mm"),
    "lever": ("118", "mm"),
    "arm_length": ("332", "mm"),
}
_LEFT = {"sprung_load": ("3210", "n"), "arm_rise": ("-14", "mm"), "camber": ("-0°35'", "deg")}
_RIGHT = {"sprung_load": ("322", "kgf"), "arm_rise": ("-12", "mm"), "camber": ("-0,7", "deg")}
_HEIGHTS = {"left": ("372", "373", "372"), "right": ("368", "370", "369")}


def fill(database: Database) -> None:
    """Make the three jobs."""
    _measuring(_Desk(database, "measuring", "Front springs, tie-rod ends", "Tarvane Ossel 1.6, 2009"))
    _hanging(_Desk(database, "hanging", "Front springs 27 mm lower", "Orrowby Halm 1.9, 2011"))
    _finished(_Desk(database, "finished", "Springs and tie-rod ends, front", "Quenlow Vessik 2.2, 2014"))


class _Desk:
    """Writes acts into one demo job by the rules of the floor, all in one go."""

    def __init__(self, database: Database, name: str, title: str, car: str) -> None:
        self._database = database
        self._job_id = str(uuid5(NAMESPACE_URL, f"demo/{name}"))
        start_job(database, JobCreate(id=self._job_id, title=title, car=car))
        self._log: list[Event] = []
        self.state = JobState()

    def write(self, *acts: Act) -> None:
        """Write acts in order."""
        fresh = len(self._log)
        for act in acts:
            place = len(self._log) + 1
            accepted = accept(act, self.state, self._log, FRONT_STRUT)
            event = Event(str(uuid5(NAMESPACE_URL, f"{self._job_id}/{place}")), place, now_utc(), accepted)
            self._log.append(event)
            self.state = advance(self.state, event, FRONT_STRUT)
        with self._database.writing() as session:
            append(session, self._job_id, self._log[fresh:])


def enter(key: str, text: str, unit: str) -> Entered:
    """One single-valued field."""
    return Entered(key, "typed", {"value": Typed(text, unit)})


def enter_heights(key: str, readings: Iterable[str]) -> Entered:
    """Repeated hub-to-arch heights."""
    names = ("first", "second", "third")
    return Entered(key, "hub_to_arch", {n: Typed(r, "mm") for n, r in zip(names, readings, strict=False)})


def enter_toe(key: str, text: str, unit: str = "min") -> Entered:
    """Toe as an angle."""
    return Entered(key, "angle", {"toe": Typed(text, unit)})


def baseline() -> list[Act]:
    """A whole baseline for both corners."""
    acts: list[Act] = [Entered("axle.steer", choice="behind"), Entered("axle.bushing", choice="bonded_rubber")]
    acts += [enter(f"axle.{name}", *typed) for name, typed in _AXLE.items()]
    for side, own in (("left", _LEFT), ("right", _RIGHT)):
        acts.append(enter_heights(f"{side}.height", _HEIGHTS[side]))
        acts += [enter(f"{side}.{name}", *typed) for name, typed in {**_SIDE, **own}.items()]
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
        enter_toe("left.toe", "0°06'", "deg"),
        Entered("right.toe", "strings", strings),
        Entered("left.bump_slope", "typed", slope),
        Entered("right.bump_slope", "two_heights", two),
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
        enter_heights("left.check_height", ("347", "348", "348")),
        enter_heights("right.check_height", ("344", "345", "344")),
        enter_toe("left.check_toe", "7"),
        enter_toe("right.check_toe", "6"),
        *done("measure"),
        *bring("jam", "snug", "torqued"),
        *done("jams", "road", "after"),
    ]


def _measuring(desk: _Desk) -> None:
    desk.write(*baseline()[:2], *baseline()[7:14], enter_toe("left.toe", "0°06'", "deg"))


def _planned_flats(desk: _Desk) -> dict[Side, int]:
    plans = plans_of(corners_of(desk.state))
    return {side: round(plan.turns.set_turns / FLAT) for side, plan in plans.items() if plan.turns}


def _hanging(desk: _Desk) -> None:
    desk.write(*baseline(), *specifications(), *to_the_stands())
    desk.write(*ends_to_snug(_planned_flats(desk)))
    desk.write(Noted("Right outer boot is dry: look again next year.", "wires_back"))
    desk.write(Moved("corner_carried", "left"), HeightRead("left", Typed("352", "mm")))


def _finished(desk: _Desk) -> None:
    desk.write(*baseline(), *specifications(), *to_the_stands())
    desk.write(*ends_to_snug(_planned_flats(desk)))
    desk.write(*clamp("left", "344"), *clamp("right", "341"), *down_and_checked(), Signed("R. Sample"))
