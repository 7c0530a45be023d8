"""A joint: the fasteners that hold one thing, where they sit, what each is tightened to."""

from __future__ import annotations

from typing import Literal

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.value_object import value_object


@value_object
class BoltSpec:
    """What a fastener is to be tightened to, exactly as typed, and where that stands.

    A torque or a range of torques, a torque and then an angle, an angle from snug, or a stretch.
    """

    way: Literal["torque", "torque_angle", "angle", "stretch"] = "torque"
    torque: Typed | None = None
    torque_to: Typed | None = None
    angle_deg: float = 0.0
    stretch_mm: float = 0.0
    condition: Literal["", "dry", "oiled", "anti_seize", "threadlocker"] = ""
    source: str = ""
    trust: Literal["", "maker", "part_maker", "second_hand"] = ""
    affirmed: bool = False


@value_object
class Bolt:
    """A numbered place of a joint: where it sits on its plan, which way round, what is in it.

    ``head``, ``nut`` and ``hold`` are drives and sizes, and what must be held; ``condition`` is how its thread is
    now; ``slots`` of a castle nut; ``reach`` says why no wrench fits, where none does.
    """

    number: int
    x_mm: float = 0.0
    y_mm: float = 0.0
    note: str = ""
    diameter_mm: float = 0.0
    pitch_mm: float = 0.0
    length_mm: float = 0.0
    property_class: Literal["", "8.8", "10.9", "12.9"] = ""
    head: str = ""
    nut: str = ""
    hold: str = ""
    spec: BoltSpec | None = None
    condition: Literal["", "dry", "oiled", "anti_seize", "threadlocker"] = ""
    single_use: bool = False
    aluminium: bool = False
    lock: Literal["", "cotter", "tab", "jam_nut"] = ""
    slots: int = 0
    reach: str = ""


JointRole = Literal["rubber_pivot", "taper", "clamp", "bracket", "wheel", "axle", "link", "jam"]


@value_object
class Joint:
    """A map of fasteners that hold one thing: its numbered places, and the order and passes they are tightened in.

    A ``rubber_pivot`` names its bushing's kind and the arm it turns, so that its clamp window is known; ``told_by``
    is the field that tells the bushing's kind, where one does.
    """

    key: str
    label: str
    role: JointRole
    bolts: tuple[Bolt, ...]
    axle: Literal["", "front", "rear"] = ""
    side: Literal["", "left", "right"] = ""
    order: Literal["cross", "star", "spiral", "row"] = "cross"
    passes_pct: tuple[int, ...] = (100,)
    bushing: Literal["", "bonded_rubber", "fluid_filled_rubber", "greased_poly", "spherical", "rolling_element"] = ""
    arm: str = ""
    bush_rate_nm_per_deg: float = 0.0
    pattern: Literal["free", "circle", "rectangle", "row"] = "free"
    told_by: str = ""
