"""A car nobody knows: the whole truth of a practice car, and the middling numbers it lies about."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

import numpy as np

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.joblog.log import Entered
from fair_spindle.practice.body import Helper
from fair_spindle.practice.layouts import TOE_LINKS
from fair_spindle.practice.linkage import Upright
from fair_spindle.practice.steered import Steering

DEGREE = np.pi / 180
STEERING_RATIO = 15.0
TRACK, UNSPRUNG, PITCH, END_TURNS = 1500.0, 400.0, 1.5, 22.5
# Rise of a ring a turn, and the field of the cross weight that is wanted.
RING, CROSS = 1.5, "car.target_cross"
OLD, NEW = (32.0, 380.0), (48.0, 316.0)
BAR = {"front": 12.0, "rear": 6.0}
RUBBER = 2.5
WANTED = {"toe": 0.1, "camber": -1.2}
# How the record's numbers were got, one standard deviation: points by tape [mm], rates [share], free lengths [mm].
WRENCH_SPREAD = 0.025
TAPE, RATE_SPREAD, FREE_SPREAD, RATIO_SPREAD, LOAD_SPREAD = 1.15, 0.02, 1.0, 0.01, 0.004


@value_object
class Corner:
    """One wheel and its leg as they truly are: loads [N], springs [N/mm, mm], height of the arch [mm].

    ``helper`` stands under the new spring, whose free length counts both; ``play`` is what a worn rod end lets the
    toe wander either way. [rad]  ``bends`` are how a strut's spring is pressed beside its ratio, as in a ``Leg``.
    """

    wheel: Upright
    sprung: float
    old: tuple[float, float]
    new: tuple[float, float]
    ratio: float
    arch: float
    end_turns: float
    helper: Helper | None = None
    play: float = 0.0
    bends: tuple[float, float] = (0.0, 0.0)


@value_object
class TrueCar:
    """The whole truth of an exercise, and what the record believes, as entries.

    ``goals`` are heights [mm] and cross weight [%] that are wanted, by field key; ``shackle_stop`` is the lean at
    which a shackle meets its bracket [rad], 0 where none does; ``tyre`` is the rate of all four [N/mm], 0 rigid;
    ``wrench`` the share by which the bay's wrench gives more than it shows; ``string`` how far the left string turns
    in from parallel [rad]; ``steering`` that of a solid front axle, whose rods are turned under the axle's name,
    ``steering_ratio`` turn of the steering wheel per turn of the wheels.
    """

    corners: dict[str, Corner]
    record: tuple[Entered, ...]
    bar_gap: Mapping[str, float] = field(default_factory=dict)
    clamped_at: Mapping[str, float] = field(default_factory=dict)
    friction: float = 0.0
    floor: float = 0.0
    camber_bias: float = 0.0
    new_end: float = 0.0
    goals: Mapping[str, float] = field(default_factory=dict)
    shackle_stop: float = 0.0
    tyre: float = 0.0
    wrench: float = 0.0
    string: float = 0.0
    steering: Steering | None = None
    steering_ratio: float = STEERING_RATIO

    def rod_step(self, wheel: str, adjuster: str) -> tuple[str, float]:
        """Which length an adjuster of a name changes, and by how much a step. [mm]"""
        which = "rod" if adjuster in TOE_LINKS else "other"
        return which, step_of(self.corners[wheel].wheel.layout if wheel in self.corners else "", which)


def step_of(layout: str, which: str) -> float:
    """A step of the ``rod``, or of the ``other`` adjuster: a flat, half a millimetre at a strut's top. [mm]"""
    return 0.5 if (layout, which) == ("strut", "other") else PITCH / 6


def wrench_of(seed: int) -> float:
    """The share by which the wrench in the bay gives more than it shows, one of its own for each car."""
    return float(WRENCH_SPREAD * np.random.default_rng([seed, 77]).normal())
