"""When a place is shut: opening hours, closures and permits as spans of time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from ...facts.place import Opening, OpeningDays, OpeningKind
from ...light.season import in_season, intersect
from ...spans.intervals import Interval

_DAYS = {
    OpeningDays.EVERY_DAY: frozenset(range(7)),
    OpeningDays.MONDAY_TO_FRIDAY: frozenset(range(5)),
    OpeningDays.WEEKEND: frozenset((5, 6)),
    **{day: frozenset((number,)) for number, day in enumerate(tuple(OpeningDays)[3:])},
}
_DAY = timedelta(days=1)


def closed_spans(
    openings: Sequence[Opening], zone: ZoneInfo, start_utc: datetime, end_utc: datetime
) -> list[tuple[Interval, Opening]]:
    """Return the spans from start_utc to end_utc in which a place is shut, each with the entry that shuts it.

    Where opening hours are said for a date, it is shut outside them, and on days that they do not name. Outside their
    dates opening hours say nothing; where permits with dates are said, it is shut outside all of them.
    """
    days = list(_local_days(zone, start_utc, end_utc))
    found = [
        (span, item)
        for item in openings
        if item.kind is OpeningKind.CLOSED
        for day in days
        if _applies(item, day)
        for span in [_hours(item, day, zone)]
    ]
    for kind in (OpeningKind.OPEN, OpeningKind.PERMIT):
        entries = [item for item in openings if item.kind is kind and (kind is OpeningKind.OPEN or _dated(item))]
        found += _shut_outside(entries, days, zone)
    whole = [Interval(start_utc, end_utc, False, False)]
    return sorted(
        ((part, item) for span, item in found for part in intersect([span], whole)), key=lambda pair: pair[0].start_utc
    )


def _shut_outside(entries: list[Opening], days: list[date], zone: ZoneInfo) -> list[tuple[Interval, Opening]]:
    """Return the gaps between the hours of entries, over the days for which any of them speaks."""
    spoken: list[tuple[date, Opening]] = []
    for day in days:
        speaking = next((item for item in entries if item.kind is OpeningKind.PERMIT or _in_dates(item, day)), None)
        if speaking is not None:
            spoken.append((day, speaking))
    open_ = sorted(
        (_hours(item, day, zone) for item in entries for day in days if _applies(item, day)),
        key=lambda span: span.start_utc,
    )
    gaps = []
    for day, speaking in spoken:
        at, end = _midnight(day, zone), _midnight(day + _DAY, zone)
        for span in open_:
            if span.end_utc <= at or span.start_utc >= end:
                continue
            if span.start_utc > at:
                gaps.append((at, span.start_utc, speaking))
            at = max(at, span.end_utc)
        if at < end:
            gaps.append((at, end, speaking))
    joined: list[tuple[datetime, datetime, Opening]] = []
    for start, end, item in gaps:
        if joined and joined[-1][1] == start:
            joined[-1] = (joined[-1][0], end, joined[-1][2])
        else:
            joined.append((start, end, item))
    return [(Interval(start, end, False, False), item) for start, end, item in joined]


def _hours(item: Opening, day: date, zone: ZoneInfo) -> Interval:
    start = datetime.combine(day, item.from_clock or time(), tzinfo=zone).astimezone(UTC)
    if item.to_clock is None:
        return Interval(start, _midnight(day + _DAY, zone), False, False)
    over = item.to_clock <= (item.from_clock or time())
    return Interval(
        start, datetime.combine(day + _DAY if over else day, item.to_clock, tzinfo=zone).astimezone(UTC), False, False
    )


def _applies(item: Opening, day: date) -> bool:
    return day.weekday() in _DAYS[item.days] and _in_dates(item, day)


def _dated(item: Opening) -> bool:
    return item.first_date is not None or item.last_date is not None


def _in_dates(item: Opening, day: date) -> bool:
    first, last = item.first_date, item.last_date
    if item.every_year and first is not None and last is not None:
        return in_season(datetime(day.year, day.month, day.day), first.month, first.day, last.month, last.day)
    return (first is None or first <= day) and (last is None or day <= last)


def _local_days(zone: ZoneInfo, start_utc: datetime, end_utc: datetime) -> Iterator[date]:
    # Hours that run over midnight began the day before; a night that ends here is joined with the days after.
    day = start_utc.astimezone(zone).date() - 2 * _DAY
    while day <= end_utc.astimezone(zone).date() + 2 * _DAY:
        yield day
        day += _DAY


def _midnight(day: date, zone: ZoneInfo) -> datetime:
    return datetime.combine(day, time(), tzinfo=zone).astimezone(UTC)
