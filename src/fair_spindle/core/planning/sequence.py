"""In which order: fewest raises first, then the phases of the work, then like beside like."""

from __future__ import annotations

import heapq
from collections.abc import Iterable, Sequence

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.planning.places import Placed
from fair_spindle.core.planning.precedence import Ordering
from fair_spindle.core.planning.states import ON_WHEELS, cost


@value_object
class Stretch:
    """What is done in one position of the car, in order."""

    state: str
    numbers: tuple[int, ...]


def stretches(demands: Sequence[frozenset[str] | None], masks: Sequence[int]) -> list[tuple[str, int]]:
    """Positions of the car in the order that costs least, with what is done in each.

    Doing at once all that can be done in a position never costs more later, so the state of the search is the set of
    operations done: Dijkstra's method over those sets gives the least cost; of equal ones the first by name, front
    before rear and left before right. Begins and ends on its wheels.

    Examples
    --------
    >>> wheels, air = frozenset({"on_wheels"}), frozenset({"hanging"})
    >>> stretches([wheels, air, wheels], [0, 1, 2])
    [('on_wheels', 1), ('hanging', 2), ('on_wheels', 4)]
    """
    everything = (1 << len(masks)) - 1
    states = sorted({state for wanted in demands if wanted for state in wanted} | {ON_WHEELS})
    order = {state: number for number, state in enumerate(states)}
    able = {state: [n for n, wanted in enumerate(demands) if wanted is None or state in wanted] for state in states}
    start = _closure(0, able[ON_WHEELS], masks)
    best: dict[tuple[int, str], tuple[int, tuple[int, ...]]] = {(start, ON_WHEELS): (0, ())}
    came: dict[tuple[int, str], tuple[int, str]] = {}
    queue: list[tuple[int, tuple[int, ...], int, str]] = [(0, (), start, ON_WHEELS)]
    while queue:
        spent, way, done, state = heapq.heappop(queue)
        if best[done, state] < (spent, way):
            continue
        if done == everything and state == ON_WHEELS:
            return _path((done, state), came)
        for other in states:
            if other == state:
                continue
            grown = _closure(done, able[other], masks)
            if grown == done and not (done == everything and other == ON_WHEELS):
                continue
            price = (spent + cost(state, other), (*way, order[other]))
            if (grown, other) not in best or price < best[grown, other]:
                best[grown, other] = price
                came[grown, other] = (done, state)
                heapq.heappush(queue, (*price, grown, other))
    raise AssertionError("operations without rings can always be done")


def _closure(done: int, able: Iterable[int], masks: Sequence[int]) -> int:
    waiting = [n for n in able if not done >> n & 1]
    while waiting:
        ready = [n for n in waiting if masks[n] & ~done == 0]
        if not ready:
            break
        for n in ready:
            done |= 1 << n
        waiting = [n for n in waiting if not done >> n & 1]
    return done


def _path(end: tuple[int, str], came: dict[tuple[int, str], tuple[int, str]]) -> list[tuple[str, int]]:
    found = []
    while end in came:
        before = came[end]
        found.append((end[1], end[0] & ~before[0]))
        end = before
    return [(end[1], end[0]), *reversed(found)]


def sequence(ordering: Ordering, demands: Sequence[frozenset[str] | None]) -> list[Stretch]:
    """Put operations in order.

    Within a position: by phase; what has to wait for something that works by itself comes last, what starts such a
    wait first; the same axle, the same step at the other side, the same tool; then as the files have it.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Operation
    >>> one = Placed("a.x", Operation("x", "X", 6), "a", "", "", (0, 0))
    >>> [stretch.state for stretch in sequence(Ordering([one], []), [frozenset({"hanging"})])]
    ['on_wheels', 'hanging', 'on_wheels']
    """
    found, last = [], None
    waits = {n for n, one in enumerate(ordering.placed) if one.op.wait_h}
    after_wait = {edge.then for edge in ordering.edges if edge.first in waits and edge.weight > 1}
    for state, inside in stretches(demands, ordering.masks):
        left = {n for n in range(len(ordering.placed)) if inside >> n & 1}
        numbers: list[int] = []
        while left:
            waiting = sum(1 << n for n in left)
            ready = [n for n in left if ordering.masks[n] & waiting == 0]
            taken = min(_in_turn(ready, ordering.placed), key=lambda n: _rank(n, ordering.placed, last, after_wait))
            numbers.append(taken)
            left.discard(taken)
            last = ordering.placed[taken]
        found.append(Stretch(state, tuple(numbers)))
    return found


def _in_turn(ready: Iterable[int], placed: Sequence[Placed]) -> list[int]:
    """Of each procedure, at each place and in each phase, only what its file has first."""
    first: dict[object, int] = {}
    for n in sorted(ready, key=lambda n: placed[n].rank):
        one = placed[n]
        lane = n if one.owner == "common" else (one.owner, one.axle, one.side, one.op.phase)
        first.setdefault(lane, n)
    return list(first.values())


def _rank(n: int, placed: Sequence[Placed], last: Placed | None, after_wait: set[int]) -> tuple[object, ...]:
    one = placed[n]
    return (
        one.op.phase,
        n in after_wait,
        not one.op.wait_h,
        last is not None and bool(last.axle) and one.axle != last.axle,
        last is None or (one.owner, one.op.key) != (last.owner, last.op.key),
        not (last and set(one.op.tools) & set(last.op.tools)),
        one.rank,
        one.axle,
        one.side,
    )
