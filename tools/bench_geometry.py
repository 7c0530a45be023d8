"""Measure the geometry solver beside scipy solving the same poses one by one, in the same run."""

import sys
from math import radians
from pathlib import Path

import numpy as np
from bounds import Bounds, best_of
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
    bounds = Bounds()
    corner = corner_of("double_wishbone", TYPICAL["double_wishbone"])
    alone = best_of(lambda: one_by_one(corner, TRAVELS[::10]), 3) / len(TRAVELS[::10])
    scipy = ("scipy.optimize.root, one pose", alone)
    bounds.line(
        "a pose of 1,000 of one corner", best_of(lambda: solve_poses(corner, TRAVELS), 15) / 1000, scipy, 0.02
    )
    adjusters = [
        Adjuster("rod", on("tie"), 1.5, 1 / 6, -12, 12),
        Adjuster("front leg", on("upper_front"), 1.25, 0.5, -10, 10),
        Adjuster("rear leg", on("upper_rear"), 1.25, 0.5, -10, 10),
    ]
    targets = {"toe": radians(0.1), "camber": radians(-0.9), "caster": radians(7.2)}
    full = best_of(lambda: realign(corner, 20.0, adjusters, targets), 9)
    bounds.line("one full realign, three adjusters, three targets", full, scipy, 100)
    wanted = Wanted(corner, 20.0, tuple(adjusters), targets, TOLERANCES)
    plan = realign(corner, 20.0, adjusters, targets)
    # As worked out the first time: what was asked before is remembered.
    worked_out = realign_axle.__wrapped__
    pair = best_of(lambda: worked_out(wanted, wanted, toe_across(*[targets["toe"]] * 2, 2e-3, 1e-3)), 5)
    bounds.line("both wheels of an axle together", pair, ("one wheel alone", full), 6)
    doubt = Doubtful(5e-4, 1e-3, 2.0, 1.15)

    def axle() -> None:
        how_sure([(wanted, plan, doubt)] * 2, np.random.default_rng(1), 2000)

    bounds.line("2,000 samples of both wheels of an axle", best_of(axle, 5), ("one by one", 2000 * pair), 0.1)
    bounds.end()


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
