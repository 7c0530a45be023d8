"""Measure the geometry solver beside scipy solving the same poses one by one, in the same run."""

import sys
import time
from math import radians
from pathlib import Path

import numpy as np
from scipy.optimize import root
from scipy.spatial.transform import Rotation

from fair_spindle.core.geometry.kinematics import solve_poses
from fair_spindle.core.turns.adjuster import Adjuster, on
from fair_spindle.core.turns.axle_turns import realign_axle, toe_across
from fair_spindle.core.turns.monte_carlo import Doubtful, how_sure
from fair_spindle.core.turns.realign import TOLERANCES, Wanted, realign

sys.path.insert(0, str(Path(__file__).parent.parent / "tests" / "published"))
from test_geometry import TYPICAL, corner_of

TRAVELS = np.linspace(-80, 80, 1000)


def main() -> None:
    corner = corner_of("double_wishbone", TYPICAL["double_wishbone"])
    alone = best(lambda: one_by_one(corner, TRAVELS[::10]), 3) / len(TRAVELS[::10])
    ours = best(lambda: solve_poses(corner, TRAVELS), 15) / len(TRAVELS)
    print(f"baseline: scipy.optimize.root, one pose after the other: {1e6 * alone:.0f} µs a pose")
    print(f"1,000 poses of one corner: {1e6 * ours:.1f} µs a pose, {alone / ours:.0f} times faster")
    adjusters = [
        Adjuster("rod", on("tie"), 1.5, 1 / 6, -12, 12),
        Adjuster("front leg", on("upper_front"), 1.25, 0.5, -10, 10),
        Adjuster("rear leg", on("upper_rear"), 1.25, 0.5, -10, 10),
    ]
    targets = {"toe": radians(0.1), "camber": radians(-0.9), "caster": radians(7.2)}
    full = best(lambda: realign(corner, 20.0, adjusters, targets), 9)
    print(
        f"one full realign, three adjusters, three targets: {1e3 * full:.1f} ms, {full / alone:.0f} × one scipy pose"
    )
    wanted = Wanted(corner, 20.0, tuple(adjusters), targets, TOLERANCES)
    plan = realign(corner, 20.0, adjusters, targets)
    pair = best(lambda: realign_axle(wanted, wanted, toe_across(*[targets["toe"]] * 2, 2e-3, 1e-3)), 5)
    print(f"both wheels of an axle together: {1e3 * pair:.1f} ms, {pair / full:.1f} × one wheel alone")
    doubt = Doubtful(5e-4, 1e-3, 2.0, 1.15)

    def axle() -> None:
        generator = np.random.default_rng(1)
        how_sure([(wanted, plan, doubt)] * 2, generator, 2000)

    print(f"2,000 samples of both wheels of an axle: {best(axle, 5):.2f} s")


def best(work, rounds: int) -> float:
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return min(times)


def one_by_one(corner, travels) -> None:
    inner = np.array([link.inner for link in corner.links])
    outer = np.array([link.outer for link in corner.links]) - corner.wheel
    length = np.linalg.norm(outer + corner.wheel - inner, axis=1)
    guess = np.array([*corner.wheel[:2], 0.0, 0.0, 0.0])

    for travel in travels:

        def misses(u, travel=travel):
            at = np.array([u[0], u[1], corner.wheel[2] + travel])
            turned = outer @ Rotation.from_rotvec(u[2:]).as_matrix().T
            return np.linalg.norm(at + turned - inner, axis=1) - length

        found = root(misses, guess, tol=1e-10)
        assert found.success
        guess = found.x


if __name__ == "__main__":
    main()
