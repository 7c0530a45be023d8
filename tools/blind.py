"""The product's examiner: a robot tuner at practice cars, by layout. ``blind.py [cars a layout]``."""

import sys
import tempfile
import warnings
from pathlib import Path

warnings.simplefilter("ignore")
ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT / "tests"))

from starlette.testclient import TestClient  # noqa: E402

from blind import examine  # noqa: E402
from fair_spindle.api.app import create_app  # noqa: E402

LAYOUTS = ("strut", "double_wishbone", "five_link")


def main() -> None:
    """Print a table of what the robot leaves."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    print("| layout | lowered, untouched | after the plan | after one correction | steps and gauges alone | bands |")
    print("| --- | --- | --- | --- | --- | --- |")
    for layout in LAYOUTS:
        with tempfile.TemporaryDirectory() as place:
            client = TestClient(create_app(Path(place) / "blind.sqlite"), base_url="http://127.0.0.1:8613")
            with client:
                found = examine(client, layout, count)
        pairs = [" and ".join(f"{one:.3f}" for one in found[name]) for name in ("untouched", "planned", "corrected")]
        floor = " and ".join(f"{one:.3f}" for one in found["floor"])
        bands = ", ".join(f"{name} {share:.0%}" for name, share in found["bands"].items())
        print(f"| {layout} | {' | '.join(pairs)} | {floor} | {bands} |")
        print(
            f"|  | height foreseen within {found['heights']:.1f} mm (by spring length {found['by_length']:.1f} mm), "
            f"steering wheel {found['steering'][0]:.2f}° before, {found['steering'][1]:.2f}° after | | | | |",
            flush=True,
        )


if __name__ == "__main__":
    main()
