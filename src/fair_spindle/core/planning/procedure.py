"""A kind of job as data: its operations with conditions, its fasteners, questions, part checks and hardware."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field
from typing import Literal

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import SIDES, Axle, Side
from fair_spindle.core.planning.template import Asks, Reading

Where = Literal["any", "on_wheels", "hanging", "loaded", "pivot"]
Scope = Literal["car", "axle", "side"]
JointStage = Literal["hand", "snug", "torqued", "marked"]
Measured = Literal["height", "toe", "camber", "caster"]
When = dict[str, tuple[str, ...]]


@value_object
class Choice:
    """One answer to a question."""

    value: str
    label: str


@value_object
class Option:
    """A question that decides what is done; asked only where the car's record does not answer it.

    ``known_from`` is the record's field, with ``{axle}`` and ``{side}`` in it.  One that is not ``asked`` is answered
    by the record or as usual, and changed on the car's drawing.
    """

    key: str
    label: str
    choices: tuple[Choice, ...]
    usual: str = ""
    known_from: str = ""
    asked: bool = True


@value_object
class Fastening:
    """Fasteners of one purpose: how many at each side (or axle, or car), how they lie and are tightened.

    ``bushing`` of a pivot names a kind, or with ``@`` the option that tells it; ``count_from`` an option that
    tells how many; ``notes`` what is special about each place, in order.
    """

    key: str
    label: str
    role: Literal["rubber_pivot", "taper", "clamp", "bracket", "wheel", "axle", "link", "jam"]
    count: int = 1
    count_from: str = ""
    per: Scope = "side"
    pattern: Literal["row", "circle", "rectangle"] = "row"
    order: Literal["cross", "star", "spiral", "row"] = "cross"
    passes_pct: tuple[int, ...] = (100,)
    notes: tuple[str, ...] = ()
    hold: str = ""
    bushing: str = ""
    arm: str = ""
    single_use: bool = False
    lock: Literal["", "cotter", "tab", "jam_nut"] = ""
    aluminium: bool = False
    reach: str = ""
    when: When = field(default_factory=dict)


@value_object
class PartCheck:
    """What is compared between the old part and the new one before the car is raised; what a difference means."""

    key: str
    label: str
    compare: Literal["length", "thread", "hand", "count", "fit"]
    hint: str = ""
    means: str = ""


@value_object
class Ware:
    """Something to buy, a chemical, or a part that is left over as it should be; why, and how many for each place."""

    name: str
    sort: Literal["buy", "chemical", "leftover"] = "buy"
    count: int = 1
    per: Scope = "side"
    why: str = ""
    when: When = field(default_factory=dict)


@value_object
class Operation:
    """One thing that is done, on which part of the car, in which position of it, and what it waits for.

    ``needs`` brings other operations into the plan and waits for them; ``after`` and ``before`` only order those that
    are there; ``then`` closes what this one opens: all that needs it lies between.  ``readies`` and ``relies`` order
    by what is made ready: ``support:…``, ``mark:…``, ``slack:…``, ``start:…``.
    """

    key: str
    title: str
    phase: int
    detail: str = ""
    where: Where = "hanging"
    per: Scope = "side"
    needs: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    before: tuple[str, ...] = ()
    then: tuple[str, ...] = ()
    readies: tuple[str, ...] = ()
    relies: tuple[str, ...] = ()
    why: str = ""
    frees: tuple[str, ...] = ()
    brings: dict[str, JointStage] = field(default_factory=dict)
    asks: Asks = ""
    reads: tuple[Reading, ...] = ()
    tools: tuple[str, ...] = ()
    chemicals: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    minutes: tuple[float, ...] = (5.0, 10.0)
    wait_h: tuple[float, ...] = ()
    people: int = 1
    school: str = ""
    when: When = field(default_factory=dict)


@value_object
class Procedure:
    """A kind of job.

    ``axles`` it can be done at, empty where it belongs to the whole car; ``layouts`` it is for, empty where any will
    do; ``uses`` are common operations it always takes; ``changes`` what it moves: height, toe, camber, caster;
    ``measures`` what it reads besides; ``words`` other names it is asked for by.  ``arm`` is the part of the layout
    whose geometry says what it moves, where the car's points are known.
    """

    key: str
    title: str
    about: str
    axles: tuple[Axle, ...] = ()
    per: Scope = "axle"
    layouts: tuple[str, ...] = ()
    uses: tuple[str, ...] = ()
    changes: tuple[Measured, ...] = ()
    measures: tuple[Measured, ...] = ()
    words: tuple[str, ...] = ()
    arm: str = ""
    booked: tuple[str, ...] = ()
    options: tuple[Option, ...] = ()
    checks: tuple[PartCheck, ...] = ()
    fastenings: tuple[Fastening, ...] = ()
    wares: tuple[Ware, ...] = ()
    operations: tuple[Operation, ...] = ()

    def operation(self, key: str) -> Operation | None:
        """The operation of that name, None where there is none."""
        return next((operation for operation in self.operations if operation.key == key), None)


@value_object
class Library:
    """Every kind of job there is, and the operations they share."""

    common: Procedure
    procedures: Mapping[str, Procedure]

    def find(self, key: str) -> Procedure:
        """The kind of job of that name."""
        if key not in self.procedures:
            raise NotFound(f"There is no procedure {key!r} here.", field="procedure")
        return self.procedures[key]


@value_object
class Compared:
    """Old and new part beside each other, as typed."""

    old: str
    new: str


@value_object
class Fitting:
    """What is fitted: by which procedure, at which axle and sides; answers to its questions, and its part checks.

    A check's key with ``.left`` or ``.right`` after it is of that side's part alone.
    """

    procedure: str
    axle: Literal["", "front", "rear"] = ""
    sides: tuple[Side, ...] = SIDES
    options: dict[str, str] = field(default_factory=dict)
    compared: dict[str, Compared] = field(default_factory=dict)


@value_object
class OwnStep:
    """A step of the user's own, at its place on the car, after the steps it names."""

    key: str
    title: str
    phase: int
    where: Literal["any", "on_wheels", "hanging"] = "any"
    detail: str = ""
    axle: Literal["", "front", "rear"] = ""
    side: Literal["", "left", "right"] = ""
    after: tuple[str, ...] = ()
    minutes: tuple[float, ...] = (5.0, 10.0)


@value_object
class Later:
    """The user wants one step after another."""

    first: str
    then: str


@value_object
class Brief:
    """What is asked of the planner: what is fitted, the schools for this job, the user's own edits.

    ``dropped`` are steps left out, each with its reason.
    """

    fittings: tuple[Fitting, ...]
    schools: dict[str, str] = field(default_factory=dict)
    lift: Literal["both_ends", "one_end"] = "both_ends"
    dropped: dict[str, str] = field(default_factory=dict)
    added: tuple[OwnStep, ...] = ()
    later: tuple[Later, ...] = ()


def holds(when: When, facts: Mapping[str, str]) -> bool:
    """Whether a condition holds.

    An empty condition always holds.
    """
    return all(facts.get(name, "") in values for name, values in when.items())
