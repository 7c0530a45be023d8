"""Plans on the clock and several cars in one day: nobody does two things at once, nothing begins before it can.

What list scheduling keeps is published (Graham); the orders of the trade are common practice, no published source.
"""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from planner import COMBINED, Order

from fair_spindle.core.planning.bay import Bay, jacks_held
from fair_spindle.core.planning.clock import minutes_of, passing, relies_on, run_clock
from fair_spindle.core.planning.day import Block, Means, Work, plan_day
from fair_spindle.core.planning.procedure import Fitting
from fair_spindle.core.planning.template import Step


def taken_at(moment, timed):
    return sum(2 if one.step.two_people else 1 for one in timed if one.begin <= moment < one.end)


@pytest.mark.parametrize("fittings", COMBINED.values(), ids=list(COMBINED))
@pytest.mark.parametrize("people", [1, 2, 3])
@pytest.mark.parametrize("which", ["least", "most"])
def test_steps_keep_their_order_their_waits_and_the_hands_there_are(fittings, people, which):
    steps = Order(*fittings).plan.steps
    stretches = run_clock(steps, people, which)
    timed = [one for stretch in stretches for one in stretch.steps]
    at = {one.step.key: one for one in timed}
    assert set(at) == {step.key for step in steps}
    assert all(now.end <= then.begin for now, then in pairwise(stretches)), "one position after the other"
    for one in timed:
        assert all(at[key].end <= one.begin for key in one.step.rests_on)
        waits = [two for two in timed if two.step.wait_h and two is not one and relies_on(one.step, two.step)]
        assert all(two.end + 60 * two.step.wait_h[0] <= one.begin for two in waits if two.begin < one.begin)
        if people > 1:
            assert taken_at(one.begin, timed) <= people
    work = sum(minutes_of(step, which) for step in steps)
    assert stretches[-1].end >= work / people
    if people == 1:
        busy = [sum(one.end - one.begin for one in stretch.steps) for stretch in stretches]
        pauses = sum(stretch.end - stretch.begin - own for stretch, own in zip(stretches, busy, strict=True))
        assert stretches[-1].end == pytest.approx(work + pauses)


def test_two_hands_are_never_slower_and_penetrant_works_while_other_things_are_done():
    steps = Order(("tie_rods", "front"), ("springs", "front")).plan.steps
    alone, both = (run_clock(steps, people, "most")[-1].end for people in (1, 2))
    assert both < alone
    assert [word for word, _ in passing(run_clock(steps))] == ["raised", "loaded", "on its wheels again", "done"]
    soak = next(step for step in steps if step.wait_h)
    freed = next(step for step in steps if relies_on(step, soak))
    at = {one.step.key: one for stretch in run_clock(steps, 1, "least") for one in stretch.steps}
    before = at[freed.key].begin - at[soak.key].end
    assert before == pytest.approx(60 * soak.wait_h[0]), "begun as soon as it has worked"
    between = [one for one in at.values() if at[soak.key].end <= one.begin < at[freed.key].begin]
    assert len(between) > 3, "and other things are done meanwhile"


def test_something_that_works_already_is_counted_from_when_it_began():
    step = Step("free", "Free it", "hanging", "", minutes=(5.0, 5.0))
    assert run_clock([step], ready={"free": 30.0})[0].end == 35.0


BLOCKS = st.builds(
    Block,
    st.sampled_from([15.0, 30.0, 60.0]),
    st.booleans(),
    st.sampled_from([1, 1, 2]),
    st.sampled_from([0.0, 0.0, 45.0]),
    jacks=st.sampled_from([0, 0, 1, 2]),
)


@st.composite
def days(draw):
    works = draw(st.lists(st.lists(BLOCKS, min_size=1, max_size=4), min_size=1, max_size=4))
    cars = [draw(st.sampled_from(["", "", "x"])) for _ in works]
    jobs = [Work(f"job {n}", tuple(blocks), car) for n, (blocks, car) in enumerate(zip(works, cars, strict=True))]
    return jobs, Means(draw(st.integers(1, 3)), draw(st.integers(1, 2)), draw(st.integers(1, 3)))


@settings(max_examples=150)
@given(days())
def test_a_day_keeps_hands_lifts_jacks_and_the_order_of_each_job(case):
    works, means = case
    day = plan_day(works, means)
    assert day.bound - 1e-9 <= day.length <= day.one_after_other + 1e-9
    moments = {slot.begin for slot in day.slots}
    for moment in moments:
        now = [slot for slot in day.slots if slot.begin <= moment < slot.end]
        assert sum(slot.block.hands for slot in now) <= means.people
        assert sum(slot.block.jacks for slot in now) <= means.jacks
    up = {}
    for work in works:
        slots = sorted((slot for slot in day.slots if slot.key == work.key), key=lambda slot: slot.begin)
        assert [slot.block.minutes for slot in slots] == [block.minutes for block in work.blocks]
        assert all(now.end + now.block.after <= then.begin + 1e-9 for now, then in pairwise(slots))
        for now, then in pairwise(slots):
            if now.block.up and then.block.up:
                assert then.begin == pytest.approx(now.end + now.block.after), "it is not let down between"
        up[work.key] = [(slot.begin, slot.end) for slot in slots if slot.block.up]
    for moment in moments:
        assert sum(any(low <= moment < high for low, high in spans) for spans in up.values()) <= means.lifts
    same = sorted((slot.begin, slot.end) for slot in day.slots for work in works if work.car and work.key == slot.key)
    assert all(now[1] <= then[0] + 1e-9 for now, then in pairwise(same)), "one car, one job at a time"


def test_the_order_that_is_found_beats_taking_the_jobs_as_they_come():
    soak = Work("soak", (Block(10, False, after=120), Block(30, True)))
    quick = [Work(f"quick {n}", (Block(20, False), Block(40, True))) for n in range(2)]
    day = plan_day([*quick, soak], Means())
    assert day.slots[0].key == "soak", "what works by itself is begun first"
    assert day.length == day.bound == 160.0
    held = replace(soak, up=True, blocks=(Block(30, True), Block(10, False)))
    first = plan_day([*quick, held], Means()).slots[0]
    assert (first.key, first.begin) == ("soak", 0.0), "a car that is up is finished first"


def test_two_cars_up_at_once_share_the_only_jack():
    carried = [Work(f"car {n}", (Block(10, True), Block(30, True, jacks=1), Block(20, True))) for n in range(2)]
    lengths = [plan_day(carried, Means(2, 2, jacks)).length for jacks in (1, 2)]
    assert lengths == [90.0, 60.0], "the second waits for the jack before it is raised: it is not let down between"


def test_a_jack_is_taken_from_where_it_carries_until_what_was_freed_on_it_is_snug():
    car = {"rear.layout": "semi_trailing"}
    for sides, most in ((("left",), 1), (("left", "right"), 2)):
        steps = Order(Fitting("swap_semi_trailing_arm", "rear", sides), car=car, bay=Bay(jacks=2)).plan.steps
        held = jacks_held(steps)
        assert held["swap_semi_trailing_arm.carry_arm@rear.left"] >= 1
        assert held["swap_semi_trailing_arm.in@rear.left"] == held["swap_semi_trailing_arm.snug@rear.left"] == most
        assert max(held.values()) == most
        assert not any(
            held[step.key] for step in steps if step.where == "on_wheels" and not step.key.startswith("lower.")
        )
        assert all(held[step.key] for step in steps if step.where == "corner_carried")
    brace = jacks_held(Order(("diff_brace", "rear")).plan.steps)
    assert not any(held for key, held in brace.items() if "torque" in key)
