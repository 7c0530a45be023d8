"""A job file with its pictures beside it, in a plain zip: the same job gives the same bytes."""

from __future__ import annotations

import hashlib
import io
import lzma
import re
import struct
import zipfile
import zlib
from collections.abc import Mapping

from fair_spindle.core.basics.errors import InputError
from fair_spindle.formats.pictures import media_of
from fair_spindle.formats.sizes import LARGEST_ARCHIVE, LARGEST_FILE

JOB = "job.json"
FOLDER = "pictures/"
MOST_PICTURES = 400
_DAMAGED = (
    zipfile.BadZipFile,
    zlib.error,
    lzma.LZMAError,
    struct.error,
    EOFError,
    NotImplementedError,
    RuntimeError,
    OSError,
    ValueError,
    OverflowError,
)
_PICTURE = re.compile(r"(?P<known>[0-9a-f]{64})(\.(?P<own>[0-9a-f]{64}))?(\.\w{1,5})?")
FIXED_DATE = (2000, 1, 1, 0, 0, 0)


def is_zip(content: bytes) -> bool:
    """Whether a file begins as a zip does."""
    return content[:4] == b"PK\x03\x04"


def write_zip(files: Mapping[str, bytes]) -> bytes:
    """Pack files under their names, in order, uncompressed and undated."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        for name, content in files.items():
            archive.writestr(zipfile.ZipInfo(name, FIXED_DATE), content)
    return out.getvalue()


def read_zip(content: bytes) -> dict[str, bytes]:
    """Unpack a zip; InputError where it is damaged or grows beyond what a workshop's files are.

    What is unpacked is counted, not what the archive says of itself.
    """
    files: dict[str, bytes] = {}
    left = LARGEST_ARCHIVE
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            inside = [entry for entry in archive.infolist() if not entry.is_dir()]
            for entry in inside:
                with archive.open(entry) as packed:
                    files[entry.filename] = packed.read(left + 1)
                left -= len(files[entry.filename])
                if left < 0 or len(inside) > MOST_PICTURES + 2:
                    raise InputError("This archive holds more than 256 MB or 400 files.", field="file")
    except InputError:
        raise
    except _DAMAGED:
        raise InputError("This is no whole zip archive; it may have been cut short.", field="file") from None
    if len(files) < len(inside):
        raise InputError("This archive holds two files of the same name.", field="file")
    return files


def picture_file(name: str, content: bytes, media: str) -> dict[str, bytes]:
    """A picture under the name the log knows it by; where it was written again, its own SHA-256 follows."""
    own = hashlib.sha256(content).hexdigest()
    proof = "" if own == name else f".{own}"
    return {f"{FOLDER}{name}{proof}.{media.partition('/')[2]}": content}


def read_job_zip(content: bytes) -> tuple[bytes, dict[str, bytes]]:
    """The job file, and the pictures by the names the log knows; one that is not what its name says is refused."""
    files = read_zip(content)
    if JOB not in files:
        raise InputError(f"This archive holds no {JOB}.", field="file")
    if len(files[JOB]) > LARGEST_FILE:
        raise InputError("A job file is at most 8 MB.", field="file")
    pictures = {}
    for name, data in files.items():
        if name.startswith(FOLDER):
            named = _PICTURE.fullmatch(name.removeprefix(FOLDER))
            if not named or hashlib.sha256(data).hexdigest() != (named["own"] or named["known"]):
                raise InputError(f"{name} is damaged: it is not the picture its name says.", field=name)
            media_of(data)
            pictures[named["known"]] = data
    return files[JOB], pictures
