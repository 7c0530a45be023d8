"""Ready patterns for the map of a joint: circles, rectangles, rows."""

from __future__ import annotations

import math
from typing import Literal

from fair_spindle.core.basics.errors import InputError, require

Pattern = Literal["circle", "rectangle", "row"]


def places_of(pattern: Pattern, count: int, width: float, height: float = 0.0) -> tuple[tuple[float, float], ...]:
    """Lay the places of a joint out.

    Parameters
    ----------
    pattern : {"circle", "rectangle", "row"}
        How they sit. [-]
    count : int
        Places, 1 to 60; even and at least 4 for a rectangle. [-]
    width : float
        Diameter of the circle, or length of the rectangle or row, > 0. [mm]
    height : float, optional
        Of the rectangle, > 0. [mm]

    Returns
    -------
    tuple
        x to the right and y up from the middle, the first place at the top or at the left. [mm]

    Raises
    ------
    InputError
        A pattern or a count that cannot be.
    OutOfRange
        A size that is not above zero.

    Notes
    -----
    A circle goes clockwise from the top.  A rectangle has its places along its two long sides, clockwise from the top
    left; a row goes from left to right.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> places_of("row", 3, 100.0)
    ((-50.0, 0.0), (0.0, 0.0), (50.0, 0.0))
    """
    require(1 <= count <= 60, "count", "One to sixty places are laid out", count, kind=InputError)
    require(width > 0, "width_mm", "The size must be above 0 mm", width)
    if pattern == "circle":
        turns = [2 * math.pi * place / count for place in range(count)]
        return tuple((round(width / 2 * math.sin(at), 3), round(width / 2 * math.cos(at), 3)) for at in turns)
    if pattern == "row":
        return tuple((width * (place / (count - 1) - 0.5) if count > 1 else 0.0, 0.0) for place in range(count))
    require(
        pattern == "rectangle", "pattern", "A pattern is a circle, a rectangle or a row", pattern, kind=InputError
    )
    require(count >= 4 and count % 2 == 0, "count", "A rectangle has an even count from 4", count, kind=InputError)
    require(height > 0, "height_mm", "The size must be above 0 mm", height)
    half = count // 2
    top = [(width * (place / (half - 1) - 0.5), height / 2) for place in range(half)]
    return (*top, *((x, -height / 2) for x, _ in reversed(top)))
