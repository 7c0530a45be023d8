"""Jobs, their logs, their files."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Query, Response

from fair_spindle.api.dependencies import Db, JobId
from fair_spindle.core.floor.plain import act_of
from fair_spindle.jobs import book, exchange, sheet, writing
from fair_spindle.jobs.models import (
    EventCreate,
    ImportView,
    JobCreate,
    JobLine,
    JobView,
    LogLineView,
    ReadRequest,
    SheetView,
    UnderstoodView,
    VersionView,
)

router = APIRouter(prefix="/api", tags=["jobs"])


@router.get("/sheet")
def show_sheet() -> SheetView:
    """What the forms ask."""
    return sheet.show_sheet()


@router.post("/understand")
def understand(wanted: ReadRequest) -> UnderstoodView:
    """Say how a field would be taken, without saving it."""
    return writing.understand(act_of(wanted.act.model_dump()))


@router.get("/jobs")
def list_jobs(db: Db, limit: Annotated[int, Query(ge=1, le=200)] = 50) -> list[JobLine]:
    """Jobs last worked on, newest first."""
    return book.all_jobs(db, limit)


@router.post("/jobs", status_code=201, response_model=JobView)
def start_job(db: Db, wanted: JobCreate) -> Response:
    """Start a job."""
    return _shown(book.start_job(db, wanted), 201)


@router.post("/jobs/import")
def import_job(
    db: Db,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
    apply: Annotated[bool, Query()] = False,
) -> ImportView:
    """Read a job file; only with ``apply`` is anything changed."""
    return exchange.import_job(db, content, apply)


@router.get("/jobs/{job_id}", response_model=JobView)
def see_job(db: Db, job_id: JobId) -> Response:
    """Everything about a job."""
    return _shown(book.see_job(db, job_id), 200)


@router.get("/jobs/{job_id}/version")
def see_version(db: Db, job_id: JobId) -> VersionView:
    """How many lines the job's log has, to see cheaply whether it changed."""
    return book.see_version(db, job_id)


@router.get("/jobs/{job_id}/log")
def see_log(db: Db, job_id: JobId) -> list[LogLineView]:
    """A job's log in words."""
    return book.see_log(db, job_id)


@router.post("/jobs/{job_id}/events", status_code=201, response_model=JobView)
def write_event(db: Db, job_id: JobId, wanted: EventCreate) -> Response:
    """Add a line to a job's log."""
    return _shown(writing.write_event(db, job_id, wanted), 201)


@router.get("/jobs/{job_id}/job.json", response_class=Response)
def export_job(db: Db, job_id: JobId) -> Response:
    """A job as a job file."""
    return _download(exchange.export_job(db, job_id), "application/json", f"{job_id}.job.json")


@router.get("/jobs/{job_id}/record.pdf", response_class=Response)
def print_record(db: Db, job_id: JobId) -> Response:
    """A job's record as PDF."""
    return _download(exchange.print_record(db, job_id), "application/pdf", f"{job_id}.pdf")


def _shown(view: JobView, status: int) -> Response:
    """The large view as it is: checking it once more against its own model takes longer than making it."""
    return Response(view.model_dump_json(), status, media_type="application/json")


def _download(content: bytes, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f'inline; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)
