"""The published contract: what each operation answers when it fails, and an example of every body that is sent."""

from __future__ import annotations

import json
from importlib.resources import files
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from fair_spindle.api.errors import ErrorBody
from fair_spindle.api.lazy import all_routes

# As RFC 9110 names them: the names of Python's own table change with its version, and the contract does not.
REFUSALS = {
    400: "Bad Request",
    401: "Unauthorized",
    403: "Forbidden",
    404: "Not Found",
    409: "Conflict",
    413: "Content Too Large",
    422: "Unprocessable Content",
}


def write_contract(app: FastAPI) -> None:
    """Let the contract show the one error body under each operation, and an example with each body sent as JSON.

    The error body is named here and not to every route: a route makes a validator of its own for each model it is
    told, a thousand of them before the first answer.
    """

    def openapi() -> dict[str, Any]:
        if app.openapi_schema:
            return app.openapi_schema
        contract = get_openapi(title=app.title, version=app.version, routes=all_routes(app.routes))
        known = json.loads(files("fair_spindle.api").joinpath("examples.json").read_text(encoding="utf-8"))
        for way in contract["paths"].values():
            for operation in way.values():
                operation["responses"].update(_refusals())
                body = operation.get("requestBody", {}).get("content", {}).get("application/json")
                name = body["schema"].get("$ref", "").rpartition("/")[2] if body else ""
                if name in known:
                    body["example"] = known[name]
        shapes = contract["components"]["schemas"]
        shapes["ErrorBody"] = ErrorBody.model_json_schema(mode="serialization") | {"examples": [known["ErrorBody"]]}
        for unused in ("HTTPValidationError", "ValidationError"):
            shapes.pop(unused, None)
        app.openapi_schema = contract
        return contract

    app.openapi = openapi  # type: ignore[method-assign]


def _refusals() -> dict[str, Any]:
    content = {"application/json": {"schema": {"$ref": "#/components/schemas/ErrorBody"}}}
    return {str(status): {"description": name, "content": content} for status, name in REFUSALS.items()}
