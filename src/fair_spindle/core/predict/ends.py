"""A look at threaded ends: thread enough to hold, turns on as they were told."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from fair_spindle.core.joblog.findings import Finding
from fair_spindle.core.joblog.required_fields import Readings
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.threaded_ends import ENDS, carry, flats_at
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.step_words import say_flats
from fair_spindle.core.turns.threads import FLAT


def look_ends(state: JobState, readings: Readings, by_geometry: Collection[str] = ()) -> Iterator[Finding]:
    """Say which ends hold on too little thread, and whose turns on are not those told.

    Ends whose turns geometry plans (``by_geometry``) are judged by that plan elsewhere.
    """
    told = readings.quantities
    for end in ENDS:
        on = flats_at(state, end, "on")
        if on is None:
            continue
        name = f"{label_wheel(end.removesuffix('.tie'))} threaded end"
        pitch = told.get(f"{end.removesuffix('.tie')}.new_end.pitch") or told.get(f"{end}.pitch")
        least = told.get(f"{end}.engagement")
        if pitch and least and on * FLAT * pitch.value < least.value:
            message = (
                f"{name} holds on {on * FLAT * pitch.value:.1f} mm of thread; {least.value:.1f} mm is the least. "
                "Fit a longer end."
            )
            yield Finding("engagement", "blocks", message, f"{end}.turns_on")
        carried = None if end in by_geometry else carry(told, end)
        if carried and round(carried.on / FLAT) != on:
            message = f"{name}: {say_flats(round(carried.on / FLAT))} told, {say_flats(on)} counted on."
            yield Finding("count_differs", "open", message, f"{end}.turns_on")
