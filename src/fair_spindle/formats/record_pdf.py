"""The record as a printable sheet."""

from __future__ import annotations

from typing import Any


def write_record(job: dict[str, Any]) -> bytes:
    """TEMP."""
    return b""
