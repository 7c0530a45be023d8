"""Old part beside new before the car is raised: what differs, how grave it is, and why."""

from __future__ import annotations

from collections.abc import Iterator

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.planning.lists import Remark
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Compared, PartCheck

TOLERANCE_MM = 0.5


def judge_parts(known: Known) -> Iterator[Remark]:
    """Compare old and new parts of every fitting.

    Parameters
    ----------
    known : Known
        The brief with what was compared. [-]

    Returns
    -------
    iterator of Remark
        What differs, and what was not compared.

    Raises
    ------
    InputError
        A length or count that is no number.

    Notes
    -----
    Lengths within 0.5 mm count as equal: the product's own value, about what a tape shows.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Brief, Fitting, Library, Procedure
    >>> job = Procedure("a", "A", "", checks=(PartCheck("hand", "Hand of the thread", "hand"),))
    >>> library = Library(Procedure("common", "", ""), {"a": job})
    >>> brief = Brief((Fitting("a", compared={"hand": Compared("left", "right")}),))
    >>> next(judge_parts(Known(brief, library, {}, {}))).severity
    'blocks'
    """
    for fitting in known.brief.fittings:
        procedure = known.library.find(fitting.procedure)
        open_ = []
        for check in procedure.checks:
            compared = fitting.compared.get(check.key)
            if compared and compared.old.strip() and compared.new.strip():
                yield from _differs(check, compared, procedure.title)
            else:
                open_.append(check.label.lower())
        if open_:
            yield Remark(
                "question",
                f"{procedure.title}: not compared yet: {', '.join(open_)}.",
                "Old beside new on the bench costs minutes; found under the car it costs the day.",
            )


def _differs(check: PartCheck, compared: Compared, title: str) -> Iterator[Remark]:
    old, new = compared.old.strip(), compared.new.strip()
    told = f"{title}: {check.label.lower()}: old {old}, new {new}."
    field = f"compared.{check.key}"
    if check.compare == "length":
        change = _number(new, field) - _number(old, field)
        if abs(change) > TOLERANCE_MM:
            yield Remark(
                "question",
                f"{told} {'Longer' if change > 0 else 'Shorter'} by {abs(change):.1f} mm.",
                "Counting the same turns on does not bring the wheel back; plan the turns from the lengths.",
            )
    elif check.compare == "count":
        if _number(new, field, "") != _number(old, field, ""):
            yield Remark(
                "question",
                told,
                "Another count than the old one: missing, or left over on purpose. Read the part's own sheet.",
            )
    elif old.casefold().replace(" ", "") != new.casefold().replace(" ", ""):
        grave = check.compare in ("hand", "thread")
        yield Remark("blocks" if grave else "question", told, _WHY[check.compare])


_WHY = {
    "hand": "A part or thread of the other hand turns the wrong way, or does not fit.",
    "thread": "Another thread destroys the one it is screwed into.",
    "fit": "A part for another version of this chassis fits until it matters.",
}


def _number(text: str, field: str, unit: str = "mm") -> float:
    if unit:
        return read_number(text, "length", unit, field).value
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"A count is a number; got {text!r}.", field=field) from None
