"""Measure where a whole car comes to rest, beside scipy solving the same balance, in the same run."""

import numpy as np
from bounds import Bounds, best_of
from scipy.optimize import root

from fair_spindle.core.springs.car_heights import Leg, Stance, settle_car, spring_length
from fair_spindle.core.springs.springs import Coil, coil_curve, in_series

LOADS = np.array([3600.0, 3400.0, 2700.0, 2900.0])
DEAD = np.array([420.0, 420.0, 380.0, 380.0])
CAR = Stance(2600.0, 1500.0, 1480.0, 12.0, 6.0, 220.0)
SAMPLES = 5000


def main() -> None:
    old = coil_curve(Coil(30.0, 360.0))
    new = in_series([coil_curve(Coil(60.0, 250.0, 80.0)), coil_curve(Coil(3.0, 90.0, 20.0))])
    at = [float(spring_length(old, load - dead, 0.9, 120.0)) for load, dead in zip(LOADS, DEAD, strict=True)]
    legs = [Leg(new, length, 0.9, 150.0) for length in at]
    bounds = Bounds()
    ours = best_of(lambda: settle_car(CAR, LOADS, DEAD, legs), 40)
    theirs = best_of(lambda: root(lambda pose: balance(pose, legs), np.zeros(7), tol=1e-9), 15)
    bounds.line("one whole car", ours, ("scipy.optimize.root on heave, roll, pitch and four tyres", theirs), 0.6)
    rng = np.random.default_rng(1)
    drawn = [Leg(new, length + rng.normal(0, 2, SAMPLES), 0.9 + rng.normal(0, 0.01, SAMPLES), 150.0) for length in at]
    loads = LOADS + rng.normal(0, 30, (SAMPLES, 4))
    many = best_of(lambda: settle_car(CAR, loads, DEAD, drawn), 5)
    bounds.line("5,000 samples of a whole car", many, ("one by one", SAMPLES * ours), 0.05)
    bounds.end()


def balance(pose, legs):
    """Heave, roll and pitch of the body and four tyres pressed, written another way than ours."""
    x = np.array([1, 1, -1, -1]) * CAR.wheelbase / 2
    y = np.array([CAR.track_front, -CAR.track_front, CAR.track_rear, -CAR.track_rear]) / 2
    body = pose[0] + pose[1] * y / 1000 + pose[2] * x / 1000
    travel = pose[3:] - body
    force = np.array([float(leg.force(np.array([t]))[0][0]) for leg, t in zip(legs, travel, strict=True)])
    bar = np.repeat([CAR.bar_front * (travel[0] - travel[1]), CAR.bar_rear * (travel[2] - travel[3])], 2)
    change = force + bar * np.array([1, -1, 1, -1]) - (LOADS - DEAD)
    return np.concatenate([[change.sum(), change @ y / 1000, change @ x / 1000], pose[3:] + change / CAR.tyre_rate])


if __name__ == "__main__":
    main()
