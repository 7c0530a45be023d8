"""What is special about each of the 21 kinds of job.

Every order and state asserted here is common practice in the trade, no published source.
"""

import pytest
from planner import STRUT, Order, with_options

from fair_spindle.core.basics.errors import Inconsistent
from fair_spindle.core.planning.procedure import Fitting


def test_1_differential_brace():
    order = Order(("diff_brace", "rear"))
    order.goes("penetrant@rear", "diff_brace.open@rear", "diff_brace.start@rear", "diff_brace.snug@rear")
    order.goes("diff_brace.torque_large@rear", "diff_brace.torque_small@rear")
    assert {goal.to for goal in order.step("diff_brace.start@rear").brings_joints} == {"hand"}
    assert all(bolt.aluminium for bolt in order.joint("diff_brace.small.rear").bolts)
    assert "aluminium" in order.cautions("diff_brace.torque_small@rear")
    assert "far side" in order.joint("diff_brace.through.rear").bolts[0].hold
    assert order.listed("leftover") == {"Bolts that are replaced": 2}


def test_2_under_body_braces_by_chassis_generation():
    long, short = Order(("body_braces",)), Order(with_options("body_braces", "", generation="short"))
    long.goes("body_braces.exhaust", "body_braces.spacers", "body_braces.start")
    assert "Spacers" not in long.listed("leftover")
    assert "body_braces.spacers" not in short.keys
    assert short.listed("leftover")["Spacers"] == 4
    assert long.joint("body_braces.bolts").bolts[0].note == "Recessed head to the road"
    assert "Exhaust hangers" in long.listed("buy")


def test_3_unit_from_inside_the_cabin():
    order = Order(("cabin_unit", "rear"))
    for side in ("left", "right"):
        order.goes(
            f"cabin_unit.trim_out@rear cabin_unit.bracket_loose@rear.{side} cabin_unit.unit_out@rear.{side} "
            f"cabin_unit.main_start@rear.{side} cabin_unit.bracket_tight@rear.{side} cabin_unit.trim_back@rear"
        )
        assert any("thread" in why for why in order.step(f"cabin_unit.bracket_tight@rear.{side}").why)
    assert "spring_energy" in order.cautions("cabin_unit.unit_out@rear.left")
    assert order.where("cabin_unit.main_torque@rear.left") == "corner_carried"
    assert "Pass-through socket" not in order.listed("tool")
    in_parts = Order(with_options("cabin_unit", "rear", assembled="parts"))
    in_parts.goes("cabin_unit.spring@rear.left", "cabin_unit.unit_in@rear.left")
    assert {"Pass-through socket", "Spring compressor"} <= set(in_parts.listed("tool"))


WISHBONE = {"front.layout": "double_wishbone"}


def test_4_truck_front_poly_at_any_height_bonded_originals_not():
    order = Order(("truck_front", "front"), car=WISHBONE)
    order.goes(
        "clear_wires@front tether@front.left truck_front.taper_free@front.left truck_front.nut_off@front.left "
        "truck_front.arm_out@front.left truck_front.limiter_out@front.left truck_front.in@front.left"
    )
    order.goes("truck_front.clicks@front.left", "raise.1", "truck_front.clicks_back@front.left")
    assert order.where("truck_front.arm_torque@front.left") == "hanging"
    assert order.where("truck_front.lower_torque@front.left") == "corner_carried"
    assert {"taper_catch", "hanging_upright"} <= order.cautions("truck_front.taper_free@front.left")
    assert order.joint("truck_front.ball.front.left").bolts[0].lock == "cotter"
    bonded = Order(with_options("truck_front", "front", arm_bushing="bonded_rubber"), car=WISHBONE)
    assert bonded.where("truck_front.arm_torque@front.left") == "corner_carried"
    stricter = Order(("truck_front", "front"), car=WISHBONE, workshop={"free_pivots": "loaded"})
    assert stricter.where("truck_front.arm_torque@front.left") == "corner_carried"
    pulled = Order(("truck_front", "front"), car=WISHBONE, schools={"taper": "separator"})
    assert "truck_front.taper_free@front.left" not in pulled.keys
    assert "Freeing tapers: separator" in pulled.step("truck_front.taper_pull@front.left").school
    with pytest.raises(Inconsistent, match="double wishbone"):
        Order(("truck_front", "front"))


def test_5_subframe_collars_have_a_dozen_numbered_places():
    order = Order(("subframe_collars", "front"))
    order.goes(
        "subframe_collars.mark@front subframe_collars.carry@front subframe_collars.loosen@front "
        "subframe_collars.collars@front subframe_collars.snug@front subframe_collars.torque@front"
    )
    joint = order.joint("subframe_collars.subframe.front")
    assert [bolt.number for bolt in joint.bolts] == list(range(1, 13))
    assert all(bolt.note for bolt in joint.bolts)
    assert joint.order == "star"
    assert "none of them out" in order.step("subframe_collars.loosen@front").title
    assert "Alignment on a rack: the subframe has moved to its middle" in order.listed("book")


def test_6_dampers():
    order = Order(("dampers", "rear"))
    assert "level with its washer" in order.step("dampers.pin_torque@rear.left").title
    assert order.where("dampers.pin_torque@rear.left") == "hanging"
    assert order.where("dampers.eye_torque@rear.left") == "corner_carried"
    assert order.listed("buy")["Pin nut"] == 2
    assert "Lower eye bolt" in order.listed("leftover")
    order.goes("dampers.carry@rear.left", "dampers.out@rear.left")


def test_7_leaf_shackles_are_torqued_only_at_load_and_the_new_travel_is_measured():
    order = Order(("leaf_shackles", "rear"), car={"rear.layout": "solid_leaf"})
    order.goes("leaf_shackles.press@rear.left", "leaf_shackles.shackle_in@rear.left")
    order.goes("leaf_shackles.bracket_snug@rear.left", "leaf_shackles.bracket_torque@rear.left")
    order.goes("leaf_shackles.droop@rear.left", "leaf_shackles.fits@rear.left", "lower.1")
    for side in ("left", "right"):
        assert order.where(f"leaf_shackles.shackle_torque@rear.{side}") == "on_wheels"
        order.goes(f"leaf_shackles.rest_before@rear.{side}", f"leaf_shackles.rest_after@rear.{side}")
    assert order.joint("leaf_shackles.bracket.rear.left").order == "cross"
    assert {"Anti-seize", "Bushing grease"} <= set(order.listed("chemical"))


def test_8_strut_spacer_cures_before_it_is_needed():
    order = Order(("strut_spacer", "front"))
    order.goes("strut_spacer.expect@front", "strut_spacer.strut_free@front.left")
    order.goes("strut_spacer.extend@front.left", "strut_spacer.spacer_in@front.left")
    assert order.step("strut_spacer.extend@front.left").wait_h[0] >= 1
    assert "hand_tools" in order.cautions("strut_spacer.extend@front.left")
    assert "divided by motion ratio" in order.step("strut_spacer.expect@front").title
    assert "strut_spacer.extend@front.left" not in Order(with_options("strut_spacer", "front", studs="long")).keys


def test_9_thrust_arms_leave_their_locks_for_the_rack():
    order = Order(("thrust_arms", "front"))
    order.goes("compare", "thrust_arms.preset@front.left", "thrust_arms.in@front.left")
    order.goes("alignment", "thrust_arms.lock_after@front.left")
    assert "first mark, angle, second mark" in order.step("thrust_arms.inner_torque@front.left").title
    assert "inboard" in order.step("thrust_arms.in@front.left").title
    assert "wiring" in order.cautions("thrust_arms.in@front.left")


def test_10_coilovers_and_toe_arms():
    order = Order(("coilovers", "rear"))
    order.goes("coilovers.collar_depth@rear.left", "coilovers.helper@rear.left", "raise.1")
    order.goes("coilovers.mark@rear.left", "coilovers.toe_out@rear.left", "coilovers.out@rear.left")
    order.goes("clear_wires@rear", "coilovers.out@rear.left", "coilovers.seats@rear.left", "coilovers.in@rear.left")
    assert "cam_head" in order.cautions("coilovers.toe_out@rear.left")
    assert order.where("coilovers.arm_torque@rear.left") == "corner_carried"
    assert order.where("coilovers.torque_hanging@rear.left") == "hanging"
    order.goes("measure", "coilovers.collar_lock@rear.left")


def test_11_trailing_arm():
    order = Order(("trailing_arm", "rear"))
    order.goes("trailing_arm.knuckle_out@rear.left", "trailing_arm.subframe_out@rear.left")
    assert "longer ear to the subframe" in order.step("trailing_arm.in@rear.left").title
    assert order.listed("buy") == {"Locknuts of the trailing arm": 4, "Hardened washer": 2}
    assert order.joint("trailing_arm.subframe.rear.left").bolts[0].single_use
    assert order.where("trailing_arm.torque@rear.left") == "corner_carried"
    flange = Order(with_options("trailing_arm", "rear", head="flange"))
    assert "Hardened washer" not in flange.listed("buy")


def test_12_bolt_on_ball_joint():
    order = Order(("bolted_ball_joint", "front"))
    assert len(order.joint("bolted_ball_joint.flange.front.left").bolts) == 4
    assert order.listed("buy")["Cotter pin"] == 2
    assert "without jerks" in order.step("bolted_ball_joint.nut_torque@front.left").detail
    assert "cotter" in order.cautions("bolted_ball_joint.nut_torque@front.left")
    assert "Threadlocker, medium strength" in order.listed("chemical")


def test_13_sway_bars_front_and_rear_without_preload():
    order = Order(("sway_bars", "front"), ("sway_bars", "rear"))
    for axle in ("front", "rear"):
        order.goes(
            f"sway_bars.preset@{axle}.left sway_bars.centre@{axle} sway_bars.swing@{axle} "
            f"sway_bars.second_link@{axle} links_loaded@{axle}"
        )
        assert order.where(f"sway_bars.second_link@{axle}") == "on_wheels"
    hanging = Order(("sway_bars", "front"), schools={"second_link": "hanging"})
    hanging.goes("sway_bars.second_link_hanging@front", "links_hanging@front", "lower.1")
    assert "both hubs level" in hanging.step("sway_bars.second_link_hanging@front").title
    hidden = Order(with_options("sway_bars", "front", reach="yes"))
    assert hidden.joint("sway_bars.hidden.front").bolts[0].reach


def test_14_one_upright_and_one_level_bushing():
    order = Order(("mixed_bush_arm", "front"))
    order.goes("mixed_bush_arm.play@front.left", "mixed_bush_arm.ball_free@front.left")
    order.goes("mixed_bush_arm.washer@front.left", "mixed_bush_arm.arm_in@front.left")
    assert order.where("mixed_bush_arm.torque_hanging@front.left") == "hanging"
    assert order.where("mixed_bush_arm.level_torque@front.left") == "corner_carried"
    on_wheels = Order(("mixed_bush_arm", "front"), workshop={"load": "wheels"})
    assert on_wheels.where("mixed_bush_arm.level_torque@front.left") == "on_wheels"
    assert any("sway bar joins" in why for why in order.step("mixed_bush_arm.level_torque@front.left").why)


def test_15_strut_through_the_cowl():
    order = Order(("cowl_strut", "front"))
    order.goes("cowl_strut.wipers_off@front", "cowl_strut.cowl_off@front", "cowl_strut.out@front.left")
    order.goes("cowl_strut.torque@front.right", "cowl_strut.cowl_on@front", "cowl_strut.wipers_on@front")
    order.goes("tether@front.left", "cowl_strut.out@front.left")
    assert "hanging_upright" in order.cautions("cowl_strut.out@front.left")
    assert "alignment" in order.keys


def test_16_subframe_inserts_are_lowered_only_enough_for_a_hand():
    order = Order(("subframe_inserts", "rear"))
    order.goes(
        "subframe_inserts.carry@rear subframe_inserts.lower@rear subframe_inserts.insert@rear "
        "subframe_inserts.line_up@rear subframe_inserts.snug@rear subframe_inserts.torque_main@rear "
        "subframe_inserts.torque_brace@rear"
    )
    assert "only enough for a hand" in order.step("subframe_inserts.lower@rear").title


def test_17_tie_rods_are_counted_and_their_jam_nuts_closed_last():
    order = Order(("tie_rods", "front"))
    for side in ("left", "right"):
        order.goes(
            f"tie_rods.mark@front.{side} tie_rods.count_off@front.{side} tie_rods.count_on@front.{side} "
            f"tie_rods.taper_angle@front.{side} toe_set tie_rods.jam_lock@front.{side}"
        )
    boot = Order(with_options("tie_rods", "front", part="boot", spec="torque"))
    boot.goes("tie_rods.count_off@front.left", "tie_rods.boot@front.left", "tie_rods.count_on@front.left")
    assert "tie_rods.taper_angle@front.left" not in boot.keys
    assert boot.listed("buy")["Boot clamps"] == 4


def test_18_heavy_linkage_leaves_jam_nuts_for_the_rack():
    order = Order(("drag_link", "front"), car={"front.layout": "solid_leaf"})
    order.goes("drag_link.preset@front", "drag_link.tapers@front", "drag_link.damper_gap@front")
    order.goes("drag_link.toe_first@front drag_link.wheel_straight@front alignment drag_link.jam_after@front")
    assert "gear" in order.cautions("drag_link.tapers@front")
    assert "not bottoming" in order.step("drag_link.damper_gap@front").title


def test_19_pressed_ball_joint_on_one_side():
    order = Order(Fitting("pressed_ball_joint", "front", ("right",)))
    assert not any("left" in key for key in order.keys)
    order.goes("pressed_ball_joint.axle_slack@front.right", "crack@front", "raise.1")
    order.goes("press_booked", "pressed_ball_joint.snap_out@front.right", "pressed_ball_joint.press_in@front.right")
    assert order.where("pressed_ball_joint.axle_torque@front.right") == "on_wheels"
    assert {"snap_ring", "eyes"} <= order.cautions("pressed_ball_joint.snap_out@front.right")
    assert "lb·in" in order.joint("pressed_ball_joint.sensor.front.right").bolts[0].note
    assert any("Press" in one for one in order.listed("book"))
    assert "Snap-ring pliers" in order.listed("tool")


def test_20_lower_arm_asks_only_what_the_car_does_not_know():
    order = Order(("lower_arm", "front"))
    assert "still pivots" in order.step("lower_arm.snug@front.left").title
    assert order.where("lower_arm.bush_torque@front.left") == "corner_carried"
    assert "bushing" in {one.key for one in order.plan.questions}
    known = {**STRUT, **{f"front.{side}.lower.bush_front": "spherical" for side in ("left", "right")}}
    told = Order(("lower_arm", "front"), car=known)
    assert "bushing" not in {one.key for one in told.plan.questions}
    assert told.where("lower_arm.bush_torque@front.left") == "hanging"


def test_21_two_hole_bar():
    order = Order(("two_hole_bar", "front"))
    assert order.joint("two_hole_bar.inner.front.left") != order.joint("two_hole_bar.outer.front.left")
    assert "estimated" in order.step("two_hole_bar.by_feel@front").title
    assert order.joint("two_hole_bar.blocked.front").bolts[0].reach
    order.goes("two_hole_bar.hole_soft@front", "links_loaded@front")
    assert "two_hole_bar.hole_firm@front" in Order(with_options("two_hole_bar", "front", hole="firm")).keys
