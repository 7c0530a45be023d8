"""Acts of jobs begun before 0.2, read as those of today: fields renamed, groups as joints, corrections as turns.

They stay in the log as they were written; only what follows from them is told in today's words.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from fair_spindle.core.basics.wheels import SIDES
from fair_spindle.core.bolts.joint import BoltSpec, Joint
from fair_spindle.core.joblog.kinds import JobTemplate
from fair_spindle.core.joblog.log import (
    Act,
    Cleared,
    Counted,
    Drawn,
    Entered,
    Filled,
    Specified,
    Tightened,
    Turned,
    Worked,
)
from fair_spindle.core.joblog.state import JobState

OLD = Specified | Tightened


def as_today(act: Act, state: JobState, template: JobTemplate) -> tuple[Act, ...]:
    """The acts of today that an act stands for; itself where it is one of them."""
    names = template.renames
    match act:
        case Entered() | Cleared() if act.key in names:
            return tuple(replace(act, key=key) for key in names[act.key])
        case Filled() if any(entry.key in names for entry in act.entries):
            entries = (replace(entry, key=key) for entry in act.entries for key in names.get(entry.key, (entry.key,)))
            return (replace(act, entries=tuple(entries)),)
        case Counted(direction="correct"):
            return (Turned(f"{act.axle}.{act.side}", "Tie rod", act.flats),)  # type: ignore[arg-type]
        case Specified():
            return tuple(Drawn(_specified(joint, act)) for joint in _of_group(act.group, state))
        case Tightened():
            return tuple(of_places(act))
    return (act,)


def with_evidence(act: Act, accepted: Sequence[Act]) -> Act:
    """An old act with the evidence that the acts it stands for were accepted on."""
    first = accepted[0]
    if isinstance(act, Tightened) and isinstance(first, Worked):
        return replace(act, clamp=first.clamp, override=first.override)
    return act


def _of_group(group: str, state: JobState) -> Iterator[Joint]:
    keys = (f"{side}.{group}" for side in SIDES)
    yield from (state.joints[key] for key in keys if key in state.joints)


def _specified(joint: Joint, act: Specified) -> Joint:
    spec = BoltSpec(torque=act.torque, source=act.source, affirmed=act.affirmed)
    told = {"diameter_mm": act.diameter_mm, "pitch_mm": act.pitch_mm, "property_class": act.property_class}
    return replace(joint, bolts=tuple(replace(bolt, spec=spec, **told) for bolt in joint.bolts))  # type: ignore[arg-type]


def of_places(act: Tightened) -> Iterator[Worked]:
    """Each joint's part of it, as it is written today."""
    places: dict[str, list[int]] = {}
    for place in act.places:
        joint, _, number = place.rpartition(".")
        places.setdefault(joint, []).append(int(number) if number.isdigit() else 0)
    for joint, numbers in places.items():
        yield Worked(
            joint,
            tuple(numbers),
            act.to,
            act.reading,
            by_feel=act.by_feel,
            override=act.override,
            clamp=act.clamp,
            at_height_mm=act.clamp.height_mm if act.clamp else None,
        )
