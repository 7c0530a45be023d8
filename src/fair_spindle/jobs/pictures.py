"""Pictures attached to a step or a reading of a job."""

from __future__ import annotations

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.joblog.log import Attached
from fair_spindle.formats.pictures import clean_picture
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import standing, walk_of
from fair_spindle.jobs.models import JobView
from fair_spindle.jobs.views import show_job
from fair_spindle.records.database import Database
from fair_spindle.records.pictures import keep_picture, load_picture, picture_folder


def attach(database: Database, job_id: str, key: str, seen: int, subject: str, name: str, content: bytes) -> JobView:
    """Keep a picture and write it in the job's log."""
    standing(database, job_id)
    picture, media = clean_picture(content)
    kept = keep_picture(picture_folder(database.path), picture)
    attached = Attached(subject, kept, media, name)
    now = write_act(database, job_id, key, seen, attached, asked=[subject, kept, name])
    return show_job(now, walk_of(database, now))


def see_picture(database: Database, job_id: str, sha256: str) -> tuple[bytes, str]:
    """A picture of a job and its media type."""
    for _, act in standing(database, job_id).state.attached:
        if act.sha256 == sha256:
            return load_picture(picture_folder(database.path), sha256), act.media
    raise NotFound("This job has no such picture.", field="picture")
