"""Dates as people say them from today: "tomorrow", "sat", "next new moon"."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, time, timedelta

import numpy as np

from ..errors import InputError
from ..light.moon import moon_phase
from ..units.days import parse_day
from ..units.numbers import shown
from ..units.spelling import WEEKDAYS

_MOONS = {"new moon": 0.0, "first quarter": 90.0, "full moon": 180.0, "last quarter": 270.0}
_IN_DAYS = re.compile(r"in (\d{1,3}) (day|week)s?", re.ASCII)
# A phase comes again within a month; it is found to the hour.
_MONTH_H = 30 * 24


def day_meant(text: str, today: date) -> date:
    """Return the date meant by a text on a day: "today", "tomorrow", "sat", "next sat", "in 3 days", "next new moon",
    or a date as parse_day reads it.

    A weekday is the next one, today included; "next" leaves today out. Raises InputError otherwise.
    """
    words = re.sub(r"\s+", " ", text.strip().lower())
    following = words.startswith("next ")
    bare = words.removeprefix("next ").removeprefix("on ")
    if bare in ("today", "tonight", "now"):
        return today
    if bare == "tomorrow":
        return today + timedelta(days=1)
    if match := _IN_DAYS.fullmatch(bare):
        return today + timedelta(days=int(match[1]) * (7 if match[2] == "week" else 1))
    if bare in _MOONS:
        return _next_phase(today, _MOONS[bare])
    weekday = _weekday(bare)
    if weekday is not None:
        ahead = (weekday - today.weekday()) % 7
        return today + timedelta(days=7 if following and ahead == 0 else ahead)
    try:
        return parse_day(text)
    except InputError:
        raise InputError(
            "day", f"“{shown(text)}” is not a date. Write tomorrow, sat, next new moon, 31 Jan 2027 or 2027-01-31."
        ) from None


def _weekday(word: str) -> int | None:
    """Return the number of a weekday by its name or its first letters, Monday 0."""
    names = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
    if len(word) < len(WEEKDAYS[0]):
        return None
    return next((number for number, name in enumerate(names) if name.startswith(word)), None)


def _next_phase(today: date, elongation_deg: float) -> date:
    """Return the date [UTC] on which the moon next reaches an elongation from the sun."""
    start = datetime.combine(today, time(), UTC)
    hours = [start + timedelta(hours=hour) for hour in range(_MONTH_H + 1)]
    before = np.array([moment.timestamp() for moment in hours])
    past = (np.asarray(moon_phase(before).elongation_deg) - elongation_deg) % 360
    # Where it wraps from just under 360 to just over 0 the phase is reached.
    reached = np.flatnonzero((past[:-1] > 270) & (past[1:] < 90))
    return hours[int(reached[0]) + 1].date()
