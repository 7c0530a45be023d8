"""The robot tuner on six practice cars: what it leaves beside what steps and gauges leave, and the stated bands."""

import numpy as np
import pytest

from fair_spindle.examiner.desk import open_desk
from fair_spindle.examiner.ends import examine_ends
from fair_spindle.examiner.robot import Robot


def rms(rows):
    return np.sqrt(np.mean(np.concatenate(rows) ** 2, axis=0))


def test_the_robot_leaves_little_more_than_steps_and_gauges_and_the_stated_bands_hold(tmp_path):
    with open_desk(tmp_path) as desk:
        cars = [(layout, seed) for layout in ("strut", "double_wishbone", "five_link") for seed in (1, 2)]
        robots = [Robot(desk, seed, layout) for layout, seed in cars]
        found = [robot.work(samples=120) for robot in robots]
        told = desk.get(f"{robots[-1].path}/practice/debrief", give_up=True)
        truth = [round(row["truth"], 9) for row in told["rows"] if row["what"] in ("toe", "camber", "height")]
        assert sorted(truth) == sorted(round(one, 9) for one in robots[-1].truth().values()), "as the debrief says"
    angles = ("corrected", "floor", "best", "untouched", "planned")
    left, floor, best, untouched, planned = (rms([np.array(getattr(one, name)) for one in found]) for name in angles)
    assert left == pytest.approx(floor, rel=0.4)
    assert (left <= 1.25 * np.maximum(floor, best)).all(), "and what the same readings leave at the best, of six cars"
    assert (planned < untouched / 3).all(), "turns planned before the rack bring it most of the way"
    assert (left < planned * 1.05).all(), "and reading again brings the rest"
    heights = ("heights", "by_length", "by_record")
    foreseen, by_length, by_record = (rms([getattr(one, name) for one in found]) for name in heights)
    assert foreseen < min(4, by_length / 5)
    assert foreseen <= 1.1 * by_record, "the bay's own energy, by the record"
    for name in ("height", "toe", "camber"):
        assert np.mean([hit for one in found for hit in one.bands[name]]) >= 0.85, name
    before, after = (np.sqrt(np.mean([one.steering[n] ** 2 for one in found])) for n in (0, 1))
    assert after <= before, "the steering wheel"


def test_the_count_told_for_a_new_end_keeps_the_toe_where_plain_counting_loses_it(tmp_path):
    with open_desk(tmp_path) as desk:
        found = examine_ends(desk, 6)
    assert found["told"] < 0.3
    assert found["told"] < found["plain"] / 4
    assert found["told"] < found["length"]
    assert found["held"] >= 0.8
