"""Every field of the forms takes what a tuner types, in every unit and method, and stops slips of the finger."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import InputError, OutOfRange
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import UNITS, from_core, to_core, units_of
from fair_spindle.core.fields.car import ADJUSTERS
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.field import Field, placed, sheet_of
from fair_spindle.core.fields.methods import POINT
from fair_spindle.core.fields.new_parts import AGAINST_OLD
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.joblog.log import Entered, Gauge
from fair_spindle.core.joblog.readings import _RULES, Quantity, read_entry
from fair_spindle.formats.car_csv import write_points
from fair_spindle.jobs.wording import say_quantity


def every_field():
    """One field of each name, over every layout, every way of adjusting, every kind of job."""
    found = {}
    for layout, adjust in zip(LAYOUTS, [*ADJUSTERS, "sleeve"], strict=True):
        choices = {"front.layout": "strut" if layout in ("semi_trailing", "twist_beam") else layout}
        choices |= {"rear.layout": layout, "front.bar.fitted": "fixed_links", "rear.spring.kind": "coilover"}
        first = sheet_for("work", shape_of(choices))
        choices |= {key: adjust for key in first.fields if key.endswith(".adjust")}
        for field in sheet_for("work", shape_of(choices)).fields.values():
            found.setdefault((field.name, tuple(m.name for m in field.methods)), field)
    return list(found.values())


FIELDS = every_field()
BY_KEY = {field.key: field for field in sheet_for("work", shape_of({"front.layout": "strut"})).fields.values()}
MEASURED: dict[str, list] = {}
for field in FIELDS:
    for method in () if field.words else field.methods:
        MEASURED.setdefault(method.name, []).append((field, method))
every_way = pytest.mark.parametrize("way", MEASURED)
SAMPLES = {
    "height_1": 370.0, "height_2": 340.0, "front": 1502.0, "rear": 1500.0, "across": 600.0,
    "force_1": 80.0, "force_2": 160.0, "length_1": 260.0, "length_2": 230.0,
    "damper_1": 430.0, "damper_2": 402.0, "full": 1.5,
    "top": 52.0, "bottom": 50.0, "span": 400.0, "arch": 660.0, "hub": 300.0,
}  # fmt: skip


def read(act):
    return read_entry(act, BY_KEY[act.key])


def typical(part):
    """A value inside the limits, away from their ends, as the part's own unit states it."""
    known = SAMPLES.get(part.name, part.low)
    return known if part.low < known < part.high else part.low + 0.6 * (part.high - part.low)


@every_way
def test_takes_a_typical_value_in_every_unit(way):
    for field, method in MEASURED[way]:
        readings = set()
        for choice in range(max(len(units_of(part.quantity)) for part in method.parts)):
            typed = {}
            for part in method.parts:
                units = units_of(part.quantity)
                unit = units[choice % len(units)].key
                typed[part.name] = Typed(f"{from_core(to_core(typical(part), part.unit), unit):.12f}", unit)
            quantity = read_entry(Entered(field.key, way, typed), field)
            assert isinstance(quantity, Quantity), field.key
            assert quantity.uncertainty >= 0, field.key
            readings.add(round(quantity.value, 7))
        assert len(readings) == 1, f"{field.key}: the unit does not matter"


@every_way
def test_stops_at_each_limit_and_names_the_part(way):
    for field, method in MEASURED[way]:
        for part in method.parts:
            for beyond in (part.low - 0.01 * abs(part.high - part.low), part.high * 1.01 + 1):
                typed = {one.name: Typed(repr(typical(one)), one.unit) for one in method.parts}
                typed[part.name] = Typed(f"{beyond:.6f}", part.unit)
                with pytest.raises(OutOfRange) as refused:
                    print(field.key, read_entry(Entered(field.key, way, typed), field))
                assert refused.value.field == f"{field.key}.{part.name}"
                assert UNITS[part.unit].label in refused.value.message, field.key


@every_way
def test_needs_every_part_that_is_not_optional(way):
    for field, method in MEASURED[way]:
        for part in method.parts:
            typed = {one.name: Typed(repr(typical(one)), one.unit) for one in method.parts if one is not part}
            act = Entered(field.key, way, typed)
            if part.optional:
                assert read_entry(act, field).count == 1, field.key
            else:
                with pytest.raises(InputError, match="is empty"):
                    print(field.key, read_entry(act, field))


def test_three_heights_give_mean_spread_and_a_smaller_uncertainty_than_their_spread():
    first, *again = ({"height": Typed(text, "mm")} for text in ("372", "376", "374"))
    reading = read(Entered("front.left.height", "hub_to_arch", first, again=tuple(again)))
    assert (reading.value, reading.spread, reading.count) == (374.0, 4.0, 3)
    plain = (4 / 3 + 2.2**2 / 3) ** 0.5
    assert reading.uncertainty > plain, "s²/n + a²/3, with s = 2 and a = 2.2, and Student's factor for so few"
    assert reading.uncertainty == pytest.approx(plain, rel=0.2)
    first, *again = ({"height": Typed(text, "mm")} for text in ("372", "374", "373"))
    agreeing = read(Entered("front.left.height", "hub_to_arch", first, again=tuple(again))).uncertainty
    assert agreeing == pytest.approx(2.2 / 3**0.5), "repeats within the tape's own reach say nothing against it"
    alone = ({"toe": Typed(text, "min")} for text in ("10", "10", "10"))
    same, *again = alone
    assert read(Entered("front.left.toe", "angle", same, again=tuple(again))).uncertainty == pytest.approx(
        read(Entered("front.left.toe", "angle", same)).uncertainty
    ), "nothing scatters, nothing is added"


def test_a_rim_that_does_not_run_true_is_in_the_toe_that_was_read_at_it_whatever_reads_it():
    """Gaps of ±0.5 mm and a run-out of 0.5 mm over 640 mm: √(2·0.5² + 0.5² + 0.15²)/√3 / 640; half a turn frees
    it."""
    gaps = {"front": Typed("51.4", "mm"), "rear": Typed("50.2", "mm"), "across": Typed("640", "mm")}
    plain = read(Entered("front.left.toe", "strings", gaps)).uncertainty
    assert plain == pytest.approx(math.sqrt(2 * 0.5**2 + 0.5**2 + 0.15**2) / math.sqrt(3) / 640, rel=0.01)
    fine = Gauge("Caliper", resolution=Typed("0.01", "mm"))
    assert read(Entered("front.left.toe", "strings", gaps, gauge=fine)).uncertainty > 0.55 * plain
    again = gaps | {"front_again": Typed("51.0", "mm"), "rear_again": Typed("50.2", "mm")}
    assert read(Entered("front.left.toe", "strings_turned", again)).uncertainty < 0.6 * plain
    length = {"toe": Typed("1.2", "mm"), "across": Typed("640", "mm")}
    assert read(Entered("front.left.toe", "rim", length)).uncertainty > 0.4 / 640, (
        "a length is read by a tape as well"
    )


def test_own_plus_minus_replaces_the_default():
    act = Entered("front.left.tie.lever", "typed", {"value": Typed("118", "mm")}, plus_minus=Typed("0,5", "mm"))
    assert read(act).uncertainty * COVERAGE == pytest.approx(0.5)
    with pytest.raises(OutOfRange, match="negative"):
        read(Entered("front.left.tie.lever", "typed", {"value": Typed("118", "mm")}, plus_minus=Typed("-1", "mm")))


def test_slope_from_two_heights_has_the_sign_of_bump_and_needs_them_apart():
    """Lower hub-to-arch height is more bump: toe-in growing as the car goes down is positive."""
    typed = {
        "height_1": Typed("370", "mm"), "toe_1": Typed("2", "min"),
        "height_2": Typed("340", "mm"), "toe_2": Typed("8", "min"),
    }  # fmt: skip
    slope = read(Entered("front.left.bump_slope", "two_heights", typed))
    assert from_core(slope.value, "min_per_10mm") == pytest.approx(2.0)
    typed["height_2"] = Typed("368", "mm")
    with pytest.raises(InputError, match="5 mm apart"):
        read(Entered("front.left.bump_slope", "two_heights", typed))


def test_three_ways_to_read_toe_agree():
    """0.3° across 600 mm is 3.1416 mm; a right wheel by strings the same."""
    ways = [
        Entered("front.right.toe", "angle", {"toe": Typed("0°18'", "deg")}),
        Entered("front.right.toe", "rim", {"toe": Typed("3.14157", "mm"), "across": Typed("600", "mm")}),
        Entered("front.right.toe", "rim", {"toe": Typed("0.123684", "in"), "across": Typed("60 cm", "mm")}),
        Entered(
            "front.right.toe",
            "strings",
            {"front": Typed("53.14157", "mm"), "rear": Typed("50", "mm"), "across": Typed("600", "mm")},
        ),
    ]
    assert len({round(read(way).value, 6) for way in ways}) == 1


@pytest.mark.identity
@given(st.floats(-9999, 9999), st.sampled_from(["", " mm", "mm", " in", " cm"]), st.booleans())
def test_any_decimal_is_read_back_exactly(value, suffix, comma):
    text = f"{value:.6f}".replace(".", "," if comma else ".") + suffix
    read = read_number(text, "length", "mm", "x")
    assert read.number == float(f"{value:.6f}")
    assert read.text == text
    assert read.unit == (suffix.strip() or "mm")


@pytest.mark.parametrize(
    "text",
    [
        "",
        "  ",
        "abc",
        "1.2.3",
        "1,234.5",
        "--3",
        "3 4",
        "1/0",
        "1/2/3",
        "NaN",
        "inf",
        "1e5",
        "0x10",
        "٣",
        "9" * 41,
        "12 kg",
    ],
)
def test_what_is_no_length_is_refused(text):
    with pytest.raises(InputError):
        read_number(text, "length", "mm", "x")


# Typed in the parts' own units, and what follows by the definition of the quantity, worked by hand; [N, mm, rad].
BY_HAND = {
    "settled_twice": ({"from_above": 362, "from_below": 356}, 359),
    "ground_to_arch": ({"arch": 664, "hub": 302}, 362),
    "rim": ({"toe": 3, "across": 600}, math.asin(0.005)),
    "strings": ({"front": 52, "rear": 50, "across": 400}, math.asin(0.005)),
    "strings_turned": (
        {"front": 52.5, "rear": 50, "front_again": 51.5, "rear_again": 50, "across": 400},
        (math.asin(0.00625) + math.asin(0.00375)) / 2,
    ),
    "plates": ({"front": 1498, "rear": 1501, "across": 600}, 2 * math.asin(0.0025)),
    "bar": ({"difference": 3, "across": 600}, 2 * math.asin(0.0025)),
    "level_and_floor": ({"value": -1.5, "floor": 0.2}, math.radians(-1.3)),
    "plumb": ({"top": 60, "bottom": 52, "span": 400}, math.asin(-0.02)),
    "sweep": ({"out": 1, "in": -2.5, "steer": 20}, math.radians(3.5) / (2 * math.sin(math.radians(20)))),
    "two_heights": ({"height_1": 370, "toe_1": 0.1, "height_2": 340, "toe_2": 0.4}, math.radians(0.3) / 30),
    "exposed_thread": ({"inner": 12, "outer": 7}, 19),
    "lengths": ({"old": 84, "new": 87.5}, 3.5),
    "counted": (
        {"old_end": 80, "new_end": 83, "old_rod": 300, "new_rod": 299, "turns": 2, "pitch": 1.5},
        3 - 1 + 2 * 1.5,
    ),
    "pressed": ({"force_1": 80, "length_1": 260, "force_2": 161, "length_2": 233}, 3 * 9.80665),
    "joint_to_joint": ({"distance": 130, "aside": 30, "above": 40}, 120),
    "wire": ({"wire": 12, "mean": 120, "coils": 6}, 79300 * 12**4 / (8 * 120**3 * 6)),
    "leaves": (
        {"width": 60, "thickness": 7, "leaves": 4, "full": 1, "span": 1200},
        60 * 7**3 * 207000 * (3 * 1 + 2 * 3) / (6 * 600**3),
    ),
    "torsion": (
        {"diameter": 24, "length": 1000, "arm": 300},
        79300 * math.pi * 24**4 / 32 / (300**2 * 1000),
    ),
    "bushings": ({"count": 2, "torsion": 3, "arm": 300}, 2 * 3000 * 180 / math.pi / 300**2),
    "two_pairs": ({"damper_1": 430, "height_1": 370, "damper_2": 406, "height_2": 340}, 0.8),
    "tape": ({"spring": 240, "joint": 300, "lean": 60}, 0.4),
    "gaps": ({"left": 31, "right": 25}, 3),
    "four_scales": ({"front_left": 400, "front_right": 390, "rear_left": 310, "rear_right": 300}, 1400 * 9.80665),
    "learned": ({"front_left": 4000, "front_right": 3900, "rear_left": 3100, "rear_right": 3000}, 14000),
    "two_axles": ({"front": 800, "rear": 600}, 1400 * 9.80665),
    "total_and_share": ({"total": 1400, "share": 56}, 1400 * 9.80665),
    "point": ({"x": 200, "y": -600, "z": 300}, 700),
    "from_centre": ({"ahead": -200, "aside": 600, "up": 300}, 700),
    "from_string": ({"ahead": -200, "string": 980, "gap": 380, "up": 300}, 700),
}  # fmt: skip


def test_every_way_of_measuring_that_computes_is_worked_by_hand_here():
    assert set(BY_HAND) == set(_RULES)


@pytest.mark.parametrize("name", BY_HAND)
def test_a_way_of_measuring_gives_what_its_numbers_say(name):
    numbers, wanted = BY_HAND[name]
    fields = (*FIELDS, Field("longer", "New against old", "New parts", methods=AGAINST_OLD))
    field, method = next((field, method) for field in fields for method in field.methods if method.name == name)
    typed = {part.name: Typed(str(numbers[part.name]), part.unit) for part in method.parts if part.name in numbers}
    assert read_entry(Entered(field.key, name, typed), field).value == pytest.approx(wanted, rel=1e-6)


@pytest.mark.parametrize(("side", "y"), [("left", 600), ("right", -600)])
@pytest.mark.parametrize("name", ["from_centre", "from_string"])
def test_a_point_read_from_a_datum_is_told_in_the_car_s_frame(name, side, y):
    """x forward, y left, z up: what lies right of the middle has negative y, whichever line it was read from."""
    numbers, _ = BY_HAND[name]
    method = next(one for one in POINT if one.name == name)
    typed = {part.name: Typed(str(numbers[part.name]), "mm") for part in method.parts}
    asked = placed(Field("point.lower_ball", "Lower ball joint", "Points", methods=POINT), "front", side)
    read = read_entry(Entered(asked.key, name, typed), asked)
    assert read.parts == {"x": -200, "y": y, "z": 300}
    assert say_quantity(asked, read, name) == f"x −200.0, y {y}.0, z 300.0 mm".replace("-", "−")
    sheet = sheet_of([asked])
    row = write_points({asked.key: Entered(asked.key, name, typed)}, sheet).decode().splitlines()[1]
    assert row == f"front,{side},lower_ball,-200,{y},300"
