"""Turns carried over to a new end, at the edges of what may be told: by the length of rod and end, by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import InputError, OutOfRange
from fair_spindle.core.turns.threads import FLAT, RodEnd, Tally, joint_to_stud, nearest_step, tally, transfer_turns

OLD, NEW = RodEnd(1.5, 80.0, 200.0), RodEnd(1.25, 84.0, 201.0)


@pytest.mark.identity
@given(
    st.floats(0.7, 2.0), st.floats(0.7, 2.0), st.floats(60, 110), st.floats(0, 30), st.floats(5, 40), st.floats(0, 15)
)
def test_the_new_end_stands_where_the_old_one_stood(old_pitch, new_pitch, end, off, turns_needed, rod):
    """rod + end - turns · pitch is the same before and after, whatever both are."""
    old = RodEnd(old_pitch, end, 200.0)
    length = joint_to_stud(old, off)
    new = RodEnd(new_pitch, length + turns_needed * new_pitch - rod, rod)
    found = transfer_turns(old, off, new, 10.0)
    assert joint_to_stud(new, found.turns_on) == pytest.approx(length)
    assert found.turns_on == pytest.approx(turns_needed, abs=1e-9)
    assert found.length_error == pytest.approx((found.turns_on - found.set_turns) * new_pitch, abs=1e-9)
    assert abs(found.length_error) <= FLAT / 2 * new_pitch + 1e-9
    assert found.engagement == pytest.approx(found.set_turns * new_pitch)


def test_a_worked_example_with_another_pitch_and_another_rod():
    """Old: 200 + 80 - 24 · 1.5 = 244 mm; new: (201 + 84 - 244) / 1.25 = 32.8 turns; nearest flat 32 5/6."""
    found = transfer_turns(OLD, 24.0, NEW, 41.0)
    assert found.turns_on == pytest.approx(32.8)
    assert found.set_turns == pytest.approx(32 + 5 / 6)
    assert found.length_error == pytest.approx(-(5 / 6 - 0.8) * 1.25)
    assert found.engagement == pytest.approx((32 + 5 / 6) * 1.25)
    assert found.engagement_ok
    assert not transfer_turns(OLD, 24.0, NEW, 41.1).engagement_ok
    assert transfer_turns(RodEnd(1.0, 80.0), 20.0, RodEnd(1.0, 80.0), 20.0).engagement_ok, "just enough is enough"


@pytest.mark.parametrize(
    ("turns", "chalked"),
    [
        (0.0, Tally(0, 0)),
        (-0.05, Tally(0, 0)),
        (1 / 12, Tally(0, 1)),
        (-1 / 6, Tally(0, 1, back=True)),
        (0.92, Tally(1, 0)),
        (5 / 6, Tally(0, 5)),
        (-21.34, Tally(21, 2, back=True)),
        (0.5, Tally(0, 3)),
    ],
)
def test_turns_as_they_are_chalked(turns, chalked):
    assert tally(turns) == chalked


def test_the_nearest_step_is_never_further_than_half_a_step():
    assert [nearest_step(turns, 0.5) for turns in (20.24, 20.25, 20.74, -0.25, -0.26)] == [20, 20.5, 20.5, 0, -0.5]
    assert nearest_step(7.4, 1.0) == 7.0
    assert nearest_step(7.4, 2.0) == 8.0


@pytest.mark.parametrize(
    ("call", "field", "came"),
    [
        (lambda: nearest_step(1.0, 0.0), "step_turns", "0.0"),
        (lambda: transfer_turns(RodEnd(0.0, 80.0), 20.0, NEW, 15.0), "old.pitch_mm", "0.0"),
        (lambda: transfer_turns(OLD, 20.0, RodEnd(0.0, 80.0), 15.0), "new.pitch_mm", "0.0"),
        (lambda: transfer_turns(OLD, -0.5, NEW, 15.0), "old.turns_off", "-0.5"),
        (
            lambda: transfer_turns(RodEnd(1.5, 80.0), 2.0, RodEnd(1.5, 76.9), 15.0),
            "new.end_length_mm",
            "0.07 turns short of the thread",
        ),
    ],
)
def test_what_no_thread_can_be_is_refused_by_its_name(call, field, came):
    with pytest.raises(InputError) as refused:
        call()
    assert type(refused.value) is OutOfRange
    assert (refused.value.field, refused.value.details["came"]) == (field, came)
    assert f"got {came}" in refused.value.message


def test_the_least_that_is_allowed_is_taken():
    assert transfer_turns(RodEnd(0.5, 80.0), 0.0, RodEnd(0.5, 80.0), 0.0).turns_on == 0.0
    assert transfer_turns(RodEnd(1.5, 80.0), 2.0, RodEnd(1.5, 77.0), 0.0).turns_on == 0.0, "it just reaches"
