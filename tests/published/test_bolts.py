"""Bolts held against ISO 898-1, VDI 2230 and mechanics; orders against what an even draw-down asks."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.basics.errors import InputError, OutOfRange
from fair_spindle.core.bolts.fasteners import proof_stress, tensile_stress_area
from fair_spindle.core.bolts.tightening import (
    angle_tension,
    castle_nut,
    joint_stiffness,
    pass_torques,
    set_with_adapter,
    tension_by_friction,
    tension_by_nut_factor,
    tighten_order,
)

ISO_898_1 = [
    (8, 1.25, "36.6", (21200, 30400, 35500)),
    (10, 1.5, "58.0", (33700, 48100, 56300)),
    (12, 1.75, "84.3", (48900, 70000, 81800)),
    (14, 2.0, "115", (66700, 95500, 112000)),
    (16, 2.0, "157", (91000, 130000, 152000)),
]


@pytest.mark.referee
@pytest.mark.parametrize(("diameter", "pitch", "area", "loads"), ISO_898_1)
def test_proof_loads(diameter, pitch, area, loads):
    """ISO 898-1:2013, table 5 (coarse pitch), classes 8.8, 10.9, 12.9, from memory: its loads are printed nearer and
    further than its areas bear out."""
    for grade, load in zip(("8.8", "10.9", "12.9"), loads, strict=True):
        assert float(area) * proof_stress(grade, diameter) == pytest.approx(load, rel=4.1e-3)
        assert tensile_stress_area(diameter, pitch) * proof_stress(grade, diameter) == pytest.approx(load, rel=5e-3)


@pytest.mark.referee
def test_friction_form_against_a_table_of_assembly_torques():
    """VDI 2230 part 1, table A1, M12 class 8.8, both frictions 0.12: 41.9 kN at 84 N·m, head of a hexagon bolt;
    from memory."""
    found = tension_by_friction(84e3, 12.0, 1.75, "8.8", 0.12, 0.12, 15.75)
    assert found.force == pytest.approx(41900, rel=0.015)


@pytest.mark.referee
def test_nut_factor_form_against_a_worked_example():
    """Shigley's Mechanical Engineering Design, 10th edition, section 8-8: T = K F d with K = 0.20; from memory."""
    proof = 830 * 84.3
    assert tension_by_nut_factor(0.2 * 0.75 * proof * 12.0, 12.0, 1.75, "10.9", 0.2).share == pytest.approx(
        0.75, rel=4e-3
    )


@pytest.mark.identity
@given(st.floats(0.05, 0.3), st.floats(0.05, 0.3), st.sampled_from([(10, 1.5), (12, 1.25), (14, 1.5)]))
def test_friction_form_is_work_in_is_work_out(thread, head, bolt):
    """Referee: virtual work of one turn, with a thread of half angle 30° and a pitch that is flat enough."""
    diameter, pitch = bolt
    flank, face = diameter - 0.6495 * pitch, 1.4 * diameter
    force = tension_by_friction(60e3, diameter, pitch, "8.8", thread, head, face).force
    lifted = force * pitch
    rubbed = force * (thread / math.cos(math.pi / 6) * math.pi * flank + head * math.pi * face)
    assert 60e3 * 2 * math.pi == pytest.approx(lifted + rubbed, rel=1e-4)


@pytest.mark.identity
@given(st.floats(200, 800), st.floats(0, 200), st.floats(-90, 90))
def test_an_adapter_moves_the_hand_further_from_the_bolt(wrench, adapter, degrees):
    """Referee: the same push of the hand, its lever about the bolt and about the drive."""
    angle = math.radians(degrees)
    setting = set_with_adapter(100e3, wrench, adapter, angle)
    push = setting / wrench
    assert push * (wrench + adapter * math.cos(angle)) == pytest.approx(100e3)
    with pytest.raises(OutOfRange):
        set_with_adapter(100e3, 100.0, 150.0, math.pi)


def circle(count):
    return [(50 * math.sin(2 * math.pi * n / count), 50 * math.cos(2 * math.pi * n / count)) for n in range(count)]


@pytest.mark.identity
@given(st.lists(st.tuples(st.integers(-300, 300), st.integers(-300, 300)), min_size=1, max_size=24, unique=True))
def test_every_order_meets_every_place_once(places):
    for order in ("cross", "star", "spiral", "row"):
        assert sorted(tighten_order(places, order)) == list(range(len(places)))


def test_orders_as_the_trade_has_them():
    """Common practice, no published source."""
    assert tighten_order(circle(5), "star") == (0, 2, 4, 1, 3), "five wheel nuts in a star"
    assert tighten_order(circle(4), "cross") == (0, 2, 1, 3)
    six = tighten_order(circle(6), "cross")
    assert all(abs(one - other) % 6 == 3 for one, other in zip(six[::2], six[1::2], strict=True)), "opposite next"
    grid = [(x, y) for x in (0, 10, 20) for y in (0, 10, 20)]
    assert tighten_order(grid, "spiral")[0] == 4, "the middle one first"
    away = [np.hypot(*np.subtract(grid[n], (10, 10))) for n in tighten_order(grid, "spiral")]
    assert away == sorted(away)
    row = tighten_order([(0, 0), (40, 0), (80, 0), (120, 0), (160, 0)], "row")
    assert row[0] == 2
    assert set(row[1:3]) == {1, 3}
    with pytest.raises(InputError):
        tighten_order(circle(4), "zigzag")
    assert pass_torques(100e3, [30, 60, 100]) == pytest.approx((30e3, 60e3, 100e3))
    for wrong in ([], [50, 40, 100], [50, 90]):
        with pytest.raises(InputError, match="rise to 100"):
            pass_torques(100e3, wrong)


@pytest.mark.identity
@given(st.integers(4, 10), st.floats(0, 1), st.floats(30, 90))
def test_a_castle_nut_only_goes_forward_and_less_than_a_slot(slots, share, torque):
    slot = 2 * math.pi / slots
    nut = castle_nut(slots, share * slot, 1.5, 25e3, torque * 1e3, 12.0, 0.2, torque * 1.25e3)
    assert 0 <= nut.extra_angle < slot
    assert nut.torque >= torque * 1e3
    assert nut.inside == (nut.torque <= torque * 1.25e3 * (1 + 1e-9))
    reached = share * slot + nut.extra_angle
    assert min(reached % slot, slot - reached % slot) == pytest.approx(0.0, abs=1e-9), "a slot stands at the hole"


@pytest.mark.identity
@given(st.sampled_from(["cross", "star", "spiral", "row"]), st.integers(3, 12), st.floats(0.3, 1.2))
def test_where_a_joint_lies_on_the_drawing_does_not_change_its_order(order, count, turned):
    """Referee: the same places moved; a row also turned, as long as its first end stays first."""
    row = [(40.0 * n, 0.0) for n in range(count)]
    places = row if order == "row" else circle(count)
    usual = tighten_order(places, order)
    assert tighten_order([(x + 700.0, y - 300.0) for x, y in places], order) == usual
    if order == "row":
        slanted = [(700 + x * math.cos(turned), 90 + x * math.sin(turned)) for x, _ in row]
        assert tighten_order(slanted, order) == usual


def test_a_castle_nut_s_torque_on_to_the_slot_is_that_of_the_tension_it_adds():
    """Referee: the nut factor's own form, T = K F d, for the tension of the last few degrees."""
    nut = castle_nut(6, math.radians(45), 1.5, 20e3, 50e3, 14.0, 0.2)
    assert nut.extra_tension == pytest.approx(20e3 * 1.5 * 15 / 360)
    added = tension_by_nut_factor(nut.torque - 50e3, 14.0, 1.5, "8.8", 0.2).force
    assert added == pytest.approx(nut.extra_tension)
    assert castle_nut(6, 0.0, 1.5, 20e3, 50e3, 14.0, 0.2).extra_angle == 0.0, "it stands at a slot already"
    limits = [castle_nut(6, math.radians(45), 1.5, 20e3, 50e3, 14.0, 0.2, nut.torque * by) for by in (1.0, 0.999)]
    assert [one.inside for one in limits] == [True, False]
    assert pass_torques(100e3, [0.5, 100]) == pytest.approx((500, 100e3))
    for wrong in ([0, 100], [50, 50, 100]):
        with pytest.raises(InputError) as refused:
            pass_torques(100e3, wrong)
        assert refused.value.field == "passes_pct"


@pytest.mark.identity
@pytest.mark.parametrize("count", range(3, 25))
def test_a_star_goes_to_the_opposite_first_then_across(count):
    """Wheel nuts: each next place lies opposite or just past it; no two neighbours follow each other."""
    ring = [(100 * math.sin(2 * math.pi * n / count), 100 * math.cos(2 * math.pi * n / count)) for n in range(count)]
    order = tighten_order(ring, "star")
    assert sorted(order) == list(range(count))
    apart = [min((b - a) % count, (a - b) % count) for a, b in itertools.pairwise(order)]
    if count % 2:
        assert set(apart) == {count // 2}
    else:
        assert set(apart[::2]) == {count // 2}, "every pair lies across the middle"
        assert all(gap > 1 for gap in apart) or count == 4
        if count >= 8:
            assert min(apart[1], count // 2 - apart[1]) >= count // 4 - 1, "the second pair stands across the first"


@pytest.mark.referee
def test_an_angle_after_a_torque_stretches_bolt_and_joint():
    """VDI 2230 part 1: bolt and parts as springs in series; here with parts four times as stiff, worked by hand."""
    area, grip = math.pi / 4 * (12 - 0.9382 * 1.75) ** 2, 60.0
    bolt = area * 207000 / grip
    both = bolt * 4 * bolt / (5 * bolt)
    assert joint_stiffness(12, 1.75, grip) == pytest.approx(both)
    assert angle_tension(12, 1.75, grip, math.pi / 2)[0] == pytest.approx(both * 1.75 / 4)
