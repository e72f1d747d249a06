"""Spans of time and speeds as people write them."""

from __future__ import annotations

import re

from ..errors import InputError
from .numbers import cleaned_number, parse_measure, shown

_SECONDS = {
    "s": 1.0,
    "sec": 1.0,
    "secs": 1.0,
    "second": 1.0,
    "seconds": 1.0,
    '"': 1.0,
    "min": 60.0,
    "mins": 60.0,
    "m": 60.0,
    "minute": 60.0,
    "minutes": 60.0,
    "'": 60.0,
    "h": 3600.0,
    "hr": 3600.0,
    "hrs": 3600.0,
    "hour": 3600.0,
    "hours": 3600.0,
}
_PARTS = re.compile(r"(\d+(?:\.\d+)?)\s*(h|hrs?|hours?)\s*(\d+(?:\.\d+)?)\s*(?:mins?|minutes?|m)?", re.ASCII)
_COLON = re.compile(r"(\d+):([0-5]\d)", re.ASCII)
_SPEEDS = {
    "m/s": 1.0,
    "mps": 1.0,
    "km/h": 1 / 3.6,
    "kmh": 1 / 3.6,
    "cm/s": 0.01,
    "mm/s": 0.001,
    "mph": 0.44704,
    "kn": 1852 / 3600,
    "knots": 1852 / 3600,
}


def parse_minutes(text: str) -> float:
    """Return the span [min] meant by text: "35", "35 min", "1 h 05 min", "1:05", "90 s".

    Raises InputError otherwise.
    """
    cleaned = _primes(text)
    if match := _PARTS.fullmatch(cleaned):
        return float(match[1]) * 60 + float(match[3])
    if match := _COLON.fullmatch(cleaned):
        return float(match[1]) * 60 + float(match[2])
    return parse_measure(cleaned, _SECONDS, "min", "a span of time", "35 min or 1 h 05 min") / 60


def parse_seconds(text: str) -> float:
    """Return the span [s] meant by text: "5", "5 s", "2:30", "2 min", "1h30". Raises InputError otherwise."""
    cleaned = _primes(text)
    if match := _PARTS.fullmatch(cleaned):
        return float(match[1]) * 3600 + float(match[3]) * 60
    if match := _COLON.fullmatch(cleaned):
        return float(match[1]) * 60 + float(match[2])
    return parse_measure(cleaned, _SECONDS, "s", "a span of time", "5 s, 2:30 or 2 min")


def parse_speed_mps(text: str) -> float:
    """Return the speed [m/s] meant by text: "1.5", "1.5 m/s", "5 km/h". Raises InputError otherwise."""
    try:
        return parse_measure(text, _SPEEDS, "m/s", "a speed", "1.5 m/s or 5 km/h")
    except InputError:
        raise InputError("speed_mps", f"“{shown(text)}” is not a speed. Write 1.5 m/s or 5 km/h.") from None


def _primes(text: str) -> str:
    return cleaned_number(text).lower().replace("′", "'").replace("″", '"')
