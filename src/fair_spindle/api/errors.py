"""One error body for everything that goes wrong: ``{code, message, field, details}``."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from fair_spindle.core.basics.errors import Conflict, InputError, NoSolution, NotAllowed, NotFound, SpindleError

_STATUS: dict[type[SpindleError], tuple[int, str]] = {
    InputError: (422, "input"),
    NoSolution: (422, "no_solution"),
    NotAllowed: (409, "not_allowed"),
    Conflict: (409, "conflict"),
    NotFound: (404, "not_found"),
}

_ROUTING = {404: "not_found", 405: "method_not_allowed", 400: "input", 413: "refused", 403: "owner_only"}


class ErrorBody(BaseModel):
    """What every failed request answers."""

    code: str
    message: str
    field: str | None = None
    details: dict[str, Any] = {}


def answer(status: int, body: ErrorBody) -> JSONResponse:
    """An error body as a response."""
    return JSONResponse(body.model_dump(), status_code=status)


def told(error: SpindleError) -> tuple[int, ErrorBody]:
    """Status and body for an error of the product."""
    status, code = next(_STATUS[base] for base in type(error).__mro__ if base in _STATUS)
    return status, ErrorBody(code=code, message=error.message, field=error.field, details=error.details)


def map_errors(app: FastAPI) -> None:
    """Answer every error of the product, of validation and of routing in the one shape."""

    @app.exception_handler(SpindleError)
    def _ours(_: Request, error: SpindleError) -> JSONResponse:
        return answer(*told(error))

    @app.exception_handler(RequestValidationError)
    def _validation(_: Request, error: RequestValidationError) -> JSONResponse:
        problems = [
            {
                "field": _field(p),
                "message": p["msg"],
                "type": p["type"],
            }
            for p in error.errors()
        ]
        first = problems[0] if problems else {"field": "", "message": "The request is not valid."}
        where = f"{first['field']}: " if first["field"] else ""
        return answer(
            422,
            ErrorBody(
                code="input",
                message=f"{where}{first['message']}.",
                field=first["field"] or None,
                details={"problems": problems[:20]},
            ),
        )

    @app.exception_handler(HTTPException)
    def _routing(_: Request, error: HTTPException) -> JSONResponse:
        code = _ROUTING.get(error.status_code, "http")
        refused = answer(error.status_code, ErrorBody(code=code, message=str(error.detail)))
        refused.headers.update(error.headers or {})
        return refused


def _field(problem: Mapping[str, Any]) -> str:
    """Dotted name of the field; broken JSON has a place in the text, but no field."""
    if problem["type"] == "json_invalid":
        return ""
    return ".".join(str(part) for part in problem["loc"] if part != "body")
