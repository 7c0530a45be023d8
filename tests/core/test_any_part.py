"""Any part of any car: it is found by every word for it, planned in an order a practitioner would take."""

from itertools import pairwise

import pytest
from planner import LIBRARY, Order, with_options

from fair_spindle.core.geometry.layouts import LAYOUTS, arms_of
from fair_spindle.core.planning.bay import Bay
from fair_spindle.core.planning.car_parts import parts_of_layouts
from fair_spindle.core.planning.part_map import parts_of_axle
from fair_spindle.core.planning.procedure import Fitting
from fair_spindle.core.planning.vocabulary import SAME, WISHES, normal, sought_by

PARTS = parts_of_layouts()
PLACES = [
    (key, axle, layout)
    for key, procedure in sorted(LIBRARY.procedures.items())
    for axle in procedure.axles or ("",)
    for layout in procedure.layouts or ("",)
]


def found_by(words):
    """As the picker seeks: every word, in the singular too."""
    sought = normal(words).split()
    return {
        key
        for key, one in LIBRARY.procedures.items()
        if all(word in sought_by(one) or word.removesuffix("s") in sought_by(one) for word in sought)
    }


def test_every_arm_and_link_of_every_layout_can_be_swapped():
    own = {("trailing_lateral", "trailing"): "trailing_arm", ("solid_leaf", "shackle"): "leaf_shackles"}
    for layout in LAYOUTS.values():
        for arm in layout.arms:
            swaps = [part.key for part in PARTS if part.arm == arm.key and layout.key in part.layouts]
            swaps += [own[layout.key, arm.key]] if (layout.key, arm.key) in own else []
            swaps += ["tie_rods"] if arm.key == "tie" and not arm.pivots else []
            swaps += ["pressed_bushings"] if arm.key == "beam" else []
            assert len(swaps) == 1, (layout.key, arm.key, swaps)
            assert swaps[0] in LIBRARY.procedures


@pytest.mark.parametrize("line", SAME, ids=lambda line: line[0])
def test_a_part_is_found_by_each_of_its_names(line):
    found = [found_by(name) for name in line]
    assert set.intersection(*found), line


@pytest.mark.parametrize("wish", WISHES)
def test_what_people_want_is_found(wish):
    assert set(WISHES[wish]) <= found_by(wish)


@pytest.mark.parametrize(
    ("words", "key"),
    [
        ("springs", "springs"), ("lowering", "springs"), ("camber", "camber_bolts"), ("track rod", "tie_rods"),
        ("tie rod end", "tie_rods"), ("shock", "dampers"), ("Anti-roll bar", "sway_bars"),
        ("wishbones", "swap_upper_arm"), ("polybush", "pressed_bushings"), ("wheel bearing", "hub_bearing"),
        ("track bar", "swap_panhard_rod"),
    ],
)  # fmt: skip
def test_what_found_nothing_once_is_found(words, key):
    assert key in found_by(words)


class Read:
    """A plan read as the trade reads it: what stands where, and to what each joint was brought when."""

    def __init__(self, key, axle, layout, **known):
        car = {f"{axle}.layout": layout} if layout and axle else {}
        self.plan = Order(Fitting(key, axle), car=car, **known).plan
        self.steps = list(self.plan.steps)
        self.at = {step.key: place for place, step in enumerate(self.steps)}
        self.roles = {joint.key: joint for joint in self.plan.joints}
        self.end = len(self.steps)

    def places(self, kind):
        """Where steps of a kind stand, with the place on the car they are at."""
        for place, step in enumerate(self.steps):
            name, _, where = step.key.partition("@")
            if name.rpartition(".")[2] == kind or (kind.startswith("_") and name.endswith(kind)):
                yield place, where

    def brought(self):
        """Each joint with the stages it is brought to, and where."""
        found = {}
        for place, step in enumerate(self.steps):
            for goal in step.brings_joints:
                found.setdefault(goal.joint, []).append((place, goal.to))
        return found


def rubber_is_torqued_under_load(order):
    for joint, past in order.brought().items():
        for place, to in past:
            if to == "torqued" and order.roles[joint].bushing == "bonded_rubber":
                assert order.steps[place].where in ("on_wheels", "corner_carried"), joint


def nothing_is_driven_on_that_is_only_snug(order):
    road = order.at.get("road", order.end)
    for joint, past in order.brought().items():
        stages = [to for place, to in past if place < road]
        short = ("hand",) if order.roles[joint].role == "jam" else ("hand", "snug")
        assert not stages or stages[-1] not in short, joint


def stages_come_in_order(order):
    ranks = {"hand": 0, "snug": 1, "torqued": 2, "marked": 3}
    for joint, past in order.brought().items():
        told = [ranks[to] for _, to in past]
        assert told == sorted(told), joint
        assert len(told) == 1 or told[0] == 0 or order.roles[joint].role in ("wheel", "link", "jam"), joint


def wheel_nuts_are_final_before_it_is_rolled_or_driven(order):
    rolled = min(order.at.get("settle_again", order.end), order.at.get("road", order.end))
    assert all(place < rolled for place, _ in order.places("wheel_torque"))


def tapers_are_freed_while_the_part_still_holds(order):
    for free, where in order.places("_free"):
        assert all(free < out for out, at in order.places("out") if at == where)


def the_new_part_is_set_beside_the_old_one_when_that_is_out(order):
    for place, where in order.places("beside"):
        owner = order.steps[place].key.partition(".")[0]
        assert order.at[f"{owner}.out@{where}"] < place < order.at[f"{owner}.in@{where}"]


def hoses_and_wires_are_free_before_anything_comes_out(order):
    freed = [place for place, _ in order.places("clear_wires")]
    outs = [place for place, _ in order.places("out")]
    assert not (freed and outs) or min(freed) < min(outs)


def it_settles_then_is_measured_then_toe_is_set_then_it_is_driven(order):
    wanted = [order.at[key] for key in ("settle_again", "measure", "toe_set", "road") if key in order.at]
    assert wanted == sorted(wanted)


def what_a_jack_carries_is_snug_before_the_next_is_let_go(order):
    held = [
        (place, step)
        for place, step in enumerate(order.steps)
        if "@" in step.key and step.frees_joints and any("arry" in order.steps[one].key for one in rests(order, step))
    ]
    for (_, now), (then, _) in pairwise(held):
        for joint in now.frees_joints:
            snug = [place for place, to in order.brought().get(joint, []) if to == "snug"]
            assert all(place < then for place in snug), (now.key, joint)


def rests(order, step):
    return [order.at[key] for key in step.rests_on if key in order.at]


def nothing_is_rolled_with_a_wheel_or_pivot_that_is_only_by_hand(order):
    rolled = order.at.get("settle_again", order.end)
    for joint, past in order.brought().items():
        stages = [to for place, to in past if place < rolled]
        assert not stages or stages[-1] != "hand" or order.roles[joint].role in ("jam", "link"), joint


def a_bar_s_second_link_is_set_on_the_settled_car(order):
    settled = order.at.get("settle_again", -1)
    for kind in ("second_link", "links_loaded"):
        assert all(place > settled for place, _ in order.places(kind) if order.steps[place].where == "on_wheels")


RULES = [
    a_bar_s_second_link_is_set_on_the_settled_car,
    what_a_jack_carries_is_snug_before_the_next_is_let_go,
    nothing_is_rolled_with_a_wheel_or_pivot_that_is_only_by_hand,
    rubber_is_torqued_under_load,
    nothing_is_driven_on_that_is_only_snug,
    stages_come_in_order,
    wheel_nuts_are_final_before_it_is_rolled_or_driven,
    tapers_are_freed_while_the_part_still_holds,
    the_new_part_is_set_beside_the_old_one_when_that_is_out,
    hoses_and_wires_are_free_before_anything_comes_out,
    it_settles_then_is_measured_then_toe_is_set_then_it_is_driven,
]


@pytest.mark.parametrize(("key", "axle", "layout"), PLACES, ids=lambda value: value or "-")
def test_a_plan_of_every_part_keeps_the_orders_of_the_trade(key, axle, layout):
    """Read off the plan and not off what made it: common practice, no published source."""
    order = Read(key, axle, layout)
    for rule in RULES:
        rule(order)


@pytest.mark.parametrize(("key", "axle", "layout"), PLACES, ids=lambda value: value or "-")
def test_rubber_that_is_loaded_on_the_wheels_is_torqued_when_the_car_has_settled(key, axle, layout):
    order = Read(key, axle, layout, workshop={"load": "wheels"})
    rubber_is_torqued_under_load(order)
    for joint, past in order.brought().items():
        if order.roles[joint].bushing == "bonded_rubber":
            torqued = [place for place, to in past if to == "torqued" and order.steps[place].where == "on_wheels"]
            assert all(place > order.at["settle_again"] for place in torqued), joint


@pytest.mark.parametrize(
    ("bay", "said", "raised"),
    [
        (Bay(), "", {"Raise the car"}),
        (Bay(stands=2), "One end at a time", {"Raise the car, front", "Raise the car, rear"}),
        (Bay(stands=2, lift=True), "", {"Raise the car"}),
        (Bay(jacks=0), "names none", {"Raise the car"}),
    ],
)
def test_the_bay_decides_what_is_up_at_once(bay, said, raised):
    order = Order(("dampers", "front"), ("dampers", "rear"), bay=bay)
    assert {step.title for step in order.plan.steps if step.key.startswith("raise.")} == raised
    assert any(said in remark.message for remark in order.plan.remarks)
    carried = [step for step in order.plan.steps if step.key.startswith("carry.")]
    assert bool(carried) == bool(bay.carriers), "without a jack the corner is loaded on its wheels"


def test_with_two_jacks_both_sides_are_open_together_and_with_one_a_side_at_a_time():
    for jacks, order in ((1, ("in@front.left", "out@front.right")), (2, ("out@front.right", "in@front.left"))):
        Order(("dampers", "front"), bay=Bay(jacks=jacks)).goes(*(f"dampers.{key}" for key in order))


@pytest.mark.parametrize("bushing", ["greased_poly", "spherical"])
def test_a_pivot_that_is_not_rubber_waits_for_no_load(bushing):
    told = {f"{end}_bushing": bushing for end in ("inner", "outer")}
    order = Order(with_options("swap_rear_lateral_link", "rear", **told), car={"rear.layout": "trailing_lateral"})
    assert order.where("swap_rear_lateral_link.inner_torque@rear.left") == "hanging"
    loaded = Order(("swap_rear_lateral_link", "rear"), car={"rear.layout": "trailing_lateral"})
    assert loaded.where("swap_rear_lateral_link.inner_torque@rear.left") == "corner_carried"


def test_a_car_s_record_answers_what_its_bushings_are():
    car = {"rear.layout": "trailing_lateral", "rear.left.lateral_rear.bush_inner": "spherical"}
    order = Order(("swap_rear_lateral_link", "rear"), car=car)
    assert order.where("swap_rear_lateral_link.inner_torque@rear.left") == "hanging"
    assert order.where("swap_rear_lateral_link.inner_torque@rear.right") == "corner_carried"


@pytest.mark.parametrize(
    ("axles", "lift", "chocked"),
    [
        (("front",), "both_ends", ["rear"]),
        (("rear",), "both_ends", ["front"]),
        (("front", "rear"), "both_ends", [""]),
        (("front", "rear"), "one_end", ["front", "rear"]),
    ],
)
def test_chocks_go_to_wheels_that_stay_down(axles, lift, chocked):
    order = Order(*(("dampers", axle) for axle in axles), lift=lift)
    raises = [step for step in order.plan.steps if step.key.startswith("raise.")]
    told = {end: f"Chocks at both {end} wheels" for end in ("front", "rear")}
    found = {next((end for end, words in told.items() if words in step.detail), "") for step in raises}
    assert found == set(chocked)
    assert all(("Chocks" in step.tools) == ("Chocks at" in step.detail) for step in raises)
    assert not any("rear wheels chocked" in words for step in order.plan.steps for words in step.cautions)


def test_a_panhard_rod_is_one_part_for_both_sides():
    order = Order(("swap_panhard_rod", "rear"), car={"rear.layout": "solid_links"})
    assert [step.key for step in order.plan.steps if step.key.startswith("swap_panhard_rod.out")] == [
        "swap_panhard_rod.out@rear"
    ]
    assert "tether@rear.left" not in order.keys, "the axle hangs on its links, no upright does"


@pytest.mark.parametrize("layout", LAYOUTS)
def test_every_part_of_a_layout_lies_on_the_drawing_with_its_work(layout):
    for axle in LAYOUTS[layout].axles:
        parts = parts_of_axle(axle, {f"{axle}.layout": layout}, LIBRARY)
        arms = {arm.key for arm in arms_of(LAYOUTS[layout], axle)} - ({"tie"} if axle == "rear" else set())
        steered = {"tie", "drag"} if not LAYOUTS[layout].independent else set()
        assert arms - steered <= {part.key for part in parts}
        springs = "leaf" if layout == "solid_leaf" else "spring"
        assert {springs, "damper", "bar", "hub"} <= {part.key for part in parts}
        assert len({"leaf", "spring"} & {part.key for part in parts}) == 1
        assert "springs" in next(part for part in parts if part.key == springs).work
        for part in parts:
            assert all(0 <= number <= 100 for point in (*part.line, *part.side_line) for number in point)
            for key in part.work:
                assert Order((key, axle), car={f"{axle}.layout": layout}).keys
    assert parts_of_axle("front", {}, LIBRARY) == (), "nothing is drawn that nobody told"
    bare = parts_of_axle("front", {"front.layout": "strut", "front.bar.fitted": "none"}, LIBRARY)
    assert "bar" not in {part.key for part in bare}
