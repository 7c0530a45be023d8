"""The list of a car's fasteners: the places of its joints in rows, and rows put into their joints.

A row tells what a place is, where it sits and what it is tightened to; a joint it names by label, axle and side is
that joint, drawn or not.  Nothing is kept twice.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from itertools import count

from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.joblog.bolt_state import bolt_key
from fair_spindle.core.joblog.log import Fastener
from fair_spindle.core.joblog.state import JobState

# Places of a joint that nobody drew stand in a row. [mm]
APART = 60.0
LISTED = "listed"


def listed_places(state: JobState) -> Iterator[tuple[Fastener, Bolt]]:
    """Every place of every joint as a row and as it is, under the key it was listed by, else by joint and number."""
    keys = {place: key for key, place in state.listed.items()}
    for joint in state.joints.values():
        for bolt in joint.bolts:
            spec = bolt.spec
            row = Fastener(
                keys.get((joint.key, bolt.number), bolt_key(joint.key, bolt.number)),
                joint.label,
                bolt.number,
                joint.axle,
                joint.side,
                bolt.diameter_mm,
                bolt.pitch_mm,
                bolt.length_mm,
                bolt.property_class,
                bolt.head,
                spec.torque if spec else None,
                bolt.condition,
                bolt.single_use,
                spec.source if spec else "",
            )
            yield row, bolt


def drawn_joints(state: JobState) -> tuple[Joint, ...]:
    """Joints that somebody drew; one that only a list tells is matched to a job's own places instead."""
    return tuple(joint for joint in state.joints.values() if not joint.key.startswith(f"{LISTED}."))


def with_row(state: JobState, row: Fastener) -> JobState:
    """The joints with a row's place in them; where the row stood elsewhere before, it stands there no longer."""
    place = place_of(state, row.key)
    joint = _joint_of(row, state)
    if place is not None and place != (joint.key, row.place):
        state = without_row(state, row.key)
        joint = _joint_of(row, state)
    old = next((bolt for bolt in joint.bolts if bolt.number == row.place), None)
    fresh = _bolt(row, old or Bolt(row.place, (row.place - 1) * APART))
    bolts = sorted((*(bolt for bolt in joint.bolts if bolt is not old), fresh), key=lambda one: one.number)
    joints = {**state.joints, joint.key: replace(joint, bolts=tuple(bolts))}
    return replace(state, joints=joints, listed={**state.listed, row.key: (joint.key, row.place)})


def without_row(state: JobState, key: str) -> JobState:
    """The joints without a row's place; a joint without places is gone."""
    place = place_of(state, key)
    if place is None:
        return state
    joint = state.joints[place[0]]
    bolts = tuple(bolt for bolt in joint.bolts if bolt.number != place[1])
    others = {name: one for name, one in state.joints.items() if name != joint.key}
    joints = {**others, joint.key: replace(joint, bolts=bolts)} if bolts else others
    return replace(state, joints=joints, listed={name: at for name, at in state.listed.items() if at != place})


def place_of(state: JobState, key: str) -> tuple[str, int] | None:
    """Joint and number of a row; None where nothing of that key is there."""
    joint, _, number = key.rpartition(":")
    place = state.listed.get(key) or ((joint, int(number)) if number.isdigit() else ("", 0))
    known = state.joints.get(place[0])
    return place if known and any(bolt.number == place[1] for bolt in known.bolts) else None


def _joint_of(row: Fastener, state: JobState) -> Joint:
    alike = (row.group, row.axle, row.side)
    found = (joint for joint in state.joints.values() if (joint.label, joint.axle, joint.side) == alike)
    if joint := next(found, None):
        return joint
    slug = re.sub(r"[^a-z0-9]+", "-", row.group.lower())[:40]
    key = ".".join(filter(None, (LISTED, row.axle, row.side, slug)))
    free = next(one for n in count(1) if (one := key if n == 1 else f"{key}-{n}") not in state.joints)
    return Joint(free, row.group, "bracket", (), row.axle, row.side, "row", pattern="row")


def _bolt(row: Fastener, old: Bolt) -> Bolt:
    """A place as a row tells it; what a row has no column for stays."""
    spec = replace(old.spec or BoltSpec(), torque=row.torque, source=row.source)
    return replace(
        old,
        diameter_mm=row.diameter_mm,
        pitch_mm=row.pitch_mm,
        length_mm=row.length_mm,
        property_class=row.property_class,
        head=row.drive,
        condition=row.condition,
        single_use=row.single_use,
        spec=spec if row.torque or spec.angle_deg or spec.stretch_mm else None,
    )
