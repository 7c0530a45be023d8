"""The rules of the floor, walked at random and one by one, in the words of jobs begun before 0.2."""

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule
from kinds import OLD_STRUT

from fair_spindle.core.basics.errors import NotAllowed, SpindleError
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import (
    Counted,
    Entered,
    Event,
    HeightRead,
    Moved,
    Specified,
    Stepped,
    Tightened,
    Undone,
)
from fair_spindle.core.joblog.reducer import advance, derive, effective, opening
from fair_spindle.core.joblog.replay import replay, undoing
from fair_spindle.core.joblog.rules import (
    permit,
)

GROUPS = sorted({key.split(".")[1] for key in opening(OLD_STRUT).joints})
WINDOWS = {
    f"{side}.{arm}": window
    for side, window in (("left", (340.0, 360.0)), ("right", (330.0, 350.0)))
    for arm in ("arm_front", "arm_rear")
}
SPECS = [Specified(group, Typed("80", "nm"), "sheet 1", 12.0, 1.25) for group in GROUPS]
READING = Typed("80", "nm")


class Log:
    """A log that grows by the rules."""

    def __init__(self, *acts):
        self.events, self.state = [], opening(OLD_STRUT)
        for act in (*SPECS, *acts):
            self.write(act)

    def write(self, act):
        if isinstance(act, Undone):
            undoing(act.event, self.events, OLD_STRUT)
        accepted = permit(act, self.state, OLD_STRUT, WINDOWS)
        event = Event(f"e{len(self.events) + 1}", len(self.events) + 1, "2026-01-01T00:00:00Z", accepted)
        self.events.append(event)
        self.state = (
            derive(self.events, OLD_STRUT) if isinstance(act, Undone) else advance(self.state, event, OLD_STRUT)
        )
        return event


def snug(place):
    return [Tightened((place,), "hand"), Tightened((place,), "snug")]


BOLT = "left.arm_front.1"


def stage(log, place):
    return log.state.bolts[":".join(place.rsplit(".", 1))].stage


TORQUE = Tightened((BOLT,), "torqued", READING)


def test_bonded_bolt_waits_for_a_height_in_the_window_and_closes_when_the_car_moves():
    log = Log(Moved("hanging"), *snug(BOLT))
    steps = [
        (None, "hanging"),
        (Moved("corner_carried", "left"), "No height has been read"),
        (HeightRead("left", Typed("372", "mm")), "outside the clamp window"),
        (HeightRead("right", Typed("345", "mm")), "outside the clamp window"),
        (Moved("corner_carried", "right"), "hanging"),
        (Moved("corner_carried", "left"), "No height has been read"),
    ]
    for act, reason in steps:
        if act:
            log.write(act)
        with pytest.raises(NotAllowed, match=reason):
            log.write(TORQUE)
    log.write(HeightRead("left", Typed("13 3/4 in", "mm")))
    torqued = log.write(TORQUE)
    assert torqued.act.clamp.height_mm == pytest.approx(349.25)
    with pytest.raises(NotAllowed, match="rests on this one"):
        log.write(Undone("e17"))


def test_override_needs_a_reason_and_outlives_its_undoing():
    log = Log(Moved("hanging"), *snug(BOLT))
    with pytest.raises(SpindleError):
        log.write(Tightened((BOLT,), "torqued", READING, override="  "))
    log.write(Tightened((BOLT,), "torqued", READING, override="customer insists"))
    log.write(Undone(log.events[-1].id))
    assert stage(log, BOLT) == "snug"
    assert [one.reason for one in log.state.overrides] == ["customer insists"]


@pytest.mark.parametrize(
    ("acts", "refused", "reason"),
    [
        ([], Tightened(("left.wheel.1",), "snug"), "started by hand first"),
        ([], Stepped("raise"), "needs the car hanging"),
        ([Moved("hanging")], Moved("hanging"), "already"),
        ([Moved("hanging"), *snug("left.wheel.1")], Tightened(("left.wheel.1",), "torqued", READING), "every place"),
        ([Moved("hanging"), Tightened(("left.strut_top.1",), "loose")], Moved("on_wheels"), "snug first"),
        ([], Counted("left", "off", -1), "below zero"),
        ([Moved("hanging")], Stepped("count_off"), "turns off, front left"),
        ([], Stepped("baseline"), "Still to be read"),
    ],
)
def test_refused_with_the_reason(acts, refused, reason):
    log = Log(*acts)
    with pytest.raises(NotAllowed, match=reason):
        log.write(refused)


def test_wheel_nuts_get_their_final_torque_on_the_ground_and_greased_arms_anywhere():
    wheel = tuple(f"left.wheel.{number}" for number in range(1, 6))
    log = Log(Moved("hanging"), Tightened(wheel, "hand"), Tightened(wheel, "snug"), *snug(BOLT))
    with pytest.raises(NotAllowed, match="on the ground"):
        log.write(Tightened(wheel, "torqued", READING))
    log.write(Entered("front.left.lower.bush_front", choice="greased_poly"))
    log.write(TORQUE)
    log.write(Moved("on_wheels"))
    log.write(Tightened(wheel, "torqued", READING))
    assert {stage(log, place) for place in wheel} == {"torqued"}


def test_undo_and_undo_of_undo():
    log = Log(Counted("left", "off", 6))
    log.write(Undone("e10"))
    assert log.state.flats("front.left.tie", "off") == 0
    log.write(Undone("e11"))
    assert log.state.flats("front.left.tie", "off") == 6
    assert len(effective(log.events)) == 10


PLACES = [f"{side}.{group}.1" for side in ("left", "right") for group in ("arm_front", "arm_rear", "link", "jam")]


class Floor(RuleBasedStateMachine):
    """Random work on the car, refused or not."""

    def __init__(self):
        super().__init__()
        self.log = Log()

    def attempt(self, act):
        try:
            self.log.write(act)
        except SpindleError:
            return

    @rule(
        to=st.sampled_from(
            [("on_wheels", None), ("hanging", None), ("corner_carried", "left"), ("corner_carried", "right")]
        )
    )
    def move(self, to):
        self.attempt(Moved(*to))

    @rule(side=st.sampled_from(["left", "right"]), height=st.integers(320, 370))
    def read(self, side, height):
        self.attempt(HeightRead(side, Typed(str(height), "mm")))

    @rule(place=st.sampled_from(PLACES), to=st.sampled_from(["loose", "hand", "snug", "torqued", "torqued"]))
    def tighten(self, place, to):
        self.attempt(Tightened((place,), to, READING if to == "torqued" else None))

    @precondition(lambda self: len(self.log.events) > len(SPECS))
    @rule(back=st.integers(0, 5))
    def undo(self, back):
        self.attempt(Undone(self.log.events[max(len(self.log.events) - 1 - back, len(SPECS))].id))

    @invariant()
    def bonded_bolts_were_clamped_inside_their_window(self):
        for place, now in self.log.state.bolts.items():
            if ".arm_" in place and now.stage == "torqued":
                low, high = WINDOWS[place.split(":")[0]]
                assert now.clamp is not None
                assert low <= now.clamp.height_mm <= high

    def teardown(self):
        assert replay(self.log.events, OLD_STRUT).bolts == self.log.state.bolts


Floor.TestCase.settings = settings(max_examples=60, stateful_step_count=40)
TestFloor = Floor.TestCase
