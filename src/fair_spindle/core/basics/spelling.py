"""Numbers as people type them: decimal comma, fractions, degrees and minutes, unit suffixes."""

from __future__ import annotations

import math
import re
from functools import lru_cache

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.tables import iso_pitches, unified_threads
from fair_spindle.core.basics.units import MM_PER_INCH, to_core, units_of
from fair_spindle.core.basics.value_object import value_object

# A pitch above this is no metric one: threads per inch are meant. [mm]
MOST_METRIC_PITCH = 6

_NUMBER = r"\d+(?:[.,]\d*)?|[.,]\d+"
_PATTERN = re.compile(
    rf"""^\s*(?P<sign>[+\-−])?\s*
    (?:(?P<whole>\d+)[\s-]+(?=\d+/))?
    (?:(?P<top>\d+)/(?P<bottom>\d+)|(?P<number>{_NUMBER}))
    \s*(?P<unit>[^\d\s].*?)?\s*$""",
    re.VERBOSE | re.ASCII,
)
_DEGREES_MINUTES = re.compile(
    rf"""^\s*(?P<sign>[+\-−])?\s*(?P<deg>\d+)\s*(?:°|deg|d)\s*(?P<min>{_NUMBER})\s*(?:'|\u2032|min|m)?\s*$""",
    re.ASCII,
)


@value_object
class TypedNumber:
    """A number as it was typed, with the unit it was taken in and its value in core units."""

    text: str
    number: float
    unit: str
    value: float


@lru_cache(maxsize=4096)
def read_number(text: str, quantity: str, unit: str, field: str) -> TypedNumber:
    """Understand a number the way a tuner writes it on the clipboard.

    Parameters
    ----------
    text : str
        What was typed: ``"12,5"``, ``"1 3/8 in"``, ``"-0°20'"``; at most 40 characters. [-]
    quantity : str
        What it measures; decides which unit suffixes are understood. [-]
    unit : str
        Unit meant where the text carries none. [-]
    field : str
        Name of the field, for the error. [-]

    Returns
    -------
    TypedNumber
        The text unchanged, number and unit as understood, value in core units.

    Raises
    ------
    InputError
        Empty, not a number, a unit of another kind, or thousands separators.

    Notes
    -----
    A comma is always a decimal comma.  Degrees with minutes are taken for angles only.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> read_number("1 3/8 in", "length", "mm", "gap").value
    34.925
    >>> round(read_number("0°20'", "angle", "deg", "toe").number, 6)
    0.333333
    """
    if not text.strip():
        raise InputError("Nothing was entered. Type a number, then Enter.", field=field)
    if len(text) > 40:
        raise InputError("That is longer than 40 characters. Type one number.", field=field)
    both = _DEGREES_MINUTES.match(text) if quantity == "angle" else None
    if both:
        size = int(both["deg"]) + _decimal(both["min"]) / 60
        number, used = _signed(size, both["sign"]), "deg"
    else:
        number, used = _plain(text, quantity, unit, field)
    if not math.isfinite(number):
        raise InputError(f"{text!r} is too large to be a reading. Check the digits.", field=field)
    return TypedNumber(text.strip(), number, used, to_core(number, used))


LARGEST_IN_TABLE = 1_000_000.0


def read_table(text: str, field: str) -> tuple[tuple[float, float], ...]:
    """Understand a table of pairs typed in one line.

    Parameters
    ----------
    text : str
        Pairs apart by semicolons or lines, numbers apart by spaces or a colon. [-]
    field : str
        Name of the field, for the error. [-]

    Returns
    -------
    tuple
        Pairs of numbers in the order typed.

    Raises
    ------
    InputError
        A pair that is not two numbers, or numbers no spring has; fewer than two pairs.

    Notes
    -----
    A comma is always a decimal comma.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> read_table("300 0; 280,5 620", "table")
    ((300.0, 0.0), (280.5, 620.0))
    """
    pairs = []
    for row in re.split(r"[;\n]+", text.strip().rstrip(";")):
        numbers = re.split(r"[\s:]+", row.strip())
        if len(numbers) != 2:
            raise InputError(
                f"{row.strip()!r} is no pair of numbers. Type pairs apart by semicolons: 300 0; 280 620.", field=field
            )
        pair = (_plain(numbers[0], "", "", field)[0], _plain(numbers[1], "", "", field)[0])
        if not all(abs(number) <= LARGEST_IN_TABLE for number in pair):
            raise InputError(
                f"A number in a table is at most {LARGEST_IN_TABLE:,.0f}; got {row.strip()[:40]!r}.", field=field
            )
        pairs.append(pair)
    if len(pairs) < 2:
        raise InputError("A table needs two pairs or more, apart by semicolons: 300 0; 280 620.", field=field)
    return tuple(pairs)


def read_thread(text: str, field: str) -> tuple[float, float]:
    """Understand a thread as the trade writes it.

    Parameters
    ----------
    text : str
        ``M12x1.25``, ``12 x 1,25``, ``M12`` for the coarse pitch, ``1/2-20`` or ``1/2 in x 20`` by threads per inch;
        empty for none. [-]
    field : str
        Name for the error. [-]

    Returns
    -------
    tuple of float
        Diameter and pitch, 0 each where nothing was typed. [mm]

    Raises
    ------
    InputError
        No thread.

    Notes
    -----
    A pitch above 6 after an inch size is meant as threads per inch.

    Source
    ------
    iso-261

    Examples
    --------
    >>> read_thread("M12 x 1,25", "thread"), read_thread("1/2-20", "thread"), read_thread("M10", "thread")
    ((12.0, 1.25), (12.7, 1.27), (10.0, 1.5))
    """
    if not text.strip():
        return 0.0, 0.0
    example = "Write diameter x pitch, for example M12 x 1.25, or 1/2-20."
    inch = re.fullmatch(r"\s*(\d+(?:/\d+)?)\s*(?:in|\"|″)?\s*[-x×*]\s*(\d+)\s*(?:tpi)?\s*", text, re.I)
    if inch and inch[1] in unified_threads():
        diameter, _ = unified_threads()[inch[1]]
        if float(inch[2]) > MOST_METRIC_PITCH:
            return diameter, MM_PER_INCH / float(inch[2])
    metric = re.fullmatch(r"\s*M?\s*([\d.,]+)\s*(?:[x×*]\s*([\d.,]+)\s*)?(?:mm)?\s*", text, re.I)
    if not metric:
        raise InputError(f"{text.strip()!r} is no thread. {example}", field=field)
    diameter = read_number(metric[1], "length", "mm", field).value
    if metric[2]:
        return diameter, read_number(metric[2], "pitch", "pitch_mm", field).value
    if diameter not in iso_pitches():
        raise InputError(f"The pitch of {text.strip()} is missing. {example}", field=field)
    return diameter, iso_pitches()[diameter][0]


def read_rows(text: str, field: str) -> tuple[tuple[float, float, tuple[str, ...]], ...]:
    """Understand places written as rows: x and y, then anything else as words.

    Parameters
    ----------
    text : str
        One place a line, its parts apart by semicolons or tabs. [-]
    field : str
        Name for the error. [-]

    Returns
    -------
    tuple
        x, y [mm] and the further parts of each row.

    Raises
    ------
    InputError
        A row without two numbers.

    Notes
    -----
    Empty lines are passed over.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> read_rows("10; -20,5; M8x1.25", "rows")
    ((10.0, -20.5, ('M8x1.25',)),)
    """
    found = []
    for number, line in enumerate((line for line in text.splitlines() if line.strip()), 1):
        cells = [cell.strip() for cell in re.split(r"[;\t]", line)]
        if len(cells) < 2:
            raise InputError(
                f"Place {number} needs x and y, apart by a semicolon; got {line.strip()!r}.", field=field
            )
        x, y = (read_number(cell, "length", "mm", f"{field}.{number}").value for cell in cells[:2])
        found.append((x, y, tuple(cells[2:])))
    return tuple(found)


def _plain(text: str, quantity: str, unit: str, field: str) -> tuple[float, str]:
    match = _PATTERN.match(text)
    if not match:
        raise InputError(
            f"{text.strip()!r} is not a number. Type digits, for example 12.5 or 12,5 or 1 3/8 in.",
            field=field,
        )
    if match["top"]:
        if int(match["bottom"]) == 0:
            raise InputError(f"{text.strip()!r} divides by zero.", field=field)
        size = int(match["whole"] or 0) + int(match["top"]) / int(match["bottom"])
    else:
        size = _decimal(match["number"])
    return _signed(size, match["sign"]), _suffix(match["unit"], quantity, unit, field)


def _suffix(suffix: str | None, quantity: str, unit: str, field: str) -> str:
    if suffix is None:
        return unit
    wanted = suffix.lower().strip()
    for known in units_of(quantity):
        if wanted in (known.key, known.label.lower(), *known.spellings):
            return known.key
    choices = ", ".join(known.label for known in units_of(quantity))
    raise InputError(f"{suffix!r} is no unit for this. Use {choices}.", field=field)


def _decimal(text: str) -> float:
    return float(text.replace(",", "."))


def _signed(size: float, sign: str | None) -> float:
    return -size if sign in ("-", "−") else size
