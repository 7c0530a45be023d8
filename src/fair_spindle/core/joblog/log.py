"""The log of a job or of a car: what can be written in it.  Each act is one thing somebody did or read.

The log is append-only; what is true now is derived from it, and undoing is an act of its own.
Texts are kept as typed; numbers are understood by :mod:`fair_spindle.core.basics.spelling`.
"""

from __future__ import annotations

from dataclasses import field
from typing import Literal, get_args

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import Side, WheelKey
from fair_spindle.core.bolts.joint import Joint
from fair_spindle.core.bolts.stages import WorkStage
from fair_spindle.core.planning.lists import Listing, Remark
from fair_spindle.core.planning.procedure import Brief, Measured
from fair_spindle.core.planning.template import Position, Step


@value_object
class Clamp:
    """Why a bonded bolt was accepted: the loaded height read and the window it lay in [mm].

    ``on_wheels`` tells that it stood settled on its wheels, which is evidence by itself; the height is 0 then where
    none was read.
    """

    height_mm: float
    low_mm: float
    high_mm: float
    on_wheels: bool = False


@value_object
class Gauge:
    """The instrument a reading was taken with, as its record stood then.

    ``uncertainty`` is expanded, coverage factor 2; ``due`` the day its calibration runs out.
    """

    name: str
    resolution: Typed | None = None
    uncertainty: Typed | None = None
    due: str = ""


@value_object
class Entered:
    """A field was filled in: numbers by part, or a choice; ``again`` are repeats of the same reading."""

    key: str
    method: str = ""
    typed: dict[str, Typed] = field(default_factory=dict)
    choice: str = ""
    plus_minus: Typed | None = None
    again: tuple[dict[str, Typed], ...] = ()
    gauge: Gauge | None = None
    kind: Literal["entered"] = "entered"


@value_object
class Cleared:
    """A field was emptied."""

    key: str
    kind: Literal["cleared"] = "cleared"


@value_object
class Filled:
    """Many fields were filled in at once, and count as one entry; ``source`` says from what.

    Those taken ``before`` are the last baseline of the same car, kept to compare with.
    """

    entries: tuple[Entered, ...]
    source: str
    purpose: Literal["record", "copy", "file", "part", "before"] = "record"
    kind: Literal["filled"] = "filled"


@value_object
class Settled:
    """The car was rolled and bounced, and stands settled on its wheels."""

    kind: Literal["settled"] = "settled"


@value_object
class Attached:
    """A picture was attached to a step or a field; the file is named by its SHA-256."""

    subject: str
    sha256: str
    media: Literal["image/png", "image/jpeg", "image/webp"]
    name: str
    kind: Literal["attached"] = "attached"


@value_object
class Fastener:
    """A fastener of the car's record: where it sits, what it is, and its specification as typed."""

    key: str
    group: str
    place: int = 1
    axle: Literal["", "front", "rear"] = ""
    side: Literal["", "left", "right"] = ""
    diameter_mm: float = 0.0
    pitch_mm: float = 0.0
    length_mm: float = 0.0
    property_class: Literal["", "8.8", "10.9", "12.9"] = ""
    drive: str = ""
    torque: Typed | None = None
    condition: Literal["", "dry", "oiled", "anti_seize", "threadlocker"] = ""
    single_use: bool = False
    source: str = ""


@value_object
class Listed:
    """Fasteners were put on the car's list, each in place of one of the same key."""

    fasteners: tuple[Fastener, ...]
    source: str = ""
    kind: Literal["listed"] = "listed"


@value_object
class Struck:
    """A fastener was struck off the car's list."""

    key: str
    kind: Literal["struck"] = "struck"


@value_object
class Specified:
    """A fastener group's specification was typed from its source; of jobs before 0.2."""

    group: str
    torque: Typed
    source: str
    diameter_mm: float
    pitch_mm: float
    property_class: Literal["", "8.8", "10.9", "12.9"] = ""
    affirmed: bool = False
    kind: Literal["specified"] = "specified"


@value_object
class Moved:
    """The car was brought into another position."""

    to: Position
    corner: Side | None = None
    axle: Literal["front", "rear"] = "front"
    kind: Literal["moved"] = "moved"


@value_object
class Stepped:
    """A step was done, skipped with a reason, or opened again; what rests on it is then open again too."""

    step: str
    outcome: Literal["done", "skipped", "reopened"] = "done"
    reason: str = ""
    kind: Literal["stepped"] = "stepped"


@value_object
class Noted:
    """Words for the record, at a step or for the whole job."""

    text: str
    step: str = ""
    kind: Literal["noted"] = "noted"


@value_object
class TakenOff:
    """Something that no plan names came off: a cover, a liner, a bracket, with so many small fasteners."""

    name: str
    fasteners: int = 0
    place: str = ""
    step: str = ""
    kind: Literal["taken_off"] = "taken_off"


@value_object
class Counted:
    """Flats turned at a threaded end: coming off or going on; ``correct`` (longer positive) is of jobs before 0.2."""

    side: Side
    direction: Literal["off", "on", "correct"]
    flats: int
    axle: Literal["front", "rear"] = "front"
    arm: str = "tie"
    kind: Literal["counted"] = "counted"


@value_object
class Turned:
    """An adjuster of a wheel was turned by some of its smallest steps; longer (or inboard) positive.

    A rod that both wheels of a solid axle share is turned at ``front``.
    """

    wheel: WheelKey | Literal["front"]
    adjuster: str
    steps: int
    kind: Literal["turned"] = "turned"


@value_object
class HeightRead:
    """Hub-to-arch height of a corner in the present position of the car."""

    side: Side
    height: Typed
    axle: Literal["front", "rear"] = "front"
    kind: Literal["height_read"] = "height_read"


@value_object
class Tightened:
    """Fasteners were brought to a stage; of jobs before 0.2.

    ``clamp`` is written by the product when it accepts a bonded bolt, never by the user.
    """

    places: tuple[str, ...]
    to: Literal["loose", "hand", "snug", "torqued"]
    reading: Typed | None = None
    by_feel: str = ""
    override: str = ""
    clamp: Clamp | None = None
    kind: Literal["tightened"] = "tightened"


@value_object
class Drawn:
    """A joint's map was drawn, or drawn again in place of one of the same key."""

    joint: Joint
    kind: Literal["drawn"] = "drawn"


@value_object
class Erased:
    """A joint was taken off; only while nothing of it was worked on."""

    joint: str
    kind: Literal["erased"] = "erased"


@value_object
class Adapter:
    """An adapter on the torque wrench: grip to drive, drive to bolt, and the angle between. [mm, deg]"""

    wrench_mm: float
    adapter_mm: float
    angle_deg: float = 0.0


@value_object
class Worked:
    """Places of a joint were brought to a stage.

    ``percent`` of the final torque in a pass before the last; ``kept`` says why a reading off its value stays;
    ``clamp`` and ``at_height_mm`` are written by the product, never by the user.
    """

    joint: str
    places: tuple[int, ...]
    to: WorkStage
    reading: Typed | None = None
    angle_deg: float = 0.0
    percent: int = 100
    adapter: Adapter | None = None
    by_feel: str = ""
    override: str = ""
    gauge: Gauge | None = None
    clamp: Clamp | None = None
    at_height_mm: float | None = None
    kept: str = ""
    kind: Literal["worked"] = "worked"


@value_object
class Planned:
    """The work order was planned, or planned again: its steps in order, the maps of its fasteners, its lists.

    Steps that are still there under the same key keep what was done on them; a joint that was worked on stays.
    ``measured`` names what is to be read, before and after, as axle and name; ``asks_new`` that steps ask whether a
    single-use fastener is a new one (plans taken before 0.2 did not).
    """

    brief: Brief
    steps: tuple[Step, ...]
    joints: tuple[Joint, ...] = ()
    lists: tuple[Listing, ...] = ()
    remarks: tuple[Remark, ...] = ()
    changes: tuple[Measured, ...] = ()
    measured: tuple[str, ...] = ()
    asks_new: bool = False
    kind: Literal["planned"] = "planned"


@value_object
class Stopped:
    """Work was stopped for the day, with words for whoever goes on."""

    note: str = ""
    kind: Literal["stopped"] = "stopped"


@value_object
class Undone:
    """An earlier event no longer counts; it stays in the log."""

    event: str
    kind: Literal["undone"] = "undone"


@value_object
class Signed:
    """The record was signed over everything before it; ``listed`` are the items accepted as open.

    ``over`` tells what the digest covers: since 0.2 the job's title and car beside its log.
    """

    name: str
    listed: tuple[str, ...] = ()
    digest: str = ""
    over: Literal["log", "job"] = "log"
    kind: Literal["signed"] = "signed"


@value_object
class Reopened:
    """A signed record was opened again, with the reason."""

    reason: str
    kind: Literal["reopened"] = "reopened"


Act = (
    Entered
    | Cleared
    | Filled
    | Settled
    | Attached
    | Listed
    | Struck
    | Specified
    | Moved
    | Stepped
    | Noted
    | TakenOff
    | Counted
    | Turned
    | HeightRead
    | Tightened
    | Drawn
    | Erased
    | Worked
    | Planned
    | Stopped
    | Undone
    | Signed
    | Reopened
)
ACTS: tuple[type[Act], ...] = get_args(Act)


@value_object
class Event:
    """One line of the log: identity, place in it, time in UTC, and the act.

    ``by`` is the person who made it, where one was picked.  ``written`` is the act as JSON where it was written
    before; what is stored, carried and sealed stays as it was then, whatever an act holds today.
    """

    id: str
    seq: int
    at: str
    act: Act
    by: str = ""
    written: str = field(default="", compare=False, repr=False)
