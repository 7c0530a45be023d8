"""A wheel known by slopes alone: toe and camber per travel as read, adjusters by lever and arm.

The shallowest depth of geometry; points replace it where they are known.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import field

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import require
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import WheelAngles, solve_poses, wheel_angles

Array = NDArray[np.float64]


@value_object
class Slopes:
    """One wheel by its angles at ride height [rad] and their slopes [rad/mm] with their uncertainties.

    ``effects`` are toe and camber per mm of each adjustable link, ``effect_doubts`` the uncertainty of that toe.
    [rad/mm]
    """

    side: int
    camber: float
    toe: float
    toe_slope: float
    camber_slope: float
    toe_slope_uncertainty: float = 0.0
    camber_slope_uncertainty: float = 0.0
    effects: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    effect_doubts: Mapping[str, float] = field(default_factory=dict)

    @property
    def steering_axis(self) -> None:
        """Not known: slopes are of toe and camber."""


Geometry = Corner | Slopes


def angles_at(geometry: Geometry, travels: ArrayLike, changes: Mapping[str, ArrayLike] | None = None) -> WheelAngles:
    """Wheel angles at travels, with links lengthened, at whatever depth the wheel is known.

    Parameters
    ----------
    geometry : Corner or Slopes
        The wheel. [mm, rad]
    travels : array_like
        Wheel travel, bump positive, shape (n,). [mm]
    changes : mapping, optional
        Length change by link, each shape (n,) or scalar. [mm]

    Returns
    -------
    WheelAngles
        Arrays of shape (n,).

    Raises
    ------
    NoSolution
        The linkage locks before a travel.
    InputError
        A change of something whose effect is not known.

    Notes
    -----
    Slopes are straight lines: angle = angle at ride height + slope · travel + Σ effect · change.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> wheel = Slopes(1, -0.01, 0.002, 1e-5, -3e-4, effects={"tie": (1 / 120, 0.0)})
    >>> round(float(angles_at(wheel, [10.0], {"tie": 1.2}).toe[0]), 6)
    0.0121
    """
    if isinstance(geometry, Corner):
        return wheel_angles(geometry, solve_poses(geometry, travels, changes))
    travel = np.atleast_1d(np.asarray(travels, dtype=float))
    toe = geometry.toe + geometry.toe_slope * travel
    camber = geometry.camber + geometry.camber_slope * travel
    for name, by in (changes or {}).items():
        known = ", ".join(sorted(geometry.effects)) or "nothing"
        require(name in geometry.effects, "acts_on", f"By slopes alone the effect of {known} is known", name)
        per_mm = geometry.effects[name]
        toe = toe + per_mm[0] * np.asarray(by, dtype=float)
        camber = camber + per_mm[1] * np.asarray(by, dtype=float)
    flat = np.full(travel.shape, np.nan)
    slopes = np.full(travel.shape, geometry.toe_slope), np.full(travel.shape, geometry.camber_slope)
    return WheelAngles(camber, toe, flat, None, None, *slopes)
