"""Instruments in the database."""

from __future__ import annotations

from collections.abc import Sequence

from sqlmodel import Session, col, select

from fair_spindle.core.basics.errors import Conflict, NotFound
from fair_spindle.records.tables import InstrumentRow


def list_instruments(session: Session, limit: int) -> Sequence[InstrumentRow]:
    """Instruments in use, by name."""
    query = select(InstrumentRow).where(~col(InstrumentRow.retired)).order_by(col(InstrumentRow.name))
    return session.exec(query.limit(limit)).all()


def change_instrument(session: Session, instrument_id: str, seen: int, changes: dict[str, object]) -> InstrumentRow:
    """Change a record over the version that was seen; Conflict where another change came between."""
    row = session.get(InstrumentRow, instrument_id)
    if row is None:
        raise NotFound("There is no such instrument.", field="instrument_id")
    same = all(getattr(row, name) == value for name, value in changes.items())
    if row.version != seen and not same:
        raise Conflict("Somebody else changed this instrument meanwhile. Look at it again.", theirs=row.model_dump())
    if not same:
        row.sqlmodel_update(changes)
        row.version += 1
        session.add(row)
    return row
