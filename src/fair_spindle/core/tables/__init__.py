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
        Pitches by diameter, M8 to M16. [mm]

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
    text = files(__name__).joinpath("iso261_pitches.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(text.splitlines())
    return {
        float(row["diameter_mm"]): (float(row["coarse_mm"]), *(float(p) for p in row["fine_mm"].split()))
        for row in rows
    }
