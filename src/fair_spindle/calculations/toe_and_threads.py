"""Toe, tie rods and threads, as published."""

from __future__ import annotations

from math import degrees, radians
from typing import Literal

from pydantic import model_validator

from fair_spindle.calculations.base import (
    STEP,
    Calculation,
    NotNegative,
    Positive,
    ToeDegrees,
    Values,
    exactly_one,
)
from fair_spindle.core.basics.units import from_core, to_core
from fair_spindle.core.geometry import toe
from fair_spindle.core.turns import threads

_TOE_SPELLINGS = ("toe_deg", "toe_min", "toe_mm", "toe_in")


class ToeConvertIn(Values):
    """Toe of one wheel in one spelling."""

    measured_across_mm: Positive
    toe_deg: float | None = None
    toe_min: float | None = None
    toe_mm: float | None = None
    toe_in: float | None = None

    @model_validator(mode="after")
    def _one_spelling(self) -> ToeConvertIn:
        exactly_one(self, _TOE_SPELLINGS)
        return self


class ToeConvertOut(Values):
    """The same toe in every spelling."""

    toe_deg: float
    toe_min: float
    toe_mm: float
    toe_in: float


def toe_convert(given: ToeConvertIn) -> ToeConvertOut:
    """Toe of one wheel from any spelling to all."""
    name = exactly_one(given, _TOE_SPELLINGS)
    size = to_core(getattr(given, name), name.removeprefix("toe_"))
    if name in ("toe_mm", "toe_in"):
        angle, offset = toe.rim_toe_angle(size, given.measured_across_mm), size
    else:
        angle, offset = size, toe.toe_at_rim(size, given.measured_across_mm)
    return ToeConvertOut(
        toe_deg=degrees(angle),
        toe_min=from_core(angle, "min"),
        toe_mm=offset,
        toe_in=from_core(offset, "in"),
    )


class AxleToeIn(Values):
    """Toe of both wheels of an axle."""

    left_deg: ToeDegrees
    right_deg: ToeDegrees
    steering_ratio: Positive | None = None
    rear_thrust_deg: ToeDegrees = 0.0


class AxleToeOut(Values):
    """The axle's toe; thrust positive to the right, steering wheel positive clockwise."""

    total_deg: float
    split_deg: float
    thrust_deg: float
    steering_wheel_deg: float | None = None


def axle_toe(given: AxleToeIn) -> AxleToeOut:
    """Total, split, thrust and steering wheel."""
    out = toe.axle_toe(
        radians(given.left_deg),
        radians(given.right_deg),
        given.steering_ratio,
        radians(given.rear_thrust_deg),
    )
    return AxleToeOut(
        total_deg=degrees(out.total),
        split_deg=degrees(out.split),
        thrust_deg=degrees(out.thrust),
        steering_wheel_deg=None if out.steering_wheel is None else degrees(out.steering_wheel),
    )


class NewEnd(Values):
    """The rod and end that go on."""

    pitch_mm: Positive
    end_length_mm: Positive
    rod_length_mm: NotNegative = 0.0

    def core(self) -> threads.RodEnd:
        """As the core takes it."""
        return threads.RodEnd(self.pitch_mm, self.end_length_mm, self.rod_length_mm)


class OldEnd(NewEnd):
    """The rod and end that came off, with the turns counted."""

    turns_off: NotNegative


class TurnTransferIn(Values):
    """Old end, new end, and what the thread needs."""

    old: OldEnd
    new: NewEnd
    min_engagement_mm: NotNegative
    step_turns: Positive = STEP


class TurnTransferOut(Values):
    """Turns for the new end."""

    turns_on: float
    set_turns: float
    length_error_mm: float
    engagement_mm: float
    engagement_ok: bool


def turn_transfer(given: TurnTransferIn) -> TurnTransferOut:
    """Turns on that keep the joint-to-stud length."""
    out = threads.transfer_turns(
        given.old.core(), given.old.turns_off, given.new.core(), given.min_engagement_mm, given.step_turns
    )
    return TurnTransferOut(
        turns_on=out.turns_on,
        set_turns=out.set_turns,
        length_error_mm=out.length_error,
        engagement_mm=out.engagement,
        engagement_ok=out.engagement_ok,
    )


class TieRodTurnsIn(Values):
    """Toe now and wanted, and the rod that sets it."""

    toe_now_deg: ToeDegrees
    toe_target_deg: ToeDegrees
    lever_mm: Positive
    mm_per_turn: Positive
    steer: Literal["ahead", "behind"]
    step_turns: Positive = STEP


class TieRodTurnsOut(Values):
    """Turns that set the toe; positive lengthens the rod."""

    length_change_mm: float
    turns: float
    set_turns: float
    toe_reached_deg: float


def tie_rod_turns(given: TieRodTurnsIn) -> TieRodTurnsOut:
    """Turns on a tie rod for a wanted toe."""
    now, target = radians(given.toe_now_deg), radians(given.toe_target_deg)
    change = float(toe.rod_change_for_toe(target - now, given.lever_mm, given.steer))
    turns = change / given.mm_per_turn
    set_turns = threads.nearest_step(turns, given.step_turns)
    gained = toe.toe_for_rod_change(set_turns * given.mm_per_turn, given.lever_mm, given.steer)
    return TieRodTurnsOut(
        length_change_mm=change,
        turns=turns,
        set_turns=set_turns,
        toe_reached_deg=degrees(now + float(gained)),
    )


class StringToeIn(Values):
    """Two gaps from rim to string."""

    front_gap_mm: NotNegative
    rear_gap_mm: NotNegative
    measured_across_mm: Positive


class StringToeOut(Values):
    """Toe of the wheel."""

    toe_deg: float


def string_toe(given: StringToeIn) -> StringToeOut:
    """Toe of one wheel from a string."""
    angle = toe.string_toe(given.front_gap_mm, given.rear_gap_mm, given.measured_across_mm)
    return StringToeOut(toe_deg=degrees(angle))


CALCULATIONS = (
    Calculation("toe-convert", "Toe of one wheel in every spelling", ToeConvertIn, ToeConvertOut, toe_convert),
    Calculation("axle-toe", "Total toe, thrust and steering wheel", AxleToeIn, AxleToeOut, axle_toe),
    Calculation(
        "turn-transfer", "Turns on that keep the rod's length", TurnTransferIn, TurnTransferOut, turn_transfer
    ),
    Calculation("tie-rod-turns", "Turns that set the toe", TieRodTurnsIn, TieRodTurnsOut, tie_rod_turns),
    Calculation("string-toe", "Toe from two string gaps", StringToeIn, StringToeOut, string_toe),
)
