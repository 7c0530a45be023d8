"""The people of the workshop: entries carry the name of whoever was picked on the device."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints
from sqlmodel import Session, col, select

from fair_spindle.core.basics.errors import Conflict, InputError, NotFound
from fair_spindle.formats.acts import Strict, Text
from fair_spindle.formats.job_file import Identity
from fair_spindle.jobs.book_models import View
from fair_spindle.records.database import Database
from fair_spindle.records.tables import PersonRow

Name = Annotated[Text, StringConstraints(min_length=1, max_length=60, pattern=r"\S")]
Initials = Annotated[Text, StringConstraints(min_length=1, max_length=4, pattern=r"^\S+$")]


class PersonView(View):
    """Somebody who works here."""

    id: str
    version: int
    name: str
    initials: str


class PersonCreate(Strict):
    """Somebody who works here."""

    id: Identity
    name: Name
    initials: Initials


class PersonUpdate(Strict):
    """A change of the name or initials, over the version that was seen; or that they are gone."""

    name: Name
    initials: Initials
    gone: bool = False
    seen: Annotated[int, Field(ge=1)]


def all_people(database: Database) -> list[PersonView]:
    """Who works here now."""
    with database.reading() as session:
        wanted = select(PersonRow).where(col(PersonRow.gone).is_(False)).order_by(col(PersonRow.name))
        return [_show_person(row) for row in session.exec(wanted)]


def add_person(database: Database, wanted: PersonCreate) -> list[PersonView]:
    """Add somebody; the same request again changes nothing."""
    with database.writing() as session:
        row = session.get(PersonRow, wanted.id)
        if row is None:
            _not_twice(session, wanted.id, wanted.name, wanted.initials)
            session.add(PersonRow(version=1, gone=False, **wanted.model_dump()))
        elif (row.name, row.initials) != (wanted.name, wanted.initials):
            raise Conflict("Somebody else has this id already.", field="id")
    return all_people(database)


def change_person(database: Database, person_id: str, wanted: PersonUpdate) -> list[PersonView]:
    """Change somebody's name, or say that they are gone; old entries keep the name they were made under."""
    with database.writing() as session:
        row = session.get(PersonRow, person_id)
        if row is None:
            raise NotFound("There is nobody of that id.", field="person_id")
        if row.version != wanted.seen:
            raise Conflict(f"“{row.name}” was changed meanwhile. Look again.", field="seen")
        _not_twice(session, person_id, wanted.name, wanted.initials)
        row.name, row.initials, row.gone, row.version = wanted.name, wanted.initials, wanted.gone, row.version + 1
        session.add(row)
    return all_people(database)


def name_of(database: Database, person_id: str) -> str:
    """The name entries of a person carry; NotFound where there is nobody of that id."""
    with database.reading() as session:
        row = session.get(PersonRow, person_id)
        if row is None:
            raise NotFound("Whoever is picked on this device is not known here. Pick again.", field="person")
        return row.name


def _not_twice(session: Session, person_id: str, name: str, initials: str) -> None:
    for row in session.exec(select(PersonRow).where(col(PersonRow.gone).is_(False))):
        if row.id != person_id and (row.name == name or row.initials.lower() == initials.lower()):
            raise InputError(f"“{row.name}” ({row.initials}) has this name or these initials.", field="initials")


def _show_person(row: PersonRow) -> PersonView:
    return PersonView.of(row)
