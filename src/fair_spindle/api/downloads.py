"""Answers that are not checked once more: large views as they are, and files."""

from __future__ import annotations

from fastapi import Response
from pydantic import BaseModel

# What is packed already gains nothing from being packed once more on its way.
PACKED = ("image/", "application/zip", "application/pdf")


def shown(view: BaseModel, status: int = 200) -> Response:
    """A large view as it is: checking it against its own model again takes longer than making it."""
    return Response(view.model_dump_json(), status, media_type="application/json")


def download(content: bytes, media_type: str, name: str) -> Response:
    """A file to save or to look at."""
    headers = {"Content-Disposition": f'inline; filename="{name}"', "X-Content-Type-Options": "nosniff"}
    if media_type.startswith(PACKED):
        headers["Content-Encoding"] = "identity"
    return Response(content, media_type=media_type, headers=headers)
