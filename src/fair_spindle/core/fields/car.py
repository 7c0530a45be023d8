"""The car's record: every field of its axles, arms, springs, bars and points, by layout."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from fair_spindle.core.basics.units import from_core
from fair_spindle.core.basics.wheels import AXLES, SIDES, Axle
from fair_spindle.core.fields.field import Field, FieldSide, placed, typed
from fair_spindle.core.fields.methods import LEVER, POINT, WHEEL_LOADS
from fair_spindle.core.fields.shape import Shape
from fair_spindle.core.fields.springs import MOTION_RATIO, PRINTED_RATE, RATE, record_fields
from fair_spindle.core.geometry.layouts import LAYOUTS, ArmKind, Layout
from fair_spindle.core.planning.car_parts import ALONG, KINDS, parts_of
from fair_spindle.core.springs.loads import MASSES
from fair_spindle.core.springs.rubber import BUSHING_KINDS
from fair_spindle.core.turns.axle_turns import STEERING_WHEEL_WITHIN
from fair_spindle.core.turns.realign import TOLERANCES

ADJUSTERS: dict[str, str] = {
    "fixed": "Not adjustable",
    "one_thread": "One thread",
    "legs": "Both legs threaded",
    "sleeve": "Sleeve, opposite threads",
    "cam": "Eccentric cam",
    "shims": "Shims",
    "slot": "Slot or plate",
}
THREADED = ("one_thread", "legs", "sleeve")
STEPS: dict[str, str] = {
    "free": "Any angle",
    "flat": "A flat",
    "half_turn": "Half a turn",
    "full_turn": "A full turn",
}
HANDS = (("right", "Right hand"), ("left", "Left hand"))
# The group of fields that the drawing of an axle shows by part.
HANGS_ON = "Parts and joints"
SPRINGS: dict[str, str] = {
    "coil": "Coil, fixed seat",
    "coilover": "Coil, threaded seat",
    "leaf": "Leaf pack",
    "torsion_bar": "Torsion bar",
    "air": "Air spring",
}


# The toe of every front wheel is set by a rod on a lever, also where nobody said what the axle hangs on.
LEVER_OF_A_ROD = Field(
    "tie.lever",
    "Steering lever",
    "Tie rod",
    methods=LEVER,
    half_width=3.0,
    hint="Steering axis to the joint, seen from above, square to the rod.",
)


def car_fields(shape: Shape) -> tuple[Field, ...]:
    """Every field of a car's record, as far as its layout is known.

    Arms belong to a corner; springs, bars and steering to an axle.

    Raises NotFound: A layout that does not exist.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> keys = [one.key for one in car_fields(shape_of({"rear.layout": "twist_beam"}))]
    >>> "rear.left.beam.length" in keys, "front.left.lower.length" in keys
    (True, False)
    """
    fields = [placed(one, "") for one in _CAR]
    for axle in AXLES:
        fields += [placed(one, axle) for one in _axle(shape, axle)]
        layout = shape.layout(axle)
        if axle == "front" and not layout:
            fields += [placed(replace(LEVER_OF_A_ROD, part_of="Tie rod"), axle, side) for side in SIDES]
        for arm in shape.arms(axle):
            fields += [placed(replace(one, part_of=arm.label), axle) for one in _hangs_on(layout, arm)]
            sides: tuple[FieldSide, ...] = ("",) if arm.shared else SIDES
            for side in sides:
                own = _arm(shape, arm, axle, side)
                fields += [placed(replace(one, part_of=arm.label), axle, side) for one in own]
        if layout:
            fields += [placed(target, axle, side) for side in SIDES for target in _targets(shape, axle)]
        for name, label in (*layout.points, *layout.spring_points) if layout else ():
            for side in SIDES:
                point = Field(f"point.{name}", label, "Points", methods=POINT, part_of="Point")
                fields.append(placed(point, axle, side))
    return tuple(replace(field, phase="car", required=field.name == "layout") for field in fields)


_CAR = (
    Field(
        "size",
        "Kind of car",
        "The car",
        choices=tuple((key, label) for key, (label, _) in MASSES.items()),
        hint="What it weighs, as long as nobody weighed it.",
    ),
    Field("wheelbase", "Wheelbase", "The car", methods=typed("length", "mm", 1000, 6000), half_width=5.0),
    Field(
        "loads",
        "Wheel loads",
        "The car",
        methods=WHEEL_LOADS,
        relative=0.01,
        hint="What stands on each tyre. What is not weighed is estimated, and marked so.",
    ),
    Field(
        "steering_ratio",
        "Steering ratio",
        "The car",
        methods=typed("ratio", "ratio", 5, 40),
        half_width=0.5,
        hint="Turn of the steering wheel per turn of the road wheels.",
    ),
    Field(
        "tyre_rate",
        "Tyre rate",
        "The car",
        methods=typed("rate", "n_per_mm", 50, 1000),
        relative=0.1,
        hint="How hard a tyre is, straight down. Left empty: taken as rigid; hub-to-arch heights leave it out.",
    ),
    Field(
        "marks",
        "Anything to know",
        "The car",
        methods=typed("words", "", 0, 400),
        hint="What a colleague should know before touching this car.",
    ),
)


def _axle(shape: Shape, axle: Axle) -> Iterator[Field]:
    layouts = tuple((key, one.label) for key, one in LAYOUTS.items() if axle in one.axles)
    yield Field("layout", "Layout", "Axle", choices=layouts)
    yield Field("track", "Track", "Axle", methods=typed("length", "mm", 800, 2600), half_width=3.0)
    yield Field("tyre", "Tyre size", "Axle", methods=typed("words", "", 0, 60), hint="As printed on the wall.")
    yield Field("pressure", "Tyre pressure, cold", "Axle", methods=typed("pressure", "bar", 0.5, 10), half_width=0.01)
    yield Field(
        "unsprung",
        "Unsprung weight per wheel",
        "Axle",
        methods=typed("force", "kgf", 5, 500),
        relative=0.1,
        hint="Wheel, brake, upright, half of arms and shaft. Left empty: estimated from the wheel load.",
    )
    if axle == "front":
        yield from _STEERING if shape.layout(axle) else _STEERING[:1]
    layout = shape.layout(axle)
    if layout and layout.across:
        yield Field(
            "panhard_body",
            "Panhard rod on the body at the",
            "Axle",
            choices=(("left", "Left"), ("right", "Right")),
        )
    if axle == "rear" and any(arm.key == "tie" for arm in shape.arms(axle)):
        yield replace(_STEERING[0], label="Toe links")
    yield Field(
        "height_change",
        "Height change planned",
        "Targets",
        methods=typed("length", "mm", -150, 150),
        half_width=5.0,
        hint="Of the body at this axle; lower is negative. Left empty: none.",
    )
    if shape.layout(axle):
        yield from _together(axle)
        for name in ("toe", "camber", "caster") if shape.steering_axis(axle) else ("toe", "camber"):
            yield Field(
                f"apart.{name}",
                f"{name.capitalize()}, left to right at most",
                "Targets",
                methods=typed("angle", "deg", 0, 5),
                hint="Left empty: not judged.",
            )
    yield from _SPRINGS
    if shape.choice(f"{axle}.spring.kind") == "coilover":
        yield Field(
            "spring.perch_pitch",
            "Seat thread pitch",
            "Springs and dampers",
            methods=typed("pitch", "pitch_mm", 0.5, 4),
        )
    yield from _DAMPERS
    yield from record_fields(shape, axle)
    yield Field(
        "bar.fitted",
        "Sway bar",
        "Sway bar",
        choices=(("none", "None"), ("fixed_links", "Fixed links"), ("adjustable_links", "Adjustable links")),
    )
    if shape.choice(f"{axle}.bar.fitted", "none") != "none":
        yield from _BAR


_STEERING = (
    Field("steer", "Tie rods", "Steering", choices=(("behind", "Behind the axle"), ("ahead", "Ahead of the axle"))),
    Field(
        "linkage", "Steered by", "Steering", choices=(("rack", "A rack, two tie rods"), ("drag_link", "A drag link"))
    ),
)
_SPRINGS = (
    Field("spring.kind", "Spring", "Springs and dampers", choices=tuple(SPRINGS.items())),
    Field("spring.rate", "Spring rate", "Springs and dampers", methods=RATE, relative=PRINTED_RATE),
    Field(
        "spring.free",
        "Spring free length",
        "Springs and dampers",
        methods=typed("length", "mm", 80, 1800),
        half_width=2.0,
        hint="Of a leaf pack its arch, of a torsion bar or air spring leave it empty.",
    ),
    Field(
        "motion_ratio",
        "Motion ratio",
        "Springs and dampers",
        half_width=0.02,
        methods=MOTION_RATIO,
        hint="Spring travel per wheel travel, or the other way round: pick the unit.",
    ),
)
_DAMPERS = (
    Field(
        "damper.open",
        "Damper, fully open",
        "Springs and dampers",
        methods=typed("length", "mm", 150, 1200),
        half_width=1.0,
        hint="Eye to eye, or top face to lower eye.",
    ),
    Field(
        "damper.closed",
        "Damper, fully closed",
        "Springs and dampers",
        methods=typed("length", "mm", 100, 1000),
        half_width=1.0,
    ),
)
_BAR = (
    Field("bar.diameter", "Bar diameter", "Sway bar", methods=typed("length", "mm", 8, 60), half_width=0.1),
    Field(
        "bar.bore",
        "Bar bore",
        "Sway bar",
        methods=typed("length", "mm", 0, 55),
        half_width=0.2,
        hint="Left empty: solid.",
    ),
    Field("bar.length", "Twisting length", "Sway bar", methods=typed("length", "mm", 200, 1600), half_width=3.0),
    *(
        Field(
            f"bar.hole_{n}",
            f"Arm to hole {n}",
            "Sway bar",
            methods=typed("length", "mm", 40, 600),
            half_width=1.0,
            hint="Lever from the bar's axis; hole 1 is the outermost." if n == 1 else "",
        )
        for n in (1, 2, 3)
    ),
    Field("bar.hole", "Hole in use", "Sway bar", choices=(("1", "Hole 1"), ("2", "Hole 2"), ("3", "Hole 3"))),
    Field(
        "bar.link_ratio",
        "Bar-end travel per wheel travel",
        "Sway bar",
        methods=typed("ratio", "ratio", 0.1, 1.5),
        half_width=0.02,
        hint="Where on the arm or strut the link sits. Left empty: 1, as on a strut.",
    ),
    Field("bar.link", "Link length", "Sway bar", methods=typed("length", "mm", 30, 600), half_width=1.0),
)


def _together(axle: Axle) -> Iterator[Field]:
    """How far off what both wheels of an axle make together may be."""
    yield Field(
        "within.total_toe",
        "Total toe may be off by",
        "Targets",
        methods=typed("angle", "deg", 0.01, 4),
        hint="Left empty: what both wheels may be off by.",
    )
    if axle == "front":
        yield Field(
            "within.steering_wheel",
            "Steering wheel may stand off by",
            "Targets",
            methods=typed("angle", "deg", 0.1, 20),
            hint=f"Running straight. Left empty: {from_core(STEERING_WHEEL_WITHIN, 'deg'):.1f}°.",
        )
    else:
        yield Field(
            "within.thrust",
            "Thrust line may be off by",
            "Targets",
            methods=typed("angle", "deg", 0.01, 2),
            hint="Left empty: what one wheel's toe may be off by.",
        )


def _hangs_on(layout: Layout | None, arm: ArmKind) -> Iterator[Field]:
    """How a part is joined and what it carries, where the car differs from its layout."""
    part = parts_of(layout.key).get(arm.key) if layout else None
    for joint in part.joints if part else ():
        if len(joint.kinds) > 1:
            kinds = tuple((kind, KINDS[kind]) for kind in joint.kinds)
            label = f"{joint.label.capitalize()}: joined by"
            yield Field(f"{arm.key}.kind_{joint.key}", label, HANGS_ON, choices=kinds)
    if part:
        yield Field(f"{arm.key}.along", "Runs along it", HANGS_ON, choices=tuple(ALONG.items()))
        if part.carried != "axle":
            stands = (("yes", "Yes"), ("no", "No"))
            yield Field(f"{arm.key}.sprung", "A spring stands on it", HANGS_ON, choices=stands)


def _arm(shape: Shape, arm: ArmKind, axle: Axle, side: FieldSide) -> Iterator[Field]:
    where = ".".join(part for part in (axle, side, arm.key) if part)
    yield Field(
        f"{arm.key}.length",
        "Length",
        arm.label,
        methods=typed("length", "mm", 40, 2500),
        half_width=5.0,
        sides=8.0,
        hint="Centre to centre; bushing axis to ball joint for a wishbone.",
    )
    yield Field(
        f"{arm.key}.rise",
        "Rise",
        arm.label,
        methods=typed("length", "mm", -600, 600),
        half_width=3.0,
        sides=10.0,
        hint="Outer joint above the inner pivot, at ride height. Below is negative.",
    )
    for told in arm.plan:
        yield Field(
            f"{arm.key}.{told.name}",
            told.label,
            arm.label,
            methods=typed("length", "mm", told.low, told.high),
            half_width=3.0,
            hint="For geometry by tape, where points are not known.",
        )
    for key, label in arm.pivots:
        yield Field(f"{arm.key}.bush_{key}", label.capitalize(), arm.label, choices=tuple(BUSHING_KINDS.items()))
    yield Field(f"{arm.key}.adjust", "Adjusted by", arm.label, choices=tuple(ADJUSTERS.items()))
    way = shape.choice(f"{where}.adjust", "fixed")
    if way != "fixed":
        yield from _adjuster(arm, way)
    if arm.key == "drag":
        yield Field(
            "drag.longer",
            "Made longer, it steers the wheels",
            arm.label,
            choices=(("right", "To the right"), ("left", "To the left")),
        )
        yield Field(
            "drag.body",
            "Its gear stands at the",
            arm.label,
            choices=(("left", "Left"), ("right", "Right")),
            hint="Where the body holds it. Left empty: on the Panhard rod's side.",
        )
    if arm.steers and not arm.shared:
        yield Field(
            f"{arm.key}.above",
            "Outer joint above the lower ball joint",
            arm.label,
            methods=typed("length", "mm", -300, 500),
            half_width=3.0,
            hint="For geometry by tape, where points are not known.",
        )
    if arm.steers or arm.key == "drag":
        yield replace(LEVER_OF_A_ROD, name=f"{arm.key}.lever", group=arm.label)


def _targets(shape: Shape, axle: Axle) -> Iterator[Field]:
    for name, label, limit in (
        ("toe", "Toe wanted", 2.0),
        ("camber", "Camber wanted", 8.0),
        ("caster", "Caster wanted", 15.0),
    ):
        if name != "caster" or shape.steering_axis(axle):
            yield Field(
                f"target.{name}",
                label,
                "Targets",
                methods=typed("angle", "deg", -limit, limit),
                hint="Left empty: as it was read." if name != "caster" else "Left empty: not aimed at.",
            )
            yield Field(
                f"within.{name}",
                f"{name.capitalize()} may be off by",
                "Targets",
                methods=typed("angle", "deg", 0.01, limit),
                hint=f"Half of the maker's range. Left empty: {from_core(TOLERANCES[name], 'deg'):.2f}°.",
            )
    layout = shape.layout(axle)
    if layout and layout.steering_axis:
        yield Field(
            "joint_height",
            "Lower joint to upper joint or strut top",
            "Targets",
            methods=typed("length", "mm", 80, 900),
            half_width=5.0,
            hint="Measured upright. Says what an arm's length does to camber, where points are not known.",
        )
        yield Field(
            "joint_inboard",
            "Upper joint or strut top inboard by",
            "Targets",
            methods=typed("length", "mm", -100, 300),
            half_width=5.0,
            hint="Against the lower joint, seen from the front. Left empty: a usual lean.",
        )
        yield Field(
            "joint_back",
            "Upper joint or strut top behind by",
            "Targets",
            methods=typed("length", "mm", -150, 300),
            half_width=5.0,
            hint="Against the lower joint, seen from the side. Left empty: by the caster as read.",
        )
    if layout and layout.movable == "strut_top":
        yield Field(
            "top_plate",
            "Strut top can be moved by",
            "Targets",
            methods=typed("length", "mm", 0, 40),
            hint="Either way from where it stands. Left empty: it cannot.",
        )


def _adjuster(arm: ArmKind, way: str) -> Iterator[Field]:
    def own(name: str, label: str, unit: str = "mm", low: float = 0, high: float = 300, **more: object) -> Field:
        quantity = "pitch" if unit == "pitch_mm" else "length"
        methods = typed(quantity, unit, low, high)
        return Field(f"{arm.key}.{name}", label, arm.label, methods=methods, **more)  # type: ignore[arg-type]

    if way in THREADED:
        ends = ("pitch", "hand", "pitch_2", "hand_2") if way == "sleeve" else ("pitch", "hand")
        for name in ends:
            end = ", other end" if name.endswith("2") else ""
            if name.startswith("pitch"):
                yield own(name, f"Thread pitch{end}", "pitch_mm", 0.5, 4)
            else:
                yield Field(f"{arm.key}.{name}", f"Thread hand{end}", arm.label, choices=HANDS)
        yield Field(f"{arm.key}.step", "Smallest step", arm.label, choices=tuple(STEPS.items()))
        yield Field(
            f"{arm.key}.lock",
            "Locked by",
            arm.label,
            choices=(("jam_nut", "Jam nut"), ("clamp", "Clamp or pinch bolt")),
        )
        yield own(
            "engagement",
            "Least thread engagement",
            low=5,
            high=80,
            hint="From the maker. Where unknown, one and a half thread diameters is usual.",
        )
        yield own(
            "engaged",
            "Thread engaged now",
            high=200,
            hint="At the end with the least. It stops the turns before the thread gets too short.",
        )
    if way == "cam":
        yield own("cam", "Cam offset", high=20, half_width=0.1, hint="Bolt centre to the middle of the cam's throw.")
        yield own("cam_marks", "Marks from end to end", "mm", 0, 40, hint="How many divisions the cam has.")
    if way == "shims":
        yield own("shim", "Thinnest shim", low=0.05, high=10)
    yield own("shortest", "Shortest setting", high=2500, hint="Limits of the part, or of where it sits.")
    yield own("longest", "Longest setting", high=2500)
