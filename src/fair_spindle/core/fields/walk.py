"""The baseline: what is read at each wheel, and in which order one walks round the car."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Literal

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.wheels import AXLES, SIDES, Axle, Wheel, WheelKey, wheels_at
from fair_spindle.core.fields.field import Field, FieldSide, Phase, Sheet, placed, typed
from fair_spindle.core.fields.methods import (
    ANGLES_AT,
    BAR_GAPS,
    BUMP_SLOPE,
    CAMBER,
    CAMBER_SLOPE,
    CASTER,
    DAMPER_CLICKS,
    HEIGHT,
    LINK_SETTING,
    TOE,
    TOTAL_TOE,
)
from fair_spindle.core.fields.shape import Shape
from fair_spindle.core.geometry.layouts import Layout

By = Literal["wheel", "reading"]
WALK_ROUND: tuple[WheelKey, ...] = ("front.left", "front.right", "rear.right", "rear.left")
AT_THE_WHEEL = "At the wheel"
ALSO = "Also worth reading"
_DEG = to_core(1, "deg")
_TOE_HALF_WIDTH = to_core(3, "min")


def baseline_fields(shape: Shape, axles: Sequence[Axle] = AXLES) -> tuple[Field, ...]:
    """What is read round the car before anything is loosened.

    What is usual for a layout is the product's own, wide enough for any road car.

    Raises NotFound: A layout that does not exist.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> fields = baseline_fields(shape_of({"front.layout": "strut", "rear.layout": "twist_beam"}))
    >>> sum(one.required for one in fields)
    15
    """
    fields = [placed(one, "") for one in _WHOLE_CAR] if len(axles) == len(AXLES) else []
    if fields and _by_drag_link(shape):
        fields.append(placed(_WHEEL_OFF, ""))
    for axle in axles:
        for side in SIDES:
            fields += [placed(one, axle, side) for one in _wheel(shape, axle, side)]
        fields += [placed(one, axle) for one in _axle(shape, axle)]
    return tuple(replace(field, phase="baseline") for field in fields)


# What any layout shows, where nobody said which [°]; and how far a toe may be out before it is set again. [rad]
CAMBER_OF_ANY = (-4.5, 2.0)
AFTER_THE_WORK = {"toe": (-2.5 * _DEG, 2.5 * _DEG)}


def wheel_field(name: str, layout: Layout | None = None) -> Field:
    """One of the readings every wheel has, for a layout.

    A side difference of 10 mm, 12 minutes or 0.5° asks for a second reading.

    Raises KeyError: Another name.

    Common practice, no published source.
    """
    if name == "caster":
        return _CASTER
    one = _AT_WHEEL[name]
    if name == "camber":
        low, high = layout.camber_usual if layout else CAMBER_OF_ANY
        return replace(one, usual=(low * _DEG, high * _DEG))
    if name == "toe":
        limit = (0.6 if layout is None or layout.independent else 0.35) * _DEG
        return replace(one, usual=(-limit, limit))
    return one


def check_fields(shape: Shape, axles: Sequence[Axle] = AXLES) -> tuple[Field, ...]:
    """What is read again when the work is done.

    Camber is never asked for as a must; a bar link's gap only where links can be set.

    Raises NotFound: A layout that does not exist.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> check_fields(shape_of({}), ("rear",))[0].key
    'rear.left.check_height'
    """
    wheels = tuple(
        placed(
            replace(
                wheel_field(name, shape.layout(axle)),
                usual=AFTER_THE_WORK.get(name) or wheel_field(name, shape.layout(axle)).usual,
                name=f"check_{name}",
                phase="check",
                group="After settling",
                instead="",
                required=name != "camber",
            ),
            axle,
            side,
        )
        for axle in axles
        for side in SIDES
        for name in (*_AT_WHEEL, *(["caster"] if shape.steering_axis(axle) else []))
    )
    links = tuple(
        placed(_LINK_GAP, axle) for axle in axles if shape.choice(f"{axle}.bar.fitted") == "adjustable_links"
    )
    if "front" not in axles:
        return (*wheels, *links)
    straight = (
        placed(replace(one, name=f"check_{one.name}", phase="check", group="After settling", instead=instead), "")
        for one, instead in ((_STRAIGHT, "check_wheel_off"), (_WHEEL_OFF, ""))
    )
    return (*wheels, *links, *straight)


def order_walk(
    sheet: Sheet, corners: Sequence[str] = WALK_ROUND, by: By = "wheel", phase: Phase = "baseline"
) -> tuple[str, ...]:
    """Order in which the baseline is taken, or the check, round the car.

    What belongs to the whole car comes first, what belongs to an axle after its last wheel.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.field import sheet_of
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> sheet = sheet_of(baseline_fields(shape_of({})))
    >>> [key for key in order_walk(sheet, ("rear.left",), "reading") if key.endswith("height")][0]
    'rear.left.height'
    """
    fields = sheet.of_phase(phase)
    known = [Wheel(corner) for corner in dict.fromkeys((*corners, *WALK_ROUND)) if corner in WALK_ROUND]
    last = {axle: max(known.index(wheel) for wheel in wheels_at(axle)) for axle in AXLES}
    names = list(dict.fromkeys(field.name for field in fields))

    def place(one: Field) -> tuple[int, ...]:
        topic = names.index(one.name)
        if not one.axle:
            return (-1, topic, 0)
        corner = known.index(Wheel(f"{one.axle}.{one.side}")) if one.side else last[one.axle]
        late = 0 if one.side else 1
        return (topic, corner, late) if by == "reading" else (corner, late, topic)

    return tuple(field.key for field in sorted(fields, key=place))


def _by_drag_link(shape: Shape) -> bool:
    return any(arm.key == "drag" for arm in shape.arms("front"))


_LINK_GAP = Field(
    "check_bar_gap",
    "Right bar link, off at its upper end: misses its hole by",
    "After settling",
    phase="check",
    required=False,
    methods=typed("length", "mm", -150, 150),
    half_width=0.5,
    settled=True,
    hint="Left link on, car level on its wheels; positive where the bar's end stands above. 0 where it slides in.",
)
_WHEEL_OFF = Field(
    "wheel_off",
    "Steering wheel off straight",
    "The car",
    required=False,
    methods=typed("angle", "deg", -90, 90),
    half_width=1.0 * _DEG,
    hint="Running straight; clockwise is positive. A spoke held against a level reads it well. Read after the drive, "
    "the turns still wanted at the front go by it.",
)
_STRAIGHT = Field(
    "wheel_straight",
    "Steering wheel",
    "The car",
    choices=(("straight", "Straight"), ("left", "Points left"), ("right", "Points right")),
    hint="As it stands when the car has rolled straight.",
    instead="wheel_off",
)
_WHOLE_CAR = (
    Field("odometer", "Odometer", "The car", required=False, methods=typed("distance", "km", 0, 3_000_000)),
    _STRAIGHT,
    Field(
        "fuel",
        "Fuel in the tank",
        "The car",
        required=False,
        methods=typed("share", "pct", 0, 100),
        hint="Heights and loads depend on it.",
    ),
    Field(
        "orientation",
        "Orientation marks",
        "The car",
        required=False,
        methods=typed("words", "", 0, 400),
        hint="Which way round, which mark faces where, which side is longer.",
    ),
)
# Rolled to rest a car stands within this of where its springs want it, by its own friction.  Common practice. [mm]
FRICTION = 2.2
_AT_WHEEL = {
    "height": Field(
        "height",
        "Ride height",
        AT_THE_WHEEL,
        methods=HEIGHT,
        half_width=FRICTION,
        readings=3,
        settled=True,
        usual=(200.0, 600.0),
        sides=10.0,
        hint="Car settled on its wheels. Three readings show the spread.",
    ),
    "toe": Field(
        "toe",
        "Toe",
        AT_THE_WHEEL,
        methods=TOE,
        half_width=_TOE_HALF_WIDTH,
        settled=True,
        sides=0.2 * _DEG,
        instead="total_toe",
        hint="One wheel. Toe-in is positive.",
    ),
    "camber": Field(
        "camber",
        "Camber",
        AT_THE_WHEEL,
        methods=CAMBER,
        half_width=0.1 * _DEG,
        settled=True,
        sides=0.5 * _DEG,
        hint="Negative where the top leans in.",
    ),
}

_CASTER = Field(
    "caster",
    "Caster",
    AT_THE_WHEEL,
    methods=CASTER,
    half_width=0.25 * _DEG,
    settled=True,
    usual=(-1 * _DEG, 12 * _DEG),
    sides=0.75 * _DEG,
    hint="Top of the steering axis rearward is positive.",
)


def _wheel(shape: Shape, axle: Axle, side: FieldSide) -> Iterator[Field]:
    layout = shape.layout(axle)
    for name in _AT_WHEEL:
        yield wheel_field(name, layout)
    if shape.steering_axis(axle):
        yield _CASTER
    yield from _OPTIONAL_AT_WHEEL
    if shape.choice(f"{axle}.spring.kind") == "coilover":
        yield Field(
            "perch",
            "Perch ring to seat",
            ALSO,
            required=False,
            methods=typed("length", "mm", -50, 500),
            half_width=0.5,
            sides=6.0,
            hint="From the ring's upper face down to the lower end of the thread.",
        )
    for arm in shape.arms(axle):
        where = f"{axle}.{arm.key}" if arm.shared else f"{axle}.{side}.{arm.key}"
        way = shape.choice(f"{where}.adjust", "fixed")
        if arm.shared or way == "fixed":
            continue
        if way in ("cam", "slot", "shims"):
            yield Field(
                f"{arm.key}.mark",
                f"{arm.label}, marks as found",
                ALSO,
                required=False,
                methods=typed("words", "", 0, 120),
                hint="Which mark the cam points to, shims by place.",
            )
        else:
            yield Field(
                f"{arm.key}.setting",
                f"{arm.label}, setting as found",
                ALSO,
                required=False,
                methods=LINK_SETTING,
                half_width=1.0,
                hint="So that it can be put back as it was.",
            )


_OPTIONAL_AT_WHEEL = (
    Field(
        "point_height",
        "Ground to jacking point",
        ALSO,
        required=False,
        settled=True,
        half_width=1.0,
        methods=typed("length", "mm", 60, 900),
        sides=10.0,
        hint="Kept beside the hub-to-arch height; it moves with the tyre.",
    ),
    Field(
        "damper_length",
        "Damper, eye to eye",
        ALSO,
        required=False,
        settled=True,
        half_width=1.0,
        methods=typed("length", "mm", 100, 1200),
        sides=8.0,
    ),
    Field("damper_clicks", "Damper clicks", ALSO, required=False, methods=DAMPER_CLICKS, sides=0.5),
    Field(
        "bump_slope",
        "Bump steer",
        ALSO,
        required=False,
        methods=BUMP_SLOPE,
        relative=0.2,
        hint="Toe change as the wheel moves up. Toe-in in bump is positive.",
    ),
    *(
        Field(
            f"angles_{name}",
            f"Toe and camber with the body {name}",
            ALSO,
            required=False,
            methods=ANGLES_AT,
            hint="Some 30 mm from ride height, steering held. Settles which of the points is off.",
        )
        for name in ("lower", "higher")
    ),
    Field(
        "camber_slope",
        "Camber gain",
        ALSO,
        required=False,
        methods=CAMBER_SLOPE,
        relative=0.2,
        hint="Camber change as the wheel moves up; usually negative.",
    ),
)


def _axle(shape: Shape, axle: Axle) -> Iterator[Field]:
    limit = 1.2 * _DEG
    yield Field(
        "total_toe",
        "Total toe",
        "Axle",
        methods=TOTAL_TOE,
        half_width=_TOE_HALF_WIDTH,
        required=False,
        settled=True,
        usual=(-limit, limit),
        hint="Both wheels together, where they are not read one by one.",
    )
    if shape.choice(f"{axle}.bar.fitted", "none") != "none":
        yield Field(
            "bar_gaps",
            "Sway bar, sideways",
            "Axle",
            methods=BAR_GAPS,
            required=False,
            half_width=0.5,
            hint="Half the difference is how far it sits off centre; positive to the right.",
        )
