"""Cars with a hidden truth, many of them: what plan and correction leave beside the best possible, and every band."""

import sys
from pathlib import Path

TESTS = Path(__file__).parent.parent / "tests"
sys.path[:0] = [str(TESTS), str(TESTS / "core")]
from hidden_cars import examine  # noqa: E402


def main(count: int) -> None:
    print(f"{count} cars a row; 95 of 100 wheels miss by less than, in degrees of toe and camber")
    print("| readings | after the plan | after one correction | best with the same readings | bands that hold |")
    print("| --- | --- | --- | --- | --- |")
    for sweep in (False, True):
        for settled in (False, True):
            found = examine(count, seed=100, sweep=sweep, settled_first=settled)
            name = ("three heights" if sweep else "ride height") + (", settled first" if settled else ", foreseen")
            cells = [" and ".join(f"{one:.3f}" for one in found[key]) for key in ("planned", "corrected", "best")]
            cover = ", ".join(f"{key} {100 * share:.0f} %" for key, share in found["cover"].items())
            print(f"| {name} | {' | '.join(cells)} | {cover} |", flush=True)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
