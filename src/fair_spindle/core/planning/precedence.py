"""What has to come before what, and why: from what operations need, open, make ready and tighten."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from functools import cached_property
from itertools import pairwise

from fair_spindle.core.basics.errors import Inconsistent
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.stages import STAGES, WorkStage
from fair_spindle.core.planning.places import Placed, fastenings_at
from fair_spindle.core.planning.procedure import Brief, Library
from fair_spindle.core.planning.states import ON_WHEELS, demand
from fair_spindle.core.springs.rubber import BONDED_KINDS

READIED = {
    "support": "Supported before it is let go.",
    "mark": "Marked before it is turned.",
    "slack": "Wires and hoses are slack before anything is let down on them.",
    "start": "The main fastener is started before anything beside it is tightened, or its thread is forced.",
    "bench": "Set on the bench, where it can be reached.",
}
LEVELS: tuple[WorkStage, ...] = ("loose", "hand", "snug", "torqued", "marked")
BY_HAND = "Every fastener is started by hand before any is tightened."
LOWERED = "The car comes down for it: what hangs open is closed before."
SAME_STAGE = "A sway bar joins both sides: both come this far before either is loaded."
ONE_JACK = "The jack is wanted there: what it carries is bolted up again before."
CARRIED = frozenset({"support:arm", "support:axle", "support:differential", "support:subframe"})
BOTH_SIDES = 2
SETTLED = "Rubber is clamped where the car has settled."
PREPARED, SNUGGED, MEASURED, TESTED = 3, 7, 12, 13


@value_object
class Edge:
    """One operation before another, by their numbers; ``rests`` where undoing the first undoes the second."""

    first: int
    then: int
    why: str
    weight: int
    rests: bool = False


@value_object
class Ordering:
    """All edges between placed operations."""

    placed: Sequence[Placed]
    edges: Sequence[Edge]

    @cached_property
    def masks(self) -> list[int]:
        """For each operation the set of those before it, as bits."""
        found = [0] * len(self.placed)
        for edge in self.edges:
            found[edge.then] |= 1 << edge.first
        return found

    @cached_property
    def leading(self) -> Mapping[int, list[Edge]]:
        """Edges that lead to each operation."""
        found: dict[int, list[Edge]] = defaultdict(list)
        for edge in self.edges:
            found[edge.then].append(edge)
        return found


def order_by_rules(placed: Sequence[Placed], library: Library, brief: Brief, jacks: int = 1) -> Ordering:
    """Find what has to come before what.

    Preparation before the car is raised, measuring after all work, the road after measuring; what is opened is closed
    after all that needs it open, and before the car comes down; what is made ready before what relies on it; all by
    hand before any tightening; where a bar joins the sides, both to the same stage before either is loaded; with one
    jack, what it carries is bolted up again before the next is taken up.

    Raises Inconsistent: Steps that wait for each other; they are named with the reasons.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Fitting, Operation, Procedure
    >>> a = Placed("a.x", Operation("x", "X", 6, needs=("y",)), "a", "", "", (0, 0))
    >>> b = Placed("a.y", Operation("y", "Y", 6), "a", "", "", (0, 1))
    >>> library = Library(Procedure("common", "", ""), {"a": Procedure("a", "A", "")})
    >>> order_by_rules([a, b], library, Brief((Fitting("a"),))).masks
    [2, 0]
    """
    named = _Named(placed)
    needs = list(named.needs())
    edges = [
        *needs,
        *named.told(),
        *_brackets(named, needs, library),
        *_readied(placed),
        *_tightening(placed, library),
        *_both_sides(placed, library),
        *_phases(placed, library),
        *named.wished(brief),
    ]
    ordering = Ordering(placed, edges)
    _no_cycle(ordering)
    return _one_at_a_time(ordering) if jacks < BOTH_SIDES else ordering


def _one_at_a_time(ordering: Ordering) -> Ordering:
    """What the only jack carries is snug again before the next is let go; not where a part ties both together."""
    groups: dict[tuple[str, str, str], list[int]] = defaultdict(list)
    for number, one in enumerate(ordering.placed):
        if one.side and CARRIED.intersection((*one.op.readies, *one.op.relies)):
            groups[one.owner, one.axle, one.side].append(number)
    for (now, carried), (then, _) in pairwise(groups.items()):
        opened = min(ordering.placed[n].op.phase for n in carried)
        closed = [
            number
            for number, one in enumerate(ordering.placed)
            if (one.owner, one.axle, one.side) == now and opened <= one.op.phase <= SNUGGED
        ]
        more = _all(closed, groups[then], ONE_JACK, 4)
        tried = Ordering(ordering.placed, [*ordering.edges, *more])
        ordering = ordering if _left_over(tried) else tried
    return ordering


class _Named:
    """Operations by the names they call each other by."""

    def __init__(self, placed: Sequence[Placed]) -> None:
        self.placed = placed
        self._by_name: dict[tuple[str, str], list[int]] = defaultdict(list)
        for number, one in enumerate(placed):
            self._by_name[one.owner, one.op.key].append(number)
            self._by_name["", one.key].append(number)

    def find(self, caller: Placed, name: str) -> list[int]:
        """Numbers of the operations meant, where they meet the caller's place."""
        owner, _, key = name.rpartition(":")
        tries = [(owner, key)] if owner else [(caller.owner, key), ("common", key), ("", name)]
        found = next((self._by_name[one] for one in tries if self._by_name.get(one)), [])
        return [number for number in found if self.placed[number].meets(caller)]

    def needs(self) -> Iterator[Edge]:
        for number, one in enumerate(self.placed):
            for name in one.op.needs:
                for first in self.find(one, name):
                    yield Edge(first, number, one.op.why, 6 if one.op.why else 3, rests=True)

    def told(self) -> Iterator[Edge]:
        for number, one in enumerate(self.placed):
            for name in one.op.after:
                for first in self.find(one, name):
                    yield Edge(first, number, one.op.why, 7)
            for name in one.op.before:
                for then in self.find(one, name):
                    yield Edge(number, then, one.op.why, 7)

    def wished(self, brief: Brief) -> Iterator[Edge]:
        for wish in brief.later:
            for first in self._by_name.get(("", wish.first), []):
                for then in self._by_name.get(("", wish.then), []):
                    yield Edge(first, then, "Put in this order by hand.", 9)


def _brackets(named: _Named, needs: Sequence[Edge], library: Library) -> Iterator[Edge]:
    """What closes comes after all that needs what was opened, and before all for which the car comes down."""
    resting: dict[int, set[int]] = defaultdict(set)
    for edge in needs:
        resting[edge.first].add(edge.then)
    wanted = [demand(one, bushings_of(one, library)) for one in named.placed]
    down = {n for n, states in enumerate(wanted) if states and ON_WHEELS in states}
    for opener, one in enumerate(named.placed):
        for name in one.op.then:
            for closer in named.find(one, name):
                after = _reached(closer, resting) | {closer}
                for inside in _reached(opener, resting) - after:
                    if closer in down or inside not in down:
                        yield Edge(inside, closer, f"It needs “{one.op.title}” still open.", 2)
                    elif wanted[closer]:
                        yield Edge(closer, inside, LOWERED, 2)
                yield Edge(opener, closer, f"Closes “{one.op.title}”.", 2, rests=True)


def _reached(start: int, edges: dict[int, set[int]]) -> set[int]:
    found: set[int] = set()
    waiting = [start]
    while waiting:
        for one in edges.get(waiting.pop(), set()) - found:
            found.add(one)
            waiting.append(one)
    return found


def _readied(placed: Sequence[Placed]) -> Iterator[Edge]:
    ready: dict[str, list[int]] = defaultdict(list)
    for number, one in enumerate(placed):
        for token in one.op.readies:
            ready[token].append(number)
    for number, one in enumerate(placed):
        for token in one.op.relies:
            for first in ready.get(token, []):
                if placed[first].meets(one) and first != number:
                    yield Edge(first, number, READIED[token.partition(":")[0]], 5, rests=True)


def _tightening(placed: Sequence[Placed], library: Library) -> Iterator[Edge]:
    """Loosened, by hand, snug, torqued; all by hand before any is tightened, but for what is closed on the bench."""
    by_joint: dict[str, dict[str, set[int]]] = defaultdict(lambda: defaultdict(set))
    for number, one in enumerate(placed):
        home = library.common if one.owner == "common" else library.procedures.get(one.owner)
        for fastening, joint, _, _ in fastenings_at(home, one) if home else ():
            level = one.op.brings.get(fastening.key, "loose")
            by_joint[joint][level].add(number)
    for levels in by_joint.values():
        there = [level for level in LEVELS if levels[level]]
        for low, high in pairwise(there):
            why = (
                "Loosened before it is put back."
                if low == "loose"
                else f"First {STAGES[low].wanted}, then {STAGES[high].wanted}."
            )
            yield from _all(levels[low], levels[high], why, 2, rests=True)
    for owner in {one.owner for one in placed} - {"common"}:
        started = [n for n, one in enumerate(placed) if one.owner == owner and "hand" in one.op.brings.values()]
        tightened = [
            n
            for n, one in enumerate(placed)
            if one.owner == owner and one.op.phase >= SNUGGED and {"snug", "torqued"} & set(one.op.brings.values())
        ]
        for first in started:
            same = [n for n in tightened if placed[n].meets(placed[first]) and not _early(placed[n], placed[first])]
            yield from _all({first}, set(same) - {first}, BY_HAND, 4)


def _early(tightened: Placed, started: Placed) -> bool:
    """Whether an assembly is closed before the next is begun, as its file says."""
    return tightened.op.key in started.op.needs or tightened.op.key in started.op.after


def _both_sides(placed: Sequence[Placed], library: Library) -> Iterator[Edge]:
    loaded = [n for n, one in enumerate(placed) if one.op.where in ("loaded", "pivot") and one.side]
    for then in loaded:
        if placed[then].facts.get("bar") != "yes" or not loads(placed[then], library):
            continue
        for first, one in enumerate(placed):
            if one.axle == placed[then].axle and one.side and 4 <= one.op.phase <= 8 and first not in loaded:
                yield Edge(first, then, SAME_STAGE, 4)


def loads(one: Placed, library: Library) -> bool:
    """Whether an operation waits for load: it says so, or clamps bonded rubber.

    As :func:`fair_spindle.core.planning.states.demand`.

    Common practice, no published source.
    """
    wanted = demand(one, bushings_of(one, library))
    return wanted is None or not any(state.startswith("hanging") for state in wanted)


def bushings_of(one: Placed, library: Library) -> dict[str, str]:
    """Kinds of bushing in the pivots an operation clamps.

    ``@option`` is replaced by its answer.
    """
    owner = library.procedures.get(one.owner)
    if owner is None:
        return {}
    pivots = (fastening for fastening, *_ in fastenings_at(owner, one) if fastening.role == "rubber_pivot")
    return {
        pivot.key: one.facts.get(pivot.bushing[1:], "") if pivot.bushing.startswith("@") else pivot.bushing
        for pivot in pivots
    }


def _phases(placed: Sequence[Placed], library: Library) -> Iterator[Edge]:
    """The walls between phases; rubber that is tightened on its wheels waits for the car to settle."""
    walls = (
        (PREPARED, "Read, marked and laid out before anything is loosened."),
        (MEASURED - 1, "Measured when all is tight and the car stands."),
        (MEASURED, "Driven only when it is measured and locked."),
        (TESTED, "After the road test."),
    )
    settling = {n for n, one in enumerate(placed) if one.op.asks == "settle" and one.op.phase == MEASURED}
    settled = {n for n, one in enumerate(placed) if one.op.phase < MEASURED and _on_its_wheels(one, library)}
    for last, why in walls:
        first = {n for n, one in enumerate(placed) if one.op.phase <= last}
        then = {n for n, one in enumerate(placed) if one.op.phase == last + 1 or last == PREPARED < one.op.phase}
        if last == MEASURED - 1 and settling:
            yield from _all(first - settled, settling, why, 1)
            yield from _all(settling, settled, SETTLED, 5)
            then -= settling
        yield from _all(first, then, why, 1)


def _on_its_wheels(one: Placed, library: Library) -> bool:
    """Whether an operation clamps rubber, or sets a bar's second link, on the wheels alone."""
    kinds = bushings_of(one, library)
    bonded = any(not kind or kind in BONDED_KINDS for kind in kinds.values())
    return (bonded or one.op.school == "second_link") and demand(one, kinds) == frozenset({ON_WHEELS})


def _all(first: Iterable[int], then: Iterable[int], why: str, weight: int, *, rests: bool = False) -> Iterator[Edge]:
    for one in first:
        for two in then:
            if one != two:
                yield Edge(one, two, why, weight, rests)


def _left_over(ordering: Ordering) -> set[int]:
    """Operations that wait for each other."""
    done, left = 0, set(range(len(ordering.placed)))
    while ready := {n for n in left if ordering.masks[n] & ~done == 0}:
        left -= ready
        for n in ready:
            done |= 1 << n
    return left


def _no_cycle(ordering: Ordering) -> None:
    left = _left_over(ordering)
    if not left:
        return
    ring = _ring(ordering, left)
    titles = [ordering.placed[edge.first].op.title for edge in ring]
    told = "; ".join(
        f"“{ordering.placed[edge.first].op.title}” before “{ordering.placed[edge.then].op.title}”"
        + (f" ({edge.why.rstrip('.')})" if edge.why else "")
        for edge in ring
    )
    raise Inconsistent(
        f"These steps wait for each other: {told}. Leave one out, or take back an order of your own.",
        field="later",
        steps=titles,
    )


def _ring(ordering: Ordering, left: set[int]) -> list[Edge]:
    """Follow what each waits for until a step comes again."""
    path: list[Edge] = []
    at = min(left)
    seen: list[int] = []
    while at not in seen:
        seen.append(at)
        edge = max((e for e in ordering.leading[at] if e.first in left), key=lambda e: e.weight)
        path.append(edge)
        at = edge.first
    return list(reversed(path[seen.index(at) :]))
