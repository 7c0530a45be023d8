"""Cars: their records, copies, reusable parts, and tables in and out."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from fair_spindle.core.basics.errors import Conflict, InputError, NotAllowed
from fair_spindle.core.basics.wheels import other_side
from fair_spindle.core.joblog.kinds import CAR
from fair_spindle.core.joblog.listed_places import listed_places
from fair_spindle.core.joblog.log import Act, Drawn, Entered, Event, Filled, Listed
from fair_spindle.core.joblog.mirror import below, mirrored
from fair_spindle.core.joblog.plain import act_of, plain
from fair_spindle.formats import car_csv
from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.append import accept, describe_axles, write_act
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.book_models import CarLine, CarView, Title, View
from fair_spindle.jobs.book_views import show_car
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import append, list_books
from fair_spindle.records.database import Database
from fair_spindle.records.shelf import find_part, list_parts
from fair_spindle.records.tables import BookRow, ShelfRow

Seen = Annotated[int, Field(ge=0, le=1_000_000)]
Prefix = Annotated[str, StringConstraints(pattern=r"^(front|rear)(\.(left|right))?\.[a-z_]{2,30}$")]


class CarCreate(Strict):
    """A new car, with its layouts where they are known."""

    id: Identity
    car: Title
    front_layout: Text = ""
    rear_layout: Text = ""


class CarCopy(Strict):
    """A copy of a car under another name."""

    id: Identity
    car: Title


class SideCopy(Strict):
    """Copy one side of the record to the other."""

    id: Identity
    seen: Seen
    side: Literal["left", "right"] = "left"


class PartCreate(Strict):
    """Put a part of a car on the shelf."""

    id: Identity
    name: Title
    car_id: Identity
    prefix: Prefix


class PartFit(Strict):
    """Fit a part from the shelf to a car."""

    id: Identity
    seen: Seen
    part_id: Identity
    prefix: Prefix


class ShelfPartView(View):
    """A part on the shelf."""

    id: str
    name: str
    kind: str
    said: str


def all_cars(database: Database, limit: int) -> list[CarLine]:
    """Cars last worked on, newest first."""
    with database.reading() as session:
        return [
            CarLine.of(line.book, last_at=line.last_at, entries=line.entries)
            for line in list_books(session, limit, cars=True)
        ]


def add_car(database: Database, wanted: CarCreate) -> CarView:
    """Add a car; the same request again gives the same car."""
    layouts = (("front.layout", wanted.front_layout), ("rear.layout", wanted.rear_layout))
    entries = tuple(Entered(key, choice=choice) for key, choice in layouts if choice)
    acts: list[Act] = [Filled(entries, "the new car")] if entries else []
    return show_car(_begin(database, wanted.id, wanted.car, acts))


def see_car(database: Database, car_id: str) -> CarView:
    """Everything in a car's record."""
    return show_car(standing(database, car_id, car=True))


def copy_car(database: Database, car_id: str, wanted: CarCopy) -> CarView:
    """A new car with the same record; the first one's log stays with the first."""
    now = standing(database, car_id, car=True)
    acts: list[Act] = []
    if now.state.entries:
        acts.append(Filled(tuple(taken.act for taken in now.state.entries.values()), now.book.car, "copy"))
    acts += [Drawn(joint) for joint in now.state.joints.values()]
    return show_car(_begin(database, wanted.id, wanted.car, acts))


def copy_side(database: Database, car_id: str, wanted: SideCopy) -> CarView:
    """Copy one side's arms and points to the other, as one entry."""
    to = other_side(wanted.side)

    def act(now: Standing) -> Act:
        entries = mirrored((taken.act for taken in now.state.entries.values()), wanted.side, to)
        if not entries:
            raise NotAllowed(f"Nothing is entered at the {wanted.side} yet.")
        return Filled(entries, f"the {wanted.side} side", "copy")

    return _write(database, car_id, wanted.id, wanted.seen, act)


def parts_on_shelf(database: Database, limit: int) -> list[ShelfPartView]:
    """Reusable parts by name."""
    with database.reading() as session:
        return [_show_part(row) for row in list_parts(session, limit)]


def shelve_part(database: Database, wanted: PartCreate) -> ShelfPartView:
    """Save a part of a car for use on others."""
    now = standing(database, wanted.car_id, car=True)
    entries = below((taken.act for taken in now.state.entries.values()), wanted.prefix)
    if not entries:
        raise InputError("Nothing is known of that part yet. Measure it first.", field="prefix")
    with database.writing() as session:
        row = session.get(ShelfRow, wanted.id)
        if row is None:
            kind = wanted.prefix.rsplit(".", 1)[1]
            kept = json.dumps([plain(entry) for entry in entries], ensure_ascii=False)
            row = ShelfRow(id=wanted.id, name=wanted.name, kind=kind, entries=kept, created_at=now_utc())
            session.add(row)
        elif row.name != wanted.name:
            raise Conflict("Another part has this id already.", field="id")
        return _show_part(row)


def take_off_shelf(database: Database, part_id: str) -> None:
    """Remove a part from the shelf; cars it was fitted to keep its numbers."""
    with database.writing() as session:
        session.delete(find_part(session, part_id))


def fit_part(database: Database, car_id: str, wanted: PartFit) -> CarView:
    """Fit a part from the shelf: its numbers become the car's, as one entry."""
    with database.reading() as session:
        row = find_part(session, wanted.part_id)
        name, kind, entries = row.name, row.kind, _entries(row)
    if wanted.prefix.rsplit(".", 1)[1] != kind:
        raise InputError(f"“{name}” is a {kind.replace('_', ' ')}; it does not fit there.", field="prefix")
    moved = tuple(replace(entry, key=f"{wanted.prefix}.{entry.key}") for entry in entries)
    return _write(
        database, car_id, wanted.id, wanted.seen, lambda _: Filled(moved, f"“{name}” from the shelf", "part")
    )


def points_csv(database: Database, car_id: str) -> bytes:
    """Points as CSV."""
    now = standing(database, car_id, car=True)
    return car_csv.write_points({key: taken.act for key, taken in now.state.entries.items()}, now.sheet)


def fasteners_csv(database: Database, car_id: str) -> bytes:
    """Fasteners as CSV."""
    return car_csv.write_fasteners(row for row, _ in listed_places(standing(database, car_id, car=True).state))


def read_points(database: Database, car_id: str, key: str, seen: int, content: bytes) -> CarView:
    """Take points from CSV, as one entry."""

    def act(now: Standing) -> Act:
        return Filled(car_csv.read_points(content, now.sheet), "a table of points", "file")

    return _write(database, car_id, key, seen, act)


def read_fasteners(database: Database, car_id: str, key: str, seen: int, content: bytes) -> CarView:
    """Take fasteners from CSV, as one entry; those of the same key are replaced."""
    found = car_csv.read_fasteners(content)
    return _write(database, car_id, key, seen, lambda _: Listed(found, "a table of fasteners"))


def _write(database: Database, car_id: str, key: str, seen: int, make: Callable[[Standing], Act]) -> CarView:
    act = make(standing(database, car_id, car=True))
    return show_car(write_act(database, car_id, key, seen, act, car=True))


def _begin(database: Database, car_id: str, name: str, acts: list[Act]) -> Standing:
    with database.writing() as session:
        found = session.get(BookRow, car_id)
        if found is None:
            row = BookRow(id=car_id, template=CAR.key, title="", car=name, created_at=now_utc())
            now = Standing(row, ())
            for place, act in enumerate(acts, start=1):
                now = now.then(Event(f"{car_id[:55]}-{place:04}", place, now_utc(), accept(act, now)))
            row.title = describe_axles(now.state)
            session.add(row)
            session.flush()
            append(session, car_id, now.log)
        elif found.template != CAR.key or found.car != name:
            raise Conflict("Something else has this id already.", field="id")
    return standing(database, car_id, car=True)


def _entries(row: ShelfRow) -> tuple[Entered, ...]:
    acts = (act_of(data) for data in json.loads(row.entries))
    return tuple(act for act in acts if isinstance(act, Entered))


def _show_part(row: ShelfRow) -> ShelfPartView:
    said = ", ".join(
        f"{entry.key.replace('_', ' ')} {entry.choice or ' '.join(t.text for t in entry.typed.values())}"
        for entry in _entries(row)
    )
    return ShelfPartView.of(row, said=said)
