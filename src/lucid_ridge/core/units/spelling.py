"""Spelling of figures: lengths, clock times, dates, and the step of dials.

Values are stored and computed in the same units. The spelling belongs to the current request or job, like the standard
library's decimal context, so that all sentences of one answer are written alike.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from datetime import date, datetime, time
from enum import StrEnum


class Lengths(StrEnum):
    METRES = "metres"
    FEET = "feet"


class Hours(StrEnum):
    TWENTY_FOUR = "24"
    TWELVE = "12"


class DayOrder(StrEnum):
    DAY_FIRST = "day_first"
    MONTH_FIRST = "month_first"


class DialSteps(StrEnum):
    THIRDS = "thirds"
    HALVES = "halves"
    WHOLE = "whole"


# Lifts a half over the rounding of binary fractions, so that the front end writes the same.
_TIE = 1e-9


@dataclass(frozen=True)
class Spelling:
    lengths: Lengths = Lengths.METRES
    hours: Hours = Hours.TWENTY_FOUR
    day_order: DayOrder = DayOrder.DAY_FIRST
    dial_steps: DialSteps = DialSteps.THIRDS


METRIC = Spelling()
_in_force: ContextVar[Spelling] = ContextVar("spelling", default=METRIC)


def spelling() -> Spelling:
    """Return the spelling in force."""
    return _in_force.get()


def spell(wanted: Spelling) -> None:
    """Write everything from here on, in this thread, as wanted."""
    _in_force.set(wanted)


@contextmanager
def spelled(wanted: Spelling) -> Iterator[None]:
    """Write everything inside as wanted."""
    before = _in_force.set(wanted)
    try:
        yield
    finally:
        _in_force.reset(before)


def format_clock(local: datetime) -> str:
    """Return the clock time of a local time: "16:04", or "4:04 pm"."""
    if spelling().hours is Hours.TWENTY_FOUR:
        return f"{local:%H:%M}"
    return f"{local.hour % 12 or 12}:{local:%M} {'am' if local.hour < 12 else 'pm'}"


def format_time_of_day(clock: time) -> str:
    """Return a clock time of any day: "16:04", or "4:04 pm"."""
    return format_clock(datetime.combine(date.min, clock))


def format_moment(local: datetime, day: date | None) -> str:
    """Return the clock time of a local time, with its day where that is not the one spoken of: "02:12 on Sat 27
    Jun".
    """
    if day is None or local.date() == day:
        return format_clock(local)
    return f"{format_clock(local)} on {format_day(local.date(), weekday=True, year=False)}"


@dataclass(frozen=True)
class LocalTime:
    """A local time beside the day spoken of; as text its clock time, with its day where that is another."""

    local: datetime
    day: date | None = None

    def __str__(self) -> str:
        return format_moment(self.local, self.day)


def format_hour(hour: int) -> str:
    """Return a full hour as a scale writes it: "16", or "4 pm"."""
    return (
        f"{hour:02d}" if spelling().hours is Hours.TWENTY_FOUR else f"{hour % 12 or 12} {'am' if hour < 12 else 'pm'}"
    )


MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
WEEKDAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


def format_day(day: date, weekday: bool = False, year: bool = True) -> str:
    """Return a date: "24 Nov 2026", "Tue 24 Nov 2026", or "Nov 24, 2026", "Tue, Nov 24, 2026"."""
    month = MONTHS[day.month - 1]
    if spelling().day_order is DayOrder.DAY_FIRST:
        return f"{WEEKDAYS[day.weekday()] + ' ' if weekday else ''}{day.day} {month}{f' {day.year}' if year else ''}"
    return f"{WEEKDAYS[day.weekday()] + ', ' if weekday else ''}{month} {day.day}{f', {day.year}' if year else ''}"


def percent(share: float, decimals: int = 0) -> str:
    """Return a share as a percentage with a narrow no-break space: 0.33 is "33\u202f%". Halves are rounded up."""
    written = f"{abs(100 * share) + _TIE:.{decimals}f}"
    return f"{'−' if share < 0 and float(written) else ''}{written}\u202f%"
