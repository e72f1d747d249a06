"""Magnifications, shares, film speeds and exposure values as people write them."""

from __future__ import annotations

import re

from ..errors import InputError
from .numbers import NUMBER, cleaned_number, parse_measure, shown

_RATIO = re.compile(rf"({NUMBER})\s*[:/]\s*({NUMBER})", re.ASCII)
_SPEED = re.compile(r"(?:iso\s*)?(.+?)(?:\s*iso)?", re.IGNORECASE)
_EXTENDED = re.compile(r"(?:iso\s*)?(?:lo|hi|l|h)\s*-?\d+(?:\.\d+)?", re.IGNORECASE)
_MIXED = re.compile(r"(\d+)\s+(\d+)\s*/\s*(\d+)(.*)", re.ASCII)
_EV = re.compile(r"(?:ev\s*)?(.+)", re.IGNORECASE)


def parse_magnification(text: str) -> float:
    """Return the magnification meant by text: "1.5:1", "1:2", "0.5", "1.5×". Raises InputError otherwise."""
    found = _ratio(text)
    return (
        parse_measure(text, {"": 1.0, "x": 1.0, "×": 1.0}, "", "a magnification", "1.5:1, 1:2 or 0.5")
        if found is None
        else found
    )


def parse_share(text: str) -> float:
    """Return the share meant by text: "0.3", "30 %", "1/3". Raises InputError otherwise."""
    found = _ratio(text)
    return (
        parse_measure(text, {"": 1.0, "%": 0.01, "percent": 0.01}, "", "a share", "0.3, 30 % or 1/3")
        if found is None
        else found
    )


def parse_iso(text: str) -> float:
    """Return the ISO speed meant by text: "400", "ISO 400", "400 ISO". Raises InputError otherwise.

    "Lo 1" and "Hi 1" are names of a body: which speed they stand for is asked.
    """
    if _EXTENDED.fullmatch(cleaned_number(text)):
        raise InputError(
            "number",
            f"“{shown(text)}” is what a body calls an extended speed: write the speed itself. "
            "One under base ISO 100 is 50; enter the body's extended range with the kit.",
        )
    return _behind_a_word(text, _SPEED, "an ISO speed", "400 or ISO 400")


def parse_ev(text: str) -> float:
    """Return the stops meant by text: "12", "EV 12", "+1/3", "1 2/3", "2 stops". Raises InputError otherwise."""
    cleaned = cleaned_number(text)
    match = _EV.fullmatch(cleaned)
    rest = match[1].strip() if match else cleaned
    sign, bare = -1.0 if rest.startswith("-") else 1.0, rest.lstrip("+-")
    if (mixed := _MIXED.fullmatch(bare)) and mixed[4].strip().lower() in ("", "ev", "stop", "stops") and int(mixed[3]):
        return sign * (float(mixed[1]) + float(mixed[2]) / float(mixed[3]))
    found = _ratio(bare) if "/" in rest else None
    if found is not None:
        return sign * found
    return parse_measure(
        rest, {"": 1.0, "ev": 1.0, "stop": 1.0, "stops": 1.0}, "", "a number of stops", "12, EV 12 or 1/3"
    )


def _behind_a_word(text: str, pattern: re.Pattern[str], what: str, examples: str) -> float:
    match = pattern.fullmatch(cleaned_number(text))
    try:
        return parse_measure(match[1] if match else text, {"": 1.0}, "", what, examples)
    except InputError:
        raise InputError("number", f"“{shown(text)}” is not {what}. Write {examples}.") from None


def _ratio(text: str) -> float | None:
    match = _RATIO.fullmatch(cleaned_number(text))
    if not match:
        return None
    over, under = float(match[1]), float(match[2])
    if under == 0:
        raise InputError("number", f"“{shown(text)}” divides by zero.")
    return over / under
