"""One corner through the job: it closes on itself, and its ± is what a simulation gives."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.floor.readings import Quantity
from fair_spindle.core.front_axle import Corner, _toe_with, _turns_on, clamped_twist, plan_corner
from fair_spindle.core.heights import Spring, height_change
from fair_spindle.core.rubber import Arm, arm_angle, bushing_twist, clamp_window
from fair_spindle.core.spelling import read_number
from fair_spindle.core.threads import RodEnd, transfer_turns

BASE = {
    "height": (372.0, 0.7), "toe": (0.0017, 0.0005), "bump_slope": (-9e-5, 1e-5), "motion_ratio": (0.96, 0.01),
    "sprung_load": (3200.0, 60.0), "spring.rate": (28.0, 0.5), "spring.free": (385.0, 1.2), 
    "new_spring.rate": (34.0, 0.6),
    "new_spring.free": (338.0, 1.2), "tie.lever": (118.0, 1.7), "tie.pitch": (1.5, 0.0), "tie.end": (84.0, 0.3),
    "new_end.length": (87.5, 0.3), "tie.turns_off": (21.33, 0.05), "tie.engagement": (18.0, 0.0),
    "lower.length": (332.0, 2.9), "lower.rise": (-14.0, 1.7),
}  # fmt: skip


def corner(steer="behind", **changes):
    values = {name: Quantity(*pair) for name, pair in BASE.items()}
    values |= {name: Quantity(value) for name, value in changes.items()}
    return Corner(values, {"steer": steer})


@pytest.mark.identity
@given(
    st.sampled_from(["ahead", "behind"]),
    st.floats(-0.01, 0.01),
    st.floats(60, 110),
    st.floats(10, 30),
    st.floats(-2e-4, 2e-4),
)
def test_exact_turns_bring_toe_on_target(steer, target, end_new, turns_off, slope):
    one = corner(steer, toe_target=target, end_new=end_new, turns_off=turns_off, bump_slope=slope)
    inputs = one.shifted.inputs
    turns = _turns_on(one)(inputs)[0]
    assert _toe_with(steer, turns)(inputs)[0] == pytest.approx(target, abs=1e-12)


@pytest.mark.identity
def test_set_turns_are_within_half_a_flat_and_plain_counting_misses_by_the_new_end():
    turns = plan_corner(corner()).turns
    half_flat_of_toe = 1.5 / 12 / 118
    assert abs(turns.toe_reached.value - BASE["toe"][0]) <= half_flat_of_toe + 1e-12
    height = float(height_change(0.96, 3200, Spring(28, 385), Spring(34, 338)))
    assert turns.plain_error == pytest.approx(3.5 / 118 + 9e-5 * height, abs=1e-9)


@pytest.mark.referee
def test_uncertainty_agrees_with_simulation():
    """Referee: numpy's random generator, as JCGM 101 propagates distributions (50,000 samples)."""
    one, rng = corner(), np.random.default_rng(8)
    samples = {name: rng.normal(*pair, 50_000) for name, pair in BASE.items()}
    old = Spring(samples["spring.rate"], samples["spring.free"])
    new = Spring(samples["new_spring.rate"], samples["new_spring.free"])
    samples["height_change"] = height_change(samples["motion_ratio"], samples["sprung_load"], old, new)
    spread = 2 * np.std(_turns_on(one)(samples))
    assert plan_corner(one).turns.turns_on.plus_minus == pytest.approx(spread, rel=0.03)


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


def test_window_moves_to_the_measured_ride_height_and_judges_old_clamps_by_it():
    predicted = plan_corner(corner())
    settled = corner(check_height=330.0)
    plan = plan_corner(settled)
    assert plan.window.measured
    assert plan.window.about == 330.0
    assert predicted.window.about == pytest.approx(372 - 26, abs=2)
    assert clamped_twist(settled, plan, 330.0) == pytest.approx(0)
    assert np.degrees(clamped_twist(settled, plan, 372.0)) > 5


@pytest.mark.identity
@given(st.floats(0.7, 2), st.floats(0.7, 2), st.floats(40, 120), st.floats(5, 40))
def test_transfer_keeps_the_length_within_half_a_step(old_pitch, new_pitch, end, turns):
    out = transfer_turns(RodEnd(old_pitch, end), turns, RodEnd(new_pitch, end + 60), 10)
    assert abs(out.length_error) <= new_pitch / 12 + 1e-9


@pytest.mark.parametrize(
    ("text", "quantity", "unit", "value"),
    [
        ("1 3/8 in", "length", "mm", 34.925),
        ("372,5", "length", "mm", 372.5),
        ("−0°20'", "angle", "deg", -np.pi / 540),
        ("12'", "angle", "deg", np.pi / 900),
        ("20 tpi", "pitch", "pitch_mm", 1.27),
        ("1.25", "motion_ratio", "wheel_per_spring", 0.8),
        ("21 f", "count", "turn", 3.5),
        (".5", "length", "in", 12.7),
    ],
)
def test_numbers_are_read_as_tuners_write_them(text, quantity, unit, value):
    assert read_number(text, quantity, unit, "x").value == pytest.approx(value)
