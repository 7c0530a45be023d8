"""Work orders and procedures."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Body, Path, Query, Response

from fair_spindle.api.dependencies import Db, JobId
from fair_spindle.api.downloads import download, shown
from fair_spindle.api.gate import OWNER
from fair_spindle.core.joblog.plain import act_of
from fair_spindle.jobs import book, planning, procedures
from fair_spindle.jobs.models import JobView, ReadRequest
from fair_spindle.jobs.planning_models import (
    AxleMapView,
    ConsequencesView,
    PlanOfJobView,
    PlanView,
    ProcedurePreview,
    ProcedureView,
    SaveProcedure,
    StopView,
    TakePlan,
    TryPlan,
)
from fair_spindle.jobs.views import show_job

router = APIRouter(prefix="/api", tags=["planning"])
Procedure = Annotated[str, Path(pattern=r"^[a-z0-9_]{2,40}$")]
Toml = Annotated[bytes, Body(media_type="application/octet-stream")]


@router.get("/jobs/{job_id}/plan", response_model=PlanOfJobView)
def see_plan(db: Db, job_id: JobId) -> Response:
    """A job's brief and plan, and the procedures it can be made of."""
    return shown(planning.see_plan(db, job_id))


@router.get("/jobs/{job_id}/parts")
def see_parts(db: Db, job_id: JobId) -> list[AxleMapView]:
    """Both axles as they are drawn to pick from."""
    return planning.see_parts(db, job_id)


@router.get("/cars/{car_id}/parts")
def see_car_parts(db: Db, car_id: JobId) -> list[AxleMapView]:
    """Both axles of a car: parts, joints, what runs along them, what they move."""
    return planning.see_parts(db, car_id, car=True)


@router.post("/jobs/{job_id}/plan/try", response_model=PlanView)
def try_plan(db: Db, job_id: JobId, wanted: TryPlan) -> Response:
    """Plan a brief without writing anything."""
    return shown(planning.try_plan(db, job_id, wanted))


@router.post("/jobs/{job_id}/plan", status_code=201, response_model=JobView)
def take_plan(db: Db, job_id: JobId, wanted: TakePlan) -> Response:
    """Write the plan of a brief into the job."""
    now = planning.take_plan(db, job_id, wanted)
    return shown(show_job(now, book.walk_of(db, now)), 201)


@router.post("/jobs/{job_id}/plan/procedure", status_code=201)
def save_plan(db: Db, job_id: JobId, wanted: SaveProcedure) -> ProcedureView:
    """Keep an edited plan as a procedure of the workshop's own."""
    return planning.save_plan(db, job_id, wanted)


@router.post("/jobs/{job_id}/consequences")
def see_consequences(db: Db, job_id: JobId, wanted: ReadRequest) -> ConsequencesView:
    """What would no longer hold after an act; nothing is written."""
    return planning.see_consequences(db, job_id, act_of(wanted.act.model_dump()))


@router.get("/jobs/{job_id}/stop")
def see_stop(db: Db, job_id: JobId) -> StopView:
    """How the car stands for the night."""
    return planning.see_stop(db, job_id)


@router.get("/jobs/{job_id}/stop.pdf", response_class=Response)
def print_stop(db: Db, job_id: JobId) -> Response:
    """The sheet that lies on the seat overnight."""
    return download(planning.stop_sheet(db, job_id), "application/pdf", "stopped.pdf")


@router.get("/jobs/{job_id}/clipboard.pdf", response_class=Response)
def print_clipboard(db: Db, job_id: JobId, axle: Annotated[Literal["", "front", "rear"], Query()] = "") -> Response:
    """The plan for a clipboard, whole or for one axle."""
    return download(planning.clipboard(db, job_id, axle), "application/pdf", "clipboard.pdf")


@router.get("/procedures")
def list_procedures(db: Db) -> list[ProcedureView]:
    """Every kind of job: those that come with the product and the workshop's own."""
    return planning.all_procedures(db)


@router.get("/procedures/{procedure}/file", response_class=Response)
def give_procedure(db: Db, procedure: Procedure) -> Response:
    """A procedure as its file."""
    return download(procedures.procedure_file(db, procedure), "application/toml", f"{procedure}.toml")


@router.post("/procedures/import", dependencies=OWNER)
def import_procedure(
    db: Db,
    content: Toml,
    apply: Annotated[bool, Query()] = False,
    seen: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
) -> ProcedurePreview:
    """Read a procedure file; only with ``apply`` is it kept."""
    return procedures.import_procedure(db, content, apply, seen)


@router.delete("/procedures/{procedure}", status_code=204, dependencies=OWNER)
def delete_procedure(db: Db, procedure: Procedure) -> None:
    """Take one of the workshop's own procedures away."""
    procedures.delete_procedure(db, procedure)
