"""Pasted torque lists, read row by row and matched to the places of a job: never a guess, always a question.

What rows look like is common practice, no published source; the values are invented for the test.
"""

import pytest

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.torque_list import listed, match_list, read_list


def joint(key, label, thread=(0.0, 0.0), count=1, side="", **told):
    bolts = tuple(Bolt(n, diameter_mm=thread[0], pitch_mm=thread[1], **told) for n in range(1, count + 1))
    return Joint(key, label, "clamp", bolts, "front", side)


SIDES = ("left", "right")
JOINTS = [
    *(joint(f"arm.front.{side}", f"Lower arm bolt, front {side}", (12.0, 1.5), side=side) for side in SIDES),
    *(joint(f"end.front.{side}", f"Tie-rod end castle nut, front {side}", side=side) for side in SIDES),
    *(joint(f"jam.front.{side}", f"Tie-rod jam nut, front {side}", side=side) for side in SIDES),
    joint("bracket.front", "Sway bar bracket bolts, front", (8.0, 1.25), 4),
    joint("brace", "Brace bolts", (8.0, 1.25), 4, head="13 mm hex"),
]
STATE = JobState(joints={one.key: one for one in JOINTS})


def matched(text, unit="nm"):
    return match_list(read_list(text, unit), STATE)


@pytest.mark.parametrize(
    ("line", "torque", "to", "angle", "thread", "count"),
    [
        ("Lower arm bolt  95 N·m", Typed("95", "nm"), None, 0, (0.0, 0.0), 0),
        ("Lower arm bolt; 95,5; Nm; M12x1.5; 2", Typed("95,5", "nm"), None, 0, (12.0, 1.5), 2),
        ("Lower arm bolt\t70\tft-lb", Typed("70", "lb_ft"), None, 0, (0.0, 0.0), 0),
        ("Lower arm M12 x 1,25: 60-70 Nm", Typed("60", "nm"), Typed("70", "nm"), 0, (12.0, 1.25), 0),
        ("2x lower arm 60 Nm + 90°", Typed("60", "nm"), None, 90, (0.0, 0.0), 2),
        ("lower arm, 18 mm, 95", Typed("95", "kgf_m"), None, 0, (0.0, 0.0), 0),
        ("lower arm 1/2-20 70 lb·ft", Typed("70", "lb_ft"), None, 0, (12.7, 1.27), 0),
    ],
)
def test_a_row_is_read_as_the_trade_writes_it(line, torque, to, angle, thread, count):
    (row,) = read_list(line, "kgf_m")
    assert (row.torque, row.torque_to, row.angle_deg, row.count) == (torque, to, angle, count)
    assert row.thread == pytest.approx(thread)
    assert {"lower", "arm"} <= row.words


def test_both_sides_get_a_value_that_names_none_and_one_side_its_own():
    both, right = matched("Lower arm bolt 95 Nm\nTrack rod end nut, RH 40 Nm")
    assert both.joints == ("arm.front.left", "arm.front.right")
    assert right.joints == ("end.front.right",)
    assert not both.question
    assert not right.question


def test_a_heading_belongs_to_the_rows_below_it():
    (row,) = matched("Sway bar\nbracket 22 Nm")
    assert row.joints == ("bracket.front",)


@pytest.mark.parametrize(
    ("text", "question", "fits"),
    [
        ("Tie rod nut 40 Nm", "fits more than one", 2),
        ("Gearbox drain plug 40 Nm", "No place of this job", 0),
        ("Lower arm bolt", "", None),
        ("Lower arm 95 or 110", "Which number is the torque? 95, 110", 0),
        ("Lower arm bolt M10x1.5 95 Nm", "No place of this job", 0),
        ("Lower arm bolt 95 Nm\nLower arm bolt 110 Nm", "Another row fits the same place", 1),
    ],
)
def test_what_fits_two_places_or_none_is_asked_and_never_guessed(text, question, fits):
    found = matched(text)
    if fits is None:
        assert found == []
        return
    assert all(question in one.question and not one.joints and len(one.fits) == fits for one in found)


@pytest.mark.parametrize(("word", "side"), [("left", "left"), ("LH", "left"), ("right", "right"), ("rh", "right")])
def test_a_row_of_one_side_is_for_that_side(word, side):
    (row,) = matched(f"Lower arm bolt {word} 95 Nm")
    assert row.joints == (f"arm.front.{side}",)


def test_thread_count_and_size_tell_rows_apart_that_words_do_not():
    by_count = matched("bolts x4, 13 mm, 22 Nm")
    assert by_count[0].joints == ("brace",)


def test_rows_that_look_swapped_or_in_another_unit_are_asked_about():
    arm, bracket = matched("Lower arm bolt 22 Nm\nSway bar bracket 95 Nm")
    assert "swapped with line 2" in arm.question
    assert "swapped with line 1" in bracket.question
    asked = matched("Tie rod nut M12x1.5 22 Nm\nSway bar bracket 95 Nm")[0]
    assert "more than one" in asked.question, "what has no place yet is asked for its place first"
    (unit,) = matched("Lower arm bolt 9,5 Nm")
    assert "kgf·m meant?" in unit.question
    assert unit.joints == ("arm.front.left", "arm.front.right")
    assert not matched("Lower arm bolt 95 Nm")[0].question


def test_what_is_taken_carries_value_angle_thread_and_the_list_as_its_source():
    (row,) = read_list("Tie-rod end castle nut M12x1.25 40 Nm + 60°", "nm")
    place = listed(STATE.joints["end.front.left"], row, "sheet 7").bolts[0]
    assert (place.spec.way, place.spec.torque, place.spec.angle_deg, place.spec.source) == (
        "torque_angle", Typed("40", "nm"), 60, "sheet 7",
    )  # fmt: skip
    assert (place.diameter_mm, place.pitch_mm) == (12.0, 1.25)
    kept = listed(STATE.joints["brace"], read_list("Brace M10 22 Nm", "nm")[0], "sheet 7").bolts[0]
    assert kept.diameter_mm == 8.0, "what the car has stays"


@pytest.mark.parametrize(("text", "said"), [("  \n", "needs a row"), ("arm 95\n" * 201, "at most 200 rows")])
def test_a_list_without_rows_or_with_too_many_is_refused(text, said):
    with pytest.raises(InputError, match=said):
        read_list(text, "nm")
