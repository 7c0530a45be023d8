"""Cars of which little is told: at every depth a number, and a ± that holds the truth.

The truth is the practice bay's own linkages and a spring by hand, drawn apart from the product; whole tables by
`fair-spindle blind --depth`.
"""

import numpy as np
import pytest

from fair_spindle.examiner.sparse import DEPTHS, LAYOUTS, examine_depths, examine_heights


@pytest.mark.referee
@pytest.mark.parametrize("layout", LAYOUTS)
def test_at_every_depth_there_is_a_band_and_it_holds(layout):
    found = examine_depths(layout, 3, seed=3)
    told = {depth: {name: one for name, one in numbers.items() if one.inside} for depth, numbers in found.items()}
    held = [
        hit for numbers in told.values() for name, one in numbers.items() for hit in one.inside if name != "window"
    ]
    assert 0.88 < np.mean(held) <= 1, "all bands of all depths together; 95 of 100 are meant"
    windows = [hit for numbers in told.values() for hit in numbers["window"].inside]
    assert np.mean(windows) >= 0.9
    assert len(windows) == 3 * len(DEPTHS), "a window at every depth"
    wide = [float(np.median(found[depth]["toe"].wide)) for depth in DEPTHS]
    assert wide[0] > 1.5 * wide[3] > 3 * wide[-1], "tape narrows it, points and angles more"
    assert wide[-1] < 0.12


@pytest.mark.referee
def test_heights_by_springs_alone_hold_and_narrow_as_more_is_told():
    found = list(examine_heights(60).values())
    assert all(0.87 < np.mean(one.inside) <= 1 for one in found)
    wide = [float(np.median(one.wide)) for one in found]
    assert wide == sorted(wide, reverse=True)
    assert wide[0] > 2 * wide[-1]
