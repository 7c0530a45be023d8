"""What a look at a job finds: each finding appears with its cause and goes with it."""

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlmodel import select

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import (
    Clamp,
    Counted,
    Drawn,
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
    Undone,
    Worked,
)
from fair_spindle.core.joblog.plain import act_of, plain
from fair_spindle.demo import workshop
from fair_spindle.demo.bench import GAUGES
from fair_spindle.formats.acts import model_of
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import load_log
from fair_spindle.records.database import Database
from fair_spindle.records.tables import BookRow

ARM, LINK, WHEEL, JAM = (
    f"{name}.front.left" for name in ("springs.arm", "common.link", "common.wheel", "tie_rods.jam")
)


@pytest.fixture(scope="module")
def finished(filled):
    """The demo's finished job before its signature."""
    database = Database(filled)
    with database.reading() as session:
        row = session.exec(select(BookRow).where(BookRow.title == "Springs and tie-rod ends, front")).one()
        log = load_log(session, row.id)[:-1]
        session.expunge_all()
    database.close()
    return Standing(row, log)


def after(job, *acts):
    """The job with some more lines."""
    for act in acts:
        job = job.then(Event(f"late{job.version}", job.version + 1, "2026-01-01T00:00:00Z", act))
    return job


def codes(job, *acts):
    return {finding.code for finding in after(job, *acts).findings}


def test_a_job_done_by_the_book_has_nothing_open(finished):
    assert finished.findings == []


def torqued(joint, nm, **more):
    return Worked(joint, (1,), "torqued", None if "by_feel" in more else Typed(nm, "nm"), **more)


def with_spec(job, text, unit, **more):
    joint = job.state.joints[ARM]
    spec = replace(joint.bolts[0].spec, torque=Typed(text, unit), affirmed=more.pop("affirmed", False))
    return Drawn(replace(joint, bolts=(replace(joint.bolts[0], spec=spec, **more),)))


def clamped(height, **more):
    return torqued(ARM, "88", clamp=Clamp(height, 330.0, 360.0), at_height_mm=height, **more)


AFTERWARDS = [
    ("not_on_wheels", [Moved("hanging")]),
    ("not_final", [Worked(WHEEL, (3,), "loose")]),
    ("jam_open", [Worked(JAM, (1,), "loose")]),
    ("step_skipped", [Stepped("road", "skipped", "rain")]),
    ("by_feel", [torqued(LINK, "", by_feel="no room")]),
    ("reading_off", [torqued(LINK, "30")]),
    ("override", [torqued(ARM, "88", override="towed in")]),
    ("angle_off", [workshop.enter_toe("front.left.check_toe", "24")]),
    ("height_unexplained", [workshop.enter_heights("front.right.check_height", ("360", "361", "360"))]),
    ("wound_up", [clamped(372.0)]),
    ("spread", [workshop.enter_heights("front.left.height", ("368", "376", "372"))]),
    ("out_of_line", [workshop.enter_heights("front.left.height", ("384", "384", "385"))]),
    ("unsettled", [Moved("hanging"), Moved("on_wheels"), workshop.enter_camber("front.left.camber", "-0.6")]),
    ("overdue", [workshop.enter_camber("front.left.camber", "-0.6", gauge=GAUGES["old_level"])]),
    ("no_heights", [workshop.enter("front.new_spring.rate", "3", "n_per_mm")]),
    ("bar_tied", [Entered("front.bar.fitted", choice="fixed_links"), Moved("corner_carried", "left")]),
    ("engagement", [workshop.enter("front.left.tie.turns_on", "10", "turn")]),
]  # fmt: skip


@pytest.mark.parametrize(("code", "later"), AFTERWARDS, ids=[code for code, _ in AFTERWARDS])
def test_finding_appears_with_its_cause(finished, code, later):
    assert code in codes(finished, *later)


def test_a_specification_that_cannot_be_is_asked_about_unless_it_was_affirmed(finished):
    assert "torque_doubt" in codes(finished, with_spec(finished, "120", "lb_ft"))
    assert "torque_doubt" in codes(finished, with_spec(finished, "88", "nm", pitch_mm=1.4))
    assert "torque_doubt" not in codes(finished, with_spec(finished, "120", "lb_ft", affirmed=True))


def test_a_count_on_that_is_not_the_one_told_is_said_where_no_geometry_plans_it(finished):
    plain = after(finished, Entered("front.steer", choice="behind"))
    told = {"tie.turns_off": "24", "tie.pitch": "1.5", "tie.end": "84", "new_end.length": "87.5"}
    acts = [
        workshop.enter(f"rear.left.{key}", text, "turn" if "turns" in key else "mm") for key, text in told.items()
    ]
    acts[1] = workshop.enter("rear.left.tie.pitch", "1.5", "pitch_mm")
    plain = after(plain, *acts, workshop.enter("rear.left.tie.turns_on", "24", "turn"))
    assert "Rear left threaded end: 26 turns 2 flats told, 24 turns counted on." in {
        one.message for one in plain.findings
    }
    right = after(plain, workshop.enter("rear.left.tie.turns_on", "26 2/6", "turn"))
    assert "count_differs" not in {one.code for one in right.findings}


def test_a_clamp_far_from_the_settled_height_says_by_how_much(finished):
    wound = [one.message for one in after(finished, clamped(372.0)).findings if one.code == "wound_up"]
    assert len(wound) == 1
    assert "clamped at 372 mm" in wound[0]
    assert "4.2°" in wound[0]


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
