"""Ends on a thread, turned off and on by count: what was counted, how the new end lies, turns to put on."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from math import hypot

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.gauging import COVERAGE
from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.turns.adjuster import Adjuster
from fair_spindle.core.turns.threads import FLAT, nearest_step

ARM = "tie"
ENDS = tuple(f"{wheel}.{ARM}" for wheel in WHEELS)
TURNS_ON = ".turns_on"
# How far a new end may leave its rod from the old length where neither was measured: ends of one name differ by
# millimetres, and threads are counted by eye.  The product's own. [mm]
UNTOLD_END, UNTOLD = 3.0, "untold"


@value_object
class Carried:
    """Turns on for a new end so that the rod keeps its length. [turn]

    ``exact`` with its ± (coverage 2), ``on`` in whole flats; ``off`` is what plain counting would put on; ``longer``
    by how much the new end is longer [mm]; ``thread`` is what it then holds on [mm].
    """

    end: str
    off: float
    exact: float
    plus_minus: float
    on: float
    longer: float
    thread: float


def flats_at(state: JobState, end: str, direction: str) -> int | None:
    """Flats at a threaded end coming off or going on: as typed at the step, or as counted; None where neither."""
    taken = state.entries.get(f"{end}.turns_{direction}")
    if taken and "value" in taken.act.typed:
        typed = taken.act.typed["value"]
        try:
            return round(read_number(typed.text, "count", typed.unit, "turns").value / FLAT)
        except InputError:
            return None
    return state.flats(end, direction) or None


def steps_turned(state: JobState, wheel: str, adjuster: Adjuster, after: int = 0) -> int:
    """Steps an adjuster was turned by, longer positive; a new end's turns on shorten it from no thread at all.

    ``after`` a place in the log only; counts add up, taking one back is another entry or an undo.
    """
    turned = [(seq, act) for seq, act in state.turned if seq > after]
    steps = sum(act.steps for _, act in turned if (act.wheel, act.adjuster) == (wheel, adjuster.name))
    if not adjuster.from_no_thread:
        return steps
    return steps - round(_put_on(state, adjuster.part, after) * FLAT / adjuster.step)


def _put_on(state: JobState, end: str, after: int) -> int:
    taken = state.entries.get(f"{end}.turns_on")
    if taken:
        return (flats_at(state, end, "on") or 0) if taken.event.seq > after else 0
    told = ((seq, act) for seq, act in state.counts if seq > after and act.direction == "on")
    return sum(act.flats for _, act in told if f"{act.axle}.{act.side}.{act.arm}" == end)


def with_counts(state: JobState, told: Mapping[str, Quantity]) -> dict[str, Quantity]:
    """Turns counted on the floor, and how much longer a counted new end lies than the old one, as readings.

    What was typed of the new part on the bench outranks it.
    """
    found = dict(told)
    for end in ENDS:
        for direction in ("off", "on"):
            flats = state.flats(end, direction)
            if flats and f"{end}.turns_{direction}" not in state.entries:
                found[f"{end}.turns_{direction}"] = Quantity(flats * FLAT, FLAT / 2 / 3**0.5)
        known = _known(end, found)
        if known and f"{end}.swap" not in found:
            off, pitch, _, old, new = known
            longer = new.value - old.value + off.value * pitch.value
            open_ = hypot(new.uncertainty, old.uncertainty, off.uncertainty * pitch.value)
            found[f"{end}.swap"] = Quantity(longer, open_, parts={"turns": off.value})
            found.setdefault(f"{end}.swap_per_turn", known[2])
    return found


def with_untold_ends(told: Mapping[str, Quantity], ends: Iterable[str]) -> dict[str, Quantity]:
    """What is known of new ends, with those that go in though nobody measured them: as long as the old ones,
    about."""
    return {f"{end}.swap": Quantity(0.0, UNTOLD_END, parts={UNTOLD: 1.0}) for end in ends} | dict(told)


def _known(end: str, told: Mapping[str, Quantity]) -> tuple[Quantity, Quantity, Quantity, Quantity, Quantity] | None:
    """Turns off, old and new pitch, old and new end."""
    wheel = end.removesuffix(f".{ARM}")
    off, pitch = told.get(f"{end}.turns_off"), told.get(f"{end}.pitch")
    old, new = told.get(f"{end}.end"), told.get(f"{wheel}.new_end.length")
    if off is None or pitch is None or old is None or new is None or not pitch.value:
        return None
    return off, pitch, told.get(f"{wheel}.new_end.pitch", pitch), old, new


def carry(told: Mapping[str, Quantity], end: str) -> Carried | None:
    """Turns on for a new end that keep the rod as long as it was; None where an end, its thread or the count is not
    known.

    Notes
    -----
    turns on = (turns off · old pitch + new end − old end) / new pitch

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> told = {"front.left.tie.turns_off": Quantity(24.0), "front.left.tie.pitch": Quantity(1.5)}
    >>> told |= {"front.left.tie.end": Quantity(84.0), "front.left.new_end.length": Quantity(87.5)}
    >>> round(carry(told, "front.left.tie").on, 3)
    26.333
    """
    known = _known(end, told)
    if known is None:
        return None
    off, pitch, new_pitch, old, new = known
    exact = (off.value * pitch.value + new.value - old.value) / new_pitch.value
    lengths = hypot(new.uncertainty, old.uncertainty, off.uncertainty * pitch.value)
    on = nearest_step(exact, FLAT)
    return Carried(
        end,
        off.value,
        exact,
        COVERAGE * lengths / new_pitch.value,
        on,
        new.value - old.value,
        on * new_pitch.value,
    )


def carried_ends(told: Mapping[str, Quantity]) -> Iterator[Carried]:
    """Every threaded end whose new count is known."""
    return (one for end in ENDS if (one := carry(told, end)))
