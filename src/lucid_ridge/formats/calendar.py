"""Windows of light as iCalendar, with an alarm for leaving home."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta


@dataclass(frozen=True)
class CalendarEntry:
    """A calendar entry.

    uid: the same when the window is exported again. leave_utc: time of the alarm; None for none. rings: its text; by
    default that it is time to leave.
    """

    uid: str
    title: str
    start_utc: datetime
    end_utc: datetime
    place: str
    latitude_deg: float | None = None
    longitude_deg: float | None = None
    notes: str = ""
    leave_utc: datetime | None = None
    rings: str = ""


def write_calendar(entries: Sequence[CalendarEntry], made_utc: datetime) -> bytes:
    """Return an iCalendar file (RFC 5545) of the entries, with times in UTC."""
    # Imported here, since it takes a twentieth of the server's start and is rarely needed.
    from icalendar import Alarm, Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Lucid Ridge//windows of light//EN")
    calendar.add("version", "2.0")
    for entry in entries:
        event = Event()
        event.add("uid", entry.uid)
        event.add("dtstamp", made_utc.astimezone(UTC))
        event.add("summary", entry.title)
        event.add("dtstart", _whole(entry.start_utc))
        event.add("dtend", _whole(entry.end_utc))
        event.add("location", entry.place)
        if entry.latitude_deg is not None and entry.longitude_deg is not None:
            event.add("geo", (entry.latitude_deg, entry.longitude_deg))
        if entry.notes:
            event.add("description", entry.notes)
        if entry.leave_utc is not None:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", entry.rings or f"Leave home for {entry.title}")
            alarm.add("trigger", min(timedelta(0), _whole(entry.leave_utc) - _whole(entry.start_utc)))
            event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _whole(moment: datetime) -> datetime:
    return moment.astimezone(UTC).replace(microsecond=0)
