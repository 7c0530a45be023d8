"""Bushings at the edges of their arms and shackles, and torques at the edges of what is usual: by hand.

Angles follow from the sine of a level arm; classes and proof stresses are those of ISO 898-1 (from memory).
"""

import re
from math import asin, pi, radians, sqrt

import numpy as np
import pytest

from fair_spindle.core.basics.errors import SpindleError
from fair_spindle.core.basics.units import to_core
from fair_spindle.core.bolts.fasteners import (
    assumed_class,
    doubt_torque,
    odd_thread,
    proof_stress,
    reading_matches,
    share_of_proof,
    thread_name,
)
from fair_spindle.core.springs.rubber import (
    Arm,
    Shackle,
    arm_angle,
    clamp_window,
    shackle_angle,
    swing_angle,
    swing_window,
    wind_up_force,
)

FLAT, SHACKLE = Arm(300.0, 0.0), Shackle(100.0, 0.2, 1300.0, 60.0)


@pytest.mark.identity
def test_a_window_ends_where_the_arm_would_stand_upright():
    """An arm of 100 that rises 95 has 5 mm to go to upright, whatever its bushing would take."""
    low, high = clamp_window(Arm(100.0, 95.0), 1.0)
    assert high == pytest.approx(5.0)
    assert low == pytest.approx(100 * np.sin(asin(0.95) - 1.0) - 95)
    low, high = clamp_window(Arm(100.0, -95.0), 1.0)
    assert low == pytest.approx(-5.0)
    low, high = clamp_window(Arm(300.0, 0.0, 0.6), radians(2))
    assert (low, high) == pytest.approx((-300 * np.sin(radians(2)) / 0.6, 300 * np.sin(radians(2)) / 0.6))
    assert swing_window(FLAT, radians(5)) == clamp_window(FLAT, radians(5)) != clamp_window(FLAT)


@pytest.mark.identity
def test_the_force_of_a_wound_bushing_is_its_torque_over_the_level_reach_of_its_arm():
    arm = Arm(300.0, 90.0, 0.7)
    assert float(wind_up_force(arm, 1000.0)) == pytest.approx(1000.0 * 0.7 / sqrt(300.0**2 - 90.0**2))
    alone = [float(wind_up_force(arm, one)) for one in (1.0, 2.0)]
    assert wind_up_force(arm, [1, 2]).tolist() == pytest.approx(alone)


@pytest.mark.identity
@pytest.mark.parametrize("travel", [-25.0, 12.0, 30.0])
def test_the_eye_at_a_shackle_s_foot_turns_with_the_leaf_s_end_too(travel):
    """The three-quarter link of SAE HS-788 (from memory): the leaf's end turns as a link of 0.75 of its half."""
    grown = 8 * (60.0**2 - (60.0 - travel) ** 2) / (3 * 1300.0)
    alone = asin(np.sin(0.2) + grown / 100.0) - 0.2
    assert float(shackle_angle(SHACKLE, travel)) == pytest.approx(alone)
    foot = Shackle(100.0, 0.2, 1300.0, 60.0, 650.0)
    told = float(shackle_angle(foot, travel))
    assert told == pytest.approx(np.sign(travel) * abs(alone) + travel / (0.75 * 650.0))
    assert abs(told) > abs(alone)


def test_what_turns_is_asked_by_its_own_rule():
    assert float(swing_angle(FLAT, 10.0)) == float(arm_angle(FLAT, 10.0)) == pytest.approx(asin(1 / 30))
    assert float(swing_angle(SHACKLE, 10.0)) == float(shackle_angle(SHACKLE, 10.0))


@pytest.mark.parametrize("limit", [radians(0.5), radians(2), radians(3)])
def test_a_shackle_s_window_ends_with_the_last_tenth_inside_its_limit(limit):
    low, high = swing_window(SHACKLE, limit)
    for edge, way in ((low, -0.1), (high, 0.1)):
        assert abs(float(shackle_angle(SHACKLE, edge))) <= limit
        assert abs(float(shackle_angle(SHACKLE, edge + way))) > limit
    stiff = swing_window(SHACKLE, 1e-6)
    assert stiff == (0.0, 0.0)
    free = swing_window(Shackle(60.0, 0.9, 900.0, 90.0), pi / 2)
    assert free[1] < 200, "it ends where the shackle can follow no further"


@pytest.mark.published
def test_proof_stress_by_class_and_diameter():
    """Source: ISO 898-1, stresses under proof load (from memory)."""
    told = {("8.8", 16.0): 580, ("8.8", 16.5): 600, ("10.9", 12.0): 830, ("12.9", 12.0): 970}
    assert {key: proof_stress(*key) for key in told} == told


def test_the_weakest_class_that_bears_a_torque_is_taken_up_to_the_edge_of_what_is_usual():
    full = 0.85 * 100e3 / share_of_proof(100e3, 12.0, 1.75, "8.8")
    assert assumed_class(full * (1 - 1e-9), 12.0, 1.75, None) == "8.8"
    assert assumed_class(full * (1 + 1e-9), 12.0, 1.75, None) == "10.9"
    assert assumed_class(1e9, 12.0, 1.75, None) == "10.9", "nothing stronger is taken for granted"
    for share, doubted in ((0.1001, False), (0.0999, True), (0.8499, False), (0.8501, True)):
        number = share * 100e3 / share_of_proof(100e3, 10.0, 1.5, "10.9") / 1e3
        assert (doubt_torque(number, "nm", 10.0, 1.5, "10.9") is not None) == doubted, share


@pytest.mark.parametrize(
    ("number", "unit", "grade", "side", "said", "meant"),
    [
        (120.0, "lb_ft", "10.9", "more", "class 10.9 to", "Was 120 N·m meant?"),
        (6.0, "nm", None, "less", "class 8.8 (assumed)", "Was 6 "),
        (9000.0, "nm", "8.8", "more", "class 8.8 to", ""),
    ],
)
def test_a_doubt_says_which_way_by_which_class_and_what_may_have_been_meant(number, unit, grade, side, said, meant):
    found = doubt_torque(number, unit, 12.0, 1.25, grade)
    assert re.search(rf", {side} than usual \(10% to 85%\)", found.message)
    assert said in found.message
    assert (meant in found.message) if meant else ("meant" not in found.message)
    assert found.share_of_proof == pytest.approx(share_of_proof(to_core(number, unit), 12.0, 1.25, grade or "8.8"))
    if found.likelier_unit:
        shares = {
            one: abs(share_of_proof(to_core(number, one), 12.0, 1.25, grade or "8.8") - 0.65)
            for one in ("nm", "lb_ft", "lb_in", "kgf_m")
            if one != unit
        }
        assert shares[found.likelier_unit] == min(shares.values())


def test_threads_beside_the_tables_and_readings_at_five_in_a_hundred():
    assert odd_thread(12.7, 25.4 / 13) == ""
    assert odd_thread(12.7, 25.4 / 13 + 0.0099) == ""
    assert "1/2 inch has 13, 20" in odd_thread(12.7, 25.4 / 13 + 0.011)
    assert odd_thread(12.7 + 0.019, 25.4 / 13) == ""
    assert odd_thread(11.0, 1.0) == "", "a diameter the tables lack is asked about by nobody"
    assert thread_name(12.0, 1.25) == "M12×1.25"
    assert reading_matches(105.0, 100.0)
    assert reading_matches(95.0, 100.0)
    assert not reading_matches(105.001, 100.0)


def test_an_arm_does_not_stand_upright_and_a_shackle_goes_no_further_than_level_with_the_leaf():
    with pytest.raises(SpindleError):
        arm_angle(Arm(300.0, 300.0), 0.0)
    # grown = 8 (80^2 - (80 - t)^2) / (3 * 900): a shackle of 60 leaning by 0.9 has 13 mm of reach left.
    reach = 60.0 * (1 - np.sin(0.9))
    low = Shackle(60.0, 0.9, 900.0, 80.0)

    def grown(travel):
        return 8 * (80.0**2 - (80.0 - travel) ** 2) / (3 * 900.0)

    last = max(one for one in np.arange(0.0, 60.0, 0.05) if grown(one) < reach)
    assert np.isfinite(shackle_angle(low, last))
    with pytest.raises(SpindleError) as refused:
        shackle_angle(low, last + 0.1)
    assert refused.value.field == "travel_at_clamp_mm"
