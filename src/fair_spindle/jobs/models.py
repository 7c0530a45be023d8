"""What the interface is shown of a job, and what it may send: public models."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from fair_spindle.core.basics.wheels import Side
from fair_spindle.core.planning.template import Position
from fair_spindle.formats.acts import ActModel, Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import BookView, LoadsView, Title, View, WheelView


class JobCreate(Strict):
    """A new job; the id is chosen by the caller and makes the request repeatable.

    With ``car_id`` the car's record is taken over, and its last baseline to compare with.
    """

    id: Identity
    title: Title | Literal[""] = ""
    car: Title
    car_id: Identity | None = None


class Finished(Strict):
    """A step that is done with all its fasteners: a line of the log for each of them, and one for the step."""

    step: Text
    reason: Text = ""
    kind: Literal["finished"]


if TYPE_CHECKING:
    AskedAct = Strict
else:
    AskedAct = Annotated[ActModel | Finished, Field(discriminator="kind")]


class EventCreate(Strict):
    """A line to add to a job's log, or a step finished in one go.

    ``id`` is the idempotency key; ``seen`` the last line of the log the caller had seen; ``by`` the person who was
    picked on the device when it was made.
    """

    id: Identity
    seen: Annotated[int, Field(ge=0, le=1_000_000)]
    act: AskedAct
    by: Identity | Literal[""] = ""


class ReadRequest(Strict):
    """A filled-in field to be understood without saving it."""

    act: ActModel


class JobLine(View):
    """A job in the list."""

    id: str
    kind: str
    title: str
    car: str
    car_id: str | None
    created_at: str
    last_at: str
    entries: int
    signed: bool
    planned: bool


class TurnsView(View):
    """Turns as they are chalked."""

    turns: int
    flats: int
    back: bool
    total_flats: int
    said: str


class StepReadView(View):
    """A number that a step asks for: as it was read, what it stands beside, and the turns counted for it so far."""

    key: str
    label: str
    required: bool
    said: str
    beside: str
    counted: TurnsView | None


class WorksView(View):
    """What works by itself: the step that started it, from when it may be relied on, and when it is over."""

    title: str
    ready: datetime
    over: datetime


class StepView(View):
    """One step on the floor."""

    key: str
    title: str
    detail: str
    where: Position
    corner: Side | None
    carried_axle: Literal["front", "rear"]
    where_said: str
    tools: list[str]
    cautions: list[str]
    asks: str
    reads: list[StepReadView]
    told: list[str]
    together: str
    sides: list[Side]
    two_people: bool
    axle: Literal["", "front", "rear"]
    phase: int
    joints: list[str]
    goals: dict[str, str]
    why: list[str]
    school: str
    works: WorksView | None
    held: WorksView | None
    wrong_part: str
    reopens: list[str]
    state: Literal["open", "done", "skipped"]
    reason: str
    at: str
    why_not: str


class FindingView(View):
    """One thing found."""

    code: str
    severity: Literal["blocks", "open", "question", "note"]
    message: str
    subject: str
    ground: str


class NoteView(View):
    """Words written at a step."""

    text: str
    step: str
    at: str


class OverrideView(View):
    """A rule that was overridden; for ever on the record."""

    places: list[str]
    reason: str
    at: str


class SignatureView(View):
    """Who signed, and whether the log is still the same; ``whole`` where the seal covers title and car too."""

    name: str
    at: str
    digest: str
    intact: bool
    whole: bool
    listed: list[str]


class PictureView(View):
    """A picture attached to a step or a field."""

    subject: str
    sha256: str
    name: str
    at: str


class JobView(BookView):
    """Everything about a job as it stands."""

    kind: str
    practice: bool
    pages: list[str]
    car_id: str | None
    settled: bool
    walks: dict[str, list[str]]
    missing: dict[str, list[str]]
    before_from: str
    wheels: list[WheelView]
    loads: LoadsView | None
    pictures: list[PictureView]
    position: Position
    corner: Side | None
    carried_axle: str
    position_said: str
    steps: list[StepView]
    notes: list[NoteView]
    overrides: list[OverrideView]
    signature: SignatureView | None
