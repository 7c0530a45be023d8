"""The practice bay: exercises, the car in the bay, its gauges, what came of it."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Query, Response

from fair_spindle.api.dependencies import Db, JobId
from fair_spindle.api.downloads import download, shown
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs import book, debriefing, practice
from fair_spindle.jobs.models import JobView
from fair_spindle.jobs.practice_models import (
    BayPicture,
    BeginPractice,
    BegunView,
    DebriefView,
    ExerciseView,
    ReadWithGauges,
)
from fair_spindle.jobs.views import show_job

router = APIRouter(prefix="/api", tags=["practice"])


@router.get("/practice")
def list_exercises(db: Db) -> list[ExerciseView]:
    """Every exercise in the order in which they teach, with the times it was done."""
    return practice.list_exercises(db)


@router.post("/practice", status_code=201)
def begin(db: Db, wanted: BeginPractice) -> BegunView:
    """Put an exercise's car in the bay."""
    return practice.begin(db, wanted)


@router.post("/practice/file", status_code=201)
def begin_from_file(
    db: Db, content: Annotated[bytes, Body(media_type="application/octet-stream")], id: Annotated[Identity, Query()]
) -> BegunView:
    """Put the car of an exercise file in the bay, as a job of the ``id``."""
    return practice.begin_from_file(db, id, content)


@router.get("/jobs/{job_id}/practice/exercise.json", response_class=Response)
def export_exercise(db: Db, job_id: JobId) -> Response:
    """The exercise of a practice job as a file to hand on."""
    return download(practice.export_exercise(db, job_id), "application/json", f"{job_id}.exercise.json")


@router.get("/jobs/{job_id}/practice")
def see_bay(db: Db, job_id: JobId) -> BayPicture:
    """The practice car as it stands in the bay."""
    return practice.see_bay(db, job_id)


@router.post("/jobs/{job_id}/practice/read", status_code=201, response_model=JobView)
def read_with_gauges(db: Db, job_id: JobId, wanted: ReadWithGauges) -> Response:
    """Read fields with the gauges of the bay."""
    now = practice.read_with_gauges(db, job_id, wanted)
    return shown(show_job(now, book.walk_of(db, now)), 201)


@router.get("/jobs/{job_id}/practice/debrief")
def see_debrief(db: Db, job_id: JobId, give_up: Annotated[bool, Query()] = False) -> DebriefView:
    """Truth beside belief and where the difference came from; before the end only who gives up sees it."""
    return debriefing.see_debrief(db, job_id, give_up=give_up)
