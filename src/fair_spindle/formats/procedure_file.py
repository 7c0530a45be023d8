"""The procedure file: a kind of job as one TOML document, read strictly and written back."""

from __future__ import annotations

import re
import tomllib
from dataclasses import MISSING, Field, fields, is_dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from pydantic import ValidationError

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.joblog.plain import build
from fair_spindle.core.planning.car_parts import parts_of_layouts, procedure_of
from fair_spindle.core.planning.procedure import Library, Procedure
from fair_spindle.core.planning.validity import check_procedure
from fair_spindle.formats.acts import model_of

LARGEST = 256 * 1024
DEEPEST = 20


@cache
def shipped() -> Library:
    """The kinds of job that come with the product."""
    folder = files("fair_spindle.procedures")
    texts = {file.name: file.read_bytes() for file in folder.iterdir() if file.name.endswith(".toml")}
    common = read_unchecked(texts.pop("common.toml"))
    read = [read_procedure(texts[name], common) for name in sorted(texts)]
    kinds = {kind.key: kind for kind in _joint_kinds()}
    swaps = [procedure_of(part, kinds) for part in parts_of_layouts()]
    for swap in swaps:
        check_procedure(swap, common)
    return Library(common, {one.key: one for one in (*read, *swaps)})


def _joint_kinds() -> list[Procedure]:
    """The kinds of joint, and the skeleton of swapping a part; they are put together to procedures."""
    folder = files("fair_spindle.procedures") / "joint_kinds"
    return [read_unchecked(file.read_bytes()) for file in folder.iterdir() if file.name.endswith(".toml")]


def read_procedure(content: bytes, common: Procedure) -> Procedure:
    """Read a procedure and hold it against the rules for writing one; InputError names what does not hold."""
    procedure = read_unchecked(content)
    check_procedure(procedure, common)
    return procedure


def read_unchecked(content: bytes) -> Procedure:
    """Read the document; only its form is held against the contract."""
    if len(content) > LARGEST:
        raise InputError("A procedure file is at most 256 kB.", field="file")
    try:
        text = content.decode()
        if _depth(text) > DEEPEST:
            raise InputError(f"A procedure file is nested at most {DEEPEST} deep.", field="file")
        data = tomllib.loads(text)
    except UnicodeDecodeError:
        raise InputError("This is no text file. Choose a procedure file (TOML).", field="file") from None
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise InputError(f"This is no whole TOML document: {error}.", field="file") from None
    except InputError:
        raise
    except ValueError:
        raise InputError("This document holds a number longer than any that is meant.", field="file") from None
    try:
        model = model_of(Procedure).model_validate(data)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        where = "/".join(str(part) for part in first["loc"])
        raise InputError(f"Procedure file at {where}: {first['msg']}.", field=where) from None
    return build(Procedure, model.model_dump())


def _depth(text: str) -> int:
    """How deep the document nests, by its brackets and dotted names, texts left out."""
    bare = re.sub(r'"(?:\\.|[^"\\\n])*"|\'[^\'\n]*\'', "", text)
    deepest = max((line.partition("=")[0].count(".") for line in bare.splitlines()), default=0)
    depth = 0
    for sign in re.findall(r"[\[\]{}]", bare):
        depth = depth + 1 if sign in "[{" else max(0, depth - 1)
        deepest = max(deepest, depth)
    return deepest


def write_procedure(procedure: Procedure) -> bytes:
    """Write a procedure so that reading it gives the same."""
    import tomli_w

    return tomli_w.dumps(_told(procedure)).encode()


def _told(one: Any) -> Any:
    """A dataclass as a table of what differs from its defaults."""
    if is_dataclass(one):
        kept = ((member.name, getattr(one, member.name)) for member in fields(one) if not _usual(one, member))
        return {name: _told(value) for name, value in kept}
    if isinstance(one, tuple):
        return [_told(part) for part in one]
    return {name: _told(value) for name, value in one.items()} if isinstance(one, dict) else one


def _usual(one: Any, member: Field[Any]) -> bool:
    value = getattr(one, member.name)
    if member.default_factory is not MISSING:
        return bool(value == member.default_factory())
    return member.default is not MISSING and bool(value == member.default)
