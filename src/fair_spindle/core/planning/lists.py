"""What a work order says beside its steps: what to lay out and buy, what was found about the parts."""

from __future__ import annotations

from typing import Literal

from fair_spindle.core.basics.value_object import value_object


@value_object
class Listing:
    """A line of a work order's lists: what, how many, and why."""

    sort: Literal["tool", "chemical", "buy", "leftover", "book"]
    name: str
    count: int = 1
    why: str = ""


@value_object
class Remark:
    """Something found before the car was raised; what blocks keeps the parts of ``procedure`` from going in."""

    severity: Literal["blocks", "question", "note"]
    message: str
    reason: str = ""
    procedure: str = ""
