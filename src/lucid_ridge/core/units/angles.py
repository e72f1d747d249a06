"""Bearings and angles as people write them."""

from __future__ import annotations

from .lengths import COMPASS
from .numbers import parse_measure

_DEGREES = {"°": 1.0, "deg": 1.0, "degrees": 1.0, "degree": 1.0, "º": 1.0}
_POINTS = {point: index * 22.5 for index, point in enumerate(COMPASS)}
_POINTS |= {"NORTH": 0.0, "EAST": 90.0, "SOUTH": 180.0, "WEST": 270.0}


def parse_bearing_deg(text: str) -> float:
    """Return the bearing [degrees from north, clockwise] meant by text: "45", "45°", "NE", "north".

    Raises InputError otherwise.
    """
    point = text.strip().upper().replace("-", "") if isinstance(text, str) else ""
    if point in _POINTS:
        return _POINTS[point]
    return parse_measure(text, _DEGREES, "°", "a bearing", "45, 45° or NE")


def parse_angle_deg(text: str) -> float:
    """Return the angle [degrees] meant by text: "12", "12°", "-3.5 deg". Raises InputError otherwise."""
    return parse_measure(text, _DEGREES, "°", "an angle", "12 or 12°")
