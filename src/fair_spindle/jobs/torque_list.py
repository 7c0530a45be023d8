"""A pasted torque list: read and matched to the job's places, shown with what it asks, then taken."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from pydantic import Field

from fair_spindle.core.basics.errors import InputError, NotFound
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.joblog.listed_places import listed_places
from fair_spindle.core.joblog.log import Drawn
from fair_spindle.core.joblog.torque_list import ListMatch, ListRow, as_list, groups_of, listed, match_list, read_list
from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.append import accept, write_acts
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import View
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_typed
from fair_spindle.records.database import Database

Pasted = Annotated[str, Field(min_length=1, max_length=20_000)]


class TorqueList(Strict):
    """A list as it was pasted; ``unit`` is meant where a row names none."""

    text: Pasted
    unit: Text = "nm"


class OwnListView(View):
    """The car's own listed fasteners as the text of a list, with their source; empty where none has a value."""

    text: str
    source: str


class LineOfList(Strict):
    """The joints that a line of the list is for."""

    line: int
    joints: Annotated[list[Text], Field(min_length=1, max_length=2)]


class TakeTorques(TorqueList):
    """A list with what was decided; lines left out are not taken."""

    id: Identity
    seen: Annotated[int, Field(ge=0, le=1_000_000)]
    source: Text
    chosen: Annotated[list[LineOfList], Field(min_length=1, max_length=200)]


class PlaceView(View):
    """Joints that a row can belong to, both sides together."""

    joints: list[str]
    label: str


class TorqueRowView(View):
    """A row as it was read, the joints it fits alone, and what has to be asked."""

    line: int
    text: str
    said: str
    joints: list[str]
    fits: list[str]
    question: str


class TorqueListView(View):
    """What a list says, and the places there are."""

    rows: list[TorqueRowView]
    places: list[PlaceView]


def own_list(database: Database, job_id: str) -> OwnListView:
    """The list that stands in the car's record."""
    now = standing(database, job_id)
    if not now.book.car_id:
        return OwnListView(text="", source="")
    record = standing(database, now.book.car_id, car=True).state
    apart = {key: joint for key, joint in record.joints.items() if key not in now.state.joints}
    rows = [row for row, _ in listed_places(replace(record, joints=apart)) if row.torque]
    sources = dict.fromkeys(row.source for row in rows if row.source)
    return OwnListView(text=as_list(rows), source="; ".join(sources)[:200] or "the car's list")


def preview_torques(database: Database, job_id: str, wanted: TorqueList) -> TorqueListView:
    """Read a list and match it; nothing is written."""
    now = standing(database, job_id)
    labels = {keys: _label(keys, now) for keys in groups_of(now.state)}
    matches = match_list(read_list(wanted.text, wanted.unit), now.state)
    return TorqueListView(
        rows=[_shown(match, labels) for match in matches],
        places=[PlaceView(joints=list(keys), label=label) for keys, label in labels.items()],
    )


def take_torques(database: Database, job_id: str, wanted: TakeTorques) -> Standing:
    """Write the values of the lines that were decided, a line of the log for each joint; all of them or none."""
    now = standing(database, job_id)
    if not wanted.source.strip():
        raise InputError("Say where the list stands: a value without its source is not taken.", field="source")
    rows = {row.line: row for row in read_list(wanted.text, wanted.unit)}
    acts = [
        Drawn(listed(_joint(key, now), _row(one.line, rows), wanted.source.strip()))
        for one in wanted.chosen
        for key in one.joints
    ]
    if len({act.joint.key for act in acts}) < len(acts):
        raise InputError("Two lines are for the same place. Leave one of them out.", field="chosen")
    for act in acts:
        accept(act, now)
    asked = wanted.model_dump(exclude={"seen"})
    return write_acts(database, job_id, wanted.id, wanted.seen, acts, asked=asked)


def _row(line: int, rows: dict[int, ListRow]) -> ListRow:
    if line not in rows or rows[line].torque is None:
        raise InputError(f"Line {line} of the list has no value that was read.", field="chosen")
    return rows[line]


def _joint(key: str, now: Standing) -> Joint:
    if key not in now.state.joints:
        raise NotFound(f"There is no joint {key!r} in this job.", field="chosen")
    return now.state.joints[key]


def _label(keys: tuple[str, ...], now: Standing) -> str:
    label = now.state.joints[keys[0]].label
    return f"{label} and right" if len(keys) > 1 else label


def _shown(one: ListMatch, labels: dict[tuple[str, ...], str]) -> TorqueRowView:
    row = one.row
    parts = [say_typed(row.torque) if row.torque else ""]
    parts += [f"to {say_typed(row.torque_to)}"] if row.torque_to else []
    parts += [f"+ {row.angle_deg:g}°"] if row.angle_deg else []
    return TorqueRowView(
        line=row.line,
        text=row.text,
        said=" ".join(filter(None, parts)),
        joints=list(one.joints),
        fits=[labels[keys] for keys in one.fits],
        question=one.question,
    )
