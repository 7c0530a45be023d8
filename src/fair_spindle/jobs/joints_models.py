"""What the interface is shown of joints: maps, where each place stands, what comes next."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.formats.acts import Strict, Text, model_of
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import TypedView, View

if TYPE_CHECKING:
    JointModel = Strict
    TypedModel = Strict
else:
    JointModel = model_of(Joint)
    TypedModel = model_of(Typed)


class BoltView(View):
    """A place of a joint: what it is, where it stands, what is wrong about it.

    ``reached`` are the stages it has come as far as, ``then`` the one it can be brought to next.
    """

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
    stage: str
    reached: list[str]
    then: str
    said: str
    final: bool
    doubts: list[str]
    strain: str


class NextView(View):
    """What comes next: the stage, the place, the pass, what to set on the wrench.

    ``alike`` are all places that may be brought there now in one go, ``specified`` the reading where each clicks at
    its value.
    """

    to: str
    said: str
    number: int | None
    percent: int
    alike: list[int] = Field(default_factory=list)
    specified: TypedView | None = None
    set_nm: float | None
    set_said: str
    angle_deg: float


class RedoView(View):
    """A bolt that was clamped off height, and how far it has been put right."""

    number: int
    said: str
    steps: list[str]


class ChangePlaces(Strict):
    """What is changed at some places of a joint; what is left out stays as it is at each of them.

    ``other_side`` changes the same joint at the other side too, where it is not worked on differently.
    """

    id: Identity
    seen: Annotated[int, Field(ge=0, le=1_000_000)]
    joint: Text
    places: Annotated[list[int], Field(min_length=1, max_length=60)]
    other_side: bool = False
    torque: TypedModel | None = None
    source: Text | None = None
    note: Text | None = None
    head: Text | None = None
    hold: Text | None = None
    diameter_mm: float | None = None
    pitch_mm: float | None = None
    property_class: Literal["", "8.8", "10.9", "12.9"] | None = None
    affirmed: bool | None = None


class JointView(View):
    """A joint with its map; ``map`` is the joint as the log holds it, to be drawn again with changes.

    ``window_usual`` says that the clamp window rests on a middling arm, ``asked`` the fields that would widen it.
    """

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
    window_usual: str
    asked: list[str]
    bolts: list[BoltView]
    done: int
    next: NextView
    redo: list[RedoView]
    swapped: str
    map: JointModel


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
