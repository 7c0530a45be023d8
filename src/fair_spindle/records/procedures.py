"""The workshop's own procedures in the database."""

from __future__ import annotations

from collections.abc import Sequence

from sqlmodel import Session, col, select

from fair_spindle.core.basics.errors import Conflict, NotFound
from fair_spindle.records.tables import ProcedureRow


def list_procedures(session: Session) -> Sequence[ProcedureRow]:
    """All of them by key."""
    return session.exec(select(ProcedureRow).order_by(col(ProcedureRow.key))).all()


def save_procedure(session: Session, key: str, content: str, seen: int, at: str) -> None:
    """Write a procedure over the version that was seen; Conflict where another came between."""
    row = session.get(ProcedureRow, key)
    version = row.version if row else 0
    if row and row.content == content:
        return
    if version != seen:
        raise Conflict(
            f"There is a procedure {key!r} already, changed at {row.changed_at[:16]}." if row else "It is gone.",
            field="seen",
            version=version,
        )
    row = row or ProcedureRow(key=key, version=0, content="", changed_at="")
    row.version, row.content, row.changed_at = version + 1, content, at
    session.add(row)


def remove_procedure(session: Session, key: str) -> None:
    """Take a procedure away; NotFound where there is none of the workshop's own."""
    row = session.get(ProcedureRow, key)
    if row is None:
        raise NotFound(f"There is no procedure {key!r} of your own.", field="procedure")
    session.delete(row)
