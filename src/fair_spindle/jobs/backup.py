"""The whole workshop as one file, and back from it."""

from __future__ import annotations

from fair_spindle.core.basics.errors import InputError
from fair_spindle.formats.job_zip import FOLDER, read_zip, write_zip
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.soundness import check_content
from fair_spindle.records.backup import copy_database, counts_of, put_back
from fair_spindle.records.database import Database
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


def back_up(database: Database) -> bytes:
    """A checked copy of the database and every picture, in one zip."""
    files = {DATABASE: copy_database(database)}
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
    pictures = [data for name, data in files.items() if name.startswith(FOLDER)]
    counts = counts_of(files[DATABASE], check_content)
    kept = ""
    if apply:
        kept = put_back(database, files[DATABASE]).name
        for data in pictures:
            keep_picture(picture_folder(database.path), data)
    said = f"{counts['jobs']} jobs and {counts['cars']} cars with {counts['entries']} entries; the copy is whole."
    if apply:
        said += f" It is in place now; what was here before is kept as {kept}."
    return RestoreView(**counts, pictures=len(pictures), applied=apply, kept=kept, said=said)
