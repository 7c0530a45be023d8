"""Sides, signs and ends that could once be swapped in the core without a test noticing."""

from types import SimpleNamespace

import numpy as np
import pytest
from planner import Order
from test_fastening import SPEC, Bench, to_snug, work
from test_geometry_of_cars import ANGLES, TAPE, record, surely, typed

from fair_spindle.core.basics.errors import OutOfRange
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.joblog.agenda import blocks_left
from fair_spindle.core.joblog.joint_maps import permit_drawn
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Drawn, Entered, Event, Planned
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.clock import minutes_of
from fair_spindle.core.predict.correcting import _worth_turning
from fair_spindle.core.predict.evidence import Evidence
from fair_spindle.core.predict.geometry import solid_axles_of, wheels_of
from fair_spindle.core.predict.ride_height import Sitting
from fair_spindle.core.predict.settled import look_settled
from fair_spindle.core.review.before_and_after import Beside

LINKS = {
    "lower_body": (400, 380, -40), "lower_axle": (0, 420, -60), "upper_body": (260, 250, 120),
    "upper_axle": (20, 200, 150), "panhard_end": (-110, 480, 30), "wheel_center": (0, 740, 0),
}  # fmt: skip


def test_pivots_lie_behind_their_joint_by_the_lead_that_was_measured():
    common = [Entered("front.layout", choice="double_wishbone"), Entered("front.steer", choice="behind")]
    tape = [typed(f"front.{name}", repr(float(size))) for name, size in {**TAPE, "left.lower.lead": 45}.items()]
    corner = wheels_of(surely(record(*common, *tape)), ANGLES)["front.left"].corner
    middle = (corner.point("lower_front") + corner.point("lower_rear")) / 2
    assert corner.point("lower_ball")[0] - middle[0] == pytest.approx(45, abs=0.01)


def test_a_solid_axle_has_each_side_s_own_points():
    own = [Entered("rear.layout", choice="solid_links")]
    for side, sign, longer in (("left", 1, 0), ("right", -1, 35)):
        for name, (x, y, z) in LINKS.items():
            at = {"x": Typed(str(x + longer), "mm"), "y": Typed(str(sign * y), "mm"), "z": Typed(str(z), "mm")}
            own.append(Entered(f"rear.{side}.point.{name}", "point", at))
    (axle,) = solid_axles_of(record(*own))
    ends = {link.inner[0] for link in axle.solid.links}
    assert {400.0, 435.0, 260.0, 295.0} <= ends
    assert {link.inner[0] for link in axle.solid.links if link.inner[1] < 0} >= {435.0, 295.0}


def test_a_height_is_off_its_prediction_only_beyond_both_their_doubts():
    """Both doubts add as squares (GUM, 5.1.2): 8 mm and 2 × 3 mm make 10 mm."""
    wheel = SimpleNamespace(key="front.left", predicted=350.0, predicted_plus_minus=8.0)
    readings = readings_now(JobState(), WORK)
    for miss, told in ((9.5, False), (10.5, True), (-9.5, False), (-10.5, True)):
        after = {"front.left": Quantity(350.0 + miss, 3.0)}
        found = look_settled(readings, Sitting(wheels=(wheel,)), after, [])
        assert any("more than its ± 10.0" in one.message for one in found) == told


def test_what_is_left_of_a_job_takes_the_middle_of_each_step_s_minutes():
    order = Order(("tie_rods", "front"))
    state = derive([Event("e1", 1, "2031-03-03T09:00:00Z", Planned(order.known.brief, order.plan.steps, ()))], WORK)
    blocks = blocks_left(state, template_now(state, WORK), "2031-03-03T09:00:00Z")
    steps = template_now(state, WORK).steps
    middle = sum(minutes_of(step, "least") + minutes_of(step, "most") for step in steps) / 2
    assert sum(block.minutes for block in blocks) == pytest.approx(middle)
    assert {block.where for block in blocks} == {step.where for step in steps}


@pytest.mark.parametrize(
    ("before", "after", "worth"),
    [
        ((1.5, 0.2), (0.9, 0.2), True),
        ((1.1, 0.9), (0.95, 0.9), True),
        ((1.5, 0.2), (0.9, 1.1), False),
        ((0.9, 0.2), (0.8, 0.2), False),
        ((3.0, 3.0), (1.2, 1.2), True),
        ((1.1, 0.0), (-1.2, 0.0), False),
    ],
    ids=[
        "cures one",
        "cures one by little",
        "cures one and spoils another",
        "inside already",
        "much nearer on the whole",
        "to the other side",
    ],
)
def test_a_correction_is_worth_turning_for(before, after, worth):
    names = ("toe", "camber")
    wanted = SimpleNamespace(targets=dict.fromkeys(names, 0.0), tolerances=dict.fromkeys(names, 1.0))
    now = SimpleNamespace(wanted=wanted, before=dict(zip(names, before, strict=True)))
    plan = SimpleNamespace(after=dict(zip(names, after, strict=True)))
    assert _worth_turning([now], [plan]) is worth


def test_drawn_inputs_follow_drawn_readings_towards_what_was_read():
    one = np.ones((1, 1))
    known = Evidence({}, ("rate",), np.ones(1), ("height",), np.ones(1), one, 0.5 * one)
    # Half way from the drawn input to the drawn reading: both are as sure as each other.
    assert known.follow(np.array([[1.0]]), np.array([[3.0]])).tolist() == [[2.0]]


@pytest.mark.parametrize(("reading", "off"), [("94.9", True), ("95", False), ("105", False), ("105.1", True)])
def test_a_torque_at_the_edge_of_its_tolerance_is_as_specified(reading, off):
    bench = Bench(Joint("a", "Plate", "clamp", (Bolt(1, spec=SPEC),)))
    bench.do(*to_snug(), work("torqued", reading=reading))
    assert (("blocks", "reading_off") in bench.findings()) is off


def test_a_change_is_after_less_before_and_a_miss_is_after_less_predicted():
    beside = Beside("front.left", "toe", Quantity(0.3, 0.03), 0.1, 0.12, 0.05, Quantity(0.1, 0.04))
    assert (beside.change.value, beside.change.uncertainty) == (pytest.approx(-0.2), pytest.approx(0.05))
    assert beside.miss == pytest.approx(-0.02)
    assert not beside.beyond


@pytest.mark.parametrize(
    ("length", "refused"), [(-1.0, True), (0.0, False), (92.0, False), (1000.0, False), (1001.0, True)]
)
def test_a_bolts_length_lies_within_a_metre(length, refused):
    drawn = Drawn(Joint("a", "Plate", "clamp", (Bolt(1, length_mm=length),)))
    if refused:
        with pytest.raises(OutOfRange, match="between 0 and 1000 mm"):
            permit_drawn(drawn, JobState())
    else:
        assert permit_drawn(drawn, JobState()) == drawn
