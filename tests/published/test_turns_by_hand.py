"""Adjusters, pairs of wheels and the sureness of their turns: closed forms, slopes by differences, every pair,
scipy."""

import itertools
import math

import numpy as np
import pytest
from scipy.stats import multivariate_normal

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.geometry.corner import make_corner
from fair_spindle.core.geometry.kinematics import angles_at, solve_poses, wheel_angles
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.turns.adjuster import Adjuster, changes_by_link, near_settings, on
from fair_spindle.core.turns.axle_turns import Across, best_pair, realign_axle, toe_across
from fair_spindle.core.turns.monte_carlo import Cloud, Doubtful, how_sure, variance_shares
from fair_spindle.core.turns.realign import Realigned, Tried, Wanted, realign

ROD = Adjuster("rod", on("tie"), 1.5, 1 / 6, -4.0, 3.0, start=0.4)
BALL = Adjuster("ball joint", (("lower_front", 1.0), ("lower_rear", 0.5)), 2.0, 0.5, -10.0, 10.0)


def test_an_adjuster_counts_from_the_old_part():
    """By hand: 6 flats of a 1.5 mm thread are 1.5 mm."""
    assert ROD.changed(6) == pytest.approx(1.9)
    assert ROD.turns_to(1.9) == pytest.approx(1.0)
    assert (ROD.moves("tie"), ROD.moves("lower"), BALL.moves("lower_rear")) == (True, False, True)


@pytest.mark.parametrize(
    ("change", "past"),
    [(3.0, 0.0), (3.0 + 1e-10, 0.0), (3.25, 0.25), (-4.0, 0.0), (-4.0 - 1e-10, 0.0), (-4.5, -0.5), (0.0, 0.0)],
)
def test_past_its_stop_is_told_with_its_way(change, past):
    assert ROD.beyond(change) == pytest.approx(past)


def test_settings_lie_on_steps_from_the_start_between_the_stops():
    """Every step there is, counted by hand: 0.4 mm and then a quarter of a millimetre a flat."""
    every = [0.4 + 0.25 * step for step in range(-100, 100) if -4 - 1e-9 <= 0.4 + 0.25 * step <= 3 + 1e-9]
    assert near_settings(np.array([0.0]), [ROD], 50)[:, 0] == pytest.approx(every)
    assert near_settings(np.array([0.97]), [ROD], 1)[:, 0] == pytest.approx([0.65, 0.9, 1.15])
    assert near_settings(np.array([99.0]), [ROD], 2)[:, 0] == pytest.approx([2.4, 2.65, 2.9])
    assert near_settings(np.array([-99.0]), [ROD], 1)[:, 0] == pytest.approx([-3.85, -3.6])
    pairs = near_settings(np.array([0.4, 1.2]), [ROD, BALL], 1)
    assert pairs == pytest.approx(np.array([*itertools.product([0.15, 0.4, 0.65], [0.0, 1.0, 2.0])]))
    assert near_settings(np.zeros(0), []).shape == (1, 0)


@pytest.mark.parametrize(("count", "most"), [(1, 17), (2, 17), (3, 13), (4, 7), (6, 3), (8, 3)])
def test_with_more_adjusters_fewer_steps_are_tried(count, most):
    """(2 n + 1) to the power of their number stays within 2,500, by hand; one step each way is tried in any case."""
    found = near_settings(np.zeros(count), [BALL] * count, 8)
    assert len(np.unique(found[:, 0])) == most
    assert len(found) == most**count


def test_adjusters_on_one_link_add_up_each_by_its_share():
    arm = Adjuster("shim", (("lower_front", 0.25),), 1.0, 1.0, -9, 9)
    found = changes_by_link([BALL, arm], np.array([[2.0, 4.0], [-1.0, 0.0]]))
    assert {link: change.tolist() for link, change in found.items()} == {
        "lower_front": [3, -1],
        "lower_rear": [1, -0.5],
    }


def test_total_toe_and_thrust_of_two_wheels():
    total, thrust = toe_across(0.004, 0.001, 0.002, 0.0005)
    left, right = {"toe": np.array([0.005])}, {"toe": np.array([0.003])}
    assert total.miss(left, right) == pytest.approx([(0.008 - 0.005) / 0.002])
    assert thrust.miss(left, right) == pytest.approx([(0.001 - 0.0015) / 0.0005])
    assert (total.name, thrust.name) == ("total", "thrust")


@pytest.mark.parametrize("seed", range(12))
def test_the_best_pair_is_the_best_of_all_pairs(seed):
    """Every pair there is; of equally good ones that with less turned."""
    generator = np.random.default_rng(seed)

    def tried():
        changes = generator.integers(-3, 4, (30, 2)) * 0.25
        toe, camber = generator.normal(0, 2e-3, (2, 30))
        return Tried(changes, {"toe": toe, "camber": camber}, (toe / 1e-3) ** 2 + (camber / 2e-3) ** 2)

    left, right = tried(), tried()
    across = [*toe_across(0.002, 0.001, 6e-4, 3e-4), Across("camber", "camber", 1.0, -1.0, 0.0, 1e-3)]

    def cost(one, other):
        pick = lambda of, n: {name: angle[n : n + 1] for name, angle in of.angles.items()}  # noqa: E731
        misses = [float(both.miss(pick(left, one), pick(right, other))[0]) for both in across]
        return left.cost[one] + right.cost[other] + sum(miss**2 for miss in misses)

    best = min(itertools.product(range(30), range(30)), key=lambda pair: cost(*pair))
    assert cost(*best_pair(left, right, across)) == pytest.approx(cost(*best))
    even = Tried(np.array([[3.0], [1.0], [2.0]]), {"toe": np.zeros(3)}, np.zeros(3))
    assert best_pair(even, even, []) == (1, 1), "of equals the one that turns less"


USUAL = usual_corner("double_wishbone").points


def wheel(side, toe=0.0, camber=-0.02):
    points = {name: (x, side * y, z) for name, (x, y, z) in USUAL.items()}
    return make_corner("double_wishbone", "left" if side > 0 else "right", camber, toe, points)


def slopes(corner, travel=0.0, changes=None, **by):
    """What a unit of travel, of a link's length, or of a point's place does to toe and camber, by differences."""
    found = {}
    still = {link: np.full(2, size) for link, size in (changes or {}).items()}
    for name, (kind, size) in by.items():
        both, scatter, moved = np.full(2, travel), {}, dict(still)
        if kind == "travel":
            both = both + np.array([size, -size])
        elif kind == "link":
            moved[name] = still.get(name, 0.0) + np.array([size, -size])
        else:
            scatter = {kind[0]: np.array([kind[1], np.negative(kind[1])]) * size}
        at = wheel_angles(corner, solve_poses(corner, both, moved, scatter))
        found[name] = np.array([at.toe[0] - at.toe[1], at.camber[0] - at.camber[1]]) / (2 * size)
    return found


def test_a_wheel_at_its_stop_is_made_up_for_by_the_other():
    """Of all pairs of settings the cheapest, tried one by one."""
    short = Adjuster("rod", on("tie"), 1.0, 0.25, -0.5, 0.5)
    long = Adjuster("rod", on("tie"), 1.0, 0.25, -6.0, 6.0)
    left = Wanted(wheel(1), 0.0, (short,), {"toe": 0.012}, {"toe": 0.02})
    right = Wanted(wheel(-1), 0.0, (long,), {"toe": 0.012}, {"toe": 0.02})
    across = toe_across(0.012, 0.012, 1e-4, 0.02)
    found = realign_axle(left, right, across)

    def cost(one, other):
        toes = [
            float(angles_at(each.corner, [0.0], {"tie": by}).toe[0]) for each, by in ((left, one), (right, other))
        ]
        own = sum(((toe - 0.012) / 0.02) ** 2 for toe in toes)
        return own + ((sum(toes) - 0.024) / 1e-4) ** 2 + ((toes[0] - toes[1]) / 2 / 0.02) ** 2

    steps = [np.arange(-0.5, 0.51, 0.25), np.arange(-6, 6.01, 0.25)]
    best = min(itertools.product(*steps), key=lambda pair: cost(*pair))
    assert [one.changes[0] for one in found] == pytest.approx(best)
    assert found[0].limited_by == ("rod",)
    assert found[1].limited_by == ()


SAMPLES = 200_000
NEAR = 0.012


def planned(corner, adjusters, changes, targets, tolerances, travel=12.0):
    wanted = Wanted(corner, travel, adjusters, targets, tolerances)
    still = np.array(changes)
    return wanted, Realigned({}, still, still, still, {}, {}, ())


def test_how_sure_a_wheel_is_follows_from_its_readings_by_hand():
    """Sums of independent normals over slopes by differences; the chance of both angles from scipy's bivariate
    normal."""
    rod = Adjuster("Tie rod", on("tie"), 1.5, 1 / 6, -9, 9, doubt=0.2, turn_open=0.15)
    arm = Adjuster("Upper arm", on("upper_front"), 2.0, 1.0, -9, 9)
    corner, changes = wheel(1), {"tie": 2.0, "upper_front": 1.5}
    by = slopes(
        corner, 12.0, changes, height=("travel", 1.0), tie=("link", 0.2), upper_front=("link", 0.2),
        point=(("tie_inner", [0, 0, 1.0]), 0.5),
    )  # fmt: skip
    cloud = np.zeros((5, 3))
    cloud[2, 0], cloud[3, 1], cloud[4, 2] = 0.4, 1e-3, 1.5e-3
    sources = (("left point tie_inner", 1), ("left toe", 1), ("left camber", 1))
    doubtful = Doubtful(1e-3, 1.5e-3, 1.0, 1.0, Cloud(("tie_inner",), sources, cloud))
    at = angles_at(corner, [12.0], changes)
    middle = np.array([3e-4, -5e-4])
    targets = {"toe": float(at.toe[0]) - middle[0], "camber": float(at.camber[0]) - middle[1]}
    near = {"toe": 4e-3, "camber": 3e-3}
    wanted, plan = planned(corner, (rod, arm), [2.0, 1.5], targets, near)
    found = how_sure([(wanted, plan, doubtful)], np.random.default_rng(3), SAMPLES)
    parts = {
        "height": by["height"],
        "left point tie_inner": 0.4 * by["point"],
        "left toe": np.array([1e-3, 0]),
        "left camber": np.array([0, 1.5e-3]),
        "left new tie rod against the old": 0.2 * by["tie"],
        "thread of the tie rod, both sides": 0.15 * (2.0 / 1.5) * by["tie"],
        "play in the thread of the left tie rod": 0.06 / math.sqrt(3) * by["tie"],
        "play in the thread of the left upper arm": 0.06 / math.sqrt(3) * by["upper_front"],
    }
    both = sum(np.outer(part, part) for part in parts.values())
    (one,) = found.wheels
    sizes = 2 * np.sqrt(np.diag(both))
    assert [one.angles[name] for name in targets] == pytest.approx(sizes, rel=NEAR)
    assert one.angles["caster"] > 0, "what is not aimed at is told too"
    inside = multivariate_normal(middle, both).cdf([4e-3, 3e-3], lower_limit=[-4e-3, -3e-3])
    assert one.chance == pytest.approx(inside, abs=0.005)
    assert found.chance == one.chance
    for place, name in enumerate(targets):
        alone = multivariate_normal(middle[place], both[place, place])
        assert one.chances[name] == pytest.approx(alone.cdf(near[name], lower_limit=-near[name]), abs=0.005)
    back = np.linalg.inv(np.stack([by["tie"], by["upper_front"]], axis=1))
    assert one.turns == pytest.approx(2 * np.sqrt(np.diag(back @ both @ back.T)) / [1.5, 2.0], rel=NEAR)
    power = {name: np.sum((part / [4e-3, 3e-3]) ** 2) for name, part in parts.items()}
    assert found.shares == {name: pytest.approx(one / sum(power.values()), abs=0.01) for name, one in power.items()}
    assert list(found.shares.values()) == sorted(found.shares.values(), reverse=True)
    assert found.thrust.tolist() == [0.0] * SAMPLES


def test_how_sure_an_axle_is_counts_what_both_wheels_share():
    """What both share is common to both and cancels in thrust, or in total toe; what is each wheel's own rolls the
    body; by hand over slopes by differences."""
    left, right = wheel(1), wheel(-1)
    by = slopes(left, 12.0, height=("travel", 1.0), point=(("tie_inner", [0, 0, 1.0]), 0.3))
    slope, lean = by["height"]
    shared = 0.5 * by["point"]
    at = angles_at(left, [12.0])
    toe, camber = float(at.toe[0]), float(at.camber[0])
    targets, near = {"toe": toe, "camber": camber}, {"toe": 1e-3, "camber": 2e-3}

    def doubtful(side):
        cloud = np.zeros((5, 3))
        cloud[2, 0], cloud[3, 1], cloud[4, 2] = 0.5, 4e-4, 5e-4
        sources = (("both sides' point", 1), (f"{side} toe", 1), (f"{side} camber", 1))
        matrix = Cloud(("tie_inner",), sources, cloud)
        return Doubtful(4e-4, 5e-4, 5.0, 1.0, matrix, apart=3.0, track=1500.0)

    wheels = [
        (*planned(one, (), [], targets, near), doubtful(side)) for one, side in ((left, "left"), (right, "right"))
    ]
    across = [*toe_across(toe, toe, 2e-3, 5e-4), Across("camber", "camber", 1.0, -1.0, 0.0, 4e-3)]
    follow = np.random.default_rng(8).normal(0, 3e-4, SAMPLES)
    found = how_sure(wheels, np.random.default_rng(4), SAMPLES, across, follow)
    own = math.hypot(4e-4, slope * 3)
    single = math.hypot(4e-4, slope * 5, shared[0])
    assert found.wheels[0].angles["toe"] == pytest.approx(2 * single, rel=NEAR)
    rolls = math.sqrt(2) * 3 / 1500
    upright = math.hypot(5e-4, lean * 4, shared[1], (1 / 1500 + lean) * 3, 3 / 1500)
    assert found.wheels[1].angles["camber"] == pytest.approx(2 * upright, rel=NEAR)
    total = math.hypot(math.sqrt(2) * own, 2 * slope * 4, 2 * shared[0])
    assert found.across["total"] == pytest.approx(2 * total, rel=NEAR)
    thrust = own / math.sqrt(2)
    assert found.across["thrust"] == pytest.approx(2 * math.hypot(thrust, 3e-4), rel=NEAR), "points of both cancel"
    apart = math.hypot(math.sqrt(2) * 5e-4, math.sqrt(2) * lean * 3 + 2 * rolls)
    assert found.across["camber"] == pytest.approx(2 * apart, rel=NEAR)
    assert np.std(found.thrust) == pytest.approx(thrust, rel=NEAR)
    assert np.mean(found.thrust) == pytest.approx(0.0, abs=1e-5)
    normal = multivariate_normal(0.0, math.hypot(thrust, 3e-4) ** 2)
    assert found.across_chances["thrust"] == pytest.approx(normal.cdf(5e-4, lower_limit=-5e-4), abs=0.005)
    assert found.chance < min(*found.across_chances.values(), *(one.chance for one in found.wheels))
    assert {"left height", "right height"} <= set(found.shares)


def test_shares_of_what_was_drawn_leave_out_what_never_varied():
    """Outcome 3 a + 4 b of independent unit normals, beside an input that stands still: 9 and 16 of 25."""
    a, b = np.random.default_rng(2).normal(size=(2, 50_000, 1))
    found = variance_shares({"a": a, "still": np.ones_like(a), "b": 7 * b}, 5 + 3 * a + 4 * b)
    assert found == {"b": pytest.approx(16 / 25, abs=0.01), "a": pytest.approx(9 / 25, abs=0.01), "still": 0.0}


def test_up_to_six_adjusters_are_taken_and_a_stop_may_be_where_the_adjuster_stands():
    """Limits of the contract, each tried on both sides."""
    corner = wheel(1, toe=0.01)
    rods = tuple(Adjuster(f"rod {n}", on("tie"), 1.0, 0.1, -2.0, 0.0) for n in range(7))
    found = realign(corner, 0.0, rods[:6], {"toe": 0.0}, {"toe": 1e-3})
    assert found.after["toe"] == pytest.approx(0.0, abs=4e-4), "six of them shorten the rod together"
    assert found.changes.sum() == pytest.approx(-0.01 / slopes(corner, tie=("link", 0.2))["tie"][0], abs=0.06)
    with pytest.raises(InputError, match="One to six") as refused:
        realign(corner, 0.0, rods, {"toe": 0.0}, {"toe": 1e-4})
    assert refused.value.field == "adjusters"
    away = Adjuster("rod", on("tie"), 1.0, 0.5, 0.5, 3.0)
    with pytest.raises(InputError, match="either side") as refused:
        realign(corner, 0.0, (away,), {"toe": 0.0}, {"toe": 1e-4})
    assert refused.value.field == "adjusters.rod"
    link, toe = on("tie"), {"toe": 0.0}
    for rod, targets, field, why in (
        (Adjuster("rod", link, 0.0, 0.5, -1.0, 1.0), toe, "adjusters.rod", "above 0 mm; got 0"),
        (Adjuster("rod", link, 1.0, 0.5, 2.0, 2.3, start=4.0), toe, "adjusters.rod", "2.0 to 2.3 mm"),
    ):
        with pytest.raises(InputError, match=why) as refused:
            realign(corner, 0.0, (rod,), targets, {"toe": 1e-4, "caster": 1e-3})
        assert refused.value.field == field
    for low, high in ((-0.1, 0.1), (2.0, 2.5)):
        narrow = Adjuster("rod", link, 1.0, 0.5, low, high, start=2.0 if low > 0 else 0.0)
        assert realign(corner, 0.0, (narrow,), toe, {"toe": 1e-4}).changes.size == 1, "one setting is enough"
