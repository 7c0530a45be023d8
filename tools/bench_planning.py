"""Measure the planner on the largest combination and the day of six jobs, beside named baselines of the same run.

Ends with status 1 where a bound is missed by more than half.
"""

import statistics
import time

from bounds import Bounds

from fair_spindle.core.joblog.agenda import blocks_left
from fair_spindle.core.joblog.kinds import WORK
from fair_spindle.core.joblog.log import Event, Planned
from fair_spindle.core.joblog.plan_now import template_now
from fair_spindle.core.joblog.reducer import derive
from fair_spindle.core.planning import day
from fair_spindle.core.planning.day import Means, Work, plan_day
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
SIX = (
    (("tie_rods", "front"),),
    (("springs", "front"), ("springs", "rear")),
    (("dampers", "rear"),),
    (("lower_arm", "front"),),
    (("sway_bars", "front"),),
    (("trailing_arm", "rear"),),
)
# Times a baseline; the day may take all its orders, the list scheduling one.
LARGEST_BOUND, DAY_BOUND = 25, 400
AT = "2031-03-03T09:00:00Z"


def timed(work, rounds=9) -> float:
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return 1000 * statistics.median(times)


def known(*fittings):
    return Known(Brief(tuple(Fitting(*one) for one in fittings)), shipped(), {}, {})


def planned(*fittings):
    return lambda: plan_work(known(*fittings))


def works() -> list[Work]:
    found = []
    for number, fittings in enumerate(SIX):
        brief = known(*fittings)
        order = plan_work(brief)
        act = Planned(brief.brief, order.steps, order.joints)
        state = derive([Event("e1", 1, AT, act)], WORK)
        found.append(Work(f"job {number}", blocks_left(state, template_now(state, WORK), AT)))
    return found


def main() -> None:
    arm = timed(planned(("trailing_arm", "rear")))
    largest = timed(planned(*LARGEST))
    steps = len(planned(*LARGEST)().steps)
    bounds = Bounds()
    bounds.line(f"largest combination, {steps} steps", largest, ("one trailing arm", arm), LARGEST_BOUND)
    jobs = works()
    exact, best = timed(lambda: plan_day(jobs, Means(people=2)), rounds=3), plan_day(jobs, Means(people=2))
    day.EXACT = 0
    listed, plain = timed(lambda: plan_day(jobs, Means(people=2))), plan_day(jobs, Means(people=2))
    bounds.line("day of six jobs, every order", exact, ("plain list scheduling, longest first", listed), DAY_BOUND)
    print(
        f"two people, one lift: {best.length / 60:.1f} h, by the list {plain.length / 60:.1f} h, one by one "
        f"{best.one_after_other / 60:.1f} h; no order beats {best.bound / 60:.1f} h"
    )
    bounds.end()


if __name__ == "__main__":
    main()
