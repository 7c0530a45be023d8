"""The sheet follows the car: every layout, what its record lends a job, and which readings are doubted."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st
from kinds import WHOLE_CAR

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.fields.walk import WALK_ROUND, order_walk
from fair_spindle.core.geometry.layouts import LAYOUTS, arms_of
from fair_spindle.core.joblog.kinds import CAR, WORK
from fair_spindle.core.joblog.log import Entered, Event, Filled, Moved, Settled
from fair_spindle.core.joblog.mirror import mirrored
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.replay import replay
from fair_spindle.core.joblog.required_fields import is_required, readings_now
from fair_spindle.core.joblog.starting import from_record, last_baseline, loads_now
from fair_spindle.core.joblog.wording import label_field
from fair_spindle.core.predict.sprung_car import sprung_load
from fair_spindle.demo import workshop

CARS = [
    {"front.layout": front, "rear.layout": rear}
    for front, rear in itertools.product(LAYOUTS, LAYOUTS)
    if "front" in LAYOUTS[front].axles
]


def state_of(template, *acts):
    return derive([Event(f"e{n}", n, "2026-03-01T08:00:00Z", act) for n, act in enumerate(acts, 1)], template)


@pytest.mark.parametrize("choices", CARS, ids=lambda c: "-".join(c.values()))
def test_every_car_is_asked_for_its_own_arms_and_at_most_sixty_readings(choices):
    sheet = sheet_for("work", shape_of(choices))
    for axle in ("front", "rear"):
        layout = LAYOUTS[choices[f"{axle}.layout"]]
        for arm in arms_of(layout, axle):
            keys = [f"{axle}.{arm.key}"] if arm.shared else [f"{axle}.{side}.{arm.key}" for side in ("left", "right")]
            assert all(f"{key}.length" in sheet.fields for key in keys)
            assert all(f"{key}.bush_{pivot}" in sheet.fields for key in keys for pivot, _ in arm.pivots)
        for point, _ in layout.points:
            assert f"{axle}.right.point.{point}" in sheet.fields
    assert len({label_field(one) for one in sheet.fields.values()}) == len(sheet.fields), "no two are called alike"
    shape = shape_of(choices)
    required = [one for one in sheet.of_phase("baseline") if is_required(one, WHOLE_CAR, shape)]
    touched = sum(1 if one.choices else sum(not p.optional for p in one.methods[0].parts) for one in required)
    assert touched <= 22
    assert set(order_walk(sheet)) == {one.key for one in sheet.of_phase("baseline")}


@given(st.permutations(WALK_ROUND), st.sampled_from(["wheel", "reading"]))
def test_the_walk_goes_the_way_the_workshop_goes(corners, by):
    walk = order_walk(sheet_for("work", shape_of(CARS[0])), corners, by)
    heights = [key.removesuffix(".height") for key in walk if key.endswith(".height")]
    assert heights == corners
    at = [key.rsplit(".", 1)[0] for key in walk if key.rsplit(".", 1)[0] in WALK_ROUND]
    if by == "wheel":
        assert [corner for corner, _ in itertools.groupby(at)] == corners


def test_a_job_takes_over_the_record_and_the_sprung_load_that_follows_from_it():
    weighed = {"front": Typed("8000", "n"), "rear": Typed("6000", "n")}
    car = state_of(
        CAR,
        Entered("front.layout", choice="strut"),
        Entered("car.loads", "two_axles", weighed),
        Entered("front.unsprung", "typed", {"value": Typed("400", "n")}),
        Entered("front.spring.rate", "typed", {"value": Typed("160 lb/in", "n_per_mm")}),
        Entered("rear.spring.rate", "typed", {"value": Typed("30", "n_per_mm")}),
    )
    assert loads_now(car, readings_now(car, CAR)).front_share == pytest.approx(8 / 14)
    lent = {act.key: act for act in from_record(car, WORK)}
    begun = derive([Event("e1", 1, "", Filled(tuple(lent.values()), "record"))], WORK)
    readings = readings_now(begun, WORK)
    assert sprung_load(readings, loads_now(begun, readings), "front.left").value == pytest.approx(3600)
    assert lent["front.spring.rate"].typed["value"].text == "160 lb/in"
    assert replay([Event("e1", 1, "", Filled(tuple(lent.values()), "record"))], WORK).entries.keys() == lent.keys()


def test_the_last_baseline_is_the_check_where_there_was_one():
    job = state_of(WHOLE_CAR, *workshop.baseline(), Settled(), workshop.enter_toe("front.left.check_toe", "7"))
    kept = {act.key: act for act in last_baseline(job, WHOLE_CAR, WORK)}
    assert kept["front.left.toe"].typed["toe"].text == "7"
    assert kept["front.right.toe"].method == "strings"
    assert "front.left.camber" in kept


DEGREE = 0.0174532925


def test_a_reading_knows_how_the_car_stood():
    toe = workshop.enter_toe("front.left.toe", "6")
    for acts, settled, position in (
        ([toe], False, "on_wheels"),
        ([Settled(), toe], True, "on_wheels"),
        ([Settled(), Moved("hanging"), toe], False, "hanging"),
        ([Settled(), Moved("hanging"), Moved("on_wheels"), toe], False, "on_wheels"),
    ):
        taken = state_of(WHOLE_CAR, *acts).entries["front.left.toe"]
        assert (taken.settled, taken.position) == (settled, position)


@given(st.sampled_from(["12,5", "-12,5", "+3", "0", "1 3/8 in", "-0.5 in"]))
def test_mirrored_twice_is_the_same_number(text):
    point = Entered("front.left.point.lower_ball", "point", {axis: Typed(text, "mm") for axis in "xyz"})
    over = mirrored([point], "left", "right")
    back = mirrored(over, "right", "left")[0]
    assert over[0].key == "front.right.point.lower_ball"
    assert back.typed["y"].text.lstrip("+") == text.lstrip("+")
    assert (back.typed["x"], back.key) == (point.typed["x"], point.key)
