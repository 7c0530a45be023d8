"""What is entered at one side, as it stands at the other; and the entries of one part of the car."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import Entered


def mirrored(entries: Iterable[Entered], side: str, to: str) -> tuple[Entered, ...]:
    """Entries of one side as they would be made at the other.

    y points left: what lies at +y on the left lies at −y on the right.

    Examples
    --------
    >>> point = {axis: Typed("-12,5", "mm") for axis in "xyz"}
    >>> over = mirrored([Entered("rear.left.point.arm_inner", "point", point)], "left", "right")[0]
    >>> over.key, over.typed["x"].text, over.typed["y"].text
    ('rear.right.point.arm_inner', '-12,5', '12,5')
    """
    return tuple(
        replace(entry, key=entry.key.replace(f".{side}.", f".{to}."), typed=_typed(entry))
        for entry in entries
        if f".{side}." in entry.key
    )


def _typed(one: Entered) -> dict[str, Typed]:
    if one.method != "point" or "y" not in one.typed:
        return one.typed
    y = one.typed["y"]
    text = y.text.strip()
    turned = text[1:].strip() if text[:1] in ("-", "−") else f"-{text.removeprefix('+')}"
    return {**one.typed, "y": replace(y, text=turned)}


def below(entries: Iterable[Entered], prefix: str) -> tuple[Entered, ...]:
    """Entries of one part, by their names below it.

    The inverse puts a prefix before each key.
    """
    start = f"{prefix}."
    return tuple(
        replace(entry, key=entry.key.removeprefix(start)) for entry in entries if entry.key.startswith(start)
    )
