"""The car's list of fasteners and its drawn joints are one thing, whichever way a place was told."""

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.joblog.kinds import CAR, WORK
from fair_spindle.core.joblog.listed_places import listed_places
from fair_spindle.core.joblog.log import Drawn, Event, Fastener, Listed, Struck
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.rules import permit

SHEET = "sheet 4, invented"
ARM = Joint(
    "front.left.arm",
    "Arm to subframe",
    "rubber_pivot",
    (Bolt(1, spec=BoltSpec("torque_angle", Typed("40", "nm"), angle_deg=90, source=SHEET)), Bolt(2, 30.0, 90.0)),
    "front",
    "left",
    "row",
    bushing="bonded_rubber",
    arm="lower",
)


def row(key, place=1, group=ARM.label, side="left", torque="70", **more):
    return Fastener(key, group, place, "front", side, torque=Typed(torque, "nm"), source=SHEET, **more)


def car(*acts, kind=CAR):
    return derive([Event(str(n), n, "2026-03-02T08:00:00Z", act) for n, act in enumerate(acts, 1)], kind)


def rows(state):
    return {one.key: one for one, _ in listed_places(state)}


def test_a_listed_row_is_the_place_of_the_joint_it_names_and_keeps_what_it_has_no_column_for():
    state = car(Drawn(ARM), Listed((row("a", 2, diameter_mm=12, pitch_mm=1.25, drive="Socket 17"), row("b"))))
    assert list(state.joints) == [ARM.key]
    first, second = state.joints[ARM.key].bolts
    assert (second.x_mm, second.y_mm, second.head, second.diameter_mm) == (30.0, 90.0, "Socket 17", 12)
    assert (first.spec.way, first.spec.angle_deg, first.spec.torque.text) == ("torque_angle", 90, "70")
    assert set(rows(state)) == {"a", "b"}


def test_rows_of_one_thing_are_places_of_one_joint_and_each_side_has_its_own():
    state = car(Listed((row("a", 1, "Subframe"), row("b", 2, "Subframe"), row("c", 1, "Subframe", "right"))))
    assert [(one.side, len(one.bolts)) for one in state.joints.values()] == [("left", 2), ("right", 1)]
    assert [bolt.x_mm for bolt in state.joints["listed.front.left.subframe"].bolts] == [0.0, 60.0]
    assert {key.replace("right", "left") for key in state.joints} == {"listed.front.left.subframe"}


def test_a_row_that_is_told_again_moves_and_what_is_struck_off_is_gone_either_way():
    drawn = f"{ARM.key}:2"
    state = car(Drawn(ARM), Listed((row("a", 1, "Subframe"),)), Listed((row("a", 3, "Brace"),)), Struck(drawn))
    assert {one.label: [bolt.number for bolt in one.bolts] for one in state.joints.values()} == {
        "Arm to subframe": [1],
        "Brace": [3],
    }
    assert set(rows(state)) == {f"{ARM.key}:1", "a"}
    gone = car(Listed((row("a", 1, "Subframe"),)), Struck("a"))
    assert (gone.joints, gone.listed) == ({}, {})
    assert permit(Struck("a"), state, CAR, {}) == Struck("a")


def test_a_list_in_a_job_of_old_days_adds_no_joint_to_its_work():
    assert car(Listed((row("a"),)), kind=WORK).joints == {}
