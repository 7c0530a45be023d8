"""Work orders of several kinds of job together, parts that differ, and the order that costs least.

Every order and state asserted here is common practice in the trade, no published source.
"""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from planner import COMBINED, LIBRARY, Order

from fair_spindle.core.basics.errors import Inconsistent, InputError, NotFound
from fair_spindle.core.planning.procedure import Compared, Fitting, Later, OwnStep
from fair_spindle.core.planning.sequence import stretches
from fair_spindle.core.planning.states import cost


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
    with pytest.raises(Inconsistent, match=r"“Upright bolt out first”.*by hand") as caught:
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
    wrong = remarks(thread=("M14x1.5", "m14 X 1.5"), hand=("right", "left"))
    assert [one.severity for one in wrong] == ["blocks"]
    longer = {"length": Compared("341", "34.3 cm"), "hand": Compared("left", "left")}
    arm = Order(Fitting("lower_arm", "front", compared=longer)).plan.remarks
    assert [one.severity for one in arm] == ["question"]
    assert "More by 0.20 cm" in arm[0].message
    assert "hand" in wrong[0].message
    with pytest.raises(InputError, match="not a number"):
        assert Order(Fitting("lower_arm", "front", compared={"length": Compared("182", "long")})).plan


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
@settings(max_examples=150)
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
@settings(max_examples=60)
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
