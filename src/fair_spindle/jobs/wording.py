"""Numbers and lines of the log in words, for screens and for the printed record."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from math import degrees
from types import MappingProxyType

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import UNITS, from_core
from fair_spindle.core.bolts.joint import BoltSpec
from fair_spindle.core.bolts.stages import STAGES
from fair_spindle.core.fields.field import Field, Sheet
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.log import (
    Act,
    Attached,
    Cleared,
    Counted,
    Drawn,
    Entered,
    Erased,
    Filled,
    HeightRead,
    Listed,
    Moved,
    Noted,
    Planned,
    Reopened,
    Settled,
    Signed,
    Specified,
    Stepped,
    Stopped,
    Struck,
    TakenOff,
    Tightened,
    Turned,
    Undone,
    Worked,
)
from fair_spindle.core.joblog.old_acts import of_places
from fair_spindle.core.joblog.readings import Quantity, read_entry
from fair_spindle.core.joblog.wording import label_field, label_wheel, position_words
from fair_spindle.core.predict.step_words import say_flats
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.threads import FLAT


def say_toe(angle: float) -> str:
    """Toe in minutes, with its direction."""
    minutes = degrees(angle) * 60
    way = "in" if minutes > 0.05 else "out" if minutes < -0.05 else ""
    return f"{abs(minutes):.1f}' {way}".strip()


def say_set(turns: float, one: Adjuster) -> str:
    """What to turn in words, longer or shorter; what has no flats is told in its own steps."""
    if turns == 0:
        return "leave it"
    way = "inboard" if one.acts_on[0][0] == "strut_top" else "longer"
    if turns < 0:
        way = "outboard" if way == "inboard" else "on, from no thread" if one.from_no_thread else "shorter"
    flats = turns / FLAT
    if one.unit == "turn" and abs(flats - round(flats)) < 1e-6:
        return f"{say_flats(abs(round(flats)))} {way}"
    word = {"turn": "turns", "mm": "mm", "shim": "shims"}[one.unit]
    return f"{abs(turns):.3g} {word} {way}"


def say_beyond(one: Adjuster, beyond: float) -> str:
    """Which part would be needed where an adjuster ends before its targets are met."""
    if not beyond:
        return ""
    ways = ("inboard", "outboard") if one.acts_on[0][0] == "strut_top" else ("longer", "shorter")
    return f"at its stop: a part that goes {abs(beyond):.1f} mm {ways[beyond < 0]} is needed"


def say_ring(turns: float) -> str:
    """A perch ring's turns in quarters, up or down."""
    if turns == 0:
        return "leave it"
    whole, part = divmod(abs(turns), 1)
    parts = {0.25: "¼", 0.5: "½", 0.75: "¾"}
    size = f"{int(whole) if whole else ''}{parts.get(part, '')}"
    return f"{size} turn{'' if size in ('1', '¼', '½', '¾') else 's'} {'up' if turns > 0 else 'down'}"


def say_typed(typed: Typed | None) -> str:
    """A number as it was typed, with the unit meant."""
    if typed is None:
        return ""
    label = UNITS[typed.unit].label if typed.unit else ""
    return typed.text if not label or any(letter.isalpha() for letter in typed.text) else f"{typed.text} {label}"


def say_spec(spec: BoltSpec | None) -> str:
    """A specification as it was typed."""
    if spec is None:
        return "no value entered"
    torque = say_typed(spec.torque)
    if spec.torque_to:
        torque = f"{spec.torque.text if spec.torque else ''} to {say_typed(spec.torque_to)}"
    said = {
        "torque": torque,
        "torque_angle": f"{torque} + {spec.angle_deg:g}°",
        "angle": f"{spec.angle_deg:g}° from snug",
        "stretch": f"stretched by {spec.stretch_mm:g} mm",
    }[spec.way]
    return f"{said}, {spec.condition.replace('_', '-')}" if spec.condition else said


def say_field(key: str, sheet: Sheet) -> str:
    """A field's name with its place on the car; its key where this car has no such field."""
    return label_field(sheet.fields[key]) if key in sheet.fields else key


_SHOWN_IN = {
    "angle": ("deg", 2),
    "force": ("n", 0),
    "rate": ("n_per_mm", 2),
    "pitch": ("pitch_mm", 2),
    "slope": ("min_per_10mm", 2),
    "motion_ratio": ("spring_per_wheel", 3),
    "count": ("turn", 2),
    "torque": ("nm", 1),
    "share": ("pct", 0),
    "ratio": ("ratio", 1),
    "pressure": ("bar", 2),
    "distance": ("km", 0),
    "clicks": ("click", 0),
}


def say_quantity(asked: Field, quantity: Quantity, method: str = "") -> str:
    """A read value in its usual unit with ±, spread and number of readings."""
    way = next((one for one in asked.methods if one.name == method), asked.methods[0])
    if set(quantity.parts) == set("xyz"):
        said = ", ".join(f"{axis} {quantity.parts[axis]:.1f}" for axis in ("x", "y", "z"))
        return f"{said} mm".replace("-", "−")
    unit, digits = _SHOWN_IN.get(UNITS[way.unit].quantity, ("mm", 2))
    if unit == "deg" and "toe" in asked.name:
        unit, digits = "min", 1
    value = from_core(quantity.value, unit)
    spread = COVERAGE * abs(quantity.uncertainty / UNITS[unit].factor)
    if unit == "mm" and (spread >= 0.2 or (not spread and round(value, 2) == round(value, 1))):
        digits = 1
    label = UNITS[unit].label if unit == "deg" else f" {UNITS[unit].label}"
    text = f"{round(value, digits) + 0.0:.{digits}f}{label}".replace("-", "−")
    if spread >= 0.5 * 10**-digits:
        text += f" ± {spread:.{digits}f}"
    if quantity.count > 1:
        apart = quantity.spread / abs(UNITS[unit].factor)
        text += f", {quantity.count} readings, spread {apart:.{max(digits, 1)}f}{label}"
    return text


# Inputs that no field asks for, by name: of the car as a whole, of an axle's springs, of a wheel.
OF_THE_CAR = {"car.mass": "Weight of the car", "car.front_share": "Share of it in front"}
OF_AN_AXLE = {"new_spring": "new spring,", "spring": "spring,"}
INPUTS = {
    "load": "wheel load",
    "dead": "unsprung weight",
    "load_apart": "wheel load against the other side",
    "dead_share": "unsprung share of its load",
}


def say_input_name(key: str, sheet: Sheet) -> str:
    """An input of a computation by its name; those that no field asks for by wheel and word."""
    if key in sheet.fields:
        return say_field(key, sheet)
    if key in OF_THE_CAR:
        return OF_THE_CAR[key]
    where, _, name = key.rpartition(".")
    axle, _, spring = where.partition(".")
    if spring and spring in OF_AN_AXLE:
        return f"{axle.capitalize()} {OF_AN_AXLE[spring]} {name}"
    return f"{label_wheel(where)} {INPUTS.get(name, name.replace('_', ' '))}"


def say_input(key: str, quantity: Quantity, sheet: Sheet) -> str:
    """Such an input's value with its ±."""
    if key in sheet.fields:
        return say_quantity(sheet.fields[key], quantity)
    open_ = COVERAGE * quantity.uncertainty
    if key.endswith("share"):
        return f"{100 * quantity.value:.0f} ± {100 * open_:.0f} %"
    if key.endswith((".set", ".typed")):
        return f"± {100 * open_:.0f} %" if key.endswith(".typed") else f"{quantity.value:.0f} ± {open_:.0f} mm"
    return f"{quantity.value:.0f} ± {open_:.0f} N"


def signed(said: str) -> str:
    """A difference with its sign, none where it is nothing."""
    nothing = not any(digit in "123456789" for digit in said.partition(" ± ")[0])
    return said if nothing or said.startswith("−") else f"+{said}"


@by_identity()
def say_entry(act: Entered, sheet: Sheet) -> str:
    """How a filled-in field is understood; as it was typed where this car has no such field now."""
    asked = sheet.fields.get(act.key)
    if asked is None:
        return say_numbers(act) or act.choice
    read = read_entry(act, asked)
    if isinstance(read, Quantity):
        return say_quantity(asked, read, act.method)
    return dict(asked.choices).get(read, read)


def say_numbers(act: Entered) -> str:
    """The numbers of an entry as they were typed; repeats after a bar."""
    return " | ".join(", ".join(say_typed(typed) for typed in row.values()) for row in (act.typed, *act.again))


def names_in(acts: Iterable[Act]) -> dict[str, str]:
    """Names of the joints and fasteners that acts tell of, by key, so that no line has to tell a key."""
    found: dict[str, str] = {}
    for act in acts:
        match act:
            case Drawn(joint=joint):
                found[joint.key] = joint.label
            case Planned(joints=joints):
                found |= {joint.key: joint.label for joint in joints}
            case Listed(fasteners=fasteners):
                found |= {fastener.key: f"{fastener.group}, place {fastener.place}" for fastener in fasteners}
    return found


def say_act(  # noqa: C901  one line per kind of act
    act: Act, template: JobTemplate, sheet: Sheet, names: Mapping[str, str] = MappingProxyType({})
) -> str:
    """A line of the log in words; ``names`` of joints and fasteners by key."""
    match act:
        case Entered():
            tail = f", with {act.gauge.name}" if act.gauge else ""
            return f"{say_field(act.key, sheet)}: {_say_safely(act, sheet)}{tail}"
        case Cleared():
            return f"{say_field(act.key, sheet)}: emptied"
        case Filled():
            compared = " to compare with" if act.purpose == "before" else ""
            return f"{len(act.entries)} entries from {act.source}{compared}"
        case Settled():
            return "Rolled and bounced: the car is settled"
        case Attached():
            where = say_field(act.subject, sheet) if "." in act.subject else _title(act.subject, template)
            return f"Picture “{act.name}” at {where}"
        case Listed():
            return f"{len(act.fasteners)} on the list of fasteners"
        case Struck():
            return f"Fastener “{names.get(act.key, act.key)}” struck off the list"
        case Specified():
            return f"{_name(f'left.{act.group}', names)}: {say_typed(act.torque)}, source: {act.source}"
        case Moved():
            return f"Car {position_words(act.to, act.corner, act.axle)}"
        case Stepped():
            said = {"done": "Done", "skipped": "Skipped", "reopened": "Opened again"}[act.outcome]
            return f"{said}: {_title(act.step, template)}" + (f" ({act.reason})" if act.reason else "")
        case Noted():
            return f"Note: {act.text}"
        case TakenOff():
            small = f" with {act.fasteners} small fasteners" if act.fasteners else ""
            return f"Came off: {act.name}{small}{f', {act.place}' if act.place else ''}"
        case Counted():
            end = f"{label_wheel(f'{act.axle}.{act.side}')}, threaded end"
            return f"{end}, {act.direction}: {say_flats(act.flats)}"
        case Turned():
            way = "longer" if act.steps > 0 else "shorter"
            wheel = label_wheel(act.wheel)
            return f"{wheel}, {act.adjuster[0].lower()}{act.adjuster[1:]}: {abs(act.steps)} steps {way}"
        case HeightRead():
            return f"{label_wheel(f'{act.axle}.{act.side}')} corner read at {say_typed(act.height)} hub to arch"
        case Tightened():
            return "; ".join(_say_worked(place, _name(place.joint, names)) for place in of_places(act))
        case Drawn():
            return f"Map of “{act.joint.label}”, {len(act.joint.bolts)} places"
        case Erased():
            return f"Map of “{names.get(act.joint, act.joint)}” taken off"
        case Worked():
            return _say_worked(act, _name(act.joint, names))
        case Planned():
            return f"Work order of {len(act.steps)} steps"
        case Stopped():
            return f"Stopped for the day{': ' if act.note else ''}{act.note}"
        case Undone():
            return "Undone"
        case Signed():
            return f"Signed by {act.name}"
        case Reopened():
            return f"Opened again: {act.reason}"


def _title(step: str, template: JobTemplate) -> str:
    """Title of a step; its key where a later plan no longer has it."""
    return next((one.title for one in template.steps if one.key == step), step)


def _say_safely(act: Entered, sheet: Sheet) -> str:
    """An old line may not fit the fields of today any more; it is then told as it was typed."""
    try:
        return say_entry(act, sheet)
    except InputError:
        return say_numbers(act) or act.choice


def _say_worked(act: Worked, name: str) -> str:
    places = ", ".join(str(place) for place in act.places)
    tail = f" {say_typed(act.reading)}" if act.reading else ""
    tail += f", pass of {act.percent} %" if act.percent < 100 else ""
    tail += f", {act.angle_deg:g}° on" if act.angle_deg else ""
    tail += f", adapter {act.adapter.adapter_mm:g} mm" if act.adapter else ""
    tail += f", by feel ({act.by_feel})" if act.by_feel else ""
    tail += f", override ({act.override})" if act.override else ""
    return f"{name}, place {places}: {STAGES[act.to].said}{tail}"


def _name(joint: str, names: Mapping[str, str]) -> str:
    return names.get(joint, joint.replace("-", " ").replace(".", " ").capitalize())
