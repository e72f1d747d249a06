"""Clock times as people write them."""

from __future__ import annotations

import re
from datetime import time

from ..errors import InputError
from .numbers import shown

_CLOCK = re.compile(
    r"(\d{1,2})\s*(?:[:.,h]\s*(\d{2})(?::(\d{2}))?|h)?\s*(?:h|uhr|o'clock)?\s*([ap])?\.?\s*(?:m\.?)?", re.ASCII
)
_BARE = re.compile(r"(\d{1,2})(\d{2})\s*(?:h|hrs|hours)?", re.ASCII)
_NAMED = {"noon": time(12), "midday": time(12), "midnight": time(0)}
_EXAMPLES = "8:30, 8.30, 0830, 8h30 or 8:30 pm"


def parse_clock(text: str) -> time:
    """Return the time of day meant by text: "16:04", "16.04", "8,30", "0830", "830", "8h30", "8:30pm", "8 pm", "noon".

    A bare hour is one of 24: "8" is 08:00. Raises InputError with what is allowed.
    """
    cleaned = re.sub(r"\s+", " ", text.strip().lower().replace("’", "'")) if isinstance(text, str) else ""
    if cleaned in _NAMED:
        return _NAMED[cleaned]
    if bare := _BARE.fullmatch(cleaned):
        return _time(text, int(bare[1]), int(bare[2]), 0)
    match = _CLOCK.fullmatch(cleaned)
    if not match:
        raise InputError("clock", f"“{shown(text)}” is not a clock time. Write {_EXAMPLES}.")
    hour, half = int(match[1]), match[4]
    if half:
        if not 1 <= hour <= 12:
            raise InputError("clock", f"“{shown(text)}” is not a clock time: with am or pm the hour runs from 1 to 12.")
        hour = hour % 12 + (12 if half == "p" else 0)
    return _time(text, hour, int(match[2] or 0), int(match[3] or 0))


def _time(text: str, hour: int, minute: int, second: int) -> time:
    try:
        return time(hour, minute, second)
    except ValueError:
        raise InputError(
            "clock", f"“{shown(text)}” is not a clock time: hours run from 0 to 23, minutes from 0 to 59."
        ) from None
