"""Whether a procedure makes sense: names that exist, ranges that can be, conditions that can hold."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.units import units_of
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.planning.cautions import CAUTIONS
from fair_spindle.core.planning.placing import find_operation
from fair_spindle.core.planning.precedence import READIED
from fair_spindle.core.planning.procedure import Library, Operation, Procedure, When
from fair_spindle.core.planning.schools import SCHOOLS
from fair_spindle.core.planning.template import Reading

FACTS = {"axle", "layout", "bar", *(f"school.{key}" for key in SCHOOLS)}
MOST_OPERATIONS = 80
SLUG = re.compile(r"[a-z0-9][a-z0-9_]{0,79}")
RECORD_FIELD = re.compile(r"(\{axle\}|front|rear)(\.(\{side\}|left|right))?(\.[a-z0-9_]+)+")


def check_procedure(procedure: Procedure, common: Procedure) -> None:
    """Hold a procedure against the rules for writing one.

    Rings are found when it is planned, since they depend on what it is combined with.

    Raises InputError: The first thing that does not hold, with the field, what was found and what may stand there.
    """
    _slugs(procedure)
    _once([operation.key for operation in procedure.operations], "operations")
    _once([fastening.key for fastening in procedure.fastenings], "fastenings")
    _once([option.key for option in procedure.options], "options")
    _among("layouts", procedure.layouts, LAYOUTS)
    if not procedure.title.strip():
        raise InputError("A procedure needs a title.", field="title")
    if not (procedure.operations or procedure.uses) or len(procedure.operations) > MOST_OPERATIONS:
        raise InputError(
            f"A procedure has 1 to {MOST_OPERATIONS} operations, or uses shared ones.", field="operations"
        )
    library = Library(common, {procedure.key: procedure})
    for name in procedure.uses:
        find_operation(library, procedure, name)
    _fastenings(procedure)
    facts = FACTS | {option.key for option in (*procedure.options, *common.options)}
    for field, when in _conditions(procedure):
        _among(field, when, facts)
    for number, op in enumerate(procedure.operations):
        _operation(op, f"operations[{number}] {op.key}", procedure, library)


def _slugs(procedure: Procedure) -> None:
    named = [("key", procedure.key)]
    for group in ("options", "fastenings", "operations"):
        named += [(f"{group}[{number}].key", one.key) for number, one in enumerate(getattr(procedure, group))]
    for field, key in named:
        if not SLUG.fullmatch(key):
            raise InputError(
                f"{field}: a key is 1 to 80 small letters, digits and underscores; got {key[:40]!r}.",
                field=field,
            )
    for number, option in enumerate(procedure.options):
        if option.known_from and not RECORD_FIELD.fullmatch(option.known_from):
            raise InputError(
                f"options[{number}].known_from names a field of the record, with {{axle}} and {{side}} where they "
                f"stand, as {{axle}}.{{side}}.lower.bush_front; got {option.known_from[:60]!r}.",
                field=f"options[{number}].known_from",
            )


def _operation(op: Operation, where: str, procedure: Procedure, library: Library) -> None:
    if not op.title.strip():
        raise InputError(f"{where}: an operation needs a title.", field=f"{where}.title")
    if not 1 <= op.phase <= 14:
        raise InputError(f"{where}: phases go from 1 to 14; got {op.phase}.", field=f"{where}.phase")
    for name in ("minutes", "wait_h"):
        times = getattr(op, name)
        if times and not (len(times) == 2 and 0 <= times[0] <= times[1]):
            raise InputError(f"{where}: {name} is [least, most]; got {list(times)}.", field=f"{where}.{name}")
    if op.people not in (1, 2):
        raise InputError(f"{where}: one or two people; got {op.people}.", field=f"{where}.people")
    groups = {fastening.key for fastening in procedure.fastenings}
    _among(f"{where}.brings", op.brings, groups)
    _among(f"{where}.frees", op.frees, groups)
    _among(f"{where}.cautions", op.cautions, CAUTIONS)
    _among(f"{where}.school", [op.school] if op.school else [], SCHOOLS)
    for name in ("readies", "relies"):
        _among(f"{where}.{name}", [one.partition(":")[0] for one in getattr(op, name)], READIED)
    for name in (*op.needs, *op.after, *op.before, *op.then):
        if ":" not in name:
            find_operation(library, procedure, name)
    for reading in op.reads:
        _reading(reading, f"{where}.reads {reading.name}", procedure)


def _reading(reading: Reading, field: str, procedure: Procedure) -> None:
    alike = {read.name for op in procedure.operations for read in op.reads if read.per == reading.per}
    _among(f"{field}.beside", [reading.beside] if reading.beside else [], alike)
    if reading.quantity in ("choice", "words"):
        if (reading.quantity == "choice") != bool(reading.choices):
            raise InputError(f"{field}: choices belong to a choice, and to nothing else.", field=f"{field}.choices")
        return
    _among(f"{field}.unit", [reading.unit], {unit.key for unit in units_of(reading.quantity)})
    if not reading.low < reading.high:
        raise InputError(
            f"{field}: low must be below high; got {reading.low:g} and {reading.high:g}.", field=f"{field}.low"
        )


def _fastenings(procedure: Procedure) -> None:
    options = {option.key for option in procedure.options}
    for fastening in procedure.fastenings:
        field = f"fastenings {fastening.key}"
        if not 1 <= fastening.count <= 60:
            raise InputError(f"{field}: one to sixty places; got {fastening.count}.", field=f"{field}.count")
        told = [fastening.bushing[1:]] if fastening.bushing.startswith("@") else []
        _among(f"{field}.bushing", told, options)
        _among(f"{field}.count_from", [fastening.count_from] if fastening.count_from else [], options)


def _conditions(procedure: Procedure) -> Iterator[tuple[str, When]]:
    for name in ("fastenings", "wares", "operations"):
        for number, one in enumerate(getattr(procedure, name)):
            yield f"{name}[{number}].when", one.when


def _among(field: str, names: Iterable[str], known: Iterable[str]) -> None:
    for name in names:
        if name not in known:
            raise InputError(f"{field}: {name!r} is not known. Known: {', '.join(sorted(known))}.", field=field)


def _once(keys: list[str], field: str) -> None:
    twice = {key for key in keys if keys.count(key) > 1}
    if twice:
        raise InputError(f"{field}: {sorted(twice)[0]!r} stands twice.", field=field)
