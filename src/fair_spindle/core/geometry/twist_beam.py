"""A twist beam as the car rolls: each half turns about the line from its pivot to the cross beam's middle."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import ArrayLike, NDArray

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.corner import Corner, make_corner
from fair_spindle.core.geometry.kinematics import angles_at
from fair_spindle.core.geometry.layouts import find_layout

Array = NDArray[np.float64]
Points = Mapping[str, tuple[float, float, float]]


@value_object
class TwistBeam:
    """Both halves of a beam, each on its axis in roll, and half the track. [mm]"""

    halves: tuple[Corner, Corner]
    half_track: float


def make_twist_beam(left: Points, right: Points) -> TwistBeam:
    """Put a twist beam together from the points of both its sides.

    Parameters
    ----------
    left, right : mapping
        ``beam_pivot``, ``cross_beam`` and ``wheel_center`` of each side, (x, y, z). [mm]

    Returns
    -------
    TwistBeam
        The beam.

    Raises
    ------
    InputError
        A missing point, or points that give no axis.

    Notes
    -----
    The cross beam is stiff in bending and soft in torsion: its middle stays where it is while the halves twist.
    The middle of the line between both ``cross_beam`` points stands for the shear centre.

    Source
    ------
    common practice, no published source

    Examples
    --------
    >>> half = {"beam_pivot": (-2200, 560, 0), "cross_beam": (-2350, 480, 10), "wheel_center": (-2610, 740, 0)}
    >>> other = {name: (x, -y, z) for name, (x, y, z) in half.items()}
    >>> make_twist_beam(half, other).half_track
    740.0
    """
    for side, points in (("left", left), ("right", right)):
        for name in find_layout("twist_beam").axle_points:
            if name not in points:
                raise InputError(f"The beam lacks its {side} point {name!r}.", field=f"points.{side}.{name}")
    x, y, z = np.mean([left["cross_beam"], right["cross_beam"]], axis=0)
    middle = (float(x), float(y), float(z))
    halves = tuple(
        make_corner(
            "semi_trailing",
            side,
            0.0,
            0.0,
            {"arm_inner": middle, "arm_outer": points["beam_pivot"], "wheel_center": points["wheel_center"]},
        )
        for side, points in (("left", left), ("right", right))
    )
    half_track = abs(left["wheel_center"][1] - right["wheel_center"][1]) / 2
    return TwistBeam((halves[0], halves[1]), float(half_track))


def roll_beam(beam: TwistBeam, roll: ArrayLike) -> tuple[Array, Array]:
    """How a twist beam steers and how its wheels lean as the car rolls.

    Parameters
    ----------
    beam : TwistBeam
        The beam at ride height. [mm]
    roll : array_like
        Left wheel up and right wheel down against the body, shape (n,). [rad]

    Returns
    -------
    tuple of array
        Steer of the axle, heading right positive, and change of camber of the left wheel against the body,
        shape (n,) each. [rad]

    Raises
    ------
    NoSolution
        A wheel cannot go so far about its axis.

    Notes
    -----
    Steer is the mean of both wheels' headings: (Δtoe left − Δtoe right)/2.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> half = {"beam_pivot": (-2200, 560, 0), "cross_beam": (-2200, 480, 0), "wheel_center": (-2610, 740, 0)}
    >>> other = {name: (x, -y, z) for name, (x, y, z) in half.items()}
    >>> steer, lean = roll_beam(make_twist_beam(half, other), [0.02])
    >>> abs(float(steer[0])) < 1e-9, abs(float(lean[0])) < 1e-9
    (True, True)
    """
    lean = np.atleast_1d(np.asarray(roll, dtype=float))
    up = beam.half_track * np.sin(lean)
    left, right = (angles_at(half, sign * up) for half, sign in zip(beam.halves, (1, -1), strict=True))
    return (left.toe - right.toe) / 2, left.camber
