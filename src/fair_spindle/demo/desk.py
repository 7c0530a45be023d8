"""Writes acts into one demo job or car by the rules, all in one go."""

from __future__ import annotations

from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.floor.log import Act, Event
from fair_spindle.core.floor.state import advance
from fair_spindle.core.planning.template import JobTemplate
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.writing import accept
from fair_spindle.records.books import append
from fair_spindle.records.database import Database


class Desk:
    """One book of the demo, as it is written on."""

    def __init__(self, database: Database, book_id: str, template: JobTemplate) -> None:
        begun = standing(database, book_id, car=template.key == "car")
        self._database = database
        self._book_id = book_id
        self._log = list(begun.log)
        self.template = template
        self.state = begun.state

    def write(self, *acts: Act) -> None:
        """Write acts in order."""
        fresh = len(self._log)
        for act in acts:
            place = len(self._log) + 1
            accepted = accept(act, self.state, self._log, self.template)
            event = Event(str(uuid5(NAMESPACE_URL, f"{self._book_id}/{place}")), place, now_utc(), accepted)
            self._log.append(event)
            self.state = advance(self.state, event, self.template)
        with self._database.writing() as session:
            append(session, self._book_id, self._log[fresh:])
