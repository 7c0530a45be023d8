"""Jobs, their logs, their files."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Path, Query, Request, Response

from fair_spindle.api.delivered import DeliveredView, show_delivered
from fair_spindle.api.dependencies import Db, JobId, Key, Seen
from fair_spindle.api.downloads import download, shown
from fair_spindle.api.gate import OWNER
from fair_spindle.api.view_patches import Base, shown_again
from fair_spindle.core.bolts.joint_patterns import Pattern
from fair_spindle.core.joblog.log import Adapter
from fair_spindle.core.joblog.plain import act_of
from fair_spindle.formats.acts import Text
from fair_spindle.formats.job_file import write_schema
from fair_spindle.jobs import (
    aligning,
    append,
    book,
    checking,
    entries,
    exchange,
    history,
    importing,
    joints,
    labels,
    learning,
    pictures,
    queue,
    readings_file,
    record,
    sheet,
    springs,
    torque_list,
)
from fair_spindle.jobs.aligning import TurnsOfJobView
from fair_spindle.jobs.book_models import ChoicesView, LogLineView, SheetView, UnderstoodView, VersionView
from fair_spindle.jobs.checking import ExplainedView
from fair_spindle.jobs.history import JobFrom
from fair_spindle.jobs.importing import ImportView
from fair_spindle.jobs.joints_models import ChangePlaces, JointsView, KeepJoint, LaidOutView
from fair_spindle.jobs.learning import Decide, LessonsView
from fair_spindle.jobs.models import EventCreate, JobCreate, JobLine, JobView, ReadRequest
from fair_spindle.jobs.queue import QueueCreate
from fair_spindle.jobs.readings_file import ReadingsPreview
from fair_spindle.jobs.record import RecordView
from fair_spindle.jobs.settings import workshop_measures
from fair_spindle.jobs.springs_models import SpringsView, TriedSits, TrySprings
from fair_spindle.jobs.torque_list import OwnListView, TakeTorques, TorqueList, TorqueListView
from fair_spindle.jobs.views import show_job

router = APIRouter(prefix="/api", tags=["jobs"])
Table = Annotated[bytes, Body(media_type="text/csv")]


@router.get("/choices")
def show_choices(db: Db) -> ChoicesView:
    """What can be chosen from anywhere: units, property classes, kinds of job."""
    return sheet.show_choices(workshop_measures(db).units)


@router.get("/jobs")
def list_jobs(
    db: Db,
    limit: Annotated[int, Query(ge=1, le=200)] = 50,
    search: Annotated[str, Query(max_length=100)] = "",
    car: Annotated[str, Query(pattern=r"^[0-9a-zA-Z-]{0,64}$")] = "",
) -> list[JobLine]:
    """Jobs last worked on, newest first; those that hold every word sought in title or car, or of one car."""
    return book.all_jobs(db, limit, search, car)


@router.post("/jobs", status_code=201, response_model=JobView)
def start_job(db: Db, wanted: JobCreate) -> Response:
    """Start a job."""
    return shown(book.start_job(db, wanted), 201)


@router.post("/jobs/import", dependencies=OWNER)
def import_job(
    db: Db,
    content: Annotated[bytes, Body(media_type="application/octet-stream")],
    apply: Annotated[bool, Query()] = False,
    car: Annotated[str, Query(max_length=80)] = "",
) -> ImportView:
    """Read a job file; only with ``apply`` is anything changed; ``car`` is one of the answers it asked for."""
    return importing.import_job(db, content, apply, car)


@router.get("/jobs/{job_id}", response_model=JobView)
def see_job(db: Db, job_id: JobId) -> Response:
    """Everything about a job."""
    return shown_again(book.see_job(db, job_id))


@router.get("/jobs/{job_id}/sheet", response_model=SheetView)
def see_job_sheet(db: Db, job_id: JobId) -> Response:
    """What the job asks, as far as its car is known."""
    return shown(sheet.show_sheet(book.standing(db, job_id), workshop_measures(db).units))


@router.get("/jobs/{job_id}/version")
def see_version(db: Db, job_id: JobId) -> VersionView:
    """How many lines the job's log has, to see cheaply whether it changed."""
    return book.see_version(db, job_id)


@router.get("/jobs/{job_id}/log")
def see_log(db: Db, job_id: JobId) -> list[LogLineView]:
    """A job's log in words."""
    return book.see_log(db, job_id)


@router.post("/jobs/{job_id}/events", status_code=201, response_model=JobView)
def write_event(db: Db, job_id: JobId, wanted: EventCreate, view_base: Base = "") -> Response:
    """Add a line to a job's log; who tells the tag of the view it has is answered with what changed."""
    now = entries.write_entry(db, job_id, wanted)
    return shown_again(show_job(now, book.walk_of(db, now)), 201, view_base)


@router.post("/jobs/{job_id}/queue")
def deliver(db: Db, job_id: JobId, wanted: QueueCreate) -> DeliveredView:
    """Add lines that waited for a connection to a job's log, in order, up to the first that is refused."""
    return show_delivered(queue.deliver(db, job_id, wanted))


@router.post("/jobs/{job_id}/understand")
def understand(db: Db, job_id: JobId, wanted: ReadRequest) -> UnderstoodView:
    """Say how a field would be taken, without saving it."""
    return append.understand(book.standing(db, job_id), act_of(wanted.act.model_dump()))


@router.get("/jobs/{job_id}/turns", response_model=TurnsOfJobView)
def see_turns(db: Db, job_id: JobId, samples: Annotated[int, Query(ge=0, le=5000)] = 0) -> Response:
    """The turns of a job: planned, counted, still wanted; with samples, how sure the plan is."""
    return shown(aligning.see_turns(db, job_id, samples))


@router.get("/jobs/{job_id}/springs", response_model=SpringsView)
def see_springs(db: Db, job_id: JobId, samples: Annotated[int, Query(ge=0, le=20000)] = 0) -> Response:
    """The car on its springs: heights, loads, perches, travel, bars; with samples, how sure that is."""
    return shown(springs.see_springs(db, job_id, samples))


@router.post("/jobs/{job_id}/springs/try")
def try_springs(db: Db, job_id: JobId, wanted: TrySprings) -> TriedSits:
    """How the car would sit with other perches, seats, rates or holes; nothing is written."""
    return springs.try_springs(db, job_id, wanted)


@router.get("/jobs/{job_id}/lessons")
def see_lessons(db: Db, job_id: JobId) -> LessonsView:
    """What the readings after the job say about its car."""
    return learning.see_lessons(db, job_id)


@router.post("/jobs/{job_id}/lessons", status_code=201)
def decide_lessons(db: Db, job_id: JobId, wanted: Decide) -> LessonsView:
    """Write the lessons taken into the car's record; the others are refused."""
    return learning.decide_lessons(db, job_id, wanted)


@router.get("/jobs/{job_id}/joints", response_model=JointsView)
def see_joints(
    db: Db,
    job_id: JobId,
    wrench_mm: Annotated[float, Query(ge=0, le=3000)] = 0,
    adapter_mm: Annotated[float, Query(ge=0, le=1000)] = 0,
    angle_deg: Annotated[float, Query(ge=-180, le=180)] = 0,
) -> Response:
    """Joints with their maps, and what comes next; what to set, with an adapter on the wrench."""
    adapter = Adapter(wrench_mm, adapter_mm, angle_deg) if wrench_mm and adapter_mm else None
    return shown(joints.see_joints(db, job_id, adapter))


@router.post("/jobs/{job_id}/joints/change", status_code=201, response_model=JobView)
def change_places(db: Db, job_id: JobId, wanted: ChangePlaces) -> Response:
    """Change places of a joint in what was edited alone, and the other side with them where that is wanted."""
    now = joints.change_places(db, job_id, wanted)
    return shown(show_job(now, book.walk_of(db, now)), 201)


@router.get("/jobs/{job_id}/torque-list")
def see_own_list(db: Db, job_id: JobId) -> OwnListView:
    """The fasteners listed in the car's record, as a list to be matched to the job's places."""
    return torque_list.own_list(db, job_id)


@router.post("/jobs/{job_id}/torque-list")
def preview_torques(db: Db, job_id: JobId, wanted: TorqueList) -> TorqueListView:
    """Read a pasted torque list and match it to the job's places; nothing is written."""
    return torque_list.preview_torques(db, job_id, wanted)


@router.post("/jobs/{job_id}/torque-list/take", status_code=201, response_model=JobView)
def take_torques(db: Db, job_id: JobId, wanted: TakeTorques) -> Response:
    """Write the values of the lines that were decided."""
    now = torque_list.take_torques(db, job_id, wanted)
    return shown(show_job(now, book.walk_of(db, now)), 201)


@router.get("/jobs/{job_id}/labels.pdf", response_class=Response)
def print_labels(db: Db, job_id: JobId, request: Request) -> Response:
    """A label for each bag of fasteners, with a code that opens the map of where they belong."""
    address = request.app.state.sharing.address or str(request.base_url)
    return download(labels.print_labels(db, job_id, address), "application/pdf", "labels.pdf")


@router.post("/jobs/{job_id}/joints/keep", status_code=201)
def keep_joint(db: Db, job_id: JobId, wanted: KeepJoint) -> JointsView:
    """Write a joint's map into the car's record."""
    return joints.keep_joint(db, job_id, wanted)


@router.get("/joint-patterns")
def lay_out(
    pattern: Pattern,
    count: Annotated[int, Query(ge=1, le=60)],
    width_mm: Annotated[float, Query(gt=0, le=5000)],
    height_mm: Annotated[float, Query(ge=0, le=5000)] = 0,
) -> LaidOutView:
    """Places of a ready pattern for a joint's map."""
    return joints.lay_out(pattern, count, width_mm, height_mm)


@router.get("/jobs/{job_id}/recheck.ics", response_class=Response)
def recheck_calendar(db: Db, job_id: JobId) -> Response:
    """What is to be checked again after the drive, as a calendar file."""
    return download(joints.recheck_calendar(db, job_id), "text/calendar; charset=utf-8", "recheck.ics")


@router.get("/jobs/{job_id}/readings.csv", response_class=Response)
def readings_csv(db: Db, job_id: JobId) -> Response:
    """Every reading of a job as CSV."""
    return download(readings_file.readings_csv(db, job_id), "text/csv; charset=utf-8", "readings.csv")


@router.post("/jobs/{job_id}/readings.csv")
def take_readings(
    db: Db, job_id: JobId, key: Key, seen: Seen, table: Table, apply: Annotated[bool, Query()] = False
) -> ReadingsPreview:
    """Preview a file of readings; only with ``apply`` is anything changed."""
    return readings_file.take_readings(db, job_id, key, seen, table, apply)


@router.post("/jobs/{job_id}/pictures", status_code=201, response_model=JobView)
def attach(
    db: Db,
    job_id: JobId,
    key: Key,
    seen: Seen,
    subject: Annotated[Text, Query(max_length=80)],
    name: Annotated[Text, Query(min_length=1, max_length=120)],
    picture: Annotated[bytes, Body(media_type="application/octet-stream")],
) -> Response:
    """Attach a picture to a step or a reading."""
    return shown(pictures.attach(db, job_id, key, seen, subject, name, picture), 201)


@router.get("/jobs/{job_id}/pictures/{sha256}", response_class=Response)
def see_picture(db: Db, job_id: JobId, sha256: Annotated[str, Path(pattern=r"^[0-9a-f]{64}$")]) -> Response:
    """A picture of a job."""
    content, media = pictures.see_picture(db, job_id, sha256)
    return download(content, media, sha256[:12])


@router.get("/jobs/{job_id}/tightenings.csv", response_class=Response)
def export_tightenings(db: Db, job_id: JobId) -> Response:
    """Every tightening as CSV."""
    return download(exchange.tightenings_csv(db, job_id), "text/csv", f"{job_id}.tightenings.csv")


@router.get("/jobs/{job_id}/explained")
def see_explained(db: Db, job_id: JobId) -> ExplainedView:
    """What missed its prediction, and what could explain it."""
    return checking.see_explained(db, job_id)


@router.post("/jobs/{job_id}/correction", status_code=201, response_model=JobView)
def start_correction(db: Db, job_id: JobId, wanted: JobFrom) -> Response:
    """A short work order for what the readings still want."""
    return shown(checking.start_correction(db, job_id, wanted), 201)


@router.post("/jobs/{job_id}/again", status_code=201, response_model=JobView)
def start_from(db: Db, job_id: JobId, wanted: JobFrom) -> Response:
    """A new job from this one."""
    return shown(history.start_from(db, job_id, wanted), 201)


@router.delete("/jobs/{job_id}", status_code=204, dependencies=OWNER)
def delete_job(db: Db, job_id: JobId, seen: Seen) -> None:
    """Take a job away, as it was seen."""
    exchange.delete_job(db, job_id, seen)


@router.get("/jobs/{job_id}/job.zip", response_class=Response)
def export_zip(db: Db, job_id: JobId) -> Response:
    """A job as a job file, its pictures beside it."""
    return download(exchange.export_zip(db, job_id), "application/zip", f"{job_id}.job.zip")


@router.get("/job-file.schema.json", response_class=Response)
def job_file_schema() -> Response:
    """The JSON Schema of the job file."""
    return download(write_schema(), "application/schema+json", "job-file.schema.json")


@router.get("/jobs/{job_id}/job.json", response_class=Response)
def export_job(db: Db, job_id: JobId) -> Response:
    """A job as a job file."""
    return download(exchange.export_job(db, job_id), "application/json", f"{job_id}.job.json")


@router.get("/jobs/{job_id}/record")
def see_record(db: Db, job_id: JobId) -> RecordView:
    """What a job's record holds beside its readings as taken, and what a look at the job finds."""
    return record.see_record(db, job_id)


@router.get("/jobs/{job_id}/customer.pdf", response_class=Response)
def print_customer_sheet(db: Db, job_id: JobId) -> Response:
    """One page for whoever drives the car, as PDF."""
    return download(record.print_customer_sheet(db, job_id), "application/pdf", f"{job_id}.customer.pdf")


@router.get("/jobs/{job_id}/record.pdf", response_class=Response)
def print_record(db: Db, job_id: JobId) -> Response:
    """A job's record as PDF."""
    return download(record.print_record(db, job_id), "application/pdf", f"{job_id}.pdf")
