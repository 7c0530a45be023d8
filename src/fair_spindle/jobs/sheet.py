"""What the forms ask, with the units to choose from."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from functools import cache, lru_cache

from fair_spindle.core.basics.remember import by_identity
from fair_spindle.core.basics.units import UNITS, units_of
from fair_spindle.core.bolts.fasteners import PROPERTY_CLASSES
from fair_spindle.core.bolts.stages import STAGES
from fair_spindle.core.fields.cards import CARDS, card_of
from fair_spindle.core.fields.field import Field, Method, Part, Sheet
from fair_spindle.core.joblog.kinds import KEPT, JobTemplate
from fair_spindle.core.joblog.required_fields import is_asked, is_required, shape_now
from fair_spindle.core.joblog.waiting import GATE_KINDS, names_of_kinds
from fair_spindle.jobs import book_models as m
from fair_spindle.jobs.snapshot import Standing

# Fields as they are shown, of some ten layouts.
FIELDS_KEPT = 4000


def show_sheet(now: Standing, units: Mapping[str, str]) -> m.SheetView:
    """Every field of a job or of a car's record, in the units the workshop types, and which of them it asks for."""
    shape, typed_in = shape_now(now.state), _one_of(tuple(sorted(units.items())))
    return m.SheetView(
        shape=mark_of(now),
        fields=[
            _field(field, typed_in, is_required(field, now.template, shape), is_asked(field, now.template, shape))
            for field in now.sheet.fields.values()
        ],
    )


def show_choices(units: Mapping[str, str]) -> m.ChoicesView:
    """What can be chosen from anywhere; the workshop's unit of torque first."""
    return m.ChoicesView(
        torque_units=sorted(_units("torque"), key=lambda unit: unit.key != units.get("torque")),
        length_units=_units("length"),
        property_classes=list(PROPERTY_CLASSES),
        stages=[m.StageView.model_validate(one, from_attributes=True) for one in STAGES.values()],
        entry_names=names_of_kinds(),
        gate_kinds=list(GATE_KINDS),
        cards={key: m.CardView.model_validate(one, from_attributes=True) for key, one in CARDS.items()},
    )


def mark_of(now: Standing) -> str:
    """A short mark that is the same for the same fields, asked for the same."""
    return _mark(now.sheet, now.template)


@by_identity(most=KEPT)
def _mark(sheet: Sheet, template: JobTemplate) -> str:
    told = (*sheet.fields, *sorted(template.measured), *template.measures)
    return hashlib.sha256("\n".join(told).encode()).hexdigest()[:12]


@lru_cache(maxsize=8)
def _one_of(units: tuple[tuple[str, str], ...]) -> Mapping[str, str]:
    """The same thing for units that say the same."""
    return dict(units)


@cache
def _units(quantity: str) -> list[m.UnitView]:
    return [m.UnitView(key=unit.key, label=unit.label) for unit in units_of(quantity)]


@by_identity(most=FIELDS_KEPT)
def _field(field: Field, units: Mapping[str, str], required: bool, asked: bool) -> m.FieldView:
    return m.FieldView.of(
        field,
        required=required,
        asked=asked,
        methods=[_method(field.key, method, units) for method in field.methods],
        choices=[m.ChoiceView(value=value, label=label) for value, label in field.choices],
    )


def _method(key: str, method: Method, units: Mapping[str, str]) -> m.MethodView:
    return m.MethodView.of(
        method, card=card_of(key, method.name), parts=[_part(part, units) for part in method.parts]
    )


def _part(part: Part, units: Mapping[str, str]) -> m.PartView:
    quantity = UNITS[part.unit].quantity if part.unit else part.quantity
    return m.PartView.of(
        part,
        quantity=quantity,
        unit=units.get(quantity, part.unit) if part.unit else part.unit,
        units=_units(part.quantity),
    )
