"""What the planner shows and takes: procedures, plans, questions."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from fair_spindle.core.planning.lists import Listing, Remark
from fair_spindle.core.planning.procedure import Brief
from fair_spindle.formats.acts import Strict, model_of
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import ChoiceView, View

if TYPE_CHECKING:
    BriefModel = Strict
    ListingView = Strict
    RemarkView = Strict
else:
    BriefModel, ListingView, RemarkView = map(model_of, (Brief, Listing, Remark))
ProcedureKey = Annotated[str, Field(pattern=r"^[a-z0-9_]{2,40}$")]


class TryPlan(Strict):
    """A brief to be planned without writing anything."""

    brief: BriefModel


class TakePlan(TryPlan):
    """A brief whose plan is to be written into the job; ``id`` and ``seen`` as for any line of its log."""

    id: Identity
    seen: Annotated[int, Field(ge=0, le=1_000_000)]


class SaveProcedure(TryPlan):
    """An edited plan to be kept as a procedure of the workshop's own."""

    key: ProcedureKey
    title: Annotated[str, Field(min_length=2, max_length=120)]
    seen: int = 0


class MapPartView(View):
    """A part on the drawing of its axle: lines in a box of 100 by 100, from above and from the side; its work."""

    key: str
    sort: str
    label: str
    line: list[list[float]]
    side_line: list[list[float]]
    work: list[str]
    joints: list[str]
    carries: str
    along: str
    moves: str
    shared: bool


class AxleMapView(View):
    """An axle to pick from; no parts where its layout is not told, which can be one of ``choices``."""

    axle: str
    layout: str
    choices: list[ChoiceView]
    parts: list[MapPartView]


class PartCheckView(View):
    """What is compared between old part and new."""

    key: str
    label: str
    compare: Literal["length", "thread", "hand", "count", "fit"]
    hint: str


class ProcedureView(View):
    """A kind of job in the list; ``sought`` is all it is found by, ``named`` what of it is its own name."""

    key: str
    title: str
    about: str
    named: str
    sought: str
    axles: list[Literal["front", "rear"]]
    by_side: bool
    fits: bool
    why_not: str
    own: bool
    version: int
    operations: int
    checks: list[PartCheckView]


class QuestionView(View):
    """A question that decides what is done; ``told`` where the user answered it."""

    fitting: int
    key: str
    label: str
    choices: list[ChoiceView]
    answer: str
    told: bool


class SchoolView(View):
    """Where practitioners differ: the question, the ways, the one that decides."""

    key: str
    question: str
    ways: list[ChoiceView]
    way: str
    said: str


class PlanStepView(View):
    """A step of a plan, with what gave it its place."""

    key: str
    title: str
    detail: str
    where_said: str
    where: Literal["on_wheels", "hanging", "corner_carried"]
    phase: int
    tools: list[str]
    cautions: list[str]
    minutes: str
    wait: str
    two_people: bool
    why: list[str]
    by: list[str]
    school: str
    may_go: bool


class ForeseenView(View):
    """One thing the plan will know or not; for what it will not, the fields that would tell it."""

    what: str
    known: bool
    said: str
    fields: list[str]
    minutes: int


class PlanView(View):
    """A work order: steps, lists, questions, remarks, schools, time."""

    steps: list[PlanStepView]
    lists: list[ListingView]
    sizes: list[str]
    questions: list[QuestionView]
    remarks: list[RemarkView]
    schools: list[SchoolView]
    fittings: list[str]
    time_said: str
    wait_said: str
    raises: int
    helper: bool
    foreseen: list[ForeseenView]
    taken: bool


class PlanOfJobView(View):
    """The brief a job was planned from, the procedures there are, and the plan."""

    brief: BriefModel
    procedures: list[ProcedureView]
    plan: PlanView | None


class ProcedurePreview(View):
    """What reading a procedure file did or would do."""

    key: str
    title: str
    operations: int
    outcome: Literal["new", "same", "changed"]
    version: int
    applied: bool
    said: str


class StopView(View):
    """How the car was left for the night."""

    position: str
    loose: list[str]
    begun: list[str]
    next_step: str
    may_be_driven: bool
    note: str
    at: str


class ConsequencesView(View):
    """What would no longer hold."""

    lost: list[str]
