"""Kinds of log: a car's record, a job, and jobs begun before 0.2, each with the plan it began with."""

from __future__ import annotations

import tomllib
from dataclasses import field, replace
from functools import cache
from importlib.resources import files

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.joblog.kinds import CAR, WORK, JobTemplate
from fair_spindle.core.joblog.log import Entered, Filled, Planned
from fair_spindle.core.joblog.plain import build
from fair_spindle.core.planning.procedure import Brief, Measured
from fair_spindle.core.planning.template import Step
from fair_spindle.formats.acts import model_of


@value_object
class FirstPlan:
    """What a job of before 0.2 began with: steps and joints, what it moves and measures, how fields were called."""

    key: str
    title: str
    steps: tuple[Step, ...]
    joints: tuple[Joint, ...] = ()
    changes: tuple[Measured, ...] = ()
    measured: tuple[str, ...] = ()
    choices: dict[str, str] = field(default_factory=dict)
    renames: dict[str, tuple[str, ...]] = field(default_factory=dict)

    def kind(self) -> JobTemplate:
        """The kind of job, with all that before its first line."""
        plan = Planned(Brief(()), self.steps, self.joints, changes=self.changes, measured=self.measured)
        told = tuple(Entered(key, choice=choice) for key, choice in self.choices.items())
        opening = (Filled(told, self.title), plan) if told else (plan,)
        return replace(WORK, key=self.key, title=self.title, opening=opening, renames=self.renames)


@cache
def kinds() -> dict[str, JobTemplate]:
    """Every kind of log by its key."""
    folder = files("fair_spindle.procedures") / "before_0_2"
    read = (tomllib.loads(file.read_text()) for file in folder.iterdir() if file.name.endswith(".toml"))
    plans = [build(FirstPlan, model_of(FirstPlan).model_validate(one).model_dump()) for one in read]
    return {kind.key: kind for kind in (CAR, WORK, *(plan.kind() for plan in plans))}


def find_kind(key: str) -> JobTemplate:
    """The kind of that key."""
    if key not in kinds():
        raise NotFound(f"Unknown kind of job {key!r}.", field="job/template")
    return kinds()[key]
