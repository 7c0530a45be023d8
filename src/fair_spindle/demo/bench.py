"""The invented instruments of the sample workshop: simulated gauges, a tape, and a level that is overdue."""

from __future__ import annotations

from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.joblog.log import Gauge
from fair_spindle.jobs.instruments import InstrumentCreate, add_instrument
from fair_spindle.records.database import Database

_BENCH = (
    ("level", "Level, bay 1", "digital_level", "deg", "0.05", "0.1", "2026-02-10", "2099-02-10", "level"),
    ("height", "Height gauge", "height_gauge", "mm", "0.1", "0.5", "2026-03-02", "2099-03-02", "height"),
    ("caliper", "Caliper 150", "caliper", "mm", "0.01", "0.04", "2026-03-02", "2099-03-02", "caliper"),
    ("scales", "Four scales", "scales", "kgf", "0.5", "2", "2026-01-20", "2099-01-20", "scales"),
    ("wrench", "Torque wrench 40–200", "torque_wrench", "nm", "0.1", "3.5", "2026-01-20", "2099-01-20", "wrench"),
    ("tape", "Steel tape 5 m", "tape", "mm", "1", "0.6", "", "", ""),
    ("old_level", "Level, bay 2", "digital_level", "deg", "0.1", "0.2", "2024-01-15", "2025-01-15", ""),
)  # fmt: skip
GAUGES = {
    key: Gauge(name, Typed(resolution, unit), Typed(uncertainty, unit), due)
    for key, name, _, unit, resolution, uncertainty, _, due, _ in _BENCH
}


def fill_bench(database: Database) -> None:
    """Lay the instruments out."""
    names = ("name", "kind", "unit", "resolution", "uncertainty", "calibrated", "due")
    for key, *record, spoken_by in _BENCH:
        instrument_id = str(uuid5(NAMESPACE_URL, f"demo/instrument/{key}"))
        address = f"/ws/stand-ins/{spoken_by}" if spoken_by else ""
        known = dict(zip(names, record, strict=True))
        add_instrument(database, InstrumentCreate(id=instrument_id, address=address, **known))  # type: ignore[arg-type]
