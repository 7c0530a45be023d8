"""What ends a wheel's travel, at the edges: lengths over the ratio and arms about their pivots, by hand."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import Inconsistent, InputError, OutOfRange
from fair_spindle.core.springs.travel import Limit, first_limits, joint_travel, travel_budget


@pytest.mark.identity
@given(st.floats(1, 400), st.floats(1, 300), st.floats(0, 1), st.floats(0.3, 1.3), st.floats(0, 80))
def test_droop_and_bump_are_all_the_travel_a_damper_has(closed, stroke, share, ratio, stop):
    ride = min(max(closed + share * stroke, closed), closed + stroke)
    found = travel_budget(closed + stroke, closed, ride, ratio, stop)
    assert found.droop + found.bump_to_metal == pytest.approx(stroke / ratio)
    assert (found.bump_to_metal - found.bump_to_stop) * ratio == pytest.approx(stop, abs=1e-9)
    assert found.droop >= 0


def test_a_stop_that_is_pressed_already_leaves_less_than_nothing():
    found = travel_budget(450.0, 330.0, 350.0, 0.8, 40.0)
    assert (found.droop, found.bump_to_stop, found.bump_to_metal) == pytest.approx((125.0, -25.0, 25.0))
    at_its_ends = travel_budget(450.0, 330.0, 330.0, 1.0, 0.0), travel_budget(450.0, 330.0, 450.0, 1.0, 0.0)
    assert [one.bump_to_metal for one in at_its_ends] == [0.0, 120.0]
    assert travel_budget(2.0, 0.5, 1.5, 0.5, 0.5).bump_to_stop == 1.0


@pytest.mark.identity
@pytest.mark.parametrize("rise", [-60.0, 0.0, 45.0])
@pytest.mark.parametrize("limit", [0.2, 0.5, 1.2])
def test_a_joint_at_its_limit_stands_at_its_angle(rise, limit):
    """The arm swung there and measured: rise over length is the sine of the limit, up and down alike."""
    for up, sign in ((True, 1), (False, -1)):
        moved = joint_travel(320.0, rise, limit, up)
        assert np.arcsin((rise + moved) / 320.0) == pytest.approx(sign * limit)
    assert joint_travel(320.0, rise, -limit, True) == joint_travel(320.0, rise, limit, True)


def test_no_joint_swings_past_upright_and_one_past_its_limit_says_so():
    assert joint_travel(300.0, 20.0, 2.0, True) == pytest.approx(280.0)
    assert joint_travel(300.0, 20.0, 2.0, False) == pytest.approx(-320.0)
    assert joint_travel(300.0, 100.0, math.radians(10), True) < 0


def test_limits_come_first_that_end_the_travel_first():
    limits = [
        Limit("damper", 80.0), Limit("stop", -5.0), Limit("joint", 60.0),
        Limit("strap", -90.0, droop=True), Limit("hose", -60.0, droop=True), Limit("shaft", 4.0, droop=True),
    ]  # fmt: skip
    bump, droop = first_limits(iter(limits))
    assert [one.name for one in bump] == ["stop", "joint", "damper"]
    assert [one.name for one in droop] == ["shaft", "hose", "strap"]
    assert first_limits([]) == ((), ())


@pytest.mark.parametrize(
    ("call", "kind", "field", "came"),
    [
        (lambda: travel_budget(450.0, 0.0, 350.0, 0.8, 0.0), OutOfRange, "damper_closed_mm", "0.0"),
        (lambda: travel_budget(450.0, 330.0, 350.0, 0.0, 0.0), OutOfRange, "motion_ratio", "0.0"),
        (lambda: travel_budget(450.0, 330.0, 350.0, 0.8, -0.1), OutOfRange, "bump_stop_mm", "-0.1"),
        (lambda: travel_budget(330.0, 330.0, 330.0, 0.8, 0.0), Inconsistent, "damper_open_mm", "330 mm"),
        (lambda: travel_budget(450.0, 330.0, 329.0, 0.8, 0.0), Inconsistent, "damper_length_at_ride_mm", "329 mm"),
        (lambda: travel_budget(450.0, 330.0, 451.0, 0.8, 0.0), Inconsistent, "damper_length_at_ride_mm", "451 mm"),
        (lambda: joint_travel(60.0, -60.0, 0.3, True), OutOfRange, "length_mm", "60 mm"),
    ],
)
def test_what_no_travel_can_be_is_refused_by_its_name(call, kind, field, came):
    with pytest.raises(InputError) as refused:
        call()
    assert type(refused.value) is kind
    assert (refused.value.field, refused.value.details["came"]) == (field, came)
    assert f"got {came}" in refused.value.message
