"""The work order: steps in order with their reasons, what to lay out and buy, how long it takes, what to ask."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Literal, cast

from fair_spindle.core.basics.errors import NotFound
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import AXLES, Side
from fair_spindle.core.bolts.joint import Bolt, Joint
from fair_spindle.core.bolts.joint_patterns import places_of
from fair_spindle.core.planning.bay import Bay, judge_bay
from fair_spindle.core.planning.lists import Listing, Remark
from fair_spindle.core.planning.part_checks import judge_parts
from fair_spindle.core.planning.places import Placed, fastenings_at, spots_of
from fair_spindle.core.planning.placing import Known, place_all, record_field, recorded_answer
from fair_spindle.core.planning.precedence import Edge, Ordering, bushings_of, order_by_rules
from fair_spindle.core.planning.procedure import Choice, Fastening, Procedure, holds
from fair_spindle.core.planning.schools import say_school
from fair_spindle.core.planning.sequence import sequence
from fair_spindle.core.planning.states import ON_WHEELS, by_axle, demand, over_wheels
from fair_spindle.core.planning.template import JointGoal, Position, Reading, Step
from fair_spindle.core.springs.rubber import BONDED_KINDS

MOST_REASONS = 4
SPACING = 60.0


@value_object
class Question:
    """What has to be asked: of which fitting, the choices, and what is assumed until it is answered."""

    fitting: int
    key: str
    label: str
    choices: tuple[Choice, ...]
    answer: str
    told: bool


@value_object
class WorkOrder:
    """Everything the planner says; ``minutes`` of work from and to, ``wait_h`` that nothing can fill."""

    steps: tuple[Step, ...]
    joints: tuple[Joint, ...]
    lists: tuple[Listing, ...]
    questions: tuple[Question, ...]
    remarks: tuple[Remark, ...]
    minutes: tuple[float, float]
    wait_h: tuple[float, float]
    raises: int
    helper: bool


def plan_work(known: Known) -> WorkOrder:
    """Plan a job from what is fitted.

    Fewest raises; shared steps once; each step with the reasons for its place.

    Raises NotFound, InputError, Inconsistent: As :func:`place_all` and :func:`order_by_rules`; a dropped step that is
    not there.

    Common practice, no published source.

    Examples
    --------
    >>> from fair_spindle.core.planning.procedure import Brief, Fitting, Library, Operation
    >>> moves = tuple(Operation(f"move_{way}", way, 9) for way in ("hanging", "carried", "on_wheels"))
    >>> library = Library(Procedure("common", "", "", operations=moves), {"a": Procedure(
    ...     "a", "A", "", operations=(Operation("x", "X", 6, per="car"),))})
    >>> [step.key for step in plan_work(Known(Brief((Fitting("a"),)), library, {}, {})).steps]
    ['raise.1', 'a.x', 'lower.1']
    """
    placed = place_all(known)
    _known_steps(known, placed)
    library = known.library
    ordering = order_by_rules(placed, library, known.brief, known.bay.carriers)
    wanted = [demand(one, bushings_of(one, library)) for one in placed]
    if known.one_end:
        wanted = [by_axle(state, one) for state, one in zip(wanted, placed, strict=True)]
    joints = {joint.key: joint for one in placed for joint in _joints(one, known)}
    both_ends = known.brief.lift == "both_ends" and len(_ends(placed)) > 1
    steps = tuple(_steps(ordering, wanted, known, joints))
    return WorkOrder(
        steps,
        tuple(joints.values()),
        tuple(_lists(steps, known)),
        tuple(_questions(known)),
        (*judge_parts(known), *judge_bay(known.bay, both_ends, steps)),
        _total(step.minutes for step in steps),
        _total(step.wait_h for step in steps),
        sum(step.key.startswith("raise.") for step in steps),
        any(step.two_people for step in steps),
    )


def _ends(placed: Sequence[Placed]) -> frozenset[str]:
    return frozenset(one.axle for one in placed if one.axle)


def _known_steps(known: Known, placed: Sequence[Placed]) -> None:
    there = {one.key for one in placed}
    for wish in known.brief.later:
        for key in (wish.first, wish.then):
            if key not in there:
                raise NotFound(f"There is no step {key!r} in this plan.", field="later")


def _total(ranges: Iterator[tuple[float, ...]]) -> tuple[float, float]:
    low = high = 0.0
    for one in ranges:
        if one:
            low, high = low + one[0], high + one[-1]
    return low, high


def _steps(
    ordering: Ordering, wanted: Sequence[frozenset[str] | None], known: Known, joints: Mapping[str, Joint]
) -> Iterator[Step]:
    counted: dict[str, int] = {}
    worked = _ends(ordering.placed)
    before, last = ON_WHEELS, ""
    place: dict[int, int] = {}
    for stretch in sequence(ordering, wanted):
        down = [ON_WHEELS] if over_wheels(before, stretch.state) else []
        for state in (*down, stretch.state):
            if state != before:
                move = _move(known, before, state, counted, worked)
                move = replace(move, rests_on=(last,) if last else ())
                before, last = state, move.key
                yield move
        for number in stretch.numbers:
            place[number] = len(place)
            yield _step(number, ordering, stretch.state, place, known, joints)


def _move(known: Known, before: str, state: str, counted: dict[str, int], worked: frozenset[str]) -> Step:
    """A change of the car's position as a step of its own; ``worked`` are the axles that are worked on."""
    kind = state.partition(".")[0]
    name = {"hanging": "raise" if before == ON_WHEELS else "hang", "carried": "carry", "on_wheels": "lower"}[kind]
    counted[name] = counted.get(name, 0) + 1
    op = known.library.common.operation(f"move_{kind}")
    words = state.split(".")
    axle = words[1] if len(words) > 1 else ""
    corner = words[2] if len(words) > 2 else ""
    if op is None:
        raise NotFound(f"The common operations have no move to {kind!r}.", field="move")
    ends = f", {axle} {corner}".rstrip() if axle else ""
    title = "Let the corner down on its stand again" if name == "hang" and not axle else op.title
    held, tools = _held(frozenset({axle}) if axle else worked, known.bay) if name == "raise" else ("", ())
    return Step(
        f"{name}.{counted[name]}",
        title + ends,
        _position(state),
        f"{op.detail} {held}".strip(),
        ("Lift",) if name == "raise" and known.bay.lift else (*op.tools, *tools),
        op.cautions,
        corner=cast(Side, corner) if corner else None,
        axle=cast(Literal["", "front", "rear"], axle),
        phase=op.phase,
        minutes=op.minutes,
        why=("All that has to be done before is done; all that follows needs the car so.",),
    )


def _held(up: frozenset[str], bay: Bay) -> tuple[str, tuple[str, ...]]:
    """What keeps the car from rolling with axles up, and what it takes: chocks belong to wheels that stay down."""
    if bay.lift:
        return "On the lift: pads at the rated points, wheels just off the floor, then the shake, then up.", ()
    if len(up) != 1:
        return "Both ends up: no wheel is left to chock. One end at a time, four stands, then the shake.", ()
    down = "rear" if "front" in up else "front"
    return f"Chocks at both {down} wheels, which stay down.", ("Chocks",)


def _position(state: str) -> Position:
    kind = state.partition(".")[0]
    return cast(Position, "corner_carried" if kind == "carried" else kind)


def _step(
    number: int,
    ordering: Ordering,
    state: str,
    place: Mapping[int, int],
    known: Known,
    joints: Mapping[str, Joint],
) -> Step:
    one = ordering.placed[number]
    op, position = one.op, _position(state)
    _, carried, corner, *_ = *state.split("."), "", ""
    leading = ordering.leading.get(number, [])
    owner = _owner(one, known)
    worked = list(fastenings_at(owner, one)) if owner else []
    return Step(
        one.key,
        _title(one),
        position,
        op.detail,
        op.tools,
        op.cautions,
        asks=op.asks,
        sides=cast(tuple[Side, ...], (one.side,) if one.side else tuple(one.facts.get("sides", "").split())),
        corner=cast(Side, corner) or None,
        carried=cast(Literal["", "front", "rear"], carried if corner else ""),
        two_people=op.people > 1,
        axle=cast(Literal["", "front", "rear"], one.axle),
        phase=op.phase,
        frees_joints=tuple(key for one_, key, *_ in worked if one_.key in op.frees and key in joints),
        brings_joints=tuple(
            JointGoal(key, op.brings[one_.key]) for one_, key, *_ in worked if one_.key in op.brings and key in joints
        ),
        chemicals=op.chemicals,
        minutes=op.minutes,
        wait_h=op.wait_h,
        why=tuple(_reasons(leading, ordering, place)),
        rests_on=tuple(
            sorted({ordering.placed[edge.first].key for edge in leading if edge.rests and edge.first in place})
        ),
        by=tuple(known.library.find(key).title for key in one.by if key != "own"),
        school=say_school(op.school, known.ways[op.school]) if op.school else "",
        reads=tuple(_reads(one)),
    )


def _reads(one: Placed) -> Iterator[Reading]:
    """What a step asks for, each at its place on the car."""
    sides = (one.side,) if one.side else tuple(one.facts.get("sides", "left right").split())
    for reading in one.op.reads:
        axles = (one.axle,) if one.axle or reading.per == "car" else AXLES
        for axle, side in ((axle, side) for axle in axles for side in (sides if reading.per == "side" else ("",))):
            yield replace(reading, axle="" if reading.per == "car" else axle, side=side)  # type: ignore[arg-type]


def measured_by(known: Known, joints: Sequence[Joint] = ()) -> tuple[str, ...]:
    """What a brief moves or measures, as axle and name; a procedure without an axle at both.

    A height that is measured and not moved is told to stay.  Where bonded rubber will be clamped the ride height is
    read before the car is raised: in the air nobody can.
    """
    found: dict[str, None] = {}
    heights: set[str] = set()
    for fitting in known.brief.fittings:
        procedure = known.library.find(fitting.procedure)
        for axle in (fitting.axle,) if fitting.axle else AXLES:
            moved = known.moves(procedure, axle)
            found |= {f"{axle}.{name}": None for name in (*moved, *procedure.measures)}
            if "height" in moved:
                heights.add(axle)
    stays = [f"{axle}.height_stays" for axle in AXLES if f"{axle}.height" in found and axle not in heights]
    clamped = {
        joint.axle
        for joint in joints
        if joint.role == "rubber_pivot" and (not joint.bushing or joint.bushing in BONDED_KINDS)
    }
    rides = [f"{axle}.ride_height" for axle in AXLES if axle in clamped]
    return (*found, *stays, *rides, *(["car.wheel_straight"] if "front.toe" in found else []))


def _title(one: Placed) -> str:
    where = " ".join(filter(None, (one.axle, one.side)))
    return f"{one.op.title}, {where}" if where else one.op.title


def _reasons(leading: Sequence[Edge], ordering: Ordering, place: Mapping[int, int]) -> Iterator[str]:
    """The gravest reasons for a step's place: one for each step before it, each reason with the last such step."""
    told: dict[str, Edge] = {}
    gravest: dict[int, Edge] = {}
    for edge in leading:
        if edge.first in place and (edge.first not in gravest or edge.weight > gravest[edge.first].weight):
            gravest[edge.first] = edge
    for edge in gravest.values():
        old = told.get(edge.why)
        if old is None or place[edge.first] > place[old.first]:
            told[edge.why] = edge
    ranked = sorted(told.values(), key=lambda edge: (-edge.weight, -place[edge.first]))
    grave = [edge for edge in ranked if edge.weight > 1] or ranked
    for edge in grave[:MOST_REASONS]:
        after = f"After “{_title(ordering.placed[edge.first])}”"
        yield f"{after}: {edge.why[0].lower()}{edge.why[1:]}" if edge.why else f"{after}: it needs it done."


def _owner(one: Placed, known: Known) -> Procedure | None:
    return known.library.common if one.owner == "common" else known.library.procedures.get(one.owner)


def _joints(one: Placed, known: Known) -> Iterator[Joint]:
    """The maps of the fasteners an operation works on; their values are for the user to enter."""
    owner = _owner(one, known)
    for fastening, key, axle, side in fastenings_at(owner, one) if owner else ():
        bushing = bushings_of(one, known.library).get(fastening.key, fastening.bushing)
        told = one.facts.get(fastening.count_from, "")
        count = int(told) if told.isdigit() else fastening.count
        where = " ".join(filter(None, (axle, side)))
        yield Joint(
            key,
            f"{fastening.label}, {where}" if where else fastening.label,
            fastening.role,
            _bolts(fastening, count),
            cast(Literal["", "front", "rear"], axle),
            cast(Literal["", "left", "right"], side),
            fastening.order,
            fastening.passes_pct,
            cast(Literal["", "bonded_rubber"], "" if bushing.startswith("@") else bushing),
            fastening.arm,
            pattern=fastening.pattern,
            told_by=_told_by(fastening, owner, axle, side, known) if owner else "",
        )


def _told_by(fastening: Fastening, owner: Procedure, axle: str, side: str, known: Known) -> str:
    """The record's field that tells a pivot's bushing, where its option has one and the brief does not answer it."""
    option = next((option for option in owner.options if f"@{option.key}" == fastening.bushing), None)
    if option is None or not option.known_from or not side:
        return ""
    answered = [
        fitting
        for fitting in known.brief.fittings
        if fitting.procedure == owner.key and option.key in fitting.options
    ]
    return "" if any(one.axle == axle for one in answered) else record_field(option, axle, side)


def _bolts(fastening: Fastening, count: int) -> tuple[Bolt, ...]:
    width = SPACING * max(1, count - 1) if fastening.pattern != "circle" else 2 * SPACING
    places = places_of(fastening.pattern, count, width, SPACING if fastening.pattern == "rectangle" else 0.0)
    notes = (*fastening.notes, *[""] * count)
    return tuple(
        Bolt(
            number,
            x,
            y,
            notes[number - 1],
            hold=fastening.hold,
            single_use=fastening.single_use,
            aluminium=fastening.aluminium,
            lock=fastening.lock,
            reach=fastening.reach,
        )
        for number, (x, y) in enumerate(places, start=1)
    )


def _lists(steps: Sequence[Step], known: Known) -> Iterator[Listing]:
    tools: dict[str, None] = {}
    chemicals: dict[str, None] = {}
    for step in steps:
        tools.update(dict.fromkeys(step.tools))
        chemicals.update(dict.fromkeys(step.chemicals))
    yield from (Listing("tool", name) for name in sorted(tools))
    yield from (Listing("chemical", name) for name in sorted(chemicals))
    wares: dict[tuple[str, str, str], int] = {}
    for fitting in known.brief.fittings:
        procedure = known.library.find(fitting.procedure)
        for ware in procedure.wares:
            for axle, side in spots_of(ware.per, fitting.axle, fitting.sides, ("",)):
                if holds(ware.when, known.facts(fitting, axle or fitting.axle, side)):
                    wanted = (ware.sort, ware.name, ware.why)
                    wares[wanted] = wares.get(wanted, 0) + ware.count
    for (sort, name, why), count in wares.items():
        yield Listing(cast(Literal["buy"], sort), name, count, why)
    booked = {what for fitting in known.brief.fittings for what in known.library.find(fitting.procedure).booked}
    yield from (Listing("book", what) for what in sorted(booked))


def _questions(known: Known) -> Iterator[Question]:
    """Only what neither the car's record nor the user has answered, and what the user did answer."""
    asked_once = False
    for number, fitting in enumerate(known.brief.fittings):
        procedure = known.library.find(fitting.procedure)
        common = () if asked_once else known.library.common.options
        asked_once = True
        for option in (*common, *procedure.options):
            if not option.asked and option.key not in fitting.options:
                continue
            if any(recorded_answer(option, known.car, fitting.axle, side) for side in fitting.sides):
                continue
            facts = known.facts(fitting, fitting.axle, "")
            told = option.key in fitting.options
            yield Question(number, option.key, option.label, option.choices, facts.get(option.key, ""), told)
