"""What a job and a car's record have in common on the screen: entries, wheels, loads, fasteners."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.typed import Typed
from fair_spindle.core.basics.units import from_core
from fair_spindle.core.basics.wheels import AXLES, Wheel
from fair_spindle.core.bolts.joint import Bolt
from fair_spindle.core.fields.doubts import Doubt
from fair_spindle.core.fields.field import Sheet
from fair_spindle.core.fields.walk import WALK_ROUND
from fair_spindle.core.joblog.findings import overdue, unsettled
from fair_spindle.core.joblog.listed_places import listed_places
from fair_spindle.core.joblog.log import Entered, Fastener
from fair_spindle.core.joblog.readings import Quantity
from fair_spindle.core.joblog.required_fields import shape_now
from fair_spindle.core.joblog.state import Taken
from fair_spindle.core.predict.bolted import doubts_of
from fair_spindle.jobs import book_models as m
from fair_spindle.jobs.sheet import mark_of
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.jobs.wording import say_act, say_entry, say_field, say_numbers, say_quantity, say_spec


def show_car(now: Standing) -> m.CarView:
    """Everything in a car's record, for the interface."""
    arms = {f"{axle}.{arm.key}": arm.label for axle in AXLES for arm in shape_now(now.state).arms(axle)}
    return m.CarView(
        **show_book(now),
        fasteners=[_fastener(row, bolt) for row, bolt in listed_places(now.state)],
        loads=show_loads(now),
        arms=arms,
    )


def show_book(now: Standing) -> dict[str, Any]:
    """The members that every book shows."""
    last = now.last_undoable
    return {
        "id": now.book.id,
        "title": now.book.title,
        "car": now.book.car,
        "created_at": now.book.created_at,
        "version": now.version,
        "shape": mark_of(now),
        "last_event": last.id if last else "",
        "last_said": say_act(last.act, now.template, now.sheet, now.names) if last else "",
        "entries": shown_once(now, "entries", _entries),
    }


def shown_once(now: Standing, name: str, show: Callable[[Standing], Any], views: str = "read_views") -> Any:
    """A view of what was read, or of another part of the state; the same one while that does not change."""
    kept = getattr(now, views)
    if name not in kept:
        kept[name] = show(now)
    return kept[name]


def _entries(now: Standing) -> dict[str, m.EntryView]:
    found, sheet, read = {doubt.key: doubt for doubt in now.doubts}, now.sheet, now.readings.quantities
    asked, shown, views = sheet.fields, now.entry_views, {}
    for key, taken in now.state.entries.items():
        if key not in asked:
            continue
        kept, doubt = shown.get(key), found.get(key)
        if kept is None or kept[0] is not taken or kept[1] != doubt:
            kept = shown[key] = (taken, doubt, _entry(taken, sheet, read.get(key), doubt))
        views[key] = kept[2]
    return views


def show_typed(typed: Typed) -> m.TypedView:
    """A number as it was typed."""
    return m.TypedView(text=typed.text, unit=typed.unit)


def show_wheels(now: Standing) -> list[m.WheelView]:
    """What was read at each wheel."""
    wheels: list[m.WheelView] = shown_once(now, "wheels", _wheels)
    return wheels


def _wheels(now: Standing) -> list[m.WheelView]:
    asked = now.sheet.keys_by_name.get("height", ())
    return [_wheel(now, Wheel(corner)) for corner in WALK_ROUND if f"{corner}.height" in asked]


def show_loads(now: Standing) -> m.LoadsView | None:
    """What stands on the four wheels."""
    loads = now.loads
    if loads is None:
        return None
    return m.LoadsView(
        wheels=[
            m.LoadView(
                wheel=wheel,
                label=wheel.label,
                load_n=load.force,
                estimated=load.estimated,
                unsprung_n=loads.unsprung[wheel].force,
                unsprung_estimated=loads.unsprung[wheel].estimated,
                sprung_n=loads.sprung(wheel).force,
            )
            for wheel, load in loads.wheels.items()
        ],
        total_n=loads.total,
        front_pct=from_core(loads.front_share, "pct"),
        left_pct=from_core(loads.left_share, "pct"),
        cross_pct=from_core(loads.cross, "pct"),
    )


def _entry(taken: Taken, sheet: Sheet, read: Quantity | None, doubt: Doubt | None) -> m.EntryView:
    act = taken.act
    asked = sheet.fields[act.key]
    day = overdue(taken)
    flags = [unsettled(taken)] if asked.settled else []
    return m.EntryView(
        key=act.key,
        label=say_field(act.key, sheet),
        said=say_numbers(act),
        event=taken.event.id,
        at=taken.event.at,
        method=act.method,
        typed={name: show_typed(typed) for name, typed in act.typed.items()},
        choice=act.choice,
        plus_minus=show_typed(act.plus_minus) if act.plus_minus else None,
        understood=_understood(act, sheet, read),
        again=[{name: show_typed(typed) for name, typed in row.items()} for row in act.again],
        gauge=act.gauge.name if act.gauge else "",
        source=taken.source,
        carried=taken.source == m.FROM_RECORD,
        flags=[flag for flag in (*flags, f"calibration ran out on {day}" if day else "") if flag],
        doubt=doubt.message if doubt and not doubt.answered else "",
    )


@by_identity()
def _understood(act: Entered, sheet: Sheet, read: Quantity | None) -> str:
    """How an entry is understood, from what was read already."""
    return say_quantity(sheet.fields[act.key], read, act.method) if read else say_entry(act, sheet)


def _wheel(now: Standing, wheel: Wheel) -> m.WheelView:

    def said(name: str) -> str:
        key = f"{wheel}.{name}"
        taken = now.state.entries.get(key)
        return _understood(taken.act, now.sheet, now.readings.quantities.get(key)) if taken else ""

    load = now.loads.wheels[wheel] if now.loads else None
    return m.WheelView(
        key=wheel,
        label=wheel.label,
        height=said("height"),
        toe=said("toe"),
        camber=said("camber"),
        caster=said("caster"),
        load=f"{from_core(load.force, 'kgf'):.0f} kg" if load else "",
        load_estimated=load.estimated if load else False,
    )


def _fastener(row: Fastener, bolt: Bolt) -> m.FastenerView:
    thread = f"M{row.diameter_mm:g} × {row.pitch_mm:g}" if row.diameter_mm else ""
    said = say_spec(bolt.spec) if bolt.spec else ""
    return m.FastenerView.of(
        row,
        torque=show_typed(row.torque) if row.torque else None,
        said=", ".join(filter(None, (thread, row.property_class, said))),
        doubt=" ".join(doubts_of(bolt)),
    )
