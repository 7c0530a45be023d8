"""The floor log: what can be written in it.  Each act is one thing somebody did or read.

The log is append-only; what is true now is derived from it, and undoing is an act of its own.
Texts are kept as typed; numbers are understood by :mod:`fair_spindle.core.spelling`.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from fair_spindle.core.planning.template import Position, Side, Stage


@dataclass(frozen=True)
class Typed:
    """A number as typed, and the unit meant where the text names none."""

    text: str
    unit: str


@dataclass(frozen=True)
class Clamp:
    """Why a bonded bolt was accepted: the loaded height read and the window it lay in. [mm]"""

    height_mm: float
    low_mm: float
    high_mm: float


@dataclass(frozen=True)
class Entered:
    """A baseline or check field was filled in: numbers by part, or a choice."""

    key: str
    method: str = ""
    typed: dict[str, Typed] = field(default_factory=dict)
    choice: str = ""
    plus_minus: Typed | None = None
    kind: Literal["entered"] = "entered"


@dataclass(frozen=True)
class Specified:
    """A fastener group's specification was typed from its source."""

    group: str
    torque: Typed
    source: str
    diameter_mm: float
    pitch_mm: float
    property_class: Literal["", "8.8", "10.9", "12.9"] = ""
    affirmed: bool = False
    kind: Literal["specified"] = "specified"


@dataclass(frozen=True)
class Moved:
    """The car was brought into another position."""

    to: Position
    corner: Side | None = None
    kind: Literal["moved"] = "moved"


@dataclass(frozen=True)
class Stepped:
    """A step was done, or skipped with a reason."""

    step: str
    outcome: Literal["done", "skipped"] = "done"
    reason: str = ""
    kind: Literal["stepped"] = "stepped"


@dataclass(frozen=True)
class Noted:
    """Words for the record, at a step or for the whole job."""

    text: str
    step: str = ""
    kind: Literal["noted"] = "noted"


@dataclass(frozen=True)
class Counted:
    """Flats turned at a tie rod: coming off, going on, or as a correction (longer positive)."""

    side: Side
    direction: Literal["off", "on", "correct"]
    flats: int
    kind: Literal["counted"] = "counted"


@dataclass(frozen=True)
class HeightRead:
    """Hub-to-arch height of a corner in the present position of the car."""

    side: Side
    height: Typed
    kind: Literal["height_read"] = "height_read"


@dataclass(frozen=True)
class Tightened:
    """Fasteners were brought to a stage; final torque has a reading or a reason for none.

    ``clamp`` is written by the product when it accepts a bonded bolt, never by the user.
    """

    places: tuple[str, ...]
    to: Stage
    reading: Typed | None = None
    by_feel: str = ""
    override: str = ""
    clamp: Clamp | None = None
    kind: Literal["tightened"] = "tightened"


@dataclass(frozen=True)
class Undone:
    """An earlier event no longer counts; it stays in the log."""

    event: str
    kind: Literal["undone"] = "undone"


@dataclass(frozen=True)
class Signed:
    """The record was signed over everything before it; ``listed`` are the items accepted as open."""

    name: str
    listed: tuple[str, ...] = ()
    digest: str = ""
    kind: Literal["signed"] = "signed"


@dataclass(frozen=True)
class Reopened:
    """A signed record was opened again, with the reason."""

    reason: str
    kind: Literal["reopened"] = "reopened"


Act = Entered | Specified | Moved | Stepped | Noted | Counted | HeightRead | Tightened | Undone | Signed | Reopened
ACTS: tuple[type[Act], ...] = (
    Entered,
    Specified,
    Moved,
    Stepped,
    Noted,
    Counted,
    HeightRead,
    Tightened,
    Undone,
    Signed,
    Reopened,
)


@dataclass(frozen=True)
class Event:
    """One line of the log: identity, place in it, time in UTC, and the act."""

    id: str
    seq: int
    at: str
    act: Act
