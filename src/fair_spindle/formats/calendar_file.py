"""Dates of a job as a calendar file, after RFC 5545."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime

CAUTION = "The vehicle maker's service data comes first."


def write_calendar(title: str, dates: Sequence[tuple[str, date, str, str]], made: datetime) -> bytes:
    """Write whole-day entries: id, day, summary and words of each."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Fair Spindle//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", title)
    for key, day, summary, words in dates:
        event = Event()
        event.add("uid", key)
        event.add("dtstamp", made)
        event.add("dtstart", day)
        event.add("summary", summary)
        event.add("description", f"{words} {CAUTION}".strip())
        calendar.add_component(event)
    return bytes(calendar.to_ical())
