"""What is told at a step beside its own words: turns to put on, and where they come from."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.floor.asking import Readings
from fair_spindle.core.floor.threaded_ends import Carried, carry
from fair_spindle.core.planning.template import Step
from fair_spindle.core.threads import FLAT, tally

PUT_ON = ".turns_on"


def say_step(step: Step, readings: Readings) -> Iterator[str]:
    """Sentences for one step, as far as what was read allows."""
    for reading in step.reads:
        if reading.key.endswith(PUT_ON):
            carried = carry(readings.quantities, reading.key.removesuffix(PUT_ON))
            if carried:
                yield say_carried(carried, f"{reading.side} " if reading.side else "")


def say_carried(one: Carried, where: str = "") -> str:
    """Turns to put on, why they are not those that came off, and how sure that is."""
    flats = COVERED if (open_ := one.plus_minus / FLAT) < 0.5 else f" ± {open_:.1f} flats"
    said = f"Put on {_turns(one.on)}{flats} at the {where}end".replace("the end", "the new end")
    if abs(one.longer) < 0.05:
        return f"{said}: both ends are of one length, so as many as came off hold the rod as it was."
    way = "longer" if one.longer > 0 else "shorter"
    plain = "too long" if one.plain_error > 0 else "too short"
    return (
        f"{said}: the new end is {abs(one.longer):.1f} mm {way}. The {_turns(one.off)} that came off would leave the "
        f"rod {abs(one.plain_error):.1f} mm {plain}."
    )


COVERED = ""


def _turns(turns: float) -> str:
    count = tally(turns)
    parts = [f"{count.turns} turn{'' if count.turns == 1 else 's'}"] if count.turns or not count.flats else []
    parts += [f"{count.flats} flat{'' if count.flats == 1 else 's'}"] if count.flats else []
    return " ".join(parts)
