"""Where springs hang loose, stops are met and coils touch: held against least energy, brute force and scipy."""

import itertools
import json
from dataclasses import replace
from functools import partial
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import lsq_linear, minimize

from fair_spindle.calculations import CALCULATIONS, answer
from fair_spindle.core.basics.bounded import bounded_least_squares
from fair_spindle.core.basics.errors import InputError, NoSolution
from fair_spindle.core.geometry.corner import make_corner
from fair_spindle.core.springs.car_heights import Leg, Stance, cross_weight, let_down, settle_car, spring_length
from fair_spindle.core.springs.perches import PerchGoals, perch_turns
from fair_spindle.core.springs.springs import (
    BOUND,
    Coil,
    coil_curve,
    in_series,
    stop_curve,
    table_curve,
    torsion_curve,
)
from fair_spindle.core.turns.adjuster import Adjuster, on
from fair_spindle.core.turns.realign import TOLERANCES, Wanted, angles_of, realign

CASES = json.loads((Path(__file__).parent / "calculation-cases-2.json").read_text())
STRUT = {
    "strut_top": (-20, 571, 545),
    "strut_low": (4, 622, 100),
    "lower_front": (14, 382, -120),
    "lower_rear": (-289, 374, -114),
    "lower_ball": (20, 695, -151),
    "tie_inner": (-127, 337, -57),
    "tie_outer": (-133, 674, -67),
    "wheel_center": (-3, 741, 0),
}


@pytest.mark.published
@pytest.mark.parametrize("case", CASES, ids=[f"{n}-{case['calculation']}" for n, case in enumerate(CASES)])
def test_agrees_with_independent_implementation_at_the_edges(case):
    """Made by other solvers: cars whose springs hang loose at the old height, stops, inputs that make no sense."""
    calculation = CALCULATIONS[case["calculation"]]

    def run():
        return answer(calculation, calculation.takes.model_validate_json(json.dumps(case["input"])))

    if "refused" in case:
        with pytest.raises((InputError, NoSolution, ValueError)) as refused:
            run()
        named = str(
            getattr(refused.value, "field", None) or [e["loc"] for e in getattr(refused.value, "errors", list)()]
        )
        assert case["refused"] == [None] or any(field.split(".")[-1] in named for field in case["refused"])
        return
    out = run()
    for key, value in case["output"].items():
        if key == "best":
            within = {**{f"{name}_deg": np.degrees(limit) for name, limit in TOLERANCES.items()}}
            cost = sum(
                ((out["after"][name] - wanted) / within[name]) ** 2
                for name, wanted in case["input"]["targets"].items()
            )
            assert cost <= value["cost"] * (1 + 1e-6) + 1e-6
            assert bool(out["limited_by"]) == value["at_a_stop"]
        elif isinstance(value, dict):
            assert {name: out[key][name] for name in value} == pytest.approx(value, abs=5e-4)
        else:
            assert out[key] == pytest.approx(value, rel=1e-6)


def random_car(rng):
    """A car with all that makes heights hard: loose springs, helpers, stops, bars forced on, tyres, bonded rubber."""
    front, rear = rng.uniform(1300, 1700, 2)
    stance = Stance(
        rng.uniform(2200, 3200),
        front,
        rear,
        rng.choice([0.0, rng.uniform(5, 60)]),
        rng.choice([0.0, rng.uniform(5, 60)]),
        rng.choice([None, rng.uniform(150, 400)]),
        (rng.choice([0.0, rng.uniform(-600, 600)]), 0.0),
    )
    loads, dead = rng.uniform(1800, 6000, 4), rng.uniform(250, 500, 4)
    legs = []
    for place in range(4):
        ratio = rng.uniform(0.4, 1.1)
        old = coil_curve(Coil(rng.uniform(20, 60) / ratio**2, rng.uniform(350, 450)))
        stood = float(spring_length(old, loads[place] - dead[place], ratio, 0.0))
        free = stood + rng.uniform(-60, 60)
        curve = coil_curve(Coil(rng.uniform(20, 120) / ratio**2, free, free * rng.uniform(0.2, 0.85)))
        if rng.random() < 0.4:
            curve = in_series([curve, coil_curve(Coil(rng.uniform(2, 10), rng.uniform(50, 90), rng.uniform(10, 25)))])
        stop, gap = (stop_curve(60.0), rng.uniform(-20, 60)) if rng.random() < 0.6 else (None, np.inf)
        legs.append(
            Leg(
                curve,
                stood + rng.uniform(-30, 60),
                ratio,
                rng.choice([0.0, 200.0]),
                rng.uniform(0.8, 1.2) * ratio,
                rng.choice([0.0, rng.uniform(-3e-4, 3e-4)]),
                stop=stop,
                stop_gap=gap,
                rubber_rate=rng.choice([0.0, rng.uniform(1, 6)]),
                rubber_neutral=rng.uniform(-40, 40),
            )
        )
    return stance, loads, dead, legs


def work(curve, compression):
    """Work stored in a spring, exactly: the area under its straight pieces, the last of them all but rigid."""
    knots = np.append(curve.compressions, curve.compressions[-1] + 1000.0)
    forces = np.append(curve.forces, curve.forces[-1] + 1000.0 * BOUND)
    at = np.append(knots[knots < compression], max(compression, 0.0))
    return float(np.trapezoid(np.interp(at, knots, forces), at))


def energy(car, plane):
    """Potential energy of a car on rigid tyres whose body stands lower by this at front, rear and in roll."""
    stance, loads, dead, legs = car
    front, rear, roll = plane
    ratio = stance.track_rear / stance.track_front
    travel = np.array([front + roll, front - roll, rear + roll * ratio, rear - roll * ratio])
    total = 0.0
    for place, leg in enumerate(legs):
        t = travel[place]
        total += work(leg.curve, leg.curve.free - leg.length + (leg.ratio + leg.ratio_slope * t / 2) * t)
        total += (leg.damper_ratio * leg.gas - (loads[place] - dead[place])) * t
        total += leg.rubber_rate * (t - leg.rubber_neutral) ** 2 / 2
        if leg.stop is not None:
            total += work(leg.stop, leg.damper_ratio * t - leg.stop_gap)
    for axle, rate in enumerate((stance.bar_front, stance.bar_rear)):
        apart = travel[2 * axle] - travel[2 * axle + 1]
        total += rate * apart**2 / 2 - stance.preload[axle] * apart
    return total


@pytest.mark.referee
def test_a_car_comes_to_rest_where_its_energy_is_least():
    """Referee: Nelder and Mead's search by scipy over the plane of the body, rigid tyres."""
    rng = np.random.default_rng(7)
    held = 0
    while held < 12:
        stance, *rest = random_car(rng)
        car = (replace(stance, tyre_rate=None), *rest)
        found, rests = let_down(*car)
        if not rests[0]:
            continue
        held += 1
        travel = -found.height_change[0]
        plane = np.array([travel[:2].mean(), travel[2:].mean(), (travel[0] - travel[1]) / 2])
        here = energy(car, plane)
        for start in plane + rng.normal(0, 6, (2, 3)):
            best = minimize(partial(energy, car), start, method="Nelder-Mead", options={"xatol": 1e-6, "fatol": 1e-7})
            assert here <= best.fun + 1e-3, "nothing lies lower"
            assert best.x == pytest.approx(plane, abs=1e-4)
        _, loads, *_ = car
        x, half = np.array([1, 1, -1, -1]) * stance.wheelbase / 2, np.array([1, -1, 1, -1]) / 2
        half *= np.repeat([stance.track_front, stance.track_rear], 2)
        assert found.loads[0].sum() == pytest.approx(loads.sum(), abs=1e-7), "loads sum to the car"
        assert found.loads[0] @ x == pytest.approx(loads @ x, abs=1e-4), "moments balance"
        assert found.loads[0] @ half == pytest.approx(loads @ half, abs=1e-4)


@pytest.mark.identity
def test_a_thousand_cars_come_to_rest_with_their_forces_in_balance():
    """Loose springs, solid helpers, pressed stops, forced bars, springs whose corner stands without them."""
    rng = np.random.default_rng(11)
    lifted = loose = 0
    for _ in range(250):
        stance, loads, dead, legs = random_car(rng)
        # Four at once, each on other springs: also shows that the cars of one call do not mix.
        shift = rng.uniform(-40, 40, 4)
        legs = [replace(leg, length=leg.length + shift) for leg in legs]
        found, rests = let_down(stance, loads, dead, legs)
        lifted += int(np.sum(np.any(found.loads < 0, axis=1)))
        travel = -found.height_change
        lengths = np.stack([leg.spring_length(travel[:, n]) for n, leg in enumerate(legs)], axis=1)
        loose += int(np.sum(np.any(lengths > [leg.curve.free for leg in legs], axis=1)))
        assert np.all(rests | np.any(found.loads < 0, axis=1)), "at rest, or told to lift a wheel"
        change = found.loads - loads
        half = np.array([stance.track_front, -stance.track_front, stance.track_rear, -stance.track_rear]) / 2
        assert change[:, :2].sum(axis=1) == pytest.approx(0, abs=0.05)
        assert change[:, 2:].sum(axis=1) == pytest.approx(0, abs=0.05)
        assert change @ half == pytest.approx(0, abs=40.0), "moments, N mm"
        body = found.body_change
        twist = (body[:, 0] - body[:, 1]) / stance.track_front - (body[:, 2] - body[:, 3]) / stance.track_rear
        assert twist == pytest.approx(0, abs=1e-7), "the body stays flat"
        if stance.tyre_rate:
            assert found.height_change - body == pytest.approx(change / stance.tyre_rate, abs=1e-6)
    assert lifted > 40
    assert loose > 40


@pytest.mark.identity
@pytest.mark.parametrize(("free", "falls"), [(262.0, -47.8), (254.0, -56.2)])
def test_new_springs_that_hang_loose_at_the_old_height_still_find_their_place(free, falls):
    """Closed form: all four alike, (262 − 3000/0.95/60 − 254.78)/0.95."""
    leg = Leg(coil_curve(Coil(60.0, free)), free - 3000 / 0.95 / 60 - 0.95 * falls, 0.95)
    found = settle_car(Stance(2600.0, 1500.0, 1500.0), [3400.0] * 4, [400.0] * 4, [leg] * 4)
    assert found.height_change[0] == pytest.approx(falls, abs=1e-6)


@pytest.mark.identity
def test_a_solid_helper_gives_nothing_and_a_spring_is_not_pressed_to_nothing():
    main, helper = Coil(50.0, 200.0, 90.0), Coil(3.0, 70.0, 15.0)
    stack = in_series([coil_curve(main), coil_curve(helper)])
    for force in (100.0, 165.0, 1000.0, 5400.0):
        alone = max(main.free - force / main.rate, main.solid) + max(helper.free - force / helper.rate, helper.solid)
        assert stack.free - stack.compression(force) == pytest.approx(alone, abs=1e-3)
    weak = Leg(coil_curve(Coil(2.0, 300.0)), 200.0, 1.0)
    with pytest.raises(NoSolution, match="cannot carry it"):
        settle_car(Stance(2600.0, 1500.0, 1500.0), [3400.0] * 4, [400.0] * 4, [weak] * 4)
    firm = Leg(coil_curve(Coil(30.0, 300.0)), 200.0, 1.0)
    forced = Stance(2600.0, 1500.0, 1500.0, preload=(9000.0, 0.0))
    with pytest.raises(NoSolution, match="FL off the ground"):
        settle_car(forced, [3400.0] * 4, [400.0] * 4, [firm] * 4)


@pytest.mark.identity
@given(st.integers(0, 10**6), st.integers(1, 4), st.integers(1, 5))
@settings(max_examples=150)
def test_bounded_least_squares_is_scipys(seed, outcomes, changes):
    """Referee: scipy.optimize.lsq_linear, method bvls, with the same small lean."""
    rng = np.random.default_rng(seed)
    slope, goal = rng.normal(size=(outcomes, changes)), 3 * rng.normal(size=outcomes)
    low, high = -rng.uniform(0.1, 2, changes), rng.uniform(0.1, 2, changes)
    found = bounded_least_squares(slope, goal, low, high)
    lean = 1e-6 * np.linalg.norm(slope)
    rows = np.concatenate([slope, lean * np.eye(changes)])
    theirs = lsq_linear(rows, np.concatenate([goal, np.zeros(changes)]), (low, high), method="bvls", tol=1e-14)
    assert np.all((found >= low - 1e-12) & (found <= high + 1e-12))
    ours = np.sum((slope @ found - goal) ** 2)
    assert ours <= np.sum((slope @ theirs.x - goal) ** 2) + 1e-9


@pytest.mark.referee
def test_realign_at_stops_is_never_worse_than_every_step_there_is():
    """Referee: brute force over all settings between the stops, on the full linkage."""
    rng = np.random.default_rng(5)
    at_stops = 0
    for _ in range(40):
        points = {name: tuple(np.array(at) + rng.normal(0, 8, 3)) for name, at in STRUT.items()}
        corner = make_corner("strut", "left", *np.radians(rng.normal(0, [0.8, 0.2])), points)
        adjusters = [
            Adjuster("tie", on("tie"), 1.5, 1 / 6, -rng.uniform(0.5, 3), rng.uniform(0.5, 3)),
            Adjuster("top", on("strut_top"), 1.0, 0.5, -rng.uniform(1, 8), rng.uniform(1, 8), "mm"),
        ]
        if rng.random() < 0.4:
            adjusters.append(Adjuster("arm", (("lower_front", 0.9), ("lower_rear", 0.5)), 1.0, 0.5, -3, 3, "mm"))
        targets = {"toe": np.radians(rng.normal(0, 0.3)), "camber": np.radians(rng.normal(-1, 1.5))}
        if rng.random() < 0.3:
            targets["caster"] = np.radians(rng.uniform(2, 5))
        travel = rng.uniform(-35, 35)
        found = realign(corner, travel, adjusters, targets)
        every = [
            one.per_turn
            * one.step
            * np.arange(np.ceil(one.low / (one.per_turn * one.step)), one.high / (one.per_turn * one.step))
            for one in adjusters
        ]
        tries = np.array(list(itertools.product(*every)))
        wanted = Wanted(corner, travel, tuple(adjusters), targets, TOLERANCES)
        angles = angles_of(wanted, tries)
        costs = sum(((angles[name] - goal) / TOLERANCES[name]) ** 2 for name, goal in targets.items())
        ours = sum(((found.after[name] - goal) / TOLERANCES[name]) ** 2 for name, goal in targets.items())
        assert ours <= costs.min() * (1 + 1e-9) + 1e-9
        at_stops += bool(found.limited_by)
    assert at_stops > 15


@pytest.mark.referee
def test_rings_at_a_stop_are_never_worse_than_every_quarter_turn_there_is():
    """Referee: brute force over all turns between the stops, on the full car; the others make up for a stuck ring."""
    rng = np.random.default_rng(2)
    car = Stance(2600.0, 1500.0, 1480.0, 12.0, 6.0)
    loads, dead = np.array([3600.0, 3400.0, 2700.0, 2900.0]), np.array([420.0, 420.0, 380.0, 380.0])
    for _ in range(30):
        legs = [
            Leg(coil_curve(Coil(rate, 300.0)), 300.0 - load / 0.9 / rate, 0.9)
            for rate, load in zip(rng.uniform(30, 70, 4), loads - dead, strict=True)
        ]

        def turned(turns, legs=legs):
            moved = [replace(leg, length=leg.length - 1.5 * turns[:, n]) for n, leg in enumerate(legs)]
            found = settle_car(car, loads, dead, moved)
            return 350.0 + found.height_change, found.loads

        low, high = -rng.uniform(0.3, 1.2, 4), rng.uniform(0.3, 1.2, 4)
        goals = PerchGoals(350 + rng.choice([np.nan, 1.0], 4) * rng.uniform(-6, 6, 4), rng.uniform(0.47, 0.53))
        found = perch_turns(turned, goals, low, high, 0.25)

        def cost(turns, goals=goals, turned=turned):
            heights, weighed = turned(turns)
            off = np.nansum(((heights - goals.heights) / goals.within_height) ** 2, axis=1)
            off += ((cross_weight(weighed) - goals.cross) / goals.within_cross) ** 2
            return off + np.sum((0.02 * turns) ** 2, axis=1)

        every = [0.25 * np.arange(np.ceil(a / 0.25), b / 0.25) for a, b in zip(low, high, strict=True)]
        best = cost(np.array(list(itertools.product(*every)))).min()
        assert cost(found.set_turns[None])[0] <= best * (1 + 1e-6) + 1e-6
        assert np.all((low <= found.set_turns) & (found.set_turns <= high))
        (heights, weighed), still, up = turned(found.set_turns[None]), turned(np.zeros((1, 4))), turned(np.eye(4))
        assert found.heights == pytest.approx(heights[0])
        assert found.cross == pytest.approx(float(cross_weight(weighed[0])))
        assert found.height_effects == pytest.approx(up[0] - still[0])
        assert found.load_effects == pytest.approx(up[1] - still[1])


@pytest.mark.identity
@given(st.floats(-35, 35), st.floats(-5, 5), st.floats(1500, 4500))
def test_a_torsion_bar_turned_on_lifts_by_the_angle_its_arm_stands_at(below, key, carried):
    """Statics by hand: torque of the bar over the arm's lever is the load, before and after."""
    rate, arm, below, key = 25.0, 380.0, np.radians(below), np.radians(key)
    (before, at), (after, was) = (torsion_curve(rate, arm, below, carried, turned) for turned in (0.0, key))
    assert before.force(at)[0] == pytest.approx(carried, rel=2e-3)
    lift = was - float(after.compression(carried))
    angle = np.arcsin(np.sin(below) + lift / arm)
    twist = carried * arm * np.cos(below) / (rate * arm**2) + key + below - angle
    assert rate * arm**2 * twist / (arm * np.cos(angle)) == pytest.approx(carried, rel=3e-3)


@pytest.mark.identity
def test_a_stop_grows_harder_and_a_table_of_it_stands_as_printed():
    stop = stop_curve(50.0)
    pressed = np.linspace(0, 40, 30)
    assert np.all(np.diff(stop.force(pressed)[1]) >= 0)
    assert table_curve([60.0, 40.0], [0.0, 900.0]).force(10.0)[0] == pytest.approx(450.0)
