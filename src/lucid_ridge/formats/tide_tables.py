"""High and low waters as text: day, clock time and height, one water per line."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, timedelta, timezone, tzinfo
from datetime import time as time_of_day
from zoneinfo import ZoneInfo

from ..core.errors import InputError
from ..core.labels import NamedEnum
from ..core.units.clock import parse_clock
from ..core.units.days import parse_day, parse_day_of_year
from ..core.units.lengths import parse_length_m
from ..core.units.spelling import format_clock, format_day
from .errors import FormatError

MOST_WATERS = 3000
_CLOCK = re.compile(
    r"(?<![\d.:-])(\d{1,2}[:.h]\d{2})(?::\d{2})?\s*([ap]\.?m\.?(?![a-z]))?(?=[\s,;TZz+-]|$)", re.IGNORECASE
)
_WORDS = re.compile(r"\b(high|low|water|hw|lw|hi|lo|h|l)\b\.?", re.IGNORECASE)
_OFFSET = re.compile(r"^\s*(z|gmt|utc|ut|wet|west|bst|cet|cest|eet|eest|[+-]\d{2}:?\d{2})\b", re.IGNORECASE)
_OFFSETS_H = {
    "z": 0,
    "gmt": 0,
    "utc": 0,
    "ut": 0,
    "wet": 0,
    "west": 1,
    "bst": 1,
    "cet": 1,
    "cest": 2,
    "eet": 2,
    "eest": 3,
}
_YEAR = re.compile(r"\b(?:19|20)\d\d\b")


class TableClock(NamedEnum):
    """The time of a printed table: local time with summer time, winter time all year, or UTC."""

    LOCAL = "local"
    WINTER = "winter"
    UTC = "utc"


def read_tide_table(text: str, zone: str, clock: TableClock = TableClock.LOCAL) -> list[tuple[datetime, float]]:
    """Return waters (UTC, height [m]) in order of time.

    A line without a day has the one above it; a time may name its zone ("06:00 GMT"). Raises FormatError naming the
    line: a time skipped by a clock change, or two waters at the same minute, among others.
    """
    info = ZoneInfo(zone)
    day: date | None = None
    year: int | None = None
    waters: dict[datetime, float] = {}
    for number, line in ((number, line.strip()) for number, line in enumerate(text.splitlines(), start=1)):
        if not line or line.startswith("#") or not any(sign.isdigit() for sign in line):
            continue
        found = _CLOCK.search(line.replace("T", " ", 1) if re.match(r"\d{4}-\d\d-\d\dT", line) else line)
        if found is None:
            heading = _YEAR.findall(line)
            if heading and not waters and not any(sign.isdigit() for sign in _YEAR.sub("", line)):
                year = int(heading[-1])
                continue
            raise FormatError(f"Line {number}: “{line[:50]}” holds no clock time. Write 24 Nov 2026 04:12 1.3 m.")
        whole = found.string
        day = _day(whole[: found.start()].strip(" ,;\t"), day, year, number)
        after = whole[found.end() :]
        offset = _OFFSET.match(after)
        after = after[offset.end() :] if offset else after
        rest = _WORDS.sub(" ", after).strip(" ,;\t")
        try:
            metres = parse_length_m(rest)
        except InputError:
            raise FormatError(
                f"Line {number}: after the time stands “{rest[:40]}”, not a height such as 1.3 m."
            ) from None
        if not -30 <= metres <= 30:
            raise FormatError(f"Line {number}: a height of {metres:g} m is not a tide's.")
        try:
            time = parse_clock(f"{found[1]} {found[2] or ''}")
        except InputError as error:
            raise FormatError(f"Line {number}: {error.message}") from None
        moment = _moment(day, time, _fixed(offset[1]) if offset else _zone_of(clock, info, day), number)
        if waters.get(moment, metres) != metres:
            raise FormatError(
                f"Line {number}: a second water at {found[1]}, {metres:g} m beside {waters[moment]:g} m. "
                "Which of them is right?"
            )
        waters[moment] = metres
    if len(waters) > MOST_WATERS:
        raise FormatError(f"The table holds {len(waters)} waters; at most {MOST_WATERS} are read.")
    if len(waters) < 2:
        raise FormatError("The table holds less than two waters. Write one a line: 24 Nov 2026 04:12 1.3 m.")
    return sorted(waters.items())


def _fixed(text: str) -> timezone:
    word = text.lower()
    if word in _OFFSETS_H:
        return timezone(timedelta(hours=_OFFSETS_H[word]))
    digits = word.replace(":", "")
    minutes = int(digits[1:3]) * 60 + int(digits[3:5])
    return timezone(timedelta(minutes=-minutes if word[0] == "-" else minutes))


def _zone_of(clock: TableClock, info: ZoneInfo, day: date) -> tzinfo:
    if clock is TableClock.UTC:
        return UTC
    if clock is TableClock.WINTER:
        # The smaller offset of January and July is winter time, in either hemisphere.
        offsets = [datetime(day.year, month, 1, tzinfo=info).utcoffset() or timedelta(0) for month in (1, 7)]
        return timezone(min(offsets))
    return info


def _moment(day: date, time: time_of_day, zone: tzinfo, number: int) -> datetime:
    local = datetime.combine(day, time, tzinfo=zone)
    moment = local.astimezone(UTC)
    if moment.astimezone(zone).replace(tzinfo=None) != local.replace(tzinfo=None):
        said = f"{format_clock(local)} on {format_day(day)}"
        raise FormatError(
            f"Line {number}: there is no {said}: the clocks go forward then. Is the table in winter time all year?"
        )
    return moment


def write_tide_table(waters: list[tuple[datetime, float]], zone: str) -> str:
    """Return waters as text that read_tide_table reads, in the reader's spelling."""
    info = ZoneInfo(zone)
    local = [(moment.astimezone(info), height) for moment, height in waters]
    return "\n".join(f"{format_day(moment.date())} {format_clock(moment)} {height:.2f} m" for moment, height in local)


def _day(text: str, before: date | None, year: int | None, number: int) -> date:
    text = _WORDS.sub(" ", text).strip(" ,;\t")
    if not text:
        if before is None:
            raise FormatError(f"Line {number} has no day, and there is none above it. Write 24 Nov 2026 04:12 1.3 m.")
        return before
    try:
        return parse_day(text)
    except InputError as error:
        known = before.year if before is not None else year
        if known is None:
            raise FormatError(f"Line {number}: {error.message}") from None
        try:
            found = parse_day_of_year(text, known)
            # A table that continues after December means January of the next year.
            return (
                found if before is None or found >= before or before.month != 12 else parse_day_of_year(text, known + 1)
            )
        except InputError:
            raise FormatError(f"Line {number}: {error.message}") from None
