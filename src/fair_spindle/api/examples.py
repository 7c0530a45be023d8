"""An example of every request body in the published contract, one for each model."""

from __future__ import annotations

import json
from importlib.resources import files
from typing import Any

from fastapi import FastAPI


def with_examples(app: FastAPI) -> None:
    """Let the contract show an example with each body that is sent as JSON, and what a refusal looks like."""
    plain = app.openapi

    def openapi() -> dict[str, Any]:
        if app.openapi_schema:
            return app.openapi_schema
        contract = plain()
        known = json.loads(files("fair_spindle.api").joinpath("examples.json").read_text(encoding="utf-8"))
        for way in contract["paths"].values():
            for operation in way.values():
                body = operation.get("requestBody", {}).get("content", {}).get("application/json")
                name = body["schema"].get("$ref", "").rpartition("/")[2] if body else ""
                if name in known:
                    body["example"] = known[name]
        refusal = contract["components"]["schemas"]["ErrorBody"]
        refusal["examples"] = [known["ErrorBody"]]
        return contract

    app.openapi = openapi  # type: ignore[method-assign]
