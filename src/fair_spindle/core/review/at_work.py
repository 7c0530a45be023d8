"""What the steps of a job read for themselves: each number beside the one it is compared with."""

from __future__ import annotations

from math import hypot

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.fields.catalogue import reading_field
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.readings import Quantity, read_entry
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.planning.template import Reading


@value_object
class AtWork:
    """A number read at a step, by its field; ``before`` is the field it stands beside, where that was read too."""

    key: str
    before: str = ""
    change: Quantity | None = None


def read_at_work(state: JobState, template: JobTemplate) -> list[AtWork]:
    """Every number that a step asked for and was given, in the order of the steps; a pair in one row."""
    read = {read.key: read for read in template.reads if read.key in state.entries}
    beside = {key: key.removesuffix(one.name) + one.beside for key, one in read.items() if one.beside}
    shown_beside = {other for other in beside.values() if other in read}
    rows = []
    for key in read:
        if key in shown_beside:
            continue
        other = beside.get(key, "")
        rows.append(AtWork(key, other, _change(read, key, other, state)) if other in read else AtWork(key))
    return rows


def _change(read: dict[str, Reading], key: str, other: str, state: JobState) -> Quantity | None:
    after, before = (read_entry(state.entries[one].act, reading_field(read[one])) for one in (key, other))
    if not (isinstance(after, Quantity) and isinstance(before, Quantity)):
        return None
    return Quantity(after.value - before.value, hypot(after.uncertainty, before.uncertainty))
