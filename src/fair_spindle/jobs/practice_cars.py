"""The car of a practice job: which exercise it is, its truth, and how it stands after the lines of the log."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.fields.catalogue import sheet_for
from fair_spindle.core.fields.shape import shape_of
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.log import Entered
from fair_spindle.core.joblog.plain import build
from fair_spindle.core.joblog.readings import read_all
from fair_spindle.core.joblog.reducer import effective
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.practice.car import TrueCar
from fair_spindle.practice.drawn import draw_car
from fair_spindle.practice.exercises import OWN_CAR, Exercise, find_exercise, own_exercise
from fair_spindle.practice.own_car import copy_car
from fair_spindle.practice.world import World, world_of


@lru_cache(maxsize=16)
def truth_of(mark: str) -> TrueCar:
    """What is true of the car of a practice job, by the mark that the job keeps."""
    told = json.loads(mark)
    if told["exercise"] != OWN_CAR:
        return draw_car(find_exercise(told["exercise"]), told["seed"], told["layouts"])
    entries = [build(Entered, act) for act in told["record"]]
    choices = {act.key: act.choice for act in entries if act.choice}
    record, words = read_all({act.key: act for act in entries}, sheet_for(CAR.key, shape_of(choices)))
    return copy_car(entries, record, words, told["seed"])


def exercise_of(told: Mapping[str, Any]) -> Exercise:
    """The exercise that a mark tells."""
    if told["exercise"] == OWN_CAR:
        return own_exercise(told["car_name"], told["work"])
    return find_exercise(told["exercise"])


def marked(now: Standing) -> tuple[Exercise, int, bool]:
    """A practice job's exercise, its seed, and whether the rules only watch; NotFound where it is none."""
    if not now.book.practice:
        raise NotFound("This is no practice job.", field="job_id")
    mark = json.loads(now.book.practice)
    return exercise_of(mark), mark["seed"], mark["bare"]


def world_now(now: Standing) -> World:
    """The car as the log left it."""
    marked(now)
    return world_of(truth_of(now.book.practice), effective(now.log))
