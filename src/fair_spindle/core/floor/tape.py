"""A corner from tape and digital level: arm lengths and rises, flat in the front view.

The middle depth of geometry: more than slopes, less than points.
"""

from __future__ import annotations

import math

from fair_spindle.core.corner import Corner, make_corner
from fair_spindle.core.errors import InputError
from fair_spindle.core.floor.asking import Readings

SPAN = 160.0
INBOARD = {"strut": 0.14, "double_wishbone": 0.04}
ARMS = {"strut": ("lower",), "double_wishbone": ("lower", "upper")}


def needed_by_tape(key: str, layout: str) -> tuple[str, ...]:
    """Measures a corner cannot do without, by field key.

    Parameters
    ----------
    key : str
        Axle and side. [-]
    layout : str
        Layout of the axle. [-]

    Returns
    -------
    tuple of str
        Empty for a layout that is not taken from tape measures.

    Raises
    ------
    Nothing.

    Notes
    -----
    How far the upper joint lies inboard may stay unknown.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> needed_by_tape("front.left", "five_link")
    ()
    """
    if layout not in ARMS:
        return ()
    arms = (*ARMS[layout], "tie")
    measures = [f"{arm}.{name}" for arm in arms for name in ("length", "rise")]
    own = [f"{key}.{name}" for name in (*measures, "tie.lever", "tie.above", "joint_height")]
    axle = key.split(".")[0]
    return (*own, f"{axle}.track")


def corner_by_tape(record: Readings, key: str, layout: str, angles: tuple[float, float]) -> Corner | None:
    """Lay out a corner from its tape measures, flat in the front view.

    Parameters
    ----------
    record : Readings
        The car's record. [-]
    key : str
        Axle and side. [-]
    layout : str
        Layout of the axle. [-]
    angles : tuple of float
        Camber and toe as read. [rad]

    Returns
    -------
    Corner or None
        None where a measure is missing or they do not fit together.

    Raises
    ------
    Nothing.

    Notes
    -----
    Pivot axes run fore and aft; the lower joint is the origin; the wheel centre stands above it by
    two fifths of the height between the joints.  An upper joint that was not measured lies inboard by
    14 % (strut top) or 4 % of that height, the product's own.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.floor.asking import readings_now
    >>> from fair_spindle.core.floor.state import JobState
    >>> from fair_spindle.core.planning.kinds import CAR
    >>> corner_by_tape(readings_now(JobState(), CAR), "front.left", "strut", (0.0, 0.0)) is None
    True
    """
    axle, side = key.split(".")
    needed, steer = needed_by_tape(key, layout), record.words.get(f"{axle}.steer")
    if not needed or not steer or any(name not in record.quantities for name in needed):
        return None
    sign = 1.0 if side == "left" else -1.0

    def number(name: str) -> float:
        return record.quantities[f"{key}.{name}"].value

    def arm(name: str, at: tuple[float, float, float]) -> tuple[float, float]:
        length, rise = number(f"{name}.length"), number(f"{name}.rise")
        return at[1] - math.sqrt(max(length**2 - rise**2, 0.0)), at[2] - rise

    half, height = record.quantities[f"{axle}.track"].value / 2, number("joint_height")
    inboard = record.quantities.get(f"{key}.joint_inboard")
    joint = half - 60.0
    lower = (0.0, joint, 0.0)
    upper = (0.0, joint - (inboard.value if inboard else INBOARD[layout] * height), height)
    rod_x = number("tie.lever") * (-1 if steer == "behind" else 1)
    rod = (rod_x, joint, number("tie.above"))
    points = {"wheel_center": (0.0, half, 0.4 * height), "lower_ball": lower, "tie_outer": rod}
    points["tie_inner"] = (rod_x, *arm("tie", rod))
    for leg, x in (("front", SPAN), ("rear", -SPAN)):
        points[f"lower_{leg}"] = (x, *arm("lower", lower))
        if layout == "double_wishbone":
            points[f"upper_{leg}"] = (x, *arm("upper", upper))
    if layout == "double_wishbone":
        points["upper_ball"] = upper
    else:
        points["strut_top"] = upper
        points["strut_low"] = (0.0, (2 * lower[1] + upper[1]) / 3, height / 3)
    sided = {name: (x, sign * y, z) for name, (x, y, z) in points.items()}
    try:
        return make_corner(layout, side, *angles, sided)
    except InputError:
        return None
