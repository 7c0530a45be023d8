"""What the interface is shown of a job, and what it may send: public models."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fair_spindle.core.planning.template import Position, Side, Stage
from fair_spindle.formats.acts import ActModel, Strict
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import BookView, BySide, LoadsView, Title, TypedView, View, WheelView


class JobCreate(Strict):
    """A new job; the id is chosen by the caller and makes the request repeatable.

    With ``car_id`` the car's record is taken over, and its last baseline to compare with.
    """

    id: Identity
    title: Title
    car: Title
    template: Literal["work", "front_strut", "springs", "align", "measure"] = "front_strut"
    car_id: Identity | None = None


class EventCreate(Strict):
    """A line to add to a job's log.

    ``id`` is the idempotency key; ``seen`` the last line of the log the caller had seen.
    """

    id: Identity
    seen: Annotated[int, Field(ge=0, le=1_000_000)]
    act: ActModel


class ReadRequest(Strict):
    """A filled-in field to be understood without saving it."""

    act: ActModel


class JobLine(View):
    """A job in the list."""

    id: str
    kind: str
    title: str
    car: str
    car_id: str | None
    created_at: str
    last_at: str
    entries: int
    signed: bool


class InputView(View):
    """An input of a computed number, and its share of the ±."""

    key: str
    label: str
    shown: str
    share_pct: float


class NumberView(View):
    """A number with its ± (coverage factor 2) and where it came from."""

    value: float
    plus_minus: float | None = None
    unit: str
    also: str = ""
    rule: str = ""
    inputs: list[InputView] = Field(default_factory=list)


class TurnsView(View):
    """Turns as they are chalked."""

    turns: int
    flats: int
    back: bool
    total_flats: int
    said: str


class WindowView(View):
    """Clamp window in hub-to-arch height [mm]."""

    low: float
    high: float
    about: float
    measured: bool
    today: float | None
    twist_today_deg: float | None


class TurnPlanView(View):
    """Turns for the new tie-rod end."""

    off: TurnsView
    on: TurnsView
    exact: NumberView
    engagement_mm: float
    min_engagement_mm: float
    engagement_ok: bool
    toe_reached: NumberView
    plain: TurnsView
    plain_toe: NumberView
    plain_error: NumberView


class CheckView(View):
    """Measured beside predicted."""

    height: NumberView | None
    height_miss_mm: float | None
    height_explained: bool | None
    toe: NumberView | None
    toe_predicted: NumberView | None
    toe_miss_min: float | None
    toe_explained: bool | None
    toe_in_tolerance: bool | None
    correction: TurnsView | None
    corrected_toe: NumberView | None


class CornerView(View):
    """One corner through the job."""

    height_now: NumberView | None
    height_readings_mm: list[float]
    height_spread_mm: float | None
    height_change: NumberView | None
    height_predicted: NumberView | None
    toe_now: NumberView | None
    toe_target: NumberView | None
    toe_from_height: NumberView | None
    toe_untouched: NumberView | None
    window: WindowView | None
    turns: TurnPlanView | None
    check: CheckView
    missing: dict[str, list[str]]
    problem: str


class StepView(View):
    """One step on the floor."""

    key: str
    title: str
    detail: str
    where: Position
    corner: Side | None
    where_said: str
    tools: list[str]
    cautions: list[str]
    brings: dict[str, Stage]
    frees: list[str]
    asks: str
    sides: list[Side]
    two_people: bool
    axle: Literal["", "front", "rear"]
    phase: int
    joints: list[str]
    goals: dict[str, str]
    why: list[str]
    school: str
    wait_h: list[float]
    reopens: list[str]
    state: Literal["open", "done", "skipped"]
    reason: str
    at: str
    why_not: str


class SpecView(View):
    """A fastener specification as typed, with its source."""

    torque: TypedView
    said: str
    source: str
    diameter_mm: float
    pitch_mm: float
    property_class: str
    affirmed: bool
    doubt: str
    likelier_unit: str | None
    event: str


class PlaceView(View):
    """One numbered fastener in its place."""

    key: str
    number: int
    side: Side
    stage: Stage | None
    reading: str
    by_feel: str
    clamp: str
    overridden: str


class GroupView(View):
    """Fasteners that share a purpose and a specification."""

    key: str
    label: str
    role: str
    tools: str
    orientation: str
    tied: str
    needs_load: BySide[bool]
    spec: SpecView | None
    places: list[PlaceView]


class GateView(View):
    """Whether bonded bolts of a side may be clamped now."""

    open: bool
    reason: str
    height_mm: float | None


class CountsView(View):
    """Turns counted at one side."""

    off: TurnsView
    on: TurnsView
    correct: TurnsView


class FindingView(View):
    """One thing found."""

    code: str
    severity: Literal["blocks", "open", "question", "note"]
    message: str
    subject: str
    ground: str


class NoteView(View):
    """Words written at a step."""

    text: str
    step: str
    at: str


class OverrideView(View):
    """A rule that was overridden; for ever on the record."""

    places: list[str]
    reason: str
    at: str


class SignatureView(View):
    """Who signed, over what, and whether the log is still the same."""

    name: str
    at: str
    digest: str
    intact: bool
    listed: list[str]


class PictureView(View):
    """A picture attached to a step or a field."""

    subject: str
    sha256: str
    name: str
    at: str


class JobView(BookView):
    """Everything about a job as it stands."""

    kind: str
    pages: list[str]
    car_id: str | None
    settled: bool
    walks: dict[str, list[str]]
    missing: dict[str, list[str]]
    before_from: str
    wheels: list[WheelView]
    loads: LoadsView | None
    pictures: list[PictureView]
    position: Position
    corner: Side | None
    carried_axle: str
    position_said: str
    corners: BySide[CornerView]
    gates: BySide[GateView]
    counts: BySide[CountsView]
    steps: list[StepView]
    groups: list[GroupView]
    findings: list[FindingView]
    notes: list[NoteView]
    overrides: list[OverrideView]
    signature: SignatureView | None
