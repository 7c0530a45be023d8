"""How each quantity is measured: four lines, what it usually leaves open, how long it takes, the common mistake.

Common practice, no published source; the ± are this product's own defaults where a field has one.
"""

from __future__ import annotations

from fair_spindle.core.basics.value_object import value_object


@value_object
class Card:
    """One way to measure; ``drawing`` names its picture, ``lines`` say how, in four short ones."""

    key: str
    title: str
    drawing: str
    lines: tuple[str, str, str, str]
    usual: str
    minutes: str
    mistake: str


CARDS: dict[str, Card] = {
    one.key: one
    for one in (
        Card(
            "hub_to_arch",
            "Hub centre to arch lip",
            "height",
            (
                "Level floor, tyres at pressure, nobody aboard.",
                "Roll it a car's length, bounce both ends.",
                "Tape from the hub's centre straight up to the lip.",
                "The same spot of the lip each time: mark it.",
            ),
            "± 2 to 5 mm, friction included",
            "1 min a wheel",
            "Read right after the jack: it stands high by its friction.",
        ),
        Card(
            "settled_twice",
            "Settled from above and from below",
            "height",
            (
                "Press the corner down, let it rise, read.",
                "Lift the corner, let it sink, read.",
                "Both readings into the field.",
                "The truth lies between: friction cancels.",
            ),
            "± 1 to 2 mm",
            "2 min a wheel",
            "Only one of the two: friction stays in it.",
        ),
        Card(
            "strings",
            "Toe by strings",
            "strings",
            (
                "A string on each side at hub height, on stands.",
                "Both the same distance from the hubs of one axle, front and rear.",
                "Gap to the rim ahead and behind, at one height.",
                "Rear gap larger is toe-in.",
            ),
            "± 3′ with a rule to half a millimetre",
            "15 min, all wheels",
            "The strings not parallel: every wheel is off by the same.",
        ),
        Card(
            "rim",
            "Toe over a known length",
            "plates",
            (
                "Straight edge or plate against the tyre.",
                "Offset at two points a known length apart.",
                "Type both: offset and length.",
                "Turn the wheel half round, read again: rim run-out shows.",
            ),
            "± 4′ over 400 mm",
            "3 min a wheel",
            "Measured at the tread's bulge, not at one height.",
        ),
        Card(
            "plates",
            "Plates and two tapes",
            "plates",
            (
                "A plate against each wheel of the axle, upright.",
                "One tape ahead of the hubs, one behind, at one height.",
                "Rear less front over the plates' length is total toe.",
                "Roll it forward half a turn, read again.",
            ),
            "± 3′ in total",
            "5 min an axle",
            "Tapes at two heights, or hanging through.",
        ),
        Card(
            "level",
            "Camber by a digital level",
            "level",
            (
                "Level floor, wheel straight ahead.",
                "Level across the rim, or the plate, upright.",
                "Read, turn the level round, read again.",
                "The mean of both; their half difference is the level's own error.",
            ),
            "± 0.1°",
            "1 min a wheel",
            "The floor's slope read as camber: read the floor too.",
        ),
        Card(
            "plumb",
            "Camber by a plumb line",
            "plumb",
            (
                "Line over the tyre, weight still.",
                "Gap to the rim at the top and at the bottom.",
                "And the height between the two.",
                "A larger gap at the top is negative camber.",
            ),
            "± 0.15° over 400 mm",
            "3 min a wheel",
            "The line touches the tyre's bulge.",
        ),
        Card(
            "sweep",
            "Caster by a sweep",
            "sweep",
            (
                "Front wheels on plates or greased sheets, brake held.",
                "Steer out by an angle, read camber.",
                "Steer in by the same, read camber.",
                "Type both and the angle: 10° to 25°.",
            ),
            "± 0.3°",
            "5 min a wheel",
            "Not the same angle both ways from straight ahead.",
        ),
        Card(
            "ratio",
            "Motion ratio in five minutes",
            "ratio",
            (
                "Hub to arch and spring or damper length: read both.",
                "Move the wheel by some 40 mm, on a jack.",
                "Read both again.",
                "Change of spring over change of wheel; about ride height.",
            ),
            "± 4 % with a tape",
            "5 min a corner",
            "Copied from a sheet: a few per cent there are millimetres here.",
        ),
        Card(
            "scales",
            "Wheel loads",
            "scales",
            (
                "Four scales, tops level with each other.",
                "Car rolled on, settled, nobody aboard.",
                "Steering straight, brake off.",
                "All four at once.",
            ),
            "± 0.5 % and what the floor adds",
            "10 min",
            "One scale 3 mm high: cross weight is wrong.",
        ),
        Card(
            "centre",
            "Centre to centre",
            "centre",
            (
                "From the middle of one joint to the middle of the other.",
                "Over both bolt heads where centres are hidden: edge to same edge.",
                "Caliper or steel rule, part straight.",
                "Read it twice from both ends.",
            ),
            "± 1 mm",
            "2 min",
            "Old part and new read over different edges.",
        ),
        Card(
            "rise",
            "How far an arm rises",
            "rise",
            (
                "At ride height, floor level.",
                "Height of the inner pivot's centre above the floor.",
                "Height of the outer joint's centre above the floor.",
                "Outer less inner; an arm that falls outward is below 0.",
            ),
            "± 2 mm",
            "2 min an arm",
            "Read with the car hanging: another angle altogether.",
        ),
        Card(
            "free_length",
            "Free length of a spring",
            "spring",
            (
                "Spring off, upright on a flat plate.",
                "Square beside it, rule along it.",
                "From plate to the highest point of the top coil.",
                "Turn it by a quarter, read again.",
            ),
            "± 1 mm",
            "2 min",
            "Measured in the strut: it is pressed there.",
        ),
        Card(
            "press",
            "Rate under a press",
            "press",
            (
                "Spring between plates on a scale, cage around it.",
                "Press it to about ride length, read length and load.",
                "Press it 20 mm further, read both.",
                "Load over length between the two.",
            ),
            "± 2 %",
            "10 min",
            "First coils closing: measure where it works.",
        ),
        Card(
            "point",
            "Points with tape, plumb and level",
            "point",
            (
                "Chalk line along the car's middle, one across at the front hubs.",
                "Plumb bob from each joint to the floor: mark it.",
                "Tape from the lines, or from a string beside the car; a rule from the floor.",
                "Left and right apart: they differ.",
            ),
            "± 1 to 2 mm",
            "20 min a corner",
            "The floor out of level: measure it under each mark.",
        ),
        Card(
            "turns",
            "Turns of a threaded end",
            "turns",
            (
                "Mark the jam nut and the rod.",
                "Turn the end off, counting whole turns.",
                "The flats over a whole turn: six to a turn.",
                "Say the number aloud at each turn, or tap it here.",
            ),
            "± half a flat",
            "3 min",
            "The end turned half way to get it started.",
        ),
    )
}

_BY_METHOD = {
    ("height", "hub_to_arch"): "hub_to_arch",
    ("height", "settled_twice"): "settled_twice",
    ("toe", "strings"): "strings",
    ("toe", "strings_turned"): "strings",
    ("toe", "rim"): "rim",
    ("total_toe", "plates"): "plates",
    ("camber", "angle"): "level",
    ("camber", "level_and_floor"): "level",
    ("camber", "plumb"): "plumb",
    ("caster", "sweep"): "sweep",
    ("loads", "four_scales"): "scales",
    ("rate", "pressed"): "press",
}
_BY_NAME = {
    "motion_ratio": "ratio",
    "damper_ratio": "ratio",
    "rise": "rise",
    "length": "centre",
    "end": "centre",
    "centres_before": "centre",
    "centres_after": "centre",
    "free": "free_length",
    "turns_off": "turns",
    "turns_on": "turns",
}


def card_of(key: str, method: str) -> str:
    """The card of a field's method; nothing where there is none."""
    name = key.rpartition(".")[2].removeprefix("check_")
    if ".point." in key:
        return "point"
    return _BY_METHOD.get((name, method)) or _BY_NAME.get(name, "")
