"""Threads and fasteners against ISO 898-1."""

import math

import pytest

from fair_spindle.core.basics.tables import iso_pitches, unified_threads
from fair_spindle.core.bolts.fasteners import doubt_torque, odd_thread, tensile_stress_area

# ISO 898-1:2013, tables 4 to 7, nominal stress area in mm², coarse then fine threads (from memory).
STRESS_AREAS = {
    5: {0.8: "14.2"},
    6: {1.0: "20.1"},
    7: {1.0: "28.9"},
    8: {1.25: "36.6", 1.0: "39.2"},
    10: {1.5: "58.0", 1.25: "61.2", 1.0: "64.5"},
    12: {1.75: "84.3", 1.5: "88.1", 1.25: "92.1"},
    14: {2.0: "115", 1.5: "125"},
    16: {2.0: "157", 1.5: "167"},
    18: {2.5: "192", 1.5: "216"},
    20: {2.5: "245", 1.5: "272"},
    22: {2.5: "303", 1.5: "333"},
    24: {3.0: "353", 2.0: "384"},
    27: {3.0: "459", 2.0: "496"},
    30: {3.5: "561", 2.0: "621"},
}
# Shigley's Mechanical Engineering Design, 10th edition, table 8-2: tensile stress areas in in², coarse and fine, from
# memory.
INCH_AREAS = {"1/4": (0.0318, 0.0364), "5/16": (0.0524, 0.0580), "3/8": (0.0775, 0.0878), "7/16": (0.1063, 0.1187),
              "1/2": (0.1419, 0.1599), "9/16": (0.182, 0.203), "5/8": (0.226, 0.256), "3/4": (0.334, 0.373),
              "7/8": (0.462, 0.509), "1": (0.606, 0.663)}  # fmt: skip


@pytest.mark.published
@pytest.mark.parametrize("diameter", STRESS_AREAS)
def test_iso_261_pitches_give_the_stress_areas_of_iso_898_1(diameter):
    pitches = iso_pitches()[diameter]
    assert pitches[0] == max(STRESS_AREAS[diameter]), "the coarse pitch comes first"
    for pitch, printed in STRESS_AREAS[diameter].items():
        assert pitch in pitches
        # The standard rounds to three digits, sometimes from unrounded thread dimensions.
        last_digit = 0.1 if "." in printed else 1.0
        assert tensile_stress_area(diameter, pitch) == pytest.approx(float(printed), abs=0.55 * last_digit)


@pytest.mark.published
@pytest.mark.parametrize("size", INCH_AREAS)
def test_inch_threads_give_the_printed_stress_areas(size):
    diameter, pitches = unified_threads()[size]
    for pitch, printed in zip(pitches, INCH_AREAS[size], strict=True):
        digit = 1e-4 if printed < 0.17 else 1e-3
        area = math.pi / 4 * (diameter - 0.9743 * pitch) ** 2 / 25.4**2
        assert area == pytest.approx(printed, abs=1.01 * digit), "the inch standard's own formula"
        assert tensile_stress_area(diameter, pitch) / 25.4**2 == pytest.approx(printed, rel=0.02)
    assert odd_thread(diameter, pitches[0]) == ""
    assert f"{size}-" in odd_thread(diameter, 1.9)


def test_an_unmarked_bolt_is_judged_by_the_weakest_class_that_makes_sense():
    """ISO 898-1: proof stresses 580 and 830 MPa; T/(K d) with K = 0.2 after Shigley."""
    soft = doubt_torque(10, "nm", 12, 1.25, None)
    assert "class 8.8 (assumed)" in soft.message
    assert doubt_torque(120, "nm", 12, 1.25, None) is None, "a usual value of class 10.9"
    assert doubt_torque(120, "lb_ft", 12, 1.25, None).likelier_unit == "nm"
    assert doubt_torque(120, "nm", 12, 1.25, "8.8") is not None


def test_wrong_unit_is_questioned_and_the_usual_one_is_not():
    assert doubt_torque(120, "nm", 12, 1.25, "10.9") is None
    assert doubt_torque(120, "lb_ft", 12, 1.25, "10.9").likelier_unit == "nm"
    assert doubt_torque(90, "lb_in", 12, 1.25, "10.9").likelier_unit in ("nm", "lb_ft")
