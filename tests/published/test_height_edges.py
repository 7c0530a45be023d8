"""One corner after a change of spring, at the edges of what may be told: by Hooke's law and virtual work, by hand."""

import numpy as np
import pytest

from fair_spindle.core.basics.errors import Inconsistent, InputError, OutOfRange
from fair_spindle.core.springs.car_heights import spring_length
from fair_spindle.core.springs.heights import Spring, height_change, loaded_length, ratio_from_two
from fair_spindle.core.springs.springs import Coil, coil_curve

OLD, NEW = Spring(30.0, 300.0), Spring(40.0, 260.0)


@pytest.mark.identity
def test_every_part_of_a_corner_moves_it_its_own_way():
    """Spring force = (load - gas · damper ratio) / ratio; height = (length + seat) / ratio; worked by hand."""
    assert float(height_change(1.0, 3000.0, OLD, NEW)) == pytest.approx((260 - 75) - (300 - 100))
    assert float(height_change(0.8, 2400.0, OLD, NEW)) == pytest.approx(((260 - 75) - (300 - 100)) / 0.8)
    raised = Spring(40.0, 260.0, seat_shift=7.0)
    assert float(height_change(1.0, 3000.0, OLD, raised)) == pytest.approx(-8.0), "a seat that stands higher lifts"
    was_raised = Spring(30.0, 300.0, seat_shift=7.0)
    assert float(height_change(1.0, 3000.0, was_raised, NEW)) == pytest.approx(-22.0), "and is missed when it goes"
    gas = Spring(40.0, 260.0, gas_force=200.0)
    assert float(height_change(0.8, 2400.0, OLD, gas)) == pytest.approx((-15 + 200 / 40) / 0.8)
    assert float(height_change(0.8, 2400.0, OLD, gas, 0.4)) == pytest.approx((-15 + 200 * 0.4 / 0.8 / 40) / 0.8)


@pytest.mark.identity
def test_corners_are_computed_together_as_one_by_one():
    ratios, loads = np.array([0.7, 0.9, 1.0]), np.array([2100.0, 2700.0, 3000.0])
    together = height_change(ratios, loads, OLD, NEW)
    assert together.shape == (3,)
    alone = [float(height_change(*pair, OLD, NEW)) for pair in zip(ratios, loads, strict=True)]
    assert together == pytest.approx(alone)


@pytest.mark.parametrize(
    ("call", "kind", "field", "came"),
    [
        (lambda: height_change(0.0, 3000.0, OLD, NEW), OutOfRange, "motion_ratio", "0"),
        (lambda: height_change(1.0, 0.0, OLD, NEW), OutOfRange, "sprung_load_n", "0"),
        (lambda: height_change(1.0, 3000.0, OLD, NEW, 0.0), OutOfRange, "damper_motion_ratio", "0"),
        (lambda: height_change(1.0, 3000.0, Spring(0.0, 300.0), NEW), OutOfRange, "old.rate_n_per_mm", "0"),
        (lambda: height_change(1.0, 3000.0, OLD, Spring(40.0, 0.0)), OutOfRange, "new.free_mm", "0"),
        (lambda: height_change([1.0, -0.5], 3000.0, OLD, NEW), OutOfRange, "motion_ratio", "-0.5"),
        (
            lambda: height_change(1.0, 3000.0, OLD, Spring(40.0, 260.0, gas_force=-1.0)),
            OutOfRange,
            "new.gas_force_n",
            "-1.0",
        ),
        (
            lambda: height_change(1.0, 3000.0, OLD, Spring(40.0, 260.0, gas_force=3000.0)),
            Inconsistent,
            "new.gas_force_n",
            "a gas force that carries the whole corner",
        ),
        (
            lambda: height_change(1.0, 3000.0, Spring(10.0, 300.0), NEW),
            Inconsistent,
            "old.rate_n_per_mm",
            "a spring pressed shorter than 0 mm",
        ),
        (
            lambda: spring_length(coil_curve(Coil(50.0, 300.0)), 2500.0, 1e-308, 0.0),
            Inconsistent,
            "motion_ratio",
            "a ratio next to nothing",
        ),
        (lambda: ratio_from_two(420.0, 360.0, 429.0, 369.9), Inconsistent, "height_2", "9.9 mm"),
        (lambda: ratio_from_two(420.0, 360.0, 420.0, 400.0), Inconsistent, "damper_2", "+0 mm of damper"),
        (lambda: ratio_from_two(420.0, 360.0, 400.0, 400.0), Inconsistent, "damper_2", "-20 mm of damper"),
    ],
)
def test_what_no_corner_can_be_is_refused_by_its_name(call, kind, field, came):
    with pytest.raises(InputError) as refused:
        call()
    assert type(refused.value) is kind
    assert refused.value.field == field
    assert refused.value.details["came"].startswith(came)
    assert f"got {came}" in refused.value.message


@pytest.mark.identity
def test_the_least_that_is_allowed_is_taken():
    assert float(loaded_length(Spring(0.5, 300.0), 100.0, 1.0, 1.0, "old")) == pytest.approx(100.0)
    assert float(loaded_length(Spring(40.0, 0.9), 20.0, 1.0, 1.0, "old")) == pytest.approx(0.4)
    assert float(loaded_length(Spring(50.0, 300.0, gas_force=99.5), 100.0, 1.0, 1.0, "old")) == pytest.approx(299.99)
    assert float(height_change(0.5, 0.5, Spring(1.0, 10.0), Spring(1.0, 11.0), 0.5)) == pytest.approx(2.0)
    assert ratio_from_two(420.0, 360.0, 427.0, 370.0) == pytest.approx(0.7)
    assert ratio_from_two(427.0, 370.0, 420.0, 360.0) == pytest.approx(0.7), "either pair first"
