"""A car's corners as lines: one in space, and all as far as their points are read."""

from __future__ import annotations

import numpy as np

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.wheels import WHEELS
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.joblog.required_fields import readings_now
from fair_spindle.core.joblog.wording import label_wheel
from fair_spindle.core.predict.geometry import wheels_of
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.drawn_corner import linkage_of, sketched
from fair_spindle.jobs.geometry import baseline_of
from fair_spindle.jobs.geometry_models import LinkageView, LinkageWanted, PointsView
from fair_spindle.records.database import Database


def see_linkage(database: Database, car_id: str, wanted: LinkageWanted) -> LinkageView:
    """One corner in space, through travel and steer, as it is and as turned."""
    now = standing(database, car_id, car=True)
    wheels = wheels_of(readings_now(now.state, now.template), baseline_of(database, now)[0])
    if wanted.wheel not in wheels:
        raise InputError("Choose one of the car's wheels.", field="wheel")
    return linkage_of(wheels[wanted.wheel], label_wheel(wanted.wheel), wanted.turns)


def see_points(database: Database, car_id: str) -> list[PointsView]:
    """The points of every wheel as far as they are read."""
    now = standing(database, car_id, car=True)
    found = []
    for wheel in WHEELS:
        layout = LAYOUTS.get(now.readings.words.get(f"{wheel.axle}.layout", ""))
        read = {
            key.removeprefix(f"{wheel}.point."): np.array([quantity.parts[axis] for axis in "xyz"])
            for key, quantity in now.readings.quantities.items()
            if key.startswith(f"{wheel}.point.")
        }
        if layout and read:
            found.append(PointsView(key=wheel, label=wheel.label, segments=sketched(layout, read)))
    return found
