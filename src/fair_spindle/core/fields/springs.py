"""Springs, dampers, perches, spacers, bars and what ends the travel: as they are, and as they will be."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.wheels import AXLES, SIDES, Axle
from fair_spindle.core.fields.field import Field, Method, Part, placed, typed
from fair_spindle.core.fields.methods import WHEEL_LOADS
from fair_spindle.core.fields.shape import Shape

NEW, SEATS, LIMITS, GOALS = "New springs and dampers", "Seats and perches", "What ends the travel", "Heights wanted"
BAR = "Sway bar"
# A printed rate holds within 5 % in 95 of 100; as the half width of an even spread.  Common practice.
PRINTED_RATE = 0.043
FITS: dict[str, str] = {
    "as_before": "The springs it has",
    "coil": "Linear coil",
    "two_stage": "Coil, two rates",
    "table": "By a table",
    "stack": "Main spring and helper",
}


def _mm(name: str, label: str, low: float, high: float, half_width: float = 1.0, *, optional: bool = False) -> Part:
    return Part(name, label, "length", "mm", low, high, optional=optional, half_width=half_width)


RATE = (
    *typed("rate", "n_per_mm", 1, 800),
    Method(
        "pressed",
        "Pressed on a scale, read twice",
        (
            Part("force_1", "Force at the first length", "force", "kgf", 1, 3000, half_width=10.0),
            _mm("length_1", "First length", 30, 1800, 0.5),
            Part("force_2", "Force at the second length", "force", "kgf", 1, 3000, half_width=10.0),
            _mm("length_2", "Second length", 30, 1800, 0.5),
        ),
        "Some 20 and 40 mm pressed in; the difference of both is the rate.",
        gives="n_per_mm",
    ),
    Method(
        "wire",
        "From its wire",
        (
            _mm("wire", "Wire thickness", 3, 30, 0.05),
            _mm("mean", "Coil diameter, middle to middle of the wire", 30, 250, 0.5),
            Part("coils", "Coils that move", "pieces", "piece", 1, 30, half_width=0.25),
        ),
        "Steel. The end coils that lie flat do not count.",
        gives="n_per_mm",
    ),
    Method(
        "leaves",
        "From its leaves",
        (
            _mm("width", "Leaf width", 20, 150, 0.5),
            _mm("thickness", "Leaf thickness", 3, 30, 0.1),
            Part("leaves", "Leaves", "pieces", "piece", 1, 20),
            Part("full", "Of these from eye to eye", "pieces", "piece", 1, 20),
            _mm("span", "Eye to eye, straight", 500, 2000, 5.0),
        ),
        "Steel, clamped in the middle, all leaves of one thickness. Friction and the axle seat stiffen a real pack.",
        gives="n_per_mm",
    ),
    Method(
        "torsion",
        "From a torsion bar",
        (
            _mm("diameter", "Bar diameter", 8, 60, 0.05),
            _mm("length", "Twisting length", 200, 2000, 3.0),
            _mm("arm", "Arm", 60, 700, 2.0),
        ),
        "Solid steel; rate at the end of its arm.",
        gives="n_per_mm",
    ),
)
MOTION_RATIO = (
    *typed("motion_ratio", "spring_per_wheel", 0.2, 5),
    Method(
        "two_pairs",
        "Damper length and height, read twice",
        (
            _mm("damper_1", "Damper length", 100, 1200),
            _mm("height_1", "Hub to arch there", 150, 700),
            _mm("damper_2", "Damper length, second", 100, 1200),
            _mm("height_2", "Hub to arch there, second", 150, 700),
        ),
        "Spring on the damper. The second pair with the body 30 mm or more higher or lower.",
        gives="spring_per_wheel",
    ),
    Method(
        "guessed",
        "Guessed, from cars of this kind",
        (Part("ratio", "Motion ratio", "motion_ratio", "spring_per_wheel", 0.2, 5, half_width=0.08),),
        "Measured in five minutes it becomes four times surer.",
        gives="spring_per_wheel",
    ),
    Method(
        "tape",
        "With a tape, on the arm",
        (
            _mm("spring", "Pivot axis to the spring's foot", 30, 900, 7.0),
            _mm("joint", "Pivot axis to the outer joint", 60, 1200, 7.0),
            Part("lean", "Spring off square to the arm", "angle", "deg", 0, 70, half_width=0.035),
        ),
        "Foot over joint, times the cosine of the lean. A strut's lean counts with foot and joint the same.",
        gives="spring_per_wheel",
    ),
)
_TORSION = to_core(0.5, "nm_per_deg")
BONDED_RATE = (
    *typed("rate", "n_per_mm", 0, 60),
    Method(
        "bushings",
        "From bushings and arms",
        (
            Part("count", "Bushings that stay clamped at one wheel", "pieces", "piece", 0, 12),
            Part(
                "torsion",
                "Torsional rate of one",
                "torsion",
                "nm_per_deg",
                0.05,
                20,
                half_width=to_core(0.5, "nm_per_deg"),
            ),
            _mm("arm", "Their arms, pivot to outer joint", 60, 1200, 5.0),
        ),
        "1 to 2 N·m per degree is usual for one bushing of a road car's arm.",
        gives="n_per_mm",
    ),
)


def record_fields(shape: Shape, axle: Axle) -> Iterator[Field]:
    """What the car's record holds of its springs and dampers beside rate and free length.

    What a leaf pack, a threaded seat or a torsion bar needs is asked only where there is one.

    Raises NotFound: A layout that does not exist.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> names = [one.name for one in record_fields(shape_of({"front.spring.kind": "coilover"}), "front")]
    >>> "perch.upper" in names, "leaf.front_half" in names
    (True, False)
    """
    kind = shape.choice(f"{axle}.spring.kind")
    for name, label, low, high, hint in (
        ("spring.solid", "Spring, coils touching", 20, 600, "Left empty: not judged."),
        ("damper.gas", "Damper, gas force", 0, 3000, "Push it in by hand on a scale. Left empty: none."),
        ("damper.stop", "Bump stop, free height", 0, 200, "On the rod, or beside it."),
    ):
        force = name.endswith("gas")
        methods = typed("force", "n", low, high) if force else typed("length", "mm", low, high)
        yield Field(name, label, _SHELF, methods=methods, half_width=20.0 if force else 1.0, hint=hint)
    yield _stop_table("damper", "Bump stop, length and force", _SHELF)
    yield Field(
        "damper_ratio",
        "Motion ratio of the damper",
        _SHELF,
        half_width=0.02,
        methods=MOTION_RATIO,
        hint="Left empty: as the spring's, which it is where the spring stands on the damper.",
    )
    if kind == "coilover":
        for name, label, low, high in (
            ("perch.upper", "Upper spring seat below the upper eye", -50, 300),
            ("perch.lowest", "Lower seat above the lower eye, ring at the bottom", 20, 600),
            ("perch.thread", "Thread the ring can travel", 10, 400),
        ):
            yield Field(name, label, _SHELF, methods=typed("length", "mm", low, high), half_width=1.0)
    if kind == "leaf":
        yield Field(
            "leaf.place", "Axle", _SHELF, choices=(("under", "Under the springs"), ("over", "Over the springs"))
        )
        for name, label in (("front_half", "Front eye to axle seat"), ("rear_half", "Axle seat to rear eye")):
            yield Field(f"leaf.{name}", label, _SHELF, methods=typed("length", "mm", 200, 1200), half_width=5.0)
        yield Field(
            "leaf.arch",
            "Leaf, eyes above its axle seat",
            _SHELF,
            methods=typed("length", "mm", -150, 300),
            half_width=3.0,
            hint="At ride height, along the main leaf. Says how far the shackle swings.",
        )
        yield Field(
            "shackle.lean",
            "Shackle off upright",
            _SHELF,
            methods=typed("angle", "deg", 0, 70),
            half_width=0.05,
            hint="At ride height.",
        )
    if kind == "torsion_bar":
        yield Field(
            "torsion.arm", "Torsion bar's arm", _SHELF, methods=typed("length", "mm", 60, 700), half_width=2.0
        )
        yield Field(
            "torsion.angle",
            "Torsion bar's arm below level",
            _SHELF,
            methods=typed("angle", "deg", -60, 75),
            half_width=0.02,
            hint="At ride height, its outer end lower than the bar. Says what a turn of the key really lifts.",
        )


_SHELF = "Springs and dampers"


def job_fields(shape: Shape) -> tuple[Field, ...]:
    """What a job on springs asks: what will be fitted, where perches go, what ends the travel, what is wanted.

    Every spacer, insulator, worn seat, block, shackle and key is a thickness or an angle like any other.

    Raises NotFound: A layout that does not exist.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.fields.shape import shape_of
    >>> keys = [one.key for one in job_fields(shape_of({"front.new_spring.fit": "stack"}))]
    >>> "front.new_spring.helper_rate" in keys, "rear.new_spring.helper_rate" in keys
    (True, False)
    """
    fields = []
    for axle in AXLES:
        fields += [placed(one, axle) for one in (*_new(shape, axle), *_bar(shape, axle))]
        for side in SIDES:
            fields += [placed(one, axle, side) for one in (*_seat(shape, axle), *_limits(shape, axle))]
    if any(arm.key == "drag" for arm in shape.arms("front")):
        fields += [placed(one, "front") for one in _STEERING_DAMPER]
    fields += [placed(one, "") for one in (_CROSS, *_ABOARD)]
    return tuple(replace(field, phase="plan", required=False) for field in fields)


def scales_after() -> Field:
    """Wheel loads weighed again after the work.

    Asked for, never required.

    Common practice, no published source.

    Examples
    --------
    >>> scales_after().key
    'car.check_loads'
    """
    field = Field("check_loads", "Wheel loads", "After settling", methods=WHEEL_LOADS[:1], relative=0.01)
    return placed(replace(field, phase="check", required=False), "")


_CROSS = Field(
    "target_cross",
    "Cross weight wanted",
    GOALS,
    methods=typed("share", "pct", 30, 70),
    hint="Front right and rear left over the whole. Left empty: not aimed at.",
)


ABOARD = "Aboard when it is driven"
_ABOARD = (
    Field(
        "driver_side",
        "The driver sits on the",
        ABOARD,
        choices=(("left", "Left"), ("right", "Right")),
    ),
    *(
        Field(
            f"aboard.{name}",
            label,
            ABOARD,
            methods=typed("force", "kgf", low, 600),
            half_width=5.0,
            hint=hint,
        )
        for name, label, low, hint in (
            ("driver", "Driver", 0, "More than was in the car when its height was read."),
            ("passenger", "Passenger beside", 0, ""),
            ("boot", "Load in the boot", 0, "Over the rear axle or behind it."),
            ("fuel", "Fuel more than when it was read", -150, "Less is negative. A litre weighs about 0.75 kg."),
        )
    ),
)


def _length(name: str, label: str, group: str, low: float, high: float, hint: str = "") -> Field:
    return Field(name, label, group, methods=typed("length", "mm", low, high), half_width=0.5, hint=hint)


def _stop_table(name: str, label: str, group: str) -> Field:
    return Field(
        f"{name}.stop_table",
        label,
        group,
        methods=typed("table", "", 0, 400),
        half_width=2.0,
        hint="In mm and N, pairs apart by semicolons, from free to pressed: 60 0; 45 400; 25 3000. Left empty: a "
        "usual one of its free height.",
    )


def _new(shape: Shape, axle: Axle) -> Iterator[Field]:
    kind, fit = shape.choice(f"{axle}.spring.kind"), shape.choice(f"{axle}.new_spring.fit", "as_before")
    yield Field("new_spring.fit", "Springs that go in", NEW, choices=tuple(FITS.items()))
    if fit in ("coil", "two_stage", "stack"):
        yield Field("new_spring.rate", "New spring rate", NEW, methods=RATE, relative=PRINTED_RATE)
    if fit == "two_stage":
        yield Field("new_spring.rate_2", "Second rate", NEW, methods=typed("rate", "n_per_mm", 1, 800), relative=0.05)
        yield Field(
            "new_spring.switch", "Second rate begins at", NEW, methods=typed("force", "n", 50, 20000), relative=0.05
        )
    if fit == "table":
        yield Field(
            "new_spring.table",
            "Length and force",
            NEW,
            methods=typed("table", "", 0, 400),
            half_width=2.0,
            hint="In mm and N, pairs apart by semicolons, from free to pressed: 300 0; 280 620; 250 1900.",
        )
    elif fit != "as_before":
        yield Field(
            "new_spring.free", "New free length", NEW, methods=typed("length", "mm", 40, 1800), half_width=2.0
        )
        yield _length("new_spring.solid", "New spring, coils touching", NEW, 10, 600, "Left empty: not judged.")
    if fit == "stack":
        yield Field("new_spring.helper_rate", "Helper rate", NEW, methods=RATE, relative=0.1)
        yield _length("new_spring.helper_free", "Helper free length", NEW, 10, 300)
        yield _length("new_spring.helper_solid", "Helper, coils touching", NEW, 3, 200)
        yield _length("new_spring.ring", "Ring between them", NEW, 0, 60, "Printed side up.")
    yield _length(
        "new_top.spacer",
        "Spacer on top of the unit",
        NEW,
        -60,
        120,
        "Between unit and body, or a unit whose body is set longer. It lifts by its thickness over the motion ratio.",
    )
    yield Field(
        "new_damper.gas",
        "New damper, gas force",
        NEW,
        methods=typed("force", "n", 0, 3000),
        half_width=20.0,
        hint="Left empty: as the old one's.",
    )
    for name, label in (
        ("open", "New damper, fully open"),
        ("closed", "New damper, fully closed"),
        ("stop", "New bump stop"),
    ):
        yield _length(f"new_damper.{name}", label, NEW, 0, 1200, "Left empty: as the old one's.")
    yield _stop_table("new_damper", "New bump stop, length and force", NEW)
    yield Field(
        "bonded.rate",
        "Bonded rubber that stays clamped, rate at the wheel",
        SEATS,
        methods=BONDED_RATE,
        relative=0.4,
        hint="0 where every rubber pivot is loosened and clamped again at the new height. Left empty: not known.",
    )
    if kind == "leaf":
        yield _length(
            "new_block", "Block between spring and axle, thicker by", NEW, -150, 150, "Thinner is negative."
        )
        yield _length("new_shackle", "Shackle longer by", NEW, -150, 150, "Pivot to pivot; shorter is negative.")
    if kind == "torsion_bar":
        yield Field(
            "new_key",
            "Torsion bar turned on by",
            NEW,
            methods=typed("angle", "deg", -30, 30),
            half_width=0.005,
            hint="Key or adjusting screw; the way that lifts is positive.",
        )


def _bar(shape: Shape, axle: Axle) -> Iterator[Field]:
    if shape.choice(f"{axle}.bar.fitted", "none") == "none":
        return
    yield Field("new_bar.hole", "Hole from now on", BAR, choices=tuple((str(n), f"Hole {n}") for n in (1, 2, 3)))
    yield Field(
        "new_bar.diameter",
        "New bar, diameter",
        BAR,
        methods=typed("length", "mm", 8, 60),
        half_width=0.1,
        hint="Left empty: the bar it has.",
    )
    yield _length("new_bar.bore", "New bar, bore", BAR, 0, 55, "Left empty: solid.")
    yield _length(
        "bar.gap",
        "Right link misses its hole by",
        BAR,
        -150,
        150,
        "Left link on, car level on its wheels; positive where the bar's end stands above.",
    )
    yield Field(
        "bar.link_from",
        "The link",
        BAR,
        choices=(
            ("arm", "Stands on the arm, the bar at its top"),
            ("strut", "Hangs from the strut, the bar at its foot"),
        ),
    )
    yield _length("bar.lean", "Link off upright", BAR, 0, 200, "Sideways, between its two joints.")


def _seat(shape: Shape, axle: Axle) -> Iterator[Field]:
    kind = shape.choice(f"{axle}.spring.kind")
    yield _length(
        "new_seat",
        "Spring seat higher by",
        SEATS,
        -60,
        120,
        "Spacer, thicker insulator. A worn seat or a missing insulator is negative.",
    )
    if kind == "coilover":
        yield Field(
            "perch_up", "Ring turned up by", SEATS, methods=typed("count", "turn", -80, 80), hint="Down is negative."
        )
    yield _length("spring_fitted", "Spring as it stands, seat to seat", SEATS, 20, 1200, "At ride height, before.")
    yield Field(
        "rubber.rate",
        "Rubber wound up, rate at the wheel",
        SEATS,
        methods=typed("rate", "n_per_mm", 0, 60),
        relative=0.3,
        hint="Of bonded bushings that were clamped off height and will be released. Left empty: none.",
    )
    yield _length("rubber.clamped", "Rubber was clamped at", SEATS, 100, 900, "Hub-to-arch height then.")
    yield _length("target.height", "Height wanted", GOALS, 100, 800, "Hub to arch. Left empty: not aimed at.")


_STEERING_DAMPER = tuple(
    _length(f"steer_damper.{name}", label, LIMITS, 100, 900)
    for name, label in (
        ("open", "Steering damper, fully open"),
        ("closed", "Steering damper, fully closed"),
        ("at_left", "Its length at full lock left"),
        ("at_right", "Its length at full lock right"),
    )
)


def _limits(shape: Shape, axle: Axle) -> Iterator[Field]:
    for name, label in (
        ("hose", "Brake hose tight at"),
        ("wire", "Sensor wire tight at"),
        ("strap", "Limit strap tight at"),
        ("shaft", "Axle joint at its angle at"),
        ("spring_off", "Spring leaves its seat at"),
    ):
        yield _length(f"limit.{name}", label, LIMITS, 150, 900, "Hub-to-arch height, wheel hanging.")
    yield _length(
        "limit.arch", "Tyre meets the arch at", LIMITS, 50, 600, "Hub-to-arch height; wheel up and steered."
    )
    layout = shape.layout(axle)
    if layout and any(arm.key == "lower" for arm in layout.arms):
        yield Field(
            "limit.joint",
            "Lower joint's angle, most from level",
            LIMITS,
            methods=typed("angle", "deg", 5, 60),
            hint="Of the arm, where the ball joint ends.",
        )
