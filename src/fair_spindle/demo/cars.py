"""The invented cars of the sample workshop: between them, an axle of every layout."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import dist
from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.fields.field import Field
from fair_spindle.core.joblog.log import Act, Entered, Fastener, Listed
from fair_spindle.core.joblog.mirror import mirrored
from fair_spindle.demo.desk import Desk
from fair_spindle.demo.joints import joints
from fair_spindle.jobs.cars import CarCreate, PartCreate, add_car, shelve_part
from fair_spindle.records.database import Database

_SHEET = "Brannock workshop sheet 7 (invented for the demo)"
_CARS = {
    "ossel": ("Tarvane Ossel 1.6, 2009", "strut", "trailing_lateral", 2560, "1190", "61"),
    "halm": ("Orrowby Halm 1.9, 2011", "strut", "twist_beam", 2610, "1265", "60"),
    "rill": ("Brannock Rill 3.0, 1994", "double_wishbone", "semi_trailing", 2670, "1385", "52"),
    "cragg": ("Hadlin Cragg 2.8, 2003", "solid_leaf", "solid_links", 2740, "1980", "54"),
    "vessik": ("Quenlow Vessik 2.2, 2014", "strut", "five_link", 2775, "1457", "56"),
}
_ARM_LENGTHS = {
    "lower": "332", "upper": "248", "tie": "365", "arm": "410", "beam": "455", "trailing": "430", "leaf": "1210",
    "shackle": "96", "lower_link": "640", "upper_link": "520", "panhard": "905", "drag": "780",
}  # fmt: skip
_POINTS = {
    "front.left.point.upper_front": (165, 452, 318),
    "front.left.point.upper_rear": (-92, 448, 311),
    "front.left.point.upper_ball": (-14, 668, 330),
    "front.left.point.lower_front": (182, 382, -58),
    "front.left.point.lower_rear": (-168, 384, -52),
    "front.left.point.lower_ball": (6, 716, -86),
    "front.left.point.tie_inner": (-138, 396, -22),
    "front.left.point.tie_outer": (-126, 690, -42),
    "front.left.point.wheel_center": (0, 752, 0),
    "rear.left.point.arm_inner": (-2322, 168, -62),
    "rear.left.point.arm_outer": (-2262, 512, -54),
    "rear.left.point.wheel_center": (-2670, 738, 0),
}
_CRAGG_POINTS = {
    "front.left.point.leaf_front": (560, 432, -40),
    "front.left.point.leaf_rear": (-610, 432, 20),
    "front.left.point.shackle_top": (-640, 432, 112),
    "front.left.point.axle_seat": (0, 432, -52),
    "front.left.point.wheel_center": (0, 745, 0),
    "rear.left.point.lower_body": (-2100, 418, -42),
    "rear.left.point.lower_axle": (-2738, 520, -66),
    "rear.left.point.upper_body": (-2262, 296, 118),
    "rear.left.point.upper_axle": (-2702, 338, 131),
    "rear.left.point.panhard_end": (-2862, 486, 14),
    "rear.left.point.wheel_center": (-2740, 748, 0),
}
_HALM_POINTS = {
    "rear.left.point.beam_pivot": (-2190, 566, 18),
    "rear.left.point.cross_beam": (-2330, 472, 30),
    "rear.left.point.wheel_center": (-2610, 739, 0),
}
_VESSIK_POINTS = {
    "front.left.point.strut_top": (-20, 571, 545),
    "front.left.point.strut_low": (4, 622, 100),
    "front.left.point.lower_front": (14, 382, -120),
    "front.left.point.lower_rear": (-289, 374, -114),
    "front.left.point.lower_ball": (18, 695, -151),
    "front.left.point.tie_inner": (-127, 337, -57),
    "front.left.point.tie_outer": (-133, 674, -67),
    "front.left.point.wheel_center": (0, 741, 0),
    "rear.left.point.upper_front_inner": (-2677, 431, 111),
    "rear.left.point.upper_front_outer": (-2750, 660, 138),
    "rear.left.point.upper_rear_inner": (-2899, 421, 129),
    "rear.left.point.upper_rear_outer": (-2825, 656, 138),
    "rear.left.point.lower_front_inner": (-2670, 332, -95),
    "rear.left.point.lower_front_outer": (-2743, 695, -111),
    "rear.left.point.lower_rear_inner": (-2911, 295, -87),
    "rear.left.point.lower_rear_outer": (-2842, 701, -107),
    "rear.left.point.tie_inner": (-2979, 339, -65),
    "rear.left.point.tie_outer": (-2953, 695, -76),
    "rear.left.point.wheel_center": (-2775, 750, 0),
}
_DRAWN = {"rill": _POINTS, "cragg": _CRAGG_POINTS, "halm": _HALM_POINTS, "vessik": _VESSIK_POINTS}


def fill_cars(database: Database) -> dict[str, str]:
    """Make the cars; their ids by short name."""
    ids = {name: str(uuid5(NAMESPACE_URL, f"demo/car/{name}")) for name in _CARS}
    for name, (car, front, rear, *numbers) in _CARS.items():
        add_car(database, CarCreate(id=ids[name], car=car, front_layout=front, rear_layout=rear))
        desk = Desk(database, ids[name], car=True)
        desk.write(*_whole_car(*numbers), *_kinds(name))  # type: ignore[arg-type]
        desk.write(*_numbers(desk, _DRAWN.get(name, {})))
    rill = Desk(database, ids["rill"], car=True)
    rill.write(*_points(_DRAWN["rill"]), _fasteners(), *joints())
    Desk(database, ids["cragg"], car=True).write(
        *_points(_CRAGG_POINTS), Entered("rear.panhard_body", choice="right")
    )
    Desk(database, ids["cragg"], car=True).write(*_lifted())
    rill.write(*_threaded())
    Desk(database, ids["halm"], car=True).write(*_points(_HALM_POINTS))
    Desk(database, ids["vessik"], car=True).write(*_points(_VESSIK_POINTS), *_wanted())
    shelf = (("rill", "front.left.upper", "Fixed upper arm, lined"), ("halm", "front.spring", "Halm front springs"))
    for number, (car, prefix, label) in enumerate(shelf):
        part_id = str(uuid5(NAMESPACE_URL, f"demo/part/{number}"))
        shelve_part(database, PartCreate(id=part_id, name=label, car_id=ids[car], prefix=prefix))
    return ids


def _whole_car(wheelbase: int, weight: str, share: str) -> Iterator[Act]:
    loads = {"total": Typed(weight, "kgf"), "share": Typed(share, "pct")}
    yield Entered("car.wheelbase", "typed", {"value": Typed(str(wheelbase), "mm")})
    yield Entered("car.loads", "total_and_share", loads)
    for axle, track in (("front", "1486"), ("rear", "1478")):
        yield Entered(f"{axle}.track", "typed", {"value": Typed(track, "mm")})
        yield Entered(f"{axle}.pressure", "typed", {"value": Typed("2.3", "bar")})


def _kinds(name: str) -> Iterator[Act]:
    yield Entered("front.steer", choice="ahead" if name == "rill" else "behind")
    if name == "cragg":
        yield Entered("front.linkage", choice="drag_link")
        yield Entered("front.tie.adjust", choice="sleeve")
        yield Entered("front.drag.adjust", choice="one_thread")
        yield Entered("front.drag.longer", choice="right")
        yield Entered("rear.panhard.adjust", choice="one_thread")
    if name == "vessik":
        for side in ("left", "right"):
            yield Entered(f"front.{side}.tie.adjust", choice="one_thread")
            yield Entered(f"rear.{side}.tie.adjust", choice="one_thread")
            yield Entered(f"rear.{side}.upper_front.adjust", choice="one_thread")
    yield Entered("front.spring.kind", choice={"cragg": "leaf", "rill": "coilover"}.get(name, "coil"))
    yield Entered("rear.spring.kind", choice="coilover" if name in ("vessik", "rill") else "coil")
    yield Entered("front.bar.fitted", choice="fixed_links")


def _numbers(desk: Desk, drawn: Mapping[str, tuple[int, int, int]]) -> Iterator[Act]:
    """A length, a rise and bushings for every arm of the car, and its springs; lengths as drawn where points are."""
    for key, asked in desk.now.sheet.fields.items():
        act = _number_of(key, asked, drawn)
        if act:
            yield act


def _number_of(key: str, asked: Field, drawn: Mapping[str, tuple[int, int, int]]) -> Act | None:
    arm, _, name = asked.name.partition(".")
    if name == "length" and arm != "bar":
        ends = [drawn.get(f"{asked.axle}.left.point.{arm}_{end}") for end in ("inner", "outer")]
        if ends[0] and ends[1]:
            return _typed(key, f"{dist(ends[0], ends[1]):.1f}", "mm")
        return _typed(key, _ARM_LENGTHS.get(arm, "318"), "mm")
    if name == "rise":
        return _typed(key, "-12" if asked.side == "right" else "-14", "mm")
    if name.startswith("bush_"):
        return Entered(key, choice="spherical" if arm == "upper" and name == "bush_rear" else "bonded_rubber")
    known = {
        "spring.rate": ("28", "n_per_mm"),
        "spring.free": ("385", "mm"),
        "motion_ratio": ("0.96", "spring_per_wheel"),
        "bar.diameter": ("22", "mm"),
    }
    return _typed(key, *known[asked.name]) if asked.name in known else None


def _typed(key: str, text: str, unit: str) -> Entered:
    return Entered(key, "typed", {"value": Typed(text, unit)})


def _points(at_left: dict[str, tuple[int, int, int]]) -> list[Entered]:
    left = [
        Entered(key, "point", {axis: Typed(str(size), "mm") for axis, size in zip("xyz", at, strict=True)})
        for key, at in at_left.items()
    ]
    return [*left, *mirrored(left, "left", "right")]


def _wanted() -> Iterator[Act]:
    """Lower at both ends, less camber at the rear, a little toe-in all round."""
    yield _typed("car.steering_ratio", "15.2", "ratio")
    yield _typed("rear.apart.camber", "20", "min")
    for axle, change, toe, camber in (("front", "-27", "5", None), ("rear", "-20", "8", "-1.3")):
        yield _typed(f"{axle}.height_change", change, "mm")
        for side in ("left", "right"):
            yield _typed(f"{axle}.{side}.target.toe", toe, "min")
            if camber:
                yield _typed(f"{axle}.{side}.target.camber", camber, "deg")


def _threaded() -> Iterator[Act]:
    """A car with threaded seats all round and a bar of three holes, ready for the bench."""
    for axle in ("front", "rear"):
        yield _typed(f"{axle}.spring.perch_pitch", "2", "pitch_mm")
        yield _typed(f"{axle}.perch.upper", "52", "mm")
        yield _typed(f"{axle}.perch.lowest", "128", "mm")
        yield _typed(f"{axle}.perch.thread", "110", "mm")
    yield _typed("front.bar.length", "860", "mm")
    for hole, arm in (("1", "252"), ("2", "224"), ("3", "198")):
        yield _typed(f"front.bar.hole_{hole}", arm, "mm")
    yield _typed("front.bar.link", "126", "mm")
    yield _typed("front.bar.link_ratio", "0.62", "ratio")


def _lifted() -> Iterator[Act]:
    """A solid axle car that goes up: its steering rods, and how much."""
    yield _typed("car.steering_ratio", "17", "ratio")
    yield _typed("front.height_change", "45", "mm")
    yield _typed("front.tie.lever", "152", "mm")
    yield _typed("front.drag.lever", "158", "mm")
    yield _typed("front.drag.rise", "-70", "mm")
    yield from (_typed(f"front.{side}.target.toe", "3", "min") for side in ("left", "right"))


def _fasteners() -> Listed:
    places = tuple(
        Fastener(
            f"rear-subframe-{number}", "Rear subframe to body", number, "rear", "left" if number % 2 else "right",
            14.0, 1.5, 92.0, "10.9", "Socket 21", Typed("108", "nm"), "dry", number > 2, _SHEET,
        )
        for number in range(1, 5)
    )  # fmt: skip
    taper = Fastener(
        "front-upper-ball", "Upper ball joint, castle nut", 1, "front", "left", 12.0, 1.25, 0.0, "8.8", "Socket 19",
        Typed("44", "lb_ft"), "dry", False, _SHEET,
    )  # fmt: skip
    return Listed((*places, taper), "the sample workshop")
