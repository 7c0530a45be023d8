"""What is asked about a front strut axle: every field, how it may be measured, its limits."""

from __future__ import annotations

from dataclasses import dataclass, replace

from fair_spindle.core.rubber import BUSHING_KINDS
from fair_spindle.core.units import to_core

SIDES = ("left", "right")


@dataclass(frozen=True)
class Part:
    """One number of a measurement: quantity, unit meant where none is typed, limits in that unit."""

    name: str
    label: str
    quantity: str
    unit: str
    low: float
    high: float
    optional: bool = False


@dataclass(frozen=True)
class Method:
    """One way to take a measurement."""

    name: str
    label: str
    parts: tuple[Part, ...]


@dataclass(frozen=True)
class Field:
    """One thing that is asked, in the trade's words.

    ``half_width`` is what the instrument leaves open unless the user says otherwise [core unit],
    ``relative`` the same as a share of the value; both are the product's own defaults.
    """

    key: str
    label: str
    group: str
    phase: str = "baseline"
    methods: tuple[Method, ...] = ()
    choices: tuple[tuple[str, str], ...] = ()
    required: bool = True
    hint: str = ""
    half_width: float = 0.0
    relative: float = 0.0


def _length(name: str, label: str, low: float, high: float, optional: bool = False) -> Part:
    return Part(name, label, "length", "mm", low, high, optional)


def _single(quantity: str, unit: str, low: float, high: float) -> tuple[Method, ...]:
    return (Method("typed", "Typed", (Part("value", "Value", quantity, unit, low, high),)),)


_HEIGHT = (
    Method(
        "hub_to_arch",
        "Hub centre to arch lip",
        (
            _length("first", "First", 150, 700),
            _length("second", "Second", 150, 700, True),
            _length("third", "Third", 150, 700, True),
        ),
    ),
)
_ACROSS = _length("across", "Measured across", 150, 1500)
_TOE = (
    Method("angle", "Angle", (Part("toe", "Toe", "angle", "deg", -10, 10),)),
    Method("rim", "Length at a diameter", (_length("toe", "Toe", -150, 150), _ACROSS)),
    Method(
        "strings",
        "Two string gaps",
        (_length("front", "Front gap", 0, 500), _length("rear", "Rear gap", 0, 500), _ACROSS),
    ),
)
_CAMBER = _single("angle", "deg", -15, 15)
_SLOPE = (
    Method("typed", "Known slope", (Part("slope", "Toe per bump", "slope", "min_per_10mm", -60, 60),)),
    Method(
        "two_heights",
        "Toe read at two heights",
        (
            _length("height_1", "First height", 150, 700),
            Part("toe_1", "Toe there", "angle", "deg", -10, 10),
            _length("height_2", "Second height", 150, 700),
            Part("toe_2", "Toe there", "angle", "deg", -10, 10),
        ),
    ),
)
_TOE_HALF_WIDTH = to_core(3, "min")

_SIDE_FIELDS = (
    Field(
        "height",
        "Ride height",
        "At the wheel",
        methods=_HEIGHT,
        half_width=1.0,
        hint="Car settled on its wheels. Three readings show the spread.",
    ),
    Field(
        "toe",
        "Toe",
        "At the wheel",
        methods=_TOE,
        half_width=_TOE_HALF_WIDTH,
        hint="One wheel. Toe-in is positive.",
    ),
    Field(
        "camber",
        "Camber",
        "At the wheel",
        methods=_CAMBER,
        required=False,
        half_width=to_core(0.1, "deg"),
        hint="Negative where the top leans in.",
    ),
    Field(
        "toe_target",
        "Toe wanted",
        "At the wheel",
        methods=_TOE,
        required=False,
        hint="Left empty: keep the toe as it is.",
    ),
    Field(
        "sprung_load",
        "Sprung load",
        "At the wheel",
        methods=_single("force", "n", 500, 20000),
        relative=0.03,
        hint="Load of the body on this wheel: wheel load less wheel, brake and upright.",
    ),
    Field(
        "pitch",
        "Thread pitch",
        "Tie rod",
        methods=_single("pitch", "pitch_mm", 0.5, 4),
        hint="Of the rod; old and new end share it.",
    ),
    Field(
        "end_old",
        "Old end length",
        "Tie rod",
        methods=_single("length", "mm", 20, 300),
        half_width=0.5,
        hint="Thread mouth to stud centre.",
    ),
    Field(
        "end_new",
        "New end length",
        "Tie rod",
        methods=_single("length", "mm", 20, 300),
        half_width=0.5,
        hint="Thread mouth to stud centre.",
    ),
    Field(
        "turns_off",
        "Turns counted off",
        "Tie rod",
        methods=_single("count", "turn", 0, 80),
        required=False,
        half_width=1 / 12,
        hint="Or count them on the floor when the end comes off.",
    ),
    Field(
        "min_engagement",
        "Least thread engagement",
        "Tie rod",
        methods=_single("length", "mm", 5, 80),
        hint="From the end's maker. Where unknown, one and a half thread diameters is usual.",
    ),
    Field(
        "lever",
        "Steering lever",
        "Tie rod",
        methods=_single("length", "mm", 40, 300),
        half_width=3.0,
        hint="Steering axis to tie-rod stud, seen from above, square to the rod.",
    ),
    Field(
        "bump_slope",
        "Bump steer",
        "Tie rod",
        methods=_SLOPE,
        relative=0.2,
        hint="Toe change as the wheel moves up. Toe-in in bump is positive.",
    ),
    Field(
        "arm_length",
        "Lower arm length",
        "Lower arm",
        methods=_single("length", "mm", 100, 900),
        half_width=5.0,
        hint="Bushing axis to ball joint centre.",
    ),
    Field(
        "arm_rise",
        "Lower arm rise",
        "Lower arm",
        methods=_single("length", "mm", -300, 300),
        half_width=3.0,
        hint="Ball joint above bushing, at today's ride height. Below is negative.",
    ),
)
_AXLE_FIELDS = (
    Field("steer", "Tie rods", "Layout",
          choices=(("behind", "Behind the axle"), ("ahead", "Ahead of the axle"))),
    Field("bushing", "Lower arm bushings", "Layout", choices=tuple(BUSHING_KINDS.items()),
          hint="Bonded and fluid-filled rubber may only be clamped at loaded ride height."),
    Field("motion_ratio", "Motion ratio", "Springs", half_width=0.02,
          methods=_single("motion_ratio", "spring_per_wheel", 0.2, 5),
          hint="Spring travel per wheel travel, or the other way round: pick the unit."),
    Field("old_rate", "Old spring rate", "Springs", methods=_single("rate", "n_per_mm", 3, 500), relative=0.03),
    Field("old_free", "Old free length", "Springs", methods=_single("length", "mm", 80, 800), half_width=2.0),
    Field("new_rate", "New spring rate", "Springs", methods=_single("rate", "n_per_mm", 3, 500), relative=0.03),
    Field("new_free", "New free length", "Springs", methods=_single("length", "mm", 80, 800), half_width=2.0),
    Field("seat_shift", "Seat height change", "Springs", required=False, half_width=0.5,
          methods=_single("length", "mm", -100, 100),
          hint="How much higher the new spring is seated: spacer, thicker insulator. Lower is negative."),
    Field("twist_limit", "Bushing twist limit", "Lower arm", required=False,
          methods=_single("angle", "deg", 0.2, 10),
          hint="Left empty: 2°, this product's own value. No published limit was found."),
)  # fmt: skip
_CHECK_FIELDS = (
    Field("check_height", "Ride height", "After settling", methods=_HEIGHT, half_width=1.0,
          hint="Rolled and bounced, on its wheels."),
    Field("check_toe", "Toe", "After settling", methods=_TOE, half_width=_TOE_HALF_WIDTH),
    Field("check_camber", "Camber", "After settling", methods=_CAMBER, required=False,
          half_width=to_core(0.1, "deg")),
)  # fmt: skip


def _owned(field: Field, owner: str, phase: str) -> Field:
    """The field of one side or of the axle; a lone number is called like its field."""
    methods = tuple(
        replace(method, parts=tuple(replace(part, label=field.label) for part in method.parts))
        if method.name == "typed" and len(method.parts) == 1
        else method
        for method in field.methods
    )
    return replace(field, key=f"{owner}.{field.key}", phase=phase, methods=methods)


FIELDS: dict[str, Field] = {
    field.key: field
    for field in (
        *(_owned(field, "axle", "baseline") for field in _AXLE_FIELDS if field.group == "Layout"),
        *(_owned(field, side, "baseline") for side in SIDES for field in _SIDE_FIELDS),
        *(_owned(field, "axle", "baseline") for field in _AXLE_FIELDS if field.group != "Layout"),
        *(_owned(field, side, "check") for side in SIDES for field in _CHECK_FIELDS),
    )
}
