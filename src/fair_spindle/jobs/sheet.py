"""What the forms ask, with the units to choose from."""

from __future__ import annotations

from fair_spindle.core.baseline import FIELDS, Field, Method, Part
from fair_spindle.core.fasteners import PROPERTY_CLASSES
from fair_spindle.core.units import units_of
from fair_spindle.jobs import models as m


def show_sheet() -> m.SheetView:
    """Every field of the baseline and the check."""
    return m.SheetView(
        fields=[_field(field) for field in FIELDS.values()],
        torque_units=_units("torque"),
        length_units=_units("length"),
        property_classes=list(PROPERTY_CLASSES),
    )


def _units(quantity: str) -> list[m.UnitView]:
    return [m.UnitView(key=unit.key, label=unit.label) for unit in units_of(quantity)]


def _field(field: Field) -> m.FieldView:
    return m.FieldView.model_validate(
        {
            "key": field.key,
            "label": field.label,
            "group": field.group,
            "owner": field.key.partition(".")[0],
            "phase": field.phase,
            "required": field.required,
            "hint": field.hint,
            "methods": [_method(method) for method in field.methods],
            "choices": [m.ChoiceView(value=value, label=label) for value, label in field.choices],
        }
    )


def _method(method: Method) -> m.MethodView:
    return m.MethodView(name=method.name, label=method.label, parts=[_part(part) for part in method.parts])


def _part(part: Part) -> m.PartView:
    return m.PartView(
        name=part.name, label=part.label, unit=part.unit, units=_units(part.quantity), optional=part.optional
    )
