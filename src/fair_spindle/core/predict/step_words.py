"""What is told at a step beside its own words: turns to put on, and where they come from."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.fields.field import MEASURING
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.threaded_ends import TURNS_ON, Carried, carry
from fair_spindle.core.planning.template import Step
from fair_spindle.core.turns.threads import FLAT, tally


def say_step(step: Step, readings: Readings) -> Iterator[str]:
    """Sentences for one step, as far as what was read allows."""
    for reading in step.reads:
        if reading.key.endswith(TURNS_ON):
            carried = carry(readings.quantities, reading.key.removesuffix(TURNS_ON))
            if carried:
                yield say_carried(carried, f"{reading.side} " if reading.side else "")


def rests_on_own_reads(step: Step) -> bool:
    """Whether no other reading than a step's own decides about it: it asks for no sheet, and tells no turns."""
    return step.asks not in MEASURING and not any(reading.key.endswith(TURNS_ON) for reading in step.reads)


def say_carried(one: Carried, where: str = "") -> str:
    """Turns to put on, why they are not those that came off, and how sure that is."""
    open_ = one.plus_minus / FLAT
    said = f"Put on {say_flats(round(one.on / FLAT))} ± {open_:.1f} flats at the new {where}end"
    if abs(one.longer) < 0.05:
        return f"{said}: both ends are of one length, so as many as came off hold the rod as it was."
    way = ("longer", "too long") if one.longer > 0 else ("shorter", "too short")
    return (
        f"{said}: it is {abs(one.longer):.1f} mm {way[0]}. The {say_flats(round(one.off / FLAT))} that came off "
        f"would leave the rod {abs(one.longer):.1f} mm {way[1]}."
    )


def say_flats(flats: int) -> str:
    """A count in turns and flats."""
    count = tally(flats * FLAT)
    parts = [f"{count.turns} turn{'' if count.turns == 1 else 's'}"] if count.turns or not count.flats else []
    parts += [f"{count.flats} flat{'' if count.flats == 1 else 's'}"] if count.flats else []
    return ("−" if count.back else "") + " ".join(parts)
