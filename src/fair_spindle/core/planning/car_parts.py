"""The arms and links a car has by its layout, and the work of swapping each, put together from its kinds of joint."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from functools import cache
from typing import Any, Literal, cast

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.geometry.layouts import LAYOUTS, ArmKind, Layout
from fair_spindle.core.planning.part_effects import moved_by, usual_effects
from fair_spindle.core.planning.procedure import (
    Choice,
    Fastening,
    Measured,
    Operation,
    Option,
    PartCheck,
    Procedure,
    Ware,
    When,
)

Kind = Literal["pivot", "taper", "clamp", "plates"]
Carried = Literal["upright", "arm", "axle"]
KINDS: dict[Kind, str] = {
    "pivot": "Bolt through a bushing",
    "taper": "Taper and castle nut",
    "clamp": "Clamp with a pinch bolt",
    "plates": "U-bolts over a plate",
}
ALONG: dict[str, str] = {
    "none": "Nothing",
    "line": "Brake hose or wire",
    "sensor": "Level sensor's rod",
    "both": "Hose or wire, and a level sensor's rod",
}
GOES_IN: dict[str, str] = {
    "new": "A new one",
    "rebushed": "The old one with new bushings",
    "same": "The old one, put back as it was",
}
# What the outer end of a part may be joined by; an inner end turns in a bushing.
_OUTER: dict[str, tuple[Kind, ...]] = {
    "ball": ("taper", "clamp"),
    "outer": ("pivot", "taper", "clamp"),
    "axle": ("pivot", "taper"),
}
_BASE = ("bench", "penetrant", "settle_again", "paint", "road", "recheck")
_MEASURED = ("baseline", "measure")
_WIDE = ("wires_back", "links_free")


@value_object
class PartJoint:
    """A joint that has to open for a part to come out: its kind, and what it is called on the part."""

    key: str
    label: str
    kind: Kind

    @property
    def kinds(self) -> tuple[Kind, ...]:
        """What it may be, the usual kind first."""
        return tuple(dict.fromkeys((self.kind, *_OUTER.get(self.key, ()))))


@value_object
class CarPart:
    """A part that can be swapped: where it is, what it hangs on, and what is carried while it is out.

    ``sprung``: a spring stands on it.  ``along``: what runs along it.  ``changes``: what its length or place moves,
    by the geometry of the layout; ``reads``: what is read besides.
    """

    key: str
    arm: str
    label: str
    layouts: tuple[str, ...]
    axles: tuple[Literal["front", "rear"], ...]
    joints: tuple[PartJoint, ...]
    carried: Carried
    shared: bool = False
    sprung: bool = False
    along: str = "none"
    changes: tuple[Measured, ...] = ()
    reads: tuple[Measured, ...] = ()


@cache
def parts_of_layouts() -> tuple[CarPart, ...]:
    """Every arm and link of every layout as a part; those alike in several layouts once.

    Tie rods, trailing arms on two bolts, leaf shackles and a beam's bushings have procedures of their own.

    Common practice, no published source.

    Examples
    --------
    >>> [part.label for part in parts_of_layouts()[:2]]
    ['Lower arm', 'Upper arm']
    """
    found: dict[tuple[object, ...], CarPart] = {}
    for layout in LAYOUTS.values():
        for arm in layout.arms:
            if not arm.pivots or arm.own_work:
                continue
            part = _part(layout, arm)
            alike = (part.label, part.joints, part.carried, part.sprung)
            known = found.get(alike)
            layouts = (*known.layouts, layout.key) if known else (layout.key,)
            axles = tuple(axle for axle in ("front", "rear") if axle in part.axles or (known and axle in known.axles))
            key = known.key if known else _free_key(part.key, layout.key, found)
            found[alike] = replace(part, key=key, layouts=layouts, axles=cast(Any, axles))
    return tuple(found.values())


def parts_of(layout: str) -> dict[str, CarPart]:
    """The parts of one layout, by arm."""
    return {part.arm: part for part in parts_of_layouts() if layout in part.layouts}


def procedure_of(part: CarPart, kinds: Mapping[str, Procedure]) -> Procedure:
    """The work of swapping a part: its skeleton, and what each of its joints adds.

    Tapers are freed first, while the upright is still held; every joint is started by hand before any is tightened.

    Raises KeyError: A kind of joint that has no file.

    Common practice, no published source.
    """
    pieces = [_Piece(part, joint, kinds[kind]) for joint in part.joints for kind in joint.kinds]
    wide = _WIDE if part.carried != "axle" else ("wires_back",)
    toe = ("toe_set", "alignment") if "toe" in part.changes else ()
    return Procedure(
        part.key,
        part.label,
        f"{part.label} of {_among(part.layouts)}, swapped: {', '.join(joint.label for joint in part.joints)}.",
        axles=part.axles,
        layouts=part.layouts,
        per="axle" if part.shared else "side",
        uses=(*_BASE, *wide, *(_MEASURED if part.changes or part.reads else ()), *toe),
        changes=part.changes,
        measures=part.reads,
        arm=part.arm,
        booked=("Alignment on a rack",) if toe else (),
        words=("adjustable arm", "longer arm", "bushing", "bush"),
        options=(*_questions(part), *(option for piece in pieces for option in piece.options())),
        checks=(
            PartCheck("length", "Length, centre to centre", "length"),
            PartCheck("hand", "Side and hand", "hand"),
        ),
        fastenings=tuple(fastening for piece in pieces for fastening in piece.fastenings()),
        wares=(*_wares(part, kinds["part"]), *(ware for piece in pieces for ware in piece.wares())),
        operations=(*_skeleton(part, kinds["part"], pieces), *(op for piece in pieces for op in piece.operations())),
    )


def _part(layout: Layout, arm: ArmKind) -> CarPart:
    joints = tuple(PartJoint(end, label, "pivot") for end, label in arm.pivots)
    if arm.ball:
        joints = (PartJoint("ball", "ball joint", "taper"), *joints)
    if arm.leaf:
        joints = (*joints, PartJoint("seat", "axle seat", "plates"))
    carried: Carried = "axle" if not layout.independent else "arm" if arm.sprung else "upright"
    moved = moved_by(usual_effects(layout.key).get(arm.key, ()), layout.kingpin)
    if arm.leaf:
        moved = ("height",)
    key = "swap_" + arm.label.lower().replace(" ", "_").replace("-", "_")
    return CarPart(
        key,
        arm.key,
        arm.label,
        (layout.key,),
        cast(Any, layout.axles),
        joints,
        carried,
        arm.shared,
        arm.sprung,
        changes=moved,
        reads=("height",) if arm.sprung else (),
    )


def _free_key(key: str, layout: str, found: Mapping[tuple[object, ...], CarPart]) -> str:
    return f"{key}_{layout}" if any(part.key == key for part in found.values()) else key


def _among(layouts: tuple[str, ...]) -> str:
    return " or ".join(LAYOUTS[layout].label.lower() for layout in layouts) or "any axle"


def _questions(part: CarPart) -> Iterator[Option]:
    """What a part hangs on and what runs along it, where the car differs from its layout."""
    label = f"{part.label}: what goes in"
    yield Option("goes_in", label, tuple(Choice(key, words) for key, words in GOES_IN.items()), "new")
    field = f"{{axle}}.{part.arm}"
    for joint in part.joints:
        if len(joint.kinds) > 1:
            choices = tuple(Choice(kind, KINDS[kind]) for kind in joint.kinds)
            label = f"{part.label}, {joint.label}: joined by"
            yield Option(_kind_key(joint), label, choices, joint.kind, f"{field}.{_kind_key(joint)}", asked=False)
    along = tuple(Choice(key, label) for key, label in ALONG.items())
    yield Option("along", f"Runs along the {part.label.lower()}", along, part.along, f"{field}.along", asked=False)
    if part.carried != "axle":
        stands = (Choice("yes", "Yes"), Choice("no", "No"))
        usual = "yes" if part.sprung else "no"
        yield Option(
            "sprung", f"A spring stands on the {part.label.lower()}", stands, usual, f"{field}.sprung", asked=False
        )


def _wares(part: CarPart, kind: Procedure) -> Iterator[Ware]:
    for ware in kind.wares:
        yield replace(
            ware, name=ware.name.replace("{part}", part.label.lower()), per="axle" if part.shared else "side"
        )


def _kind_key(joint: PartJoint) -> str:
    return f"kind_{joint.key}"


def _skeleton(part: CarPart, kind: Procedure, pieces: list[_Piece]) -> Iterator[Operation]:
    """What every part has; it frees, starts and snugs the bolts of all its joints together."""
    carries = _carries(part)
    bolts = [fastening.key for piece in pieces for fastening in piece.fastenings()]
    slack = () if part.carried == "axle" else ("slack:wires",)
    for op in kind.operations:
        told = _named(op, part.label, "")
        if op.key.startswith("carry_") and op.key not in carries:
            continue
        if op.key == "out":
            needs = (*op.needs, *carries, *(() if part.carried == "axle" else ("clear_wires",)))
            told = replace(told, frees=tuple(bolts), needs=needs, relies=(*slack, *_supports(part)))
        if op.key in ("in", "snug"):
            told = replace(told, brings={bolt: "hand" if op.key == "in" else "snug" for bolt in bolts})
        if part.shared and told.per == "side":
            told = replace(told, per="axle")
        yield told


def _carries(part: CarPart) -> tuple[str, ...]:
    """What holds up what hangs on the part: the axle on a jack, or the upright tied and a sprung arm carried."""
    return ("carry_axle",) if part.carried == "axle" else ("tether", "carry_arm")


def _supports(part: CarPart) -> tuple[str, ...]:
    return ("support:axle",) if part.carried == "axle" else ("support:upright", "support:arm")


@value_object
class _Piece:
    """One joint of a part as one kind of joint, done where the joint is of that kind.

    Keys get the joint's name before them, of a kind that is not the usual one its kind too; words the part's and the
    joint's.
    """

    part: CarPart
    joint: PartJoint
    kind: Procedure

    def _key(self, key: str) -> str:
        usual = self.kind.key == self.joint.kind
        return f"{self.joint.key}_{key}" if usual else f"{self.joint.key}_{self.kind.key}_{key}"

    def _said(self, words: str) -> str:
        return words.replace("{part}", self.part.label).replace("{joint}", self.joint.label)

    def _when(self, when: When) -> When:
        own = {option.key for option in self.kind.options}
        of_kind = {_kind_key(self.joint): (self.kind.key,)} if len(self.joint.kinds) > 1 else {}
        return of_kind | {self._key(fact) if fact in own else fact: values for fact, values in when.items()}

    def options(self) -> Iterator[Option]:
        """Questions about this joint; the record's field answers them where there is one."""
        side = "" if self.part.shared else ".{side}"
        field = f"{{axle}}{side}.{self.part.arm}.bush_{self.joint.key}"
        for option in self.kind.options:
            yield replace(option, key=self._key(option.key), label=self._said(option.label), known_from=field)

    def fastenings(self) -> Iterator[Fastening]:
        """Its bolts and nuts."""
        for fastening in self.kind.fastenings:
            bushing = f"@{self._key(fastening.bushing[1:])}" if fastening.bushing else ""
            arm = self.part.arm if fastening.role == "rubber_pivot" else ""
            key, label = self._key(fastening.key), self._said(fastening.label)
            yield replace(fastening, key=key, label=label, bushing=bushing, arm=arm, when=self._when(fastening.when))

    def wares(self) -> Iterator[Ware]:
        """What it takes to close it again."""
        per = "axle" if self.part.shared else "side"
        for ware in self.kind.wares:
            yield replace(ware, name=self._said(ware.name), per=cast(Any, per), when=self._when(ware.when))

    def operations(self) -> Iterator[Operation]:
        """What is done at this joint alone."""
        own = {op.key for op in self.kind.operations}
        for op in self.kind.operations:
            told = _named(op, self.part.label, self.joint.label)
            called: dict[str, Any] = {
                name: tuple(self._key(one) if one in own else one for one in getattr(op, name))
                for name in ("needs", "after", "before", "then")
            }
            brings = {self._key(bolt): stage for bolt, stage in op.brings.items()}
            if op.key == "free":
                called["needs"] = (*called["needs"], *_carries(self.part))
                told = replace(told, relies=_supports(self.part))
            per = "axle" if self.part.shared else told.per
            told = replace(told, key=self._key(op.key), brings=brings, when=self._when(op.when), per=cast(Any, per))
            yield replace(told, **called)


def _named(op: Operation, part: str, joint: str) -> Operation:
    """The same with the part and the joint in its words."""

    def said(words: str) -> str:
        inside = words.replace("{joint}", joint)
        begins = inside.startswith("{part}")
        return (
            inside.replace("{part}", part, 1).replace("{part}", part.lower())
            if begins
            else inside.replace("{part}", part.lower())
        )

    return replace(op, title=said(op.title), detail=said(op.detail), why=said(op.why))
