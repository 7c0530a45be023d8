"""The acts of the floor log as data: strict models made from the core's own definitions.

The core's dataclasses are the one definition; what is read from outside passes through a
Pydantic model derived from them, so that nothing unknown or half-typed gets in.
"""

from __future__ import annotations

import types
from dataclasses import MISSING, Field, fields, is_dataclass
from functools import cache, reduce
from operator import or_
from typing import TYPE_CHECKING, Annotated, Any, Union, get_args, get_origin, get_type_hints

from pydantic import AfterValidator, BaseModel, ConfigDict, create_model
from pydantic import Field as ModelField

from fair_spindle.core.joblog.log import ACTS

LONGEST_LIST = 1000


def _no_controls(text: str) -> str:
    if any(ord(letter) < 32 and letter not in "\n\t" for letter in text):
        raise ValueError("control characters are not allowed")
    return text


Text = Annotated[str, ModelField(max_length=2000), AfterValidator(_no_controls)]


class Strict(BaseModel):
    """Nothing unknown, nothing converted silently."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, frozen=True, defer_build=True)


@cache
def model_of(kind: type) -> type[Strict]:
    """Strict model of one of the core's dataclasses."""
    hints = get_type_hints(kind)
    members = {member.name: (_taken(hints[member.name]), _default(member)) for member in fields(kind)}
    return create_model(kind.__name__, __base__=Strict, __doc__=kind.__doc__, **members)  # type: ignore[call-overload, no-any-return]


def _default(member: Field[Any]) -> Any:
    if member.name == "kind":
        return ...
    if member.default is not MISSING:
        return list(member.default) if isinstance(member.default, tuple) else member.default
    return ModelField(default_factory=member.default_factory) if member.default_factory is not MISSING else ...


def _taken(hint: Any) -> Any:
    origin, inside = get_origin(hint), get_args(hint)
    if hint is str:
        return Text
    if is_dataclass(hint):
        return model_of(hint)  # type: ignore[arg-type]
    if origin in (Union, types.UnionType):
        return reduce(or_, map(_taken, inside))
    if origin is tuple:
        return Annotated[list[_taken(inside[0])], ModelField(max_length=LONGEST_LIST)]  # type: ignore[misc]
    if origin is dict:
        return Annotated[dict[Text, _taken(inside[1])], ModelField(max_length=LONGEST_LIST)]  # type: ignore[misc]
    return hint


if TYPE_CHECKING:
    ActModel = Strict
else:
    ActModel = Annotated[reduce(or_, map(model_of, ACTS)), ModelField(discriminator="kind")]
