"""What was typed in a form, understood by the core."""

from __future__ import annotations

from fastapi import APIRouter

from fair_spindle.jobs.typed import TypedForm, TypedFormView, read_form

router = APIRouter(prefix="/api", tags=["forms"])


@router.post("/typed")
def understand_form(form: TypedForm) -> TypedFormView:
    """Numbers with any unit, threads metric or by inch, rows of places; nothing is written."""
    return read_form(form)
