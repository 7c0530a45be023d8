"""Where the places of joints stand."""

from __future__ import annotations

from dataclasses import replace
from math import radians

from fair_spindle.core.basics.spelling import read_number
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.bolts.stages import WorkStage
from fair_spindle.core.bolts.tightening import set_with_adapter
from fair_spindle.core.joblog.log import Adapter, Clamp, Event, Worked
from fair_spindle.core.planning.template import Position


@value_object
class BoltState:
    """Where one place of a joint stands; torque as it came to the bolt [N·mm], angle past it [deg], pass reached [%].

    ``at_height`` is the corner's height when it was torqued; None where none was read. [mm]  ``position`` is how the
    car stood.
    """

    stage: WorkStage | None = None
    torque: float | None = None
    reading: Typed | None = None
    angle: float = 0.0
    percent: int = 0
    by_feel: str = ""
    override: str = ""
    clamp: Clamp | None = None
    at_height: float | None = None
    adapter: Adapter | None = None
    gauge: str = ""
    seq: int = 0
    position: Position | None = None
    kept: str = ""


def after_work(now: BoltState, act: Worked, event: Event, position: Position) -> BoltState:
    """A place after one piece of work.

    Looser than before forgets what was reached.
    """
    if act.to in ("loose", "hand"):
        return BoltState(act.to, seq=event.seq, position=position)
    if act.to == "snug":
        return BoltState("snug", seq=event.seq, position=position, adapter=act.adapter)
    if act.to == "torqued":
        torque = None
        if act.reading:
            read = read_number(act.reading.text, "torque", act.reading.unit, "reading").value
            torque = at_bolt(read, act.adapter)
        stage: WorkStage = "torqued" if act.percent >= 100 else "snug"
        return BoltState(
            stage,
            torque,
            act.reading,
            0.0,
            act.percent,
            act.by_feel,
            act.override,
            act.clamp,
            act.at_height_mm,
            act.adapter,
            act.gauge.name if act.gauge else "",
            event.seq,
            position,
            act.kept,
        )
    evidence = {"clamp": act.clamp, "at_height": act.at_height_mm} if act.clamp else {}
    return replace(now, stage=act.to, angle=now.angle + act.angle_deg, seq=event.seq, **evidence)  # type: ignore[arg-type]


def bolt_key(joint: str, number: int) -> str:
    """Key of a place of a joint.

    Joint keys hold no colon.

    Examples
    --------
    >>> bolt_key("subframe", 3)
    'subframe:3'
    """
    return f"{joint}:{number}"


def at_bolt(reading: float, adapter: Adapter | None) -> float:
    """Torque that comes to the bolt when a wrench with an adapter reads something.

    Parameters
    ----------
    reading : float
        As the wrench says. [N·mm]
    adapter : Adapter, optional
        On the wrench. [mm, deg]

    Returns
    -------
    float
        At the bolt. [N·mm]

    Raises
    ------
    OutOfRange
        As :func:`fair_spindle.core.bolts.tightening.set_with_adapter`.

    Notes
    -----
    The inverse of what is to be set: reading · (L + E cos angle)/L.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> round(at_bolt(80e3, Adapter(400.0, 100.0)))
    100000
    """
    if adapter is None:
        return reading
    share = set_with_adapter(1.0, adapter.wrench_mm, adapter.adapter_mm, radians(adapter.angle_deg))
    return reading / share
