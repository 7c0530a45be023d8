"""The invented joints of the sample workshop: a collar map, a bar bracket, an arm in rubber, a castle nut."""

from __future__ import annotations

from dataclasses import replace

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.bolts.joint_patterns import places_of
from fair_spindle.core.joblog.log import Drawn

_SHEET = "Brannock workshop sheet 7 (invented for the demo)"


def _spec(text: str, unit: str = "nm", **more: object) -> BoltSpec:
    return BoltSpec(torque=Typed(text, unit), source=_SHEET, trust="part_maker", **more)  # type: ignore[arg-type]


def joints() -> list[Drawn]:
    """Every map of the sample car."""
    return [Drawn(one) for one in (_collars(), _bracket(), _arm(), _ball_joint(), _wheel())]


def _collars() -> Joint:
    """Twelve places, each with its own collar, some with another bolt."""
    bolts = []
    for place, (x, y) in enumerate(places_of("rectangle", 12, 940.0, 520.0), start=1):
        small = place in (3, 4, 9, 10)
        bolts.append(
            Bolt(
                place, x, y, "Counterbore up" if place % 2 else "Counterbore down",
                10.0 if small else 14.0, 1.5, 45.0 if small else 92.0, "10.9",
                "Socket 15" if small else "Socket 21", single_use=not small,
                spec=_spec("52") if small else _spec("118"),
            )
        )  # fmt: skip
    return Joint(
        "rear-subframe-collars", "Rear subframe, alignment collars", "clamp", tuple(bolts), "rear", "",
        "star", (40, 100), pattern="rectangle",
    )  # fmt: skip


def _bracket() -> Joint:
    """Two torques, and one place that no wrench reaches."""
    base = Bolt(
        1, 0.0, 0.0, diameter_mm=10.0, pitch_mm=1.25, property_class="8.8", head="Socket 14", spec=_spec("38")
    )
    inner = replace(base, number=2, x_mm=60.0, diameter_mm=8.0, spec=_spec("17.5", "lb_ft"), head="Socket 12")
    hidden = replace(base, number=3, x_mm=120.0, reach="the rack is in the way")
    return Joint("front-bar-bracket", "Front bar bracket, right", "bracket", (base, inner, hidden), "front", "right",
                 "row", pattern="row")  # fmt: skip


def _arm() -> Joint:
    spec = BoltSpec("torque_angle", Typed("70", "nm"), angle_deg=90.0, source=_SHEET, trust="part_maker")
    pivots = tuple(
        Bolt(n, 0.0, 160.0 - 320.0 * (n - 1), note, 14.0, 1.5, 110.0, "10.9", "Socket 21", "21", "the head", spec,
             single_use=True)
        for n, note in ((1, "Front pivot, head forward"), (2, "Rear pivot, head rearward"))
    )  # fmt: skip
    return Joint(
        "front-left-lower-arm", "Front left lower arm, pivots", "rubber_pivot", pivots, "front", "left", "row",
        bushing="bonded_rubber", arm="lower", bush_rate_nm_per_deg=4.5, pattern="row",
    )  # fmt: skip


def _ball_joint() -> Joint:
    nut = Bolt(
        1, diameter_mm=14.0, pitch_mm=1.5, head="Socket 22", hold="the stud by its inner hex 6",
        spec=BoltSpec("torque", Typed("75", "nm"), Typed("95", "nm"), source=_SHEET, trust="part_maker"),
        lock="cotter", slots=6,
    )  # fmt: skip
    return Joint("front-left-ball-joint", "Front left upper ball joint", "taper", (nut,), "front", "left")


def _wheel() -> Joint:
    nuts = tuple(
        Bolt(n, x, y, diameter_mm=12.0, pitch_mm=1.5, property_class="8.8", head="Socket 19", spec=_spec("103"))
        for n, (x, y) in enumerate(places_of("circle", 5, 114.3), start=1)
    )
    return Joint("front-left-wheel", "Front left wheel", "wheel", nuts, "front", "left", "star", (50, 100),
                 pattern="circle")  # fmt: skip
