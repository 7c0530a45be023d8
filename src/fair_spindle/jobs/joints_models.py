"""What the interface is shown of joints: maps, where each place stands, what comes next."""

from __future__ import annotations

from typing import Any

from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import View


class BoltView(View):
    """A place of a joint: what it is, where it stands, what is wrong about it."""

    number: int
    x_mm: float
    y_mm: float
    note: str
    thread: str
    drive: str
    hold: str
    spec: str
    source: str
    trust: str
    condition: str
    single_use: bool
    lock: str
    slots: int
    angle_deg: float
    reach: str
    stages: list[str]
    stage: str
    said: str
    final: bool
    doubts: list[str]
    strain: str


class NextView(View):
    """What comes next: the stage, the place, the pass, what to set on the wrench."""

    to: str
    said: str
    number: int | None
    percent: int
    set_nm: float | None
    set_said: str
    angle_deg: float


class RedoView(View):
    """A bolt that was clamped off height, and how far it has been put right."""

    number: int
    said: str
    steps: list[str]


class JointView(View):
    """A joint with its map; ``map`` is the joint as the log holds it, to be drawn again with changes."""

    key: str
    label: str
    role: str
    axle: str
    side: str
    order_said: str
    order: list[int]
    passes_pct: list[int]
    waits_for_load: bool
    gate_open: bool
    gate: str
    height_mm: float | None
    window_mm: list[float]
    bolts: list[BoltView]
    done: int
    next: NextView
    redo: list[RedoView]
    swapped: str
    map: dict[str, Any]


class JointsView(View):
    """Every joint of a job or of a car's record."""

    joints: list[JointView]
    overrides: list[str]
    recheck: list[str]


class KeepJoint(Strict):
    """Keep a joint's map in the car's record."""

    id: Identity
    joint: Text


class LaidOutView(View):
    """Places of a ready pattern."""

    places: list[list[float]]
