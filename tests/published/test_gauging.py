"""Repeats and instruments against the GUM's own example and scipy; wheel angles against a turned wheel."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats
from scipy.spatial.transform import Rotation

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.gauging import (
    combine_repeats,
    expand,
    instrument_uncertainty,
    propagate,
    shift_inputs,
    slope_from_two,
    student_coverage,
)
from fair_spindle.core.basics.tables import student_t
from fair_spindle.core.geometry.wheel_angles import caster_from_sweep, plates_total_toe, plumb_camber

TEMPERATURES = [
    96.90, 98.18, 98.25, 98.61, 99.03, 99.49, 99.56, 99.74, 99.89, 100.07,
    100.33, 100.42, 100.68, 100.95, 101.11, 101.20, 101.57, 101.84, 102.36, 102.72,
]  # fmt: skip


@pytest.mark.published
def test_repeated_readings_of_the_gum_s_own_example():
    """JCGM 100:2008, clause 4.4.3 and table 1, twenty temperatures; values from memory.

    Printed there: mean 100.14 (100.145), s = 1.49 (1.489), s of the mean 0.33 (0.333) °C.
    """
    reading = combine_repeats(TEMPERATURES, 0.0)
    assert reading.mean == pytest.approx(100.145, abs=0.0005)
    assert reading.uncertainty == pytest.approx(0.333, abs=0.0005)
    assert reading.uncertainty * math.sqrt(20) == pytest.approx(1.489, abs=0.0005)
    assert expand(reading, 0.0).freedom == pytest.approx(19)


@pytest.mark.published
def test_interval_and_resolution_of_the_gum_s_own_examples():
    """JCGM 100:2008: clause 4.4.5, u = 4 °C/√3 = 2.3 °C; F.2.2.1, u = 0.29 δ; 4.3.4, U = 240 µg at k = 3: 80 µg.

    From memory.
    """
    assert instrument_uncertainty(half_width=4.0) == pytest.approx(2.3, abs=0.05)
    assert instrument_uncertainty(resolution=1.0) == pytest.approx(0.29, abs=0.005)
    assert instrument_uncertainty(expanded=240.0, coverage=3.0) == pytest.approx(80.0)


@pytest.mark.published
def test_every_row_of_the_t_table_against_scipy():
    """JCGM 100:2008, table G.2, column 95.45 %; referee: scipy's Student distribution, half the last digit."""
    for freedom, printed in student_t().items():
        exact = stats.t.ppf(0.5 + 0.9545 / 2, freedom) if math.isfinite(freedom) else stats.norm.ppf(0.97725)
        digit = 0.0005 if freedom >= 100 else 0.005
        assert printed == pytest.approx(exact, abs=digit + 1e-4), freedom
    assert student_coverage(1.0) == 13.97


@pytest.mark.referee
@given(st.lists(st.floats(-500, 500), min_size=2, max_size=12), st.floats(0, 5), st.floats(0, 5))
def test_combined_reading_against_scipy(readings, resolution, expanded):
    """Referee: scipy.stats.sem for type A; variances add (clause 5.1.2)."""
    type_b = instrument_uncertainty(resolution=resolution, expanded=expanded)
    reading = combine_repeats(readings, type_b)
    sem = float(stats.sem(readings))
    variance = sem**2 + resolution**2 / 12 + (expanded / 2) ** 2
    assert reading.uncertainty == pytest.approx(math.sqrt(variance), abs=1e-9, rel=1e-9)
    stated = expand(reading, type_b)
    assert stated.plus_minus >= 2 * reading.uncertainty - 1e-9
    if sem > 1e-3:
        freedom = reading.uncertainty**4 * (len(readings) - 1) / sem**4
        assert stated.freedom == pytest.approx(freedom, rel=1e-6)


def camber_of(spindle):
    """Camber of a left wheel from its axis, pointing outward; top leaning in is negative."""
    return math.asin(float(np.dot(spindle, [0, 0, 1])) / float(np.linalg.norm(spindle))) * -1


@pytest.mark.referee
@given(st.floats(-2, 12), st.floats(-3, 3), st.floats(2, 14), st.sampled_from([10.0, 20.0, 30.0]))
def test_caster_from_a_wheel_really_turned_about_its_axis(caster, camber, lean, steer):
    """Referee: scipy's Rotation turns the wheel about a steering axis in space (frame of ISO 8855).

    The formula is of first order; over ± 30° of steer it stays within 4 % and 0.1° of the true caster.
    """
    c, k = math.radians(caster), math.radians(lean)
    axis = np.array([-math.tan(c), -math.tan(k), 1.0])
    axis /= np.linalg.norm(axis)
    spindle = np.array([0.0, math.cos(math.radians(camber)), -math.sin(math.radians(camber))])
    turned = {
        way: camber_of(Rotation.from_rotvec(angle * axis).apply(spindle))
        for way, angle in (("out", math.radians(steer)), ("in", math.radians(-steer)))
    }
    found = caster_from_sweep(turned["out"], turned["in"], math.radians(steer))
    assert math.degrees(found) == pytest.approx(caster, rel=0.04, abs=0.1)


@pytest.mark.referee
@given(st.floats(-6, 6), st.floats(250, 700), st.floats(0, 80))
def test_plumb_gaps_of_a_wheel_leaned_in_the_plane(camber, span, offset):
    """Referee: the two points of the rim placed by a rotation; a plumb line hangs at a fixed distance."""
    rotation = Rotation.from_euler("x", camber, degrees=True)
    top, bottom = rotation.apply([[0, 0, span / 2], [0, 0, -span / 2]])
    line = 100.0 + offset
    apart = float(np.linalg.norm(top - bottom))
    assert math.degrees(plumb_camber(line + top[1], line + bottom[1], apart)) == pytest.approx(camber, abs=1e-9)


@pytest.mark.referee
@given(st.floats(-1.5, 1.5), st.floats(-0.5, 0.5), st.floats(400, 700))
def test_plates_read_the_total_toe_of_both_wheels(total, split, across):
    """Referee: both plates placed by rotation about the vertical; exact for equal wheels, second order else."""
    left, right = total / 2 + split / 2, total / 2 - split / 2
    ends = {}
    for side, toe, y in ((1, left, 750.0), (-1, right, -750.0)):
        turn = Rotation.from_euler("z", -side * toe, degrees=True)
        ends[side] = turn.apply([[across / 2, 0, 0], [-across / 2, 0, 0]]) + np.array([0, y, 0])
    front, rear = (float(abs(ends[1][end][1] - ends[-1][end][1])) for end in (0, 1))
    assert math.degrees(plates_total_toe(front, rear, across)) == pytest.approx(total, abs=2e-4)


@pytest.mark.published
@pytest.mark.parametrize(
    ("powers", "values", "sizes"),
    [
        ((1, 1), (2.0, 3.0), (0.01, 0.02)),
        ((2, -1), (12.0, 4.0), (0.02, 0.01)),
        ((1, -1, 1), (0.9, 5.0, 7.0), (0.001, 0.02, 0.03)),
    ],
)
def test_a_product_of_powers_carries_its_relative_variances(powers, values, sizes):
    """JCGM 100:2008, clause 5.1.6, equation (12): (u/y)² = Σ (p u(x)/x)²; equation from memory."""
    names = "abc"[: len(values)]
    shifted = shift_inputs(dict(zip(names, values, strict=True)), dict(zip(names, sizes, strict=True)))
    found = propagate(lambda q: math.prod(q[n] ** p for n, p in zip(names, powers, strict=True)), shifted)
    relative = [(p * u / x) ** 2 for p, x, u in zip(powers, values, sizes, strict=True)]
    assert found.value == pytest.approx(math.prod(x**p for x, p in zip(values, powers, strict=True)))
    assert found.plus_minus / found.value == pytest.approx(2 * math.sqrt(sum(relative)), rel=1e-3)
    for name, part in zip(names, relative, strict=True):
        assert found.shares[name] == pytest.approx(part / sum(relative), rel=1e-3)


def test_an_input_known_exactly_is_not_shifted_and_one_that_does_not_matter_has_no_share():
    shifted = shift_inputs({"a": 2.0, "b": 3.0, "c": 5.0}, {"a": 0.5, "b": 0.0, "c": 0.25})
    assert shifted.names == ("a", "c")
    assert {name: found.tolist() for name, found in shifted.inputs.items()} == {
        "a": [2.0, 2.5, 1.5, 2.0, 2.0],
        "b": [3.0] * 5,
        "c": [5.0, 5.0, 5.0, 5.25, 4.75],
    }
    found = propagate(lambda q: 4 * q["a"], shifted)
    assert (found.value, found.plus_minus, found.shares) == (8.0, 4.0, {"a": 1.0})
    nothing = propagate(lambda q: q["a"], shift_inputs({"a": 2.0}, {}))
    assert (nothing.value, nothing.plus_minus, nothing.shares) == (2.0, 0.0, {})


def test_one_reading_is_as_good_as_its_instrument_and_says_both_parts():
    one = combine_repeats([372.0], 0.5)
    assert (one.mean, one.spread, one.uncertainty, one.count) == (372.0, 0.0, 0.5, 1)
    told = expand(one, 0.5)
    assert (told.type_a, told.type_b, told.freedom, told.coverage) == (0.0, 0.5, math.inf, 2.0)
    several = combine_repeats([371.0, 372.0, 373.0], 0.5)
    told = expand(several, 0.5)
    assert told.type_a == pytest.approx(math.sqrt(1 / 3))
    assert told.type_b == 0.5
    assert told.freedom == pytest.approx((1 / 3 + 0.25) ** 2 * 2 / (1 / 3) ** 2)
    assert told.plus_minus == pytest.approx(told.coverage * several.uncertainty)
    assert expand(combine_repeats([5.0, 5.0], 0.5), 0.5).coverage == 2.0, "alike repeats add nothing"


@pytest.mark.parametrize(
    ("call", "field", "came"),
    [
        (lambda: instrument_uncertainty(half_width=-0.1), "half_width", "-0.1"),
        (lambda: instrument_uncertainty(resolution=-0.2), "resolution", "-0.2"),
        (lambda: instrument_uncertainty(expanded=-0.3), "expanded", "-0.3"),
        (lambda: instrument_uncertainty(coverage=0.0), "coverage", "0.0"),
        (lambda: combine_repeats([], 1.0), "readings", "none"),
        (lambda: combine_repeats([1.0], -0.4), "type_b", "-0.4"),
        (lambda: student_coverage(0.9), "freedom", "0.9"),
        (lambda: slope_from_two(350.0, 0.0, 350.0, 0.1), "height_2", "350 mm twice"),
    ],
)
def test_what_no_reading_can_be_is_refused_by_its_name(call, field, came):
    with pytest.raises(InputError) as refused:
        call()
    assert (refused.value.field, refused.value.details["came"]) == (field, came)
    assert f"got {came}" in refused.value.message


@pytest.mark.identity
def test_the_least_that_is_allowed_is_taken():
    assert instrument_uncertainty(expanded=1.0, coverage=0.5) == 2.0
    assert student_coverage(1.0) == student_t()[1]
    assert slope_from_two(361.0, 0.002, 360.0, 0.003) == pytest.approx(0.001)
    assert slope_from_two(360.0, 0.003, 361.0, 0.002) == pytest.approx(0.001)
