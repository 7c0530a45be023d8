"""Tables out and in without loss, and refused with line and column where they do not hold."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import from_core, to_core, units_of
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.joblog.log import Entered, Fastener, Gauge
from fair_spindle.core.joblog.readings import read_entry
from fair_spindle.formats.car_csv import read_fasteners, read_points, write_fasteners, write_points
from fair_spindle.formats.csv_rows import read_rows, write_rows
from fair_spindle.formats.readings_csv import read_readings, write_readings

SHEET = sheet_for("work", shape_of({"front.layout": "double_wishbone", "rear.layout": "solid_links"}))
WORDS = st.text(st.characters(codec="utf-8", exclude_categories=("Cc", "Cs", "Zl", "Zp")), max_size=20).map(str.strip)
READ = [one for one in SHEET.of_phase("baseline") if one.methods and not one.words]


@pytest.mark.identity
@given(st.lists(st.tuples(WORDS, WORDS), max_size=6))
def test_any_words_come_back_from_a_table(rows):
    rows = [row for row in rows if any(cell for cell in row)]
    content = write_rows(("a", "b"), [dict(zip("ab", row, strict=True)) for row in rows])
    assert [tuple(row.values()) for _, row in read_rows(content, ("a",), ("a", "b"))] == rows
    for line in content.decode().splitlines()[1:]:
        assert not line.startswith(("=", "@")), "no cell is taken for a formula"


@pytest.mark.identity
@given(st.data())
def test_points_come_back_in_every_unit(data):
    points = [one for one in SHEET.fields.values() if one.name.startswith("point.")]
    unit = data.draw(st.sampled_from([one.key for one in units_of("length")]))
    size = st.floats(-200, 200).map(lambda value: f"{value:.4f}")
    entries = {
        one.key: Entered(one.key, "point", {axis: Typed(data.draw(size), unit) for axis in "xyz"})
        for one in data.draw(st.lists(st.sampled_from(points), max_size=4, unique=True))
    }
    back = {act.key: act for act in read_points(write_points(entries, SHEET), SHEET)}
    assert back.keys() == entries.keys()
    for key, act in entries.items():
        before, after = (read_entry(one, SHEET.fields[key]).parts for one in (act, back[key]))
        assert after == pytest.approx(before, abs=1e-9)


@pytest.mark.identity
@given(st.data())
def test_readings_come_back_as_they_were_typed_in_every_unit_and_method(data):
    asked = data.draw(st.sampled_from(READ))
    method = data.draw(st.sampled_from(asked.methods))

    def row():
        typed = {}
        for part in method.parts:
            unit = data.draw(st.sampled_from(units_of(part.quantity)))
            value = from_core(to_core(part.low + 0.6 * (part.high - part.low), part.unit), unit.key)
            typed[part.name] = Typed(f"{value:.6f}", unit.key)
        return typed

    again = tuple(row() for _ in range(data.draw(st.integers(0, 2))))
    act = Entered(asked.key, method.name, row(), again=again, gauge=Gauge("Tape; 5 m"))
    back = read_readings(write_readings({asked.key: act}, SHEET), SHEET)
    assert [(one.entry, one.problem) for one in back] == [(act, "")]


FASTENERS = st.builds(
    Fastener,
    key=WORDS.filter(bool),
    group=WORDS.filter(bool),
    place=st.integers(1, 99),
    axle=st.sampled_from(["", "front", "rear"]),
    side=st.sampled_from(["", "left", "right"]),
    diameter_mm=st.sampled_from([0.0, 8.0, 12.0]),
    pitch_mm=st.sampled_from([0.0, 1.25]),
    length_mm=st.floats(0, 300).map(lambda value: round(value, 3)),
    property_class=st.sampled_from(["", "8.8", "10.9"]),
    drive=WORDS,
    torque=st.none() | st.builds(Typed, st.sampled_from(["88", "42,5"]), st.sampled_from(["nm", "lb_ft"])),
    condition=st.sampled_from(["", "dry", "anti_seize"]),
    single_use=st.booleans(),
    source=WORDS,
)


@pytest.mark.identity
@given(st.lists(FASTENERS, max_size=4, unique_by=lambda one: one.key))
def test_fasteners_come_back(fasteners):
    assert list(read_fasteners(write_fasteners(fasteners))) == fasteners


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"axle,side\n", "lacks point"),
        (b"axle,side,point,x_mm,y_mm,z_mm,colour\n", "'colour'"),
        (b"axle,side,point,x_mm,y_mm,z_mm\nfront,left,wheel_center,1,2\n", "Line 2 has 5 cells"),
        (b"axle,side,point,x_mm,y_mm,z_mm\nfront,left,wheel_center,1,,3\n", "Nothing was entered"),
        (b"axle,side,point,x_mm,y_mm,z_mm\nfront,left,wheel_center,1,zwei,3\n", "'zwei' is not a number"),
        (b"axle,side,point,x_mm,y_mm,z_mm\nfront,left,wheel_center,9999,2,3\n", "between -6000 and 6000"),
        (b"axle,side,point,x_mm,y_mm,z_mm\nrear,left,upper_ball,1,2,3\n", "no point 'upper_ball'"),
        (b'axle,side,point,x_mm,y_mm,z_mm\nfront,left,"wheel', "no whole CSV table"),
    ],
)
def test_a_table_of_points_that_does_not_hold_says_where(content, words):
    with pytest.raises(InputError, match=words):
        read_points(content, SHEET)


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("k,g,x,", "Line 2: place must be a number"),
        ("k,g,1,88", "torque_unit must be one of"),
        ("k,g,1,\nk,h,2,", "stands twice"),
    ],
)
def test_a_table_of_fasteners_that_does_not_hold_says_where(line, words):
    with pytest.raises(InputError, match=words):
        read_fasteners(f"key,group,place,torque\n{line}\n".encode())


def test_readings_that_cannot_be_taken_say_why_and_the_others_stay():
    rows = ("front.left.camber,,-0.5", "front.left.camber,span,1", "rear.left.wing,,3", "front.left.toe,,6")
    table = "\n".join(("reading,part,value", *rows))
    read = {one.key: one for one in read_readings(table.encode(), SHEET)}
    assert "has no part 'span'" in read["front.left.camber"].problem
    assert "no field 'rear.left.wing'" in read["rear.left.wing"].problem
    assert read["front.left.toe"].entry.method == "angle"
    assert len(LAYOUTS) == 8
