"""What a filter costs, as filters are labelled."""

from __future__ import annotations

import math
import re

from ..errors import InputError
from .numbers import NUMBER, cleaned_number, parse_measure, shown

_LABEL = re.compile(rf"(nd|od)\s*({NUMBER})\s*(x|×)?", re.ASCII)
_BEHIND = re.compile(rf"({NUMBER})\s*(nd|od)", re.ASCII)
_FACTOR = re.compile(rf"({NUMBER})\s*(?:x|×)", re.ASCII)
_WITH_POLARISER = re.compile(r"(.+?)\s*(?:\+|&|with)\s*(?:c?pl|pol|polari[sz]er)", re.ASCII)
_POLARISER = re.compile(r"c?pl|pol|polari[sz]er", re.ASCII)
_BARE_DENSITY = re.compile(r"\d\.\d", re.ASCII)
# What a polariser in the same glass costs (common practice) [stops].
POLARISER_STOPS = 1.5
_EXAMPLES = "10, 10 stops, ND1000, ND 3.0 or 1000×"


def parse_filter_stops(text: str) -> float:
    """Return the stops a filter costs from its label: "10", "10 stops", "ND1000" and "1000×" (9.97), "ND 3.0", "0.9 ND"
    and "OD 3" (densities), "ND64+CPL" (6 and a polariser's 1.5).

    A whole number behind ND is a factor, one with a decimal point a density; OD is always a density (common practice).
    Raises InputError otherwise, and for what is labelled in both ways: ND3 to ND10 that are no power of two, and a bare
    0.3, 0.6, 0.9 and so on up to 3.0.
    """
    cleaned = cleaned_number(text).lower()
    if match := _WITH_POLARISER.fullmatch(cleaned):
        return parse_filter_stops(match[1]) + POLARISER_STOPS
    if match := _LABEL.fullmatch(cleaned):
        return _of_label(text, match[1], match[2], bool(match[3]))
    if match := _BEHIND.fullmatch(cleaned):
        return _of_label(text, match[2], match[1], False)
    if match := _FACTOR.fullmatch(cleaned):
        return _of_factor(text, float(match[1]))
    if _BARE_DENSITY.fullmatch(cleaned) and _is_density(float(cleaned)):
        raise InputError(
            "stops", f"“{shown(text)}” can be read in two ways: write {cleaned} stops, or ND {cleaned} for a density."
        )
    return parse_measure(text, {"": 1.0, "stop": 1.0, "stops": 1.0, "ev": 1.0}, "", "what a filter costs", _EXAMPLES)


def parse_filters_stops(text: str) -> float:
    """Return the stops of filters one behind another: "10", "ND64 + ND8", "10 + pol".

    Raises InputError as parse_filter_stops does, for the filter concerned.
    """
    return sum(parse_each_filter_stops(text))


def parse_each_filter_stops(text: str) -> list[float]:
    """Return the stops of each of several filters, as parse_filters_stops reads them."""
    parts = [part.strip() for part in cleaned_number(text).split("+")]
    return [POLARISER_STOPS if _POLARISER.fullmatch(part.lower()) else parse_filter_stops(part) for part in parts]


def _of_label(text: str, word: str, number: str, factor: bool) -> float:
    value = float(number)
    if word == "od" or ("." in number and not factor):
        return _of_density(value)
    if not factor and 2 < value <= 10 and value % 1 == 0 and math.log2(value) % 1:
        raise InputError(
            "stops", f"“{shown(text)}” can be read in two ways: write ND {number}.0 for a density, or {number}×."
        )
    return _of_factor(text, value)


def _is_density(value: float) -> bool:
    """Return whether a bare number is one that densities are sold in; 1.5 is what a polariser costs."""
    return 0.3 <= value <= 3.0 and abs(value / 0.3 - round(value / 0.3)) < 1e-6 and value != 1.5


def _of_density(density: float) -> float:
    return density / math.log10(2)


def _of_factor(text: str, factor: float) -> float:
    if factor < 1:
        raise InputError("stops", f"“{shown(text)}” lets more light through than there is. Write {_EXAMPLES}.")
    return math.log2(factor)
