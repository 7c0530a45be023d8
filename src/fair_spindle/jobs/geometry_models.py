"""What the interface is shown of a car's geometry, and what it may try out."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, computed_field

from fair_spindle.formats.acts import Strict, Text
from fair_spindle.jobs.book_models import View

Bounded = Annotated[float, Field(ge=-200, le=200)]


class WhatIf(Strict):
    """Heights and turns to try: body height change by axle [mm], turns by wheel and adjuster."""

    heights_mm: Annotated[dict[Text, Bounded], Field(max_length=2)] = Field(default_factory=dict)
    turns: Annotated[dict[Text, dict[Text, Bounded]], Field(max_length=4)] = Field(default_factory=dict)


class AnglesView(View):
    """Wheel angles; no caster without a steering axis."""

    toe_deg: float
    camber_deg: float
    caster_deg: float | None
    toe_said: str


class CurveView(View):
    """Camber and toe through the travel; where the linkage locks, the curve ends."""

    travel_mm: list[float]
    camber_deg: list[float]
    toe_deg: list[float]


class TriedView(View):
    """One wheel as it would stand."""

    key: str
    travel_mm: float
    angles: AnglesView | None
    curve: CurveView | None
    problem: str


class AxleToeView(View):
    """Toe of both wheels of an axle together."""

    axle: str
    total_deg: float
    thrust_deg: float
    steering_wheel_deg: float | None


Verdict = Literal["likely", "open", "missed"]


class TogetherView(View):
    """Something both wheels of an axle make together, how sure it is, and how far off it may be. [deg]"""

    name: str
    value_deg: float
    goal_deg: float
    plus_minus_deg: float | None
    limit_deg: float
    inside: bool
    verdict: Verdict


class ShareView(View):
    """A reading's share in what the plan leaves open."""

    name: str
    share_pct: float


class AxlePlanView(AxleToeView):
    """The toe an axle ends at; where it is planned, how sure that is and which readings leave most open."""

    together: list[TogetherView]
    chance_pct: float | None
    shares: list[ShareView]


class SidesApartView(View):
    """Left minus right of one angle as planned, and how much it may be."""

    axle: str
    name: str
    difference_deg: float
    limit_deg: float
    inside: bool


class TriedCar(View):
    """The whole car as it would stand."""

    wheels: list[TriedView]
    axles: list[AxleToeView]


class SegmentView(View):
    """A line of the drawing: a link, an axis, the wheel. [mm]"""

    name: str
    kind: str
    start: list[float]
    end: list[float]


class PointsView(View):
    """A wheel's points as far as they are read, as lines and points to draw."""

    key: str
    label: str
    segments: list[SegmentView]


class MotionView(View):
    """How lines move: both ends of each, x, y, z after each other, line after line, at every place. [mm]"""

    at_mm: list[float]
    frames: list[list[float]]


class LinkageWanted(Strict):
    """A wheel, and turns of its adjusters to see beside what it is."""

    wheel: Text
    turns: Annotated[dict[Text, Bounded], Field(max_length=12)] = Field(default_factory=dict)


class LinkageView(View):
    """A corner in space: its lines at ride height, through travel as it is and as turned, and through steer."""

    key: str
    label: str
    lines: list[SegmentView]
    before: MotionView
    after: MotionView
    steer: MotionView


class AdjusterView(View):
    """What can be turned, and what the plan turns it by."""

    name: str
    mm_per_turn: float
    step_turns: float
    low_turns: float
    high_turns: float
    exact_turns: float | None
    plus_minus_turns: float | None
    set_turns: float | None
    unit: str
    said: str
    needed: str
    check: str


class TargetView(View):
    """One angle that is wanted, what the height alone makes of it, what the turns reach."""

    name: str
    wanted_deg: float
    before_deg: float
    after_deg: float
    plus_minus_deg: float | None
    tolerance_deg: float
    reached: bool
    chance_pct: float | None
    verdict: Verdict
    why: str

    @computed_field  # type: ignore[prop-decorator]
    @property
    def least_deg(self) -> float:
        """From where on it would do."""
        return self.wanted_deg - self.tolerance_deg

    @computed_field  # type: ignore[prop-decorator]
    @property
    def most_deg(self) -> float:
        """Up to where it would do."""
        return self.wanted_deg + self.tolerance_deg


class WorthView(View):
    """What a reading would bring: ± of toe, camber and turns now and with it [deg, turn], its fields, and how long it
    takes."""

    said: str
    becomes: str
    fields: list[str]
    toe_now_deg: float
    toe_then_deg: float
    camber_now_deg: float
    camber_then_deg: float
    turns_now: float | None = None
    turns_then: float | None = None
    minutes: int


class WheelPlanView(View):
    """One wheel: its drawing, its curve today, what can be turned, the plan and how sure it is."""

    key: str
    label: str
    known: bool
    lacks: list[str]
    problem: str
    measured: list[str]
    travel_mm: float
    angles: AnglesView | None
    curve: CurveView | None
    segments: list[SegmentView]
    depth: str
    depth_said: str
    differs: str
    adjusters: list[AdjusterView]
    targets: list[TargetView]
    worth: list[WorthView]
    chance_pct: float | None


class SolidAxleView(View):
    """A solid axle or twist beam as the body heaves [mm] and rolls [deg] over it.

    ``roll_steer`` is steer per roll; ``give_mm`` what bushings give at 3° of roll because links disagree;
    ``camber_deg`` what the left wheel leans against the body, of a twist beam only.
    """

    axle: str
    lacks: list[str]
    problem: str
    heave_mm: list[float]
    shift_mm: list[float]
    roll_deg: list[float]
    steer_deg: list[float]
    camber_deg: list[float]
    roll_steer: float | None
    shift_per_heave: float | None
    give_mm: float | None


class GeometryView(View):
    """The geometry of a car and its plan, the rear axle first."""

    baseline_from: str
    solid: list[SolidAxleView]
    wheels: list[WheelPlanView]
    axles: list[AxlePlanView]
    sides: list[SidesApartView]
    order: list[str]
