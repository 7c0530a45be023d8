"""Every kind of job, planned and then done step by step by the rules of the floor, to where it could be signed.

What is asserted of the order is common practice in the trade, no published source.
"""

from copy import copy
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from planner import LIBRARY, STRUT, Order
from test_fastening import ARM

from fair_spindle.core.basics.errors import InputError, NotAllowed
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import BoltSpec
from fair_spindle.core.joblog.bolt_needs import next_work, waits_for_load
from fair_spindle.core.joblog.bolt_state import bolt_key
from fair_spindle.core.joblog.findings import look
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Drawn, Entered, Event, Filled, HeightRead, Moved, Stepped, TakenOff, Worked
from fair_spindle.core.joblog.plan_now import MOVES, short_goals, template_now
from fair_spindle.core.joblog.reducer import derive_on, opening
from fair_spindle.core.joblog.replay import replay
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.rules import permit
from fair_spindle.core.joblog.single_use import asks_new
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.step_blockers import step_hindrance
from fair_spindle.core.joblog.waits import say_too_soon, waived_waits
from fair_spindle.core.planning.car_parts import ALONG, GOES_IN, parts_of_layouts
from fair_spindle.core.planning.procedure import Compared, Fitting
from fair_spindle.core.planning.template import DRIVING
from fair_spindle.core.predict.bolted import look_bolts
from fair_spindle.formats.job_kinds import kinds
from fair_spindle.jobs.planning import planned

SPEC = BoltSpec(torque=Typed("100", "nm"), source="sheet 7")
WINDOW = (340.0, 380.0)
OTHER_LAYOUTS = {"truck_front": "double_wishbone", "leaf_shackles": "solid_leaf", "drag_link": "solid_leaf"}


class Tuner:
    """Somebody who does what the plan says next, and nothing else."""

    def __init__(self, known):
        self.log, self.state = [], JobState()
        self.do(Filled(ARM, "test"))
        self.do(planned(known))
        for joint in self.state.plan.joints:
            told = tuple(replace(bolt, spec=SPEC, reach="") for bolt in joint.bolts)
            self.do(Drawn(replace(joint, bolts=told)))

    @property
    def windows(self):
        return {key: WINDOW for key, joint in self.state.joints.items() if waits_for_load(joint, self.state)}

    def do(self, act):
        act = permit(act, self.state, WORK, self.windows)
        self.log.append(Event(f"e{len(self.log)}", len(self.log) + 1, "2030-01-01T08:00:00.000Z", act))
        self.state = derive_on(self.state, self.log, WORK)

    def follow(self, steps=()):
        for step in steps or self.state.plan.steps:
            if step.key.startswith(MOVES):
                self.do(Moved(step.where, step.corner, step.carried_axle))
                assert step.key in self.state.steps, f"{step.key}: the move is its step"
                continue
            assert step.where == self.state.position, f"{step.key}: the plan has brought the car there"
            if step.asks == "height":
                self.read_heights(step)
            for goal in short_goals(step, self.state):
                self.bring(goal)
            now = template_now(self.state, WORK)
            asked = now.step(step.key)
            for reading in asked.reads:
                if reading.required and reading.choices:
                    self.do(Entered(reading.key, choice=reading.choices[0]))
            if step_hindrance(asked, self.state, now).startswith("Still"):
                self.do(Stepped(step.key, "skipped", "read elsewhere"))
            else:
                self.do(Stepped(step.key))

    def read_heights(self, step):
        for goal in step.brings_joints:
            joint = self.state.joints[goal.joint]
            sides = (joint.side,) if joint.side else ("left", "right")
            for side in sides:
                self.do(HeightRead(side, Typed("360", "mm"), joint.axle or "front"))

    def bring(self, goal):
        joint = self.state.joints[goal.joint]
        for _ in range(200):
            if not any(one.joint == goal.joint for one in self.reach(goal)):
                return
            wanted = next_work(joint, self.state)
            places = (wanted.number,) if wanted.number else tuple(bolt.number for bolt in joint.bolts)
            reading = Typed(f"{wanted.percent}", "nm") if wanted.to == "torqued" else None
            self.do(Worked(goal.joint, places, wanted.to, reading, percent=wanted.percent))
        raise AssertionError(f"{goal.joint} never gets {goal.to}")

    def reach(self, goal):
        step = next(one for one in self.state.plan.steps if goal in one.brings_joints)
        return short_goals(replace(step, brings_joints=(goal,)), self.state)

    def blocks(self):
        readings = readings_now(self.state, WORK)
        found = look(self.state, readings, template_now(self.state, WORK))
        return [one.message for one in found if one.severity == "blocks"]


def brief_of(key):
    procedure = LIBRARY.procedures[key]
    layout = OTHER_LAYOUTS.get(key) or (procedure.layouts[0] if procedure.layouts else "strut")
    axle = procedure.axles[0] if procedure.axles else ""
    car = {**STRUT, "front.layout": layout} if axle != "rear" else {**STRUT, "rear.layout": layout}
    return (key, axle) if axle else (key,), car


@pytest.mark.parametrize("key", sorted(LIBRARY.procedures))
@pytest.mark.parametrize("schools", [{}, {"load": "wheels", "second_link": "hanging"}], ids=["usual", "other"])
def test_a_plan_can_be_followed_to_its_end_by_the_rules_of_the_floor(key, schools):
    fitting, car = brief_of(key)
    order = Order(fitting, car=car, schools=schools)
    tuner = Tuner(order.known)
    tuner.follow()
    assert set(tuner.state.steps) == set(order.keys)
    assert tuner.blocks() == []
    assert tuner.state.position == "on_wheels"
    assert replay(tuner.log, WORK) == tuner.state, "the log holds when read from its beginning"


@settings(max_examples=40)
@given(st.data())
def test_a_part_hung_otherwise_than_usual_is_followed_to_the_end_too(data):
    part = data.draw(st.sampled_from(parts_of_layouts()))
    axle, layout = data.draw(st.sampled_from(part.axles)), data.draw(st.sampled_from(part.layouts))
    car = {f"{axle}.layout": layout, f"{axle}.{part.arm}.along": data.draw(st.sampled_from(sorted(ALONG)))}
    car[f"{axle}.{part.arm}.sprung"] = data.draw(st.sampled_from(["yes", "no"]))
    for joint in part.joints:
        car[f"{axle}.{part.arm}.kind_{joint.key}"] = data.draw(st.sampled_from(joint.kinds))
    goes_in = data.draw(st.sampled_from(sorted(GOES_IN)))
    order = Order(Fitting(part.key, axle, options={"goes_in": goes_in}), car=car)
    tuner = Tuner(order.known)
    tuner.follow()
    assert set(tuner.state.steps) == set(order.keys)
    assert tuner.blocks() == []


def test_what_came_off_beside_the_plan_goes_back_on_in_reverse_before_the_car_is_driven():
    tuner = Tuner(Order(*brief_of("tie_rods")[:1], car=STRUT).known)
    planned_steps = tuner.state.plan.steps
    hanging = next(place for place, step in enumerate(planned_steps) if step.where == "hanging") + 2
    tuner.follow(planned_steps[:hanging])
    tuner.do(TakenOff("Undertray", 8, "shelf 2", planned_steps[hanging - 1].key))
    tuner.do(TakenOff("Arch liner", 5))
    steps = template_now(tuner.state, WORK).steps
    back = [step for step in steps if step.key.startswith("off.")]
    assert [step.title for step in back] == ["Back on: Arch liner", "Back on: Undertray"]
    assert "8 small fasteners" in back[1].detail
    assert "shelf 2" in back[1].detail
    places = [steps.index(step) for step in back]
    assert {step.where for step in back} == {"hanging"}
    assert all(step.where != "hanging" or step.key.startswith("lower.") for step in steps[places[1] + 1 :])
    assert [step.key for step in steps if step not in back] == [step.key for step in planned_steps]
    forgetful = copy(tuner)
    forgetful.log = list(tuner.log)
    forgetful.follow([step for step in planned_steps[hanging:] if step.phase < DRIVING])
    now = template_now(forgetful.state, WORK)
    driven = next(step for step in now.steps if step.phase >= DRIVING)
    assert step_hindrance(driven, forgetful.state, now).startswith("First: Back on: Arch liner")
    with pytest.raises(NotAllowed, match="hanging on stands"):
        forgetful.do(Stepped(back[0].key))
    tuner.follow(steps[hanging : places[0]])
    for step, counted in zip(back, (5, 8), strict=True):
        key = step.reads[0].key
        with pytest.raises(NotAllowed, match="Still to be read: small fasteners back in"):
            tuner.do(Stepped(step.key))
        tuner.do(Entered(key, "typed", typed={"value": Typed(str(counted - 1), "piece")}))
        with pytest.raises(NotAllowed, match=f"{counted - 1}, and it has to be {counted}"):
            tuner.do(Stepped(step.key))
        tuner.do(Entered(key, "typed", typed={"value": Typed(str(counted), "piece")}))
        tuner.do(Stepped(step.key))
    tuner.follow(steps[places[1] + 1 :])
    assert set(tuner.state.steps) == {step.key for step in steps}
    assert replay(tuner.log, WORK) == tuner.state


@pytest.mark.parametrize(
    "wrong", [TakenOff(" "), TakenOff("Cover", -1), TakenOff("Cover", 201), TakenOff("Cover", place="x" * 201)]
)
def test_what_came_off_is_named_and_counted(wrong):
    with pytest.raises(InputError):
        permit(wrong, JobState(), WORK, {})


@pytest.mark.identity
@settings(max_examples=60)
@given(
    st.lists(st.sampled_from(sorted(LIBRARY.procedures)), min_size=2, max_size=4, unique=True),
    st.sampled_from(["jack", "wheels"]),
    st.sampled_from(["hanging", "wheels"]),
    st.sampled_from(["both_ends", "one_end"]),
)
def test_any_kinds_of_job_together_can_be_followed_to_the_end(keys, load, second, lift):
    fittings = [(key, (LIBRARY.find(key).axles or ("",))[0]) for key in keys]
    schools = {"load": load, "second_link": second}
    tuner = Tuner(Order(*fittings, car={}, schools=schools, lift=lift).known)
    tuner.follow()
    assert tuner.blocks() == []


@pytest.mark.parametrize("key", ["springs", "align", "measure"])
def test_a_job_begun_before_0_2_can_be_followed_to_its_end(key):
    kind = kinds()[key]
    log, state = [], opening(kind)
    acts, template = [], template_now(state, kind)
    for step in template.steps:
        acts.append((step, Moved(step.where, "left" if step.where == "corner_carried" else None)))
        acts.append((step, Stepped(step.key)))
    for step, act in acts:
        if (isinstance(act, Moved) and act.to == state.position) or step.key in state.steps:
            continue
        if isinstance(act, Stepped) and step_hindrance(step, state, template):
            act = Stepped(step.key, "skipped", "read elsewhere")
        log.append(Event(f"e{len(log)}", len(log) + 1, "2030-01-01T08:00:00.000Z", permit(act, state, kind, {})))
        state = derive_on(state, log, kind)
    assert set(state.steps) == {step.key for step in template.steps}
    found = look(state, readings_now(state, template), template)
    assert [one.message for one in found if one.severity == "blocks"] == []


def test_nothing_that_waits_for_load_can_be_done_ahead_of_its_turn():
    tuner = Tuner(Order(("lower_arm", "front")).known)
    joint = next(one for one in tuner.state.joints.values() if waits_for_load(one, tuner.state))
    tuner.do(Moved("hanging"))
    for stage in ("hand", "snug"):
        tuner.do(Worked(joint.key, tuple(bolt.number for bolt in joint.bolts), stage))
    with pytest.raises(NotAllowed):
        tuner.do(Worked(joint.key, (joint.bolts[0].number,), "torqued", Typed("100", "nm")))
    assert tuner.state.bolts[bolt_key(joint.key, joint.bolts[0].number)].stage == "snug"


def test_a_single_use_fastener_asks_for_a_new_one_and_the_answer_stands_on_the_record():
    tuner = Tuner(Order(*brief_of("hub_bearing")[:1], car=STRUT).known)
    steps = tuner.state.plan.steps
    joint = next(one for one in tuner.state.plan.joints if any(bolt.single_use for bolt in one.bolts))
    first = next(n for n, step in enumerate(steps) if any(goal.joint == joint.key for goal in step.brings_joints))
    tuner.follow(steps[:first])
    for goal in short_goals(steps[first], tuner.state):
        tuner.bring(goal)
    with pytest.raises(NotAllowed, match="new one"):
        tuner.do(Stepped(steps[first].key))
    reading = asks_new(joint)
    tuner.do(Entered(reading.key, choice="the old one again"))
    tuner.do(Stepped(steps[first].key))
    looked = look_bolts(tuner.state)
    found = {one.code for one in looked if one.subject == f"joint.{joint.key}"}
    assert "used_again" in found
    assert "new_one" not in found
    later = [step.key for step in template_now(tuner.state, WORK).steps[first + 1 :] if reading in step.reads]
    assert not later, "asked once"


def test_what_relies_on_penetrant_or_threadlocker_waits_for_it_or_says_why_not():
    tuner = Tuner(Order(("bolted_ball_joint", "front")).known)
    steps = {step.key: step for step in tuner.state.plan.steps}
    state, template = tuner.state, template_now(tuner.state, WORK)
    at = "2030-01-01T08:00:00.000Z"
    done = {key: (Event(key, 1, at, Stepped(key)), Stepped(key)) for key in ("penetrant@front", "yard")}
    freed, other = (step for step in steps.values() if step.key.startswith("bolted_ball_joint") and step.frees_joints)
    state = replace(state, steps={"penetrant@front": done["penetrant@front"]})
    assert say_too_soon(steps["wheels_off@front"], state, template, at) == "", "wheel nuts come off all the time"
    assert "1 h 1 min to go" in say_too_soon(freed, state, template, "2030-01-01T08:59:01.000Z")
    assert say_too_soon(freed, state, template, "2030-01-01T10:00:00.000Z") == ""
    assert say_too_soon(steps["baseline"], state, template, at) == "", "reading relies on nothing"
    hurried = Stepped(freed.key, reason="it came free")
    state = replace(state, steps={**state.steps, freed.key: (Event("x", 2, at, hurried), hurried)})
    assert [one.reason for one in waived_waits(state, template)] == ["it came free"]
    assert say_too_soon(other, state, template, at) == "", "said once, it is said for all"
    locked = next(step for step in steps.values() if step.wait_h and step.brings_joints)
    state = replace(state, steps={locked.key: (Event("y", 3, at, Stepped(locked.key)), Stepped(locked.key))})
    assert "to go" in say_too_soon(steps["yard"], state, template, at)
    assert say_too_soon(freed, state, template, at) == "", "what cures is relied on by the first drive alone"


def test_a_wrong_hand_or_thread_stays_out_until_somebody_says_why_and_both_stand_on_the_record():
    compared = {"hand": Compared("right", "left"), "thread.right": Compared("M14x1.5", "M12x1.25")}
    fitting = Fitting("tie_rods", "front", compared=compared)
    tuner = Tuner(Order(fitting).known)
    found = [one.message for one in tuner.state.plan.remarks if one.severity == "blocks"]
    assert len(found) == 2
    assert any("old right, new left" in words for words in found)
    assert any("thread, right: old M14x1.5, new M12x1.25" in words for words in found)
    step = next(one for one in tuner.state.plan.steps if any(goal.to == "hand" for goal in one.brings_joints))
    tuner.follow(tuner.state.plan.steps[: tuner.state.plan.steps.index(step)])
    for goal in short_goals(step, tuner.state):
        tuner.bring(goal)
    for reading in template_now(tuner.state, WORK).step(step.key).reads:
        if reading.required:
            tuner.do(Entered(reading.key, "typed", {"value": Typed("24", "turn")}))
    with pytest.raises(NotAllowed, match="in words"):
        tuner.do(Stepped(step.key))
    tuner.do(Stepped(step.key, reason="the list names them the wrong way round"))
    said = look(tuner.state, readings_now(tuner.state, WORK), template_now(tuner.state, WORK))
    assert any("the wrong way round" in one.message for one in said if one.code == "all_the_same")
    tuner.follow(tuner.state.plan.steps[tuner.state.plan.steps.index(step) + 1 :])


@pytest.mark.parametrize(
    ("key", "axle", "check", "old", "new", "said", "means"),
    [
        ("sway_bars", "front", "diameter", "22", "24", "More by 2.0 mm", "fourth power"),
        ("lower_arm", "front", "length", "13 1/2 in", "13 3/4 in", "More by 0.250 in", "leans the wheel"),
        ("springs", "front", "free", "30 cm", "28 cm", "Less by 2.00 cm", "rate and load decide"),
        ("brake_hoses", "front", "length", "380", "380.4", "", ""),
    ],
)
def test_a_difference_says_what_it_means_for_that_part_in_the_unit_it_was_typed_in(
    key, axle, check, old, new, said, means
):
    order = Order(Fitting(key, axle, compared={check: Compared(old, new)}))
    differ = [one for one in order.plan.remarks if ": old " in one.message]
    assert bool(differ) == bool(said)
    assert all(said in one.message and means in one.reason for one in differ)


def test_a_lock_that_the_rack_opens_again_is_firm_for_the_drive_and_stays_open_on_the_record():
    tuner = Tuner(Order(*brief_of("thrust_arms")[:1], car=STRUT).known)
    steps = tuner.state.plan.steps
    last = next(place for place, step in enumerate(steps) if step.key.startswith("thrust_arms.lock_after"))
    tuner.follow(steps[:last])

    def of_locks():
        found = look_bolts(tuner.state)
        return {(one.code, one.severity) for one in found if ".lock." in one.subject}

    assert of_locks() == {("jam_for_the_rack", "open")}
    tuner.follow(steps[last:])
    assert of_locks() == set()
