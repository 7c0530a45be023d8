"""Where a number stops making sense: refused at the limit with its field and what came, taken just inside it.

That a length, a rate or a lever is above 0 follows from what it is; no published source is needed.
"""

from math import pi, radians

import numpy as np
import pytest

from fair_spindle.core.basics.errors import Inconsistent, SpindleError
from fair_spindle.core.bolts import fasteners, tightening
from fair_spindle.core.geometry import drag_link, toe, wheel_angles
from fair_spindle.core.geometry.drag_link import DragLink
from fair_spindle.core.springs import perches, rubber, springs, sway_bar
from fair_spindle.core.springs.rubber import Arm, Shackle
from fair_spindle.core.springs.springs import Coil


def perch(ratio=1.0, load=3000.0, gas=0.0, pitch=2.0):
    return perches.perch_place(ratio, load, gas, 470.0, 0.0, 40.0, [Coil(40.0, 220.0)], pitch, 150.0)


COIL = Coil(30.0, 300.0, 100.0)
# What is called with the number, where it stops, a number just inside, the field that is named, and what came.
LIMITS = {
    "coil wire": (lambda x: springs.coil_rate(x, 100, 6), 0.0, 1e-3, "wire_mm", "0"),
    "coils": (lambda x: springs.coil_rate(10, 100, x), 0.0, 1e-3, "active_coils", "0"),
    "coil modulus": (lambda x: springs.coil_rate(10, 100, 6, x), 0.0, 1e-3, "shear_modulus_mpa", "0"),
    "coil mean": (lambda x: springs.coil_rate(10, x, 6), 10.0, 10.001, "mean_diameter_mm", "10"),
    "stack load": (lambda x: springs.stack_under_load([COIL], x), -1e-3, 0.0, "load_n", "-0.001"),
    "coil rate": (lambda x: springs.coil_curve(Coil(x, 300.0, 0.0)), 0.0, 1e-3, "spring.rate_n_per_mm", "0"),
    "coil solid": (lambda x: springs.coil_curve(Coil(30.0, 300.0, x)), 300.0, 299.0, "spring.solid_mm", "300"),
    "coil solid below": (lambda x: springs.coil_curve(Coil(30.0, 300.0, x)), -1e-3, 0.0, "spring.solid_mm", "-0.001"),
    "stop": (springs.stop_curve, 0.0, 1e-3, "damper.stop", "0"),
    "torsion rate": (lambda x: springs.torsion_curve(x, 300, 0.3, 3000), 0.0, 1e3, "spring.rate", "0"),
    "torsion load": (lambda x: springs.torsion_curve(1e6, 300, 0.3, x), 0.0, 1e-3, "spring.rate", "0"),
    "torsion arm": (lambda x: springs.torsion_curve(1e6, x, 0.3, 3000), 0.0, 0.5, "torsion.arm", "0"),
    "torsion angle": (
        lambda x: springs.torsion_curve(1e6, 300, radians(x), 3000), 80.001, 80.0, "torsion.angle", "80.001"
    ),
    "torsion bar length": (lambda x: springs.torsion_bar_rate(20, x, 200), 0.0, 1e-3, "bar_length_mm", "0"),
    "torsion bar arm": (lambda x: springs.torsion_bar_rate(20, 900, x), 0.0, 1e-3, "arm_lengths_mm", "0"),
    "bar diameter": (springs.polar_moment, 0.0, 1e-3, "outer_diameter_mm", "0"),
    "bar bore": (lambda x: springs.polar_moment(20, x), 20.0, 19.999, "inner_diameter_mm", "20"),
    "bar bore below": (lambda x: springs.polar_moment(20, x), -1e-3, 0.0, "inner_diameter_mm", "-0.001"),
    "leaf parts": (lambda x: springs.leaf_rate(60, 8, 5, x, 1200), 0.0, 1.0, "full_length", "0"),
    "leaf parts above": (lambda x: springs.leaf_rate(60, 8, 5, x, 1200), 6.0, 5.0, "full_length", "6"),
    "sway bar length": (lambda x: sway_bar.bar_rates(20, x, [200]), 0.0, 1e-3, "bar_length_mm", "0"),
    "sway bar modulus": (
        lambda x: sway_bar.bar_rates(20, 900, [200], shear_modulus=x), 0.0, 1e-3, "shear_modulus_mpa", "0"
    ),
    "sway bar arm": (lambda x: sway_bar.bar_rates(20, 900, [200, x]), 0.0, 1e-3, "arm_lengths_mm.1", "0"),
    "link ratio": (lambda x: sway_bar.wheel_rate(20, x), 0.0, 1e-3, "link_ratio", "0"),
    "preload rate": (lambda x: sway_bar.preload(x, 5), 0.0, 1e-3, "rate_n_per_mm", "0"),
    "link": (lambda x: sway_bar.link_for_no_preload(x, 5, 30), 30.0, 30.001, "length_mm", "30"),
    "arm length": (lambda x: rubber.arm_angle(Arm(x, 0.0), 0), 0.0, 1e-3, "arm_length_mm", "0"),
    "arm ratio": (lambda x: rubber.arm_angle(Arm(300, 10, x), 5), 0.0, 1e-3, "joint_travel_ratio", "0"),
    "twist limit": (lambda x: rubber.clamp_window(Arm(300, 10), x), 0.0, 1e-3, "twist_limit_deg", "0"),
    "twist limit above": (
        lambda x: rubber.clamp_window(Arm(300, 10), x), pi / 2, pi / 2 - 1e-3, "twist_limit_deg", "90"
    ),
    "shackle": (lambda x: rubber.shackle_angle(Shackle(x, 0.0, 1200.0, 100.0), 0), 0.0, 1e-3, "shackle.length", "0"),
    "leaf": (lambda x: rubber.shackle_angle(Shackle(100.0, 0.2, x, 100.0), 0), 0.0, 1e-3, "leaf.front_half", "0"),
    "rim": (lambda x: toe.rim_toe_angle(1, x), 0.0, 1.001, "measured_across_mm", "0"),
    "rim at": (lambda x: toe.toe_at_rim(0.01, x), 0.0, 1e-3, "measured_across_mm", "0"),
    "toe within": (lambda x: toe.toe_at_rim(x, 400), pi / 2 + 1e-3, pi / 2, "toe_deg", "90.0573"),
    "string front": (lambda x: toe.string_toe(x, 5, 400), -1e-3, 0.0, "front_gap_mm", "-0.001"),
    "string rear": (lambda x: toe.string_toe(5, x, 400), -1e-3, 0.0, "rear_gap_mm", "-0.001"),
    "steering ratio": (lambda x: toe.axle_toe(0.01, 0.0, x), 0.0, 1e-3, "steering_ratio", "0"),
    "lever": (lambda x: toe.rod_change_for_toe(0.01, x, "behind"), 0.0, 1e-3, "lever_mm", "0"),
    "sweep": (lambda x: wheel_angles.caster_from_sweep(0.01, -0.01, x), 0.0, 1e-3, "steer_deg", "0"),
    "sweep above": (
        lambda x: wheel_angles.caster_from_sweep(0.01, -0.01, x), pi / 3, pi / 3 - 1e-3, "steer_deg", "60"
    ),
    "plumb": (lambda x: wheel_angles.plumb_camber(0, 0, x), 0.0, 1e-3, "span", "0"),
    "plates": (lambda x: wheel_angles.plates_total_toe(1500, 1500, x), 0.0, 1e-3, "across", "0"),
    "pitch": (lambda x: fasteners.tensile_stress_area(12, x), 0.0, 1e-3, "pitch_mm", "0"),
    "diameter": (lambda x: fasteners.tensile_stress_area(x, 1.5), 1.5, 1.501, "diameter_mm", "1.5"),
    "rod": (lambda x: drag_link.rod_shift(x, 40.0, 0.0), 40.0, 40.001, "panhard.length", "40"),
    "link lever": (lambda x: drag_link.steered_by_height(DragLink(900, 50, x, 1), 5), 0.0, 1e-3, "lever", "0"),
    "drag link": (lambda x: drag_link.steered_by_height(DragLink(x, 50, 150, 1), 0), 50.0, 50.001, "length", "50"),
    "target": (lambda x: tightening.set_with_adapter(x, 400, 50), 0.0, 1e-3, "target_nm", "0"),
    "wrench": (lambda x: tightening.set_with_adapter(90e3, x, 50), 0.0, 1e-3, "wrench_length_mm", "0"),
    "adapter": (lambda x: tightening.set_with_adapter(90e3, 400, x), -1e-3, 0.0, "adapter_length_mm", "-0.001"),
    "nut factor": (
        lambda x: tightening.tension_by_nut_factor(90e3, 12, 1.5, "8.8", x), 0.0, 1e-3, "nut_factor", "0"
    ),
    "nut torque": (lambda x: tightening.tension_by_nut_factor(x, 12, 1.5, "8.8", 0.2), 0.0, 1e-3, "torque_nm", "0"),
    "back past the grip": (
        lambda x: tightening.set_with_adapter(90e3, 100, 100 + x, pi), 0.0, -1e-3, "angle_deg", "180"
    ),
    "friction torque": (
        lambda x: tightening.tension_by_friction(x, 12, 1.75, "8.8", 0.1, 0.1, 16), 0.0, 1e-3, "torque_nm", "0"
    ),
    "thread friction": (
        lambda x: tightening.tension_by_friction(9e4, 12, 1.75, "8.8", x, 0.1, 16), -1e-3, 0.0, "thread_friction",
        "-0.001",
    ),
    "bearing friction": (
        lambda x: tightening.tension_by_friction(9e4, 12, 1.75, "8.8", 0.1, x, 16), -1e-3, 0.0, "bearing_friction",
        "-0.001",
    ),
    "bearing": (
        lambda x: tightening.tension_by_friction(9e4, 12, 1.75, "8.8", 0.1, 0.1, x), 0.0, 1e-3,
        "bearing_diameter_mm", "0",
    ),
    "few slots": (lambda x: tightening.castle_nut(x, 0.1, 1.5, 2e4, 5e4, 14, 0.2), 1, 2, "slots", "1"),
    "many slots": (lambda x: tightening.castle_nut(x, 0.1, 1.5, 2e4, 5e4, 14, 0.2), 13, 12, "slots", "13"),
    "past the slot": (
        lambda x: tightening.castle_nut(6, x, 1.5, 2e4, 5e4, 14, 0.2), pi / 3 + 1e-3, pi / 3, "past_deg", "1.048"
    ),
    "castle pitch": (lambda x: tightening.castle_nut(6, 0.1, x, 2e4, 5e4, 14, 0.2), 0.0, 1e-3, "pitch_mm", "0"),
    "perch ratio": (lambda x: perch(ratio=x), 0.0, 1e-3, "motion_ratio", "0"),
    "perch load": (lambda x: perch(load=x), 0.0, 1e-3, "sprung_load_n", "0"),
    "perch gas": (lambda x: perch(gas=x), -1e-3, 0.0, "gas_force_n", "-0.001"),
    "perch gas alone": (lambda x: perch(gas=x), 3000.0, 2999.9, "gas_force_n", "a gas force"),
    "perch pitch": (lambda x: perch(pitch=x), 0.0, 1e-3, "pitch_mm", "0"),
    "no place": (lambda x: tightening.tighten_order([(0, 0)] * x, "row"), 0, 1, "places", "0"),
    "many places": (lambda x: tightening.tighten_order([(n, 0) for n in range(x)], "row"), 61, 60, "places", "61"),
    "final": (lambda x: tightening.pass_torques(x, [50, 100]), 0.0, 1e-3, "torque_nm", "0"),
    "turned on": (lambda x: tightening.angle_tension(12, 1.5, 60, x), -1e-3, 0.0, "angle_deg", "-0.001"),
    "grip": (lambda x: tightening.bolt_stiffness(12, 1.5, x), 0.0, 1e-3, "grip_mm", "0"),
}  # fmt: skip


def complaint(call, value):
    """The field an error names; nothing where there is none."""
    try:
        call(value)
    except SpindleError as error:
        return error.field
    return ""


@pytest.mark.parametrize("case", LIMITS.values(), ids=list(LIMITS))
def test_a_number_is_refused_at_its_limit_by_name_and_taken_just_inside(case):
    call, limit, inside, field, came = case
    with pytest.raises(SpindleError) as refused:
        call(limit)
    assert refused.value.field == field
    assert came in refused.value.message.rpartition("got")[2]
    assert complaint(call, inside) != field


@pytest.mark.parametrize(("arm", "travel"), [(Arm(300.0, 299.9), 0.0), (Arm(300.0, 0.0), 299.9)])
def test_an_arm_reaches_just_short_of_upright_and_no_further(arm, travel):
    assert abs(float(rubber.arm_angle(arm, travel))) < pi / 2
    with pytest.raises(SpindleError):
        rubber.arm_angle(arm, travel + 0.2)


def test_answers_of_several_travels_at_once_are_those_of_one_by_one():
    travels = [-30.0, 0.0, 25.0]
    arm, shackle = Arm(320.0, 15.0), Shackle(90.0, 0.05, 1200.0, 100.0)
    for call in (lambda at: rubber.arm_angle(arm, at), lambda at: rubber.shackle_angle(shackle, at)):
        together = np.asarray(call(travels))
        assert together == pytest.approx([float(call(one)) for one in travels])


def test_two_gaps_differ_by_less_than_they_are_apart():
    assert abs(wheel_angles.plumb_camber(399.9, 0, 400)) < pi / 2
    with pytest.raises(Inconsistent) as refused:
        wheel_angles.plumb_camber(400, 0, 400)
    assert refused.value.field
    assert "400 mm over 400 mm" in refused.value.message
    assert "differ by less" in refused.value.message
