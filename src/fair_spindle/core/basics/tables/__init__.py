"""Tables as printed, each beside a note of standard, edition and who typed it."""

from __future__ import annotations

import csv
from functools import cache
from importlib.resources import files


@cache
def iso_pitches() -> dict[float, tuple[float, ...]]:
    """Standard pitches by nominal diameter, the coarse one first.

    Returns
    -------
    dict
        Pitches by diameter, M5 to M30. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Edition and origin stand in ``iso261_pitches.md`` beside the table.

    Source
    ------
    iso-261

    Examples
    --------
    >>> iso_pitches()[12.0]
    (1.75, 1.5, 1.25, 1.0)
    """
    return {
        float(row["diameter_mm"]): (float(row["coarse_mm"]), *(float(p) for p in row["fine_mm"].split()))
        for row in _rows("iso261_pitches.csv")
    }


@cache
def unified_threads() -> dict[str, tuple[float, tuple[float, ...]]]:
    """Inch threads by size: diameter and pitches, the coarse one first.

    Returns
    -------
    dict
        Diameter and pitches by size as it is written. [mm]

    Raises
    ------
    Nothing.

    Notes
    -----
    Edition and origin stand in ``unified_threads.md`` beside the table.

    Source
    ------
    asme-b1-1

    Examples
    --------
    >>> unified_threads()["1/2"]
    (12.7, (1.9538461538461538, 1.27))
    """
    return {
        row["size"]: (
            float(row["diameter_mm"]),
            tuple(25.4 / float(row[f"{name}_tpi"]) for name in ("coarse", "fine")),
        )
        for row in _rows("unified_threads.csv")
    }


@cache
def student_t() -> dict[float, float]:
    """Student's t for a two-sided 95.45 %, by degrees of freedom.

    Returns
    -------
    dict
        Coverage factor by degrees of freedom, the last row infinite. [-]

    Raises
    ------
    Nothing.

    Notes
    -----
    Edition and origin stand in ``student_t.md`` beside the table.

    Source
    ------
    jcgm-100

    Examples
    --------
    >>> student_t()[1.0]
    13.97
    """
    return {float(row["freedom"]): float(row["t_95_45"]) for row in _rows("student_t.csv")}


def _rows(name: str) -> list[dict[str, str]]:
    text = files(__name__).joinpath(name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))
