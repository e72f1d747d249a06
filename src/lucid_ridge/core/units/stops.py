"""What a filter costs, as filters are labelled."""

from __future__ import annotations

import math
import re

from ..errors import InputError
from .numbers import NUMBER, cleaned_number, parse_measure, shown

_LABEL = re.compile(rf"(?:nd|od)\s*({NUMBER})\s*(x|×)?", re.ASCII)
_FACTOR = re.compile(rf"({NUMBER})\s*(?:x|×)", re.ASCII)
_EXAMPLES = "10, 10 stops, ND1000, ND 3.0 or 1000×"


def parse_filter_stops(text: str) -> float:
    """Return the stops a filter costs from its label: "10", "10 stops", "ND1000" and "1000×" (9.97), "ND 3.0" (9.97).

    A whole number of 2 and more behind ND is a factor, one with a decimal point a density (common practice). Raises
    InputError otherwise.
    """
    cleaned = cleaned_number(text).lower()
    if match := _LABEL.fullmatch(cleaned):
        value = float(match[1])
        density = "." in match[1] and not match[2]
        return _of_density(value) if density else _of_factor(text, value)
    if match := _FACTOR.fullmatch(cleaned):
        return _of_factor(text, float(match[1]))
    return parse_measure(text, {"": 1.0, "stop": 1.0, "stops": 1.0, "ev": 1.0}, "", "what a filter costs", _EXAMPLES)


def _of_density(density: float) -> float:
    return density / math.log10(2)


def _of_factor(text: str, factor: float) -> float:
    if factor < 1:
        raise InputError("stops", f"“{shown(text)}” lets more light through than there is. Write {_EXAMPLES}.")
    return math.log2(factor)
