"""Writes acts into one demo job or car by the rules, all in one go."""

from __future__ import annotations

from uuid import NAMESPACE_URL, uuid5

from fair_spindle.core.joblog.log import Act, Event
from fair_spindle.core.joblog.state import JobState
from fair_spindle.jobs.append import accept
from fair_spindle.jobs.book import now_utc, standing
from fair_spindle.jobs.snapshot import Standing
from fair_spindle.records.books import append
from fair_spindle.records.database import Database


class Desk:
    """One book of the demo, as it is written on."""

    def __init__(self, database: Database, book_id: str, *, car: bool = False) -> None:
        self._database = database
        self._book_id = book_id
        self.now: Standing = standing(database, book_id, car=car)

    @property
    def state(self) -> JobState:
        """What follows from what was written."""
        return self.now.state

    def write(self, *acts: Act) -> None:
        """Write acts in order."""
        fresh = self.now.version
        for act in acts:
            place = self.now.version + 1
            accepted = accept(act, self.now)
            event = Event(str(uuid5(NAMESPACE_URL, f"{self._book_id}/{place}")), place, now_utc(), accepted)
            self.now = self.now.then(event)
        with self._database.writing() as session:
            append(session, self._book_id, self.now.log[fresh:])
