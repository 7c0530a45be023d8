"""The procedures there are: shipped and the workshop's own; reading, writing, importing them."""

from __future__ import annotations

import logging
from typing import Literal

from fair_spindle.core.basics.errors import InputError, SpindleError
from fair_spindle.core.geometry.layouts import LAYOUTS
from fair_spindle.core.planning.own import own_procedure
from fair_spindle.core.planning.placing import Known
from fair_spindle.core.planning.procedure import Brief, Fitting, Library, Procedure
from fair_spindle.core.planning.validity import check_procedure
from fair_spindle.core.planning.work_order import plan_work
from fair_spindle.formats.procedure_file import read_procedure, shipped, write_procedure
from fair_spindle.jobs.book import now_utc
from fair_spindle.jobs.planning_models import ProcedurePreview
from fair_spindle.records.database import Database
from fair_spindle.records.procedures import list_procedures, remove_procedure, save_procedure

LOGGER = logging.getLogger("fair_spindle")


def library_of(database: Database) -> tuple[Library, dict[str, int]]:
    """Every procedure, and the versions of the workshop's own."""
    base = shipped()
    with database.reading() as session:
        rows = [(row.key, row.version, row.content) for row in list_procedures(session)]
    own = {}
    for key, _, content in rows:
        try:
            own[key] = read_procedure(content.encode(), base.common)
        except InputError:
            LOGGER.exception("the workshop's own procedure %s cannot be read and is left out", key)
    return Library(base.common, {**base.procedures, **own}), {key: version for key, version, _ in rows}


def procedure_file(database: Database, key: str) -> bytes:
    """A procedure as its file."""
    return write_procedure(library_of(database)[0].find(key))


def import_procedure(database: Database, content: bytes, apply: bool, seen: int) -> ProcedurePreview:
    """Read a procedure file; only with ``apply`` is it kept, over the version that was seen."""
    library, versions = library_of(database)
    procedure = read_procedure(content, library.common)
    _not_shipped(procedure.key)
    _can_be_planned(procedure, library)
    found = library.procedures.get(procedure.key)
    outcome: Literal["new", "same", "changed"] = (
        "new" if found is None else "same" if found == procedure else "changed"
    )
    if apply:
        _keep(database, procedure, seen)
    said = {
        "new": "It will be added.",
        "same": "It is here already.",
        "changed": "It takes the place of the old one.",
    }
    return ProcedurePreview(
        key=procedure.key,
        title=procedure.title,
        operations=len(procedure.operations),
        outcome=outcome,
        version=versions.get(procedure.key, 0),
        applied=apply,
        said=said[outcome],
    )


def delete_procedure(database: Database, key: str) -> None:
    """Take one of the workshop's own away; jobs planned from it keep their steps."""
    with database.writing() as session:
        remove_procedure(session, key)


def save_own(database: Database, known: Known, key: str, title: str, seen: int) -> Procedure:
    """Keep an edited plan as a procedure of the workshop's own."""
    _not_shipped(key)
    plan_work(known)
    procedure = own_procedure(known, key, title)
    check_procedure(procedure, known.library.common)
    _keep(database, procedure, seen)
    return procedure


def _keep(database: Database, procedure: Procedure, seen: int) -> None:
    with database.writing() as session:
        save_procedure(session, procedure.key, write_procedure(procedure).decode(), seen, now_utc())


def _can_be_planned(procedure: Procedure, library: Library) -> None:
    """Hold a procedure against the planner: some layout must give an order for it at every axle it is for."""
    with_it = Library(library.common, {**library.procedures, procedure.key: procedure})
    for axle in procedure.axles or ("",):
        brief = Brief((Fitting(procedure.key, axle),))
        for layout in procedure.layouts or ("", *LAYOUTS):
            try:
                plan_work(Known(brief, with_it, {f"{axle}.layout": layout} if axle and layout else {}, {}))
                break
            except SpindleError as error:
                refused = error
        else:
            raise InputError(f"This procedure cannot be planned on any layout: {refused.message}", field="operations")


def _not_shipped(key: str) -> None:
    if key in shipped().procedures or key == "common":
        raise InputError(f"{key!r} is a procedure that comes with the product. Give yours another key.", field="key")
