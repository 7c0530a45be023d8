"""From a brief to the operations it takes, each at its place on the car: shared ones once."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator, Mapping
from dataclasses import field, replace

from fair_spindle.core.basics.errors import Inconsistent, InputError
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES
from fair_spindle.core.planning.bay import Bay, ways_in
from fair_spindle.core.planning.places import Placed, share, spots_of
from fair_spindle.core.planning.procedure import (
    Brief,
    Fitting,
    Library,
    Measured,
    Operation,
    Option,
    OwnStep,
    Procedure,
    holds,
)
from fair_spindle.core.planning.schools import ways_of


@value_object
class Known:
    """What decides the conditions: the brief, the library, the car's choices, the workshop's schools and its bay.

    ``moved`` is what parts move on this car by its points, by axle and part.
    """

    brief: Brief
    library: Library
    car: Mapping[str, str]
    workshop: dict[str, str]
    bay: Bay = field(default_factory=Bay)
    moved: Mapping[str, tuple[Measured, ...]] = field(default_factory=dict)

    @property
    def ways(self) -> dict[str, str]:
        """The way that decides each question on which schools differ."""
        return ways_in(self.bay, ways_of(self.workshop, self.brief.schools))

    @property
    def one_end(self) -> bool:
        """Whether one end of the car is raised at a time."""
        return self.brief.lift == "one_end" or not self.bay.raises_both_ends

    def moves(self, procedure: Procedure, axle: str) -> tuple[Measured, ...]:
        """What a procedure moves at an axle: by the car's points where they say it, else as it is written."""
        return self.moved.get(f"{axle}.{procedure.arm}", procedure.changes) if procedure.arm else procedure.changes

    def facts(self, fitting: Fitting, axle: str, side: str) -> dict[str, str]:
        """Facts at one place of one fitting: answers, layout, bar, schools."""
        found = {f"school.{key}": way for key, way in self.ways.items()}
        found["axle"] = axle
        found["layout"] = self.car.get(f"{axle}.layout", "")
        found["bar"] = "no" if self.car.get(f"{axle}.bar.fitted") == "none" else "yes"
        procedure = self.library.find(fitting.procedure)
        for option in (*self.library.common.options, *procedure.options):
            found[option.key] = answer(option, fitting, self.car, axle, side)
        return found


def answer(option: Option, fitting: Fitting, car: Mapping[str, str], axle: str, side: str) -> str:
    """The answer to a procedure's question.

    An answer that is not among the choices is passed over.
    """
    values = {choice.value for choice in option.choices}
    told = fitting.options.get(option.key, "")
    recorded = recorded_answer(option, car, axle, side)
    return next((one for one in (told, recorded, option.usual) if one in values), "")


def recorded_answer(option: Option, car: Mapping[str, str], axle: str, side: str) -> str:
    """What the car's record answers; nothing where it does not.

    ``known_from`` names the field.
    """
    if not option.known_from:
        return ""
    return car.get(record_field(option, axle, side or "left"), "")


def record_field(option: Option, axle: str, side: str) -> str:
    """The record's field that answers a question at one place."""
    return option.known_from.replace("{axle}", axle).replace("{side}", side)


def place_all(known: Known) -> list[Placed]:
    """Place every operation the brief takes.

    What is needed and what closes is taken in too, at the place of what needs it.

    Raises NotFound: No such procedure. Raises InputError, Inconsistent: An axle it cannot be done at, the same thing
    twice, a layout it is not for.
    """
    _check(known)
    found: dict[str, Placed] = {}
    for number, fitting in enumerate(known.brief.fittings):
        procedure = known.library.find(fitting.procedure)
        queue: deque[Placed] = deque()
        for index, op in enumerate(procedure.operations):
            queue.extend(_spots(known, fitting, procedure, op, (number, index), fitting.axle, ""))
        for name in procedure.uses:
            queue.extend(_called(known, fitting, procedure, name, fitting.axle, ""))
        while queue:
            one = queue.popleft()
            if one.key in found:
                old = found[one.key]
                found[one.key] = replace(old, by=tuple(dict.fromkeys((*old.by, *one.by))))
                if fitting.procedure in old.by:
                    continue
            else:
                found[one.key] = one
            for name in (*one.op.needs, *one.op.then):
                queue.extend(_called(known, fitting, procedure, name, one.axle, one.side))
    placed = [one for one in found.values() if one.key not in known.brief.dropped]
    return sorted([*placed, *map(own_step, known.brief.added)], key=lambda one: (one.rank, one.axle, one.side))


def own_step(step: OwnStep) -> Placed:
    """A step of the user's own as a placed operation.

    Its key stands as it is.

    Raises InputError: No title, or a phase that does not exist.
    """
    if not step.title.strip():
        raise InputError("A step of your own needs a title.", field="added.title")
    if not 1 <= step.phase <= 14:
        raise InputError(f"Phases go from 1 to 14; got {step.phase}.", field="added.phase")
    op = Operation(step.key, step.title, step.phase, step.detail, step.where, after=step.after, minutes=step.minutes)
    return Placed(step.key, op, "own", step.axle, step.side, (99, 0), ("own",))


def find_operation(library: Library, procedure: Procedure, name: str) -> tuple[str, Operation, int]:
    """Look an operation up by the name it is called by.

    The procedure's own operations come first.

    Raises InputError: There is none.
    """
    for owner in (procedure, library.common):
        for index, op in enumerate(owner.operations):
            if op.key == name:
                return owner.key, op, index
    raise InputError(f"“{procedure.title}” calls a step {name!r} that does not exist.", field="needs")


def _check(known: Known) -> None:
    fittings = known.brief.fittings
    if not fittings:
        raise InputError("Say what is fitted: at least one part.", field="fittings")
    seen = set()
    for fitting in fittings:
        procedure = known.library.find(fitting.procedure)
        if (fitting.axle not in procedure.axles) if procedure.axles else fitting.axle:
            where = " or ".join(procedure.axles) or "the whole car, no axle"
            raise InputError(
                f"“{procedure.title}” is done at {where}; got {fitting.axle or 'no axle'}.", field="fittings.axle"
            )
        if not fitting.sides:
            raise InputError(f"“{procedure.title}”: name a side.", field="fittings.sides")
        if (fitting.procedure, fitting.axle) in seen:
            raise Inconsistent(f"“{procedure.title}” stands twice for the same axle.", field="fittings")
        seen.add((fitting.procedure, fitting.axle))
        layout = known.car.get(f"{fitting.axle}.layout", "")
        if procedure.layouts and layout and layout not in procedure.layouts:
            fit = ", ".join(procedure.layouts).replace("_", " ")
            raise Inconsistent(
                f"“{procedure.title}” is for {fit}; this car's {fitting.axle} axle is {layout.replace('_', ' ')}.",
                field="fittings.procedure",
            )


def _called(
    known: Known, fitting: Fitting, procedure: Procedure, name: str, axle: str, side: str
) -> Iterator[Placed]:
    owner, op, index = find_operation(known.library, procedure, name)
    number = known.brief.fittings.index(fitting) if owner == procedure.key else -1
    home = procedure if owner == procedure.key else known.library.common
    yield from _spots(known, fitting, home, op, (number, index), axle, side)


def _sides(known: Known, fitting: Fitting, owner: Procedure, axle: str) -> list[str]:
    """Sides something is done at; what is shared by several fittings at all of theirs."""
    if owner is not known.library.common:
        return list(fitting.sides)
    wanted = {side for one in known.brief.fittings if share(one.axle, axle) for side in one.sides}
    return sorted(wanted)


def _spots(
    known: Known, fitting: Fitting, owner: Procedure, op: Operation, rank: tuple[int, int], axle: str, side: str
) -> Iterator[Placed]:
    axles = list(dict.fromkeys(one.axle for one in known.brief.fittings if one.axle)) or AXLES
    prefix = "" if owner is known.library.common else f"{owner.key}."
    for at, beside in spots_of(op.per, axle, (side,) if side else fitting.sides, axles):
        facts = known.facts(fitting, at or fitting.axle, beside)
        facts["sides"] = " ".join(_sides(known, fitting, owner, at))
        if holds(op.when, facts):
            place = ".".join(filter(None, (at, beside)))
            key = f"{prefix}{op.key}" + (f"@{place}" if place else "")
            yield Placed(key, op, owner.key, at, beside, rank, (fitting.procedure,), facts)
