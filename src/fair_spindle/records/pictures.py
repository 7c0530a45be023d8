"""Pictures beside the database, each named by the SHA-256 of its content when it was attached."""

from __future__ import annotations

import hashlib
import os
import re
from pathlib import Path

from fair_spindle.core.basics.errors import NotFound

_NAME = re.compile(r"[0-9a-f]{64}")


def picture_folder(database_file: Path) -> Path:
    """Where the pictures of a database lie."""
    return database_file.with_name(f"{database_file.name}.pictures")


def keep_picture(folder: Path, content: bytes, name: str = "") -> str:
    """Write a picture so that it survives a crash, and give its name; one that is there already stays.

    A picture that was written again on its way keeps the name the log knows it by.
    """
    name = name if _NAME.fullmatch(name) else hashlib.sha256(content).hexdigest()
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / name
    if not file.exists():
        draft = folder / f".{name}.{os.getpid()}"
        with draft.open("wb") as out:
            out.write(content)
            out.flush()
            os.fsync(out.fileno())
        draft.replace(file)
    return name


def load_picture(folder: Path, name: str) -> bytes:
    """A picture by its name; NotFound where it is not there."""
    try:
        return (folder / name).read_bytes()
    except OSError:
        raise NotFound("The picture is not here any more.", field="picture") from None
