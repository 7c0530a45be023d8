"""When a plan gets where: its steps over the hands there are, from an hour on."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import groupby
from typing import Literal

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.planning.template import DRIVING, Step

Which = Literal["least", "most"]
MOVE_MINUTES = 5.0
# Wheel nuts come off all the time: nothing has to creep into them.
WHEEL_NUTS = "common.wheel."


@value_object
class Timed:
    """A step with its begin and end. [min]"""

    step: Step
    begin: float
    end: float


@value_object
class Stretch:
    """Steps in one position of the car: when it is reached and left again. [min]"""

    where: str
    steps: tuple[Timed, ...]
    begin: float
    end: float


def minutes_of(step: Step, which: Which) -> float:
    """What a step takes, at least or at most. [min]"""
    if not step.minutes:
        return MOVE_MINUTES
    return step.minutes[0 if which == "least" else -1]


def relies_on(step: Step, wait: Step) -> bool:
    """Whether a step relies on what another one started.

    What creeps into threads is relied on where they are opened on its axle; what cures, by the first drive; either
    by a step that rests on it.
    """
    if wait.key in step.rests_on:
        return True
    if wait.brings_joints:
        return step.phase >= DRIVING
    near = not wait.axle or step.axle in ("", wait.axle)
    opened = any(not key.startswith(WHEEL_NUTS) for key in step.frees_joints)
    return near and opened and step.phase > wait.phase


def run_clock(
    steps: Sequence[Step],
    people: int = 1,
    which: Which = "most",
    ready: Mapping[str, float] | None = None,
    begin: float = 0.0,
) -> tuple[Stretch, ...]:
    """Let a plan run: one position after the other, in each as many steps at once as there are hands.

    Parameters
    ----------
    steps : sequence of Step
        What is still to be done, in its order. [-]
    people : int
        Pairs of hands; a step for two takes two, where there are two. [-]
    which : {"least", "most"}
        End of each step's range of minutes. [-]
    ready : mapping, optional
        For steps that rely on something that works by itself already, from when they can be done. [min]
    begin : float
        When work begins. [min]

    Returns
    -------
    tuple of Stretch
        Times of every step. [min]

    Raises
    ------
    Nothing.

    Notes
    -----
    List scheduling: whoever is free takes the first step of the plan whose steps before are done; what waits for
    something is passed over while anything else can be done in that position.  Waiting begins with the end of the
    step that starts it, and is counted at its least.

    Source
    ------
    graham-1966

    Examples
    --------
    >>> both = tuple(Step(key, key, "hanging", "", minutes=(5.0, 10.0)) for key in "ab")
    >>> run_clock(both)[0].end, run_clock(both, people=2)[0].end
    (20.0, 10.0)
    """
    done: dict[str, float] = {}
    waiting: list[tuple[Step, float]] = []
    found = []
    at = begin
    for where, inside in groupby(steps, key=lambda step: (step.where, step.corner, step.carried)):
        timed = tuple(_run(tuple(inside), people, which, done, ready or {}, waiting, at))
        end = max((one.end for one in timed), default=at)
        found.append(Stretch(where[0], timed, at, end))
        at = end
    return tuple(found)


def _run(
    steps: Sequence[Step],
    people: int,
    which: Which,
    done: dict[str, float],
    told: Mapping[str, float],
    waiting: list[tuple[Step, float]],
    at: float,
) -> Iterator[Timed]:
    free = [at] * max(1, people)
    left = list(steps)

    def earliest(step: Step) -> float:
        hands = free[min(1, len(free) - 1)] if step.two_people else free[0]
        waits = (until for wait, until in waiting if wait.key != step.key and relies_on(step, wait))
        return max(hands, told.get(step.key, 0.0), *waits, *(done.get(key, 0.0) for key in step.rests_on))

    while left:
        names = {step.key for step in left}
        ready = [step for step in left if not names.intersection(step.rests_on)] or left[:1]
        free.sort()
        begin, place = min((earliest(step), place) for place, step in enumerate(ready))
        step = ready[place]
        end = begin + minutes_of(step, which)
        free[: 2 if step.two_people else 1] = [end] * min(2 if step.two_people else 1, len(free))
        done[step.key] = end
        if step.wait_h:
            waiting.append((step, end + step.wait_h[0] * 60))
        left.remove(step)
        yield Timed(step, begin, end)


def passing(stretches: Sequence[Stretch]) -> Iterator[tuple[str, float]]:
    """The turning points of a plan: raised, loaded at a corner, down on its wheels, driven, done; and when. [min]"""
    told: set[str] = set()
    for stretch in stretches:
        word = {"hanging": "raised", "corner_carried": "loaded"}.get(stretch.where, "on its wheels again")
        first = not told and stretch.where == "on_wheels"
        if not first and word not in told - {"on its wheels again"}:
            yield word, stretch.begin
        told.add("begun" if first else word)
    if stretches:
        yield "done", stretches[-1].end
