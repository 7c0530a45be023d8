"""The sheet of a job or of a car's record, made once for each shape of car."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

from fair_spindle.core.sheet.car import car_fields
from fair_spindle.core.sheet.field import Sheet, sheet_of
from fair_spindle.core.sheet.front_strut import front_strut_fields
from fair_spindle.core.sheet.new_parts import new_part_fields
from fair_spindle.core.sheet.shape import Shape
from fair_spindle.core.sheet.springs import job_fields, scales_after
from fair_spindle.core.sheet.walk import baseline_fields, check_fields


@lru_cache(maxsize=512)
def sheet_for(kind: str, shape: Shape) -> Sheet:
    """Give the fields of a job or of a car's record.

    Parameters
    ----------
    kind : {"car", "measure", "align", "springs", "work", "front_strut"}
        The kind of job; ``"car"`` is the record itself. [-]
    shape : Shape
        The car's deciding choices. [-]

    Returns
    -------
    Sheet
        Fields by key, in the order they are shown.

    Raises
    ------
    NotFound
        A layout that does not exist.

    Notes
    -----
    A measuring job holds the record too, so that its readings can be read against it.  Bump steer is read in a job
    and kept in the record, where the next job takes it from.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.sheet.shape import shape_of
    >>> sheet_for("car", shape_of({})).find("front.layout").required
    True
    """
    if kind == "front_strut":
        return sheet_of(front_strut_fields())
    record = car_fields(shape)
    if kind == "car":
        slopes = (one for one in baseline_fields(shape) if one.name == "bump_slope")
        learned = (replace(one, phase="car", group="Steering", settled=False) for one in slopes)
        return sheet_of((*record, *learned))
    if kind == "align":
        return sheet_of((*baseline_fields(shape), *new_part_fields(shape), *record, *check_fields(shape)))
    if kind in ("springs", "work"):
        parts = (*new_part_fields(shape), *job_fields(shape))
        return sheet_of((*baseline_fields(shape), *parts, *record, *check_fields(shape), scales_after()))
    return sheet_of((*baseline_fields(shape), *record))
