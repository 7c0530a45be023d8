"""Signs, sides and states that were once swapped on purpose, and no test said so."""

from dataclasses import replace

import numpy as np
import pytest
from kinds import WHOLE_CAR
from test_after_the_work import SLOPE, TURN, after
from test_after_the_work import job as toe_job
from test_fastening import SPEC, Bench, mm, to_snug, work
from test_rubber_and_heights import pivot
from test_sitting import choose, typed

from fair_spindle.core.basics.errors import NotAllowed
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.loading import height_gate
from fair_spindle.core.joblog.log import Moved
from fair_spindle.core.joblog.overnight import stands_now
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import Step
from fair_spindle.core.predict.aligned import align_car
from fair_spindle.core.predict.clamping import pivots_of, wound_up
from fair_spindle.core.springs.perches import perch_place
from fair_spindle.core.springs.springs import Coil

DEGREE = np.pi / 180


@pytest.mark.parametrize(
    ("carried", "asked", "open_"),
    [(("front", "left"), ("front", "left"), True), (("rear", "left"), ("front", "left"), False),
     (("front", "left"), ("rear", "left"), False), (("rear", "right"), ("rear", "right"), True),
     (("rear", "right"), ("rear", "left"), False)],
)  # fmt: skip
def test_only_the_corner_that_is_carried_is_loaded(carried, asked, open_):
    state = JobState(
        position="corner_carried", carried_axle=carried[0], corner=carried[1],
        loaded_heights={f"{axle}.{side}": 360.0 for axle in ("front", "rear") for side in ("left", "right")},
    )  # fmt: skip
    evidence, why = height_gate(*asked, state, (355.0, 365.0))
    assert bool(evidence) is open_
    assert open_ or "hanging" in why
    other = replace(state, loaded_heights={"front.right" if asked[0] == "front" else "front.left": 360.0})
    assert height_gate(*asked, other, (355.0, 365.0))[0] is None, "another wheel's height is no evidence"


def test_no_taper_goes_down_loose_or_on_its_threads_alone():
    taper = Joint("ball", "Ball joint", "taper", (Bolt(1, spec=SPEC),), "front", "left")
    bench = Bench(taper).do(Moved("hanging"), work("loose", joint="ball"))
    with pytest.raises(NotAllowed, match="Ball joint, place 1 must be snug first"):
        bench.do(Moved("on_wheels"))
    bench.do(work("hand", joint="ball"))
    with pytest.raises(NotAllowed, match="must be snug first"):
        bench.do(Moved("on_wheels"))
    bench.do(work("snug", joint="ball"), Moved("on_wheels"))
    assert bench.state.position == "on_wheels"


def test_read_again_where_it_was_to_stand_nothing_is_wanted_and_the_correction_goes_the_right_way():
    acts = after(f"{6 + SLOPE * 25 / DEGREE * 60:.1f}", "6", mm="335")
    _, state, readings = toe_job(*acts)
    left = align_car(state, readings)[1]["front.left"]
    assert left.plan.wheel.travel == pytest.approx(25), "lower is bump"
    assert left.still["Tie rod"] > 0, "toed out by its slope; the rod behind the axle gets longer"
    assert left.still == left.planned, "what the height alone did was foreseen"
    assert left.comes_to["toe"][0] / DEGREE * 60 == pytest.approx(6, abs=TURN / 6 / 120 / DEGREE * 60 / 2 + 0.1)
    _, state, readings = toe_job(*after("30", "6", mm="335"))
    assert align_car(state, readings)[1]["front.left"].still["Tie rod"] < 0, "too much toe-in: shorter"


def test_a_spring_in_coil_bind_stands_on_its_solid_length_on_the_bench():
    place = perch_place(1.0, 6000.0, 0.0, 450.0, 0.0, 40.0, [Coil(40.0, 200.0, 90.0)], 2.0, 120.0)
    assert place.springs == 90.0, "150 mm asked of 110"
    assert place.from_lower_eye == 450 - 40 - 90


def test_lift_by_wound_rubber_goes_with_the_square_of_the_ratio():
    rates = (typed("front.spring.rate", 30, "rate"), typed("front.motion_ratio", 0.6, "ratio"))
    arm = (choose("front.layout", "strut"), typed("front.left.lower.length", 330), typed("front.left.lower.rise", 0))
    joint = replace(pivot("lower", "front"), bush_rate_nm_per_deg=4.0)
    bench = Bench(joint, entries=(*rates, *arm, mm("front.left.height", 360, "height", "hub_to_arch")))
    bench.do(Moved("hanging"), *to_snug(joint="arm"), work("torqued", joint="arm", override="nobody read it"))
    bench.do(Moved("corner_carried", "left"))
    found = wound_up(bench.state, bench.readings, pivots_of(bench.state, bench.readings)[0])
    assert found == [], "no height was read, so nothing is known of its twist"
    other = Bench(joint, entries=(*rates, *arm, mm("front.left.height", 360, "height", "hub_to_arch")))
    other.do(Moved("hanging"), *to_snug(joint="arm"), Moved("corner_carried", "left"))
    other.put(work("torqued", joint="arm", at_height_mm=420.0))
    lift_ = wound_up(other.state, other.readings, pivots_of(other.state, other.readings)[0])[0]
    force = 4000 * np.degrees(lift_.twist) / 330
    rate = 4000 * np.degrees(1) / 330**2
    assert lift_.lift == pytest.approx(0.75 * force / (30 * 0.6**2 + rate))


def test_a_car_is_not_driven_with_work_begun_or_off_its_wheels():
    fresh = stands_now(JobState(), WHOLE_CAR)
    assert fresh.may_be_driven
    first = Step("first", "Take it off", "hanging", "", phase=5)
    later = replace(first, key="later", title="Put it back", rests_on=("first",), phase=7)
    template: JobTemplate = replace(WHOLE_CAR, steps=(first, later))
    begun = Bench(entries=()).state
    done = replace(begun, steps={first.key: (None, type("Done", (), {"outcome": "done", "step": first.key})())})
    told = stands_now(done, template)
    assert told.begun == ("Put it back",)
    assert not told.may_be_driven
    assert not stands_now(replace(begun, position="hanging"), WHOLE_CAR).may_be_driven
