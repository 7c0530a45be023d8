"""The job file: one JSON document that carries a job and its whole log.

Written in a canonical form, so that the same job gives the same bytes.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any, Literal, TypeVar

from pydantic import AfterValidator, Field, PrivateAttr, StringConstraints, ValidationError

from fair_spindle.core.basics.errors import InputError
from fair_spindle.core.joblog.log import Event
from fair_spindle.core.joblog.plain import act_of, as_read_today, plain
from fair_spindle.formats.acts import ActModel, Strict, Text
from fair_spindle.formats.sizes import LARGEST_FILE

FORMAT = "fair-spindle/job"
VERSION = 1
Identity = Annotated[str, StringConstraints(pattern=r"^[0-9a-zA-Z-]{8,64}$")]


def _a_moment(text: str) -> str:
    datetime.fromisoformat(text.replace("Z", "+00:00"))
    return text


Moment = Annotated[
    str,
    StringConstraints(pattern=r"^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?Z$"),
    AfterValidator(_a_moment),
]


class BookHead(Strict):
    """What a job or a car is called and what kind it is; ``car_id`` names the car's record."""

    id: Identity
    template: Text
    title: Text
    car: Text
    created_at: Moment
    car_id: Identity | None = None


class LogLine(Strict):
    """One event of the log."""

    id: Identity
    seq: Annotated[int, Field(ge=1)]
    at: Moment
    act: ActModel
    by: Annotated[Text, Field(max_length=80)] = ""
    _written: str = PrivateAttr("")


Document = TypeVar("Document", bound=Strict)
Log = Annotated[list[LogLine], Field(max_length=20000)]


class CarPart(Strict):
    """The record of the job's car."""

    head: BookHead
    log: Log

    def events(self) -> list[Event]:
        """The log as the core takes it."""
        return _events(self.log)


class JobFile(Strict):
    """The whole document."""

    format: Literal["fair-spindle/job"]
    version: Literal[1]
    job: BookHead
    car: CarPart | None = None
    log: Log

    def events(self) -> list[Event]:
        """The log as the core takes it."""
        return _events(self.log)


def _events(log: Sequence[LogLine]) -> list[Event]:
    return [Event(line.id, line.seq, line.at, act_of(line.act.model_dump()), line.by, line._written) for line in log]


def canonical(data: Any) -> bytes:
    """JSON bytes that depend on nothing but the data."""
    return json.dumps(data, ensure_ascii=False, indent=1, sort_keys=False, allow_nan=False).encode()


def write_job_file(head: BookHead, events: Sequence[Event], car: tuple[BookHead, Sequence[Event]] | None) -> bytes:
    """Write a job and its log as a job file, with the record of its car."""
    document = {
        "format": FORMAT,
        "version": VERSION,
        "job": head.model_dump(),
        "car": {"head": car[0].model_dump(), "log": [_line(event) for event in car[1]]} if car else None,
        "log": [_line(event) for event in events],
    }
    return canonical(document) + b"\n"


def read_job_file(content: bytes) -> JobFile:
    """Read a job file; InputError says where it is damaged or that it is something else."""
    document = opened(content, "a job file", FORMAT, LARGEST_FILE)
    if document.get("version") != VERSION:
        raise InputError(f"This product reads job file version {VERSION}.", field="version")
    read = whole(JobFile, _as_read_today(document), "job file")
    _in_order(read.log, "log")
    _keep_written(read.log, document["log"])
    if read.car:
        _keep_written(read.car.log, document["car"]["log"])
        _in_order(read.car.log, "car/log")
        if read.job.car_id != read.car.head.id:
            raise InputError("The car in this file is not the job's.", field="job/car_id")
    return read


def whole(model: type[Document], document: Any, name: str) -> Document:
    """A document by its contract; InputError names the place where it is damaged."""
    try:
        return model.model_validate(document)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        where = "/".join(str(part) for part in first["loc"])
        raise InputError(f"Damaged {name} at {where}: {first['msg']}.", field=where) from None


def opened(content: bytes, name: str, form: str, largest: int) -> dict[str, Any]:
    """A JSON document of a format, as it was sent; InputError says what it is instead."""
    if len(content) > largest:
        raise InputError(f"{name.capitalize()} is at most {largest // 1024**2} MB.", field="file")
    document = _parsed(content, name)
    if not isinstance(document, dict) or document.get("format") != form:
        plain_name = name.partition(" ")[2]
        raise InputError(f'This is no Fair Spindle {plain_name}: "format" must be "{form}".', field="format")
    return document


def _parsed(content: bytes, name: str) -> Any:
    try:
        return json.loads(content)
    except UnicodeDecodeError:
        raise InputError(f"This is no text file. Choose {name} (JSON).", field="file") from None
    except json.JSONDecodeError as error:
        raise InputError(
            f"This is no whole JSON document: line {error.lineno}, column {error.colno}: {error.msg}. "
            "The file may have been cut short.",
            field="file",
        ) from None
    except RecursionError:
        raise InputError(f"This document is nested too deeply to be {name}.", field="file") from None
    except ValueError:
        raise InputError(
            "This document holds a number that is longer than any that is meant.", field="file"
        ) from None


def _as_read_today(document: dict[str, Any]) -> dict[str, Any]:
    """The document with the acts of both logs as they are read today; what is damaged is left for the contract."""

    def log(lines: Any) -> Any:
        if not isinstance(lines, list):
            return lines
        return [
            {**line, "act": as_read_today(line["act"])}
            if isinstance(line, dict) and isinstance(line.get("act"), dict)
            else line
            for line in lines
        ]

    car = document.get("car")
    told = {**document, "log": log(document.get("log"))}
    return {**told, "car": {**car, "log": log(car.get("log"))}} if isinstance(car, dict) else told


def _keep_written(log: Sequence[LogLine], lines: Sequence[dict[str, Any]]) -> None:
    for line, told in zip(log, lines, strict=True):
        line._written = json.dumps(told["act"], ensure_ascii=False)


def write_schema() -> bytes:
    """The JSON Schema of the whole document."""
    schema = JobFile.model_json_schema()
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": f"{FORMAT}/{VERSION}"}
    return canonical(head | schema) + b"\n"


SEALED = ("template", "title", "car", "created_at")


def digest(head: BookHead, events: Sequence[Event], over: Literal["log", "job"] = "job") -> str:
    """Fingerprint of a job: SHA-256 over its canonical head and lines; over its lines alone before 0.2."""
    lines = [_line(event) for event in events]
    told = {name: getattr(head, name) for name in SEALED}
    return hashlib.sha256(canonical(lines if over == "log" else {"job": told, "log": lines})).hexdigest()


def _line(event: Event) -> dict[str, Any]:
    return {
        "id": event.id,
        "seq": event.seq,
        "at": event.at,
        "act": json.loads(event.written) if event.written else plain(event.act),
        **({"by": event.by} if event.by else {}),
    }


def _in_order(log: Sequence[LogLine], where: str) -> None:
    seen: set[str] = set()
    for place, line in enumerate(log, start=1):
        if line.seq != place:
            raise InputError(f"Line {place} of the log is numbered {line.seq}.", field=f"{where}/{place - 1}/seq")
        if line.id in seen:
            raise InputError(f"Line {place} of the log repeats an earlier one.", field=f"{where}/{place - 1}/id")
        seen.add(line.id)
