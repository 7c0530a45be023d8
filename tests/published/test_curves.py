"""Springs as curves, at their bends and ends: worked by hand from their definitions."""

from math import cos, pi, radians, sin

import numpy as np
import pytest
from scipy.optimize import brentq

from fair_spindle.core.basics.errors import Inconsistent, InputError
from fair_spindle.core.springs.springs import (
    Coil,
    coil_curve,
    in_series,
    leaf_rate,
    polar_moment,
    stack_under_load,
    stop_curve,
    table_curve,
    torsion_bar_rate,
    torsion_curve,
    two_stage_curve,
)


@pytest.mark.identity
def test_a_stack_tells_what_each_spring_does_and_what_still_gives():
    main, helper = Coil(50.0, 200.0, 90.0), Coil(3.0, 70.0, 15.0)
    soft = stack_under_load([main, helper], 100.0)
    assert soft.lengths == pytest.approx((198.0, 70 - 100 / 3))
    assert soft.total == pytest.approx(sum(soft.lengths))
    assert (soft.at_solid, soft.rate) == ((False, False), pytest.approx(1 / (1 / 50 + 1 / 3)))
    touching = stack_under_load([main, helper], 3.0 * 55)
    assert touching.at_solid == (False, True), "at its solid length it gives no more"
    assert touching.rate == pytest.approx(50.0)
    shut = stack_under_load([main, helper], 50.0 * 120)
    assert (shut.lengths, shut.at_solid, shut.rate) == ((90.0, 15.0), (True, True), None)


@pytest.mark.identity
def test_a_bump_stop_is_read_off_its_points_in_proportion_to_its_height():
    points = {0.0: 0, 20.0: 350, 40.0: 1100, 55.0: 2600, 67.0: 6000, 75.0: 12000, 10.0: 175, 30.0: 725}
    for pressed, force in points.items():
        assert float(stop_curve(100.0).force(pressed)[0]) == pytest.approx(force)
        assert float(stop_curve(50.0).force(pressed / 2)[0]) == pytest.approx(force)
    assert float(stop_curve(100.0).compression(725.0)) == pytest.approx(30.0)
    assert float(stop_curve(100.0).compression(18000.0)) > 75.0, "past its last point it is bound, not open"


@pytest.mark.identity
def test_a_table_goes_on_to_where_it_would_be_free():
    assert table_curve([300.0, 280.0, 250.0], [0.0, 500.0, 2000.0]).free == 300.0
    begun = table_curve([280.0, 250.0], [500.0, 2000.0])
    assert begun.free == pytest.approx(280 + 500 * 30 / 1500)
    assert float(begun.force(0.0)[0]) == 0.0
    assert float(begun.force(begun.free - 265.0)[0]) == pytest.approx(1250.0)
    assert float(begun.force(5.0)[0]) == pytest.approx(250.0)
    light = table_curve([280.0, 250.0], [0.5, 2000.0])
    assert light.free == pytest.approx(280 + 0.5 * 30 / 1999.5)
    assert float(light.force(0.0)[0]) == 0.0


@pytest.mark.parametrize(
    ("lengths", "forces", "kind"),
    [
        ([300.0], [0.0], InputError),
        ([300.0, 280.0], [0.0], InputError),
        ([300.0, 280.0, 270.0], [0.0, 500.0], InputError),
        ([300.0, 300.0], [0.0, 500.0], Inconsistent),
        ([300.0, 300.5], [0.0, 500.0], Inconsistent),
        ([300.0, 280.0], [500.0, 500.0], Inconsistent),
        ([300.0, 280.0], [500.0, 499.0], Inconsistent),
        ([300.0, 280.0], [-1.0, 500.0], Inconsistent),
    ],
)
def test_a_table_that_no_spring_gives_is_refused(lengths, forces, kind):
    with pytest.raises(kind) as refused:
        table_curve(lengths, forces)
    assert refused.value.field == "table"
    assert "table" in refused.value.message


@pytest.mark.parametrize("forces", [[0.0, 0.6], [0.2, 0.9]])
def test_a_table_of_small_forces_is_one_like_any_other(forces):
    assert float(table_curve([30.0, 29.5], forces).compression(forces[1])) > 0.4


@pytest.mark.identity
def test_two_stages_bend_once_and_end_solid():
    curve = two_stage_curve(20.0, 50.0, 1000.0, 300.0, 200.0)
    told = {25.0: 500.0, 50.0: 1000.0, 60.0: 1500.0, 100.0: 3500.0}
    for pressed, force in told.items():
        assert float(curve.force(pressed)[0]) == pytest.approx(force)
    assert float(curve.force(100.1)[0]) > 3600, "solid past 100 mm"
    both = in_series([coil_curve(Coil(50.0, 200.0, 90.0)), coil_curve(Coil(25.0, 100.0, 40.0))], 7.0)
    assert both.free == 307.0
    assert float(both.compression(500.0)) == pytest.approx(500 / 50 + 500 / 25)


@pytest.mark.identity
@pytest.mark.parametrize(
    ("rate", "arm", "below", "carried", "key"),
    [(25.0, 380.0, 25.0, 3000.0, 0.0), (25.0, 380.0, 25.0, 3000.0, 3.0), (40.0, 300.0, -5.0, 2500.0, -2.0),
     (12.0, 320.0, 30.0, 3500.0, 0.0)],
)  # fmt: skip
def test_a_torsion_bar_pulls_as_its_twist_and_lever_say(rate, arm, below, carried, key):
    """F L cos a = k (a_free - a), k = rate L^2; the angle for a height found by scipy's root finder."""
    curve, at = torsion_curve(rate, arm, radians(below), carried, radians(key))
    stiff = rate * arm**2
    free = radians(below) + carried * arm * cos(radians(below)) / stiff + radians(key)

    def pull(angle):
        return stiff * (free - angle) / (arm * cos(angle))

    assert float(curve.force(at)[0]) == pytest.approx(pull(radians(below)), rel=2e-4)
    for up in (-30.0, 20.0, 45.0):
        angle = brentq(lambda a, up=up: arm * (sin(radians(below)) - sin(a)) - up, -1.3, 1.4)
        # The compression falls as the body rises: the arm then hangs steeper.
        assert float(curve.force(at + up)[0]) == pytest.approx(pull(angle), rel=1e-3)
    assert curve.free == 2 * arm
    assert float(curve.force(0.0)[0]) == pytest.approx(0.0, abs=1e-6)
    assert np.all(np.diff(curve.forces) > 0)


def test_a_bar_that_is_never_free_within_its_swing_still_begins_at_nothing():
    """So soft that it would hang past upright: the curve goes on in a straight line to where it pulls nothing."""
    curve, at = torsion_curve(5.0, 300.0, radians(40), 4000.0)
    assert float(curve.force(0.0)[0]) == 0.0
    assert at > 0
    assert curve.compressions[0] == 0.0
    assert np.all(np.diff(curve.compressions) > 0)
    slope = (curve.forces[2] - curve.forces[1]) / (curve.compressions[2] - curve.compressions[1])
    assert curve.forces[1] / curve.compressions[1] == pytest.approx(slope, rel=1e-6)


@pytest.mark.identity
def test_leaves_and_bars_by_hand():
    shape = 3 * 2 + 2 * (5 - 2)
    assert leaf_rate(60, 8, 5, 2, 1200, 206e3) == pytest.approx(2 * 206e3 * 60 * 8**3 * shape / (12 * 600**3))
    assert polar_moment(24.0, 16.0) == pytest.approx(pi * (24**4 - 16**4) / 32)
    hollow = torsion_bar_rate(24.0, 900.0, 300.0, 16.0, 80e3)
    assert hollow == pytest.approx(80e3 * pi * (24**4 - 16**4) / 32 / (300.0**2 * 900.0))
    assert torsion_bar_rate(24.0, 900.0, 300.0, shear_modulus=80e3) > hollow
