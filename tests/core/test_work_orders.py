"""Work orders: what is special about each kind of job, alone and together.

Every order and state asserted here is common practice in the trade, no published source.
"""

import itertools
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fair_spindle.core.errors import Inconsistent, InputError, NotAllowed, NotFound
from fair_spindle.core.planning.own import own_procedure
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import (
    Brief,
    Compared,
    Fitting,
    Later,
    Library,
    OwnStep,
)
from fair_spindle.core.planning.sequence import stretches
from fair_spindle.core.planning.states import cost
from fair_spindle.core.planning.work_order import plan_work
from fair_spindle.formats.procedure_file import read_procedure, shipped, write_procedure

LIBRARY = shipped()
STRUT = {"front.layout": "strut", "rear.layout": "trailing_lateral"}


class Order:
    """A plan, asked in the words of the trade."""

    def __init__(self, *fittings, car=STRUT, workshop=None, **brief):
        fits = [Fitting(*one) if isinstance(one, tuple) else one for one in fittings]
        self.known = Known(Brief(tuple(fits), **brief), LIBRARY, car, workshop or {})
        self.plan = plan_work(self.known)
        self.keys = [step.key for step in self.plan.steps]

    def step(self, key):
        return next(step for step in self.plan.steps if step.key == key)

    def goes(self, *keys):
        """The steps stand in this order."""
        places = [self.keys.index(key) for key in keys]
        assert places == sorted(places), dict(zip(keys, places, strict=True))

    def where(self, key):
        return self.step(key).where

    def listed(self, sort):
        return {one.name: one.count for one in self.plan.lists if one.sort == sort}

    def joint(self, key):
        return next(joint for joint in self.plan.joints if joint.key == key)

    def cautions(self, key):
        return set(self.step(key).cautions)


def with_options(procedure, axle, **options):
    return Fitting(procedure, axle, options=options)


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
            "cabin_unit.trim_out@rear",
            f"cabin_unit.bracket_loose@rear.{side}",
            f"cabin_unit.unit_out@rear.{side}",
            f"cabin_unit.main_start@rear.{side}",
            f"cabin_unit.bracket_tight@rear.{side}",
            "cabin_unit.trim_back@rear",
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
        "clear_wires@front",
        "tether@front.left",
        "truck_front.taper_free@front.left",
        "truck_front.nut_off@front.left",
        "truck_front.arm_out@front.left",
        "truck_front.limiter_out@front.left",
        "truck_front.in@front.left",
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
        "subframe_collars.mark@front",
        "subframe_collars.carry@front",
        "subframe_collars.loosen@front",
        "subframe_collars.collars@front",
        "subframe_collars.snug@front",
        "subframe_collars.torque@front",
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
            f"sway_bars.preset@{axle}.left",
            f"sway_bars.centre@{axle}",
            f"sway_bars.swing@{axle}",
            f"sway_bars.second_link@{axle}",
            f"links_loaded@{axle}",
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
        "subframe_inserts.carry@rear",
        "subframe_inserts.lower@rear",
        "subframe_inserts.insert@rear",
        "subframe_inserts.line_up@rear",
        "subframe_inserts.snug@rear",
        "subframe_inserts.torque_main@rear",
        "subframe_inserts.torque_brace@rear",
    )
    assert "only enough for a hand" in order.step("subframe_inserts.lower@rear").title


def test_17_tie_rods_are_counted_and_their_jam_nuts_closed_last():
    order = Order(("tie_rods", "front"))
    for side in ("left", "right"):
        order.goes(
            f"tie_rods.mark@front.{side}",
            f"tie_rods.count_off@front.{side}",
            f"tie_rods.count_on@front.{side}",
            f"tie_rods.taper_angle@front.{side}",
            "toe_set",
            f"tie_rods.jam_lock@front.{side}",
        )
    boot = Order(with_options("tie_rods", "front", part="boot", spec="torque"))
    boot.goes("tie_rods.count_off@front.left", "tie_rods.boot@front.left", "tie_rods.count_on@front.left")
    assert "tie_rods.taper_angle@front.left" not in boot.keys
    assert boot.listed("buy")["Boot clamps"] == 4


def test_18_heavy_linkage_leaves_jam_nuts_for_the_rack():
    order = Order(("drag_link", "front"), car={"front.layout": "solid_leaf"})
    order.goes("drag_link.preset@front", "drag_link.tapers@front", "drag_link.damper_gap@front")
    order.goes(
        "drag_link.toe_first@front", "drag_link.wheel_straight@front", "alignment", "drag_link.jam_after@front"
    )
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


COMBINED = {
    "springs, arms and bars": (("coilovers", "front"), ("lower_arm", "front"), ("sway_bars", "front")),
    "both ends": (("coilovers", "front"), ("coilovers", "rear"), ("trailing_arm", "rear"), ("tie_rods", "front")),
    "rear and brace": (("trailing_arm", "rear"), ("diff_brace", "rear"), ("dampers", "rear")),
}


@pytest.mark.parametrize("fittings", COMBINED.values(), ids=list(COMBINED))
def test_combined_jobs_raise_once_and_share_their_steps(fittings):
    order = Order(*fittings)
    assert order.plan.raises == 1
    assert len(order.keys) == len(set(order.keys))
    axles = {axle for _, axle in fittings}
    assert sum(step.key.startswith("wheels_off") for step in order.plan.steps) == len(axles)
    for axle in axles:
        assert len(order.step(f"wheels_off@{axle}").by) > 1 or len(fittings) == len(axles)
    apart = sum(Order(one).plan.minutes[0] for one in fittings)
    assert order.plan.minutes[0] < apart
    firsts = [step.phase for step in order.plan.steps if step.phase >= 12]
    assert firsts == sorted(firsts)


def test_every_procedure_puts_both_sides_to_the_same_stage_before_load():
    for procedure in LIBRARY.procedures.values():
        for axle in procedure.axles:
            order = Order((procedure.key, axle), car={})
            loaded = [n for n, step in enumerate(order.plan.steps) if step.where == "corner_carried"]
            hand = [
                n
                for n, step in enumerate(order.plan.steps)
                if any(goal.to == "hand" for goal in step.brings_joints) and step.phase <= 8
            ]
            assert not loaded or not hand or max(hand) < min(loaded)


def test_the_penetrant_works_while_the_bench_is_laid_out_and_is_told_as_waiting():
    order = Order(("trailing_arm", "rear"))
    order.goes("penetrant@rear", "bench", "compare", "raise.1")
    assert order.plan.wait_h == (2, 12)


def test_one_end_after_the_other_takes_a_raise_for_each():
    assert Order(("coilovers", "front"), ("coilovers", "rear"), lift="one_end").plan.raises == 2


def test_a_step_left_out_and_one_of_our_own_and_an_order_of_our_own():
    own = OwnStep("own.photo", "Photograph the hubs", 5, "hanging", after=("wheels_off@rear",))
    later = Later("trailing_arm.snug@rear.right", "trailing_arm.snug@rear.left")
    order = Order(("trailing_arm", "rear"), dropped={"tether@rear.left": "on a lift"}, added=(own,), later=(later,))
    assert "tether@rear.left" not in order.keys
    order.goes("wheels_off@rear", "own.photo", "lower.1")
    order.goes("trailing_arm.snug@rear.right", "trailing_arm.snug@rear.left")


def test_steps_that_wait_for_each_other_are_named_with_the_reasons():
    wish = Later("trailing_arm.in@rear.left", "trailing_arm.knuckle_out@rear.left")
    with pytest.raises(Inconsistent, match=r"“Knuckle bolt out first”.*by hand") as caught:
        Order(("trailing_arm", "rear"), later=(wish,))
    assert len(caught.value.details["steps"]) >= 2


@pytest.mark.parametrize(
    ("fittings", "kind", "field"),
    [
        ((), InputError, "fittings"),
        ((("trailing_arm", "front"),), InputError, "fittings.axle"),
        ((("trailing_arm", "rear"), ("trailing_arm", "rear")), Inconsistent, "fittings"),
        ((Fitting("trailing_arm", "rear", ()),), InputError, "fittings.sides"),
        ((("no_such", "rear"),), NotFound, "procedure"),
    ],
)
def test_a_brief_that_cannot_be_is_refused_with_its_field(fittings, kind, field):
    with pytest.raises(kind) as caught:
        Order(*fittings)
    assert caught.value.field == field


def test_parts_are_compared_before_the_car_is_raised():
    def remarks(**compared):
        found = {key: Compared(*pair) for key, pair in compared.items()}
        return Order(Fitting("tie_rods", "front", compared=found)).plan.remarks

    assert [one.severity for one in remarks()] == ["question"]
    wrong = remarks(length=("182", "18.3 cm"), thread=("M14x1.5", "m14 X 1.5"), hand=("right", "left"))
    assert [one.severity for one in wrong] == ["question", "blocks"]
    assert "Longer by 1.0 mm" in wrong[0].message
    assert "hand" in wrong[1].message
    with pytest.raises(InputError, match="not a number"):
        remarks(length=("182", "long"))


def test_an_edited_plan_becomes_a_procedure_that_plans_the_same():
    own = OwnStep("own.photo", "Photograph the hubs", 5, "hanging", axle="rear", after=("wheels_off@rear",))
    gone = {f"trailing_arm.snug@rear.{side}": "done by hand" for side in ("left", "right")}
    order = Order(("trailing_arm", "rear"), dropped=gone, added=(own,))
    made = own_procedure(order.known, "our_arm", "Trailing arm, our way")
    again = read_procedure(write_procedure(made), LIBRARY.common)
    assert again == made
    library = Library(LIBRARY.common, {**LIBRARY.procedures, made.key: made})
    plan = plan_work(Known(Brief((Fitting("our_arm", "rear"),)), library, STRUT, {}))
    assert [step.title for step in plan.steps] == [
        step.title + (", rear" if step.key == "own.photo" and not step.title.endswith("rear") else "")
        for step in order.plan.steps
    ]
    with pytest.raises(NotAllowed, match="two axles"):
        own_procedure(Order(*COMBINED["both ends"]).known, "both", "Both")


@pytest.mark.parametrize("key", LIBRARY.procedures)
def test_each_shipped_procedure_is_read_back_the_same(key):
    procedure = LIBRARY.find(key)
    assert read_procedure(write_procedure(procedure), LIBRARY.common) == procedure


@pytest.mark.parametrize(
    ("spoil", "field"),
    [
        (lambda text: text.replace(b'where = "pivot"', b'where = "floating"'), "operations/4/where"),
        (lambda text: text.replace(b'"in",', b'"inn",'), "needs"),
        (lambda text: text.replace(b"phase = 10", b"phase = 17"), "operations[4] torque.phase"),
        (lambda text: text.replace(b'"rubber"', b'"rabber"'), "operations[4] torque.cautions"),
        (lambda text: text.replace(b'bushing = "@bushing"', b'bushing = "@bush"'), "fastenings subframe.bushing"),
        (lambda text: text.replace(b'key = "in"', b'key = "snug"'), "operations"),
        (lambda text: text + b"\nwhatever = 1", "operations/4/brings/whatever"),
        (lambda text: b"\xff" + text, "file"),
        (lambda text: text[:200] + b"[[", "file"),
    ],
)
def test_a_damaged_procedure_says_where(spoil, field):
    text = write_procedure(LIBRARY.find("trailing_arm"))
    with pytest.raises(InputError) as caught:
        read_procedure(spoil(text), LIBRARY.common)
    assert caught.value.field == field


STATES = ("on_wheels", "hanging", "carried.front.left", "carried.front.right")


@st.composite
def small_plans(draw):
    size = draw(st.integers(1, 6))
    demands = [draw(st.sampled_from([None, *(frozenset({state}) for state in STATES)])) for _ in range(size)]
    masks = [draw(st.integers(0, (1 << n) - 1)) for n in range(size)]
    shuffle = draw(st.permutations(range(size)))
    turned = [0] * size
    for n in range(size):
        turned[shuffle[n]] = sum(1 << shuffle[k] for k in range(n) if masks[n] >> k & 1)
    return [demands[shuffle.index(n)] for n in range(size)], turned


def cheapest(demands, masks):
    """Every order there is, each operation in every position it can be done in; the least cost."""
    best = None
    for order in itertools.permutations(range(len(masks))):
        done, spent, now = 0, 0, "on_wheels"
        for n in order:
            if masks[n] & ~done:
                break
            done |= 1 << n
            if demands[n]:
                spent, now = spent + cost(now, next(iter(demands[n]))), next(iter(demands[n]))
        else:
            spent += cost(now, "on_wheels")
            best = spent if best is None else min(best, spent)
    return best


@pytest.mark.identity
@settings(max_examples=150, deadline=None)
@given(small_plans())
def test_no_order_costs_less_than_the_one_found(plan):
    demands, masks = plan
    found = stretches(demands, masks)
    done = spent = 0
    for (before, _), (now, _) in itertools.pairwise(found):
        spent += cost(before, now)
    for state, inside in found:
        for n, wanted in enumerate(demands):
            if inside >> n & 1:
                assert masks[n] & ~(done | inside) == 0
                assert wanted is None or state in wanted
        done |= inside
    assert done == (1 << len(masks)) - 1
    assert spent == cheapest(demands, masks)


KEYS = sorted(LIBRARY.procedures)


@pytest.mark.identity
@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.sampled_from(KEYS), min_size=1, max_size=4, unique=True),
    st.sampled_from(["jack", "wheels"]),
    st.sampled_from(["hanging", "wheels"]),
    st.sampled_from(["both_ends", "one_end"]),
)
def test_every_order_respects_what_its_steps_wait_for(keys, load, second, lift):
    fittings = [(key, (LIBRARY.find(key).axles or ("",))[0]) for key in keys]
    order = Order(*fittings, car={}, schools={"load": load, "second_link": second}, lift=lift)
    place = {key: n for n, key in enumerate(order.keys)}
    by_hand, tight = {}, {}
    for n, step in enumerate(order.plan.steps):
        assert all(place[key] < n for key in step.rests_on)
        for goal in step.brings_joints:
            (by_hand if goal.to == "hand" else tight).setdefault(goal.joint, []).append(n)
    assert all(max(by_hand[joint]) < min(tight[joint]) for joint in by_hand.keys() & tight.keys())
    assert order.plan.steps[-1].where == "on_wheels"


def test_a_new_kind_of_job_is_a_file():
    text = b"""
key = "mud_flap"
title = "Mud flaps"
about = "Two screws each."
axles = ["rear"]
uses = ["wheels_off", "road"]
[[fastenings]]
key = "screws"
label = "Flap screws"
role = "bracket"
count = 2
[[operations]]
key = "on"
title = "Flaps on by hand"
phase = 6
needs = ["wheels_off"]
brings = { screws = "hand" }
[[operations]]
key = "tight"
title = "Screws tight"
phase = 8
needs = ["on"]
brings = { screws = "torqued" }
"""
    made = read_procedure(text, LIBRARY.common)
    library = replace(LIBRARY, procedures={made.key: made})
    plan = plan_work(Known(Brief((Fitting("mud_flap", "rear"),)), library, {}, {}))
    titles = [step.title for step in plan.steps]
    assert titles.index("Flaps on by hand, rear right") < titles.index("Screws tight, rear left")
    assert titles.index("Wheels off, rear") < titles.index("Flaps on by hand, rear left")
