"""Numbers that steps read for themselves stand in pairs on the record."""

import pytest
from planner import STRUT, Order

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Entered, Event, Filled
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.review.at_work import read_at_work
from fair_spindle.jobs.planning import planned


def told(key, text, unit="mm"):
    return Entered(key, "typed", {"value": Typed(text, unit)})


def rows(*entries):
    car = Filled(tuple(Entered(key, choice=value) for key, value in STRUT.items()), "test")
    acts = [car, planned(Order(("strut_spacer", "front"), car=STRUT).known), *entries]
    state = derive([Event(f"e{n}", n, "", act) for n, act in enumerate(acts, 1)], WORK)
    return {one.key: one for one in read_at_work(state, template_now(state, WORK))}


def test_a_pair_is_one_row_with_its_difference_and_its_plus_minus():
    found = rows(told("front.left.stud_before", "31"), told("front.left.stud_after", "2 1/2", "in"))
    row = found["front.left.stud_after"]
    assert list(found) == ["front.left.stud_after"]
    assert row.before == "front.left.stud_before"
    assert row.change.value == pytest.approx(63.5 - 31)


def test_half_a_pair_stands_alone_and_nothing_read_is_no_row():
    assert rows() == {}
    early = rows(told("front.right.stud_before", "31"))["front.right.stud_before"]
    assert (early.before, early.change) == ("", None)
    late = rows(told("front.right.stud_after", "60"), told("front.left.stud_before", "31"))
    assert [(key, one.before) for key, one in late.items()] == [
        ("front.left.stud_before", ""),
        ("front.right.stud_after", ""),
    ]
