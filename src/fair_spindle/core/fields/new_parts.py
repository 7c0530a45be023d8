"""New arms and rods in a job on the whole car: how they lie against the old ones, by the school that was used."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.basics.wheels import AXLES, SIDES
from fair_spindle.core.fields.car import THREADED
from fair_spindle.core.fields.field import Field, Method, Part, placed, typed
from fair_spindle.core.fields.shape import Shape
from fair_spindle.core.geometry.layouts import ArmKind

GROUP = "New parts"
COUNTED = "counted"


def _length(name: str, label: str, *, optional: bool = False) -> Part:
    return Part(name, label, "length", "mm", 0, 2500, optional=optional, half_width=1.0)


AGAINST_OLD = (
    Method(
        "beside",
        "Old beside new",
        (Part("difference", "New less old, as they lie", "length", "mm", -300, 300, half_width=1.0),),
        "Both on the bench, one joint in line; positive where the new one is longer as it is set now.",
    ),
    Method(
        "lengths",
        "Centre to centre",
        (_length("old", "Old part, as it came off"), _length("new", "New part, as it is set now")),
        gives="mm",
    ),
    Method(
        COUNTED,
        "Turns counted off",
        (
            Part("turns", "Turns off the old end", "count", "turn", 0, 80, half_width=1 / 12),
            Part("pitch", "Old thread pitch", "pitch", "pitch_mm", 0.5, 4),
            _length("old_end", "Old end, thread mouth to joint centre"),
            _length("new_end", "New end, thread mouth to joint centre"),
            _length("old_rod", "Old rod, joint to thread tip", optional=True),
            _length("new_rod", "New rod, joint to thread tip", optional=True),
        ),
        "The new part then starts at no turns on. Rod lengths only where the rod is new too.",
        gives="mm",
    ),
)


def new_part_fields(shape: Shape) -> tuple[Field, ...]:
    """What is asked of a part that takes an old one's place at a threaded adjuster.

    Counted turns, centre-to-centre length and old beside new all come to one number: how much longer the new part is,
    as it is set now, than the old one was on the car.

    Raises NotFound: A layout that does not exist.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> car = shape_of({"rear.layout": "double_wishbone", "rear.left.tie.adjust": "one_thread"})
    >>> [one.key for one in new_part_fields(car)][0]
    'rear.left.tie.swap'
    """
    return tuple(_fields(shape))


def _fields(shape: Shape) -> Iterator[Field]:
    for axle in AXLES:
        for arm in shape.arms(axle):
            for side in SIDES:
                way = shape.choice(f"{axle}.{side}.{arm.key}.adjust", "fixed")
                if way in THREADED and way != "legs" and not arm.shared:
                    yield from (placed(one, axle, side) for one in _of_part(arm))


def _of_part(arm: ArmKind) -> tuple[Field, ...]:
    return (
        Field(
            f"{arm.key}.swap",
            f"{arm.label}, new against old",
            GROUP,
            methods=AGAINST_OLD,
            required=False,
            hint="Only where a new part is fitted. Whichever way it was kept, the plan corrects it.",
        ),
        Field(
            f"{arm.key}.swap_per_turn",
            f"{arm.label}, new, length per turn",
            GROUP,
            methods=typed("pitch", "pitch_mm", 0.5, 8),
            required=False,
            hint="Its pitch; both pitches of an opposite-handed sleeve added. Empty: as the old one.",
        ),
        Field(
            f"{arm.key}.swap_engaged",
            f"{arm.label}, new, thread engaged as it lies",
            GROUP,
            methods=typed("length", "mm", 0, 200),
            required=False,
            hint="At the end with the least; none where turns are counted on. It stops the turns.",
        ),
    )
