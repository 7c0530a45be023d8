"""Published calculations of geometry: a corner swept through its travel, and brought back to its targets."""

from __future__ import annotations

from math import degrees, radians
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from fair_spindle.calculations.base import Calculation, Positive, Values
from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.geometry import corner as corners
from fair_spindle.core.geometry.kinematics import solve_poses, wheel_angles
from fair_spindle.core.turns.adjuster import Adjuster, on
from fair_spindle.core.turns.realign import realign

Point = Annotated[list[float], Field(min_length=3, max_length=3)]
Name = Annotated[str, Field(min_length=1, max_length=60)]
Angle = Annotated[float, Field(gt=-45, lt=45)]
Layout = Literal["double_wishbone", "strut", "five_link", "semi_trailing", "trailing_lateral", "twist_beam"]


class LinkIn(Values):
    """A link by its two ends. [mm]"""

    name: Name
    inner: Point
    outer: Point


class CornerIn(Values):
    """One corner by its points at ride height."""

    layout: Layout
    side: Literal["left", "right"]
    camber_deg: Angle
    toe_deg: Angle
    points: Annotated[dict[str, Point], Field(min_length=1, max_length=40)]
    links: Annotated[list[LinkIn], Field(max_length=10)] = []  # noqa: RUF012  Pydantic copies it

    def core(self) -> corners.Corner:
        """As the core takes it."""
        points = {name: _point(at) for name, at in self.points.items()}
        links = tuple(corners.Link(link.name, _point(link.inner), _point(link.outer)) for link in self.links)
        angles = radians(self.camber_deg), radians(self.toe_deg)
        try:
            return corners.make_corner(self.layout, self.side, *angles, points, links)
        except InputError as error:
            error.field = f"corner.{error.field}"
            raise


def _point(at: list[float]) -> tuple[float, float, float]:
    return at[0], at[1], at[2]


class CornerSweepIn(Values):
    """A corner, and the travels it is swept through."""

    corner: CornerIn
    travels_mm: Annotated[list[float], Field(min_length=1, max_length=20_000)]


class SweepRow(Values):
    """The wheel at one travel; no caster and kpi without a steering axis."""

    travel_mm: float
    camber_deg: float
    toe_deg: float
    caster_deg: float | None
    kpi_deg: float | None
    half_track_mm: float


class CornerSweepOut(Values):
    """Every travel, and the slopes at travel 0."""

    rows: list[SweepRow]
    bump_steer_deg_per_mm: float
    camber_gain_deg_per_mm: float


def corner_sweep(given: CornerSweepIn) -> CornerSweepOut:
    """Sweep a corner through its travel."""
    corner = given.corner.core()
    swept = wheel_angles(corner, solve_poses(corner, [*given.travels_mm, 0.0]))
    rest = [np.full(len(swept.toe), np.nan) if one is None else np.degrees(one) for one in (swept.caster, swept.kpi)]
    rows = [
        SweepRow(
            travel_mm=travel,
            camber_deg=camber,
            toe_deg=toe,
            caster_deg=None if np.isnan(caster) else caster,
            kpi_deg=None if np.isnan(kpi) else kpi,
            half_track_mm=half_track,
        )
        for travel, camber, toe, caster, kpi, half_track in zip(
            given.travels_mm,
            np.degrees(swept.camber).tolist(),
            np.degrees(swept.toe).tolist(),
            *(one.tolist() for one in rest),
            swept.half_track.tolist(),
            strict=False,
        )
    ]
    return CornerSweepOut(
        rows=rows,
        bump_steer_deg_per_mm=degrees(swept.toe_slope[-1]),
        camber_gain_deg_per_mm=degrees(swept.camber_slope[-1]),
    )


class AdjusterIn(Values):
    """What can be turned, on which link, by how much a turn, in which steps, between which stops."""

    name: Name
    acts_on: Name
    mm_per_turn: Positive
    step_turns: Positive
    min_mm: Annotated[float, Field(le=0)]
    max_mm: Annotated[float, Field(ge=0)]

    def core(self) -> Adjuster:
        """As the core takes it."""
        return Adjuster(self.name, on(self.acts_on), self.mm_per_turn, self.step_turns, self.min_mm, self.max_mm)


class Targets(Values):
    """Wheel angles that are wanted, any of them."""

    toe_deg: Angle | None = None
    camber_deg: Angle | None = None
    caster_deg: Angle | None = None

    def core(self) -> dict[str, float]:
        """Those given. [rad]"""
        given = self.model_dump(exclude_none=True)
        return {name.removesuffix("_deg"): radians(value) for name, value in given.items()}


class Tolerances(Values):
    """How near is near enough."""

    toe_deg: Positive = 0.05
    camber_deg: Positive = 0.10
    caster_deg: Positive = 0.25


class RealignIn(Values):
    """A corner, its new height, what can be turned and what is wanted."""

    corner: CornerIn
    height_change_mm: float
    adjusters: Annotated[list[AdjusterIn], Field(min_length=1, max_length=6)]
    targets: Targets
    tolerances: Tolerances = Tolerances()


class ExactOut(Values):
    """What one adjuster would have to be turned, were there no steps and stops."""

    name: str
    turns: float
    length_change_mm: float


class SetOut(Values):
    """What one adjuster is turned, on its steps and inside its stops."""

    name: str
    set_turns: float
    length_change_mm: float


class RealignOut(Values):
    """The wheel untouched at its new height, the exact answer, the set turns, and what they reach."""

    before: dict[str, float]
    exact: list[ExactOut]
    adjusters: list[SetOut]
    after: dict[str, float]
    reached: dict[str, bool]
    limited_by: list[str]


def realign_corner(given: RealignIn) -> RealignOut:
    """Turns that bring toe, camber and caster to their targets at a new height."""
    adjusters = [adjuster.core() for adjuster in given.adjusters]
    near = {name.removesuffix("_deg"): radians(value) for name, value in given.tolerances.model_dump().items()}
    found = realign(given.corner.core(), -given.height_change_mm, adjusters, given.targets.core(), near)
    return RealignOut(
        before={f"{name}_deg": degrees(angle) for name, angle in found.before.items()},
        exact=[
            ExactOut(name=adjuster.name, turns=change / adjuster.per_turn, length_change_mm=change)
            for adjuster, change in zip(adjusters, found.exact.tolist(), strict=True)
        ],
        adjusters=[
            SetOut(name=adjuster.name, set_turns=turns, length_change_mm=change)
            for adjuster, turns, change in zip(
                adjusters, found.set_turns.tolist(), found.changes.tolist(), strict=True
            )
        ],
        after={f"{name}_deg": degrees(angle) for name, angle in found.after.items()},
        reached={f"{name}_deg": met for name, met in found.reached.items()},
        limited_by=list(found.limited_by),
    )


CALCULATIONS = (
    Calculation(
        "corner-sweep", "A corner through its travel", CornerSweepIn, CornerSweepOut, corner_sweep, sparse=False
    ),
    Calculation("realign", "Turns that bring the wheel to its targets", RealignIn, RealignOut, realign_corner),
)
