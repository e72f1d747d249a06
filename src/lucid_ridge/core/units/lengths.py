"""Distances, durations and bearings as people write them."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from ..errors import InputError
from .numbers import cleaned_number, parse_measure
from .spelling import Lengths, spelling

_METRES_PER_UNIT = {
    "m": 1.0,
    "metre": 1.0,
    "metres": 1.0,
    "cm": 0.01,
    "mm": 0.001,
    "km": 1000.0,
    # International foot and inch, exact by definition (1959 agreement).
    "ft": 0.3048,
    "foot": 0.3048,
    "feet": 0.3048,
    "'": 0.3048,
    "in": 0.0254,
    "inch": 0.0254,
    "inches": 0.0254,
    '"': 0.0254,
    "yd": 0.9144,
    "mi": 1609.344,
    "mile": 1609.344,
    "miles": 1609.344,
}
_SINGLE = re.compile(r"(\d+(?:\.\d*)?|\.\d+)\s*([a-z]+|'|\")?")
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
    metres = float(match[1]) * _METRES_PER_UNIT.get(match[2] or "m", 0.0) if match else 0.0
    if metres <= 0:
        raise InputError("distance_m", f"“{text}” is not a distance. Write 2 m, 30 cm, 300 mm, 6 ft, 6'2\" or ∞.")
    return metres


_LENGTHS_M = {**_METRES_PER_UNIT, "µm": 1e-6, "um": 1e-6}
_LENGTHS_MM = {unit: factor * 1000 for unit, factor in _LENGTHS_M.items()}


def parse_length_m(text: str) -> float:
    """Return the length [m] meant by text, zero and less allowed: "0", "-3 m", "45 cm", "6 ft", "6'2\\""; a bare
    number is metres.

    Raises InputError with what is allowed.
    """
    return _length(text, _LENGTHS_M, "m", 1.0, "2 m, 45 cm, 8 mm or 6 ft")


def parse_length_mm(text: str) -> float:
    """Return the length [mm] meant by text: "8", "8 mm", "3.8 cm", "0.38 m"; a bare number is millimetres.

    Raises InputError otherwise.
    """
    return _length(text, _LENGTHS_MM, "mm", 1000.0, "8 mm, 3.8 cm or 0.38 m")


def _length(text: str, units: dict[str, float], bare: str, per_metre: float, examples: str) -> float:
    cleaned = cleaned_number(text).lower().replace("′", "'").replace("″", '"')
    if match := _FEET_INCHES.fullmatch(cleaned):
        return (float(match[1]) * 0.3048 + float(match[2]) * 0.0254) * per_metre
    return parse_measure(cleaned, units, bare, "a length", examples)


def format_distance(distance_m: float) -> str:
    """Return a distance [m] at the precision one can set it to: "4.2 mm", "0.38 m", "12.5 m", "1.2 km", "∞".

    In feet, if that is the spelling in force: "4.2 mm", "15″", "7′ 10.5″", "41 ft", "0.7 mi". What is small stays in
    millimetres.
    """
    if math.isinf(distance_m):
        return "∞"
    in_feet = spelling().lengths is Lengths.FEET
    if distance_m == 0:
        return "0 ft" if in_feet else "0 m"
    if distance_m < 0.0995:
        millimetres = distance_m * 1000
        return f"{millimetres:.1f} mm" if millimetres < 9.95 else f"{millimetres:.0f} mm"
    if in_feet:
        return _in_feet(distance_m)
    if distance_m < 9.995:
        return f"{distance_m:.2f} m"
    if distance_m < 99.95:
        return f"{distance_m:.1f} m"
    return f"{distance_m:.0f} m" if distance_m < 999.5 else f"{distance_m / 1000:.1f} km"


def format_span(near_m: float, far_m: float) -> str:
    """Return two distances [m] as a span, "0.52 to 0.61 m", or as one where they read alike."""
    near, far = format_distance(near_m), format_distance(far_m)
    if near == far:
        return near
    unit = far.rpartition(" ")[2]
    return f"{near.removesuffix(f' {unit}')} to {far}"


def format_distances_apart(distances_m: Sequence[float]) -> list[str]:
    """Return distances [m] with as many digits as tell them apart: of several that would read alike, all are given in
    more digits.

    To a hundredth of a millimetre at most; what is equal to that reads alike.
    """
    plain = [format_distance(distance) for distance in distances_m]
    rounded = [round(distance, 5) if math.isfinite(distance) else distance for distance in distances_m]
    result = list(plain)
    for label in dict.fromkeys(plain):
        alike = [at for at, text in enumerate(plain) if text == label]
        if len({rounded[at] for at in alike}) < 2:
            continue
        for digits in range(3):
            finer = [f"{distances_m[at] * 1000:.{digits}f} mm" for at in alike]
            if len(set(finer)) == len({rounded[at] for at in alike}):
                break
        for at, text in zip(alike, finer, strict=True):
            result[at] = text
    return result


_INCH_M, _FOOT_M, _MILE_M = 0.0254, 0.3048, 1609.344


def _in_feet(distance_m: float) -> str:
    half_inches = round(distance_m / _INCH_M * 2)
    if half_inches < 36 * 2:
        return f"{half_inches / 2:g}″"
    if distance_m < 30 * _FOOT_M:
        return f"{half_inches // 24}′ {half_inches % 24 / 2:g}″"
    feet = distance_m / _FOOT_M
    if feet < 99.95:
        return f"{feet:.1f} ft"
    return f"{feet:.0f} ft" if feet < 2640 else f"{distance_m / _MILE_M:.1f} mi"


def format_scale_length(length_m: float) -> str:
    """Return a length [m] of either sign as a scale writes it: "30 cm", "2 m", "1.5 km", or "12″", "7′ 10.5″", "41 ft",
    "0.7 mi". The page writes the same (lib/format/spelling.ts).
    """
    size, sign = abs(length_m), "−" if length_m < 0 else ""
    if spelling().lengths is Lengths.FEET:
        half_inches = round(size / _INCH_M * 2)
        if half_inches < 36 * 2:
            return f"{sign}{half_inches / 2:g}″"
        if size < 30 * _FOOT_M:
            return f"{sign}{half_inches // 24}′{f' {half_inches % 24 / 2:g}″' if half_inches % 24 else ''}"
        feet = size / _FOOT_M
        return f"{sign}{feet:.0f} ft" if feet < 2640 else f"{sign}{round(size / _MILE_M, 1):g} mi"
    if size < 0.995:
        return f"{sign}{size * 100:.0f} cm"
    return f"{sign}{round(size, 2):g} m" if size < 1000 else f"{sign}{round(size / 1000, 1):g} km"


def format_height(height_m: float, decimals: int = 1) -> str:
    """Return a height or depth [m] of either sign: "1.2 m", "−0.3 m", or "3.9 ft"."""
    if spelling().lengths is Lengths.FEET:
        text, unit = f"{height_m / _FOOT_M:.{max(0, decimals)}f}", "ft"
    else:
        text, unit = f"{height_m:.{decimals}f}", "m"
    text = text.removeprefix("-") if float(text) == 0 else text.replace("-", "−")
    return f"{text} {unit}"


def format_move(distance_m: float) -> str:
    """Return how far one moves something by hand [m]: "3 mm", "12 cm", "1.5 m", or "5″", "4′ 11″"."""
    if spelling().lengths is Lengths.FEET:
        return format_distance(distance_m) if distance_m >= 0.0995 else f"{distance_m / _INCH_M:.2g}″"
    if distance_m < 0.00995:
        return f"{distance_m * 1000:.3g} mm"
    return f"{distance_m * 100:.0f} cm" if distance_m < 0.995 else f"{distance_m:.3g} m"


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
