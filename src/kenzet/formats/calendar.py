"""Sewing sessions as a calendar file (iCalendar, RFC 5545); its times are floating, that is local."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime, time, timedelta

from icalendar import Calendar
from icalendar import Event as Entry

from kenzet.core.logbook.schedule import Session
from kenzet.texts import tr


def calendar_file(
    name: str,
    ident: str,
    sessions: Sequence[Session],
    told: Sequence[Sequence[str]],
    at: time,
    made: datetime,
) -> bytes:
    """An entry for every session, with the lines ``told``; ``at`` is the time of day at which it begins, ``ident``
    the quilt's id."""
    calendar = Calendar()
    calendar.add("prodid", "-//Kenzet//Sewing sessions//EN")
    calendar.add("version", "2.0")
    for number, (session, lines) in enumerate(zip(sessions, told, strict=True), 1):
        begins = datetime.combine(session.day, at)
        entry = Entry()
        entry.add("uid", f"{ident}-{session.day:%Y%m%d}@kenzet")
        entry.add("dtstamp", made.astimezone(UTC))
        entry.add("dtstart", begins)
        entry.add("dtend", begins + timedelta(minutes=round(session.minutes)))
        entry.add(
            "summary",
            tr("Quilting {number} of {sessions}: {name}", number=number, sessions=len(sessions), name=name),
        )
        entry.add("description", "\n".join(lines))
        calendar.add_component(entry)
    return bytes(calendar.to_ical())
