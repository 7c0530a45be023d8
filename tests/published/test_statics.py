"""Rules of the job held against mechanics done another way: energy, vectors, circles.

The referees are written here from first principles with numpy; none shares code with the core.
"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.geometry.toe import axle_toe, rod_change_for_toe, string_toe, toe_for_rod_change
from fair_spindle.core.springs.heights import Spring, height_change
from fair_spindle.core.springs.rubber import Arm, bushing_twist, wind_up_force

pytestmark = pytest.mark.identity


def least_energy_travel(ratio, load, spring, gas_ratio):
    """Wheel travel at which spring, gas and lifted body together hold the least energy (golden section)."""

    def energy(travel):
        compressed = 150 + ratio * travel
        return 0.5 * spring.rate * compressed**2 + spring.gas_force * gas_ratio * travel - load * travel

    low, high = -2000.0, 2000.0
    golden = (np.sqrt(5) - 1) / 2
    for _ in range(120):
        one, other = high - golden * (high - low), low + golden * (high - low)
        if energy(one) < energy(other):
            high = other
        else:
            low = one
    return (low + high) / 2


@given(
    st.floats(0.5, 1.3),
    st.floats(2000, 5000),
    st.floats(20, 100),
    st.floats(20, 100),
    st.floats(0, 300),
    st.floats(0, 300),
)
def test_height_change_is_where_the_energy_is_least(ratio, load, old_rate, new_rate, old_gas, new_gas):
    """Both springs are given the free length that leaves them 150 mm compressed at travel 0 of the energy."""
    free = 5000.0
    old, new = Spring(old_rate, free, 0, old_gas), Spring(new_rate, free, 0, new_gas)
    travels = [least_energy_travel(ratio, load, spring, ratio) for spring in (old, new)]
    assert float(height_change(ratio, load, old, new)) == pytest.approx(travels[0] - travels[1], abs=0.02)


@given(st.floats(200, 450), st.floats(-0.3, 0.3), st.floats(-60, 60), st.floats(0.6, 1.0))
def test_twist_is_the_angle_between_two_arms_and_its_force_the_slope_of_its_energy(length, slope, travel, ratio):
    arm = Arm(length, slope * length, ratio)

    def direction(at):
        rise = arm.rise + ratio * at
        return np.array([np.sqrt(length**2 - rise**2), rise]) / length

    ride, clamp = direction(0.0), direction(travel)
    crossed = clamp[0] * ride[1] - clamp[1] * ride[0]
    assert float(bushing_twist(arm, travel)) == pytest.approx(np.arcsin(crossed), abs=1e-9)

    rate = 5e4

    def energy(at):
        here = direction(at)
        return 0.5 * rate * np.arcsin(clamp[0] * here[1] - clamp[1] * here[0]) ** 2

    force = (energy(1e-3) - energy(-1e-3)) / 2e-3
    torque = rate * float(bushing_twist(arm, travel))
    assert float(wind_up_force(arm, torque)) == pytest.approx(force, rel=1e-4, abs=1e-3)


@pytest.mark.parametrize("side", [1, -1], ids=["left", "right"])
@pytest.mark.parametrize("steer", ["ahead", "behind"])
@given(change=st.floats(-3, 3), lever=st.floats(80, 160))
def test_a_longer_rod_turns_the_wheel_as_two_circles_say(side, steer, change, lever):
    """Plan view, x forward, y left: the stud swings about the steering axis, the rod about its inner joint."""
    axis = np.array([0.0, 600.0 * side])
    stud = axis + np.array([lever if steer == "ahead" else -lever, 0.0])
    inner = np.array([stud[0], 250.0 * side])
    rod = abs(stud[1] - inner[1]) + change

    def too_long(steered):
        """How much further the stud is than the rod reaches, with the wheel steered to the left."""
        turn = np.array([[np.cos(steered), -np.sin(steered)], [np.sin(steered), np.cos(steered)]])
        return np.hypot(*(axis + turn @ (stud - axis) - inner)) - rod

    low, high = -0.1, 0.1
    assert too_long(low) * too_long(high) < 0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if too_long(low) * too_long(middle) > 0 else (low, middle)
    toe_in = -side * low
    assert float(toe_for_rod_change(change, lever, steer)) == pytest.approx(toe_in, rel=2e-3, abs=2e-5)
    assert float(rod_change_for_toe(toe_in, lever, steer)) == pytest.approx(change, rel=2e-3, abs=2e-3)


@given(st.floats(-0.05, 0.05), st.floats(300, 700), st.floats(20, 80))
def test_string_gaps_of_a_rotated_wheel_give_its_toe(toe, across, gap):
    """A left wheel toed in by an angle: its front edge moves to the right, away from the string at the left."""
    half = across / 2
    front = np.array([half * np.cos(toe), -half * np.sin(toe)])
    string = gap + half * 0.06
    assert string_toe(string - front[1], string + front[1], across) == pytest.approx(toe, abs=1e-12)


@given(st.floats(-0.02, 0.02), st.floats(-0.02, 0.02), st.floats(10, 20), st.floats(-0.01, 0.01))
def test_a_car_running_straight_has_its_front_wheels_mean_along_the_rear_thrust(left, right, ratio, rear):
    axle = axle_toe(left, right, ratio, rear)
    steered = axle.steering_wheel / ratio
    headings = (-left - steered, right - steered)
    assert np.mean(headings) == pytest.approx(-rear, abs=1e-12)
    assert axle.total == pytest.approx(headings[1] - headings[0])
