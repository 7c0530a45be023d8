"""Procedures as files: read, written, refused, made from an edited plan.

Every order and state asserted here is common practice in the trade, no published source.
"""

from dataclasses import replace

import pytest
from planner import COMBINED, LIBRARY, STRUT, Order

from fair_spindle.core.basics.errors import InputError, NotAllowed
from fair_spindle.core.planning.own import own_procedure
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting, Library, OwnStep
from fair_spindle.core.planning.validity import check_procedure
from fair_spindle.core.planning.work_order import plan_work
from fair_spindle.formats.procedure_file import read_procedure, write_procedure


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


READS = {
    "coilovers": {"collar_depth_sheet", "collar_depth", "collar_depth_locked", "cam_mark", "cam_mark_back"},
    "subframe_collars": {"collar_depth", "subframe_shift"},
    "strut_spacer": {"spacer_thickness", "stud_before", "stud_after", "droop_height"},
    "sway_bars": {"link_old", "link_set", "bar_gap_left", "bar_gap_right", "hole_fitted", "link_second"},
    "two_hole_bar": {"bar_gap_left", "bar_gap_right", "hole_soft", "hole_firm"},
    "leaf_shackles": {"rest_height", "droop_height", "hose_slack", "rest_height_after", "shackle_angle_after"},
    "drag_link": {"rod_old", "rod_set", "lock_gap_left", "lock_gap_right", "drag_pin"},
    "truck_front": {"clicks", "clicks_set", "perch_depth", "ball_pin", "hose_slack", "hose_slack_lock"},
    "tie_rods": {"tie.turns_off", "tie.turns_on", "tie.quarter", "tie.pin", "tie.centres_after"},
    "bolted_ball_joint": {"ball_pin"},
    "pressed_ball_joint": {"ball_pin"},
    "dampers": {"clicks_set"},
    "springs": {"droop_height"},
    "align": {"adjusters_found"},
}


@pytest.mark.parametrize("key", READS)
def test_steps_ask_for_the_numbers_that_are_chalked_on_the_frame_otherwise(key):
    """Clicks, depths, holes, studs, gaps, slack and pins of each kind of work."""
    reads = {one.name for op in LIBRARY.find(key).operations for one in op.reads}
    assert READS[key] <= reads


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"beside": "nothing"}, "beside"),
        ({"beside": "stud_before", "per": "axle"}, "beside"),
        ({"unit": "n"}, "unit"),
        ({"low": 5.0, "high": 5.0}, "low"),
        ({"choices": ("a", "b"), "quantity": "words"}, "choices"),
        ({"quantity": "choice"}, "choices"),
    ],
)
def test_a_number_that_cannot_be_asked_for_is_refused_with_its_place(change, field):
    procedure = LIBRARY.find("strut_spacer")
    at = next(n for n, op in enumerate(procedure.operations) if op.key == "extend")
    op = procedure.operations[at]
    spoiled = replace(op, reads=(replace(op.reads[0], **change),))
    operations = (*procedure.operations[:at], spoiled, *procedure.operations[at + 1 :])
    with pytest.raises(InputError) as caught:
        check_procedure(replace(procedure, operations=operations), LIBRARY.common)
    assert caught.value.field == f"operations[{at}] extend.reads stud_after.{field}"
