"""The motion ratio of a spring from the corner's points."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.geometry.corner import Corner
from fair_spindle.core.geometry.kinematics import solve_poses

Array = NDArray[np.float64]
NEAR = 20.0


def ratio_by_points(corner: Corner, spring: tuple[Array, Array] | None = None) -> tuple[float, float]:
    """Motion ratio at ride height, and how it changes with travel, from points.

    Parameters
    ----------
    corner : Corner
        A strut, or a double wishbone. [mm]
    spring : tuple of array, optional
        Upper end on the body and lower end on the lower arm, where it is no strut. [mm]

    Returns
    -------
    tuple of float
        Spring travel per wheel travel [-], and its change [1/mm].

    Raises
    ------
    NoSolution
        The linkage locks near ride height.

    Notes
    -----
    How fast the spring's lower end nears its upper one as the wheel rises, 20 mm either way.  On an arm the lower end
    turns about the arm's pivot axis, by as much as the ball joint does.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> from fair_spindle.core.geometry.corner import make_corner
    >>> points = {"strut_top": (-20, 571, 545), "strut_low": (4, 622, 100), "lower_front": (14, 382, -120),
    ...     "lower_rear": (-289, 374, -114), "lower_ball": (20, 695, -151), "tie_inner": (-127, 337, -57),
    ...     "tie_outer": (-133, 674, -67), "wheel_center": (-3, 741, 0)}
    >>> round(ratio_by_points(make_corner("strut", "left", 0.0, 0.0, points))[0], 2)
    0.96
    """
    poses = solve_poses(corner, [-NEAR, 0.0, NEAR])
    if spring is None:
        top = corner.point("strut_top")
        low = poses.wheel + poses.rotation @ (corner.point("strut_low") - corner.wheel)
    else:
        top = spring[0]
        low = _on_arm(corner, poses.wheel + poses.rotation @ (corner.point("lower_ball") - corner.wheel), spring[1])
    down, here, up = np.linalg.norm(top - low, axis=1)
    return float(down - up) / (2 * NEAR), float(2 * here - down - up) / NEAR**2


def _on_arm(corner: Corner, balls: Array, point: Array) -> Array:
    """A point of the lower arm as its ball joint moves, shape (n, 3)."""
    start, end = corner.point("lower_rear"), corner.point("lower_front")
    axis = (end - start) / np.linalg.norm(end - start)

    def square(at: Array) -> Array:
        arm = at - start
        return np.asarray(arm - (arm @ axis)[..., None] * axis)

    was, now = square(corner.point("lower_ball")), square(balls)
    turned = np.arctan2(np.cross(was, now) @ axis, now @ was)[:, None]
    arm = square(point)
    foot = point - arm
    return np.asarray(foot + arm * np.cos(turned) + np.cross(axis, arm) * np.sin(turned))
