"""What is left of a job, on the clock: its steps from now on, and as blocks to lay beside other cars' jobs."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from datetime import datetime
from itertools import groupby

from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.joblog.waits import binding_waits, held_by
from fair_spindle.core.planning.bay import jacks_held
from fair_spindle.core.planning.clock import Stretch, Which, minutes_of, run_clock
from fair_spindle.core.planning.day import Block


def clock_from(state: JobState, template: JobTemplate, at: str, people: int, which: Which) -> tuple[Stretch, ...]:
    """Let what is left of a job run from an hour (ISO 8601) on; minutes count from there."""
    left = [step for step in template.steps if step.key not in state.steps]
    waits, now = binding_waits(state, template), datetime.fromisoformat(at)
    held = {step.key: wait for step in left if (wait := held_by(step, waits))}
    ready = {key: max(0.0, (wait.ready - now).total_seconds() / 60) for key, wait in held.items()}
    return run_clock(left, people, which, ready)


def blocks_left(state: JobState, template: JobTemplate, at: str) -> tuple[Block, ...]:
    """What is left of a job as blocks for one pair of hands, or two where two have to hold; mean minutes.

    What has to wait for something waits before the car goes up, where that is not yet done.
    """
    blocks: list[Block] = []
    jacks = jacks_held([step for step in template.steps if step.key not in state.steps])
    for stretch in clock_from(state, template, at, 1, "least"):
        fresh = list(_blocks(stretch, jacks))
        work = sum(minutes_of(step.step, "least") for step in stretch.steps)
        pause = stretch.end - stretch.begin - work
        if pause > 0:
            _wait(blocks, fresh, pause)
        blocks += fresh
    return tuple(blocks)


def _blocks(stretch: Stretch, jacks: Mapping[str, int]) -> Iterator[Block]:
    for (two, held), inside in groupby(
        stretch.steps, key=lambda one: (one.step.two_people, jacks.get(one.step.key, 0))
    ):
        steps = [one.step for one in inside]
        minutes = sum(minutes_of(step, "least") + minutes_of(step, "most") for step in steps) / 2
        yield Block(minutes, stretch.where != "on_wheels", 2 if two else 1, where=stretch.where, jacks=held)


def _wait(before: list[Block], fresh: list[Block], pause: float) -> None:
    """Put a pause behind the last block on the wheels, or the last there is."""
    down = [place for place, block in enumerate(before) if not block.up]
    if down or before:
        place = down[-1] if down else len(before) - 1
        before[place] = replace(before[place], after=before[place].after + pause)
    else:
        fresh[0] = replace(fresh[0], after=fresh[0].after + pause)
