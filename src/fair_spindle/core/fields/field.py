"""The parts a sheet is described with: fields, the methods they may be measured by, the numbers of each."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import field, replace
from functools import cached_property
from typing import Literal

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.basics.value_object import value_object

FieldAxle = Literal["", "front", "rear"]
FieldSide = Literal["", "left", "right"]
Phase = Literal["car", "baseline", "plan", "floor", "check"]
# The phases in which a job reads its car: before the work and after it.
MEASURING: tuple[Literal["baseline", "check"], ...] = ("baseline", "check")


@value_object
class Part:
    """One number of a measurement: quantity, unit meant where none is typed, limits in that unit.

    ``half_width`` is what the instrument leaves open unless it has a record [core unit]; ``carry``
    numbers are the same at every wheel, so the last one typed is offered again.
    """

    name: str
    label: str
    quantity: str
    unit: str
    low: float
    high: float
    optional: bool = False
    half_width: float = 0.0
    carry: bool = False


@value_object
class Method:
    """One way to take a measurement; ``gives`` is the unit of what follows where that is no part of it.

    ``set_up`` is the half width of what setting it up leaves open in its first part, whatever instrument reads it: a
    rim that does not run true, a string laid parallel by tape. [core unit of that part]
    """

    name: str
    label: str
    parts: tuple[Part, ...]
    hint: str = ""
    gives: str = ""
    set_up: float = 0.0

    @property
    def unit(self) -> str:
        """Unit of what the method gives."""
        return self.gives or self.parts[0].unit


@value_object
class Field:
    """One thing that is asked, in the trade's words.

    ``name`` is its key below axle and side.  ``half_width`` is what a reading leaves open unless
    its parts or its instrument say so [core unit], ``relative`` the same as a share of the value.
    ``readings`` are asked for one after the other; ``usual`` and ``sides`` say what is out of line
    [core unit].  ``instead`` names a field that answers the same question, ``part_of`` the arm it belongs to.
    """

    name: str
    label: str
    group: str
    phase: Phase = "baseline"
    methods: tuple[Method, ...] = ()
    choices: tuple[tuple[str, str], ...] = ()
    required: bool = True
    hint: str = ""
    half_width: float = 0.0
    relative: float = 0.0
    readings: int = 1
    settled: bool = False
    usual: tuple[float, float] | None = None
    sides: float = 0.0
    instead: str = ""
    part_of: str = ""
    axle: FieldAxle = ""
    side: FieldSide = ""

    @cached_property
    def key(self) -> str:
        """Where it stands on the car, and what it is."""
        return ".".join(part for part in (self.axle or "car", self.side, self.name) if part)

    @property
    def words(self) -> bool:
        """Whether it takes words, not a number."""
        return bool(self.methods) and self.methods[0].parts[0].quantity in ("words", "table")


@value_object
class Sheet:
    """Every field of one job or car, by key, in the order they are shown."""

    fields: Mapping[str, Field] = field(default_factory=dict)

    def find(self, key: str) -> Field:
        """The field of that key."""
        if key not in self.fields:
            raise InputError(f"There is no field {key!r} on this car and job.", field="key")
        return self.fields[key]

    @cached_property
    def keys_by_name(self) -> Mapping[str, Sequence[str]]:
        """Keys of the fields of each name, wherever on the car."""
        found: dict[str, list[str]] = {}
        for key, one in self.fields.items():
            found.setdefault(one.name, []).append(key)
        return found

    @cached_property
    def judged(self) -> Mapping[str, Field]:
        """Fields whose readings can be out of line: with what is usual, or with how far the sides may differ."""
        return {key: one for key, one in self.fields.items() if one.usual or one.sides}

    def of_phase(self, phase: Phase) -> tuple[Field, ...]:
        """Fields of one phase."""
        return tuple(one for one in self.fields.values() if one.phase == phase)


def sheet_of(fields: Iterable[Field]) -> Sheet:
    """Gather fields into a sheet.

    A later field of the same key replaces an earlier one, in its place.
    """
    return Sheet({one.key: one for one in fields})


def typed(quantity: str, unit: str, low: float, high: float, label: str = "Value") -> tuple[Method, ...]:
    """One number, typed.

    Parameters
    ----------
    quantity, unit : str
        What is measured, and the unit meant where none is typed. [-]
    low, high : float
        Limits. [`unit`]
    label : str, optional
        Name of the number. [-]

    Returns
    -------
    tuple of Method
        The one method ``"typed"`` with the one part ``"value"``.

    Raises
    ------
    Nothing.

    Notes
    -----
    A lone number is called like its field.

    Source
    ------
    derived, see Notes

    Examples
    --------
    >>> typed("length", "mm", 0, 10)[0].parts[0].name
    'value'
    """
    return (Method("typed", "Typed", (Part("value", label, quantity, unit, low, high),)),)


def placed(one: Field, axle: FieldAxle, side: FieldSide = "") -> Field:
    """The field at one axle and side; a lone typed number takes the field's own name.

    Methods with several numbers keep the names of their numbers.

    Examples
    --------
    >>> placed(Field("toe", "Toe", "At the wheel"), "rear", "left").key
    'rear.left.toe'
    """
    methods = tuple(
        replace(method, parts=(replace(method.parts[0], label=one.label),))
        if method.name == "typed" and len(method.parts) == 1
        else method
        for method in one.methods
    )
    return replace(one, axle=axle, side=side, methods=methods)
