"""What the interface is shown of a car on its springs, and what it may try out."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from fair_spindle.core.basics.wheels import Axle, WheelKey
from fair_spindle.formats.acts import Strict
from fair_spindle.jobs.book_models import View


class TrySprings(Strict):
    """What to try: perch turns and seat heights by wheel, rate in percent and bar hole by axle."""

    turns: dict[WheelKey, Annotated[float, Field(ge=-60, le=60)]] = Field(default_factory=dict)
    seats_mm: dict[WheelKey, Annotated[float, Field(ge=-100, le=100)]] = Field(default_factory=dict)
    rates_pct: dict[Axle, Annotated[float, Field(ge=-60, le=150)]] = Field(default_factory=dict)
    holes: dict[Axle, Literal["1", "2", "3"]] = Field(default_factory=dict)


class SitsView(View):
    """One wheel: heights [mm], load [N], spring [mm]; ± are null until cars were drawn to say how sure it is, and the
    load where nobody weighed the car."""

    key: str
    label: str
    height_mm: float | None
    change_mm: float
    plus_minus_mm: float | None
    predicted_mm: float | None
    predicted_plus_minus_mm: float | None
    target_mm: float | None
    measured_mm: float | None
    load_before_n: float | None
    load_n: float | None
    load_plus_minus_n: float | None
    spring_mm: float | None
    laden_mm: float | None
    stop_pressed_mm: float


class UnknownView(View):
    """An input that leaves the heights open: its share, and how to get surer of it."""

    key: str
    label: str
    shown: str
    share_pct: float
    advice: str
    plus_minus_mm: float
    becomes_mm: float | None


class BenchView(View):
    """A perch before assembly."""

    key: str
    label: str
    from_lower_eye_mm: float | None
    from_thread_end_mm: float | None
    turns_up: float | None
    by_thumb_mm: float | None
    plus_minus_mm: float
    spring_mm: float | None
    lacks: list[str]
    asked: list[str]
    problem: str


class PerchTurnView(View):
    """One perch: turns to give, and what one turn up does to every height [mm] and load [N]."""

    key: str
    label: str
    exact_turns: float
    plus_minus_turns: float
    set_turns: float
    said: str
    heights_mm: list[float]
    loads_n: list[float]


class CorrectionView(View):
    """The turns at all four perches, together."""

    perches: list[PerchTurnView]
    heights_mm: list[float]
    cross_pct: float | None
    measured: bool
    problem: str


class LimitView(View):
    """What ends a travel, at how much of it."""

    name: str
    travel_mm: float
    plus_minus_mm: float
    remedy: str


class TravelView(View):
    """One wheel's travel."""

    key: str
    label: str
    bump: list[LimitView]
    droop: list[LimitView]
    warnings: list[str]
    lacks: list[str]
    asked: list[str]


class HoleView(View):
    """A hole of a bar."""

    name: str
    rate_n_per_mm: float
    front_share_pct: float | None
    used: bool


class BarView(View):
    """A sway bar."""

    axle: str
    holes: list[HoleView]
    preload_n: float | None
    preload_plus_minus_n: float
    cross_shift_pct: float | None
    cross_shift_plus_minus_pct: float
    link_mm: float | None
    link_plus_minus_mm: float
    sideways_mm: float | None
    lacks: list[str]
    asked: list[str]
    problem: str


class SpringsView(View):
    """A car on its springs; ``lacks`` and ``asked`` are what nobody told of how they change, ``usual`` what was taken
    for usual, by name and field."""

    wheels: list[SitsView]
    cross_before_pct: float | None
    cross_pct: float | None
    cross_plus_minus_pct: float | None
    cross_target_pct: float | None
    doubts: list[str]
    unknowns: list[UnknownView]
    lacks: list[str]
    asked: list[str]
    usual: list[str]
    problem: str
    bench: list[BenchView]
    correction: CorrectionView | None
    travel: list[TravelView]
    steering_damper: list[str]
    bars: list[BarView]


class TriedSits(View):
    """A car on its springs as tried."""

    wheels: list[SitsView]
    cross_pct: float | None
    angles: dict[str, str]
    problem: str
