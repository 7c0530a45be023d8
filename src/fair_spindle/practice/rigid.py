"""Rigid bodies: their rotations, how a wheel on them points, and Newton's method for where they stand."""

from __future__ import annotations

from collections.abc import Callable
from typing import cast

import numpy as np
from numpy.typing import NDArray

Vector = NDArray[np.float64]
STEPS, SMALL, CLOSE = 30, 1e-10, 0.1
# Step of the difference quotients: of a place [mm] and of a rotation [rad], three of each for a body.
BODY = np.array([1e-4] * 3 + [1e-7] * 3)


def rotation(by: Vector) -> Vector:
    """Rodrigues' rotation about a vector by its length."""
    angle = float(np.linalg.norm(by))
    if angle < 1e-14:
        return np.eye(3)
    x, y, z = by / angle
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    return cast(Vector, np.eye(3) + np.sin(angle) * cross + (1 - np.cos(angle)) * cross @ cross)


def points_at(turn: Vector, side: int, toe: float, camber: float) -> Vector:
    """Toe and camber of a wheel whose carrier is turned so, from those it has in place; left 1, right −1. [rad]"""
    flat = np.cos(camber)
    spindle = np.array([np.sin(toe) * flat, side * np.cos(toe) * flat, -np.sin(camber)])
    now = turn @ spindle
    return np.array([np.arctan2(now[0], side * now[1]), -np.arcsin(now[2])])


def newton(miss: Callable[[Vector], Vector], x: Vector, scale: Vector) -> Vector:
    """Newton's method with differences for slopes; halved steps where a whole one makes it worse.

    With more conditions than unknowns it is Gauss and Newton's: the sum of squares is least where it stops.
    """
    off = miss(x)
    for _ in range(STEPS):
        if np.abs(off).max() < SMALL:
            break
        slopes = np.stack([(miss(x + step) - off) / step.sum() for step in np.diag(scale)], axis=1)
        step = np.linalg.lstsq(slopes, -off, rcond=None)[0]
        for part in (1.0, 0.5, 0.25, 0.1):
            then = miss(x + part * step)
            if np.linalg.norm(then) < np.linalg.norm(off) or part == 0.1:
                x, off = x + part * step, then
                break
        if np.abs(step / scale).max() < CLOSE:
            break
    return x
