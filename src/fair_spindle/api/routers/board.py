"""The workshop's board, the list over every job, and the day laid out."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Query, Response

from fair_spindle.api.dependencies import Db, JobId
from fair_spindle.api.downloads import download
from fair_spindle.api.gate import OWNER
from fair_spindle.jobs import board
from fair_spindle.jobs.board import BoardView, DayView, NeedView, PassingView

router = APIRouter(prefix="/api", tags=["board"])
Begin = Annotated[datetime | None, Query(description="When work begins; now where it is left out.")]
People = Annotated[int | None, Query(ge=1, le=12)]


def _hour(begin: datetime | None) -> datetime:
    found = begin or datetime.now(UTC)
    return found if found.tzinfo else found.replace(tzinfo=UTC)


@router.get("/board")
def see_board(db: Db) -> BoardView:
    """Every car in work: where it stands, what is next, what is loose, what is due."""
    return board.see_board(db)


@router.get("/board/needs")
def see_needs(db: Db) -> list[NeedView]:
    """What to buy, lay out and book for every job in work."""
    return board.see_needs(db)


@router.get("/board/needs.csv", response_class=Response)
def needs_csv(db: Db) -> Response:
    """The same as a table."""
    return download(board.needs_csv(db), "text/csv; charset=utf-8", "needs.csv")


@router.get("/board/day")
def see_day(db: Db, begin: Begin = None, people: People = None) -> DayView:
    """Every planned job in work laid out over one day."""
    return board.see_day(db, _hour(begin), people)


@router.post("/demo", status_code=201, dependencies=OWNER)
def fill_with_demo(db: Db) -> BoardView:
    """Put the sample workshop into an empty one."""
    board.only_when_empty(db)
    # Read only when wanted: the demo brings in much that no other request needs.
    from fair_spindle.demo.workshop import fill

    fill(db)
    return board.see_board(db)


@router.get("/jobs/{job_id}/clock")
def see_clock(db: Db, job_id: JobId, begin: Begin = None, people: People = 1) -> list[PassingView]:
    """When a job gets where: raised, loaded, on its wheels again, done."""
    return board.see_clock(db, job_id, _hour(begin), people or 1)
