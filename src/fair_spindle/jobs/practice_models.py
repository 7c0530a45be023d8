"""What the practice bay answers and takes."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from fair_spindle.formats.acts import Strict
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import Title, View

BayLayout = Literal[
    "strut",
    "double_wishbone",
    "five_link",
    "trailing_lateral",
    "semi_trailing",
    "twist_beam",
    "solid_links",
    "solid_leaf",
]


class TryView(View):
    """One time an exercise was done; no score until somebody looked at its end."""

    job_id: str
    at: str
    by: str
    bare: bool
    seed: int
    score: int | None


class ExerciseView(View):
    """An exercise, and how it went when it was last done."""

    key: str
    title: str
    learn: str
    brief: str
    minutes: int
    tries: list[TryView]


class BeginPractice(Strict):
    """Begin an exercise; the same seed gives the same car. In ``bare`` mode the rules only watch.

    ``layouts`` are other axles than the exercise's own, by axle.  The exercise ``own_car`` puts a copy of a ``car``
    of the workshop in the bay, to do the ``work``.
    """

    id: Identity
    exercise: Title
    seed: int = Field(ge=1, le=999_999)
    bare: bool = False
    layouts: dict[Literal["front", "rear"], BayLayout] = Field(default_factory=dict)
    car: Identity | Literal[""] = ""
    work: Literal["align", "springs"] = "align"


class BegunView(View):
    """The job of an exercise that was begun."""

    job_id: str


class ReadWithGauges(Strict):
    """Read fields with the gauges of the bay; with no ``keys`` all that the job still asks and a gauge can tell."""

    id: Identity
    keys: list[Title] = Field(default_factory=list, max_length=60)
    by: str = ""


class CornerSeen(View):
    """A corner as the bay is drawn: how far up the body is there [mm], and where the wheel heads, ten times as far
    in as it is [°]."""

    wheel: str
    rise: float
    heading: float


class BayPicture(View):
    """A practice job's words and how its car looks from where one stands: nothing of it is a reading.

    ``steering`` is how far the steering wheel stands off as it runs straight, clockwise positive, to 2°.
    """

    exercise: str
    title: str
    brief: str
    learn: str
    minutes: int
    bare: bool
    seed: int
    paper: str
    steering: float
    corners: list[CornerSeen]
    readable: int


class ShareView(View):
    """A part of a miss; ``drawn`` is what it takes of its bar's length."""

    cause: str
    value: float
    drawn: float


class DebriefRow(View):
    """One angle or height of a wheel, or the cross weight, beside its truth; ``off`` is how far from what was wanted
    it ended, ``drawn`` where that is along its bar."""

    where: str
    what: str
    unit: str
    wanted: float | None
    truth: float
    off: float
    drawn: float
    read: float | None
    shares: list[ShareView]


class DebriefView(View):
    """What came of an exercise."""

    title: str
    learn: str
    score: int | None
    rule: str
    rows: list[DebriefRow]
    steering_before: float
    steering_after: float
    wound: list[str]
    shackles: list[str]
    wrench: str
    faults: list[str]
    minutes_taken: float
    minutes_given: int
    pays_most: str
