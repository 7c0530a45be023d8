"""The robot tuner on eight practice cars: what it leaves beside what steps and gauges leave, and the stated bands."""

import numpy as np
import pytest

from fair_spindle.examiner.desk import open_desk
from fair_spindle.examiner.ends import examine_ends
from fair_spindle.examiner.robot import Robot


@pytest.fixture(scope="module")
def outcomes(tmp_path_factory):
    with open_desk(tmp_path_factory.mktemp("blind")) as desk:
        cars = [("strut", 1), ("strut", 2), ("strut", 3), ("double_wishbone", 1), ("double_wishbone", 2)]
        cars += [("double_wishbone", 3), ("five_link", 1), ("five_link", 2)]
        robots = [Robot(desk, seed, layout) for layout, seed in cars]
        found = [robot.work(samples=120) for robot in robots]
        told = desk.get(f"{robots[-1].path}/practice/debrief", give_up=True)
        truth = [round(row["truth"], 9) for row in told["rows"] if row["what"] in ("toe", "camber", "height")]
        assert sorted(truth) == sorted(round(one, 9) for one in robots[-1].truth().values()), "as the debrief says"
        return found


def rms(rows):
    return np.sqrt(np.mean(np.concatenate(rows) ** 2, axis=0))


def test_one_correction_leaves_little_more_than_steps_and_gauges(outcomes):
    left = rms([np.array(one.corrected) for one in outcomes])
    floor = rms([np.array(one.floor) for one in outcomes])
    assert left == pytest.approx(floor, rel=0.4)
    best = rms([np.array(one.best) for one in outcomes])
    assert (left <= 1.15 * np.maximum(floor, best)).all(), "and what the same readings leave at the best"
    untouched = rms([np.array(one.untouched) for one in outcomes])
    planned = rms([np.array(one.planned) for one in outcomes])
    assert (planned < untouched / 3).all(), "turns planned before the rack bring it most of the way"
    assert (left < planned * 1.05).all(), "and reading again brings the rest"


def test_the_height_is_foreseen_far_better_than_by_spring_length(outcomes):
    foreseen = rms([np.array(one.heights) for one in outcomes])
    assert foreseen < 4
    assert foreseen < rms([np.array(one.by_length) for one in outcomes]) / 5
    assert foreseen <= 1.1 * rms([np.array(one.by_record) for one in outcomes]), "the bay's own energy, by the record"


def test_stated_bands_hold_the_truth(outcomes):
    for name in ("height", "toe", "camber"):
        hits = [hit for one in outcomes for hit in one.bands[name]]
        assert np.mean(hits) >= 0.85, name


def test_the_steering_wheel_is_no_further_off_than_before_the_job(outcomes):
    before, after = (np.sqrt(np.mean([one.steering[n] ** 2 for one in outcomes])) for n in (0, 1))
    assert after <= before


def test_the_count_told_for_a_new_end_keeps_the_toe_where_plain_counting_loses_it(tmp_path):
    with open_desk(tmp_path) as desk:
        found = examine_ends(desk, 6)
    assert found["told"] < 0.3
    assert found["told"] < found["plain"] / 4
    assert found["told"] < found["length"]
    assert found["held"] >= 0.8
