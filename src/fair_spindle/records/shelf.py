"""Reusable parts in the database."""

from __future__ import annotations

from collections.abc import Sequence

from sqlmodel import Session, col, select

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.records.tables import ShelfRow


def list_parts(session: Session, limit: int) -> Sequence[ShelfRow]:
    """Parts by name."""
    return session.exec(select(ShelfRow).order_by(col(ShelfRow.name)).limit(limit)).all()


def find_part(session: Session, part_id: str) -> ShelfRow:
    """One part; NotFound where there is none."""
    row = session.get(ShelfRow, part_id)
    if row is None:
        raise NotFound("There is no such part on the shelf.", field="part_id")
    return row
