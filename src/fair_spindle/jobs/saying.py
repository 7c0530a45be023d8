"""Numbers and lines of the log in words, for screens and for the printed record."""

from __future__ import annotations

from math import degrees

from fair_spindle.core.baseline import FIELDS
from fair_spindle.core.floor.log import (
    Act,
    Counted,
    Entered,
    HeightRead,
    Moved,
    Noted,
    Reopened,
    Signed,
    Specified,
    Stepped,
    Tightened,
    Typed,
    Undone,
)
from fair_spindle.core.floor.readings import Quantity, read_entry
from fair_spindle.core.floor.wording import label_place, position_words
from fair_spindle.core.gauging import COVERAGE
from fair_spindle.core.planning.template import JobTemplate
from fair_spindle.core.threads import FLAT, tally
from fair_spindle.core.units import UNITS, from_core


def say_toe(angle: float) -> str:
    """Toe in minutes, with its direction."""
    minutes = degrees(angle) * 60
    way = "in" if minutes > 0.05 else "out" if minutes < -0.05 else ""
    return f"{abs(minutes):.1f}' {way}".strip()


def say_turns(flats: int) -> str:
    """A count in turns and flats."""
    count = tally(flats * FLAT)
    parts = [f"{count.turns} turn{'' if count.turns == 1 else 's'}"] if count.turns or not count.flats else []
    if count.flats:
        parts.append(f"{count.flats} flat{'' if count.flats == 1 else 's'}")
    return ("−" if count.back else "") + " ".join(parts)


def say_typed(typed: Typed | None) -> str:
    """A number as it was typed, with the unit meant."""
    if typed is None:
        return ""
    label = UNITS[typed.unit].label
    return typed.text if any(letter.isalpha() for letter in typed.text) else f"{typed.text} {label}"


def say_field(key: str) -> str:
    """A field's name with its side."""
    owner, _, _ = key.partition(".")
    label = FIELDS[key].label if key in FIELDS else key
    return label if owner == "axle" else f"{owner.capitalize()} {label[0].lower()}{label[1:]}"


_SHOWN_IN = {
    "angle": "min",
    "force": "n",
    "rate": "n_per_mm",
    "pitch": "pitch_mm",
    "slope": "min_per_10mm",
    "motion_ratio": "spring_per_wheel",
    "count": "turn",
    "torque": "nm",
}


def say_quantity(key: str, quantity: Quantity) -> str:
    """A read value in its usual unit with ±, spread and number of readings."""
    kind = FIELDS[key].methods[0].parts[0].quantity
    unit = "deg" if key.endswith("camber") or key.endswith("twist_limit") else _SHOWN_IN.get(kind, "mm")
    value = from_core(quantity.value, unit)
    spread = COVERAGE * abs(quantity.uncertainty / UNITS[unit].factor)
    digits = 3 if kind == "motion_ratio" else 0 if kind == "force" else 2
    text = f"{value:.{digits}f} {UNITS[unit].label}"
    if spread:
        text += f" ± {spread:.{digits}f}"
    if quantity.count > 1:
        text += f", {quantity.count} readings, spread {quantity.spread:.1f} mm"
    return text


def say_entry(act: Entered) -> str:
    """How a filled-in field was understood."""
    read = read_entry(act)
    if isinstance(read, Quantity):
        return say_quantity(act.key, read)
    return dict(FIELDS[act.key].choices)[read]


def say_act(act: Act, template: JobTemplate) -> str:  # noqa: C901  one line per kind of act
    """A line of the log in words."""
    match act:
        case Entered():
            return f"{say_field(act.key)}: {say_entry(act)}"
        case Specified():
            return f"{template.group(act.group).label}: {say_typed(act.torque)}, source: {act.source}"
        case Moved():
            return f"Car {position_words(act.to, act.corner)}"
        case Stepped():
            title = template.step(act.step).title
            return f"Done: {title}" if act.outcome == "done" else f"Skipped: {title} ({act.reason})"
        case Noted():
            return f"Note: {act.text}"
        case Counted():
            return f"{act.side.capitalize()} tie-rod end, {act.direction}: {say_turns(act.flats)}"
        case HeightRead():
            return f"{act.side.capitalize()} corner read at {say_typed(act.height)} hub to arch"
        case Tightened():
            return _say_tightened(act, template)
        case Undone():
            return "Undone"
        case Signed():
            return f"Signed by {act.name}"
        case Reopened():
            return f"Opened again: {act.reason}"


def _say_tightened(act: Tightened, template: JobTemplate) -> str:
    names = ", ".join(label_place(place, template) for place in act.places)
    stage = {"loose": "loose", "hand": "started by hand", "snug": "snug", "torqued": "torqued"}[act.to]
    tail = f" {say_typed(act.reading)}" if act.reading else ""
    tail += f", by feel ({act.by_feel})" if act.by_feel else ""
    tail += f", override ({act.override})" if act.override else ""
    return f"{names}: {stage}{tail}"
