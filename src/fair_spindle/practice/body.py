"""A body on four legs: rest is where its energy is least; springs that lift off, a bar, rubber that is wound up."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import WHEELS

Vector = NDArray[np.float64]
# Heights at the corners by heave, roll and pitch of a rigid body.
PLANE = np.array([[1, 1, 1], [1, -1, 1], [1, 1, -1], [1, -1, -1]], float)
STEPS, SMALL = 200, 1e-12


@value_object
class Helper:
    """A soft spring under the main one: its rate [N/mm], and how far it gives until its coils touch [mm]."""

    rate: float
    gives: float


@value_object
class Leg:
    """A corner: load of the body on it [N], spring [N/mm] pressed by so much with the body in place [mm], its ratio.

    ``bends`` press the spring by square and cube of the wheel's travel, beside the ratio [1/mm, 1/mm²]; ``rubber`` is
    what wound-up bushings add [N/mm] and ``rubber_at`` the rise at which they are at rest [mm].
    """

    load: float
    rate: float
    pressed: float
    ratio: float
    rubber: float = 0.0
    rubber_at: float = 0.0
    helper: Helper | None = None
    bends: tuple[float, float] = (0.0, 0.0)

    def pressed_at(self, rise: float) -> tuple[float, float, float]:
        """How far the spring is pressed with the body so far up [mm], per travel then [-], and its change [1/mm]."""
        up, (square, cube) = -rise, self.bends
        pressed = self.pressed + self.ratio * up + square * up**2 + cube * up**3
        return pressed, self.ratio + 2 * square * up + 3 * cube * up**2, 2 * square + 6 * cube * up

    def spring(self, pressed: float) -> tuple[float, float, float]:
        """Force [N], rate [N/mm] and energy [N·mm] of the spring; nothing where it hangs loose."""
        if pressed <= 0:
            return 0.0, 0.0, 0.0
        if self.helper is None:
            return self.rate * pressed, self.rate, self.rate * pressed**2 / 2
        soft = self.rate * self.helper.rate / (self.rate + self.helper.rate)
        touches = self.helper.rate * self.helper.gives / soft
        if pressed <= touches:
            return soft * pressed, soft, soft * pressed**2 / 2
        more, solid = pressed - touches, soft * touches
        return solid + self.rate * more, self.rate, soft * touches**2 / 2 + solid * more + self.rate * more**2 / 2


@value_object
class Bar:
    """A sway bar between two legs: rate at the wheels [N/mm], and how far its left link is too long [mm]."""

    rate: float = 0.0
    gap: float = 0.0


def energy(rises: Vector, legs: Sequence[Leg], bars: Sequence[Bar]) -> float:
    """Energy of springs, rubber and bars, and of the loads, with the body so far up at its corners. [N·mm]"""
    found = 0.0
    for rise, leg in zip(rises, legs, strict=True):
        stored = leg.spring(leg.pressed_at(rise)[0])[2]
        found += stored + leg.rubber * (rise - leg.rubber_at) ** 2 / 2 + leg.load * rise
    for place, bar in enumerate(bars):
        found += bar.rate * (rises[2 * place] - rises[2 * place + 1] - bar.gap) ** 2 / 2
    return float(found)


def forces(rises: Vector, legs: Sequence[Leg], bars: Sequence[Bar]) -> tuple[Vector, Vector]:
    """Upward force at each corner beyond its load [N], and how it changes with the rises [N/mm]."""
    out, slope = np.zeros(4), np.zeros((4, 4))
    for n, (rise, leg) in enumerate(zip(rises, legs, strict=True)):
        pressed, ratio, change = leg.pressed_at(rise)
        push, rate, _ = leg.spring(pressed)
        out[n] = ratio * push - leg.rubber * (rise - leg.rubber_at) - leg.load
        # A spring that hangs loose is given a little, so that the way down is always known.
        slope[n, n] = -(ratio**2 * rate or 1e-3) - change * push - leg.rubber
    for place, bar in enumerate(bars):
        one, two = 2 * place, 2 * place + 1
        twist = bar.rate * (rises[one] - rises[two] - bar.gap)
        out[one] -= twist
        out[two] += twist
        slope[[one, two], [one, two]] -= bar.rate
        slope[[one, two], [two, one]] += bar.rate
    return out, slope


def rest(legs: Mapping[str, Leg], bars: Mapping[str, Bar], tyre: float = 0.0) -> dict[str, float]:
    """How far up each corner of the body stands from its wheel at rest, on tyres of a rate [N/mm], 0 rigid. [mm]

    Newton's method on the gradient of the energy; a step is halved until the energy falls.
    """
    order = [legs[key] for key in WHEELS]
    held = [bars.get(axle, Bar()) for axle in ("front", "rear")]
    if tyre:
        return dict(zip(WHEELS, _on_tyres(order, held, tyre).tolist(), strict=True))
    q = np.zeros(3)
    for _ in range(STEPS):
        out, slope = forces(PLANE @ q, order, held)
        push = PLANE.T @ out
        if np.abs(push).max() < SMALL * max(leg.load for leg in order):
            break
        step = np.linalg.solve(PLANE.T @ slope @ PLANE, -push)
        now = energy(PLANE @ q, order, held)
        part = 1.0
        while part > 1e-6 and energy(PLANE @ (q + part * step), order, held) > now:
            part /= 2
        q = q + part * step
    return dict(zip(WHEELS, (float(one) for one in PLANE @ q), strict=True))


def _on_tyres(legs: Sequence[Leg], bars: Sequence[Bar], tyre: float) -> Vector:
    """Rises of the corners from their wheels: the body balanced, and each wheel between its spring and its tyre."""
    x = np.zeros(7)

    def off(x: Vector) -> tuple[Vector, Vector]:
        out, slope = forces(x[3:], legs, bars)
        missing = np.concatenate([PLANE.T @ out, out + tyre * (PLANE @ x[:3] - x[3:])])
        top = np.hstack([np.zeros((3, 3)), PLANE.T @ slope])
        return missing, np.vstack([top, np.hstack([tyre * PLANE, slope - tyre * np.eye(4)])])

    missing, slopes = off(x)
    for _ in range(STEPS):
        if np.abs(missing).max() < SMALL * max(leg.load for leg in legs):
            break
        step, part = np.linalg.solve(slopes, -missing), 1.0
        while part > 1e-6 and np.linalg.norm(off(x + part * step)[0]) > np.linalg.norm(missing):
            part /= 2
        x = x + part * step
        missing, slopes = off(x)
    return x[3:]
