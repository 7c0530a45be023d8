"""Instruments: their records, and what a reading carries of them."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator

from fair_spindle.core.basics.errors import Conflict, OutOfRange
from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import UNITS
from fair_spindle.core.joblog.log import Gauge
from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import Title, TypedView, View
from fair_spindle.records.database import Database
from fair_spindle.records.instruments import change_instrument, list_instruments
from fair_spindle.records.tables import InstrumentRow

Kind = Literal["digital_level", "height_gauge", "caliper", "scales", "torque_wrench", "tape", "toe_gauge", "other"]
KIND_NAMES: dict[Kind, str] = {
    "digital_level": "Digital level",
    "height_gauge": "Height gauge",
    "caliper": "Caliper",
    "scales": "Wheel scales",
    "torque_wrench": "Torque wrench",
    "tape": "Tape or rule",
    "toe_gauge": "Toe gauge or plates",
    "other": "Something else",
}
Day = Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d\d-\d\d)?$")]
Address = Annotated[str, StringConstraints(pattern=r"^(/ws/[a-z0-9/-]{1,80}|wss?://[^\s]{1,200})?$")]
Number = Annotated[Text, StringConstraints(max_length=40)]


class InstrumentBase(Strict):
    """What is known of an instrument; ``uncertainty`` is expanded, with coverage factor 2.

    ``address`` is where it speaks, as in docs/gauges.md; empty for one that is read by eye.
    """

    name: Title
    kind: Kind
    unit: Text
    resolution: Number = ""
    uncertainty: Number = ""
    calibrated: Day = ""
    due: Day = ""
    address: Address = ""
    note: Text = ""

    @model_validator(mode="after")
    def _readable(self) -> InstrumentBase:
        if self.unit not in UNITS:
            raise ValueError(f"unit must be one of {', '.join(UNITS)}")
        for name in ("resolution", "uncertainty"):
            _number(getattr(self, name), self.unit, name)
        for name in ("calibrated", "due"):
            if getattr(self, name):
                _day(getattr(self, name), name)
        if self.calibrated and self.due and self.due < self.calibrated:
            raise ValueError("due must not lie before calibrated")
        return self


class InstrumentCreate(InstrumentBase):
    """A new instrument."""

    id: Identity


class InstrumentUpdate(InstrumentBase):
    """An instrument's record as it shall be, over the version that was seen."""

    seen: Annotated[int, Field(ge=0)]
    retired: bool = False


class GaugeView(View):
    """What a reading carries of its instrument."""

    name: str
    resolution: TypedView | None
    uncertainty: TypedView | None
    due: str


class InstrumentView(View):
    """An instrument's record."""

    id: str
    version: int
    name: str
    kind: str
    kind_said: str
    quantity: str
    unit: str
    unit_said: str
    resolution: str
    uncertainty: str
    calibrated: str
    due: str
    overdue: bool
    address: str
    note: str
    gauge: GaugeView


def all_instruments(database: Database, limit: int = 200) -> list[InstrumentView]:
    """Instruments in use."""
    with database.reading() as session:
        return [_show(row) for row in list_instruments(session, limit)]


def add_instrument(database: Database, wanted: InstrumentCreate) -> InstrumentView:
    """Add an instrument; the same request again gives the same one."""
    with database.writing() as session:
        row = session.get(InstrumentRow, wanted.id)
        if row is None:
            row = InstrumentRow(version=1, retired=False, **wanted.model_dump())
            session.add(row)
        elif any(getattr(row, name) != value for name, value in wanted.model_dump().items()):
            raise Conflict("Another instrument has this id already.", field="id")
        return _show(row)


def update_instrument(database: Database, instrument_id: str, wanted: InstrumentUpdate) -> InstrumentView:
    """Change an instrument's record; readings taken before keep what it said then."""
    with database.writing() as session:
        changes = wanted.model_dump(exclude={"seen"})
        return _show(change_instrument(session, instrument_id, wanted.seen, changes))


def gauges_by_name(database: Database) -> dict[str, Gauge]:
    """What readings carry of each instrument, by name."""
    with database.reading() as session:
        return {row.name: _gauge(row) for row in list_instruments(session, 1000)}


def _number(text: str, unit: str, field: str) -> None:
    if not text.strip():
        return
    if UNITS[unit].inverse:
        raise ValueError("choose a unit that the instrument itself shows")
    if read_number(text, UNITS[unit].quantity, unit, field).value < 0:
        raise OutOfRange(f"The {field} cannot be negative.", field=field)


def _day(text: str, field: str) -> None:
    try:
        date.fromisoformat(text)
    except ValueError:
        raise ValueError(f"{field} must be a day, year first, for example 2026-03-31") from None


def _gauge(row: InstrumentRow) -> Gauge:
    resolution = Typed(row.resolution, row.unit) if row.resolution.strip() else None
    uncertainty = Typed(row.uncertainty, row.unit) if row.uncertainty.strip() else None
    return Gauge(row.name, resolution, uncertainty, row.due)


def _show(row: InstrumentRow) -> InstrumentView:
    gauge = _gauge(row)
    today = datetime.now(UTC).date().isoformat()

    def typed(one: Typed | None) -> TypedView | None:
        return TypedView(text=one.text, unit=one.unit) if one else None

    return InstrumentView.of(
        row,
        kind_said=next((said for kind, said in KIND_NAMES.items() if kind == row.kind), row.kind),
        quantity=UNITS[row.unit].quantity,
        unit_said=UNITS[row.unit].label,
        overdue=bool(row.due) and row.due < today,
        gauge=GaugeView(
            name=gauge.name, resolution=typed(gauge.resolution), uncertainty=typed(gauge.uncertainty), due=gauge.due
        ),
    )
