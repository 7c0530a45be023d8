"""What the job "springs and tie-rod ends on a strut front axle" asks beside the walk round its axle."""

from __future__ import annotations

from dataclasses import replace

from fair_spindle.core.sheet.car import car_fields
from fair_spindle.core.sheet.field import Field, FieldSide, placed, typed
from fair_spindle.core.sheet.methods import TOE
from fair_spindle.core.sheet.shape import SIDES, shape_of
from fair_spindle.core.sheet.walk import ALSO, AT_THE_WHEEL, baseline_fields, check_fields

_TIE, _ARM, _SPRINGS = "Tie rod", "Lower arm", "Springs"
_STRUT = shape_of({"front.layout": "strut"})
_FROM_CAR = {one.key: one for one in car_fields(_STRUT)}


def front_strut_fields() -> tuple[Field, ...]:
    """Every field of the job, baseline and check.

    Returns
    -------
    tuple of Field
        In the order they are shown.

    Raises
    ------
    Nothing.

    Notes
    -----
    Numbers that belong to the car carry the same key as in its record, so that the record fills them.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> sum(one.required for one in front_strut_fields() if one.phase == "baseline")
    32
    """
    layout = [_from_car("steer", group="Layout")]
    walk = {one.key: _for_this_job(one) for one in baseline_fields(_STRUT, ("front",))}
    asked = {key: one for key, one in walk.items() if one.group != ALSO}
    wheels = [one for side in SIDES for one in (*_of_side(asked, side), *_side(side))]
    also = [one for one in walk.values() if one.group == ALSO]
    springs = [placed(one, "front") for one in _SPRING_FIELDS]
    check = check_fields(_STRUT, ("front",))
    return (*layout, *wheels, *springs, *also, *check)


def _of_side(walk: dict[str, Field], side: str) -> list[Field]:
    return [one for one in walk.values() if one.side == side]


def _for_this_job(one: Field) -> Field:
    if one.name == "bump_slope":
        return replace(one, group=_TIE, required=True)
    at_the_wheel = one.name in ("height", "toe", "camber")
    return replace(one, required=one.name in ("height", "toe"), group=one.group if at_the_wheel else ALSO)


def _from_car(name: str, side: str = "", **changes: object) -> Field:
    key = ".".join(part for part in ("front", side, name) if part)
    found = replace(_FROM_CAR[key], phase="baseline", required=True)
    return replace(found, **changes)  # type: ignore[arg-type]


def _length(
    name: str, label: str, low: float, high: float, half_width: float, hint: str, required: bool = True
) -> Field:
    return Field(
        name,
        label,
        _TIE,
        methods=typed("length", "mm", low, high),
        half_width=half_width,
        hint=hint,
        required=required,
    )


_END_HINT = "Thread mouth to stud centre."


def _side(side: FieldSide) -> list[Field]:
    own = (
        Field(
            "toe_target",
            "Toe wanted",
            AT_THE_WHEEL,
            methods=TOE,
            required=False,
            hint="Left empty: keep the toe as it is.",
        ),
        Field(
            "sprung_load",
            "Sprung load",
            AT_THE_WHEEL,
            methods=typed("force", "n", 500, 20000),
            relative=0.03,
            hint="Load of the body on this wheel: wheel load less wheel, brake and upright.",
        ),
        Field(
            "tie.pitch",
            "Thread pitch",
            _TIE,
            methods=typed("pitch", "pitch_mm", 0.5, 4),
            hint="Of the rod; old and new end share it.",
        ),
        _length("tie.end", "Old end length", 20, 300, 0.5, _END_HINT),
        _length("new_end.length", "New end length", 20, 300, 0.5, _END_HINT),
        Field(
            "tie.turns_off",
            "Turns counted off",
            _TIE,
            methods=typed("count", "turn", 0, 80),
            required=False,
            half_width=1 / 12,
            hint="Or count them on the floor when the end comes off.",
        ),
        _length(
            "tie.engagement",
            "Least thread engagement",
            5,
            80,
            0.0,
            "From the end's maker. Where unknown, one and a half thread diameters is usual.",
        ),
    )
    arm = {"part_of": "", "group": _ARM}
    return [
        *(placed(one, "front", side) for one in own),
        _from_car("tie.lever", side, group=_TIE, part_of=""),
        *(_from_car(f"lower.{name}", side, group=_ARM) for name in ("bush_front", "bush_rear")),
        placed(_from_car("lower.length", side, label="Lower arm length", **arm), "front", side),
        placed(_from_car("lower.rise", side, label="Lower arm rise", **arm), "front", side),
    ]


_RATE = typed("rate", "n_per_mm", 3, 500)
_FREE = typed("length", "mm", 80, 800)
_SPRING_FIELDS = (
    replace(_from_car("motion_ratio"), group=_SPRINGS),
    Field("spring.rate", "Old spring rate", _SPRINGS, methods=_RATE, relative=0.03),
    Field("spring.free", "Old free length", _SPRINGS, methods=_FREE, half_width=2.0),
    Field("new_spring.rate", "New spring rate", _SPRINGS, methods=_RATE, relative=0.03),
    Field("new_spring.free", "New free length", _SPRINGS, methods=_FREE, half_width=2.0),
    Field(
        "new_spring.seat",
        "Seat height change",
        _SPRINGS,
        required=False,
        half_width=0.5,
        methods=typed("length", "mm", -100, 100),
        hint="How much higher the new spring is seated: spacer, thicker insulator. Lower is negative.",
    ),
    Field(
        "twist_limit",
        "Bushing twist limit",
        _SPRINGS,
        required=False,
        methods=typed("angle", "deg", 0.2, 10),
        hint="Left empty: 2°, this product's own value. No published limit was found.",
    ),
)
