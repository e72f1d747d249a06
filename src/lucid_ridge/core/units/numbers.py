"""Numbers as people write them, alone or with a unit behind them."""

from __future__ import annotations

import re
from collections.abc import Mapping

from ..errors import InputError

NUMBER = r"[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[-+]?\d{1,3})?"
_WITH_UNIT = re.compile(rf"({NUMBER})\s*(\D.*)?", re.ASCII)
_GROUPED = re.compile(r"[-+]?[1-9]\d{0,2}(?:,\d{3})+(?!\d)", re.ASCII)


def parse_number(text: str) -> float:
    """Return the number meant by text: "12.5", "12,5", "−3".

    Raises InputError for anything else, and for 1,000, which can be read in two ways.
    """
    cleaned = cleaned_number(text)
    if not re.fullmatch(NUMBER, cleaned, re.ASCII):
        raise InputError("number", f"“{shown(text)}” is not a number.")
    return _finite(text, cleaned)


def parse_measure(text: str, units: Mapping[str, float], bare: str, what: str, examples: str) -> float:
    """Return the quantity meant by a number with one of the units, in terms of the unit whose factor is 1.

    units: factor of each spelling. bare: the unit of a number without one. what, examples: for the error, "a speed",
    "1.5 m/s or 5 km/h". Raises InputError with what is allowed.
    """
    cleaned = cleaned_number(text).lower()
    match = _WITH_UNIT.fullmatch(cleaned)
    unit = (match[2] or bare).strip() if match else ""
    if not match or unit not in units:
        raise InputError("number", f"“{shown(text)}” is not {what}. Write {examples}.")
    return _finite(text, match[1]) * units[unit]


def cleaned_number(text: str) -> str:
    """Return text with points as decimal marks and plain minus signs. Raises InputError for nothing and for 1,000."""
    if not isinstance(text, str) or not text.strip():
        raise InputError("number", "A value is needed here.")
    bare = text.strip().replace("−", "-").replace("\u00a0", " ").replace("\u202f", " ")
    if grouped := _GROUPED.match(bare):
        plain = grouped[0].replace(",", "")
        raise InputError(
            "number", f"“{shown(text)}” can be read in two ways: write {plain} or {grouped[0].replace(',', '.', 1)}."
        )
    return re.sub(r"(?<=\d),(?=\d)", ".", bare)


def shown(text: object) -> str:
    """Return a text as an error quotes it: short, and without what cannot be seen."""
    plain = "".join(character if character.isprintable() else "�" for character in str(text))
    return plain if len(plain) <= 60 else plain[:57] + "…"


def _finite(text: str, number: str) -> float:
    value = float(number)
    if value in (float("inf"), float("-inf")):
        raise InputError("number", f"“{shown(text)}” is not a finite number.")
    return value
