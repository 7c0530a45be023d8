"""Where operations and fasteners sit: once for the car, at each axle, at each side."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import field

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.planning.procedure import Fastening, Operation, Procedure, Scope, holds


@value_object
class Placed:
    """An operation at its place; ``owner`` is the procedure it stands in, ``by`` those that want it.

    ``rank`` is its place in the files, ``facts`` what its conditions were held against there.
    """

    key: str
    op: Operation
    owner: str
    axle: str
    side: str
    rank: tuple[int, int]
    by: tuple[str, ...] = ()
    facts: Mapping[str, str] = field(default_factory=dict, compare=False)

    def meets(self, other: Placed) -> bool:
        """Whether both happen at the same part of the car."""
        return share(self.axle, other.axle) and share(self.side, other.side)


def share(mine: str, yours: str) -> bool:
    """Whether two places, of which an empty one is everywhere, meet.

    Nothing stands for the whole car or both sides.

    Examples
    --------
    >>> share("front", ""), share("left", "right")
    (True, False)
    """
    return not mine or not yours or mine == yours


def spots_of(per: Scope, axle: str, sides: Iterable[str], axles: Iterable[str]) -> Iterator[tuple[str, str]]:
    """Places of something that is done once for the car, for each axle, or for each side.

    The whole car is no axle and no side.

    Examples
    --------
    >>> list(spots_of("side", "front", ("left", "right"), ()))
    [('front', 'left'), ('front', 'right')]
    """
    if per == "car":
        yield "", ""
        return
    for one in [axle] if axle else axles:
        yield from ((one, side) for side in sides) if per == "side" else ((one, ""),)


def fastenings_at(procedure: Procedure, one: Placed) -> Iterator[tuple[Fastening, str, str, str]]:
    """Fastener groups an operation works on, each with its joint's key and place.

    An operation for an axle works on both sides' groups.

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Fastening, Operation, Procedure
    >>> job = Procedure("a", "A", "", fastenings=(Fastening("n", "Nut", "clamp"),))
    >>> op = Operation("x", "X", 8, brings={"n": "torqued"})
    >>> [key for _, key, _, _ in fastenings_at(job, Placed("a.x", op, "a", "front", "left", (0, 0)))]
    ['a.n.front.left']
    """
    names = {*one.op.brings, *one.op.frees}
    for fastening in procedure.fastenings:
        if fastening.key in names and holds(fastening.when, one.facts):
            sides = (one.side,) if one.side else one.facts.get("sides", "left right").split()
            for axle, side in spots_of(fastening.per, one.axle, sides, ("",)):
                yield fastening, joint_key(procedure.key, fastening.key, axle, side), axle, side


def joint_key(procedure: str, fastening: str, axle: str, side: str) -> str:
    """Key of a joint of a planned job.

    The same for the same thing, so that a map kept in the car's record is found again.

    Examples
    --------
    >>> joint_key("braces", "bolts", "", "")
    'braces.bolts'
    """
    return ".".join(filter(None, (procedure, fastening, axle, side)))
