"""The ways of the trade to take each measurement."""

from __future__ import annotations

from math import hypot

from fair_spindle.core.basics.units import to_core
from fair_spindle.core.basics.wheels import AXLES, WHEELS
from fair_spindle.core.fields.field import Method, Part

_TAPE = 0.5
_GAP = 0.5
# A rim runs out by about half a millimetre, a string lies parallel to about one over the length of a car: common
# practice, no published source.  Across a rim, a sixth of that length,
# the string leaves a sixth of its millimetre. [mm]
_RUN_OUT, _STRING = 0.5, 0.15
_TURN = "Roll the car on by half a turn of the wheel and read again: the middle of both is free of the rim's run-out."
_LEVEL = to_core(0.1, "deg")
_TOE = to_core(3, "min")


def _length(name: str, label: str, low: float, high: float, half_width: float = 0.0, *, carry: bool = False) -> Part:
    return Part(name, label, "length", "mm", low, high, half_width=half_width, carry=carry)


def _angle(name: str, label: str, limit: float, half_width: float = 0.0) -> Part:
    return Part(name, label, "angle", "deg", -limit, limit, half_width=half_width)


def _slope(angle: str, limit: float, half_width: float) -> tuple[Method, ...]:
    """Typed, or from the angle read at two heights; both angles' parts keep the key they are stored under."""
    return (
        Method("typed", "Known slope", (Part("slope", f"{angle} per bump", "slope", "min_per_10mm", -limit, limit),)),
        Method(
            "two_heights",
            f"{angle} read at two heights",
            (
                _length("height_1", "First height", 150, 700, 1.0),
                _angle("toe_1", f"{angle} there", 10, half_width),
                _length("height_2", "Second height", 150, 700, 1.0),
                _angle("toe_2", f"{angle} there", 10, half_width),
            ),
            gives="min_per_10mm",
        ),
    )


HEIGHT = (
    Method("hub_to_arch", "Hub centre to arch lip", (_length("height", "Height", 150, 700),)),
    Method(
        "settled_twice",
        "Hub to arch, settled from above and from below",
        (
            _length("from_above", "After the body was lifted and let go", 150, 700, 1.5),
            _length("from_below", "After the body was pressed down and let go", 150, 700, 1.5),
        ),
        "The suspension's own friction holds it 3 to 5 mm apart; the middle of both is where it wants to stand.",
    ),
    Method(
        "ground_to_arch",
        "Ground to arch lip, less ground to hub",
        (
            _length("arch", "Ground to arch lip", 300, 1300, 2.2),
            _length("hub", "Ground to hub centre", 150, 600, 1.0),
        ),
        "Keeps the tyre out of it only as long as both are read on the same spot.",
    ),
)
_ACROSS = _length("across", "Measured across", 150, 1500, 1.0, carry=True)
TOE = (
    Method("angle", "Angle", (_angle("toe", "Toe", 10),)),
    Method("rim", "Length at a diameter", (_length("toe", "Toe", -150, 150, _GAP), _ACROSS), _TURN, "min", _RUN_OUT),
    Method(
        "strings",
        "Two string gaps",
        (
            _length("front", "Front gap", 0, 500, _GAP),
            _length("rear", "Rear gap", 0, 500, _GAP),
            _ACROSS,
        ),
        "String outside the car, parallel to its centre line. " + _TURN,
        "min",
        hypot(_RUN_OUT, _STRING),
    ),
    Method(
        "strings_turned",
        "Two string gaps, wheel rolled on",
        (
            _length("front", "Front gap", 0, 500, _GAP),
            _length("rear", "Rear gap", 0, 500, _GAP),
            _length("front_again", "Front gap, half a turn on", 0, 500, _GAP),
            _length("rear_again", "Rear gap, half a turn on", 0, 500, _GAP),
            _ACROSS,
        ),
        "Read, roll the car on by half a turn of the wheel, read again: a rim that does not run true drops out.",
        "min",
        2 * _STRING,
    ),
)
TOTAL_TOE = (
    Method(
        "plates",
        "Plates and two tapes",
        (
            _length("front", "Front tape", 800, 2600, _TAPE),
            _length("rear", "Rear tape", 800, 2600, _TAPE),
            _ACROSS,
        ),
        "Plates against both wheels, one tape ahead of and one behind the hubs.",
        gives="min",
    ),
    Method(
        "bar",
        "Toe bar, difference",
        (Part("difference", "Rear less front", "length", "mm", -80, 80, half_width=0.5), _ACROSS),
        "Set at the rear, rolled half a turn, read at the front.",
        gives="min",
    ),
    Method("angle", "Angle, both wheels", (_angle("toe", "Total toe", 10),)),
)
CAMBER = (
    Method("angle", "Digital level", (_angle("value", "Camber", 15),)),
    Method(
        "level_and_floor",
        "Digital level, floor read too",
        (_angle("value", "Wheel", 20, _LEVEL), _angle("floor", "Floor, rising outward", 10, _LEVEL)),
        "What the floor slopes is taken off: a floor that rises outward leans the wheel in.",
    ),
    Method(
        "plumb",
        "Plumb line, two gaps",
        (
            _length("top", "Gap at the top", 0, 300, _GAP),
            _length("bottom", "Gap at the bottom", 0, 300, _GAP),
            Part("span", "Between them", "length", "mm", 150, 900, half_width=1.0, carry=True),
        ),
        gives="deg",
    ),
)
CASTER = (
    Method(
        "sweep",
        "Sweep, camber read twice",
        (
            _angle("out", "Camber, steered out", 20, _LEVEL),
            _angle("in", "Camber, steered in", 20, _LEVEL),
            Part("steer", "Steered each way", "angle", "deg", 3, 45, half_width=to_core(0.5, "deg"), carry=True),
        ),
        "Any angle, the same both ways, from straight ahead. Plates or greased sheets under the wheels.",
    ),
    Method("angle", "Known angle", (_angle("value", "Caster", 25),)),
)
BUMP_SLOPE = _slope("Toe", 60, _TOE)
CAMBER_SLOPE = _slope("Camber", 90, _LEVEL)
ANGLES_AT = (
    Method(
        "three",
        "Height, toe and camber there",
        (
            _length("height", "Height, hub to arch", 150, 700, 1.0),
            _angle("toe", "Toe there", 10, _TOE),
            _angle("camber", "Camber there", 15, _LEVEL),
        ),
        "Body pulled down or raised, wheel on its plate or greased sheet.",
        gives="mm",
    ),
)
LEVER = (
    Method("typed", "Typed", (_length("value", "Steering lever", 40, 400, 3.0),)),
    Method(
        "joint_to_joint",
        "Joint to joint, and how far out of square",
        (
            _length("distance", "Lower ball joint to rod joint", 40, 500, 1.5),
            _length("aside", "Rod joint farther out or in", 0, 300, 2.0),
            _length("above", "Rod joint higher or lower", 0, 400, 2.0),
        ),
        "Only what lies fore and aft turns the wheel: seen from above, square to the rod.",
    ),
)
LINK_SETTING = (
    Method("centre_to_centre", "Centre to centre", (_length("length", "Length", 20, 2500, 1.0),)),
    Method(
        "exposed_thread",
        "Exposed thread",
        (_length("inner", "At the inner end", 0, 200, 0.5), _length("outer", "At the outer end", 0, 200, 0.5)),
        "A single-ended link has 0 at the other end.",
    ),
    Method("turns_off", "Turns counted off", (Part("turns", "Turns", "count", "turn", 0, 80, half_width=1 / 12),)),
    Method(
        "against_old",
        "Against the old part",
        (Part("difference", "New less old", "length", "mm", -200, 200, half_width=1.0),),
        "Laid side by side; positive where the new one is longer.",
    ),
)
BAR_GAPS = (
    Method(
        "gaps",
        "Gap left and right",
        (_length("left", "Left gap", 0, 400, 0.5), _length("right", "Right gap", 0, 400, 0.5)),
        "From the bar's bend to the same face at both sides.",
    ),
)
WHEEL_LOADS = (
    Method(
        "four_scales",
        "Four scales",
        tuple(Part(wheel.number, wheel.label, "force", "kgf", 20, 5000) for wheel in WHEELS),
    ),
    Method(
        "two_axles",
        "Two axle weights",
        tuple(Part(name, f"{name.capitalize()} axle", "force", "kgf", 40, 10000) for name in AXLES),
        "Left and right are then taken as equal, and marked as estimated.",
    ),
    Method(
        "total_and_share",
        "Total and front share",
        (
            Part("total", "Whole car", "force", "kgf", 80, 20000),
            Part("share", "On the front axle", "share", "pct", 20, 80),
        ),
        "All four loads are then estimates, and marked so.",
    ),
    Method(
        "learned",
        "Learned from heights",
        tuple(Part(wheel.number, wheel.label, "force", "n", 200, 50000) for wheel in WHEELS),
        "By a job's heights before and after; estimates.",
    ),
)
DAMPER_CLICKS = (
    Method(
        "clicks",
        "From full hard",
        (
            Part("rebound", "Rebound", "clicks", "click", 0, 80),
            Part("compression", "Compression", "clicks", "click", 0, 80, optional=True),
        ),
        "Counted while turning out from fully closed; put back where it was.",
    ),
)
_AHEAD = _length("ahead", "Ahead of the line across", -6000, 6000, 2.0)
_UP = _length("up", "Above the floor", -200, 3000, 2.0)
_ONE_DATUM = (
    "A plumb bob from the joint marks the floor. Behind the line across is minus. Every point of the car from the "
    "same lines and floor."
)
POINT = (
    Method(
        "point",
        "x forward, y left, z up",
        tuple(_length(axis, axis, -6000, 6000, 2.0) for axis in ("x", "y", "z")),
        "From any one origin on the car's centre line. Right-hand points have negative y.",
    ),
    Method(
        "from_centre",
        "Tape from the chalk lines, rule from the floor",
        (_AHEAD, _length("aside", "Plumb mark to the car's centre line", 0, 1500, 2.0), _UP),
        _ONE_DATUM,
    ),
    Method(
        "from_string",
        "Tape from a string beside the car",
        (
            _AHEAD,
            _length("string", "String to the car's centre line", 300, 2000, 1.0, carry=True),
            _length("gap", "Plumb mark in from the string", -500, 1900, 2.0),
            _UP,
        ),
        _ONE_DATUM,
    ),
)
