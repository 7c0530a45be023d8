"""Positions the car has to be in for an operation, and what it costs to get from one to the next."""

from __future__ import annotations

from collections.abc import Mapping

from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.planning.places import Placed
from fair_spindle.core.springs.rubber import BONDED_KINDS

ON_WHEELS = "on_wheels"
HANGING = "hanging"
RAISE, CARRY = 100, 10


def demand(one: Placed, bushings: Mapping[str, str]) -> frozenset[str] | None:
    """Positions in which an operation can be done.

    Bonded rubber, or rubber of unknown kind, is clamped under load: on the wheels, or with the corner carried, as the
    workshop does it. Other pivots are tightened hanging, unless the workshop loads them too.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Operation
    >>> op = Operation("x", "X", 10, where="pivot")
    >>> one = Placed("a.x", op, "a", "front", "left", (0, 0), facts={"school.load": "jack"})
    >>> sorted(demand(one, {"arm": "bonded_rubber"})), sorted(demand(one, {"arm": "greased_poly"}))
    (['carried.front.left'], ['hanging'])
    """
    where = one.op.where
    if where == "pivot":
        bonded = any(not kind or kind in BONDED_KINDS for kind in bushings.values())
        where = "loaded" if bonded or one.facts.get("school.free_pivots") == "loaded" else "hanging"
    if where == "any":
        return None
    if where == "loaded":
        if not one.side or one.facts.get("school.load") == "wheels":
            return frozenset({ON_WHEELS})
        return frozenset({f"carried.{one.axle}.{one.side}"})
    return frozenset({where})


def by_axle(wanted: frozenset[str] | None, one: Placed) -> frozenset[str] | None:
    """The same where only one end of the car is raised at a time.

    Carried corners belong to their end already.

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Operation
    >>> one = Placed("a.x", Operation("x", "X", 6), "a", "rear", "left", (0, 0))
    >>> by_axle(frozenset({"hanging"}), one)
    frozenset({'hanging.rear'})
    """
    if wanted != frozenset({HANGING}):
        return wanted
    return frozenset({f"hanging.{axle}" for axle in ([one.axle] if one.axle else AXLES)})


def cost(now: str, then: str) -> int:
    """What a change of position costs: a raise or a lower far more than carrying a corner.

    From one end hanging to the other the car comes down in between.

    Examples
    --------
    >>> cost("on_wheels", "hanging"), cost("hanging", "carried.front.left"), cost("hanging.front", "hanging.rear")
    (100, 10, 201)
    """
    if now == then:
        return 0
    if ON_WHEELS in (now, then):
        other = then if now == ON_WHEELS else now
        return RAISE + (CARRY if other.startswith("carried") else 0)
    between = 2 * RAISE + 1 if over_wheels(now, then) else 0
    carried = sum(state.startswith("carried") for state in (now, then))
    return between + CARRY * carried


def end_of(state: str) -> str:
    """Which end of the car a position is about.

    Its second word.
    """
    return state.split(".")[1] if "." in state else ""


def over_wheels(now: str, then: str) -> bool:
    """Whether the car comes down on its wheels between two positions.

    It costs a little more than stopping there, so that what can be done on the wheels is.

    Examples
    --------
    >>> over_wheels("hanging.front", "hanging.rear"), over_wheels("carried.front.left", "carried.rear.left")
    (True, False)
    """
    one_end = now.startswith("hanging.") or then.startswith("hanging.")
    return one_end and len({end_of(now), end_of(then)} - {""}) == 2
