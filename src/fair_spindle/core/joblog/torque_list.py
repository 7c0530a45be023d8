"""A torque list that does not say which bolt is which: read row by row, matched to a job's places, asked about."""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace

from fair_spindle.core.basics.errors import InputError, require
from fair_spindle.core.basics.spelling import read_number, read_thread
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import units_of
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.fasteners import TorqueDoubt, doubt_torque
from fair_spindle.core.bolts.joint import Bolt, BoltSpec, Joint
from fair_spindle.core.joblog.joint_maps import other_side_of
from fair_spindle.core.joblog.log import Fastener
from fair_spindle.core.joblog.state import JobState

MOST_ROWS = 200
# A place fits as well as the best where it shares at least this much of the words' weight with the row.
AS_WELL = 0.75
_NUMBER = r"\d+(?:[.,]\d+)?"
_SUFFIXES = {suffix.lower(): unit.key for unit in units_of("torque") for suffix in (unit.label, *unit.spellings)} | {
    "nm": "nm",
    "lbft": "lb_ft",
    "ftlb": "lb_ft",
    "lbs": "lb_ft",
}
_LABELS = {unit.key: unit.label for unit in units_of("torque")}
_UNIT = "|".join(re.escape(one) for one in sorted(_SUFFIXES, key=len, reverse=True))
_THREAD = re.compile(rf"\bM\s?{_NUMBER}(?:\s?[x×]\s?{_NUMBER})?\b|\b\d/\d+\s?-\s?\d+\b", re.I)
_ANGLE = re.compile(r"\+?\s*(\d{1,3})\s*(?:°|deg\w*)", re.I)
_TORQUE = re.compile(rf"({_NUMBER})(?:\s*(?:-|–|to)\s*({_NUMBER}))?[\s;,|]*({_UNIT})(?![a-z])", re.I)
_COUNT = re.compile(r"[x×]\s?(\d{1,2})\b|\b(\d{1,2})\s?(?:[x×]|off|pcs|pieces)(?![a-z0-9])", re.I)
_SOCKET = re.compile(r"\b(\d{1,2})\s?(?:mm|af)\b", re.I)
_SAME = {
    "track": "tie", "wishbone": "arm", "stabiliser": "sway", "stabilizer": "sway", "lug": "wheel", "drop": "link",
}  # fmt: skip
_SIDES = {"left": "left", "lh": "left", "right": "right", "rh": "right"}


@value_object
class ListRow:
    """A row of a list as it was read: its words, value, thread [mm], size across flats [mm] and count; 0 not told."""

    line: int
    text: str
    words: frozenset[str]
    side: str = ""
    torque: Typed | None = None
    torque_to: Typed | None = None
    angle_deg: float = 0.0
    thread: tuple[float, float] = (0.0, 0.0)
    socket_mm: float = 0.0
    count: int = 0
    unread: str = ""

    def spec(self, before: BoltSpec | None, source: str) -> BoltSpec:
        """What a place is to be tightened to by this row."""
        return replace(
            before or BoltSpec(),
            way="torque_angle" if self.angle_deg else "torque",
            torque=self.torque,
            torque_to=self.torque_to,
            angle_deg=self.angle_deg,
            source=source,
            affirmed=False,
        )


@value_object
class ListMatch:
    """A row and the joints it belongs to, both sides together; where it fits several or none, what to ask."""

    row: ListRow
    joints: tuple[str, ...] = ()
    fits: tuple[tuple[str, ...], ...] = ()
    question: str = ""


def read_list(text: str, unit: str) -> list[ListRow]:
    """Rows of a pasted text or table; ``unit`` is meant where a row names none.

    A line without a number is a heading: its words belong to the rows below it.
    """
    lines = [(place, line.strip()) for place, line in enumerate(text.splitlines(), start=1) if line.strip()]
    require(lines, "text", "A list needs a row", "nothing", "Paste its rows.", kind=InputError)
    require(len(lines) <= MOST_ROWS, "text", f"A list has at most {MOST_ROWS} rows", len(lines), kind=InputError)
    heading: frozenset[str] = frozenset()
    rows = []
    for place, line in lines:
        if re.search(r"\d", line):
            rows.append(_row(place, line, unit, heading))
        else:
            heading = _words(line)
    return rows


def as_list(fasteners: Iterable[Fastener]) -> str:
    """Places as the text of a list: what is alike in one row, both sides together."""
    sides: dict[tuple[str, ...], Counter[str]] = {}
    for fastener in fasteners:
        if fastener.torque:
            thread = (
                f"M{fastener.diameter_mm:g}x{fastener.pitch_mm:g}"
                if fastener.diameter_mm and fastener.pitch_mm
                else ""
            )
            alike = (
                f"{fastener.axle} {fastener.group}".strip(),
                thread,
                fastener.drive,
                f"{fastener.torque.text} {_LABELS[fastener.torque.unit]}",
            )
            sides.setdefault(alike, Counter())[fastener.side] += 1
    rows = []
    for (name, *facts), counts in sides.items():
        side = next(iter(counts)) if len(counts) == 1 else ""
        rows.append(", ".join(filter(None, (f"{side} {name}".strip(), *facts, f"x{max(counts.values())}"))))
    return "\n".join(rows)


def match_list(rows: Sequence[ListRow], state: JobState) -> list[ListMatch]:
    """Each row with the joints it fits alone; never a guess between two."""
    groups = groups_of(state)
    weights = _weights(groups, state)
    found = [_match(row, groups, weights, state) for row in rows]
    taken = Counter(key for one in found for key in one.joints)
    found = [_asked_twice(one, taken) for one in found]
    return _doubted(found, state)


def groups_of(state: JobState) -> list[tuple[str, ...]]:
    """Joints that a row can belong to: the same joint of both sides together."""
    groups = []
    for joint in state.joints.values():
        other = other_side_of(joint, state)
        if not (other and joint.side == "right"):
            groups.append((joint.key, *([other.key] if other else [])))
    return groups


def _row(place: int, line: str, unit: str, heading: frozenset[str]) -> ListRow:
    left, told = line, ListRow(place, line, frozenset())
    if found := _THREAD.search(left):
        told = replace(told, thread=read_thread(found[0].replace(" ", ""), f"line {place}"))
        left = _without(left, found)
    if found := _ANGLE.search(left):
        told, left = replace(told, angle_deg=float(found[1])), _without(left, found)
    if found := _TORQUE.search(left):
        used = _SUFFIXES[found[3].lower()]
        told = replace(told, torque=Typed(found[1], used), torque_to=Typed(found[2], used) if found[2] else None)
        left = _without(left, found)
    if found := _COUNT.search(left):
        told, left = replace(told, count=int(found[1] or found[2])), _without(left, found)
    if found := _SOCKET.search(left):
        told, left = replace(told, socket_mm=float(found[1])), _without(left, found)
    bare = re.findall(_NUMBER, left)
    if told.torque is None and len(bare) == 1:
        told = replace(told, torque=Typed(bare[0], unit))
    elif told.torque is None:
        told = replace(told, unread=f"Which number is the torque? {', '.join(bare) or 'None'} stands there.")
    elif len(bare) == 1 and bare[0].isdigit() and not told.count:
        told = replace(told, count=int(bare[0]))
    words = _words(left)
    sides = {_SIDES[word] for word in words if word in _SIDES}
    return replace(told, words=(words | heading) - set(_SIDES), side=sides.pop() if len(sides) == 1 else "")


def _without(text: str, found: re.Match[str]) -> str:
    return f"{text[: found.start()]} {text[found.end() :]}"


def _words(text: str) -> frozenset[str]:
    found = (word.lower() for word in re.findall(r"[^\W\d_]{2,}", text))
    return frozenset(_SAME.get(word.removesuffix("s"), word.removesuffix("s")) for word in found)


def _weights(groups: Sequence[tuple[str, ...]], state: JobState) -> Mapping[str, float]:
    """How much a word tells: the fewer joints bear it, the more."""
    among = Counter(word for keys in groups for word in _words(state.joints[keys[0]].label))
    return {word: math.log(1 + len(groups) / count) for word, count in among.items() if word not in _SIDES}


def _match(
    row: ListRow, groups: Sequence[tuple[str, ...]], weights: Mapping[str, float], state: JobState
) -> ListMatch:
    if row.unread:
        return ListMatch(row, question=row.unread)
    scores = {keys: _score(row, [state.joints[key] for key in keys], weights) for keys in groups}
    best = max(scores.values(), default=0.0)
    fits = tuple(keys for keys, score in scores.items() if score > 0 and score >= AS_WELL * best)
    if not fits:
        return ListMatch(row, question="No place of this job fits it. Leave it out, or say which it is.")
    if len(fits) > 1:
        return ListMatch(row, fits=fits, question="It fits more than one place. Say which it is.")
    keys = tuple(key for key in fits[0] if not row.side or state.joints[key].side in ("", row.side))
    return ListMatch(row, keys, fits)


def _score(row: ListRow, joints: Sequence[Joint], weights: Mapping[str, float]) -> float:
    """Weight of the words shared, with a thread or a count that agrees; nothing where a thread differs."""
    threads = {(bolt.diameter_mm, bolt.pitch_mm) for joint in joints for bolt in joint.bolts if bolt.diameter_mm}
    if threads and row.thread[0] and not any(math.dist(row.thread, thread) < 0.05 for thread in threads):
        return 0.0
    score = sum(weights.get(word, 0.0) for word in row.words & _words(joints[0].label))
    if not score:
        return 0.0
    agrees = [bool(threads and row.thread[0])]
    agrees += [row.count in (len(joints[0].bolts), sum(len(joint.bolts) for joint in joints))]
    heads = " ".join(bolt.head for joint in joints for bolt in joint.bolts)
    agrees += [bool(row.socket_mm) and f"{row.socket_mm:g}" in re.findall(r"\d+", heads)]
    return score + 0.5 * sum(agrees)


def _asked_twice(one: ListMatch, taken: Mapping[str, int]) -> ListMatch:
    if any(taken[key] > 1 for key in one.joints):
        return replace(one, joints=(), question="Another row fits the same place. Say which belongs there.")
    return one


def _doubted(found: Sequence[ListMatch], state: JobState) -> list[ListMatch]:
    """Asked about where a value looks swapped with another row's, or told in another unit."""
    asked = list(found)
    for place, one in enumerate(found):
        doubt = _doubt(one, one, state)
        if doubt is None:
            continue
        partners = [n for n, other in enumerate(found) if n != place and _swapped(one, other, state)]
        asked[place] = replace(one, question=doubt.message)
        if partners:
            partner = min(partners, key=lambda n: abs(n - place))
            for mine, theirs in ((place, partner), (partner, place)):
                line = found[theirs].row.line
                asked[mine] = replace(found[mine], question=f"It looks swapped with line {line}. {doubt.message}")
    return asked


def _swapped(one: ListMatch, other: ListMatch, state: JobState) -> bool:
    """Whether each value would be usual at the place of the other, both threads being known."""
    bolts = [(next(_bolts(each, state), None), each.row.thread) for each in (one, other)]
    return (
        all(bolt and (bolt.diameter_mm or thread[0]) for bolt, thread in bolts)
        and _doubt(other, one, state) is None
        and _doubt(one, other, state) is None
    )


def _doubt(value: ListMatch, place: ListMatch, state: JobState) -> TorqueDoubt | None:
    """What is doubtful about the value of one row at the thread of another's place; None where it is not known."""
    bolt = next(_bolts(place, state), None)
    told = value.row.torque
    if bolt is None or told is None or value.row.angle_deg:
        return None
    diameter, pitch = (bolt.diameter_mm, bolt.pitch_mm) if bolt.diameter_mm else place.row.thread
    if not diameter:
        return None
    number = read_number(told.text, "torque", told.unit, f"line {value.row.line}").number
    return doubt_torque(number, told.unit, diameter, pitch, bolt.property_class or None)


def _bolts(one: ListMatch, state: JobState) -> Iterator[Bolt]:
    for key in one.joints:
        yield from state.joints[key].bolts


def listed(joint: Joint, row: ListRow, source: str) -> Joint:
    """The joint with a row's value at every place, and its thread where none was told."""

    def told(bolt: Bolt) -> Bolt:
        diameter, pitch = (bolt.diameter_mm, bolt.pitch_mm) if bolt.diameter_mm else row.thread
        return replace(bolt, spec=row.spec(bolt.spec, source), diameter_mm=diameter, pitch_mm=pitch)

    return replace(joint, bolts=tuple(told(bolt) for bolt in joint.bolts))
