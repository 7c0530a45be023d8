"""Which car a sheet is made for: the choices that decide what else has to be asked."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property, lru_cache

from fair_spindle.core.basics.value_object import value_object
from fair_spindle.core.basics.wheels import Axle
from fair_spindle.core.geometry.layouts import ArmKind, Layout, arms_of, find_layout

DECIDING = ("layout", "linkage", "adjust", "spring.kind", "bar.fitted", "new_spring.fit")


@value_object
class Shape:
    """The choices that decide which fields a car has, by the fields' keys."""

    choices: frozenset[tuple[str, str]] = frozenset()

    def choice(self, key: str, otherwise: str = "") -> str:
        """What was chosen in one field."""
        return self._by_key.get(key, otherwise)

    @cached_property
    def _by_key(self) -> dict[str, str]:
        return dict(self.choices)

    def layout(self, axle: Axle) -> Layout | None:
        """Layout of an axle, None while it is not known."""
        key = self.choice(f"{axle}.layout")
        return find_layout(key) if key else None

    def arms(self, axle: Axle) -> tuple[ArmKind, ...]:
        """Arms and links of an axle."""
        layout = self.layout(axle)
        return arms_of(layout, axle, self.choice(f"{axle}.linkage", "rack")) if layout else ()

    def steering_axis(self, axle: Axle) -> bool:
        """Whether caster can be read at this axle: wherever it steers, also where nobody said what it hangs on."""
        return axle == "front"


def shape_of(choices: Mapping[str, str]) -> Shape:
    """Pick out of all choices made those that decide what else is asked.

    Layout, steering linkage, way of adjusting each arm, kind of spring now and from now on, whether a bar is fitted.
    """
    return _shape(frozenset((key, word) for key, word in choices.items() if key.endswith(DECIDING)))


@lru_cache(maxsize=512)
def _shape(deciding: frozenset[tuple[str, str]]) -> Shape:
    """The very same for the same choices, by which what follows from it is remembered."""
    return Shape(deciding)
