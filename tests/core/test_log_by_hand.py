"""What waits, is counted, ranged, undone and told before and after in a log, by hand: ends that could swap."""

from dataclasses import replace
from datetime import datetime

import pytest
from kinds import WHOLE_CAR
from planner import Order

from fair_spindle.core.basics.errors import InputError, NotAllowed, OutOfRange
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.joblog.agenda import _wait, blocks_left, clock_from
from fair_spindle.core.joblog.joint_maps import permit_drawn
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Counted, Drawn, Entered, Event, Planned, Settled, Stepped, Undone
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.replay import undoing
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.rules import permit
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.waits import held_by, waits_of
from fair_spindle.core.planning.clock import minutes_of
from fair_spindle.core.planning.day import Block
from fair_spindle.core.review.before_and_after import beside_read
from fair_spindle.core.review.history import moments_of


def test_before_and_after_are_those_of_the_baseline_and_of_the_check():
    told = {
        f"rear.left.{name}toe": Quantity(size) for name, size in (("", 1e-3), ("check_", 2e-3), ("target.", 3e-3))
    }
    (row,) = beside_read("rear.left", told)
    assert (row.before.value, row.read.value, row.wanted) == (1e-3, 2e-3, 3e-3)
    assert beside_read("rear.left", told, ("toe",)) == []
    for one in ("", "check_"):
        assert len(beside_read("rear.left", {f"rear.left.{one}toe": Quantity(1e-3)})) == 1
    log = [Event("e1", 1, "2031-03-03T09:00:00Z", Settled())]
    for key in ("front.left.check_height", "front.left.height"):
        entered = Entered(key, "hub_to_arch", {"height": Typed("350", "mm")})
        state = derive([*log, Event("e2", 2, "2031-03-03T09:05:00Z", entered)], WHOLE_CAR)
        (moment,) = moments_of(state, readings_now(state, WHOLE_CAR))
        assert moment.phase == ("after" if "check" in key else "before")
        assert list(moment.quantities) == ["front.left.height"]


def test_what_has_to_wait_waits_from_when_it_was_begun_and_leaves_the_car_down():
    order = Order(("tie_rods", "front"))
    soak = next(step for step in order.plan.steps if step.wait_h)
    earlier = order.plan.steps[: order.keys.index(soak.key) + 1]
    begun, now = "2031-03-03T09:00:00Z", "2031-03-03T09:30:00Z"
    log = [Event("e1", 1, begun, Planned(order.known.brief, order.plan.steps, ()))]
    log += [Event(f"s{n}", n, begun, Stepped(step.key)) for n, step in enumerate(earlier, 2)]
    state = derive(log, WORK)
    template = template_now(state, WORK)
    (wait,) = waits_of(state, template)
    hours = [(end - datetime.fromisoformat(begun)).total_seconds() / 3600 for end in (wait.ready, wait.over)]
    assert hours == [soak.wait_h[0], soak.wait_h[-1]]
    held = next(step.key for step in template.steps if step.key not in state.steps and held_by(step, [wait]))
    stretches = clock_from(state, template, now, 1, "least")
    opened = next(one for one in stretches if held in [step.step.key for step in one.steps])
    assert next(step.begin for step in opened.steps if step.step.key == held) >= 60 * soak.wait_h[0] - 30
    work = sum(minutes_of(step, "least") for step in template.steps if step.key not in state.steps)
    paused = sum(block.after for block in blocks_left(state, template, now))
    assert paused == pytest.approx(stretches[-1].end - work)


def test_a_pause_comes_before_the_car_goes_up_where_it_still_can():
    low, high = Block(10, False, 1), Block(20, True, 1)
    for before, where in (([low, high], 0), ([high, high], 1)):
        blocks = [replace(one, after=3.0) for one in before]
        _wait(blocks, [], 30.0)
        assert [one.after for one in blocks] == [33.0 if n == where else 3.0 for n in range(2)]
    fresh = [replace(high, after=3.0)]
    _wait([], fresh, 30.0)
    assert fresh[0].after == 33.0


@pytest.mark.parametrize(("top", "refused"), [("110", False), ("90", True), ("100", True)])
def test_a_range_of_torques_ends_above_where_it_begins(top, refused):
    spec = BoltSpec(torque=Typed("100", "nm"), torque_to=Typed(top, "nm"), source="sheet")
    drawn = Drawn(Joint("a", "Plate", "clamp", (Bolt(1, spec=spec),)))
    if refused:
        with pytest.raises(InputError, match="ends above"):
            permit_drawn(drawn, JobState())
    else:
        assert permit_drawn(drawn, JobState()) == drawn


def test_a_count_never_goes_below_nothing():
    state = derive([Event("e1", 1, "", Counted("left", "off", 5))], WORK)
    for flats, refused in ((-5, False), (-6, True), (0, True), (1, False)):
        act = Counted("left", "off", flats)
        if refused:
            with pytest.raises((NotAllowed, OutOfRange)):
                permit(act, state, WORK, {})
        else:
            assert permit(act, state, WORK, {}) == act


def test_an_undone_entry_is_not_undone_again_and_what_rests_on_it_holds_it():
    log = [
        Event("a", 1, "", Counted("left", "off", 5)),
        Event("b", 2, "", Counted("left", "off", -5)),
        Event("c", 3, "", Counted("right", "off", 2)),
    ]
    undoing("c", log, WORK)
    with pytest.raises(NotAllowed):
        undoing("a", log, WORK)
    with pytest.raises(NotAllowed, match="undone already"):
        undoing("c", [*log, Event("d", 4, "", Undone("c"))], WORK)


@pytest.mark.parametrize(
    ("way", "size", "refused"),
    [("angle", 90, False), ("angle", 0, True), ("angle", 721, True), ("stretch", 0.3, False), ("stretch", 3.1, True)],
)
def test_an_angle_and_a_stretch_lie_where_a_fastener_can_go(way, size, refused):
    spec = BoltSpec(way, source="sheet", **{"angle_deg" if way == "angle" else "stretch_mm": float(size)})
    drawn = Drawn(Joint("a", "Plate", "clamp", (Bolt(1, spec=spec),)))
    if refused:
        with pytest.raises(OutOfRange):
            permit_drawn(drawn, JobState())
    else:
        assert permit_drawn(drawn, JobState()) == drawn
