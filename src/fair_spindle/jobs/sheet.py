"""What the forms ask, with the units to choose from."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping

from fair_spindle.core.fasteners import PROPERTY_CLASSES
from fair_spindle.core.sheet.field import Field, Method, Part, Sheet
from fair_spindle.core.units import UNITS, units_of
from fair_spindle.jobs import book_models as m


def show_sheet(sheet: Sheet, units: Mapping[str, str]) -> m.SheetView:
    """Every field of a job or of a car's record, in the units the workshop types."""
    return m.SheetView(shape=mark_of(sheet), fields=[_field(field, units) for field in sheet.fields.values()])


def show_choices(units: Mapping[str, str]) -> m.ChoicesView:
    """What can be chosen from anywhere; the workshop's unit of torque first."""
    return m.ChoicesView(
        torque_units=sorted(_units("torque"), key=lambda unit: unit.key != units.get("torque")),
        length_units=_units("length"),
        property_classes=list(PROPERTY_CLASSES),
    )


def mark_of(sheet: Sheet) -> str:
    """A short mark that is the same for the same fields."""
    return hashlib.sha256("\n".join(sheet.fields).encode()).hexdigest()[:12]


def _units(quantity: str) -> list[m.UnitView]:
    return [m.UnitView(key=unit.key, label=unit.label) for unit in units_of(quantity)]


def _field(field: Field, units: Mapping[str, str]) -> m.FieldView:
    return m.FieldView(
        key=field.key,
        name=field.name,
        label=field.label,
        group=field.group,
        axle=field.axle,
        side=field.side,
        phase=field.phase,
        required=field.required,
        hint=field.hint,
        words=field.words,
        readings=field.readings,
        settled=field.settled,
        methods=[_method(method, units) for method in field.methods],
        choices=[m.ChoiceView(value=value, label=label) for value, label in field.choices],
    )


def _method(method: Method, units: Mapping[str, str]) -> m.MethodView:
    return m.MethodView(
        name=method.name,
        label=method.label,
        hint=method.hint,
        unit=method.unit,
        parts=[_part(part, units) for part in method.parts],
    )


def _part(part: Part, units: Mapping[str, str]) -> m.PartView:
    quantity = UNITS[part.unit].quantity if part.unit else part.quantity
    return m.PartView(
        name=part.name,
        label=part.label,
        quantity=quantity,
        unit=units.get(quantity, part.unit) if part.unit else part.unit,
        units=_units(part.quantity),
        optional=part.optional,
        carry=part.carry,
    )
