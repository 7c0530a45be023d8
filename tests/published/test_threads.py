"""Threads and fasteners against ISO 898-1."""

import pytest

from fair_spindle.core.fasteners import doubt_torque, tensile_stress_area
from fair_spindle.core.tables import iso_pitches

# ISO 898-1:2013, tables 4 to 7, nominal stress area in mm², coarse then fine threads (from memory).
STRESS_AREAS = {
    8: {1.25: "36.6", 1.0: "39.2"},
    10: {1.5: "58.0", 1.25: "61.2", 1.0: "64.5"},
    12: {1.75: "84.3", 1.5: "88.1", 1.25: "92.1"},
    14: {2.0: "115", 1.5: "125"},
    16: {2.0: "157", 1.5: "167"},
}


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
def test_wrong_unit_is_questioned_and_the_usual_one_is_not():
    assert doubt_torque(120, "nm", 12, 1.25, "10.9") is None
    assert doubt_torque(120, "lb_ft", 12, 1.25, "10.9").likelier_unit == "nm"
    assert doubt_torque(90, "lb_in", 12, 1.25, "10.9").likelier_unit in ("nm", "lb_ft")
