"""Pictures from outside: decoded, turned upright, and written again without what the camera noted."""

from __future__ import annotations

import io
import warnings
from typing import TYPE_CHECKING, Literal

from fair_spindle.core.basics.errors import InputError

if TYPE_CHECKING:
    from PIL.Image import Image

LARGEST_PICTURE = 6 * 1024 * 1024
MOST_PIXELS = 50_000_000
LONGEST_SIDE = 3000
Media = Literal["image/png", "image/jpeg", "image/webp"]
_NOTES = {"exif", "xmp", "comment", "photoshop"}
_MEDIA: dict[str, Media] = {"PNG": "image/png", "JPEG": "image/jpeg", "WEBP": "image/webp"}


def media_of(content: bytes) -> Media:
    """Which kind of picture the bytes are, by decoding them; InputError where they cannot be shown."""
    return _decoded(content)[1]


def clean_picture(content: bytes) -> tuple[bytes, Media]:
    """The same picture upright, no side longer than 3,000 pixels, with nothing in it but its pixels."""
    from PIL import ImageOps

    picture, media = _decoded(content)
    upright = ImageOps.exif_transpose(picture)
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    plain = upright.convert("RGB" if media == "image/jpeg" else "RGBA" if "A" in upright.getbands() else "RGB")
    out = io.BytesIO()
    plain.save(out, format=media.partition("/")[2], quality=88)
    return out.getvalue(), media


def without_notes(content: bytes) -> tuple[bytes, Media]:
    """A picture for other hands: as it is, or written again where a camera left notes in it (place, time, owner)."""
    picture, media = _decoded(content)
    written = any(isinstance(note, str) for note in picture.info.values())
    if picture.getexif() or written or _NOTES & picture.info.keys():
        return clean_picture(content)
    return content, media


def _decoded(content: bytes) -> tuple[Image, Media]:
    from PIL import Image, UnidentifiedImageError

    if len(content) > LARGEST_PICTURE:
        raise InputError("A picture is at most 6 MB. Make it smaller, or take it again.", field="picture")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            picture = Image.open(io.BytesIO(content), formats=tuple(_MEDIA))
            if picture.width * picture.height > MOST_PIXELS:
                raise InputError(
                    f"A picture has at most 50 million pixels; this one has {picture.width} × {picture.height}. "
                    "Make it smaller.",
                    field="picture",
                )
            media = _MEDIA[picture.format or ""]
            picture.load()
    except InputError:
        raise
    except UnidentifiedImageError:
        raise InputError(
            "This is no picture in PNG, JPEG or WebP, whatever its name says.", field="picture"
        ) from None
    except (OSError, SyntaxError, ValueError, KeyError, Image.DecompressionBombError):
        raise InputError("This picture is damaged or cut short. Take it again.", field="picture") from None
    return picture, media
