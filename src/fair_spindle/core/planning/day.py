"""Several cars in one day: who is up when, with the lift, the stands, the jacks and the hands there are."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from itertools import accumulate
from math import inf

from fair_spindle.core.basics.value_object import value_object

EXACT = 6


@value_object
class Block:
    """A part of a job that is not broken off: how long, how many hands, whether the car is up; what then works alone.

    ``minutes`` of work; ``after`` is waited out before the next block of the job begins, without hands [min];
    ``jacks`` hold something meanwhile; ``parts`` are the blocks that were laid out as this one.
    """

    minutes: float
    up: bool
    hands: int = 1
    after: float = 0.0
    where: str = ""
    jacks: int = 0
    parts: tuple[Block, ...] = ()


@value_object
class Work:
    """A job's blocks in order; jobs of one ``car`` follow each other, and one that is ``up`` keeps its place."""

    key: str
    blocks: tuple[Block, ...]
    car: str = ""
    up: bool = False


@value_object
class Slot:
    """When a block of a job is done. [min]"""

    key: str
    block: Block
    begin: float
    end: float


@value_object
class Means:
    """What a workshop has for a day: pairs of hands, cars that can be up at once, jacks that can hold something."""

    people: int = 1
    lifts: int = 1
    jacks: int = 1


@value_object
class Day:
    """A plan of the day, how long it takes, one car after the other, and what no plan can beat. [min]"""

    slots: tuple[Slot, ...]
    length: float
    one_after_other: float
    bound: float
    exact: bool


def plan_day(works: Sequence[Work], means: Means) -> Day:
    """Lay several jobs beside each other.

    Parameters
    ----------
    works : sequence of Work, shape (n,)
        The jobs. [-]
    means : Means
        Hands, lifts and jacks there are; a block that wants more takes all there are. [-]

    Returns
    -------
    Day
        Slots in order of their begin.

    Raises
    ------
    Nothing.

    Notes
    -----
    Each order of the jobs is laid out block by block, every block at the first moment with hands, jacks and a lift
    free; a car keeps its lift from its first block up to its last in a row, one that is up already from the
    beginning.  Up to six jobs every order is tried; more are taken longest first.  The bound is the longest job, or
    all hands', lifts' or jacks' work shared out evenly.

    Source
    ------
    kolisch-1996

    Examples
    --------
    >>> one = Work("a", (Block(30, False), Block(60, True)))
    >>> two = Work("b", (Block(30, False), Block(60, True)))
    >>> day = plan_day([one, two], Means(people=2))
    >>> day.length, day.one_after_other, day.bound
    (150.0, 180.0, 120.0)
    """
    works = [
        replace(work, blocks=tuple(_able(block, means) for block in work.blocks)) for work in works if work.blocks
    ]
    lengths = {work.key: _alone(work) for work in works}
    merged = {work.key: _merged(work) for work in works}
    up = [merged[work.key] for work in works if work.up]
    down = sorted((merged[work.key] for work in works if not work.up), key=lambda one: -lengths[one.key])
    exact = len(down) <= EXACT
    means = replace(means, people=max(1, means.people), lifts=max(1, means.lifts, len(up)))
    laid = _Laid((), (), {})
    for work in up:
        laid = laid.with_work(work, means)
    best = _shortest(laid, down, means, None) if exact else laid
    for work in () if exact else down:
        best = best.with_work(work, means)
    found = [part for slot in best.slots for part in _parted(slot)]
    blocks = [block for work in works for block in work.blocks]
    ups = sum(block.minutes for block in blocks if block.up) / means.lifts
    hands = sum(block.minutes * block.hands for block in blocks) / means.people
    held = sum(block.minutes * block.jacks for block in blocks) / max(1, means.jacks)
    bound = max([hands, ups, held, *lengths.values()], default=0.0)
    slots = tuple(sorted(found, key=lambda slot: (slot.begin, slot.key)))
    return Day(slots, _length(found), float(sum(lengths.values())), float(bound), exact)


def _merged(work: Work) -> Work:
    """The job with blocks that follow each other alike as one: what is laid out, not what is shown."""
    blocks: list[Block] = []
    for block in work.blocks:
        last = blocks[-1] if blocks else None
        alike = last and (last.up, last.hands, last.jacks) == (block.up, block.hands, block.jacks)
        if last and alike and not last.after:
            minutes, parts = last.minutes + block.minutes, (*last.parts, block)
            blocks[-1] = replace(last, minutes=minutes, after=block.after, parts=parts)
        else:
            blocks.append(replace(block, parts=(block,)))
    return replace(work, blocks=tuple(blocks))


def _parted(slot: Slot) -> Iterator[Slot]:
    """A slot of merged blocks as the blocks that stand in it."""
    begin = slot.begin
    for block in slot.block.parts:
        yield Slot(slot.key, block, begin, begin + block.minutes)
        begin += block.minutes


def _alone(work: Work) -> float:
    return sum(block.minutes + block.after for block in work.blocks) - work.blocks[-1].after


def _able(block: Block, means: Means) -> Block:
    return replace(block, hands=min(block.hands, max(1, means.people)), jacks=min(block.jacks, means.jacks))


def _length(slots: Sequence[Slot]) -> float:
    return float(max((slot.end for slot in slots), default=0.0))


@value_object
class _Laid:
    """What is laid out so far: slots, the times lifts are held, and until when each car is taken."""

    slots: tuple[Slot, ...]
    held: tuple[tuple[float, float], ...]
    until: dict[str, float]

    @property
    def length(self) -> float:
        return _length(self.slots)

    def with_work(self, work: Work, means: Means) -> _Laid:
        """The same with one more job, each run of blocks at the first moment it fits."""
        slots, held = list(self.slots), list(self.held)
        at = self.until.get(work.car, 0.0) if work.car else 0.0
        for place, run in enumerate(_runs(work.blocks)):
            later = [slot for slot in slots if slot.end > at]
            up = [(low, high, 1) for low, high in held if high > at]
            taken = _Taken(
                _use_of((slot.begin, slot.end, slot.block.hands) for slot in later),
                _use_of((slot.begin, slot.end, slot.block.jacks) for slot in later if slot.block.jacks),
                _use_of(up),
                frozenset([*(slot.end for slot in later), *(high for _, high, _ in up)]),
            )
            begin = _first_fit(run, at, taken, means)
            start = begin
            for block in run:
                slots.append(Slot(work.key, block, start, start + block.minutes))
                start += block.minutes + block.after
            if run[0].up:
                held.append((0.0 if work.up and not place else begin, start - run[-1].after))
            at = start
        return _Laid(tuple(slots), tuple(held), {**self.until, work.car: at})


def _shortest(laid: _Laid, left: Sequence[Work], means: Means, best: _Laid | None) -> _Laid:
    """The shortest of all orders of what is left, each followed only while it is shorter than the best so far."""
    if not left:
        return laid
    found = best
    for place, work in enumerate(left):
        then = laid.with_work(work, means)
        if found is None or then.length < found.length:
            whole = _shortest(then, [*left[:place], *left[place + 1 :]], means, found)
            if found is None or whole.length < found.length:
                found = whole
    return found if found is not None else laid


def _runs(blocks: Sequence[Block]) -> list[list[Block]]:
    """Blocks that follow each other without a pause between: those up in a row, each other one alone."""
    runs: list[list[Block]] = []
    for block in blocks:
        if runs and block.up and runs[-1][-1].up:
            runs[-1].append(block)
        else:
            runs.append([block])
    return runs


@value_object
class _Use:
    """How many of something are taken, each number from its moment up to the next."""

    moments: Sequence[float]
    numbers: Sequence[int]

    def most(self, begin: float, end: float) -> int:
        """The most that is taken at any moment between two."""
        first = bisect_right(self.moments, begin + 1e-9) - 1
        return max(self.numbers[first : bisect_left(self.moments, end - 1e-9)], default=0)


def _use_of(spans: Iterable[tuple[float, float, int]]) -> _Use:
    """Spans, as begin, end and how many, on top of each other."""
    changes: dict[float, int] = {}
    for begin, end, number in spans:
        changes[begin] = changes.get(begin, 0) + number
        changes[end] = changes.get(end, 0) - number
    moments = sorted(changes)
    return _Use([-inf, *moments], [0, *accumulate(changes[moment] for moment in moments)])


@value_object
class _Taken:
    """What is taken when, hands, jacks and lifts, and when something of it is free again."""

    hands: _Use
    jacks: _Use
    lifts: _Use
    ends: frozenset[float]


def _first_fit(run: Sequence[Block], at: float, taken: _Taken, means: Means) -> float:
    # A later block of a run may be what does not fit: the moments shift by what lies before it.
    before = {sum(one.minutes + one.after for one in run[:place]) for place in range(len(run))}
    moments = sorted({at, *(end - shift for end in taken.ends for shift in before if end - shift > at)})
    return next(moment for moment in moments if _fits(run, moment, taken, means))


def _fits(run: Sequence[Block], begin: float, taken: _Taken, means: Means) -> bool:
    end = begin + sum(block.minutes + block.after for block in run) - run[-1].after
    if run[0].up and taken.lifts.most(begin, end) >= means.lifts:
        return False
    start = begin
    for block in run:
        if taken.hands.most(start, start + block.minutes) + block.hands > means.people:
            return False
        if block.jacks and taken.jacks.most(start, start + block.minutes) + block.jacks > means.jacks:
            return False
        start += block.minutes + block.after
    return True
