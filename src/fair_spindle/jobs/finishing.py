"""A step finished in one go: its fasteners brought to where it wants them, a line for each, then the step."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from fair_spindle.core.basics.errors import Conflict, NotAllowed
from fair_spindle.core.joblog.log import Act, Stepped
from fair_spindle.core.joblog.step_blockers import step_hindrance
from fair_spindle.core.joblog.together import acts_together, together
from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.append import fingerprint, write_act
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import said_before
from fair_spindle.records.database import Database


class FinishStep(Strict):
    """The step that is done with all its fasteners; ``id`` makes the request repeatable."""

    id: Identity
    seen: Annotated[int, Field(ge=0, le=1_000_000)]
    step: Text


def finish_step(database: Database, job_id: str, wanted: FinishStep) -> Standing:
    """Bring every fastener of a step to where it wants it, and say the step is done."""
    now = standing(database, job_id)
    first = f"{wanted.id[:56]}-000"
    if any(event.id == first for event in now.log):
        if said_before(database, job_id, first) != fingerprint(wanted.step):
            raise Conflict("Another step was finished under this id already.", field="id")
        return now
    step = now.template.step(wanted.step)
    if not together(step, now.state):
        raise NotAllowed(step_hindrance(step, now.state, now.template) or "This step has nothing to bring together.")
    seen = wanted.seen
    acts: tuple[Act, ...] = (*acts_together(step, now.state), Stepped(step.key))
    for place, act in enumerate(acts):
        now = write_act(database, job_id, f"{wanted.id[:56]}-{place:03}", seen, act, asked=wanted.step)
        seen = now.version
    return now
