"""High and low waters as people write or export them: a water a line, with day, clock time and height."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from ..core.errors import InputError
from ..core.units.clock import parse_clock
from ..core.units.days import parse_day
from ..core.units.lengths import parse_length_m
from ..core.units.spelling import format_clock, format_day
from .errors import FormatError

MOST_WATERS = 3000
_CLOCK = re.compile(r"(?<![\d.:-])(\d{1,2}[:.h]\d{2})(?::\d{2})?\s*([ap]\.?m\.?)?(?=[\s,;T]|$)", re.IGNORECASE)
_WORDS = re.compile(r"\b(high|low|water|hw|lw|hi|lo|h|l)\b\.?", re.IGNORECASE)


def read_tide_table(text: str, zone: str) -> list[tuple[datetime, float]]:
    """Return waters (UTC, height [m]) in order of time; clock times are those of the zone. A line without a day has the one above it.

    Raises FormatError naming the line that does not fit.
    """
    info = ZoneInfo(zone)
    day: date | None = None
    waters: dict[datetime, float] = {}
    lines = [(number, line.strip()) for number, line in enumerate(text.splitlines(), start=1)]
    for number, line in lines:
        if not line or line.startswith("#") or not any(sign.isdigit() for sign in line):
            continue
        clock = _CLOCK.search(line.replace("T", " ", 1) if re.match(r"\d{4}-\d\d-\d\dT", line) else line)
        if clock is None:
            raise FormatError(f"Line {number}: “{line[:50]}” holds no clock time. Write 24 Nov 2026 04:12 1.3 m.")
        whole = clock.string
        day = _day(whole[: clock.start()].strip(" ,;\t"), day, number)
        rest = _WORDS.sub(" ", whole[clock.end() :]).strip(" ,;\t")
        try:
            metres = parse_length_m(rest)
        except InputError:
            raise FormatError(f"Line {number}: after the time stands “{rest[:40]}”, not a height such as 1.3 m.") from None
        if not -30 <= metres <= 30:
            raise FormatError(f"Line {number}: a height of {metres:g} m is not a tide's.")
        try:
            time = parse_clock(f"{clock[1]} {clock[2] or ''}")
        except InputError as error:
            raise FormatError(f"Line {number}: {error.message}") from None
        waters[datetime.combine(day, time, tzinfo=info).astimezone(UTC)] = metres
    if len(waters) > MOST_WATERS:
        raise FormatError(f"The table holds {len(waters)} waters; at most {MOST_WATERS} are read.")
    if len(waters) < 2:
        raise FormatError("The table holds less than two waters. Write one a line: 24 Nov 2026 04:12 1.3 m.")
    return sorted(waters.items())


def write_tide_table(waters: list[tuple[datetime, float]], zone: str) -> str:
    """Return waters as the text that read_tide_table reads, in the reader's spelling."""
    info = ZoneInfo(zone)
    local = [(moment.astimezone(info), height) for moment, height in waters]
    return "\n".join(f"{format_day(moment.date())} {format_clock(moment)} {height:.2f} m" for moment, height in local)


def _day(text: str, before: date | None, number: int) -> date:
    text = _WORDS.sub(" ", text).strip(" ,;\t")
    if not text:
        if before is None:
            raise FormatError(f"Line {number} has no day, and there is none above it. Write 24 Nov 2026 04:12 1.3 m.")
        return before
    try:
        return parse_day(text)
    except InputError as error:
        raise FormatError(f"Line {number}: {error.message}") from None
