"""Whether a file is whole: a database, a job file, an archive of a job, or a backup."""

from __future__ import annotations

from pathlib import Path

from fair_spindle.core.basics.errors import InputError
from fair_spindle.formats.job_file import read_job_file
from fair_spindle.formats.job_zip import JOB, is_zip, read_job_zip, read_zip
from fair_spindle.jobs.backup import DATABASE
from fair_spindle.jobs.importing import check_job_file
from fair_spindle.jobs.soundness import check_content
from fair_spindle.records.backup import counts_of
from fair_spindle.records.soundness import NEWEST, check_old_tables, check_whole, opened_to_read, version_of

SQLITE = b"SQLite format 3\x00"


def check_file(path: Path) -> str:
    """Say what a file holds and that it is whole; InputError says what does not hold, and where."""
    with path.open("rb") as file:
        begins = file.read(16)
    if begins == SQLITE:
        return _database(path)
    content = path.read_bytes()
    if is_zip(content):
        files = read_zip(content)
        if DATABASE in files:
            counts = counts_of(files[DATABASE], check_content)
            return (
                f"A whole backup: {counts['jobs']} jobs and {counts['cars']} cars with {counts['entries']} entries."
            )
        if JOB not in files:
            raise InputError(f"This archive holds neither {JOB} nor {DATABASE}.", field="file")
        content = read_job_zip(content)[0]
    read = read_job_file(content)
    check_job_file(read)
    return f"A whole job file: “{read.job.title}”, {len(read.log)} entries."


def _database(path: Path) -> str:
    with opened_to_read(path) as connection:
        version = version_of(connection)
        if version != NEWEST:
            check_old_tables(connection)
            return f"A database of version {version}; serving it brings it to {NEWEST}, a copy is kept."
        check_whole(connection)
        check_content(connection)
        books = connection.execute("SELECT count(*) FROM book").fetchone()[0]
    return f"A whole database: {books} jobs and cars."
