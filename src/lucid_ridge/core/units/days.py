"""Dates as people write them."""

from __future__ import annotations

import re
from datetime import date

from ..errors import InputError
from .numbers import shown
from .spelling import MONTHS, WEEKDAYS

_ISO = re.compile(r"(\d{4})([-/.])(\d{1,2})\2(\d{1,2})", re.ASCII)
_NO_YEAR = re.compile(
    r"(\d{1,2})(?:st|nd|rd|th)?\.?\s*([a-z]{3,9})\.?|([a-z]{3,9})\.?\s*(\d{1,2})(?:st|nd|rd|th)?", re.ASCII
)
_WEEKDAY = re.compile(rf"(?:{'|'.join(WEEKDAYS)})[a-z]*\.?,?\s+", re.IGNORECASE)
_DAY_MONTH = re.compile(r"(\d{1,2})(?:st|nd|rd|th)?\.?\s*([a-z]{3,9})\.?,?\s*(\d{4})", re.ASCII)
_MONTH_DAY = re.compile(r"([a-z]{3,9})\.?\s*(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})", re.ASCII)
_POINTS = re.compile(r"(\d{1,2})\.\s*(\d{1,2})\.\s*(\d{4})", re.ASCII)
_SLASHES = re.compile(r"(\d{1,2})/(\d{1,2})/(\d{4})", re.ASCII)
_EXAMPLES = "31 Jan 2026, Jan 31, 2026 or 2026-01-31"


def parse_day(text: str) -> date:
    """Return the date meant by text: "2026-11-24", "2026/11/24", "24 Nov 2026", "Tue 24 November 2026", "Nov 24,
    2026", "24.11.2026", "24/11/2026".

    Two figures with a slash that could both be months are refused: they are read in two ways. Raises InputError with
    what is allowed.
    """
    cleaned = re.sub(r"\s+", " ", text.strip()) if isinstance(text, str) else ""
    cleaned = _WEEKDAY.sub("", cleaned, count=1).lower()
    if match := _ISO.fullmatch(cleaned):
        return _date(text, int(match[1]), int(match[3]), int(match[4]))
    if match := _DAY_MONTH.fullmatch(cleaned):
        return _date(text, int(match[3]), _month(text, match[2]), int(match[1]))
    if match := _MONTH_DAY.fullmatch(cleaned):
        return _date(text, int(match[3]), _month(text, match[1]), int(match[2]))
    if match := _POINTS.fullmatch(cleaned):
        return _date(text, int(match[3]), int(match[2]), int(match[1]))
    if match := _SLASHES.fullmatch(cleaned):
        first, second, year = int(match[1]), int(match[2]), int(match[3])
        if first == second or second > 12:
            return _date(text, year, first, second)
        if first > 12:
            return _date(text, year, second, first)
        if first >= 1 and second >= 1:
            ways = f"{first} {MONTHS[second - 1]} {year} or {second} {MONTHS[first - 1]} {year}"
            raise InputError("day", f"“{shown(text)}” can be read in two ways: write {ways}.")
    raise InputError("day", f"“{shown(text)}” is not a date. Write {_EXAMPLES}.")


def parse_day_of_year(text: str, year: int) -> date:
    """Return the date meant by a day and a month without a year: "9 Dec", "Tue 9 December", "Dec 9".

    Raises InputError with what is allowed.
    """
    cleaned = _WEEKDAY.sub("", re.sub(r"\s+", " ", text.strip()), count=1).lower()
    match = _NO_YEAR.fullmatch(cleaned)
    if match is None:
        raise InputError("day", f"“{shown(text)}” is not a date. Write {_EXAMPLES}.")
    return _date(text, year, _month(text, match[2] or match[3]), int(match[1] or match[4]))


def _month(text: str, name: str) -> int:
    for number, full in enumerate(_FULL, start=1):
        if full.startswith(name) or (name == "sept" and number == 9):
            return number
    raise InputError("day", f"“{shown(text)}” is not a date: there is no month “{name}”.")


_FULL = (
    "january",
    "february",
    "march",
    "april",
    "may",
    "june",
    "july",
    "august",
    "september",
    "october",
    "november",
    "december",
)


def _date(text: str, year: int, month: int, day: int) -> date:
    try:
        return date(year, month, day)
    except ValueError:
        raise InputError("day", f"“{shown(text)}” is not a date: that day does not exist. Write {_EXAMPLES}.") from None
