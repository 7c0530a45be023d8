"""What is fitted, learned and explained after the work, against closed forms and scipy's least squares."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from scipy.optimize import least_squares, minimize_scalar
from scipy.stats import norm

from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.geometry.corner import make_corner
from fair_spindle.core.geometry.kinematics import angles_at, solve_poses, wheel_angles
from fair_spindle.core.geometry.usual_corners import usual_corner
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict import aligned
from fair_spindle.core.predict.adjusters import _along
from fair_spindle.core.predict.evidence import weigh_evidence
from fair_spindle.core.predict.height_model import HeightModel
from fair_spindle.core.predict.linkage_fit import (
    Row,
    fit_axle,
    fit_linkage,
    moved,
    points_of,
    prior_cloud,
    rows_at,
    worth_of,
)
from fair_spindle.core.predict.motion_ratio import ratio_by_points
from fair_spindle.core.predict.population import side_cloud
from fair_spindle.core.predict.turn_effect import learned, went_against
from fair_spindle.core.predict.turning import aim_of, thrust_as_read
from fair_spindle.core.review.before_and_after import Beside
from fair_spindle.core.review.height_causes import CAUSES, _step, explain_heights
from fair_spindle.core.review.height_lessons import learn
from fair_spindle.core.review.toe_lessons import learn_toe
from fair_spindle.core.review.toe_readings import ToeRead, ToeStory

STRUT = usual_corner("strut")


POINTS = points_of(STRUT)


CLOUD = prior_cloud(POINTS, [1.5] * len(POINTS), 5e-4, 1e-3)


def seen(offsets, rows):
    """What each row reads on a linkage moved by offsets."""
    corner = moved(STRUT, POINTS, offsets)
    found = []
    for row in rows:
        link = next((link for link in corner.links if link.name == row.kind), None)
        if link:
            found.append(np.linalg.norm(np.subtract(link.outer, link.inner)))
        else:
            found.append(float(getattr(wheel_angles(corner, solve_poses(corner, [row.travel])), row.kind)[0]))
    return np.array(found)


def rows_of(truth):
    asked = [
        Row("toe, bump", "toe", 30.0, 0.0, 4e-4),
        Row("toe, droop", "toe", -35.0, 0.0, 4e-4),
        Row("camber, bump", "camber", 30.0, 0.0, 1e-3),
        Row("camber, droop", "camber", -35.0, 0.0, 1e-3),
        Row("rod", "tie", 0.0, 0.0, 0.5),
    ]
    return [replace(row, value=value) for row, value in zip(asked, seen(truth, asked), strict=True)]


def offsets_of(corner):
    points = [np.subtract(corner.points[name], STRUT.points[name]) for name in POINTS]
    return np.concatenate([*points, [corner.toe - STRUT.toe, corner.camber - STRUT.camber]])


@pytest.mark.referee
def test_a_linkage_fitted_to_readings_is_the_least_squares_of_points_and_readings():
    rng = np.random.default_rng(3)
    sizes = np.diag(CLOUD.matrix)
    rows = rows_of(sizes * rng.normal(size=len(sizes)))
    read, noise = np.array([row.value for row in rows]), np.array([row.uncertainty for row in rows])
    best = least_squares(lambda z: np.concatenate([z, (seen(sizes * z, rows) - read) / noise]), np.zeros(len(sizes)))
    fitted = fit_linkage(STRUT, CLOUD, rows)
    assert fitted.doubts == ()
    assert offsets_of(fitted.corner) / sizes == pytest.approx(best.x, abs=2e-3)
    # The new cloud is the inverse of the curvature at the best.
    matrix = fitted.cloud.matrix / sizes[:, None]
    assert matrix @ matrix.T == pytest.approx(np.linalg.inv(best.jac.T @ best.jac), abs=2e-3)


@pytest.mark.referee
def test_what_a_reading_is_worth_is_what_the_angle_is_surer_by_once_it_is_read():
    rows = rows_of(np.zeros(len(CLOUD.matrix)))[:4:2]
    asked = [Row("", kind, 25.0, 0.0, 1.0) for kind in ("toe", "camber")]
    steps = np.diag(np.concatenate([np.full(len(CLOUD.matrix) - 2, 0.2), [1e-4, 1e-4]]))
    slopes = np.array([(seen(step, asked) - seen(-step, asked)) / (2 * step.max()) for step in steps]).T
    told = worth_of(STRUT, CLOUD, rows, asked)
    later = fit_linkage(STRUT, CLOUD, rows).cloud.matrix
    for n in range(len(asked)):
        known = [2 * np.linalg.norm(slopes[n] @ matrix) for matrix in (CLOUD.matrix, later)]
        assert [at[n] for at in told] == pytest.approx(known, rel=1e-3)
        assert told[1][n] < told[0][n]


def test_a_reading_that_cannot_be_is_left_out_and_named_with_its_sign():
    rows = rows_of(np.zeros(len(CLOUD.matrix)))
    wrong = [replace(row, value=row.value + 0.03 * (row.name == "toe, bump")) for row in rows]
    fitted = fit_linkage(STRUT, CLOUD, wrong)
    assert [name for name, _ in fitted.doubts] == ["toe, bump"]
    assert fitted.doubts[0][1] > 4
    assert offsets_of(fitted.corner) == pytest.approx(0.0, abs=1e-6)


# Four wheels, three inputs of the car: what a unit of each does to each wheel's height.
LINEAR = np.array([[40.0, 0.0, -0.010], [40.0, 0.0, 0.002], [0.0, 60.0, 0.001], [0.0, 60.0, 0.0]])


KEYS = ("front.motion_ratio", "rear.motion_ratio", "front.left.load")


INPUTS = {KEYS[0]: Quantity(0.95, 0.03), KEYS[1]: Quantity(0.8, 0.02), KEYS[2]: Quantity(3500.0, 60.0)}


FALL = np.array([-30.0, -30.0, -25.0, -25.0])


WHEELS = ("front.left", "front.right", "rear.left", "rear.right")


def linear(values):
    rows = max((np.size(value) for value in values.values()), default=1)
    off = np.stack([np.broadcast_to(values.get(key, INPUTS[key].value), rows) - INPUTS[key].value for key in KEYS], 1)
    return FALL + off @ LINEAR.T


MODEL = HeightModel(WHEELS, INPUTS, linear)


@pytest.mark.referee
def test_heights_teach_what_bayes_says_of_a_linear_car():
    off = np.array([2.0, 1.0, -3.0, -2.5])
    before = {key: Quantity(360.0, 1.0) for key in WHEELS}
    after = {key: Quantity(360.0 + fall + miss, 0.7) for key, fall, miss in zip(WHEELS, FALL, off, strict=True)}
    sizes = np.array([one.uncertainty for one in INPUTS.values()])
    noise = 1.0**2 + 0.7**2
    covariance = np.linalg.inv(np.diag(sizes**-2.0) + LINEAR.T @ LINEAR / noise)
    wanted = covariance @ LINEAR.T @ off / noise
    found = {one.key: one for one in learn(MODEL, before, after)}
    assert set(found) == {
        key for key, size, left in zip(KEYS, sizes, np.sqrt(np.diag(covariance)), strict=True) if left < 0.97 * size
    }
    for key, by, left in zip(KEYS, wanted, np.sqrt(np.diag(covariance)), strict=True):
        if key in found:
            assert found[key].after - found[key].before == pytest.approx(by, rel=1e-6)
            assert found[key].after_plus_minus == pytest.approx(2 * left, rel=1e-6)


def test_a_miss_of_one_axle_is_explained_by_its_ratio_with_the_amount_that_fits_best():
    before = {key: Quantity(360.0, 1.0) for key in WHEELS}
    misses = [
        Beside(key, "height", before[key], None, 330.0, 2.0, Quantity(330.0 + off, 0.8))
        for key, off in zip(WHEELS, (6.0, 6.0, 0.1, -0.1), strict=True)
    ]
    after = {one.key: one.read for one in misses}
    best = explain_heights(MODEL, before, after, misses)[0]
    assert (best.cause.name, best.key) == ("ratio", KEYS[0])
    weight, column = 1 / (1.0**2 + 0.8**2), np.array([40.0, 40.0, 0.0, 0.0])
    amount = weight * column @ [6.0, 6.0, 0.1, -0.1] / (weight * column @ column + 1 / 0.1**2)
    assert best.amount == pytest.approx(amount)
    assert best.left == pytest.approx(max(abs(6.0 - 40 * amount), 0.1))
    assert explain_heights(MODEL, before, {key: Quantity(330.0, 0.8) for key in WHEELS}, []) == []
    by_share = [one for one in CAUSES if one.name in ("rate", "load")]
    assert {cause.name for cause in by_share} == {"rate", "load"}
    assert all(_step(Quantity(3000, 50), cause) == 2 * _step(Quantity(3000, 25), cause) for cause in by_share)
    for off in ((6.0, 1.0, 0.0, 0.0), (4.0, 2.0, 1.0, 0.0)):
        ups = [replace(one, read=Quantity(330.0 + up, 0.8)) for one, up in zip(misses, off, strict=True)]
        shares = [one.share for one in explain_heights(MODEL, before, {one.key: one.read for one in ups}, ups)]
        assert len(shares) > 1
        assert shares == sorted(shares, reverse=True), "the likeliest first"


@pytest.mark.referee
def test_toe_teaches_bump_steer_lever_and_how_straight_the_wheel_stood_as_least_squares_does():
    lever = Quantity(150.0, 4.0)
    start, slope = Quantity(1e-3, 3e-4), Quantity(-4e-5, 1.5e-5)
    reads = (
        ToeRead(1, Quantity(2.4e-3, 3e-4), 32.0, 1.0, 2.0e-3, 3.0e-3),
        ToeRead(2, Quantity(-1.0e-3, 3e-4), -25.0, 1.0, -1.5e-3, 0.0),
    )
    other = ToeRead(1, Quantity(3.0e-4, 3e-4), 30.0, 1.0, -6e-4, 0.0)
    stories = [
        ToeStory("front.left", start, slope, lever, 2e-4, reads),
        ToeStory("front.right", Quantity(5e-4, 3e-4), slope, None, 0.0, (other,)),
    ]
    steered = 6e-4

    def residuals(z):
        left, right, slopes, long, fit, straight = z[0], z[1], z[2:4], z[4], z[5], z[6:9]
        found = [*(z / 1.0)]
        for side, (story, start, slope) in enumerate(zip(stories, (left, right), slopes, strict=True)):
            for read in story.reads:
                toe = story.start.value + 3e-4 * start + read.expected + 1.5e-5 * slope * read.travel
                if story.lever:
                    toe += (150.0 / (150.0 + 4.0 * long) - 1) * read.by_rod + 2e-4 * fit
                turned = steered * (straight[read.walk] - straight[0])
                toe += turned * (1 if side else -1)
                noise = math.hypot(read.toe.uncertainty, story.slope.value * read.travel_open, 1e-5)
                found.append((read.toe.value - toe) / noise)
        return np.array(found)

    best = least_squares(residuals, np.zeros(9), xtol=1e-14, ftol=1e-14)
    left = np.sqrt(np.diag(np.linalg.inv(best.jac.T @ best.jac)))
    found = {one.key: one for one in learn_toe(stories, steered)}
    asked = ("front.left.bump_slope", 2, -4e-5, 1.5e-5), ("front.right.bump_slope", 3, -4e-5, 1.5e-5)
    for key, n, at, size in (*asked, ("front.left.tie.lever", 4, 150.0, 4.0)):
        if left[n] < 0.965:
            assert found[key].after == pytest.approx(at + size * best.x[n], rel=1e-3)
            assert found[key].after_plus_minus == pytest.approx(2 * size * left[n], rel=1e-2)
    assert {"front.left.bump_slope", "front.right.bump_slope"} <= set(found)


@pytest.mark.referee
def test_a_struts_ratio_is_its_shortening_over_the_wheels_rise():
    ratio, _ = ratio_by_points(STRUT)
    up, down = (np.linalg.norm(np.subtract(STRUT.points["strut_top"], low)) for low in _strut_foot([1.0, -1.0]))
    assert ratio == pytest.approx((down - up) / 2, rel=1e-3)


def _strut_foot(travels):
    poses = solve_poses(STRUT, travels)
    return [
        centre + turn @ (STRUT.point("strut_low") - STRUT.wheel)
        for centre, turn in zip(poses.wheel, poses.rotation, strict=True)
    ]


@pytest.mark.referee
def test_a_spring_on_a_lower_arm_goes_where_a_rigid_arm_takes_it():
    """Referee: the spring's foot keeps its distances to both pivots and the ball joint, by scipy."""
    corner = usual_corner("double_wishbone")
    top, foot = np.array([20.0, 520.0, 640.0]), np.array([15.0, 590.0, 215.0])
    pivots = [corner.point(name) for name in ("lower_front", "lower_rear")]
    apart = [np.linalg.norm(foot - at) for at in (*pivots, corner.point("lower_ball"))]
    lengths = []
    poses = solve_poses(corner, [-20.0, 20.0])
    for centre, turn in zip(poses.wheel, poses.rotation, strict=True):
        ends = (*pivots, centre + turn @ (corner.point("lower_ball") - corner.wheel))

        def apart_now(x, ends=ends):
            return [np.linalg.norm(x - end) - far for end, far in zip(ends, apart, strict=True)]

        lengths.append(np.linalg.norm(top - least_squares(apart_now, foot).x))
    ratio, _ = ratio_by_points(corner, (top, foot))
    assert ratio == pytest.approx((lengths[0] - lengths[1]) / 40, abs=1e-6)


@pytest.mark.referee
def test_an_arm_made_longer_moves_its_ball_joint_straight_out_from_its_axis():
    """Referee: the nearest point of the pivot axis by scipy, the legs' growth by central differences."""
    front, rear, ball = (STRUT.point(name) for name in ("lower_front", "lower_rear", "lower_ball"))
    foot = minimize_scalar(lambda t: np.sum((front + t * (rear - front) - ball) ** 2)).x
    out = ball - (front + foot * (rear - front))
    out /= np.linalg.norm(out)
    grown = dict(_along(STRUT, ["lower_front", "lower_rear"]))
    for leg, pivot in (("lower_front", front), ("lower_rear", rear)):
        by_hand = (np.linalg.norm(ball + out - pivot) - np.linalg.norm(ball - out - pivot)) / 2
        assert grown[leg] == pytest.approx(by_hand, abs=1e-5)


@pytest.mark.referee
def test_an_axle_is_fitted_as_one_where_both_sides_share_what_they_rest_on():
    """Referee: scipy's least squares over the normals behind both clouds; what is read at the left teaches the
    right."""
    rng = np.random.default_rng(5)
    flip = np.array([1.0, -1.0, 1.0])
    right = make_corner(
        "strut", "right", 0.0, 0.0, {name: tuple(np.array(at) * flip) for name, at in STRUT.points.items()}
    )
    shared = 4 * rng.normal(size=(3 * len(POINTS), 6))
    clouds = [
        side_cloud(side, POINTS, [("both", part)], [0.6] * len(POINTS), (5e-4, 1e-3))
        for side, part in (("left", shared), ("right", shared * np.tile(flip, len(POINTS))[:, None]))
    ]
    rows = [
        [Row("left bump steer", "toe_slope", 0.0, 4e-5, 1e-5), Row("left rod", "tie", 0.0, 349.0, 0.8)],
        [Row("right caster", "caster", 0.0, 0.06, 3e-3)],
    ]
    fitted = fit_axle([STRUT, right], clouds, rows)
    names = dict.fromkeys(name for cloud in clouds for name, _ in cloud.sources)
    widths = {name: width for cloud in clouds for name, width in cloud.sources}
    ends = np.cumsum([widths[name] for name in names])[:-1]

    def read(normals):
        parts = dict(zip(names, np.split(normals, ends), strict=True))
        off = []
        for corner, cloud, own in zip((STRUT, right), clouds, rows, strict=True):
            scatter, toe, camber = cloud.offsets({name: part[None] for name, part in parts.items()})
            offsets = np.concatenate([*(scatter[name][0] for name in POINTS), toe, camber])
            at = moved(corner, POINTS, offsets)
            angles = angles_at(at, [0.0])
            for row in own:
                link = next((link for link in at.links if link.name == row.kind), None)
                value = math.dist(link.outer, link.inner) if link else float(getattr(angles, row.kind)[0])
                off.append((value - row.value) / row.uncertainty)
        return np.array(off)

    best = least_squares(lambda normals: np.concatenate([normals, read(normals)]), np.zeros(sum(widths.values())))
    parts = {name: part[None] for name, part in zip(names, np.split(best.x, ends), strict=True)}
    curved = np.linalg.inv(best.jac.T @ best.jac)
    for corner, cloud, fit in zip((STRUT, right), clouds, fitted, strict=True):
        scatter = cloud.offsets(parts)[0]
        for name in POINTS:
            assert np.subtract(fit.corner.points[name], corner.points[name]) == pytest.approx(
                scatter[name][0], abs=0.02
            )
        whole = np.zeros((len(cloud.matrix), len(best.x)))
        column = 0
        starts = dict(zip(names, [0, *ends], strict=True))
        for name, width in cloud.sources:
            whole[:, starts[name] : starts[name] + width] = cloud.matrix[:, column : column + width]
            column += width
        after = fit.cloud.matrix @ fit.cloud.matrix.T
        assert after == pytest.approx(whole @ curved @ whole.T, abs=0.03)
    alone = fit_linkage(right, clouds[1], rows[1])
    assert np.linalg.norm(fitted[1].cloud.matrix) < np.linalg.norm(alone.cloud.matrix)


@pytest.mark.parametrize("count", [1, 5])
def test_of_many_readings_the_worst_may_stray_further_before_it_is_doubted(count):
    """Normal quantiles of a chance shared by all of them (Šidák's bound, to first order), by scipy."""
    rows = rows_of(np.zeros(len(CLOUD.matrix)))[-1:]
    rows = [replace(rows[0], name=f"rod {n}", uncertainty=50.0) for n in range(count)]
    bound = norm.isf(norm.sf(2.5) / count)
    for share, doubted in ((0.97, False), (1.03, True)):
        # So unsure a reading leaves the rod where it was drawn: it misses by all that it is off.
        off = share * bound * 50.0
        wrong = [replace(rows[0], value=rows[0].value + off), *rows[1:]]
        assert bool(fit_linkage(STRUT, CLOUD, wrong).doubts) == doubted


@pytest.mark.referee
def test_readings_that_rest_on_several_inputs_move_them_as_bayes_says():
    slopes = np.array([[1.0, 0.5], [1.0, -0.5], [0.0, 2.0], [0.3, 0.1]])
    inputs = {"a": Quantity(3.0, 0.4), "b": Quantity(-1.0, 0.2), "sure": Quantity(9.0)}
    read = {"front.left": Quantity(3.4, 0.3), "rear.left": Quantity(-1.1, 0.1)}

    def rule(values):
        return np.stack([np.asarray(values[key]) for key in ("a", "b")], 1) @ slopes.T + 1.0

    seen = slopes[[0, 2]]
    sizes, noise = np.diag([0.4**-2, 0.2**-2]), np.diag([0.3**-2, 0.1**-2])
    covariance = np.linalg.inv(sizes + seen.T @ noise @ seen)
    off = np.array([3.4, -1.1]) - (seen @ [3.0, -1.0] + 1.0)
    wanted = np.array([3.0, -1.0]) + covariance @ seen.T @ noise @ off
    found = weigh_evidence(inputs, rule, read)
    assert [found.inputs[key].value for key in "ab"] == pytest.approx(wanted)
    assert [found.inputs[key].uncertainty for key in "ab"] == pytest.approx(np.sqrt(np.diag(covariance)))
    assert found.inputs["sure"] == inputs["sure"]
    # Drawn inputs and misreadings follow to the same covariance.
    rng = np.random.default_rng(1)
    drawn = found.follow(rng.normal(size=(40000, 2)) * [0.4, 0.2], rng.normal(size=(40000, 2)) * [0.3, 0.1])
    assert np.cov(drawn.T) == pytest.approx(covariance, abs=3e-3)


def test_the_front_is_aimed_at_the_thrust_line_the_rear_comes_to(monkeypatch):
    toes = {"rear.left": 4e-3, "rear.right": 1e-3, "front.left": 9e-3, "front.right": 0.0}
    wheels = {
        key: SimpleNamespace(key=key, read={"toe": toe}, targets={"toe": 1e-3}, as_read=False)
        for key, toe in toes.items()
    }
    assert thrust_as_read(wheels) == pytest.approx(1.5e-3)
    assert aim_of(wheels["front.left"], 2e-3, 0.5e-3)["toe"] == pytest.approx(3e-3)
    assert aim_of(wheels["front.right"], 2e-3, 0.5e-3)["toe"] == pytest.approx(-1e-3)
    assert aim_of(wheels["rear.left"], 2e-3, 0.5e-3)["toe"] == 1e-3
    wheels["front.left"].as_read = True
    assert aim_of(wheels["front.left"], 2e-3, 0.5e-3)["toe"] == pytest.approx(2.5e-3), (
        "what stood so already is not told twice"
    )

    seen = {}

    def through(aimed, across, state, readings, steered):
        seen.update({wheel.wheel.key: wheel.targets["toe"] for wheel in aimed})
        ends = {"rear.left": 3e-3, "rear.right": -1e-3}
        return [SimpleNamespace(comes_to={"toe": (ends.get(wheel.wheel.key, 0.0), 0.0)}) for wheel in aimed]

    monkeypatch.setattr(aligned, "_through", through)
    monkeypatch.setattr(aligned, "replace", lambda plan, targets: SimpleNamespace(wheel=plan.wheel, targets=targets))
    wheels["front.left"].as_read = False
    axles = {"rear": SimpleNamespace(toe=SimpleNamespace(thrust=7e-3), across=())}
    plan = SimpleNamespace(wheels={key: SimpleNamespace(wheel=wheel) for key, wheel in wheels.items()}, axles=axles)
    found = aligned.follow_plan(plan, JobState(), Readings(Sheet(), {}, {}))
    assert list(found) == list(wheels)
    assert seen["front.left"] == pytest.approx(1e-3 + 2e-3), "the rear as it comes out, not as it was planned"
    assert seen["front.right"] == pytest.approx(1e-3 - 2e-3)


@pytest.mark.referee
def test_a_reading_is_doubted_by_what_all_others_say_of_it():
    """By hand: two readings of one toe that was told to s; the second misses what prior and first make of it by
    (v₂ − v₁ s²/(s² + u₁²)) / √(u₂² + s² u₁²/(s² + u₁²))."""
    own, first, second = 5e-4, 4e-4, 2e-4
    cloud = prior_cloud(POINTS, [1e-3] * len(POINTS), own, 1e-3)
    toe = float(angles_at(STRUT, [0.0], {}).toe[0])
    rows = [Row("one", "toe", 0.0, toe - 3e-4, first), Row("other", "toe", 0.0, toe + 20e-4, second)]
    (worst,) = fit_linkage(STRUT, cloud, rows).doubts[:1]
    expected = -3e-4 * own**2 / (own**2 + first**2)
    open_ = np.sqrt(second**2 + own**2 * first**2 / (own**2 + first**2))
    misses = {"other": (20e-4 - expected) / open_}
    open_ = np.sqrt(first**2 + own**2 * second**2 / (own**2 + second**2))
    misses["one"] = (-3e-4 - 20e-4 * own**2 / (own**2 + second**2)) / open_
    name = max(misses, key=lambda one: abs(misses[one]))
    assert worst == (name, pytest.approx(misses[name], rel=0.02))


def test_what_a_model_of_rigid_links_leaves_out_is_in_every_angle_as_read():
    """0.02° beside the gauge's own and what the height's error makes of the slope."""
    (row,) = rows_at("left", "as found", 0.0, 2.0, iter([("toe", 0.0, 3e-4, 1e-4)]))
    assert row.uncertainty == pytest.approx(np.sqrt(3e-4**2 + np.radians(0.02) ** 2 + (2.0 * 1e-4) ** 2))


@pytest.mark.parametrize(("effect", "against", "taken"), [(-1.0, True, 1.0), (-0.1, False, 1.0), (0.1, False, 1.0)])
def test_a_turn_that_did_next_to_nothing_is_no_effect_neither_way(effect, against, taken):
    """Less than a third of what it should do: something slipped, and the lever is believed as before."""
    read = Quantity(effect, 0.05)
    assert went_against(0.3, read) == against
    assert learned(0.3, read).value == taken
    half = learned(0.3, Quantity(0.5, 0.05)).value
    assert half == pytest.approx((0.5 / 0.05**2 + 1 / 0.3**2) / (1 / 0.05**2 + 1 / 0.3**2)), "by weights, by hand"
