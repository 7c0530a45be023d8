"""One wheel known by its own springs and thread: it closes on itself, and its ± is what a simulation gives."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.threaded_ends import carry
from fair_spindle.core.predict.ride_height import sit
from fair_spindle.core.predict.sprung_car import COIL_SET, sprung_car
from fair_spindle.core.springs.heights import Spring, height_change
from fair_spindle.core.springs.rubber import Arm, arm_angle, bushing_twist, clamp_window
from fair_spindle.core.turns.threads import RodEnd, joint_to_stud

SPRINGS = {
    "motion_ratio": (0.96, 0.01), "left.sprung_load": (3200.0, 60.0), "spring.rate": (28.0, 0.5),
    "spring.free": (385.0, 1.2), "new_spring.rate": (34.0, 0.6), "new_spring.free": (338.0, 1.2),
}  # fmt: skip
END = {
    "tie.pitch": (1.5, 0.0), "tie.end": (84.0, 0.3), "new_end.length": (87.5, 0.3), "tie.turns_off": (21.33, 0.05),
}  # fmt: skip


def told(values):
    return {f"front.{name}": Quantity(*pair) for name, pair in values.items()}


@pytest.mark.identity
@given(st.floats(0.7, 2), st.floats(0.7, 2), st.floats(60, 110), st.floats(60, 110), st.floats(10, 30))
def test_exact_turns_keep_joint_to_stud_and_whole_flats_miss_by_half_a_flat(old, new, end, end_new, off):
    values = {"tie.pitch": old, "new_end.pitch": new, "tie.end": end, "new_end.length": end_new, "tie.turns_off": off}
    one = carry({f"rear.right.{name}": Quantity(value) for name, value in values.items()}, "rear.right.tie")
    before = joint_to_stud(RodEnd(old, end), off)
    assert joint_to_stud(RodEnd(new, end_new), one.exact) == pytest.approx(before)
    assert abs(joint_to_stud(RodEnd(new, end_new), one.on) - before) <= new / 12 + 1e-9
    assert one.longer == pytest.approx(end_new - end)


@pytest.mark.referee
def test_the_uncertainty_of_turns_agrees_with_simulation():
    """Referee: numpy's random generator, as JCGM 101 propagates distributions (50,000 samples)."""
    rng = np.random.default_rng(8)
    drawn = {name: rng.normal(*pair, 50_000) for name, pair in END.items()}
    longer = drawn["new_end.length"] - drawn["tie.end"] + drawn["tie.turns_off"] * drawn["tie.pitch"]
    one = carry({f"front.left.{name}": Quantity(*pair) for name, pair in END.items()}, "front.left.tie")
    assert one.plus_minus == pytest.approx(2 * np.std(longer / drawn["tie.pitch"]), rel=0.03)


@pytest.mark.referee
def test_an_axle_by_itself_sits_where_the_formula_says_with_the_spread_of_a_simulation():
    """Referee: numpy's random generator, as JCGM 101 propagates distributions (50,000 samples); nobody weighed the
    car."""
    rng = np.random.default_rng(8)
    drawn = {name: rng.normal(*pair, 50_000) for name, pair in SPRINGS.items()}
    old, new = (Spring(drawn[f"{which}.rate"], drawn[f"{which}.free"]) for which in ("spring", "new_spring"))
    changes = height_change(drawn["motion_ratio"], drawn["left.sprung_load"], old, new)
    changes -= rng.normal(0, COIL_SET, 50_000) / 0.96
    both = told(SPRINGS | {"right.sprung_load": SPRINGS["left.sprung_load"]})
    readings = Readings(Sheet(), both, {"front.new_spring.fit": "coil"})
    wheel = sit(sprung_car(readings, None), {"front.left.height": Quantity(372.0, 1.0)}).wheels[0]
    assert wheel.change == pytest.approx(float(height_change(0.96, 3200, Spring(28, 385), Spring(34, 338))))
    assert wheel.plus_minus == pytest.approx(2 * np.std(changes), rel=0.05)
    assert wheel.predicted == pytest.approx(372.0 + wheel.change)
    soft = replace(readings, quantities={**both, "front.new_spring.rate": Quantity(3.0)})
    assert sit(sprung_car(soft, None), {}).problem


@pytest.mark.identity
@given(st.floats(150, 500), st.floats(-0.6, 0.6), st.floats(0.01, 0.2), st.floats(0.5, 1.0))
def test_twist_meets_its_limit_at_the_edges_of_the_window(length, slope, limit, ratio):
    arm = Arm(length, length * slope, ratio)
    for travel in clamp_window(arm, limit):
        assert abs(float(bushing_twist(arm, travel))) == pytest.approx(limit, rel=1e-6)
    assert float(bushing_twist(arm, 0.0)) == 0.0
    assert float(arm_angle(arm, 0.0)) == pytest.approx(np.arcsin(slope))


@pytest.mark.identity
@given(st.floats(0.4, 1.4), st.floats(1500, 6000), st.floats(20, 120), st.floats(250, 500))
def test_the_same_spring_changes_no_height_and_a_spacer_lifts_by_its_ratio(ratio, load, rate, extra):
    spring = Spring(rate, load / ratio / rate + extra)
    assert float(height_change(ratio, load, spring, spring)) == 0
    raised = Spring(rate, spring.free_length, seat_shift=10)
    assert float(height_change(ratio, load, spring, raised)) == pytest.approx(10 / ratio)
