"""What the interface is shown of any book, job or car: fields, entries, wheels, loads."""

from __future__ import annotations

from typing import Annotated, Generic, Literal, Self, TypeVar

from pydantic import BaseModel, ConfigDict, StringConstraints

from fair_spindle.core.fields.field import Phase
from fair_spindle.formats.acts import Text

Title = Annotated[Text, StringConstraints(min_length=1, max_length=120, pattern=r"\S")]
T = TypeVar("T")


class View(BaseModel):
    """Something shown; made by the product, so not checked again."""

    model_config = ConfigDict(frozen=True, json_schema_serialization_defaults_required=True, defer_build=True)

    @classmethod
    def of(cls, shown: object, **more: object) -> Self:
        """What is shown of something: its own members under their own names, and what the view has beside them."""
        same = {name: getattr(shown, name) for name in cls.model_fields if name not in more and hasattr(shown, name)}
        return cls(**same, **more)


class BySide(View, Generic[T]):
    """The same thing for both sides."""

    left: T
    right: T


class UnitView(View):
    """A unit to choose."""

    key: str
    label: str


class PartView(View):
    """One number of a measurement."""

    name: str
    label: str
    quantity: str
    unit: str
    units: list[UnitView]
    optional: bool
    carry: bool


class MethodView(View):
    """One way to measure; ``unit`` is that of what it gives, and of a ± typed beside it; ``card`` says how."""

    name: str
    label: str
    hint: str
    unit: str
    card: str
    parts: list[PartView]


class ChoiceView(View):
    """One word to choose."""

    value: str
    label: str


class FieldView(View):
    """One thing that is asked."""

    key: str
    name: str
    label: str
    group: str
    axle: Literal["", "front", "rear"]
    side: Literal["", "left", "right"]
    phase: Phase
    required: bool
    asked: bool
    hint: str
    words: bool
    readings: int
    settled: bool
    methods: list[MethodView]
    choices: list[ChoiceView]


class SheetView(View):
    """The fields of a job or car; ``shape`` is the same for the same fields."""

    shape: str
    fields: list[FieldView]


class StageView(View):
    """A stage of a fastener: how a place stands at it, what is done, what a step wants, its mark on a map."""

    key: str
    said: str
    done: str
    wanted: str
    mark: str


class CardView(View):
    """How something is measured; ``drawing`` names its picture."""

    key: str
    title: str
    drawing: str
    lines: list[str]
    usual: str
    minutes: str
    mistake: str


class ChoicesView(View):
    """What can be chosen from anywhere, the words for stages of a fastener and for entries that wait to be sent.

    While an entry of ``gate_kinds`` waits it is not known whether rubber is loaded.
    """

    torque_units: list[UnitView]
    length_units: list[UnitView]
    property_classes: list[str]
    stages: list[StageView]
    entry_names: dict[str, str]
    gate_kinds: list[str]
    cards: dict[str, CardView]


class TypedView(View):
    """A number as it was typed."""

    text: str
    unit: str


FROM_RECORD = "the car's record"


class EntryView(View):
    """A filled-in field: as typed, and as understood; ``carried`` where it came with the car's record."""

    key: str
    label: str
    said: str
    event: str
    at: str
    method: str
    typed: dict[str, TypedView]
    choice: str
    plus_minus: TypedView | None
    understood: str
    again: list[dict[str, TypedView]]
    gauge: str
    source: str
    carried: bool
    flags: list[str]
    doubt: str


class WheelView(View):
    """What was read at one wheel, in words; what stands on it."""

    key: str
    label: str
    height: str
    toe: str
    camber: str
    caster: str
    load: str
    load_estimated: bool


class LoadView(View):
    """What stands on one wheel; forces in N."""

    wheel: str
    label: str
    load_n: float
    estimated: bool
    unsprung_n: float
    unsprung_estimated: bool
    sprung_n: float


class LoadsView(View):
    """The four wheels, and the shares."""

    wheels: list[LoadView]
    total_n: float
    front_pct: float
    left_pct: float
    cross_pct: float


class BookView(View):
    """What a job and a car's record have in common: entries, in a log that can be undone."""

    id: str
    title: str
    car: str
    created_at: str
    version: int
    shape: str
    last_event: str
    last_said: str
    entries: dict[str, EntryView]


class FastenerView(View):
    """A fastener on the car's list; its thread and torque in words beside what was typed."""

    key: str
    group: str
    place: int
    axle: str
    side: str
    diameter_mm: float
    pitch_mm: float
    length_mm: float
    property_class: str
    drive: str
    torque: TypedView | None
    condition: str
    single_use: bool
    source: str
    said: str
    doubt: str


class CarView(BookView):
    """A car's record as it stands."""

    fasteners: list[FastenerView]
    loads: LoadsView | None
    arms: dict[str, str]


class CarLine(View):
    """A car in the list."""

    id: str
    car: str
    title: str
    last_at: str
    entries: int


class LogLineView(View):
    """A line of the log, in words; ``by`` is empty where nobody was picked."""

    id: str
    seq: int
    at: str
    by: str
    kind: str
    said: str
    undone: bool


class VersionView(View):
    """Length of a job's log."""

    version: int


class UnderstoodView(View):
    """How an entry would be taken."""

    understood: str
