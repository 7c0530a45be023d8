"""Springs, bars and the whole car's heights held against handbooks and against least energy."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import Inconsistent, InputError, NoSolution, OutOfRange
from fair_spindle.core.basics.refit import refit
from fair_spindle.core.springs.car_heights import Leg, Stance, cross_weight, settle_car, spring_length
from fair_spindle.core.springs.perches import PerchGoals, perch_place, perch_turns
from fair_spindle.core.springs.springs import (
    BOUND,
    Coil,
    coil_curve,
    coil_rate,
    in_series,
    leaf_rate,
    stack_under_load,
    table_curve,
    torsion_bar_rate,
    two_stage_curve,
)
from fair_spindle.core.springs.sway_bar import bar_rates, link_for_no_preload, preload, wheel_rate

CAR = Stance(2600.0, 1500.0, 1480.0, 12.0, 6.0)
LOADS = np.array([3600.0, 3400.0, 2700.0, 2900.0])
DEAD = np.array([420.0, 420.0, 380.0, 380.0])


@pytest.mark.published
def test_a_textbook_helical_spring():
    """Shigley's Mechanical Engineering Design, 10th edition, example 10-1, from memory: music wire 0.037 in, outside
    diameter 7/16 in, D = 0.400 in, 10.5 active coils, G = 11.85 Mpsi: k = 4.13 lbf/in."""
    inch, pound = 25.4, 4.4482216
    shear = 11.85e6 * pound / inch**2
    rate = coil_rate(0.037 * inch, 0.400 * inch, 10.5, shear)
    assert rate * inch / pound == pytest.approx(4.13, abs=0.005)


@pytest.mark.published
def test_a_torsion_bar_is_a_round_shaft():
    """Machinery's Handbook, torsion of round shafts, from memory: θ = 584 T L /(G d⁴), θ in degrees."""
    torque, length, diameter, shear = 200e3, 900.0, 22.0, 79300.0
    degrees = 584 * torque * length / (shear * diameter**4)
    arm = 300.0
    force = torque / arm
    travel = arm * np.radians(degrees)
    assert torsion_bar_rate(diameter, length, arm) == pytest.approx(force / travel, rel=0.5 / 584)
    bar = bar_rates(diameter, length, [arm])[0]
    assert bar == pytest.approx(2 * force / travel, rel=0.5 / 584), "both ends moved twist it twice as far"


@pytest.mark.referee
def test_a_leaf_pack_of_one_leaf_is_a_beam_and_a_graduated_one_is_a_triangle():
    """Roark's Formulas for Stress and Strain, beam on two supports: δ = F L³/(48 E I), from memory."""
    width, thickness, span, modulus = 60.0, 9.0, 1200.0, 207000.0
    inertia = width * thickness**3 / 12
    assert leaf_rate(width, thickness, 1, 1, span) == pytest.approx(48 * modulus * inertia / span**3)
    triangle = 32 * modulus * (5 * inertia) / span**3
    graduated = leaf_rate(width, thickness, 5, 1, span) / (3 + 2 * 4) * 2 * 5
    assert graduated == pytest.approx(triangle), "leaves cut to a triangle bend in an arc: two thirds as stiff"


@pytest.mark.identity
@given(st.floats(20, 120), st.floats(2, 10), st.floats(0, 6000))
def test_a_stack_as_a_curve_is_the_stack_under_load(main, helper, load):
    springs = [Coil(main, 220.0, 80.0), Coil(helper, 70.0, 20.0)]
    whole = in_series([coil_curve(one) for one in springs], 4.0)
    found = stack_under_load(springs, load)
    give = 2 * load / BOUND + 1e-6
    assert float(whole.free - whole.compression(load)) == pytest.approx(found.total + 4.0, abs=give)
    if not any(found.at_solid):
        assert found.rate == pytest.approx(1 / (1 / main + 1 / helper))


@pytest.mark.identity
def test_curves_bend_where_they_are_told_and_are_refused_where_they_cannot_be():
    two = two_stage_curve(20.0, 60.0, 800.0, 300.0, 120.0)
    assert two.force([20.0, 60.0])[0].tolist() == [400.0, 2000.0]
    assert two.force(60.0)[1] == 60.0
    assert two.force(-5.0) == (0.0, 0.0), "a loose spring does not pull"
    table = table_curve([290.0, 270.0, 240.0], [200.0, 700.0, 2200.0])
    assert table.free == pytest.approx(298.0), "on to nothing at the first rate"
    assert float(table.force(table.compression(1500.0))[0]) == pytest.approx(1500.0)
    for wrong in (([300.0, 310.0], [0.0, 5.0]), ([300.0, 290.0], [5.0, 5.0])):
        with pytest.raises(Inconsistent):
            table_curve(*wrong)
    with pytest.raises(OutOfRange, match="second rate"):
        two_stage_curve(20.0, 60.0, 9000.0, 300.0, 120.0)
    with pytest.raises(InputError):
        in_series([])


def same_legs(ratio=0.9, rate=40.0):
    curve = coil_curve(Coil(rate, 400.0))
    return [
        Leg(curve, float(spring_length(curve, load - dead, ratio, 0.0)), ratio)
        for load, dead in zip(LOADS, DEAD, strict=True)
    ]


@pytest.mark.identity
def test_no_change_gives_no_change_and_a_small_one_the_closed_form():
    legs = same_legs()
    still = settle_car(replace(CAR, tyre_rate=220.0), LOADS, DEAD, legs)
    assert np.allclose(still.height_change, 0.0, atol=1e-9)
    assert np.allclose(still.loads, LOADS, atol=1e-6)
    raised = [replace(leg, length=leg.length - 0.01) for leg in legs]
    up = settle_car(CAR, LOADS, DEAD, raised)
    assert np.allclose(up.height_change, 0.01 / 0.9, atol=1e-9), (
        "a seat raised all round lifts by its height over ratio"
    )
    both = np.array([0.0, 1.0])
    front = [replace(leg, length=leg.length - both) for leg in legs[:2]] + legs[2:]
    lifted = settle_car(CAR, LOADS, DEAD, front)
    assert lifted.height_change[:, :2] == pytest.approx(np.array([[0, 0], [1 / 0.9, 1 / 0.9]]), abs=1e-9)


@pytest.mark.identity
def test_a_car_that_cannot_rest_says_so():
    legs = same_legs()
    gone = [replace(leg, curve=coil_curve(Coil(2.0, 300.0)), length=280.0) for leg in legs]
    with pytest.raises(NoSolution, match="does not come to rest"):
        settle_car(CAR, LOADS, DEAD, gone)
    with pytest.raises(Inconsistent, match="carry part of the load"):
        spring_length(coil_curve(Coil(40.0, 300.0)), 1000.0, 1.0, 2000.0)


@pytest.mark.identity
def test_a_forced_link_shifts_cross_weight_and_the_free_length_takes_it_away():
    end = bar_rates(24.0, 900.0, [250.0])[0]
    force = preload(end, 8.0)
    forced = settle_car(replace(CAR, bar_front=wheel_rate(end, 1.0), preload=(force, 0.0)), LOADS, DEAD, same_legs())
    shift = float(cross_weight(forced.loads)[0] - cross_weight(LOADS))
    assert abs(shift) > 0.002
    assert forced.height_change[0, 0] < 0 < forced.height_change[0, 1], "pressed down at the left, up at the right"
    gap = 8.0
    upright = np.sqrt(140.0**2 - 30.0**2) + gap
    assert link_for_no_preload(140.0, gap, 30.0) == pytest.approx(np.hypot(upright, 30.0))
    with pytest.raises(NoSolution):
        link_for_no_preload(100.0, -120.0)


@pytest.mark.identity
def test_where_only_heights_are_wanted_a_flat_change_turns_all_four_alike():
    legs = same_legs(ratio=1.0)

    def car(turns):
        found = settle_car(
            CAR, LOADS, DEAD, [replace(g, length=g.length - 2.0 * turns[:, n]) for n, g in enumerate(legs)]
        )
        return 340.0 + found.height_change, found.loads

    found = perch_turns(car, PerchGoals(np.full(4, 346.0), None), np.full(4, -20.0), np.full(4, 20.0), 0.25)
    assert found.set_turns.tolist() == [3.0] * 4
    place = perch_place(1.0, 3000.0, 0.0, 470.0, 6.0, 40.0, [Coil(40.0, 220.0)], 2.0, 150.0)
    before = perch_place(1.0, 3000.0, 0.0, 470.0, 0.0, 40.0, [Coil(40.0, 220.0)], 2.0, 150.0)
    assert place.turns_up - before.turns_up == pytest.approx(3.0), "on the bench as on the car"


@pytest.mark.identity
@given(st.floats(0.7, 1.1), st.floats(0.01, 0.05), st.floats(-4, 4))
def test_a_refit_of_a_straight_line_is_the_weighted_mean(believed, spread, off):
    """Referee: the weighted mean of two independent readings of one thing, by any textbook of statistics."""
    slope, noise = 40.0, 1.0
    read = slope * believed + off
    found = refit(lambda x: slope * x, np.array([believed]), np.array([spread]), np.array([read]), np.array([noise]))
    own, other = 1 / spread**2, slope**2 / noise**2
    assert found.values[0] == pytest.approx((believed * own + read / slope * other) / (own + other))
    assert found.uncertainties[0] == pytest.approx((own + other) ** -0.5)
