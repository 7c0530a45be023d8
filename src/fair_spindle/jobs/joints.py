"""Joints on the screen: their maps, where every place stands, what is next; what is checked again after the drive."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache

from pydantic_core import to_jsonable_python

from fair_spindle.core.basics.errors import NotAllowed
from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import from_core
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.bolts.joint_patterns import Pattern, places_of
from fair_spindle.core.bolts.stages import STAGES, WorkStage, has_reached
from fair_spindle.core.bolts.tightening import ORDERS
from fair_spindle.core.joblog.bolt_needs import (
    alike_next,
    find_joint,
    following,
    is_final,
    next_work,
    order_of,
    to_set,
    waits_for_load,
)
from fair_spindle.core.joblog.bolt_state import BoltState, bolt_key
from fair_spindle.core.joblog.joint_maps import Change, changed_places, other_side_of
from fair_spindle.core.joblog.loading import height_gate, say_window
from fair_spindle.core.joblog.log import Adapter, Drawn
from fair_spindle.core.joblog.plain import build, plain
from fair_spindle.core.joblog.state import JobState
from fair_spindle.core.predict.bolted import doubts_of, strain_of, swapped
from fair_spindle.core.predict.clamping import Pivot, WoundUp, say_lift, say_twist
from fair_spindle.formats.calendar_file import write_calendar
from fair_spindle.jobs import joints_models as m
from fair_spindle.jobs.append import write_act
from fair_spindle.jobs.book import standing
from fair_spindle.jobs.book_models import TypedView
from fair_spindle.jobs.book_views import show_typed
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_spec, say_typed
from fair_spindle.records.database import Database

DRAWINGS_KEPT = 2048
RECHECK_DAYS = 7
RECHECK_WORDS = "after the first 100 km, or within a week"
TRUST = {"maker": "maker's data", "part_maker": "part maker's sheet", "second_hand": "second hand", "": ""}


def see_joints(
    database: Database, book_id: str, adapter: Adapter | None = None, *, car: bool = False
) -> m.JointsView:
    """Every joint of a job or a car's record; what to set, with what is on the wrench."""
    now = standing(database, book_id, car=car)
    state = now.state
    return m.JointsView(
        joints=[show_joint(joint, now, adapter) for joint in state.joints.values()],
        overrides=[f"{', '.join(o.places)}: {o.reason}" for o in state.overrides],
        recheck=recheck_lines(now),
    )


def recheck_lines(now: Standing) -> list[str]:
    """What is to be checked again, and when."""
    return [f"{summary}, {RECHECK_WORDS}" for _, _, summary, _ in _rechecks(now)]


def rechecks_due(now: Standing) -> list[tuple[date, str]]:
    """What is to be checked again: the day, and which joint."""
    return [(day, summary) for _, day, summary, _ in _rechecks(now)]


def keep_joint(database: Database, job_id: str, wanted: m.KeepJoint) -> m.JointsView:
    """Write a joint's map into the car's record, so that the next job on the car begins with it."""
    now = standing(database, job_id)
    joint = find_joint(now.state, wanted.joint)
    if not now.book.car_id:
        raise NotAllowed("This job was started without a car's record: there is nothing to keep it in.")
    record = standing(database, now.book.car_id, car=True)
    kept = Drawn(joint)
    write_act(database, now.book.car_id, wanted.id, record.version, kept, car=True, asked=wanted.model_dump())
    return see_joints(database, job_id)


def change_places(database: Database, job_id: str, wanted: m.ChangePlaces) -> Standing:
    """Change some places of a joint in what was edited alone, and the other side's where that is wanted."""
    now = standing(database, job_id)
    joint = find_joint(now.state, wanted.joint)
    change = Change(
        torque=build(Typed, wanted.torque.model_dump()) if wanted.torque else None,
        **wanted.model_dump(exclude={"id", "seen", "joint", "places", "other_side", "torque"}),
    )
    asked = wanted.model_dump(exclude={"seen"})
    mine = Drawn(changed_places(joint, wanted.places, change))
    after = write_act(database, job_id, wanted.id, wanted.seen, mine, asked=asked)
    other = other_side_of(joint, now.state)
    if wanted.other_side and other:
        numbers = [bolt.number for bolt in other.bolts if bolt.number in wanted.places]
        act = Drawn(changed_places(other, numbers, change.both_sides()))
        after = write_act(database, job_id, f"{wanted.id[:58]}-other", after.version, act, asked=asked)
    return after


def lay_out(pattern: Pattern, count: int, width: float, height: float) -> m.LaidOutView:
    """Places of a ready pattern."""
    return m.LaidOutView(places=[list(place) for place in places_of(pattern, count, width, height)])


def recheck_calendar(database: Database, job_id: str) -> bytes:
    """What is to be checked again after the drive, as a calendar file."""
    now = standing(database, job_id)
    made = datetime.fromisoformat(now.log[-1].at.replace("Z", "+00:00")) if now.log else datetime.now(UTC)
    return write_calendar(f"{now.book.car}: {now.book.title}", _rechecks(now), made)


def _rechecks(now: Standing) -> list[tuple[str, date, str, str]]:
    found = []
    for joint in now.state.joints.values():
        states = [now.state.bolts.get(bolt_key(joint.key, bolt.number), BoltState()) for bolt in joint.bolts]
        seqs = [state.seq for bolt, state in zip(joint.bolts, states, strict=True) if is_final(bolt, state)]
        if not seqs or all(state.stage == "rechecked" for state in states):
            continue
        at = datetime.fromisoformat(now.log[max(seqs) - 1].at.replace("Z", "+00:00"))
        day = at.date() + timedelta(days=RECHECK_DAYS)
        words = f"{len(seqs)} of {len(joint.bolts)} places; {RECHECK_WORDS}."
        found.append((f"{now.book.id}-{joint.key}@fair-spindle", day, f"Check again: {joint.label}", words))
    return found


def show_joint(joint: Joint, now: Standing, adapter: Adapter | None = None) -> m.JointView:
    """A joint's places and what comes next; what to set, with what is on the wrench."""
    state = now.state
    standing_of = {
        bolt.number: state.bolts.get(bolt_key(joint.key, bolt.number), BoltState()) for bolt in joint.bolts
    }
    evidence, gate, window = None, "", None
    pivots, missing = now.pivots if waits_for_load(joint, state) else ({}, {})
    if waits_for_load(joint, state):
        window = pivots[joint.key].window if joint.key in pivots else None
        evidence, gate = height_gate(joint.axle, joint.side, state, window, missing.get(joint.key, ""))
    return m.JointView.of(
        joint,
        order_said=ORDERS[joint.order],
        order=[joint.bolts[place].number for place in order_of(joint)],
        passes_pct=list(joint.passes_pct),
        waits_for_load=waits_for_load(joint, state),
        gate_open=evidence is not None,
        gate=gate,
        height_mm=state.loaded_heights.get(f"{joint.axle}.{joint.side}"),
        window_mm=list(window) if window else [],
        window_usual=USUAL_ARM if joint.key in pivots and pivots[joint.key].usual else "",
        asked=_asked(joint, now) if waits_for_load(joint, state) and evidence is None else [],
        bolts=[_bolt(bolt, standing_of[bolt.number]) for bolt in joint.bolts],
        done=sum(is_final(bolt, standing_of[bolt.number]) for bolt in joint.bolts),
        next=_next(joint, state, adapter),
        redo=[_redo(one, joint, state, now.pivots[0]) for one in now.wound if one.joint == joint.key],
        swapped=swapped(joint),
        map=_map_of(joint),
    )


USUAL_ARM = "By a middling arm: its own length and rise, read by tape with the car on its wheels, widen it."


def _asked(joint: Joint, now: Standing) -> list[str]:
    """Fields that would make the clamp window known, or wider, as far as they can still be read where the car
    stands."""
    if now.state.position != "on_wheels":
        return []
    where = f"{joint.axle}.{joint.side or 'left'}"
    names = (f"{where}.height", f"{where}.{joint.arm}.length", f"{where}.{joint.arm}.rise")
    return [key for key in names if key in now.sheet.fields and key not in now.readings.quantities]


@by_identity(most=DRAWINGS_KEPT)
def _map_of(joint: Joint) -> m.JointModel:
    """What is drawn, as it is written; few joints of a job change from line to line."""
    return m.JointModel.model_validate(to_jsonable_python(plain(Drawn(joint))["joint"]))


def _is_at(bolt: Bolt, now: BoltState, stage: WorkStage) -> bool:
    """Whether a place has come as far as a step wants it; torqued means final there."""
    return has_reached(now.stage, stage) and (stage != "torqued" or is_final(bolt, now))


@lru_cache(maxsize=4096)
def _bolt(bolt: Bolt, now: BoltState) -> m.BoltView:
    drive = " / ".join(filter(None, (bolt.head, f"nut {bolt.nut}" if bolt.nut else "")))
    return m.BoltView.of(
        bolt,
        thread=say_thread(bolt),
        drive=drive,
        spec=say_spec(bolt.spec),
        source=bolt.spec.source if bolt.spec else "",
        trust=TRUST[bolt.spec.trust] if bolt.spec else "",
        condition=bolt.condition.replace("_", "-"),
        lock=bolt.lock.replace("_", " "),
        angle_deg=bolt.spec.angle_deg if bolt.spec else 0.0,
        stage=now.stage or "",
        reached=[one for one in STAGES if _is_at(bolt, now, one)],
        then=following(bolt, now),
        said=say_state(now),
        final=is_final(bolt, now),
        doubts=doubts_of(bolt),
        strain=say_strain(bolt),
    )


def say_thread(bolt: Bolt) -> str:
    """Thread, length and property class."""
    thread = f"M{bolt.diameter_mm:g}×{bolt.pitch_mm:g}" if bolt.diameter_mm else ""
    length = f"×{bolt.length_mm:g}" if thread and bolt.length_mm else ""
    return " ".join(filter(None, (f"{thread}{length}", bolt.property_class)))


def say_strain(bolt: Bolt) -> str:
    """The tension that the value makes, and its share of the proof load."""
    strain = strain_of(bolt)
    if strain is None:
        return ""
    open_ = strain.force * strain.plus_minus / strain.share
    assumed = "" if bolt.property_class else f" of class {strain.grade} (assumed)"
    yields = " Past it: as such bolts may be meant to; take new ones." if strain.share > 1 else ""
    return (
        f"about {strain.force / 1000:.0f} ± {open_ / 1000:.0f} kN, {100 * strain.share:.0f} ± "
        f"{100 * strain.plus_minus:.0f} % of proof load{assumed}{'.' if yields else ''}{yields}"
    )


def say_state(now: BoltState) -> str:
    """Where a place stands."""
    if now.stage is None:
        return "as found"
    parts = [STAGES[now.stage].said]
    if now.by_feel:
        parts.append(f"by feel: {now.by_feel}")
    elif now.torque is not None:
        own = f"{from_core(now.torque, 'nm'):.0f} N·m"
        parts.append(f"{own} at the bolt ({say_typed(now.reading)} read)" if now.adapter else say_typed(now.reading))
    if now.percent and now.percent < 100:
        parts.append(f"pass of {now.percent} %")
    if now.angle:
        parts.append(f"{now.angle:g}° on")
    if now.clamp and now.clamp.height_mm:
        parts.append(f"at {now.clamp.height_mm:.0f} mm{', settled on its wheels' if now.clamp.on_wheels else ''}")
    elif now.clamp:
        parts.append("settled on its wheels")
    if now.override:
        parts.append(f"OVERRIDE: {now.override}")
    return ", ".join(parts)


def _next(joint: Joint, state: JobState, adapter: Adapter | None) -> m.NextView:
    work = next_work(joint, state)
    if work.to is None:
        return m.NextView(
            to="", said="✓ every place is final", number=None, percent=100, set_nm=None, set_said="", angle_deg=0.0
        )
    bolt = next(bolt for bolt in joint.bolts if bolt.number == work.number)
    torque = to_set(bolt.spec, work.percent, adapter) if bolt.spec and work.to == "torqued" else None
    number = None if torque is None else from_core(torque, "nm")
    tail = " with the adapter" if adapter else ""
    return m.NextView.of(
        work,
        said=f"Place {work.number}: {STAGES[work.to].order}"
        + (f", pass of {work.percent} %" if work.percent < 100 else ""),
        alike=list(alike_next(joint, state)),
        specified=_specified(bolt, work.percent, adapter),
        set_nm=number,
        set_said="" if number is None else f"set the wrench to {number:.1f} N·m{tail}",
        angle_deg=bolt.spec.angle_deg if bolt.spec and work.to == "angled" else 0.0,
    )


def _specified(bolt: Bolt, percent: int, adapter: Adapter | None) -> TypedView | None:
    """What a wrench reads that clicks at the place's value; as it was typed where it can be."""
    spec = bolt.spec
    if spec is None or spec.torque is None:
        return None
    if percent == 100 and spec.torque_to is None and adapter is None:
        return show_typed(spec.torque)
    number = to_set(spec, percent, adapter)
    return None if number is None else TypedView(text=f"{from_core(number, 'nm'):.1f}", unit="nm")


def _redo(one: WoundUp, joint: Joint, state: JobState, pivots: Mapping[str, Pivot]) -> m.RedoView:
    """How a bolt that was clamped off height is put right, step by step."""
    between = say_window(pivots[joint.key].window)
    lift = "" if one.lift is None else f"; its corner is lifted by {say_lift(one)} by all of them together"
    return m.RedoView(
        number=one.number,
        said=f"Clamped at {one.height:.0f} mm: wound up by {say_twist(one)}{lift}.",
        steps=[
            "On its wheels, or the corner carried, loosen this bolt",
            "Roll the car a length and back, bounce it: the rubber finds its place",
            f"Read the height: between {between} mm hub to arch",
            "Started by hand, snug, torqued again, with a new bolt where it is single-use",
        ],
    )
