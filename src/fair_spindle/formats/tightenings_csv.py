"""Every tightening of a job as CSV: where, to what, by which value and source; as in docs/csv.md."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.bolts.joint import BoltSpec
from fair_spindle.core.joblog.log import Event, Tightened, Worked
from fair_spindle.core.joblog.old_acts import of_places
from fair_spindle.core.joblog.reducer import effective
from fair_spindle.core.joblog.state import JobState
from fair_spindle.formats.csv_rows import write_rows

COLUMNS = (
    "at",
    "joint",
    "axle",
    "side",
    "place",
    "to",
    "diameter_mm",
    "pitch_mm",
    "property_class",
    "specified",
    "unit",
    "angle_deg",
    "source",
    "reading",
    "reading_unit",
    "percent",
    "by_feel",
    "override",
    "height_mm",
    "window_low_mm",
    "window_high_mm",
    "instrument",
    "by",
)


def write_tightenings(state: JobState, log: Sequence[Event]) -> bytes:
    """Every act on a fastener that was not undone, a row for each place."""
    return write_rows(COLUMNS, _rows(state, log))


def _rows(state: JobState, log: Sequence[Event]) -> Iterator[dict[str, object]]:
    for event in effective(log):
        told = of_places(event.act) if isinstance(event.act, Tightened) else (event.act,)
        for act in told:
            if isinstance(act, Worked):
                yield from _worked(event, act, state)


def _worked(event: Event, act: Worked, state: JobState) -> Iterator[dict[str, object]]:
    joint = state.joints.get(act.joint)
    bolts = {bolt.number: bolt for bolt in joint.bolts} if joint else {}
    for number in act.places:
        bolt = bolts.get(number)
        spec = bolt.spec if bolt else None
        yield {
            **_common(event, act.reading, act.by_feel, act.override),
            "joint": joint.label if joint else act.joint,
            "axle": joint.axle if joint else "",
            "side": joint.side if joint else "",
            "place": number,
            "to": act.to,
            "percent": act.percent,
            "angle_deg": act.angle_deg or "",
            "instrument": act.gauge.name if act.gauge else "",
            "height_mm": act.clamp.height_mm if act.clamp else act.at_height_mm or "",
            "window_low_mm": act.clamp.low_mm if act.clamp else "",
            "window_high_mm": act.clamp.high_mm if act.clamp else "",
            **(_thread(bolt.diameter_mm, bolt.pitch_mm, bolt.property_class) if bolt else {}),
            **(_spec(spec) if spec else {}),
        }


def _common(event: Event, reading: Typed | None, by_feel: str, override: str) -> dict[str, object]:
    return {
        "at": event.at,
        "reading": reading.text if reading else "",
        "reading_unit": reading.unit if reading else "",
        "by_feel": by_feel,
        "override": override,
        "by": event.by,
    }


def _thread(diameter: float, pitch: float, grade: str) -> dict[str, object]:
    return {"diameter_mm": diameter or "", "pitch_mm": pitch or "", "property_class": grade}


def _spec(spec: BoltSpec) -> dict[str, object]:
    text = spec.torque.text if spec.torque else ""
    if spec.torque_to:
        text = f"{text}–{spec.torque_to.text}"
    return {"specified": text, "unit": spec.torque.unit if spec.torque else "", "source": spec.source}
