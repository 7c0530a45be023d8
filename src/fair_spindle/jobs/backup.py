"""The whole workshop as one file, and back from it."""

from __future__ import annotations

from collections.abc import Mapping

from fair_spindle.core.basics.errors import InputError
from fair_spindle.formats.job_zip import FOLDER, read_zip, write_zip
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.soundness import check_content
from fair_spindle.records.backup import copy_database, counts_of, put_back
from fair_spindle.records.database import Database
from fair_spindle.records.kept_copies import bring_pictures_back, keep_copy, list_copies, read_copy
from fair_spindle.records.pictures import keep_picture, picture_folder

DATABASE = "workshop.sqlite"


class RestoreView(View):
    """What a backup holds, and whether it was put back."""

    jobs: int
    cars: int
    entries: int
    pictures: int
    applied: bool
    kept: str
    said: str


class CopyView(View):
    """A copy the workshop keeps of itself."""

    name: str
    at: str


def kept_copies(database: Database) -> list[CopyView]:
    """The copies kept beside the database, newest first."""
    return [CopyView(name=copy.name, at=copy.at) for copy in list_copies(database.path)]


def keep_a_copy(database: Database) -> list[CopyView]:
    """Keep a checked copy now, unless nothing changed since the last one."""
    keep_copy(database, check_content)
    return kept_copies(database)


def restore_copy(database: Database, name: str, apply: bool) -> RestoreView:
    """Check a kept copy, and where ``apply`` put it in the place of what is here, which is kept beside it."""
    restored = _restore(database, read_copy(database.path, name), {}, apply)
    if apply:
        bring_pictures_back(database.path)
    return restored


def back_up(database: Database, *, practice: bool = False) -> bytes:
    """A checked copy of the database and every picture, in one zip; practice jobs only where they are wanted."""
    files = {DATABASE: copy_database(database, practice=practice)}
    folder = picture_folder(database.path)
    for file in sorted(folder.glob("*")) if folder.is_dir() else []:
        if not file.name.startswith("."):
            files[f"{FOLDER}{file.name}"] = file.read_bytes()
    return write_zip(files)


def restore(database: Database, content: bytes, apply: bool) -> RestoreView:
    """Check a backup, and where ``apply`` put it in the place of what is here, which is kept beside it."""
    files = read_zip(content)
    if DATABASE not in files:
        raise InputError(f"This is no backup of a workshop: it holds no {DATABASE}.", field="file")
    pictures = {name.removeprefix(FOLDER): data for name, data in files.items() if name.startswith(FOLDER)}
    return _restore(database, files[DATABASE], pictures, apply)


def _restore(database: Database, content: bytes, pictures: Mapping[str, bytes], apply: bool) -> RestoreView:
    counts = counts_of(content, check_content)
    kept = ""
    if apply:
        kept = put_back(database, content).name
        for name, data in pictures.items():
            keep_picture(picture_folder(database.path), data, name)
    said = f"{counts['jobs']} jobs and {counts['cars']} cars with {counts['entries']} entries; the copy is whole."
    if apply:
        said += f" It is in place now; what was here before is kept as {kept}."
    return RestoreView(**counts, pictures=len(pictures), applied=apply, kept=kept, said=said)
