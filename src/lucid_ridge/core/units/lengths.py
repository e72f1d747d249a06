"""Distances, durations and bearings as people write them."""

from __future__ import annotations

import math
import re

from ..errors import InputError
from .numbers import cleaned_number, parse_measure

_METRES_PER_UNIT = {
    "m": 1.0, "metre": 1.0, "metres": 1.0, "cm": 0.01, "mm": 0.001, "km": 1000.0,
    # International foot and inch, exact by definition (1959 agreement).
    "ft": 0.3048, "'": 0.3048, "in": 0.0254, '"': 0.0254,
}  # fmt: skip
_SINGLE = re.compile(r"(\d+(?:\.\d*)?|\.\d+)\s*(metres?|mm|cm|km|m|ft|in|'|\")?")
_FEET_INCHES = re.compile(r"(\d+)\s*(?:ft|')\s*(\d+(?:\.\d*)?)\s*(?:in|\")?")
_INFINITY_WORDS = {"∞", "inf", "infinity", "infinite"}


def parse_distance_m(text: str) -> float:
    """Return the distance [m] meant by text: "2 m", "30 cm", "300 mm", "6 ft", "6'2\\"", "∞"; a bare number is metres.

    Infinity is a distance. Raises InputError with what is allowed for anything else or for zero and less.
    """
    if not isinstance(text, str) or not text.strip():
        raise InputError("distance_m", "A distance is needed here.")
    cleaned = cleaned_number(text).lower().replace("′", "'").replace("″", '"')
    if cleaned in _INFINITY_WORDS:
        return math.inf
    if match := _FEET_INCHES.fullmatch(cleaned):
        return float(match[1]) * 0.3048 + float(match[2]) * 0.0254
    match = _SINGLE.fullmatch(cleaned)
    metres = float(match[1]) * _METRES_PER_UNIT[match[2] or "m"] if match else 0.0
    if metres <= 0:
        raise InputError("distance_m", f"“{text}” is not a distance. Write 2 m, 30 cm, 300 mm, 6 ft, 6'2\" or ∞.")
    return metres


_LENGTHS_M = {"m": 1.0, "metre": 1.0, "metres": 1.0, "cm": 0.01, "mm": 0.001, "µm": 1e-6, "um": 1e-6, "km": 1000.0, "ft": 0.3048, "'": 0.3048, "in": 0.0254, '"': 0.0254}  # fmt: skip
_LENGTHS_MM = {unit: factor * 1000 for unit, factor in _LENGTHS_M.items()}


def parse_length_m(text: str) -> float:
    """Return the length [m] meant by text, zero and less allowed: "0", "-3 m", "45 cm", "6 ft", "6'2\\""; a bare number is metres.

    Raises InputError with what is allowed.
    """
    return _length(text, _LENGTHS_M, "m", 1.0, "2 m, 45 cm, 8 mm or 6 ft")


def parse_length_mm(text: str) -> float:
    """Return the length [mm] meant by text: "8", "8 mm", "3.8 cm", "0.38 m"; a bare number is millimetres. Raises InputError otherwise."""
    return _length(text, _LENGTHS_MM, "mm", 1000.0, "8 mm, 3.8 cm or 0.38 m")


def _length(text: str, units: dict[str, float], bare: str, per_metre: float, examples: str) -> float:
    cleaned = cleaned_number(text).lower().replace("′", "'").replace("″", '"')
    if match := _FEET_INCHES.fullmatch(cleaned):
        return (float(match[1]) * 0.3048 + float(match[2]) * 0.0254) * per_metre
    return parse_measure(cleaned, units, bare, "a length", examples)


def format_distance(distance_m: float) -> str:
    """Return a distance [m] at the precision one can set it to: "4.2 mm", "0.38 m", "12.5 m", "1.2 km", "∞"."""
    if math.isinf(distance_m):
        return "∞"
    if distance_m == 0:
        return "0 m"
    if distance_m < 0.0995:
        millimetres = distance_m * 1000
        return f"{millimetres:.1f} mm" if millimetres < 9.95 else f"{millimetres:.0f} mm"
    if distance_m < 9.995:
        return f"{distance_m:.2f} m"
    if distance_m < 99.95:
        return f"{distance_m:.1f} m"
    return f"{distance_m:.0f} m" if distance_m < 999.5 else f"{distance_m / 1000:.1f} km"


def format_duration(seconds: float) -> str:
    """Return a span of time [s] in words: "0.6 s", "45 s", "2 min 08 s", "1 h 05 min"."""
    if seconds < 9.95:
        return f"{seconds:.1f} s" if seconds % 1 >= 0.05 else f"{seconds:.0f} s"
    whole = round(seconds)
    if whole < 60:
        return f"{whole} s"
    if whole < 3600:
        return f"{whole // 60} min {whole % 60:02d} s" if whole % 60 else f"{whole // 60} min"
    minutes = round(seconds / 60)
    return f"{minutes // 60} h {minutes % 60:02d} min"


COMPASS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass_point(bearing_deg: float) -> str:
    """Return the nearest of the sixteen compass points for a bearing [degrees from north, clockwise]."""
    return COMPASS[round((bearing_deg % 360) / 22.5) % 16]
