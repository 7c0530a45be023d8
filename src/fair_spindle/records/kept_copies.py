"""Copies the workshop keeps of itself beside its database: ten, checked, with every picture once."""

from __future__ import annotations

import re
from collections import Counter
from datetime import UTC, datetime
from pathlib import Path

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.records.backup import Check, copy_database, counts_of
from fair_spindle.records.database import Database
from fair_spindle.records.pictures import keep_picture, picture_folder

MOST_COPIES, MOST_OF_A_DAY = 10, 3
NAME = re.compile(r"\d{4}-\d\d-\d\dT\d{6}Z\.sqlite")


@value_object
class KeptCopy:
    """A copy: its file's name, and when it was made."""

    name: str
    at: str


def copy_folder(database_file: Path) -> Path:
    """Where the copies of a database lie."""
    return database_file.with_name(f"{database_file.name}.backups")


def list_copies(database_file: Path) -> list[KeptCopy]:
    """The copies there are, newest first."""
    folder = copy_folder(database_file)
    names = sorted((file.name for file in folder.glob("*.sqlite") if NAME.fullmatch(file.name)), reverse=True)
    return [KeptCopy(name, f"{name[:13]}:{name[13:15]}:{name[15:17]}Z") for name in names]


def keep_copy(database: Database, check: Check) -> KeptCopy | None:
    """Keep a checked copy, unless nothing changed since the last one; the oldest beyond what is kept go."""
    folder = copy_folder(database.path)
    folder.mkdir(parents=True, exist_ok=True)
    content = copy_database(database)
    copies = list_copies(database.path)
    _keep_pictures(picture_folder(database.path), folder / "pictures")
    if copies and (folder / copies[0].name).read_bytes() == content:
        return None
    counts_of(content, check)
    file = folder / f"{datetime.now(UTC):%Y-%m-%dT%H%M%SZ}.sqlite"
    draft = file.with_suffix(".draft")
    draft.write_bytes(content)
    draft.replace(file)
    for name in _too_many([copy.name for copy in list_copies(database.path)]):
        (folder / name).unlink(missing_ok=True)
    return list_copies(database.path)[0]


def read_copy(database_file: Path, name: str) -> bytes:
    """A copy's content; NotFound where there is none of that name."""
    file = copy_folder(database_file) / name
    if not NAME.fullmatch(name) or not file.is_file():
        raise NotFound("There is no such copy any more.", field="name")
    return file.read_bytes()


def bring_pictures_back(database_file: Path) -> None:
    """Put pictures that are missing beside the database back from the copies'."""
    _keep_pictures(copy_folder(database_file) / "pictures", picture_folder(database_file))


def _keep_pictures(source: Path, target: Path) -> None:
    for file in source.glob("*") if source.is_dir() else []:
        if not file.name.startswith(".") and not (target / file.name).exists():
            keep_picture(target, file.read_bytes(), file.name)


def _too_many(newest_first: list[str]) -> list[str]:
    """Of one day the newest three stay, so that many starts do not push the days before out; ten in all."""
    of_day: Counter[str] = Counter()
    kept: list[str] = []
    for name in newest_first:
        of_day[name[:10]] += 1
        if of_day[name[:10]] <= MOST_OF_A_DAY and len(kept) < MOST_COPIES:
            kept.append(name)
    return [name for name in newest_first if name not in kept]
