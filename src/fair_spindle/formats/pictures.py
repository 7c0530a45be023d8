"""Pictures from outside: what a file is, by its content."""

from __future__ import annotations

from typing import Literal

from fair_spindle.core.basics.errors import InputError

LARGEST_PICTURE = 6 * 1024 * 1024
Media = Literal["image/png", "image/jpeg", "image/webp"]


def media_of(content: bytes) -> Media:
    """Which kind of picture the bytes are; InputError where they are none that can be shown."""
    if len(content) > LARGEST_PICTURE:
        raise InputError("A picture is at most 6 MB. Make it smaller, or take it again.", field="picture")
    if content.startswith(b"\x89PNG\r\n\x1a\n"):
        return "image/png"
    if content.startswith(b"\xff\xd8\xff"):
        return "image/jpeg"
    if content.startswith(b"RIFF") and content[8:12] == b"WEBP":
        return "image/webp"
    raise InputError("This is no picture in PNG, JPEG or WebP, whatever its name says.", field="picture")
