"""Measure the planner on the largest combination, beside a named baseline of the same run."""

import statistics
import time

from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting
from fair_spindle.core.planning.work_order import plan_work
from fair_spindle.formats.procedure_file import shipped

LARGEST = (
    ("coilovers", "front"),
    ("coilovers", "rear"),
    ("sway_bars", "front"),
    ("sway_bars", "rear"),
    ("lower_arm", "front"),
    ("thrust_arms", "front"),
    ("tie_rods", "front"),
    ("bolted_ball_joint", "front"),
    ("trailing_arm", "rear"),
    ("subframe_collars", "rear"),
    ("diff_brace", "rear"),
    ("body_braces", ""),
)
AIM_MS = 200


def timed(work, rounds=9) -> float:
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return 1000 * statistics.median(times)


def planned(*fittings):
    library = shipped()
    known = Known(Brief(tuple(Fitting(*one) for one in fittings)), library, {}, {})
    return lambda: plan_work(known)


def main() -> None:
    baseline = timed(planned(("trailing_arm", "rear")))
    largest = timed(planned(*LARGEST))
    steps = len(planned(*LARGEST)().steps)
    print(f"baseline: one trailing arm planned: {baseline:.1f} ms")
    print(f"the largest combination, {steps} steps: {largest:.0f} ms, {largest / baseline:.0f} × (aim {AIM_MS} ms)")


if __name__ == "__main__":
    main()
