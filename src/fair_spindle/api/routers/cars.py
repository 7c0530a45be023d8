"""Cars: their records, copies, reusable parts, and tables in and out."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Body, Path, Query, Response

from fair_spindle.api.delivered import DeliveredView, show_delivered
from fair_spindle.api.dependencies import CarId, Db, Key, Seen
from fair_spindle.api.downloads import download, shown
from fair_spindle.api.gate import OWNER
from fair_spindle.api.view_patches import Base, shown_again
from fair_spindle.core.joblog.plain import act_of
from fair_spindle.jobs import append, book, cars, corners, entries, geometry, history, queue
from fair_spindle.jobs.book_models import CarLine, CarView, LogLineView, SheetView, UnderstoodView, VersionView
from fair_spindle.jobs.book_views import show_car
from fair_spindle.jobs.cars import CarCopy, CarCreate, PartCreate, PartFit, ShelfPartView, SideCopy
from fair_spindle.jobs.geometry_models import GeometryView, LinkageView, LinkageWanted, PointsView, TriedCar, WhatIf
from fair_spindle.jobs.history import ComparedView, HistoryView
from fair_spindle.jobs.models import EventCreate, ReadRequest
from fair_spindle.jobs.queue import QueueCreate
from fair_spindle.jobs.settings import workshop_measures
from fair_spindle.jobs.sheet import show_sheet

router = APIRouter(prefix="/api", tags=["cars"])
Moment = Annotated[str, Query(pattern=r"^[0-9a-zA-Z-]{8,64}:(before|after)$")]
Limit = Annotated[int, Query(ge=1, le=500)]
Table = Annotated[bytes, Body(media_type="text/csv")]


@router.get("/cars")
def list_cars(db: Db, limit: Limit = 200) -> list[CarLine]:
    """Cars last worked on, newest first."""
    return cars.all_cars(db, limit)


@router.post("/cars", status_code=201, response_model=CarView)
def add_car(db: Db, wanted: CarCreate) -> Response:
    """Add a car."""
    return shown(cars.add_car(db, wanted), 201)


@router.get("/cars/{car_id}", response_model=CarView)
def see_car(db: Db, car_id: CarId) -> Response:
    """Everything in a car's record."""
    return shown_again(cars.see_car(db, car_id))


@router.get("/cars/{car_id}/history", response_model=HistoryView)
def see_history(db: Db, car_id: CarId) -> Response:
    """The car through its jobs."""
    return shown(history.see_history(db, car_id))


@router.get("/cars/{car_id}/history/compare")
def compare(db: Db, car_id: CarId, first: Moment, then: Moment) -> ComparedView:
    """Two of its set-ups side by side."""
    return history.compare(db, car_id, first, then)


@router.get("/cars/{car_id}/sheet", response_model=SheetView)
def see_car_sheet(db: Db, car_id: CarId) -> Response:
    """What the record asks, as far as the car is known."""
    return shown(show_sheet(book.standing(db, car_id, car=True), workshop_measures(db).units))


@router.get("/cars/{car_id}/version")
def see_car_version(db: Db, car_id: CarId) -> VersionView:
    """How many lines the record's log has."""
    return book.see_version(db, car_id, car=True)


@router.get("/cars/{car_id}/log")
def see_car_log(db: Db, car_id: CarId) -> list[LogLineView]:
    """The record's log in words."""
    return book.see_log(db, car_id, car=True)


@router.post("/cars/{car_id}/events", status_code=201, response_model=CarView)
def write_car_event(db: Db, car_id: CarId, wanted: EventCreate, view_base: Base = "") -> Response:
    """Add a line to the record's log; who tells the tag of the view it has is answered with what changed."""
    return shown_again(show_car(entries.write_entry(db, car_id, wanted, car=True)), 201, view_base)


@router.post("/cars/{car_id}/queue")
def deliver_to_car(db: Db, car_id: CarId, wanted: QueueCreate) -> DeliveredView:
    """Add lines that waited for a connection to a record's log, in order, up to the first that is refused."""
    return show_delivered(queue.deliver(db, car_id, wanted, car=True))


@router.post("/cars/{car_id}/understand")
def understand_car(db: Db, car_id: CarId, wanted: ReadRequest) -> UnderstoodView:
    """Say how a field would be taken, without saving it."""
    return append.understand(book.standing(db, car_id, car=True), act_of(wanted.act.model_dump()))


@router.get("/cars/{car_id}/geometry", response_model=GeometryView)
def see_geometry(db: Db, car_id: CarId, samples: Annotated[int, Query(ge=0, le=5000)] = 0) -> Response:
    """A car's geometry and the turns that bring it to its targets; with samples, how sure they are."""
    return shown(geometry.see_geometry(db, car_id, samples))


@router.post("/cars/{car_id}/what-if", response_model=TriedCar)
def try_out(db: Db, car_id: CarId, wanted: WhatIf) -> Response:
    """How the car would stand at other heights and with other turns; nothing is changed."""
    return shown(geometry.try_out(db, car_id, wanted))


@router.get("/cars/{car_id}/points")
def see_points(db: Db, car_id: CarId) -> list[PointsView]:
    """A car's points as far as they are read, wheel by wheel, to draw."""
    return corners.see_points(db, car_id)


@router.post("/cars/{car_id}/linkage", response_model=LinkageView)
def see_linkage(db: Db, car_id: CarId, wanted: LinkageWanted) -> Response:
    """One corner's lines in space, through travel and steer, as it is and with other turns; nothing is changed."""
    return shown(corners.see_linkage(db, car_id, wanted))


@router.post("/cars/{car_id}/copy", status_code=201, response_model=CarView)
def copy_car(db: Db, car_id: CarId, wanted: CarCopy) -> Response:
    """A new car with the same record."""
    return shown(cars.copy_car(db, car_id, wanted), 201)


@router.post("/cars/{car_id}/copy-side", status_code=201, response_model=CarView)
def copy_side(db: Db, car_id: CarId, wanted: SideCopy) -> Response:
    """Copy one side's arms and points to the other."""
    return shown(cars.copy_side(db, car_id, wanted), 201)


@router.get("/parts")
def list_parts(db: Db, limit: Limit = 200) -> list[ShelfPartView]:
    """Reusable parts by name."""
    return cars.parts_on_shelf(db, limit)


@router.post("/parts", status_code=201)
def shelve_part(db: Db, wanted: PartCreate) -> ShelfPartView:
    """Save a part of a car for use on others."""
    return cars.shelve_part(db, wanted)


@router.delete("/parts/{part_id}", status_code=204, dependencies=OWNER)
def remove_part(db: Db, part_id: Annotated[str, Path(pattern=r"^[0-9a-zA-Z-]{8,64}$")]) -> None:
    """Take a part off the shelf."""
    cars.take_off_shelf(db, part_id)


@router.post("/cars/{car_id}/fit-part", status_code=201, response_model=CarView)
def fit_part(db: Db, car_id: CarId, wanted: PartFit) -> Response:
    """Fit a part from the shelf."""
    return shown(cars.fit_part(db, car_id, wanted), 201)


@router.get("/cars/{car_id}/points.csv", response_class=Response)
def points_csv(db: Db, car_id: CarId) -> Response:
    """Points as CSV."""
    return download(cars.points_csv(db, car_id), "text/csv; charset=utf-8", "points.csv")


@router.post("/cars/{car_id}/points.csv", status_code=201, response_model=CarView)
def read_points(db: Db, car_id: CarId, key: Key, seen: Seen, table: Table) -> Response:
    """Take points from CSV."""
    return shown(cars.read_points(db, car_id, key, seen, table), 201)


@router.get("/cars/{car_id}/fasteners.csv", response_class=Response)
def fasteners_csv(db: Db, car_id: CarId) -> Response:
    """Fasteners as CSV."""
    return download(cars.fasteners_csv(db, car_id), "text/csv; charset=utf-8", "fasteners.csv")


@router.post("/cars/{car_id}/fasteners.csv", status_code=201, response_model=CarView)
def read_fasteners(db: Db, car_id: CarId, key: Key, seen: Seen, table: Table) -> Response:
    """Take fasteners from CSV."""
    return shown(cars.read_fasteners(db, car_id, key, seen, table), 201)
