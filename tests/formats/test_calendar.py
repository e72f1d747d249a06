"""iCalendar files as its own library reads them."""

from datetime import UTC, datetime, timedelta

from icalendar import Calendar

from lucid_ridge.formats.calendar import CalendarEntry, write_calendar

MADE = datetime(2026, 11, 24, tzinfo=UTC)
START = datetime(2026, 12, 3, 15, 22, 7, 400000, tzinfo=UTC)


def test_an_entry_with_its_alarm():
    entry = CalendarEntry(
        uid="shot-7-2026-12-03",
        title="Posts at the ebb; low side light",
        start_utc=START,
        end_utc=START + timedelta(minutes=31),
        place="Sallow Estuary, shingle bank",
        latitude_deg=54.531,
        longitude_deg=-3.214,
        notes="Leave home by 13:05,\nset up from 15:02.",
        leave_utc=START - timedelta(hours=2, minutes=17),
    )
    read = Calendar.from_ical(write_calendar([entry], MADE))
    (event,) = read.walk("VEVENT")
    assert str(event["summary"]) == "Posts at the ebb; low side light"
    assert event.decoded("dtstart") == START.replace(microsecond=0)
    assert event.decoded("dtend") - event.decoded("dtstart") == timedelta(minutes=31)
    assert str(event["description"]) == "Leave home by 13:05,\nset up from 15:02."
    assert event["geo"].latitude == 54.531
    (alarm,) = event.walk("VALARM")
    assert alarm.decoded("trigger") == -timedelta(hours=2, minutes=17)
    assert str(event["uid"]) == "shot-7-2026-12-03"
    assert read["version"] == "2.0"


def test_no_alarm_without_a_way_and_none_after_the_event():
    bare = CalendarEntry("a", "x", START, START + timedelta(minutes=5), "p")
    late = CalendarEntry("b", "y", START, START + timedelta(minutes=5), "p", leave_utc=START + timedelta(hours=1))
    first, second = Calendar.from_ical(write_calendar([bare, late], MADE)).walk("VEVENT")
    assert first.walk("VALARM") == []
    assert second.walk("VALARM")[0].decoded("trigger") == timedelta(0)


def test_an_empty_calendar_is_still_one():
    assert Calendar.from_ical(write_calendar([], MADE)).walk("VEVENT") == []
