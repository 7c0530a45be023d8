"""What every bench prints: ours, a named baseline of the same run, their ratio, and the bound it has to keep."""

import sys
import time
from collections.abc import Callable


class Bounds:
    """Lines of one bench, and whether one of them missed its bound by more than half."""

    def __init__(self) -> None:
        self.missed = False

    def line(self, what: str, ours: float, baseline: tuple[str, float], bound: float, unit: str = "ms") -> None:
        """Print a measurement beside its baseline [unit]; ``bound`` is of ours over the baseline."""
        name, theirs = baseline
        ratio = ours / theirs
        self.missed |= ratio > 1.5 * bound
        kept = "" if ratio <= bound else " MISSED" if ratio > 1.5 * bound else " over"
        print(
            f"{what}: {ours:.3g} {unit}; {name}: {theirs:.3g} {unit}; {ratio:.3g} × (bound {bound:g} ×){kept}",
            flush=True,
        )

    def end(self) -> None:
        """End the bench, with status 1 where a bound was missed."""
        sys.exit(1 if self.missed else 0)


def best_of(work: Callable[[], object], rounds: int) -> float:
    """The shortest of several runs. [ms]"""
    times = []
    for _ in range(rounds):
        begun = time.perf_counter()
        work()
        times.append(time.perf_counter() - begun)
    return 1000 * min(times)
