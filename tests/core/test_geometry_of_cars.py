"""From a record to turns: depths of geometry, adjusters of every kind, the axle, and how sure it is."""

import math
from dataclasses import replace

import numpy as np
import pytest
from kinds import WHOLE_CAR

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.toe import toe_for_rod_change
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.log import Entered, Event, Filled, Turned
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.predict.aligned import align_car, align_rods, look_aligned, look_rods
from fair_spindle.core.predict.geometry import adjusters_known, wheels_of
from fair_spindle.core.predict.sides import sides_apart
from fair_spindle.core.predict.turning import plan_car
from fair_spindle.core.turns.threads import RodEnd, transfer_turns

DEGREE = math.pi / 180
STRUT = {
    "strut_top": (-18, 571, 855), "strut_low": (6, 622, 410), "lower_front": (14, 382, 190),
    "lower_rear": (-289, 374, 196), "lower_ball": (20, 695, 159), "tie_inner": (-127, 337, 253),
    "tie_outer": (-133, 674, 243), "wheel_center": (-3, 741, 310),
}  # fmt: skip
ANGLES = {
    f"{axle}.{side}.{name}": Quantity(value * DEGREE, 0.02 * DEGREE)
    for axle in ("front", "rear")
    for side in ("left", "right")
    for name, value in (("toe", 0.1), ("camber", -0.8))
}


def typed(key, text, unit="mm"):
    return Entered(key, "typed", {"value": Typed(text, unit)})


def points(axle="front", names=STRUT):
    for side, sign in (("left", 1), ("right", -1)):
        for name, (x, y, z) in names.items():
            at = {axis: Typed(str(v), "mm") for axis, v in zip("xyz", (x, sign * y, z), strict=True)}
            yield Entered(f"{axle}.{side}.point.{name}", "point", at)


def record(*entries, template=CAR):
    state = derive([Event("e", 1, "", Filled(tuple(entries), "test"))], template)
    return readings_now(state, template)


def adjusted(way, *more, arm="tie"):
    entries = [Entered("front.layout", choice="strut"), *points(), Entered(f"front.left.{arm}.adjust", choice=way)]
    told = record(*entries, *more)
    found = wheels_of(told, ANGLES)["front.left"]
    assert adjusters_known(told, "front.left") == tuple(one.name for one in found.adjusters)
    return {one.name: one for one in found.adjusters}


def test_every_kind_of_adjuster_has_its_own_length_step_and_stops():
    length = typed("front.left.tie.length", "365")
    single = adjusted("one_thread", typed("front.left.tie.pitch", "20 tpi", "pitch_mm"), length)["Tie rod"]
    assert (single.per_turn, single.step, single.unit) == (pytest.approx(1.27), 1 / 6, "turn")
    half = Entered("front.left.tie.step", choice="half_turn")
    stops = [typed("front.left.tie.shortest", "361"), typed("front.left.tie.longest", "371")]
    limited = adjusted("one_thread", length, half, *stops)["Tie rod"]
    assert (limited.step, limited.low, limited.high) == (0.5, -4.0, 6.0)
    pitches = [typed("front.left.tie.pitch", "1.5", "pitch_mm"), typed("front.left.tie.pitch_2", "1.25", "pitch_mm")]
    assert adjusted("sleeve", *pitches)["Tie rod"].per_turn == 2.75
    same = [Entered(f"front.left.tie.{name}", choice="right") for name in ("hand", "hand_2")]
    assert adjusted("sleeve", *pitches, *same)["Tie rod"].per_turn == 0.25
    threads = [typed("front.left.tie.engaged", "21"), typed("front.left.tie.engagement", "18")]
    assert adjusted("one_thread", length, *threads)["Tie rod"].high == 3.0, "3 mm of thread to spare"
    assert adjusted("sleeve", *pitches, *threads)["Tie rod"].high == pytest.approx(2 * 2.75), "two turns of 1.5 mm"
    both = adjusted("sleeve", *pitches, *same, *threads)["Tie rod"]
    assert (both.low, both.high) == (pytest.approx(-0.5), pytest.approx(0.5)), "one end runs out either way"
    short = [typed("front.left.tie.engaged", "17"), threads[1]]
    assert adjusted("one_thread", length, *short)["Tie rod"].high == 0.0, "already too short: only in"
    cam = adjusted("cam", typed("front.left.tie.cam", "4"), typed("front.left.tie.cam_marks", "16"))["Tie rod"]
    assert (cam.step, cam.low, cam.high, cam.unit) == (0.5, -4.0, 4.0, "mm")
    assert adjusted("shims", typed("front.left.tie.shim", "0.5"))["Tie rod"].per_turn == 0.5
    assert adjusted("slot")["Tie rod"].unit == "mm"
    arm = adjusted("one_thread", arm="lower")["Lower arm"]
    shares = dict(arm.acts_on)
    assert shares["lower_front"] > shares["lower_rear"] > 0.5, "the joint moves out along the arm"
    assert set(adjusted("legs", arm="lower")) == {"Lower arm, front leg", "Lower arm, rear leg", "Tie rod"}
    unknown = adjusted("one_thread", arm="lower")["Tie rod"]
    assert (unknown.per_turn, unknown.turn_open) == (1.5, 0.15), (
        "every front wheel has a rod; its thread is a usual one"
    )
    told = adjusted("one_thread", typed("front.left.tie.pitch", "1.25", "pitch_mm"))["Tie rod"]
    assert (told.per_turn, told.turn_open) == (1.25, 0.0)
    assert adjusted("slot", typed("front.left.top_plate", "12"))["Strut top, inboard"].high == 12.0


SLOPES = {
    "front.left.bump_slope": Quantity(-3e-5, 5e-6),
    "front.right.bump_slope": Quantity(-3e-5, 5e-6),
    "front.left.camber_slope": Quantity(-2e-4, 1e-5),
}
TIE = [
    Entered("front.layout", choice="strut"),
    Entered("front.steer", choice="behind"),
    typed("front.height_change", "-25"),
    *(Entered(f"front.{side}.tie.adjust", choice="one_thread") for side in ("left", "right")),
    *(typed(f"front.{side}.tie.lever", "120") for side in ("left", "right")),
]


def test_slopes_alone_give_turns_and_points_replace_them_corner_by_corner():
    shallow = wheels_of(record(*TIE), {**ANGLES, **SLOPES})
    assert (shallow["front.left"].depth, shallow["rear.left"].depth) == ("tape", "")
    told = record(*TIE)
    told = replace(told, quantities={**told.quantities, **SLOPES})
    assert [adjusters_known(told, wheel) for wheel in ("front.left", "rear.left")] == [("Tie rod",), ()]
    plan = plan_car(shallow, 15.0).wheels["front.left"]
    toe = angles_at(shallow["front.left"].corner, [25.0]).toe[0]
    assert toe == pytest.approx(0.1 * DEGREE - 3e-5 * 25, abs=6e-4), "but for the curve that slopes do not tell"
    back = float(toe_for_rod_change(plan.plan.exact[0], 120.0, "behind"))
    assert toe + back == pytest.approx(0.1 * DEGREE, abs=1e-4), "as the published tie-rod rule has it"
    own = [one for one in points() if ".left." in one.key]
    deep = wheels_of(record(*TIE, *own), {**ANGLES, **SLOPES})
    assert (deep["front.left"].depth, deep["front.right"].depth) == ("points", "tape")
    assert "misses what all other readings say" in deep["front.left"].differs


def test_a_length_that_no_other_reading_bears_out_is_left_out_and_named():
    """80 mm is a slip of the tape, 0.3 mm is not."""
    drawn = list(points())
    length = math.dist(STRUT["tie_inner"], STRUT["tie_outer"])
    alone, slipped, sound = (
        wheels_of(record(TIE[0], *drawn, *more), ANGLES)["front.left"]
        for more in (
            [],
            [typed("front.left.tie.length", f"{length - 80:.1f}")],
            [typed("front.left.tie.length", f"{length + 0.3:.1f}")],
        )
    )
    assert slipped.corner.points == alone.corner.points
    assert slipped.differs.startswith("Tie length misses")
    assert "left out" in slipped.differs
    assert sound.corner.points != alone.corner.points
    assert not sound.differs


FLAT = {
    "upper_front": (160, 400, 285), "upper_rear": (-160, 400, 285), "upper_ball": (0, 640, 300),
    "lower_front": (160, 350, -10), "lower_rear": (-160, 350, -10), "lower_ball": (0, 690, 0),
    "tie_inner": (-120, 352, 40), "tie_outer": (-120, 690, 60), "wheel_center": (0, 750, 120),
}  # fmt: skip
TAPE = {
    "track": 1500, "left.lower.length": math.hypot(340, 10), "left.lower.rise": 10,
    "left.upper.length": math.hypot(240, 15), "left.upper.rise": 15, "left.tie.length": math.hypot(338, 20),
    "left.tie.rise": 20, "left.tie.lever": 120, "left.tie.above": 60, "left.joint_height": 300,
    "left.joint_inboard": 50,
}  # fmt: skip


@pytest.mark.identity
def test_a_flat_wishbone_by_tape_moves_as_the_same_one_by_points_does():
    """All pivot axes run fore and aft: what the tape measures is then all there is."""
    common = [Entered("front.layout", choice="double_wishbone"), Entered("front.steer", choice="behind")]
    taped = [typed(f"front.{name}", repr(float(size))) for name, size in TAPE.items()]
    one = wheels_of(surely(record(*common, *taped, *LEVEL)), ANGLES)["front.left"]
    two = wheels_of(record(*common, *points(names=FLAT)), ANGLES)["front.left"]
    assert (one.depth, two.depth) == ("tape", "points")
    travel = np.linspace(-60, 60, 13)
    by_tape, by_points = angles_at(one.corner, travel), angles_at(two.corner, travel)
    assert np.allclose(by_tape.camber, by_points.camber, atol=3e-5)
    assert np.allclose(by_tape.toe, by_points.toe, atol=5e-4), (
        "a lever is read where it steers, a little off the joint"
    )
    usual, lacking = (wheels_of(record(*common, *told), ANGLES)["front.left"] for told in ((), taped[:-2]))
    assert lacking.depth == "tape", "a measure is missing: what cars have in common stands in"
    assert usual.doubtful.point > lacking.doubtful.point > two.doubtful.point


# What a tape reads of it besides: every pivot axis runs fore and aft.
LEVEL = [
    *(typed(f"front.left.{arm}.{name}", "0") for arm in ("upper", "lower") for name in ("skew", "tilt", "lead")),
    *(typed(f"front.left.{arm}.span", "320") for arm in ("upper", "lower")),
    typed("front.left.tie.lead", "0"),
    typed("front.left.joint_back", "0"),
]


def surely(told):
    """A record whose lengths were all read to a thousandth of a millimetre."""
    quantities = {
        key: replace(one, uncertainty=1e-3) if "left." in key else one for key, one in told.quantities.items()
    }
    return replace(told, quantities=quantities)


def taped(name, outer, first, second):
    """Length square to the pivot axis, rise, and the plan of an arm, measured off its points."""
    outer, first, second = (np.array(at, float) for at in (outer, first, second))
    along = (first - second) / np.linalg.norm(first - second)
    foot = second + ((outer - second) @ along) * along
    yield f"{name}.length", np.linalg.norm(outer - foot)
    yield f"{name}.rise", outer[2] - foot[2]


@pytest.mark.identity
@pytest.mark.parametrize("seed", range(6))
def test_by_tape_in_front_and_plan_view_is_the_same_corner_as_by_points(seed):
    """Pivot axes that are skew, tilted and off their joint's plane; the measures come from the points themselves."""
    free = np.random.default_rng(seed).uniform(-30, 30, (7, 3))
    names = [name for name in FLAT if name not in ("wheel_center", "lower_ball")]
    moved = {**FLAT, **{name: tuple(np.add(FLAT[name], free[n])) for n, name in enumerate(names)}}
    moved["tie_outer"] = (FLAT["tie_outer"][0], FLAT["lower_ball"][1], moved["tie_outer"][2])
    measures = {"track": 1500, "left.tie.lever": 120, "left.tie.above": moved["tie_outer"][2]}
    for arm in ("upper", "lower"):
        ball, front, rear = (moved[f"{arm}_{end}"] for end in ("ball", "front", "rear"))
        measures |= {f"left.{key}": size for key, size in taped(arm, ball, front, rear)}
        between = np.subtract(front, rear)
        measures |= {f"left.{arm}.{name}": size for name, size in zip(("span", "skew", "tilt"), between, strict=True)}
        measures[f"left.{arm}.lead"] = ball[0] - (front[0] + rear[0]) / 2
    rod = np.subtract(moved["tie_outer"], moved["tie_inner"])
    measures |= {"left.tie.length": np.linalg.norm(rod), "left.tie.rise": rod[2], "left.tie.lead": rod[0]}
    top = np.subtract(moved["upper_ball"], moved["lower_ball"])
    measures |= {"left.joint_back": -top[0], "left.joint_inboard": -top[1], "left.joint_height": top[2]}
    moved["wheel_center"] = (0.0, 750.0, 0.4 * top[2])
    common = [Entered("front.layout", choice="double_wishbone"), Entered("front.steer", choice="behind")]
    tape = [typed(f"front.{name}", repr(float(size))) for name, size in measures.items()]
    one = wheels_of(surely(record(*common, *tape)), ANGLES)["front.left"]
    two = wheels_of(record(*common, *points(names=moved)), ANGLES)["front.left"]
    assert (one.depth, two.depth) == ("tape", "points")
    by_tape, by_points = (angles_at(each.corner, np.linspace(-50, 50, 11)) for each in (one, two))
    for name in ("camber", "toe", "caster"):
        assert np.allclose(getattr(by_tape, name), getattr(by_points, name), atol=2e-3), (
            "where the wheel lies about its joints no tape tells"
        )


@pytest.mark.identity
def test_a_semi_trailing_arm_by_tape_swings_about_the_same_axis_as_by_points():
    arm = {"arm_inner": (-2322, 168, -62), "arm_outer": (-2262, 512, -54), "wheel_center": (-2670, 738, 0)}
    level = np.hypot(*np.subtract(arm["arm_outer"], arm["arm_inner"])[:2])
    measures = {"track": 1476, "left.arm.span": level, "left.arm.lead": 60, "left.arm.tilt": 8}
    measures |= {f"left.{key}": v for key, v in taped("arm", arm["wheel_center"], arm["arm_outer"], arm["arm_inner"])}
    layout = Entered("rear.layout", choice="semi_trailing")
    tape = [typed(f"rear.{name}", repr(float(size))) for name, size in measures.items()]
    one = wheels_of(surely(record(layout, *tape)), ANGLES)["rear.left"]
    two = wheels_of(record(layout, *points("rear", arm)), ANGLES)["rear.left"]
    assert (one.depth, two.depth) == ("tape", "points")
    by_tape, by_points = (angles_at(each.corner, np.linspace(-60, 60, 9)) for each in (one, two))
    assert np.allclose(by_tape.camber, by_points.camber, atol=2e-6)
    assert np.allclose(by_tape.toe, by_points.toe, atol=2e-6)


def test_tie_rod_and_drag_link_of_a_solid_axle_are_planned_counted_and_corrected():
    """Referee: the drag link's two ends by Pythagoras, the published tie-rod rule for the toe."""
    told = [
        Entered("front.layout", choice="solid_leaf"),
        Entered("front.steer", choice="behind"),
        Entered("front.drag.longer", choice="right"),
        Entered("front.tie.adjust", choice="sleeve"),
        Entered("front.drag.adjust", choice="one_thread"),
        typed("front.height_change", "50"),
        typed("front.tie.lever", "150"),
        *(typed(f"front.drag.{name}", size) for name, size in (("length", "780"), ("rise", "-90"), ("lever", "160"))),
        typed("car.steering_ratio", "18", "ratio"),
        typed("car.wheel_off", "-4", "deg"),
        *(Entered(f"front.{side}.toe", "angle", {"toe": Typed("0.1", "deg")}) for side in ("left", "right")),
        *(typed(f"front.{side}.target.toe", size, "deg") for side, size in (("left", "0.02"), ("right", "0.08"))),
    ]
    log = [Event("e1", 1, "2026-03-01T08:00:00Z", Filled(tuple(told), "t"))]

    def rods(*acts):
        state = derive(log + [Event(f"e{n}", n, "", act) for n, act in enumerate(acts, 2)], WHOLE_CAR)
        found = align_rods(state, readings_now(state, WHOLE_CAR))
        return {one.rod.adjuster.name: one for one in found}, look_rods(found)

    planned, findings = rods()
    tie, drag = planned["Tie rod"].rod, planned["Drag link"].rod
    assert math.degrees(tie.before) == pytest.approx(0.2)
    needed = toe_for_rod_change(tie.exact * tie.adjuster.per_turn, 150.0, "behind")
    assert math.degrees(needed) == pytest.approx(-0.1, rel=1e-6)
    assert tie.reached == pytest.approx(tie.before + tie.set_turns * tie.per_turn)
    assert tie.set_turns == pytest.approx(round(tie.exact / tie.adjuster.step) * tie.adjuster.step)
    length = 780 + drag.exact * drag.adjuster.per_turn
    grown = math.sqrt(length**2 - 140**2) - math.sqrt(780**2 - 90**2)
    # The link holds the right knuckle, across from its gear; half of what the tie rod does reaches the wheel.
    off = -4.0 - 18 / 2 * math.degrees(tie.reached - tie.before)
    assert math.degrees(18 * grown / 160) == pytest.approx(off, abs=1e-6), "what the gear was off by is taken out"
    fallen = 160 * math.radians(off - math.degrees(drag.before)) / 18
    reach = math.sqrt(780**2 - 90**2) + fallen
    assert reach == pytest.approx(math.sqrt(780**2 - 140**2)), "height alone moves the wheel"
    assert abs(math.degrees(drag.before)) > 40
    assert {one.code for one in findings} == {"turns_left"}
    turned = [Turned("front", name, one.planned) for name, one in planned.items()]
    assert rods(*turned)[1] == []
    right = [Entered(f"front.{side}.check_toe", "angle", {"toe": Typed("0.05", "deg")}) for side in ("left", "right")]
    assert rods(*turned, *right)[1] == []
    read = [Entered(f"front.{side}.check_toe", "angle", {"toe": Typed("0.2", "deg")}) for side in ("left", "right")]
    again, findings = rods(*turned, *read)
    assert [one.code for one in findings] == ["angle_off"]
    assert "+0.30°" in findings[0].message
    assert again["Tie rod"].still == round(math.radians(0.1 - 0.4) / tie.per_turn / tie.adjuster.step)


def test_a_point_that_cannot_be_right_is_told_with_its_wheel():
    wrong = {**STRUT, "tie_inner": (-127, 937, 253)}
    wheel = wheels_of(record(Entered("front.layout", choice="strut"), *points(names=wrong)), ANGLES)["front.left"]
    assert wheel.corner is None
    assert "'tie' points inward" in wheel.problem
    solid = wheels_of(record(Entered("front.layout", choice="solid_leaf")), ANGLES)["front.left"]
    assert "both wheels move together" in solid.problem


def readings_of_toe():
    """A toe typed as an angle, with what its gauge leaves open."""
    return record(
        Entered("front.layout", choice="strut"),
        Entered("front.left.toe", "angle", {"toe": Typed("24", "min")}),
        template=WHOLE_CAR,
    ).quantities["front.left.toe"]


def test_a_job_says_what_was_not_turned_and_corrects_by_what_was_read():
    entries = (*TIE, *points())
    angles = [
        Entered(f"front.{side}.{name}", "angle", {part: Typed(text, unit)})
        for side in ("left", "right")
        for name, part, text, unit in (("toe", "toe", "6", "min"), ("camber", "value", "-0.8", "deg"))
    ]

    def through(*acts):
        log = [
            Event(f"e{n}", n, "2026-03-01T08:00:00Z", act) for n, act in enumerate((Filled(entries, "t"), *acts), 1)
        ]
        state = derive(log, WHOLE_CAR)
        return align_car(state, readings_now(state, WHOLE_CAR))[1]

    assert "Neither toe nor camber" in through()["front.left"].plan.problem
    wheels = through(*angles)
    planned = wheels["front.left"].planned["Tie rod"]
    assert planned != 0
    assert {one.code for one in look_aligned(wheels)} == {"turns_left"}
    turned = [Turned(f"front.{side}", "Tie rod", planned) for side in ("left", "right")]
    assert look_aligned(through(*angles, *turned)) == []
    read = [Entered("front.left.check_toe", "angle", {"toe": Typed("24", "min")})]
    wheel = through(*angles, *turned, *read)["front.left"]
    step = float(toe_for_rod_change(1.5 / 6, 120.0, "behind"))
    assert wheel.still["Tie rod"] == pytest.approx(-0.3 * DEGREE / step, abs=1.2)
    right = [Entered("front.left.check_toe", "angle", {"toe": Typed("6", "min")})]
    assert look_aligned(through(*angles, *turned, *right)) == []
    (off,) = look_aligned(through(*angles, *turned, *read))
    assert off.code == "angle_off"
    assert "toe is +0.30° from its target" in off.message
    comes_to, open_ = wheel.comes_to["toe"]
    assert abs(comes_to - 0.1 * DEGREE) <= abs(step) / 2
    again = Quantity(0.4 * DEGREE, readings_of_toe().uncertainty)
    assert 2 * again.uncertainty < open_ < 2 * math.hypot(again.uncertainty, 0.12 * abs(comes_to - again.value))
    wide = typed("front.left.within.toe", "30", "min")
    assert look_aligned(through(wide, *angles, *turned, *read)) == [], "a wider range, told, is kept to"
    mended = through(*angles, *turned, *read, Turned("front.left", "Tie rod", wheel.still["Tie rod"]))["front.left"]
    assert mended.still["Tie rod"] == 0


def test_the_sides_may_be_each_on_target_and_still_too_far_apart():
    limits = {"front.apart.toe": Quantity(0.1 * DEGREE), "rear.apart.camber": Quantity(0.2 * DEGREE)}
    left, right = {"toe": 0.30 * DEGREE, "camber": -1.0 * DEGREE}, {"toe": 0.15 * DEGREE, "camber": -1.2 * DEGREE}
    assert [(one.axle, one.name) for one in sides_apart(limits, {"front.left": left, "rear.left": left})] == []
    both = {f"{axle}.{side}": read for axle in ("front", "rear") for side, read in (("left", left), ("right", right))}
    front, rear = sides_apart(limits, both)
    assert (front.inside, rear.inside) == (False, True), "exactly at the limit is inside"
    assert front.difference == pytest.approx(0.15 * DEGREE)
    (found,) = look_aligned({}, [front, rear])
    assert (found.code, found.message) == (
        "sides_apart",
        "Front toe: left and right are 0.15° apart; at most 0.10° is wanted.",
    )


def test_three_schools_of_one_new_part_plan_the_same_length_and_agree_with_the_transfer():
    """Referee: the published transfer of counted turns; a new rod of another end and another thread."""
    kept = [Entered("front.layout", choice="strut"), *points(), Entered("front.left.tie.adjust", choice="one_thread")]
    kept += [typed("front.left.tie.swap_per_turn", "2", "pitch_mm"), typed("front.left.tie.engagement", "15")]
    kept += [typed("front.height_change", "-25"), Entered("front.left.tie.step", choice="flat")]

    def mm(**numbers):
        units = {"turns": "turn", "pitch": "pitch_mm"}
        return {name: Typed(str(value), units.get(name, "mm")) for name, value in numbers.items()}

    schools = {
        "beside": mm(difference=27),
        "lengths": mm(old=339, new=366),
        "counted": mm(turns=14, pitch=1.5, old_end=60, new_end=66),
    }
    plans, wheels = {}, {}
    for school, typed_in in schools.items():
        told = record(*kept, Entered("front.left.tie.swap", school, typed_in), template=WHOLE_CAR)
        wheels[school] = wheels_of(told, ANGLES)["front.left"]
        plans[school] = plan_car({"front.left": wheels[school]}, None, 200).wheels["front.left"]
    plain = plan_car({"front.left": wheels_of(record(*kept), ANGLES)["front.left"]}, None, 0).wheels["front.left"]
    for one in plans.values():
        assert one.plan.changes[0] == pytest.approx(plain.plan.exact[0], abs=2 / 6 / 2), "the length the car wants"
        assert one.plan.changes[0] == pytest.approx(27 + 2 * one.plan.set_turns[0]), "from where the new rod lies"
    rod = wheels["counted"].adjusters[0]
    as_old = transfer_turns(RodEnd(1.5, 60.0, 300.0), 14.0, RodEnd(2.0, 66.0, 300.0), 15.0, 1 / 6)
    assert -rod.turns_to(0.0) == pytest.approx(as_old.turns_on)
    assert rod.high == 27 - 15, "never less than 15 mm of thread"
    assert wheels["beside"].adjusters[0].doubt == pytest.approx(1 / math.sqrt(3))
    long = record(
        *kept, Entered("front.left.tie.swap", "counted", {**schools["counted"], **mm(new_end=5)}), template=WHOLE_CAR
    )
    short = plan_car({"front.left": wheels_of(long, ANGLES)["front.left"]}, None, 0).wheels["front.left"]
    assert short.plan.limited_by == ("Tie rod",), "a new end that is too short ends at its thread"


def test_the_front_follows_the_thrust_line_the_rear_leaves():
    rear = [Entered("rear.layout", choice="strut"), *points("rear")]
    read = {**ANGLES, "rear.left.toe": Quantity(0.3 * DEGREE), "rear.right.toe": Quantity(-0.1 * DEGREE)}
    fixed = wheels_of(record(*TIE, *points(), *rear, Entered("rear.steer", choice="behind")), read)
    plan = plan_car(fixed, 15.0, 0)
    assert math.degrees(plan.axles["rear"].toe.thrust) == pytest.approx(0.2), (
        "nothing to turn at the rear: as it stands"
    )
    turnable = [Entered(f"rear.{side}.tie.adjust", choice="slot") for side in ("left", "right")]
    plan = plan_car(wheels_of(record(*TIE, *points(), *rear, *turnable), read), 15.0, 0)
    thrust = plan.axles["rear"].toe.thrust
    assert math.degrees(thrust) == pytest.approx(0.2, abs=0.03)
    stood = 0.2 * DEGREE
    assert plan.wheels["front.left"].targets["toe"] == pytest.approx(0.1 * DEGREE + thrust - stood), "as it was read"
    wanted = [
        Entered(f"front.{side}.target.toe", "typed", {"value": Typed("0.1", "deg")}) for side in ("left", "right")
    ]
    told = plan_car(wheels_of(record(*TIE, *points(), *rear, *turnable, *wanted), read), 15.0, 0)
    assert told.wheels["front.left"].targets["toe"] == pytest.approx(0.1 * DEGREE + thrust)
    assert told.wheels["front.right"].targets["toe"] == pytest.approx(0.1 * DEGREE - thrust)
    assert math.degrees(told.axles["front"].toe.steering_wheel) == pytest.approx(0.0, abs=15 * 0.08)
