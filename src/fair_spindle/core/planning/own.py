"""A procedure of the workshop's own, made from an edited plan."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from fair_spindle.core.basics.errors import InputError, NotAllowed
from fair_spindle.core.planning.placing import Known, place_all
from fair_spindle.core.planning.procedure import Operation, OwnStep, Procedure


def own_procedure(known: Known, key: str, title: str) -> Procedure:
    """Make one procedure of what a brief fits, with the user's edits in it.

    A step left out everywhere is left out of it; a step put after another becomes a rule; the user's own steps become
    operations. Where several procedures are put together, keys get the procedure's name before them.

    Raises NotAllowed: The brief works on two axles: a procedure is for one at a time. Raises InputError: A name that
    cannot be.
    """
    brief, library = known.brief, known.library
    _named(key, title, library.procedures)
    axles = {fitting.axle for fitting in brief.fittings}
    if len(axles) > 1:
        raise NotAllowed("This plan works on two axles. Save it from a plan for one; a job takes it for each.")
    parts = [library.find(fitting.procedure) for fitting in brief.fittings]
    many = len(parts) > 1
    joined = [_prefixed(part) if many else part for part in parts]
    left_out = _left_out(known)
    operations, gone = [], set()
    for part, whole in zip(parts, joined, strict=True):
        for old, op in zip(part.operations, whole.operations, strict=True):
            if (part.key, old.key) in left_out:
                gone.add(op.key)
            else:
                operations.append(op)
    operations = [_without(op, gone) for op in operations]
    names = _names(known, many)
    own = [_operation(step, names) for step in brief.added]
    later: dict[str, list[str]] = {}
    for wish in brief.later:
        later.setdefault(names.get(wish.then, ""), []).append(names.get(wish.first, ""))
    told = [replace(op, after=(*op.after, *filter(None, later.get(op.key, [])))) for op in (*operations, *own)]
    first = parts[0]
    return Procedure(
        key,
        title.strip(),
        f"From {', '.join(part.title.lower() for part in parts)}, as this workshop does it.",
        axles=first.axles,
        per=first.per,
        layouts=tuple(sorted(set.intersection(*(set(part.layouts) for part in parts)))) if many else first.layouts,
        uses=tuple(name for name in _each(part.uses for part in parts) if ("common", name) not in left_out),
        changes=_each(part.changes for part in parts),
        measures=_each(part.measures for part in parts),
        words=_each(part.words for part in parts),
        booked=_each(part.booked for part in parts),
        options=_each(part.options for part in joined),
        checks=_each(part.checks for part in joined),
        fastenings=_each(part.fastenings for part in joined),
        wares=_each(part.wares for part in joined),
        operations=tuple(told),
    )


def _named(key: str, title: str, taken: Mapping[str, Procedure]) -> None:
    if not (2 <= len(key) <= 40 and key.replace("_", "").isalnum() and key.islower() and key.isascii()):
        raise InputError("A procedure's key is 2 to 40 small letters, digits and underscores.", field="key")
    if not 2 <= len(title.strip()) <= 120:
        raise InputError("A procedure's title has 2 to 120 letters.", field="title")


def _each(groups: Iterable[Iterable[Any]]) -> tuple[Any, ...]:
    found: list[Any] = []
    for group in groups:
        found += [one for one in group if one not in found]
    return tuple(found)


def _left_out(known: Known) -> set[tuple[str, str]]:
    """Operations that were in the plan before the user left things out, and are not now."""
    whole = replace(known, brief=replace(known.brief, dropped={}))
    before, now = ({(one.owner, one.op.key) for one in place_all(each)} for each in (whole, known))
    return before - now


def _without(op: Operation, gone: set[str]) -> Operation:
    """The same without calling what was left out."""
    needs, after, before, then = (
        tuple(key for key in called if key not in gone) for called in (op.needs, op.after, op.before, op.then)
    )
    return replace(op, needs=needs, after=after, before=before, then=then)


def _names(known: Known, many: bool) -> dict[str, str]:
    """Keys of operations in the new procedure by the keys of placed steps."""
    found = {}
    for one in place_all(known):
        prefix = f"{one.owner}_" if many and one.owner not in ("common", "own") else ""
        found[one.key] = _slug(one.key) if one.owner == "own" else f"{prefix}{one.op.key}"
    return found


def _slug(key: str) -> str:
    return re.sub(r"[^a-z0-9]+", "_", key.lower())[:80].strip("_") or "own"


def _operation(step: OwnStep, names: Mapping[str, str]) -> Operation:
    per = "side" if step.side else "axle" if step.axle else "car"
    return Operation(
        _slug(step.key),
        step.title,
        step.phase,
        step.detail,
        step.where,
        per,  # type: ignore[arg-type]
        after=tuple(dict.fromkeys(names[one] for one in step.after if one in names)),
        minutes=step.minutes,
    )


def _prefixed(part: Procedure) -> Procedure:
    """The same with its own name before every key of its own."""
    mine = {op.key for op in part.operations}
    options = {option.key for option in part.options}

    def name(key: str) -> str:
        return f"{part.key}_{key}"

    def called(keys: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(name(key) if key in mine else key for key in keys)

    def when(told: dict[str, tuple[str, ...]]) -> dict[str, tuple[str, ...]]:
        return {name(key) if key in options else key: values for key, values in told.items()}

    return replace(
        part,
        options=tuple(replace(option, key=name(option.key)) for option in part.options),
        checks=tuple(replace(check, key=name(check.key)) for check in part.checks),
        wares=tuple(replace(ware, when=when(ware.when)) for ware in part.wares),
        fastenings=tuple(
            replace(
                fastening,
                key=name(fastening.key),
                when=when(fastening.when),
                bushing=f"@{name(fastening.bushing[1:])}" if fastening.bushing.startswith("@") else fastening.bushing,
                count_from=name(fastening.count_from) if fastening.count_from in options else fastening.count_from,
            )
            for fastening in part.fastenings
        ),
        operations=tuple(
            replace(
                op,
                key=name(op.key),
                needs=called(op.needs),
                after=called(op.after),
                before=called(op.before),
                then=called(op.then),
                frees=tuple(map(name, op.frees)),
                brings={name(key): stage for key, stage in op.brings.items()},
                when=when(op.when),
            )
            for op in part.operations
        ),
    )
