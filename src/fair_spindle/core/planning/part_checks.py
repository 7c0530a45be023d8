"""Old part beside new before the car is raised: what differs, how grave it is, and why."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.spelling import TypedNumber, read_number
from fair_spindle.core.basics.units import UNITS, from_core
from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.planning.lists import Remark
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Compared, Fitting, PartCheck, Procedure

TOLERANCE_MM = 0.5
DIGITS = {"in": 3, "cm": 2}


def judge_parts(known: Known) -> Iterator[Remark]:
    """Compare old and new parts of every fitting.

    Lengths within 0.5 mm count as equal: the product's own value, about what a tape shows.

    Raises InputError: A length or count that is no number.

    Common practice, no published source.
    """
    for fitting in known.brief.fittings:
        procedure = known.library.find(fitting.procedure)
        open_ = []
        for check in procedure.checks:
            pairs = compared_in(fitting, check)
            for side, pair in pairs:
                yield from _differs(check, pair, side, procedure)
            if not pairs:
                open_.append(check.label.lower())
        if open_:
            yield Remark(
                "question",
                f"{procedure.title}: not compared yet: {', '.join(open_)}.",
                "Old beside new on the bench costs minutes; found under the car it costs the day.",
            )


def compared_in(fitting: Fitting, check: PartCheck) -> list[tuple[str, Compared]]:
    """What was compared by one check, each pair with its side; no side where both are alike."""
    keys = (("", check.key), *((side, f"{check.key}.{side}") for side in SIDES))
    found = [(side, fitting.compared[key]) for side, key in keys if key in fitting.compared]
    return [(side, pair) for side, pair in found if pair.old.strip() and pair.new.strip()]


def _differs(check: PartCheck, compared: Compared, side: str, procedure: Procedure) -> Iterator[Remark]:
    old, new = compared.old.strip(), compared.new.strip()
    where = f", {side}" if side else ""
    told = f"{procedure.title}: {check.label.lower()}{where}: old {old}, new {new}."
    field = f"compared.{check.key}"
    if check.compare == "length":
        first, then = _length(old, field), _length(new, field)
        change = then.value - first.value
        if abs(change) > TOLERANCE_MM:
            unit = then.unit if then.unit in ("mm", "cm", "in") else "mm"
            moved = from_core(abs(change), unit)
            way = "More" if change > 0 else "Less"
            yield Remark(
                "question",
                f"{told} {way} by {moved:.{DIGITS.get(unit, 1)}f} {UNITS[unit].label}.",
                check.means or "Read what it moves before and after.",
            )
    elif check.compare == "count":
        if _count(new, field) != _count(old, field):
            yield Remark(
                "question",
                told,
                check.means or "Another count: missing, or left over on purpose. Read the part's sheet.",
            )
    elif old.casefold().replace(" ", "") != new.casefold().replace(" ", ""):
        grave = check.compare in ("hand", "thread")
        reason = check.means or _WHY[check.compare]
        yield Remark("blocks" if grave else "question", told, reason, procedure.key if grave else "")


_WHY = {
    "hand": "A part or thread of the other hand turns the wrong way, or does not fit.",
    "thread": "Another thread destroys the one it is screwed into.",
    "fit": "A part for another version of this chassis fits until it matters.",
}


def _length(text: str, field: str) -> TypedNumber:
    return read_number(text, "length", "mm", field)


def _count(text: str, field: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"A count is a number; got {text!r}.", field=field) from None
