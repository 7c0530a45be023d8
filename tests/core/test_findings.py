"""What a look at a job finds: each finding appears with its cause and goes with it."""

import json
from dataclasses import replace

import pytest
from fair_spindle.core.outlook.corners import corners_of, plans_of, windows_of
from hypothesis import given
from hypothesis import strategies as st

from fair_spindle.core.floor.asking import readings_now
from fair_spindle.core.floor.deriving import derive
from fair_spindle.core.floor.findings import look
from fair_spindle.core.floor.log import (
    Clamp,
    Counted,
    Entered,
    Event,
    HeightRead,
    Moved,
    Noted,
    Reopened,
    Signed,
    Specified,
    Stepped,
    Tightened,
    Typed,
    Undone,
)
from fair_spindle.core.floor.plain import act_of, plain
from fair_spindle.demo import workshop
from fair_spindle.demo.bench import GAUGES
from fair_spindle.formats.acts import model_of


def events(*acts):
    return [Event(f"e{n}", n, "2026-01-01T00:00:00Z", act) for n, act in enumerate(acts, start=1)]


def finished(**swaps):
    """The demo's finished job as acts, before its signature, with some acts exchanged."""
    on = {"left": swaps.get("left_on", 141), "right": 138}
    acts = [
        *workshop.baseline(),
        *workshop.specifications(),
        *workshop.to_the_stands(),
        *workshop.ends_to_snug(on),
        *workshop.clamp("left", "344"),
        *workshop.clamp("right", "341"),
        *workshop.down_and_checked(),
    ]
    clamped = []
    for act in acts:
        if isinstance(act, Tightened) and ".arm_" in act.places[0] and act.to == "torqued":
            act = replace(act, clamp=Clamp(swaps.get("clamped_at", 344.0), 330.0, 360.0))
        clamped.append(act)
    return clamped


def found(acts):
    state = derive(events(*acts), FRONT_STRUT)
    readings = readings_now(state, FRONT_STRUT)
    corners = corners_of(state, readings)
    return look(state, readings, corners, plans_of(corners), FRONT_STRUT)


def codes(acts):
    return {finding.code for finding in found(acts)}


def test_a_job_done_by_the_book_has_nothing_open():
    assert found(finished()) == []


def with_spec(group, text, unit, **more):
    return Specified(group, Typed(text, unit), "sheet", 12.0, 1.25, "10.9", **more)


AFTERWARDS = [
    ("not_on_wheels", [Moved("hanging")]),
    ("not_torqued", [Tightened(("left.wheel.3",), "loose")]),
    ("jam_open", [Tightened(("right.jam.1",), "loose")]),
    ("step_skipped", [Stepped("road", "skipped", "rain")]),
    ("torque_doubt", [with_spec("arm_front", "120", "lb_ft")]),
    ("odd_thread", [replace(with_spec("arm_front", "88", "nm"), pitch_mm=1.4)]),
    ("by_feel", [Tightened(("left.link.1",), "torqued", by_feel="no room")]),
    ("reading_off", [Tightened(("left.link.1",), "torqued", Typed("30", "nm"))]),
    ("override", [Tightened(("left.arm_front.1",), "torqued", Typed("88", "nm"), override="towed in")]),
    ("clamp_unproven", [Tightened(("left.arm_front.1",), "torqued", Typed("88", "nm"))]),
    ("toe_off", [workshop.enter_toe("front.left.check_toe", "24")]),
    ("toe_missed", [workshop.enter_toe("front.left.check_toe", "48")]),
    ("height_missed", [workshop.enter_heights("front.right.check_height", ("360", "361", "360"))]),
    ("wound_up", [workshop.enter_heights("front.left.check_height", ("370", "371", "370"))]),
    ("spread", [workshop.enter_heights("front.left.height", ("368", "376", "372"))]),
    ("out_of_line", [workshop.enter_heights("front.left.height", ("384", "384", "385"))]),
    ("unsettled", [Moved("hanging"), Moved("on_wheels"), workshop.enter_camber("front.left.camber", "-0.6")]),
    ("overdue", [workshop.enter_camber("front.left.camber", "-0.6", gauge=GAUGES["old_level"])]),
    ("no_plan", [workshop.enter("front.new_spring.rate", "3", "n_per_mm")]),
    ("bar_tied", [Moved("hanging"), Moved("corner_carried", "left")]),
]


@pytest.mark.parametrize(("code", "later"), AFTERWARDS, ids=[code for code, _ in AFTERWARDS])
def test_finding_appears_with_its_cause(code, later):
    assert code in codes([*finished(), *later])


def test_findings_that_come_from_the_count():
    differs = found(finished(left_on=140))
    assert [finding.message for finding in differs if finding.code == "count_differs"] == [
        "Left tie-rod end: 23 turns 3 flats planned, 23 turns 2 flats counted on."
    ]
    short = [finding for finding in found(finished(left_on=60)) if finding.code == "engagement"]
    assert short[0].severity == "blocks"
    assert "15.0 mm" in short[0].message


def test_affirmed_doubts_and_agreeing_readings_in_other_units_are_silent():
    agreed = Tightened(("left.strut_clamp.1",), "torqued", Typed("94,9", "nm"))
    assert codes([*finished(), agreed]) == set(), "70 lb·ft is 94.9 N·m"
    doubtful = with_spec("arm_front", "120", "lb_ft", affirmed=True)
    assert "torque_doubt" not in codes([*finished(), doubtful])


def test_an_override_is_listed_even_when_it_was_undone():
    acts = [*finished(), Tightened(("left.arm_front.1",), "torqued", Typed("88", "nm"), override="towed in")]
    assert "override" in codes([*acts, Undone(f"e{len(acts)}")])


def test_a_clamp_far_from_the_settled_height_says_by_how_much():
    wound = [f.message for f in found(finished(clamped_at=372.0)) if f.code == "wound_up"]
    assert len(wound) == 4
    assert "clamped at 372 mm" in wound[0]
    assert "4.2°" in wound[0]


def test_an_empty_job_names_every_group_every_step_and_every_reading():
    nothing = found([])
    assert sum(f.code == "step_open" for f in nothing) == len(FRONT_STRUT.steps)
    assert sum(f.code in ("not_torqued", "jam_open") for f in nothing) == 2 * len(FRONT_STRUT.groups)
    assert sum(f.code == "baseline_missing" for f in nothing) == 32
    assert sum(f.code == "check_missing" for f in nothing) == 4


def test_window_recentres_on_what_was_measured():
    state = derive(events(*finished()), FRONT_STRUT)
    before = derive(events(*workshop.baseline()), FRONT_STRUT)
    middles = {
        name: sum(windows_of(plans_of(corners_of(one, readings_now(one, FRONT_STRUT))))["left"]) / 2
        for name, one in (("now", state), ("then", before))
    }
    assert middles["now"] - middles["then"] == pytest.approx(1.9, abs=0.2)


TEXT = st.text(st.characters(codec="utf-8", categories=("L", "N", "P", "S")), max_size=20)
TYPED = st.builds(Typed, TEXT, TEXT)
NUMBER = st.floats(-1e6, 1e6)
ANY_ACT = st.one_of(
    st.builds(Entered, TEXT, TEXT, st.dictionaries(TEXT, TYPED, max_size=3), TEXT, st.none() | TYPED),
    st.builds(
        Specified, TEXT, TYPED, TEXT, NUMBER, NUMBER, st.sampled_from(["", "8.8", "10.9", "12.9"]), st.booleans()
    ),
    st.builds(Moved, st.sampled_from(["on_wheels", "hanging"]), st.none() | st.sampled_from(["left", "right"])),
    st.builds(Stepped, TEXT, st.sampled_from(["done", "skipped"]), TEXT),
    st.builds(Noted, TEXT, TEXT),
    st.builds(
        Counted, st.sampled_from(["left", "right"]), st.sampled_from(["off", "on", "correct"]), st.integers(-99, 99)
    ),
    st.builds(HeightRead, st.sampled_from(["left", "right"]), TYPED),
    st.builds(
        Tightened,
        st.lists(TEXT, max_size=3).map(tuple),
        st.sampled_from(["loose", "hand", "snug", "torqued"]),
        st.none() | TYPED,
        TEXT,
        TEXT,
        st.none() | st.builds(Clamp, NUMBER, NUMBER, NUMBER),
    ),
    st.builds(Undone, TEXT),
    st.builds(Signed, TEXT, st.lists(TEXT, max_size=3).map(tuple), TEXT),
    st.builds(Reopened, TEXT),
)


@pytest.mark.identity
@given(ANY_ACT)
def test_every_act_comes_back_from_plain_data_and_passes_its_own_model(act):
    assert act_of(plain(act)) == act
    data = plain(act)
    read = model_of(type(act)).model_validate_json(json.dumps(data))
    assert act_of(read.model_dump()) == act
