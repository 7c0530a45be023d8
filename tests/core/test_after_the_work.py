"""Toe after the work: what it teaches, why it missed, and geometry that follows what was read."""

import math
from dataclasses import replace

import numpy as np
import pytest
from kinds import OLD_STRUT, WHOLE_CAR

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.joblog.log import Counted, Entered, Event, Turned, Undone
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.predict.aligned import align_car
from fair_spindle.core.predict.height_model import model_of_car
from fair_spindle.core.predict.ride_height import sit
from fair_spindle.core.predict.sprung_car import sprung_car
from fair_spindle.core.review.before_and_after import Beside, beside_wheel
from fair_spindle.core.review.corrections import want_wheels
from fair_spindle.core.review.height_causes import explain_heights
from fair_spindle.core.review.height_lessons import learn
from fair_spindle.core.review.toe_causes import explain_toes
from fair_spindle.core.review.toe_lessons import learn_toe
from fair_spindle.core.review.toe_readings import ToeRead, ToeStory, occasions, toe_stories
from fair_spindle.demo import workshop

MINUTE = math.pi / 180 / 60
SLOPE, TURN = -3 * MINUTE / 10, 1.5


def typed(key, text, unit, method="typed", part="value", pm=None):
    return Entered(key, method, {part: Typed(f"{text}", unit)}, plus_minus=Typed(f"{pm}", unit) if pm else None)


def toe(wheel, minutes, check=""):
    return typed(f"{wheel}.{check}toe", minutes, "min", "angle", "toe", 0.4)


def height(wheel, mm, check=""):
    return typed(f"{wheel}.{check}height", mm, "mm", "hub_to_arch", "height", 0.4)


def car():
    """A strut front axle known by slopes and levers, read and lowered by 25 mm."""
    yield Entered("front.layout", choice="strut")
    yield Entered("front.steer", choice="behind")
    yield typed("front.height_change", "-25", "mm")
    for side in ("left", "right"):
        wheel = f"front.{side}"
        yield Entered(f"{wheel}.tie.adjust", choice="one_thread")
        yield typed(f"{wheel}.tie.pitch", TURN, "pitch_mm")
        yield typed(f"{wheel}.tie.lever", "120", "mm", pm=6)
        yield typed(f"{wheel}.bump_slope", "-3", "min_per_10mm", part="slope", pm=1.5)
        yield from (height(wheel, "360"), toe(wheel, "6"), typed(f"{wheel}.camber", "-0.8", "deg", "angle"))


def job(*more):
    acts = [one for one in (*car(), *more)]
    log = [Event(f"e{n}", n, "", act) for n, act in enumerate(acts, start=1)]
    state = derive(log, WHOLE_CAR)
    return log, state, readings_now(state, WHOLE_CAR)


def after(left, right, mm="335"):
    return [
        one
        for w, t in (("front.left", left), ("front.right", right))
        for one in (height(w, mm, "check_"), toe(w, t, "check_"))
    ]


def lessons(*more, steered=0.0):
    stories = toe_stories(*job(*more))
    return {one.key: one for one in learn_toe(stories["front"], steered)}


@pytest.mark.referee
def test_one_reading_is_weighed_against_what_was_believed():
    """Source: JCGM 100, weighted mean; by hand for one wheel without steering, a toe read 25 mm lower."""
    found = lessons(*after("1", "-1.5"))
    left = found["front.left.bump_slope"]
    story = toe_stories(*job(*after("1", "-1.5")))["front"][0]
    # What the linkage curves by is expected of it already.
    curved = story.reads[0].expected - story.slope.value * 25
    read, read_open = ((1.0 - 6.0) * MINUTE - curved) / 25, math.hypot(0.2 * MINUTE, 0.2 * MINUTE) / 25
    open_ = math.hypot(read_open, abs(SLOPE) * math.hypot(0.2, 0.2) / 25)
    prior = story.slope.uncertainty
    assert 0.6 * MINUTE / 10 < prior < 0.75 * MINUTE / 10, "as typed, and a little surer by the other side"
    weights = (1 / open_**2, 1 / prior**2)
    by_hand = (weights[0] * read + weights[1] * story.slope.value) / sum(weights)
    assert left.before_plus_minus == pytest.approx(2 * prior)
    assert left.after == pytest.approx(by_hand, rel=1e-3)
    assert left.after_plus_minus == pytest.approx(2 / math.sqrt(sum(weights)), rel=1e-2)
    assert found["front.right.bump_slope"].after == pytest.approx(SLOPE, rel=0.15), "as believed, only surer"


def test_turns_between_two_readings_teach_the_lever_apart_from_the_slope():
    one_turn = TURN / 110 / MINUTE
    turned = [Turned(f"front.{side}", "Tie rod", 6) for side in ("left", "right")]
    found = lessons(*after("-1.5", "-1.5"), *turned, *after(f"{-1.5 + one_turn:.3f}", f"{-1.5 + one_turn:.3f}"))
    lever = found["front.left.tie.lever"]
    assert lever.before == pytest.approx(120, rel=5e-3)
    assert lever.after == pytest.approx(110, abs=lever.after_plus_minus)
    assert lever.after_plus_minus < 2.5
    assert found["front.left.bump_slope"].after == pytest.approx(SLOPE, abs=0.6 * MINUTE / 10)


def test_a_crooked_steering_wheel_is_not_taken_for_bump_steer():
    apart = lessons(*after("3.5", "-6.5"), steered=3 * MINUTE)
    alike = lessons(*after("3.5", "3.5"), steered=3 * MINUTE)
    moved = [abs(found["front.left.bump_slope"].after - SLOPE) for found in (apart, alike)]
    assert moved[0] < 0.4 * moved[1], "left out and right in is what the steering wheel does"


@pytest.mark.referee
def test_what_is_learned_lies_off_the_truth_by_what_its_uncertainty_says():
    """Source: JCGM 101: for cars drawn from what was believed, errors over their uncertainty are standard normal."""
    generator = np.random.default_rng(7)
    off = []
    for _ in range(250):
        slopes, levers = generator.normal(SLOPE, 4e-5, 2), generator.normal(120, 3, 2)
        steer = generator.normal(0, 6e-4, 4)
        stories = []
        for side, sign in (("left", -1), ("right", 1)):
            at = 0 if side == "left" else 1
            start = 0.0017 + generator.normal(0, 2e-4)
            reads = []
            for walk, (travel, longer) in enumerate(((25.0, 0.0), (25.0, 3.0), (-20.0, 3.0))):
                toe = 0.0017 + slopes[at] * travel + longer / levers[at] + sign * (steer[walk + 1] - steer[0])
                read = Quantity(toe + generator.normal(0, 2e-4), 2e-4)
                reads.append(ToeRead(walk, read, travel, 0.0, SLOPE * travel + longer / 120, longer / 120))
            believed = Quantity(SLOPE, 4e-5), Quantity(120.0, 3.0)
            stories.append(ToeStory(f"front.{side}", Quantity(start, 2e-4), *believed, 0.0, tuple(reads)))
        truth = {f"front.{side}.bump_slope": slope for side, slope in zip(("left", "right"), slopes, strict=True)}
        truth |= {f"front.{side}.tie.lever": lever for side, lever in zip(("left", "right"), levers, strict=True)}
        off += [(one.after - truth[one.key]) / (one.after_plus_minus / 2) for one in learn_toe(stories, 6e-4)]
    assert len(off) > 700
    assert np.std(off) == pytest.approx(1.0, abs=0.1)
    assert abs(np.mean(off)) < 0.1


def test_what_is_undone_or_read_without_a_height_teaches_nothing_and_a_second_walk_counts_twice():
    log, _, readings = job(toe("front.left", "9", "check_"), *after("1", "2"), *after("1.5", "2.5"))
    walks = {key: [one.walk for one in found] for key, found in occasions(log, readings.sheet).items()}
    assert walks == {"front.left": [0, 1], "front.right": [0, 1]}
    undone = next(one.id for one in log if getattr(one.act, "key", "") == "front.right.check_toe")
    kept = occasions([*log, Event("u", len(log) + 1, "", Undone(undone))], readings.sheet)
    assert len(kept["front.right"]) == 1
    assert toe_stories(*job()) == {}


def counted_job(left_toe):
    """A new end counted on at the left, read, turned three flats longer, read again; a job of before 0.2."""
    acts = [
        *workshop.baseline(),
        typed("front.left.tie.lever", "118", "mm", pm=12),
        Counted("left", "off", 140),
        Counted("left", "on", 153),
        Entered("front.left.check_height", "hub_to_arch", {"height": Typed("347.7", "mm")}),
        toe("front.left", "7", "check_"),
        Counted("left", "correct", 3),
        toe("front.left", left_toe, "check_"),
    ]
    log = [Event(f"e{n}", n, "", act) for n, act in enumerate(acts, start=1)]
    state = derive(log, OLD_STRUT)
    return log, state, readings_now(state, OLD_STRUT)


def test_counted_flats_of_a_correction_teach_the_lever():
    log, state, readings = counted_job("29")
    story = toe_stories(log, state, readings)["front"][0]
    rods = [one.by_rod for one in story.reads]
    longer = 3 / 6 * readings.quantities["front.left.tie.pitch"].value
    assert abs(rods[1] - rods[0]) == pytest.approx(longer / story.lever.value, rel=0.03)
    believed = readings.quantities["front.left.tie.lever"].value
    off = {text: learn_toe(toe_stories(*counted_job(text))["front"], 0.0) for text in ("25", "33")}
    levers = {t: next(one.after for one in f if one.key.endswith("lever")) for t, f in off.items()}
    assert levers["33"] < believed < levers["25"], "more toe than expected: a shorter lever"


def axle_alone(*off):
    """Two wheels known by their own springs and load, alike, and their heights off the prediction by so many mm."""
    readings = counted_job("7")[2]
    told = dict(readings.quantities)
    for name in ("sprung_load", "height"):
        told[f"front.right.{name}"] = told[f"front.left.{name}"]
    car = sprung_car(replace(readings, quantities=told), None, changed=("front", "rear"))
    model = model_of_car(car)
    wheels = sit(car, told).wheels
    before = {one.key: one.height for one in wheels}
    after = {one.key: Quantity(one.predicted + by, 0.3) for one, by in zip(wheels, off, strict=True)}
    missed = [Beside(one.key, "height", one.height, None, one.predicted, 2.0, after[one.key]) for one in wheels]
    return model, before, after, missed


def test_heights_of_an_axle_alone_teach_its_springs():
    model, before, after, _ = axle_alone(-8, -8)
    found = {one.key: one for one in learn(model, before, after)}
    rate = found["front.new_spring.rate"]
    assert rate.after < rate.before, "lower than predicted: softer than printed"
    assert rate.after_plus_minus < rate.before_plus_minus
    assert set(found) <= {"front.new_spring.rate", "front.motion_ratio"}, "the old spring is off the car"
    assert learn(model, before, {}) == []
    assert model_of_car(sprung_car(replace(counted_job("7")[2], quantities={}), None, changed=("front",))) is None


def test_heights_of_an_axle_alone_point_at_what_both_share_or_at_one_wheel():
    shared = explain_heights(*axle_alone(-9, -9))
    assert shared[0].key.startswith("front.")
    assert "left" not in shared[0].key
    assert abs(shared[0].left) < 4
    own = explain_heights(*axle_alone(10, 0))
    assert {one.key.split(".")[1] for one in own[:2]} == {"left"}
    assert explain_heights(*axle_alone(1, -1)) == []


def test_toe_is_expected_for_what_was_turned_and_explained_where_it_missed():
    turned = [Turned(f"front.{side}", "Tie rod", 6) for side in ("left", "right")]
    untouched = align_car(*job()[1:], 0)[1]["front.right"].plan
    flat = TURN / 6 / 120 / MINUTE
    # Lowered by 25 mm the rod lies otherwise: a turn does a little less than its lever says.
    expected = float(angles_at(untouched.wheel.corner, [25.0], {"tie": TURN}).toe[0]) / MINUTE
    assert expected == pytest.approx(6.0 - 7.5 + 6 * flat, abs=3), "by slope and lever alone"
    counted = float(angles_at(untouched.wheel.corner, [25.0], {"tie": TURN * 4 / 6}).toe[0]) / MINUTE
    _, state, readings = job(*turned, *after(f"{counted:.2f}", f"{expected:.2f}"))
    told, moves = {}, {}
    for key in ("front.left", "front.right"):
        wheel = align_car(state, readings, 400)[1][key]
        told[key], moves[key] = beside_wheel(wheel, readings, with_height=True)
    rows = {(one.key, one.name): one for one in (*told["front.left"], *told["front.right"])}
    assert rows["front.left", "height"].miss == pytest.approx(0.0)
    assert rows["front.right", "toe"].predicted == pytest.approx(expected * MINUTE, rel=1e-3)
    assert moves["front.left"].per_turn == pytest.approx(6 * flat * MINUTE, rel=0.06)
    assert moves["front.left"].per_height == pytest.approx(-SLOPE, abs=3e-5)
    surer = {key: replace(one, open=0.5 * MINUTE) for key, one in rows.items()}
    found = explain_toes(list(surer.values()), moves)
    assert set(found) == {"front.left"}
    assert found["front.left"][0].words == "the count is off by 2 flats"


def test_what_is_still_wanted_is_told_by_adjuster_and_past_its_stop_as_a_part():
    stops = [typed("front.left.tie.length", "365", "mm"), typed("front.left.tie.longest", "366", "mm")]
    _, state, readings = job(*stops, *after("-30", "6"))
    wants = {one.where: one for one in want_wheels(align_car(state, readings)[1], ())}
    left = wants["front.left"]
    assert set(wants) == {"front.left"}, "the right one stands where it is wanted"
    assert (left.what, left.name) == ("toe", "Tie rod")
    by_hand = 36 * MINUTE * 120
    assert left.beyond == pytest.approx(by_hand - 1.0, abs=0.05), "one millimetre is left, the rest needs another rod"
    assert left.amount == pytest.approx(4 / 6), "four flats of 0.25 mm are what there is"
    free = align_car(*job(*after("-30", "6"))[1:])[1]
    assert [one.beyond for one in want_wheels(free, ())] == [0.0]


def test_a_wheel_that_is_known_for_sure_learns_nothing():
    read = ToeRead(0, Quantity(0.002, 1e-4), 20.0, 0.5, 0.001, 0.0)
    assert learn_toe([ToeStory("rear.left", Quantity(0.0), Quantity(1e-5), None, 0.0, (read,))], 0.0) == []
